import { firstProblem, good, inRange, type Result, refuse } from '../quantities/result';

/** Above this thrust, N, a plug that only friction holds is a projectile (DOMAIN 3.11). */
export const frictionPlugN = 200;

/**
 * Thrust on a plug, cap or dead end, N: F = p·π·d²/4 (DOMAIN 3.11).
 * @param gaugePa 0 to 100 MPa @param diameterM 1 mm to 10 m
 * @example endThrust(toSi(20, 'psi'), toSi(2, 'in')) // 280 N
 */
export function endThrust(gaugePa: number, diameterM: number): Result<number> {
  const problem = firstProblem(inRange(gaugePa, 0, 1e8, 'pressure', 'Pa'), inRange(diameterM, 0.001, 10, 'diameter', 'm'));
  return problem === undefined ? good(gaugePa * (Math.PI / 4) * diameterM ** 2) : refuse(problem);
}
