import { decimal, decimalsOf, fromSi, multiply, toSi, toText } from '../quantities';
import { instrumentOf, unitOfHold } from './instruments';
import { type Band, type HoldPhase, middleOf } from './phases';
import type { PlanShape as Plan } from './plan-shape';

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

/**
 * Where whoever raises the pressure stops: the middle of the band on the nearest mark of the instrument, so that its finest
 * step is not a matter of luck. In the plan's unit, or with its own unit where no mark lies in the band (`8 mbar`).
 */
export function aimOf(plan: Scale, phase: HoldPhase): string {
  const { unit, readability } = instrumentOf(plan, phase.instrument);
  const asked = unitOfHold(plan, phase);
  const middle = middleOf(phase);
  const steps = Math.round(fromSi(toSi(Number(middle), asked), unit) / Number(readability));
  const mark = Number(toText(multiply({ digits: BigInt(steps), scale: 0 }, decimal(readability))));
  const aim = String(Number(fromSi(toSi(mark, unit), plan.unit).toFixed(6)));
  const low = fromSi(toSi(Number(phase.band.low), asked), plan.unit);
  const high = fromSi(toSi(Number(phase.band.high), asked), plan.unit);
  const target = Number(aim) >= low && Number(aim) <= high ? aim : asked === plan.unit ? middle : `${middle} ${asked}`;
  return onCircuit(target, phase.instrument);
}

/** What is raised, written down with the role of the instrument on its circuit. */
export const onCircuit = (target: string, of: string | undefined): string => (of === undefined ? target : `${target} @${of}`);

/** A band of the plan on the instrument that reads it. */
export const bandOnGauge = (plan: Scale, { low, high }: Band, phase: Reads = {}): Band => ({
  low: onGauge(plan, low, phase),
  high: onGauge(plan, high, phase),
});
