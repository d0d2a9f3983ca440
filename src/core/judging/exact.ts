import type { InstrumentUnit } from '../planning/gauge';
import { compareQuantities, type Decimal, decimal, subtract } from '../quantities';

const half = decimal('0.05');

/** Compares a movement in an instrument's unit with a limit in the plan's unit, exactly. */
export const compareAcross = (value: Decimal, unit: InstrumentUnit, limit: Decimal, limitUnit: InstrumentUnit): -1 | 0 | 1 =>
  compareQuantities(value, unit, limit, limitUnit);

/**
 * Whether a reading lies in a band after rounding to 0.1 of the band's unit (DOMAIN 4.3). Halves round away from zero,
 * so that is: at least low − 0.05, and below high + 0.05.
 */
export function inBand(value: Decimal, unit: InstrumentUnit, low: string, high: string, bandUnit: InstrumentUnit): boolean {
  const floor = subtract(decimal(low), half);
  const ceiling = subtract(decimal(high), { digits: -half.digits, scale: half.scale });
  return compareAcross(value, unit, floor, bandUnit) >= 0 && compareAcross(value, unit, ceiling, bandUnit) < 0;
}

/** Seconds, or minutes where they are whole, for sentences. */
export const timeText = (seconds: number): string => (seconds >= 120 && seconds % 60 === 0 ? `${seconds / 60} min` : `${seconds} s`);

/** Later than this past due counts as late: 5 % or 10 s, the larger (DOMAIN 4.3). */
export const lateToleranceMs = (seconds: number): number => Math.max(seconds * 50, 10_000);
