import { inPlanUnit } from '../course/gauge-scale';
import { instrumentOf, quantityRead, unitOfHold } from '../course/instruments';
import type { Phase } from '../course/phases';
import type { Plan } from '../planning/plan';
import { decimal, fromSi, isPressureUnit, type PressureUnit, toNumber, toSi, unitKind } from '../quantities';
import type { Instrument } from '../sizing/gauge';
import { type Estimate, estimateHold } from './estimate';
import type { EventOf, RunEvent } from './events';
import type { Judgement, PhaseJudgement } from './judge';
import { readingFault } from './readings';
import { type AskedGauge, sampled } from './sampling';
import type { Point } from './seen';
import { heldSoFar, outcomeOf } from './state';

/** The course of a hold as it is drawn. */
export interface Traced {
  readonly phase: string;
  /** Seconds since the phase's start reading, and the pressure in the plan's unit, whatever the gauge shows. */
  readonly points: readonly Point[];
}

/** Holds that a gauge is read in now: the open ones once they have begun, then the settling time that is waited for. */
export const holdsUnderWay = ({ phases, openFrom }: Judgement): readonly PhaseJudgement[] => {
  const begun = phases.flatMap((state) => {
    const held = heldSoFar(state);
    return held === undefined || held.endAt !== undefined ? [] : [{ state, dueAt: held.dueAt }];
  });
  return [
    ...begun.filter(({ state }) => state.state === 'current'),
    ...begun.filter(({ state, dueAt }) => state.state !== 'current' && openFrom !== undefined && dueAt === openFrom),
  ].map(({ state }) => state);
};

/** The readings and traces of each hold's round, in seconds since its start; live from the simulated plant while it holds. */
export function tracesOf(
  plan: Plan,
  judgement: Judgement,
  events: readonly RunEvent[],
  gauge: AskedGauge | undefined,
  time: number,
): readonly Traced[] {
  const underWay = holdsUnderWay(judgement);
  const withdrawn = new Set(judgement.withdrawn);
  // What is refused or withdrawn counts for nothing: it is not drawn, and nothing is forecast from it.
  const counts = (event: EventOf<'reading'>, instrument: Instrument): boolean =>
    readingFault(instrument, event) === undefined && !withdrawn.has(event.id);
  return judgement.phases.flatMap((state): Traced[] => {
    const phase = plan.phases.find(({ id }) => id === state.id);
    const held = heldSoFar(state);
    if (held === undefined || phase?.kind !== 'hold') return [];
    const { startAt } = held;
    const reads = quantityRead(plan, phase);
    const points: Point[] = [];
    let recorded = false;
    const instrument = instrumentOf(plan, phase.instrument);
    const add = (at: number, reading: number) => points.push({ seconds: (at - startAt) / 1000, value: inPlanUnit(plan, reading, phase) });
    for (const event of events) {
      if (!('phase' in event) || event.phase !== state.id || !('round' in event) || event.round !== state.round) continue;
      if (event.type === 'reading' && event.quantity === reads && counts(event, instrument))
        add(event.observedAt, toNumber(decimal(event.value)));
      if (event.type === 'trace' && event.unit === instrument.unit) {
        recorded = true;
        for (const [index, digits] of event.values.entries()) add(event.startAt + index * event.stepMs, Number(digits) / 10 ** event.scale);
      }
    }
    // A settling time is drawn to its end; what comes after belongs to the hold.
    const over = outcomeOf(state) === 'settled' ? held.dueAt : time;
    if (gauge !== undefined && underWay.includes(state) && !recorded)
      for (const { at, shown } of sampled(gauge, startAt, Math.min(time, over), phase.seconds, phase.instrument)) add(at, Number(shown));
    return [{ phase: state.id, points: points.filter(({ seconds }) => seconds >= 0).sort((a, b) => a.seconds - b.seconds) }];
  });
}

/** A pipe temperature, seconds since the hold's start. */
export interface Warmth {
  readonly seconds: number;
  readonly kelvin: number;
}

/** Pipe temperatures read in a hold's round, in order of time. */
export function warmthOf(judgement: Judgement, events: readonly RunEvent[], phase: string): readonly Warmth[] {
  const state = judgement.phases.find(({ id }) => id === phase);
  const startAt = heldSoFar(state)?.startAt;
  if (startAt === undefined) return [];
  const withdrawn = new Set(judgement.withdrawn);
  return events
    .flatMap((event) =>
      event.type === 'reading' &&
      event.quantity === 'temperature' &&
      unitKind(event.unit) === 'temperature' &&
      event.phase === phase &&
      event.round === state?.round &&
      !withdrawn.has(event.id)
        ? [{ seconds: (event.observedAt - startAt) / 1000, kelvin: toSi(Number(event.value), event.unit) }]
        : [],
    )
    .sort((a, b) => a.seconds - b.seconds);
}

/**
 * Gauge points as they would have been at the start's temperature (DOMAIN 3.2, 3.12): (p + a)·T₀/T − a. Temperatures
 * between two readings lie on a straight line, before the first and after the last they are these. Fewer than two change nothing.
 * @param value pressures in `unit`; `atmospherePa` where no barometer is read
 */
export function atStartTemperature(
  points: readonly Point[],
  warmth: readonly Warmth[],
  unit: PressureUnit,
  atmospherePa: number,
): readonly Point[] {
  const first = warmth[0];
  if (first === undefined || warmth.length < 2) return points;
  const air = fromSi(atmospherePa, unit);
  let next = 1;
  return points.map(({ seconds, value }) => {
    while (next < warmth.length - 1 && warmth[next].seconds < seconds) next += 1;
    const [before, after] = [warmth[next - 1], warmth[next]];
    const span = after.seconds - before.seconds;
    const part = span > 0 ? Math.min(1, Math.max(0, (seconds - before.seconds) / span)) : 1;
    const kelvin = before.kelvin + (after.kelvin - before.kelvin) * part;
    return { seconds, value: kelvin > 0 ? ((value + air) * first.kelvin) / kelvin - air : value };
  });
}

/** The live estimate against the limit of the open hold: its permitted drop, or what can be perceived. @param tellsTime as `estimateHold` has it */
export function estimateOf(
  plan: Plan,
  phase: Phase | undefined,
  points: readonly Point[],
  warmth: readonly Warmth[] = [],
  tellsTime = true,
): Estimate | undefined {
  if (phase?.kind !== 'hold' || phase.limit.kind !== 'no-fall') return undefined;
  const limit = Number(phase.limit.permitted ?? phase.limit.threshold);
  const { readability } = instrumentOf(plan, phase.instrument);
  const unit = unitOfHold(plan, phase);
  const even =
    phase.corrects !== undefined && isPressureUnit(unit)
      ? atStartTemperature(points, warmth, unit, Number(phase.corrects.atmosphereHpa) * 100)
      : points;
  return estimateHold(even, inPlanUnit(plan, Number(readability), phase), limit, phase.seconds, tellsTime);
}
