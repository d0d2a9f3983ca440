import { referencePressure } from '../quantities/pressure';
import { firstProblem, good, inRange, type Result, refuse } from '../quantities/result';

/**
 * Volume of a system from a known amount of gas let into it, m³: V = v·p_ref/Δp at one temperature (DOMAIN 3.4).
 * @param letInM3 gas let in, measured at reference pressure, m³ (1 mL to 100 m³)
 * @param stepPa rise of the gauge that it caused, Pa (1 Pa to 10 MPa)
 * @example measuredVolume(0.0006, 2000) // 0.0304 m³
 */
export function measuredVolume(letInM3: number, stepPa: number): Result<number> {
  const problem = firstProblem(inRange(letInM3, 1e-6, 100, 'gas let in', 'm³'), inRange(stepPa, 1, 1e7, 'pressure step', 'Pa'));
  return problem === undefined ? good((letInM3 * referencePressure) / stepPa) : refuse(problem);
}
