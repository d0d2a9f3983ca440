'use client';

import { useCallback, useRef } from 'react';
import type { CheckState, EventOf, ReadingRole, ReadingSource, RunEvent } from '@/core/judging/events';
import { sampled } from '@/core/judging/trace';
import { type CheckItem, middleOf } from '@/core/procedures/phases';
import { decimal } from '@/core/quantities';
import type { PlantTrack } from '@/core/simulation/plant';
import { now } from '@/features/field/clock';
import { type Moment, thisMoment } from '@/features/field/log';
import type { OpenRun } from '@/features/field/use-run';
import { unlockSound } from './alarm';
import { type Now, presentOf } from './run-model';

/** What the technician's hands do: each writes events of the open phase. Nothing here decides anything. */
export function useHands(
  { run, events, judgement, hasPen, write }: OpenRun,
  { phase, state }: Now,
  gauge: PlantTrack | undefined,
  stamp: EventOf<'stamp'> | undefined,
) {
  const { plan } = run;
  const round = state?.round ?? 1;
  const put = useCallback(
    async (value: string, typed: string, source: ReadingSource, as: ReadingRole, moment: Moment, stampId?: string) => {
      if (phase === undefined) return undefined;
      // The simulated gauge's trace is kept with the reading that closes it: a hold's end, or the start after settling.
      const settled =
        as === 'start'
          ? judgement.phases.findLast(({ dueAt, outcome }) => outcome === 'settled' && dueAt === judgement.openFrom)
          : undefined;
      const over = as === 'end' ? state : settled;
      const kept =
        as === 'start' && events.some((event) => event.type === 'trace' && event.phase === over?.id && event.round === over.round);
      if (!kept && gauge !== undefined && phase.kind === 'hold' && over?.startAt !== undefined) {
        const samples = sampled(gauge, over.startAt, as === 'end' ? moment.at : (over.dueAt ?? moment.at));
        const scale = decimal(plan.gauge.readability).scale;
        for (let from = 0; from < samples.length; from += 600)
          await write({
            type: 'trace',
            phase: over.id,
            round: over.round,
            startAt: samples[from].at,
            stepMs: 1000,
            unit: plan.gauge.unit,
            scale,
            values: samples.slice(from, from + 600).map(({ shown }) => Number(decimal(shown).digits)),
            source: 'simulated gauge',
          });
      }
      return write(
        {
          type: 'reading',
          phase: phase.id,
          round,
          role: as,
          quantity: 'pressure',
          value,
          unit: plan.gauge.unit,
          typed,
          source,
          ...(stampId === undefined ? {} : { stamp: stampId }),
        },
        moment,
      );
    },
    [phase, gauge, state, judgement, events, plan, round, write],
  );

  // By the clock at the press, not at the last redraw: a quarter of a second decides between a note and an end.
  const roleNow = () => presentOf(plan, judgement, now()).role;
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
  const save = (value: string, typed: string, { role, observedAt, mono, id }: EventOf<'stamp'>) =>
    put(value, typed, 'keypad', role, { at: observedAt, mono }, id);
  const press = () => {
    unlockSound();
    const as = roleNow();
    if (as !== undefined && stamp === undefined && hasPen && phase !== undefined)
      once(() => write({ type: 'stamp', phase: phase.id, round, role: as }));
  };
  const takeSimulated = () => {
    unlockSound();
    const as = roleNow();
    if (gauge === undefined || as === undefined || stamp !== undefined || !hasPen) return;
    const moment = thisMoment();
    const shown = gauge.shownAt(moment.at);
    once(() => put(shown, shown, 'simulated gauge', as, moment));
  };
  const actPlant = (action: 'scenario' | 'zero' | 'raise', value: string) => write({ type: 'plant', action, value });
  const answer = async (item: CheckItem, as: CheckState, text?: string) => {
    unlockSound();
    if (phase?.kind !== 'check') return;
    await write({ type: 'check', phase: phase.id, round, item: item.id, state: as, ...(text === undefined ? {} : { text }) });
    if (plan.gauge.simulated && item.plant !== undefined && as !== 'undone') await write({ type: 'plant', action: item.plant, value: '1' });
  };
  /** Middle of the open phase's band, where a simulated plant is raised to. */
  const middle = phase?.kind === 'hold' ? middleOf(phase) : undefined;
  const cautions =
    phase === undefined
      ? []
      : phase.cautions.filter((caution) => !events.some((event) => event.type === 'caution' && event.caution === caution));
  const understood = async () => {
    unlockSound();
    for (const caution of cautions) await write({ type: 'caution', caution });
  };

  return { save, press, takeSimulated, actPlant, answer, middle, cautions, understood, simulated: gauge !== undefined };
}

export type Hands = ReturnType<typeof useHands>;
