import { referencePressure } from '../quantities/pressure';
import { bad, firstProblem, good, inRange, type Result, refuse } from '../quantities/result';

/** What a hold can see (DOMAIN 3.3). `unseenPa` is δ: whatever may move the gauge and not be called a leak. */
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

/** Drift of a settled pipe that nobody notices, K: 0.05 a minute of the hold, at least 0.1, at most 0.5 (DOMAIN 3.3). */
export const unnoticedK = (seconds: number): number => Math.min(0.5, Math.max(0.1, (0.05 * seconds) / 60));

/** What the barometer moves unread, Pa: 1 hPa an hour from an hour on, at most 10 (DOMAIN 3.3). */
export const unreadBarometerPa = (seconds: number): number => (seconds < 3600 ? 0 : Math.min(10, seconds / 3600) * 100);

/** A watch that proves a shut valve, and the hold behind it. Pressures are gauge, Pa. */
export interface LetByWatch {
  /** A rise from which it is called a let-by, Pa, and how long it was watched, s. */
  readonly thresholdPa: number;
  readonly watchedS: number;
  readonly watchedAtPa: number;
  /** The hold's time, and the lowest that it may fall to and still pass. */
  readonly seconds: number;
  readonly lowestPa: number;
  /** Before the shut valve, where it is known. */
  readonly supplyPa?: number;
}

/**
 * What a let-by under its threshold feeds into the hold, Pa (DOMAIN 3.3): θ·t/t_let-by, times √((p_s − p_hold)/(p_s − p_let-by))
 * where the pressure before the valve is known.
 * @returns `supply-below` where the supply is given no higher than the watch: no valve can then be proved by a rise
 */
export function unperceivedLetByPa({ thresholdPa, watchedS, watchedAtPa, seconds, lowestPa, supplyPa }: LetByWatch): Result<number> {
  const problem = firstProblem(
    inRange(thresholdPa, 0, 1e7, 'let-by threshold', 'Pa'),
    inRange(watchedS, 1e-3, 2_592_000, 'let-by time', 's'),
    inRange(seconds, 1e-3, 2_592_000, 'time', 's'),
  );
  if (problem !== undefined) return refuse(problem);
  const plain = (thresholdPa * seconds) / watchedS;
  if (supplyPa === undefined) return good(plain);
  if (!(supplyPa > watchedAtPa))
    return bad('supply-below', 'The pressure before the valve must be above the one at which the valve is watched.', 'supply');
  return good(plain * Math.sqrt(Math.max(0, supplyPa - lowestPa) / (supplyPa - watchedAtPa)));
}

/** A leak that must move the gauge by so much in a hold. Pressures in Pa. */
export interface Overcome {
  readonly volumeM3: number;
  /** Gauge pressure at the start. */
  readonly startPa: number;
  readonly fallPa: number;
  readonly seconds: number;
  /** What a change of the whole volume would move the gauge by: the reference pressure for a gas, K for water (DOMAIN 3.7). */
  readonly stiffnessPa: number;
}

/**
 * The leak at the start's pressure that makes such a fall, m³/s: V·Δp/(K·t); of more than a tenth of the start by the worst law,
 * V·p₁·ln(p₁/p₂)/(K·t), since a leak slows as it falls (DOMAIN 3.1).
 * @returns `falls-too-far` for a fall to a fifth of its start or less: such a hold is sure of no leak
 */
export function leakThatFalls({ volumeM3, startPa, fallPa, seconds, stiffnessPa }: Overcome): Result<number> {
  const problem = firstProblem(
    inRange(volumeM3, 1e-6, 1e5, 'volume', 'm³'),
    inRange(fallPa, 0, 1e8, 'fall', 'Pa'),
    inRange(seconds, 1e-3, 2_592_000, 'time', 's'),
    inRange(stiffnessPa, 1e3, 1e11, 'stiffness', 'Pa'),
  );
  if (problem !== undefined) return refuse(problem);
  if (fallPa > 0 && startPa - fallPa <= startPa / 5)
    return bad('falls-too-far', 'What may move unnoticed is four fifths of the pressure or more: this hold is sure of no leak.');
  const lost = fallPa * 10 > startPa ? startPa * Math.log(startPa / (startPa - fallPa)) : fallPa;
  return good((volumeM3 * lost) / (stiffnessPa * seconds));
}
