import { bad, firstProblem, good, inRange, type Result, refuse } from '../quantities/result';

/** Above this much energy, J, a stay-clear warning is due (DOMAIN 3.11). */
export const stayClearJ = 10_000;

const gamma = 1.4;

/**
 * Energy set free if a volume of compressed gas bursts, J: E = p·V/(γ−1)·(1 − (p_a/p)^((γ−1)/γ)), γ = 1.4: reversible
 * expansion to atmosphere without heat (DOMAIN 3.11). Liquid under the same pressure stores hundreds of times less.
 * @param volumeM3 1 mL to 10 000 m³ @param absolutePa from the atmosphere to 100 MPa @param atmospherePa 50–120 kPa
 * @example storedEnergy(0.06, 101_325 + toSi(3, 'psi'), 101_325) // 0.95 kJ
 */
export function storedEnergy(volumeM3: number, absolutePa: number, atmospherePa: number): Result<number> {
  const problem = firstProblem(
    inRange(volumeM3, 1e-6, 10_000, 'volume', 'm³'),
    inRange(absolutePa, 1, 1e8, 'pressure', 'Pa absolute'),
    inRange(atmospherePa, 50_000, 120_000, 'atmosphere', 'Pa'),
  );
  if (problem !== undefined) return refuse(problem);
  if (!(absolutePa >= atmospherePa))
    return bad('below-atmosphere', 'Gas below atmospheric pressure sets nothing free; check the pressure.', 'pressure');
  return good(((absolutePa * volumeM3) / (gamma - 1)) * (1 - (atmospherePa / absolutePa) ** ((gamma - 1) / gamma)));
}
