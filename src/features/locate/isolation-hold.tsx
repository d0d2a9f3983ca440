'use client';

import { useState } from 'react';
import { type EventOf, typedFigure } from '@/core/judging';
import { timeText } from '@/core/limits';
import type { Section } from '@/core/locating';
import { unitLabel } from '@/core/quantities';
import type { Instrument } from '@/core/sizing';
import { clockTime, countdown, useNow } from '@/device/use-now';
import type { OpenRun } from '@/device/use-run';
import { useDueAlarm } from '@/features/run/use-due-alarm';
import { Button } from '@/ui/button';
import { FigureInput } from '@/ui/figure-input';
import { KeyHint } from '@/ui/key-hint';
import { Simulated } from '@/ui/notice';

/** One isolation: the section shut, the rest held, read at its start and its end; or simply what was seen where nothing is held. */
export function IsolationHold({
  section,
  instrument,
  seconds,
  held,
  begun,
  mayMove,
  write,
  simulate,
  leaks,
}: {
  readonly section: Section;
  readonly instrument: Instrument;
  readonly seconds: number;
  /** A pressure or level is held; else only what is seen counts. */
  readonly held: boolean;
  readonly begun?: Extract<EventOf<'isolation'>, { readonly step: 'start' | 'end' }>;
  readonly mayMove: boolean;
  readonly write: OpenRun['write'];
  /** The simulated gauge's figure at the end, from its start. */
  readonly simulate?: (start: string) => string;
  readonly leaks: boolean | undefined;
}) {
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string>();
  const time = useNow(250);
  const dueAt = begun === undefined ? undefined : begun.observedAt + seconds * 1000;
  const due = dueAt !== undefined && time >= dueAt;
  useDueAlarm(dueAt === undefined ? [] : [{ title: `${section.name} shut off`, at: dueAt }], time, begun !== undefined);
  const name = section.name.split(',')[0];
  const say = (stillLeaks: boolean) => write({ type: 'isolation', section: section.id, step: 'said', stillLeaks });
  if (!held)
    return (
      <div className="slab p-3">
        <p className="font-medium">With {name} shut off or sealed:</p>
        <div className="mt-2 flex flex-wrap gap-2">
          <Button tone="stop" size="tall" shortcut="y" disabled={!mayMove} onClick={() => say(true)}>
            It still leaks
          </Button>
          <Button size="tall" shortcut="t" disabled={!mayMove} onClick={() => say(false)}>
            It is tight now
          </Button>
          {leaks !== undefined && (
            <Button tone="quiet" size="tall" disabled={!mayMove} onClick={() => say(leaks)}>
              See (simulated)
            </Button>
          )}
        </div>
      </div>
    );
  const put = async (value: string, source: 'keypad' | 'simulated gauge') => {
    await write({
      type: 'isolation',
      section: section.id,
      step: begun === undefined ? 'start' : 'end',
      value,
      unit: instrument.unit,
      source,
    });
    setText('');
  };
  const typed = async () => {
    const { shown, fault: why } = typedFigure(text, instrument);
    if (why !== undefined) return setFault(`${text} does not count: ${why}.`);
    await put(shown, 'keypad');
  };
  return (
    <form
      className="slab space-y-2 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        typed();
      }}
    >
      <div className="flex items-start justify-between gap-4">
        <p className="font-medium">
          {begun === undefined ? `Shut off ${name}, raise the rest as before, and read the start.` : `${name} is shut off. Touch nothing.`}
        </p>
        {dueAt !== undefined && (
          <p
            className={`figures text-4xl font-semibold ${due ? 'text-caution' : ''}`}
            role="timer"
            aria-live="off"
            data-testid="isolation-clock"
          >
            {countdown(dueAt - time)}
          </p>
        )}
      </div>
      {begun !== undefined && (
        <p className="figures text-sm text-quiet">
          start {begun.value} {unitLabel(begun.unit)} at {clockTime(begun.observedAt)}
        </p>
      )}
      {(begun === undefined || due) && (
        <div className="flex flex-wrap items-center gap-2">
          <label className="flex items-center gap-2">
            <span className="sr-only">{begun === undefined ? 'Start reading' : 'End reading'}</span>
            <FigureInput
              shortcut="s"
              className="!w-32 text-xl"
              value={text}
              change={(typed) => {
                setText(typed);
                setFault(undefined);
              }}
            />
            {unitLabel(instrument.unit)} <KeyHint of="S" />
          </label>
          <Button type="submit" size="tall" disabled={!mayMove || text.trim() === ''}>
            {begun === undefined ? `Start, ${timeText(seconds)}` : 'End'}
          </Button>
          {simulate !== undefined && begun !== undefined && (
            <Button tone="quiet" size="tall" disabled={!mayMove} onClick={() => put(simulate(begun.value), 'simulated gauge')}>
              Read the simulated gauge
            </Button>
          )}
          {simulate !== undefined && begun === undefined && <Simulated />}
        </div>
      )}
      {fault !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {fault}
        </p>
      )}
    </form>
  );
}
