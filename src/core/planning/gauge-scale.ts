import type { Band } from '../procedures/phases';
import { decimalsOf, fromSi, toSi } from '../quantities';
import type { Plan } from './plan';

type Scale = Pick<Plan, 'unit' | 'gauge'>;

/** A reading of the plan's gauge in the plan's unit: for drawing and estimates, never for a comparison with a limit. */
export const inPlanUnit = ({ unit, gauge }: Scale, reading: number): number =>
  gauge.unit === unit ? reading : fromSi(toSi(reading, gauge.unit), unit);

/** A pressure of the plan as its gauge shows it, with the gauge's decimals: for whoever stands in front of it. */
export const onGauge = ({ unit, gauge }: Scale, pressure: string): string =>
  gauge.unit === unit ? pressure : fromSi(toSi(Number(pressure), unit), gauge.unit).toFixed(decimalsOf(gauge.readability));

/** A band of the plan on its gauge. */
export const bandOnGauge = (scale: Scale, { low, high }: Band): Band => ({ low: onGauge(scale, low), high: onGauge(scale, high) });
