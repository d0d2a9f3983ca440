import { inPlanUnit } from '../course/gauge-scale';
import type { Plan } from '../planning/plan';
import { decimal, toNumber } from '../quantities';
import type { RunEvent } from './events';
import type { Judgement } from './judge';
import { Row } from './row';
import type { Point } from './seen';
import { LocalDays } from './trust';

/** Takes in what has joined a log: the points of each hold, in their order; undefined where anything else is said with them. */
export type OnTheWay = (joined: readonly RunEvent[]) => ReadonlyMap<string, readonly Point[]> | undefined;

/**
 * Tells of what joins a log whether it is no more than figures that a running hold is read to on the way: they change nothing that
 * the judge says, and need neither the log nor a judgement of it. What it was asked after an undefined answer means nothing.
 * @param judgement of these events
 */
export function onTheWay(plan: Plan, judgement: Judgement, events: readonly RunEvent[]): OnTheWay {
  const days = new LocalDays();
  for (const event of events) if (event.type === 'reading') days.add(event);
  const holds = judgement.phases.flatMap((state) => {
    const phase = plan.phases.find(({ id }) => id === state.id);
    if (phase?.kind !== 'hold' || state.state !== 'current' || state.is !== 'running') return [];
    const { round, startAt } = state;
    return [{ phase, startAt, row: new Row(plan, { phase, round, startAt }) }];
  });
  return (joined) => {
    const points = new Map<string, Point[]>();
    for (const event of joined) {
      if (event.type !== 'reading' || (event.source === 'simulated gauge' && !judgement.simulated)) return undefined;
      const hold = holds.find(({ row }) => !Number.isNaN(row.stepsIn(event)));
      const known = days.all.size;
      days.add(event);
      // Another day may be one on which an instrument was overdue.
      if (hold === undefined || days.all.size !== known) return undefined;
      const { phase, startAt } = hold;
      const there = points.get(phase.id) ?? [];
      there.push({ seconds: (event.observedAt - startAt) / 1000, value: inPlanUnit(plan, toNumber(decimal(event.value)), phase) });
      points.set(phase.id, there);
    }
    return points;
  };
}
