import { inPlanUnit } from '../planning/gauge-scale';
import type { Plan } from '../planning/plan';
import type { Phase } from '../procedures/phases';
import { decimal, toNumber } from '../quantities';
import { type Estimate, estimateHold, type Point } from './estimate';
import type { RunEvent } from './events';
import type { Judgement } from './judge';

/** The course of a hold as it is drawn. */
export interface Traced {
  readonly phase: string;
  /** Seconds since the phase's start reading, and the pressure in the plan's unit, whatever the gauge shows. */
  readonly points: readonly Point[];
}

/** A gauge that can be asked what it showed at any time: the simulated one. */
export interface AskedGauge {
  readonly shownAt: (ms: number) => string;
}

/** The readings and traces of each hold's round, in seconds since its start; live from the simulated plant while it holds. */
export function tracesOf(
  plan: Plan,
  judgement: Judgement,
  events: readonly RunEvent[],
  gauge: AskedGauge | undefined,
  time: number,
): readonly Traced[] {
  return judgement.phases.flatMap((state): Traced[] => {
    if (state.startAt === undefined) return [];
    const startAt = state.startAt;
    const points: Point[] = [];
    let recorded = false;
    for (const event of events) {
      if (!('phase' in event) || event.phase !== state.id || !('round' in event) || event.round !== state.round) continue;
      if (event.type === 'reading' && event.quantity === 'pressure')
        points.push({ seconds: (event.observedAt - startAt) / 1000, value: inPlanUnit(plan, toNumber(decimal(event.value))) });
      if (event.type === 'trace') {
        recorded = true;
        for (const [index, digits] of event.values.entries())
          points.push({
            seconds: (event.startAt + index * event.stepMs - startAt) / 1000,
            value: inPlanUnit(plan, Number(digits) / 10 ** event.scale),
          });
      }
    }
    const running =
      state.endAt === undefined &&
      (state.id === judgement.current || (judgement.openFrom !== undefined && state.dueAt === judgement.openFrom));
    // A settling time is drawn to its end; what comes after belongs to the hold.
    const over = state.outcome === 'settled' ? (state.dueAt ?? time) : time;
    if (gauge !== undefined && running && !recorded)
      points.push(
        ...sampled(gauge, startAt, Math.min(time, over, startAt + 3_600_000)).map(({ at, shown }) => ({
          seconds: (at - startAt) / 1000,
          value: inPlanUnit(plan, Number(shown)),
        })),
      );
    return [{ phase: state.id, points: points.filter(({ seconds }) => seconds >= 0).sort((a, b) => a.seconds - b.seconds) }];
  });
}

/** What the simulated gauge showed, once a second. */
export function sampled(gauge: AskedGauge, from: number, to: number): readonly { readonly at: number; readonly shown: string }[] {
  const samples: { at: number; shown: string }[] = [];
  for (let at = from; at <= to; at += 1000) samples.push({ at, shown: gauge.shownAt(at) });
  return samples;
}

/** The live estimate against the limit of the open hold: its permitted drop, or what can be perceived. */
export function estimateOf(plan: Plan, phase: Phase | undefined, points: readonly Point[]): Estimate | undefined {
  if (phase?.kind !== 'hold' || phase.criterion.kind !== 'no-fall') return undefined;
  const limit = Number(phase.criterion.permitted ?? phase.criterion.threshold);
  return estimateHold(points, inPlanUnit(plan, Number(plan.gauge.readability)), limit, phase.seconds);
}
