import { referencePressure } from '../quantities/pressure';
import { firstProblem, good, inRange, type Result, refuse } from '../quantities/result';

/**
 * What a hold can see (DOMAIN 3.3). `unseenPa` is δ: the gauge's readability plus whatever temperature and barometer
 * can move unnoticed.
 */
export interface Hold {
  readonly volumeM3: number;
  readonly unseenPa: number;
  readonly seconds: number;
}

const check = (volumeM3: number, unseenPa: number) =>
  firstProblem(inRange(volumeM3, 1e-6, 1000, 'volume', 'm³'), inRange(unseenPa, 1e-3, 1e6, 'unseen movement', 'Pa'));

/** Smallest leak the hold can show, m³/s at reference: q_min = V·δ/(p_ref·t). */
export function smallestVisibleLeak({ volumeM3, unseenPa, seconds }: Hold): Result<number> {
  const problem = check(volumeM3, unseenPa) ?? inRange(seconds, 1e-3, 2_592_000, 'time', 's');
  if (problem !== undefined) return refuse(problem);
  return good((volumeM3 * unseenPa) / (referencePressure * seconds));
}

/**
 * Hold time that shows a leak of concern, s: t = V·δ/(p_ref·q).
 * @param leakM3s leak of concern at reference, m³/s
 */
export function holdTimeForLeak(volumeM3: number, unseenPa: number, leakM3s: number): Result<number> {
  const problem = check(volumeM3, unseenPa) ?? inRange(leakM3s, 1e-12, 1, 'leak of concern', 'm³/s');
  if (problem !== undefined) return refuse(problem);
  return good((volumeM3 * unseenPa) / (referencePressure * leakM3s));
}

/** Gauge movement that temperature can cause unmeasured, Pa: p_abs·ΔT/T (DOMAIN 3.3). */
export function unmeasuredTemperaturePa(absolutePa: number, spreadK: number, kelvin: number): Result<number> {
  const problem = firstProblem(
    inRange(absolutePa, 1, 1e8, 'pressure', 'Pa absolute'),
    inRange(spreadK, 0, 100, 'temperature spread', 'K'),
    inRange(kelvin, 200, 400, 'temperature', 'K'),
  );
  if (problem !== undefined) return refuse(problem);
  return good((absolutePa * spreadK) / kelvin);
}
