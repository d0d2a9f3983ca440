'use client';

import { type ReactNode, useState } from 'react';
import type { Body } from '@/core/judging';
import { Button } from '@/ui/button';
import { button, input, stopButton } from '@/ui/classes';
import { Notice } from '@/ui/notice';
import { SheetDialog } from '@/ui/sheet-dialog';
import { choose, isChosen, type SoundChoice, soundAlarm, unlockSound } from './alarm';
import { ClockCard } from './clock-card';
import { Disturbance } from './disturbance-form';
import type { ExtrasProps } from './extras';
import { LogFile } from './log-form';
import { Photo } from './photo-form';
import { PumpBack } from './pump-back-form';
import { Temperature } from './temperature-form';
import { Watch } from './watch-form';

const titles: Record<string, string> = {
  inspected: 'A part over its rating',
  disturbance: 'What disturbed it?',
  photo: 'Photograph, or a watch',
  note: 'Note',
  smell: 'Smell of gas',
  leak: 'Leak seen',
  temperature: 'Temperature and barometer',
  'temperature-start': 'Temperature and barometer',
  'temperature-end': 'Temperature and barometer',
  'pump-back': 'Pump back',
  'not-reached': 'It does not come up',
  log: 'Log file of the gauge',
  end: 'End early',
  keys: 'Keys',
  sound: 'Sound',
};

/** The dialogs of the run screen. Everything written here is an event of the log. */
export function ExtraDialog(props: ExtrasProps & { readonly dialog: string }) {
  const { dialog, setDialog } = props;
  const [kind] = dialog.split(' ');
  const close = () => setDialog(undefined);
  if (kind === 'clock') return <ClockCard {...props} close={close} />;
  return (
    <SheetDialog title={titles[kind]} close={close}>
      <Contents {...props} close={close} />
    </SheetDialog>
  );
}

export type Inner = ExtrasProps & { readonly dialog: string; readonly close: () => void };

function Contents(props: Inner): ReactNode {
  // A picture is taken of what its dialog names.
  const [kind] = props.dialog.split(' ');
  const slot = props.dialog === kind ? undefined : props.dialog.slice(kind.length + 1);
  switch (kind) {
    case 'disturbance':
      return <Disturbance {...props} />;
    case 'photo':
      return (
        <div className="space-y-4">
          <Photo {...props} {...(slot === undefined ? {} : { slot })} />
          {slot === undefined && <Watch {...props} />}
        </div>
      );
    case 'note':
      return <Words {...props} label="What is worth keeping?" save="Keep the note" body={(text) => ({ type: 'note', text })} />;
    case 'smell':
      return (
        <>
          <Notice tone="stop">{props.cautions.smell}</Notice>
          <p className="my-3">
            Emergency number: <b className="figures text-xl">{props.emergencyNumber}</b>
          </p>
          <Words
            {...props}
            optional
            label="Where was it noticed?"
            save="Gas was smelt: stop the test"
            stop
            body={(text) => ({ type: 'smell', text })}
          />
        </>
      );
    case 'temperature':
      return <Temperature {...props} />;
    case 'temperature-start':
      return <Temperature {...props} at="start" />;
    case 'temperature-end':
      return <Temperature {...props} at="end" />;
    case 'pump-back':
      return <PumpBack {...props} />;
    case 'not-reached':
      return (
        <>
          <Notice tone="stop">
            Stop feeding. Look for open ends and joints that were never made. A pressure that does not come up fails the test.
          </Notice>
          <div className="mt-3">
            <Words
              {...props}
              optional
              label="What happens?"
              save="It does not come up: fail"
              stop
              body={(text) => ({ type: 'not-reached', phase: props.phase, round: props.round, text })}
            />
          </div>
        </>
      );
    case 'log':
      return <LogFile {...props} />;
    case 'inspected':
      return <Inspected {...props} />;
    case 'leak':
      return <LeakSeen {...props} />;
    case 'sound':
      return <Sound />;
    case 'end':
      return <End {...props} />;
    default:
      return <Keys />;
  }
}

function Words({
  open,
  close,
  label,
  save,
  body,
  stop = false,
  optional = false,
}: Inner & {
  readonly label: string;
  readonly save: string;
  readonly body: (text: string) => Body;
  readonly stop?: boolean;
  readonly optional?: boolean;
}) {
  const [text, setText] = useState('');
  return (
    <form
      className="space-y-3"
      onSubmit={async (event) => {
        event.preventDefault();
        await open.write(body(text.trim()));
        close();
      }}
    >
      <label className="block font-medium">
        {label}
        <textarea rows={3} className={`${input} mt-1 font-normal`} value={text} onChange={(event) => setText(event.target.value)} />
      </label>
      <button type="submit" className={`${stop ? stopButton : button} min-h-14 w-full`} disabled={!optional && text.trim() === ''}>
        {save}
      </button>
    </form>
  );
}

/** What the look at a part that stood over its rating found: either way it is written down. */
function Inspected({ open, close }: Inner) {
  const [text, setText] = useState('');
  const write = async (sound: boolean) => {
    await open.write({ type: 'inspected', sound, text: text.trim() });
    close();
  };
  return (
    <div className="space-y-3">
      <Notice tone="stop">Pressure let down first. Look for bulges, cracks, weeping joints; shut it out where you cannot see it.</Notice>
      <label className="block font-medium">
        Which part, and what was seen?
        <input className={`${input} mt-1 font-normal`} value={text} onChange={(event) => setText(event.target.value)} />
      </label>
      <Button size="great" className="w-full" disabled={text.trim() === ''} onClick={() => write(true)}>
        Looked at: sound
      </Button>
      <Button tone="stop" size="great" className="w-full" disabled={text.trim() === ''} onClick={() => write(false)}>
        Harmed: fail
      </Button>
    </div>
  );
}

function LeakSeen({ open, close, phase, round }: Inner) {
  const [text, setText] = useState('');
  const write = async (where: 'system' | 'rig') => {
    await open.write({ type: 'leak-seen', phase, round, where, text: text.trim() });
    close();
  };
  return (
    <div className="space-y-3">
      <label className="block font-medium">
        Where?
        <input className={`${input} mt-1 font-normal`} value={text} onChange={(event) => setText(event.target.value)} />
      </label>
      <Button tone="stop" size="great" className="w-full" disabled={text.trim() === ''} onClick={() => write('system')}>
        It is the system: fail
      </Button>
      <Button tone="quiet" size="great" className="w-full" onClick={() => write('rig')}>
        It is the rig: mend it and repeat
      </Button>
    </div>
  );
}

function End(props: Inner) {
  const { open, close, phase, round, holding } = props;
  const [text, setText] = useState('');
  return (
    <div className="space-y-3">
      <label className="block font-medium">
        Why?
        <input className={`${input} mt-1 font-normal`} value={text} onChange={(event) => setText(event.target.value)} />
      </label>
      {holding && (
        <Button
          tone="quiet"
          size="great"
          className="w-full"
          disabled={text.trim() === '' || !open.hasPen}
          onClick={async () => {
            await open.write({ type: 'hold-stopped', phase, round, reason: text.trim() });
            close();
          }}
        >
          Stop this hold: judge it by the last reading
        </Button>
      )}
      <Button
        tone="stop"
        size="great"
        className="w-full"
        disabled={text.trim() === '' || !open.hasPen}
        onClick={async () => {
          await open.write({ type: 'stopped', reason: text.trim() });
          close();
        }}
      >
        End the whole test, then the closing steps
      </Button>
    </div>
  );
}

const soundWords: Record<SoundChoice, string> = {
  speak: 'Say figures, results and the verdict aloud',
  loud: 'A louder, longer alarm',
};

/** What this device says and how loud it calls. */
function Sound() {
  const [chosen, setChosen] = useState({ speak: isChosen('speak'), loud: isChosen('loud') });
  return (
    <div className="space-y-2">
      {(['speak', 'loud'] as const).map((choice) => (
        <label key={choice} className="flex min-h-12 cursor-pointer items-center gap-3">
          <input
            type="checkbox"
            className="size-5 accent-(--action)"
            checked={chosen[choice]}
            onChange={({ target }) => {
              choose(choice, target.checked);
              setChosen({ ...chosen, [choice]: target.checked });
            }}
          />
          {soundWords[choice]}
        </label>
      ))}
      <Button
        tone="quiet"
        size="tall"
        onClick={() => {
          unlockSound();
          soundAlarm();
        }}
      >
        Hear the alarm
      </Button>
      <p className="text-sm text-quiet">An alarm sounds only while this screen is open.</p>
    </div>
  );
}

const keys: readonly (readonly [string, string])[] = [
  ['S', 'Stamp a reading, then type it'],
  ['Enter', 'Save the typed reading'],
  ['R', 'Read the simulated gauge'],
  ['U', 'Raise, feed or pump the simulated plant'],
  ['Z', 'Zero the simulated gauge'],
  ['C', 'Cautions understood'],
  ['A', 'Answer the next item of the list'],
  ['D', 'Disturbance'],
  ['P', 'Photograph'],
  ['N', 'Note'],
  ['G', 'Smell of gas'],
  ['T', 'Pipe temperature and barometer'],
  ['B', 'Pump a main back'],
  ['H', 'The other of two holds at the same time'],
  ['X', 'The pressure does not come up'],
  ['F', 'Log file of a logging gauge'],
  ['1 … 9', 'Answer what was looked at'],
  ['L', 'Leak seen'],
  ['E', 'End early'],
  ['V', 'Verdict'],
  ['Tab', 'Move between buttons'],
  ['?', 'This list'],
];

const Keys = () => (
  <>
    <dl className="grid grid-cols-[4rem_1fr] gap-y-1.5">
      {keys.map(([key, meaning]) => (
        <div key={key} className="contents">
          <dt>
            <kbd className="figures border border-line bg-surface px-2 py-0.5">{key}</kbd>
          </dt>
          <dd>{meaning}</dd>
        </div>
      ))}
    </dl>
    <p className="mt-3 text-sm text-quiet">
      An alarm sounds only while this screen is open. The screen is kept awake where the browser allows it.
    </p>
  </>
);
