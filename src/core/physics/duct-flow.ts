import { bad, firstProblem, good, inRange, type Result, refuse } from '../quantities/result';

/** Duct leakage Q = C·Δpⁿ (DOMAIN 3.6). Pressures are Pa across the duct's wall, flows m³/s. */
export interface DuctPoint {
  readonly pa: number;
  readonly flowM3s: number;
}

/** Exponent taken where only one point was read. */
export const usualExponent = 0.6;
/** Exponents outside this are physically impossible; the inner pair is normal. */
export const possibleExponents = [0.5, 1] as const;
export const normalExponents = [0.55, 0.75] as const;

const checkPoint = ({ pa, flowM3s }: DuctPoint) =>
  firstProblem(inRange(pa, 0.1, 10_000, 'pressure', 'Pa'), inRange(flowM3s, 1e-7, 100, 'flow', 'm³/s'));

/** Flow of one point at another pressure, m³/s: Q·(Δp_ref/Δp)ⁿ. @param exponent 0.5 to 1 */
export function flowAt(point: DuctPoint, referencePa: number, exponent: number = usualExponent): Result<number> {
  const problem = firstProblem(
    checkPoint(point),
    inRange(referencePa, 0.1, 10_000, 'reference pressure', 'Pa'),
    inRange(exponent, ...possibleExponents, 'exponent', ''),
  );
  return problem === undefined ? good(point.flowM3s * (referencePa / point.pa) ** exponent) : refuse(problem);
}

export interface Exponent {
  readonly n: number;
  /** Smallest and largest n that the readings' half steps allow. */
  readonly low: number;
  readonly high: number;
  readonly verdict: 'normal' | 'suspicious' | 'impossible';
}

/**
 * Exponent implied by two points: n = ln(Q₁/Q₂)/ln(p₁/p₂), with its interval from half a step of each reading. It is
 * impossible only where the whole interval lies outside 0.5 to 1.
 * @returns `points-together` unless the pressures differ by more than their steps
 */
export function impliedExponent(first: DuctPoint, second: DuctPoint, pressureStepPa: number, flowStepM3s: number): Result<Exponent> {
  const problem = firstProblem(
    checkPoint(first),
    checkPoint(second),
    inRange(pressureStepPa, 0, 1000, 'pressure step', 'Pa'),
    inRange(flowStepM3s, 0, 10, 'flow step', 'm³/s'),
  );
  if (problem !== undefined) return refuse(problem);
  const [upper, lower] = first.pa >= second.pa ? [first, second] : [second, first];
  const halfP = pressureStepPa / 2;
  const halfQ = flowStepM3s / 2;
  if (!(upper.pa - halfP > (lower.pa + halfP) * 1.02 && lower.pa > halfP && lower.flowM3s > halfQ && upper.flowM3s > halfQ))
    return bad('points-together', 'The two pressures lie too close together, or too near the gauge’s steps, to say anything.', 'pressure');
  const n = (dq1: number, dq2: number, dp1: number, dp2: number): number =>
    Math.log((upper.flowM3s + dq1) / (lower.flowM3s + dq2)) / Math.log((upper.pa + dp1) / (lower.pa + dp2));
  const corners = [-halfP, halfP].flatMap((dp) => [n(-halfQ, halfQ, dp, -dp), n(halfQ, -halfQ, dp, -dp)]);
  const low = Math.min(...corners);
  const high = Math.max(...corners);
  const bare = n(0, 0, 0, 0);
  // Readings that imply a limit itself lie on the possible side; the rounding only takes back what binary logarithms add.
  const [least, most] = possibleExponents;
  const rounded = (value: number): number => Math.round(value * 1e9) / 1e9;
  const impossible = rounded(high) < least || rounded(low) > most;
  const normal = rounded(bare) >= normalExponents[0] && rounded(bare) <= normalExponents[1];
  return good({ n: bare, low, high, verdict: impossible ? 'impossible' : normal ? 'normal' : 'suspicious' });
}

export interface DuctFit {
  /** Q = c·Δpⁿ in m³/s and Pa. */
  readonly c: number;
  readonly n: number;
  readonly r2: number;
  /** Flow at the reference pressure with its 95 % interval, m³/s. */
  readonly flowM3s: number;
  readonly low: number;
  readonly high: number;
}

/** The point read nearest to a pressure, by ratio; undefined for an empty list. */
export const nearestPoint = <P extends DuctPoint>(points: readonly P[], referencePa: number): P | undefined =>
  [...points].sort((a, b) => Math.abs(Math.log(a.pa / referencePa)) - Math.abs(Math.log(b.pa / referencePa)))[0];

/** Two-sided 95 % points of Student's t for 1, 2, 3 … degrees of freedom; beyond them the normal one, rounded up. */
const student = [
  12.706, 4.303, 3.182, 2.776, 2.571, 2.447, 2.365, 2.306, 2.262, 2.228, 2.201, 2.179, 2.16, 2.145, 2.131, 2.12, 2.11, 2.101, 2.093, 2.086,
];

/**
 * Least squares on log Q against log Δp (DOMAIN 3.6). The scatter is at least what the readings' steps alone would give
 * (uniform within a step), so that readings that fall on a line by luck do not claim a certainty they have not.
 * @param points 3 to 200, at two pressures at least that differ by a tenth or more
 */
export function fitDuct(points: readonly DuctPoint[], referencePa: number, pressureStepPa: number, flowStepM3s: number): Result<DuctFit> {
  const problem = firstProblem(
    inRange(points.length, 3, 200, 'number of points', ''),
    ...points.map(checkPoint),
    inRange(referencePa, 0.1, 10_000, 'reference pressure', 'Pa'),
    inRange(pressureStepPa, 0, 1000, 'pressure step', 'Pa'),
    inRange(flowStepM3s, 0, 10, 'flow step', 'm³/s'),
  );
  if (problem !== undefined) return refuse(problem);
  const count = points.length;
  const xs = points.map(({ pa }) => Math.log(pa));
  const ys = points.map(({ flowM3s }) => Math.log(flowM3s));
  const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
  const [xMean, yMean] = [mean(xs), mean(ys)];
  const spread = xs.reduce((sum, x) => sum + (x - xMean) ** 2, 0);
  if (!(Math.max(...xs) - Math.min(...xs) >= Math.log(1.1)))
    return bad('points-together', 'The points lie too close together to fit; spread their pressures.', 'pressure');
  const n = xs.reduce((sum, x, index) => sum + (x - xMean) * (ys[index] - yMean), 0) / spread;
  const residual = xs.reduce((sum, x, index) => sum + (ys[index] - yMean - n * (x - xMean)) ** 2, 0);
  const total = ys.reduce((sum, y) => sum + (y - yMean) ** 2, 0);
  const bySteps = mean(points.map(({ pa, flowM3s }) => (flowStepM3s / flowM3s) ** 2 + ((n * pressureStepPa) / pa) ** 2)) / 12;
  const variance = Math.max(residual / (count - 2), bySteps);
  const x0 = Math.log(referencePa);
  const middle = yMean + n * (x0 - xMean);
  const reach = (student[count - 3] ?? 2.08) * Math.sqrt(variance * (1 / count + (x0 - xMean) ** 2 / spread));
  const fit = {
    c: Math.exp(yMean - n * xMean),
    n,
    r2: total > 0 ? 1 - residual / total : 1,
    flowM3s: Math.exp(middle),
    low: Math.exp(middle - reach),
    high: Math.exp(middle + reach),
  };
  return Object.values(fit).every((value) => Number.isFinite(value))
    ? good(fit)
    : bad('fit-failed', 'No curve of the form Q = C·Δpⁿ fits these points. Check the hoses, the ring and each reading.', 'flow');
}

/** Leakage classes of the metric school: f = k·p^0.65, L/s per m² of duct surface (DOMAIN 3.6). */
export const ductClasses = { A: 0.027, B: 0.009, C: 0.003, D: 0.001 } as const;
export type DuctClass = keyof typeof ductClasses;
/** Exponent of the classes' formula. */
export const classExponent = 0.65;

/** Leakage permitted to a class, m³/s per m²; class C at 400 Pa: 0.1474 L/s per m². @param pa 10 to 10 000 */
export function classLeakage(name: DuctClass, pa: number): Result<number> {
  const problem = inRange(pa, 10, 10_000, 'pressure', 'Pa');
  return problem === undefined ? good((ductClasses[name] * pa ** classExponent) / 1000) : refuse(problem);
}

/** Limit by floor area, m³/s: rate in m³/s per m². @param areaM2 1 to 100 000 */
export function areaLimit(rateM3sPerM2: number, areaM2: number): Result<number> {
  const problem = firstProblem(
    inRange(rateM3sPerM2, 1e-7, 1, 'limit per area', 'm³/s per m²'),
    inRange(areaM2, 1, 100_000, 'floor area', 'm²'),
  );
  return problem === undefined ? good(rateM3sPerM2 * areaM2) : refuse(problem);
}
