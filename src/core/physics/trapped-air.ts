import { bad, firstProblem, good, inRange, type Result, refuse } from '../quantities/result';

/** Air by volume at atmospheric pressure above which a hold means nothing: bleed again (DOMAIN 3.7). */
export const mostTrappedAir = 0.04;

export interface CompressionTest {
  readonly volumeM3: number;
  /** Water pumped in to raise the pressure from low to high, m³. */
  readonly addedM3: number;
  readonly lowAbsolutePa: number;
  readonly highAbsolutePa: number;
  readonly atmospherePa: number;
  /** Softness of water and wall, 1/Pa, from `wallAndWater`. */
  readonly wallAndWater: number;
}

/**
 * Trapped air as a fraction of the volume at atmospheric pressure, from the water that a rise of pressure took. The air
 * is compressed at one temperature: α = (dV/V − (p₂−p₁)·(1/K_water + D/(E·e))) / (p_a·(1/p₁ − 1/p₂)) (DOMAIN 3.7).
 * A little under zero means none that could be measured, and is given as zero.
 * @returns `pressure-order` unless the high pressure is above the low one; `compression-impossible` for less water than
 *   the water and pipe alone take by more than a tenth
 */
export function trappedAir(test: CompressionTest): Result<number> {
  const { volumeM3, addedM3, lowAbsolutePa, highAbsolutePa, atmospherePa } = test;
  const problem = firstProblem(
    inRange(volumeM3, 1e-6, 1e5, 'volume', 'm³'),
    inRange(addedM3, 0, volumeM3, 'water added, up to the volume,', 'm³'),
    inRange(lowAbsolutePa, 50_000, 1e8, 'low pressure', 'Pa absolute'),
    inRange(highAbsolutePa, 50_000, 1e8, 'high pressure', 'Pa absolute'),
    inRange(atmospherePa, 50_000, 120_000, 'atmosphere', 'Pa'),
    inRange(test.wallAndWater, 1e-12, 1e-5, 'softness of water and wall', '1/Pa'),
  );
  if (problem !== undefined) return refuse(problem);
  if (!(highAbsolutePa > lowAbsolutePa * (1 + 1e-9)))
    return bad('pressure-order', 'The pressure after pumping must be above the pressure before it.', 'pressure');
  const alone = (highAbsolutePa - lowAbsolutePa) * test.wallAndWater;
  const byAir = addedM3 / volumeM3 - alone;
  if (byAir < -0.1 * alone)
    return bad(
      'compression-impossible',
      'Less water was added than the pipe and the water in it take up without any air. Check the volume, the strokes and the pipe.',
      'added',
    );
  return good(Math.max(0, byAir) / (atmospherePa * (1 / lowAbsolutePa - 1 / highAbsolutePa)));
}
