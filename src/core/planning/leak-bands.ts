import type { Criterion } from '../procedures/phases';
import { referencePressure } from '../quantities';

/**
 * Fall, Pa, at which a leak leaves the best of its bands in a hold of so many seconds: Δp = q·p_ref·t / V (DOMAIN 3.1, short
 * form), q before it is turned into the gas carried. For drawing; the judge works with what was read.
 */
export function fallOutOfBest({ litres, factor, bands }: Extract<Criterion, { kind: 'leak-rate' }>, seconds: number): number {
  const litresPerHour = Number(bands[0]?.below ?? '0') / Number(factor);
  return ((litresPerHour / 3600) * seconds * referencePressure) / Number(litres);
}
