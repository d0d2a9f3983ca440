import type { Band, HoldPhase } from '../procedures/phases';
import { decimalsOf, fromSi, toSi } from '../quantities';
import { instrumentOf, unitOfHold } from './instruments';
import type { Plan } from './plan';

type Scale = Pick<Plan, 'unit' | 'gauge' | 'instruments'>;
/** The phase that reads, where it reads another instrument than the plan's gauge or speaks another unit than the plan. */
type Reads = Pick<HoldPhase, 'instrument' | 'unit'>;

/** A reading in the unit of its phase, the plan's unless it has its own: for drawing and estimates, never for a comparison with a limit. */
export function inPlanUnit(plan: Scale, reading: number, phase: Reads = {}): number {
  const own = instrumentOf(plan, phase.instrument).unit;
  const asked = unitOfHold(plan, phase);
  return own === asked ? reading : fromSi(toSi(reading, own), asked);
}

/** A figure of the plan as the instrument shows it, with its decimals: for whoever stands in front of it. */
export function onGauge(plan: Scale, figure: string, phase: Reads = {}): string {
  const { unit, readability } = instrumentOf(plan, phase.instrument);
  const asked = unitOfHold(plan, phase);
  return unit === asked ? figure : fromSi(toSi(Number(figure), asked), unit).toFixed(decimalsOf(readability));
}

/** A band of the plan on the instrument that reads it. */
export const bandOnGauge = (plan: Scale, { low, high }: Band, phase: Reads = {}): Band => ({
  low: onGauge(plan, low, phase),
  high: onGauge(plan, high, phase),
});
