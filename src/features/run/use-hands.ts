'use client';

import { useCallback, useRef, useState } from 'react';
import { type CheckItem, onCircuit } from '@/core/course';
import {
  type CheckState,
  type EventOf,
  heldSoFar,
  outcomeOf,
  type ReadingSource,
  type RunEvent,
  sampled,
  sampleStepMs,
} from '@/core/judging';
import type { PlantTrack } from '@/core/plants';
import { decimal, isPressureUnit } from '@/core/quantities';
import { now } from '@/device/clock';
import { type Moment, thisMoment } from '@/device/log';
import type { OpenRun } from '@/device/use-run';
import { unlockSound } from './alarm';
import { type PlantMove, plantMoves } from './plant-moves';
import { type Ask, type Now, presentOf } from './run-model';

/** A figure as it came. */
interface Figure {
  readonly value: string;
  readonly typed: string;
  readonly source: ReadingSource;
  readonly stamp?: string;
  readonly belowRange?: boolean;
}

/** What the technician's hands do: each writes events of the open phase. Nothing here decides anything. */
export function useHands(
  { run, events, judgement, hasPen, write }: OpenRun,
  { phase, state }: Now,
  gauge: PlantTrack | undefined,
  stamp: EventOf<'stamp'> | undefined,
) {
  const { plan } = run;
  const round = state?.round ?? 1;

  /** The simulated gauge's trace is kept with the reading that closes it: a hold's end, or the start after settling. */
  const keepTrace = useCallback(
    async (role: Ask['role'], moment: Moment) => {
      const settled =
        role === 'start'
          ? judgement.phases.findLast((one) => outcomeOf(one) === 'settled' && heldSoFar(one)?.dueAt === judgement.openFrom)
          : undefined;
      const over = role === 'end' ? state : settled;
      const spec = plan.phases.find(({ id }) => id === over?.id);
      const held = heldSoFar(over);
      if (gauge === undefined || over === undefined || held === undefined || spec?.kind !== 'hold' || phase?.kind !== 'hold') return;
      const { unit, readability } = plan.instruments?.[spec.instrument ?? ''] ?? plan.gauge;
      const there = events.some((event) => event.type === 'trace' && event.phase === over.id && event.round === over.round);
      if (!isPressureUnit(unit) || (role === 'start' && there)) return;
      const until = role === 'end' ? moment.at : held.dueAt;
      const samples = sampled(gauge, held.startAt, until, spec.seconds, spec.instrument);
      const { scale } = decimal(readability);
      for (let from = 0; from < samples.length; from += 600)
        await write({
          type: 'trace',
          phase: over.id,
          round: over.round,
          startAt: samples[from].at,
          stepMs: sampleStepMs(spec.seconds),
          unit,
          scale,
          values: samples.slice(from, from + 600).map(({ shown }) => Number(decimal(shown).digits)),
          source: 'simulated gauge',
        });
    },
    [phase, gauge, state, judgement, events, plan, write],
  );
  const put = useCallback(
    async (ask: Ask, figure: Figure, moment: Moment) => {
      if (phase === undefined) return undefined;
      await keepTrace(ask.role, moment);
      return write(
        {
          type: 'reading',
          phase: phase.id,
          round,
          role: ask.role,
          quantity: ask.quantity,
          value: figure.value,
          unit: ask.instrument.unit,
          typed: figure.typed,
          source: figure.source,
          ...(ask.point === undefined ? {} : { point: ask.point.id }),
          ...(figure.belowRange === true ? { qualifier: 'below range' as const } : {}),
          stamp: figure.stamp,
        },
        moment,
      );
    },
    [phase, round, write, keepTrace],
  );

  // What was just done to the plant is on its way: until it is there, the gauge shows what was before.
  const [acted, setActed] = useState<string>();
  const acting = acted !== undefined && !events.some(({ id }) => id === acted);

  // By the clock at the press, not at the last redraw: a quarter of a second decides between a note and an end.
  const askNow = () => presentOf(plan, judgement, events, now(), phase?.id).ask;
  // A glove presses twice; what the first press wrote is not on the screen yet when the second comes.
  const written = useRef<string>(undefined);
  const once = async (work: () => Promise<RunEvent | undefined>) => {
    if (written.current !== undefined && !events.some(({ id }) => id === written.current)) return;
    written.current = 'not written yet';
    try {
      written.current = (await work())?.id;
    } catch (error) {
      written.current = undefined;
      throw error;
    }
  };
  /** The figure of a stamp, typed at leisure. */
  const save = (ask: Ask, value: string, typed: string, { observedAt, mono, boot, id }: EventOf<'stamp'>, belowRange = false) =>
    put(ask, { value, typed, source: 'keypad', stamp: id, belowRange }, { at: observedAt, mono, boot });
  const press = () => {
    unlockSound();
    const ask = askNow();
    if (ask !== undefined && stamp === undefined && hasPen && phase !== undefined)
      once(() => write({ type: 'stamp', phase: phase.id, round, role: ask.role }));
  };
  const takeSimulated = () => {
    unlockSound();
    const ask = askNow();
    if (acting || gauge === undefined || ask === undefined || stamp !== undefined || !hasPen) return;
    const moment = thisMoment();
    const shown = ask.point === undefined ? gauge.shownAt(moment.at, ask.of) : gauge.measuredAt(moment.at, ask.point, ask.quantity);
    const value = shown ?? ask.instrument.rangeLow;
    once(() => put(ask, { value, typed: value, source: 'simulated gauge', belowRange: shown === undefined }, moment));
  };
  const actPlant = async (action: EventOf<'plant'>['action'], value: string) => {
    setActed('not written yet');
    try {
      setActed((await write({ type: 'plant', action, value })).id);
    } catch (error) {
      setActed(undefined);
      throw error;
    }
  };
  const answer = async (item: CheckItem, as: CheckState, text?: string) => {
    unlockSound();
    if (phase?.kind !== 'check') return;
    await write({ type: 'check', phase: phase.id, round, item: item.id, state: as, text });
    if (gauge === undefined || as === 'undone' || as === 'not-applicable') return;
    if (item.plant !== undefined) await actPlant(item.plant, '1');
    if (item.to !== undefined) await actPlant('raise', onCircuit(item.to, item.of));
  };
  const cautions =
    phase === undefined
      ? []
      : phase.cautions.filter((caution) => !events.some((event) => event.type === 'caution' && event.caution === caution));
  const understood = async () => {
    unlockSound();
    for (const caution of cautions) await write({ type: 'caution', caution });
  };
  /** What can be done to the simulated plant now. */
  const shown = phase?.kind === 'hold' ? gauge?.shownAt(now(), phase.instrument) : undefined;
  const moves: readonly PlantMove[] =
    gauge === undefined || phase === undefined ? [] : plantMoves(plan, phase, state, events, askNow(), shown);

  return { save, press, takeSimulated, actPlant, answer, moves, cautions, understood, simulated: gauge !== undefined, acting };
}

export type Hands = ReturnType<typeof useHands>;
