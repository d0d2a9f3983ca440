import { firstProblem, good, inRange, type Result, refuse } from '../quantities/result';

/**
 * Flow through a meter by its test dial, m³/s: q = dial volume × turns / time (DOMAIN 3.5).
 * @param dialM3 volume of one turn, m³ (1 mL to 10 m³)
 * @param turns turned in that time (0 to 10 000); the smallest readable part of a turn gives the smallest visible flow
 * @param seconds 1 s to 7 days
 * @example testDialFlow(toSi(0.5, 'ft3'), 0.02, 600) // 1.70 L/h
 */
export function testDialFlow(dialM3: number, turns: number, seconds: number): Result<number> {
  const problem = firstProblem(
    inRange(dialM3, 1e-6, 10, 'dial volume', 'm³'),
    inRange(turns, 0, 10_000, 'turns', ''),
    inRange(seconds, 1, 604_800, 'time', 's'),
  );
  return problem === undefined ? good((dialM3 * turns) / seconds) : refuse(problem);
}
