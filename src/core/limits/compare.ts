import { compareQuantities, type Decimal, decimal, type InstrumentUnit, multiply, subtract, add as sum } from '../quantities';

const half = decimal('0.05');
const tenth = decimal('0.1');
const nothing = decimal('0');

/** How far a band's edge may be missed: what rounding to 0.1 of its unit lets in, and never more than a tenth of its lower edge (DOMAIN 4.3). */
function slackOf(edge: string): Decimal {
  const share = multiply(decimal(edge), tenth);
  if (compareQuantities(share, 'Pa', nothing, 'Pa') <= 0) return nothing;
  return compareQuantities(share, 'Pa', half, 'Pa') < 0 ? share : half;
}

/** Compares a movement in an instrument's unit with a limit in the plan's unit, exactly. */
export const compareAcross = (value: Decimal, unit: InstrumentUnit, limit: Decimal, limitUnit: InstrumentUnit): -1 | 0 | 1 =>
  compareQuantities(value, unit, limit, limitUnit);

/**
 * Whether a reading lies in a band after rounding to 0.1 of the band's unit, half up (DOMAIN 4.3): at least low − 0.05 and
 * below high + 0.05, or a tenth of the lower edge where that is less.
 */
export function inBand(value: Decimal, unit: InstrumentUnit, low: string, high: string, bandUnit: InstrumentUnit): boolean {
  const slack = slackOf(low);
  return (
    compareAcross(value, unit, subtract(decimal(low), slack), bandUnit) >= 0 &&
    (compareAcross(value, unit, decimal(high), bandUnit) <= 0 || compareAcross(value, unit, sum(decimal(high), slack), bandUnit) < 0)
  );
}

/** Names for ranges of a figure: the first whose `below` it does not reach, else `beyond`. */
export interface BandNames {
  readonly steps: readonly { readonly below: string; readonly outcome: string }[];
  readonly beyond: string;
}

/** The band that a figure falls into, compared after rounding as all bands are. */
export const bandOf = ({ steps, beyond }: BandNames, value: Decimal, unit: InstrumentUnit, bandUnit: InstrumentUnit): string =>
  steps.find(({ below }) => compareAcross(value, unit, subtract(decimal(below), slackOf(below)), bandUnit) < 0)?.outcome ?? beyond;

/** Seconds, or minutes where they are whole, for sentences. */
export const timeText = (seconds: number): string => (seconds >= 120 && seconds % 60 === 0 ? `${seconds / 60} min` : `${seconds} s`);

/** Later than this past due counts as late: 5 % or 10 s, the larger (DOMAIN 4.3). */
export const lateToleranceMs = (seconds: number): number => Math.max(seconds * 50, 10_000);
