import type { Instrument, InstrumentUnit } from '../../planning/gauge';
import { instrumentOf, unitOfHold } from '../../planning/instruments';
import type { Plan } from '../../planning/plan';
import type { Criterion, HoldPhase } from '../../procedures/phases';
import { compare, type Decimal, decimal, negate, subtract, toText, unitLabel } from '../../quantities';
import { compareAcross, timeText } from '../exact';
import type { Log } from '../log';
import type { Taken } from '../readings';
import type { Finding } from '../reasons';
import { traceExtremes } from '../trace-extremes';

/** What the judging of a hold has at hand. */
export interface HoldContext {
  readonly phase: HoldPhase;
  readonly plan: Plan;
  readonly log: Log;
  readonly withdrawn: ReadonlySet<string>;
  /** The time of the phase before is not over before this; ms. */
  readonly openFrom: number;
  readonly instrument: Instrument;
  /** Unit of the band and the limits. */
  readonly unit: InstrumentUnit;
}

export const contextOf = (base: Omit<HoldContext, 'instrument' | 'unit'>): HoldContext => ({
  ...base,
  instrument: instrumentOf(base.plan, base.phase.instrument),
  unit: unitOfHold(base.plan, base.phase),
});

/** A hold's two readings, and the others of its round that count, in order of time. */
export interface Ends {
  readonly start: Taken;
  readonly end: Taken;
  readonly dueAt: number;
  readonly readings: readonly Taken[];
}

/** What a criterion makes of a hold that was read to its end. */
export interface Moved {
  readonly outcome: string;
  /** The outcome proves nothing: a new round is needed, or the end of the test. */
  readonly spoilt: boolean;
  /** Fall, positive downwards, in the instrument's unit. */
  readonly fall: string;
  /** The fall that temperature and barometer leave, where they were read. */
  readonly corrected?: string;
  readonly findings: readonly Finding[];
  /** Said whether it is spoilt or not, before the findings. */
  readonly notes: readonly Finding[];
  readonly working: readonly string[];
  /** Numbers for a conclusion's sentence. */
  readonly data: Readonly<Record<string, string>>;
}

export type Judged<K extends Criterion['kind']> = (context: HoldContext, criterion: Extract<Criterion, { kind: K }>, ends: Ends) => Moved;

/** −1, 0 or 1 as a movement in the instrument's unit is below, at or above a limit in the hold's. */
export const against = ({ instrument, unit }: HoldContext, movement: Decimal, limit: string): -1 | 0 | 1 =>
  compareAcross(movement, instrument.unit, decimal(limit), unit);

/** The numbers of a hold that sentences take, whatever judges it. */
export function movementData({ phase, instrument, unit }: HoldContext, { start, end }: Pick<Ends, 'start' | 'end'>) {
  const fall = subtract(start.value, end.value);
  return {
    fall,
    data: {
      title: phase.title,
      time: timeText(phase.seconds),
      start: start.event.value,
      end: end.event.value,
      unit: unitLabel(instrument.unit),
      fall: toText(fall),
      rise: toText(negate(fall)),
      limitUnit: unitLabel(unit),
    },
  };
}

/** Lowest and highest that stood between start and end, in readings and in traces. */
export function stoodBetween(
  { phase, log, instrument }: HoldContext,
  { start, end, readings }: Ends,
): { readonly lowest: Decimal; readonly highest: Decimal } {
  const [from, until] = [start.event.observedAt, end.event.observedAt];
  const traces = log.inRound('trace', phase.id).filter(({ unit }) => unit === instrument.unit);
  const traced = traceExtremes(traces, from, until);
  let lowest = traced?.lowest ?? start.value;
  let highest = traced?.highest ?? start.value;
  for (const { event, value } of readings) {
    if (event.observedAt < from || event.observedAt > until) continue;
    if (compare(value, lowest) < 0) lowest = value;
    if (compare(value, highest) > 0) highest = value;
  }
  return { lowest, highest };
}

/** What to repeat after a rise, in words: the hold, unless the plan goes back further. */
export const againOf = ({ phase }: HoldContext): Readonly<Record<string, string>> =>
  phase.afterRise === undefined ? { again: 'Repeat the hold.' } : {};
