import type { InstrumentUnit } from '../../planning/gauge';
import type { Bands } from '../../procedures/phases';
import { type Decimal, decimal, subtract } from '../../quantities';
import { compareAcross } from '../exact';

const half = decimal('0.05');

/**
 * The band that a figure falls into, compared after rounding to 0.1 of the band's unit as all bands are (DOMAIN 4.3): the
 * first whose `below` it does not reach, else beyond them all.
 */
export function bandOf({ steps, beyond }: Bands, value: Decimal, unit: InstrumentUnit, bandUnit: InstrumentUnit): string {
  return steps.find(({ below }) => compareAcross(value, unit, subtract(decimal(below), half), bandUnit) < 0)?.outcome ?? beyond;
}
