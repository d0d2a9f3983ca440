import { referencePressure } from '../quantities/pressure';
import { firstProblem, good, inRange, type Result, refuse } from '../quantities/result';

/** Let-by and a leak at once (DOMAIN 3.13). Flows are k·√Δp, with k in m³/s at reference per √Pa. */
export interface TwoWay {
  readonly supplyPa: number;
  readonly kIn: number;
  readonly kOut: number;
}

const check = ({ supplyPa, kIn, kOut }: TwoWay) =>
  firstProblem(
    inRange(supplyPa, 1, 1e7, 'supply pressure', 'Pa'),
    inRange(kIn, 0, 1, 'let-by', 'm³/s/√Pa'),
    inRange(kOut, 0, 1, 'leak', 'm³/s/√Pa'),
  );

/** Speed of the gauge, Pa/s: dp/dt = p_ref/V·(k_in·√(p_s − p) − k_out·√p); gauge pressures. */
export function twoWaySlope(flow: TwoWay, volumeM3: number, gaugePa: number): Result<number> {
  const problem = firstProblem(check(flow), inRange(volumeM3, 1e-6, 1000, 'volume', 'm³'), inRange(gaugePa, 0, 1e7, 'pressure', 'Pa'));
  if (problem !== undefined) return refuse(problem);
  const { supplyPa, kIn, kOut } = flow;
  return good((referencePressure / volumeM3) * (kIn * Math.sqrt(Math.max(0, supplyPa - gaugePa)) - kOut * Math.sqrt(gaugePa)));
}

/**
 * Gauge pressure at which let-by and leak balance and the gauge stands still, Pa: p* = p_s·k_in²/(k_in² + k_out²). This is
 * why let-by is proved first, at a low pressure.
 * @example balancePressure({ supplyPa: 2500, kIn: 2, kOut: 1.5 }) // 1600 Pa; only the ratio of the two counts
 */
export function balancePressure({ supplyPa, kIn, kOut }: TwoWay): Result<number> {
  const problem = firstProblem(
    inRange(supplyPa, 1, 1e7, 'supply pressure', 'Pa'),
    inRange(kIn, 0, 1e6, 'let-by', ''),
    inRange(kOut, 0, 1e6, 'leak', ''),
    inRange(kIn ** 2 + kOut ** 2, 1e-300, 1e13, 'let-by and leak together', ''),
  );
  return problem === undefined ? good((supplyPa * kIn ** 2) / (kIn ** 2 + kOut ** 2)) : refuse(problem);
}
