import { compare, type Decimal, decimal, exactFactor, multiply, type PressureUnit, subtract } from '../quantities';

const half = decimal('0.05');

/** Compares a movement in the gauge's unit with a limit in the plan's unit, exactly. */
export const compareAcross = (value: Decimal, unit: PressureUnit, limit: Decimal, limitUnit: PressureUnit): -1 | 0 | 1 =>
  unit === limitUnit ? compare(value, limit) : compare(multiply(value, exactFactor(unit)), multiply(limit, exactFactor(limitUnit)));

/**
 * Whether a reading lies in a band after rounding to 0.1 of the band's unit (DOMAIN 4.3). Halves round away from zero,
 * so that is: at least low − 0.05, and below high + 0.05.
 */
export function inBand(value: Decimal, unit: PressureUnit, low: string, high: string, bandUnit: PressureUnit): boolean {
  const floor = subtract(decimal(low), half);
  const ceiling = subtract(decimal(high), { digits: -half.digits, scale: half.scale });
  return compareAcross(value, unit, floor, bandUnit) >= 0 && compareAcross(value, unit, ceiling, bandUnit) < 0;
}

/** Seconds, or minutes where they are whole, for sentences. */
export const timeText = (seconds: number): string => (seconds >= 120 && seconds % 60 === 0 ? `${seconds / 60} min` : `${seconds} s`);
