import { type AbsolutePa, referencePressure, referenceTemperatureK } from '../quantities/pressure';
import { firstProblem, good, inRange, type Result, refuse } from '../quantities/result';

export interface GasFall {
  /** Gas space, m³ (1 mL to 1000 m³). */
  readonly volumeM3: number;
  /** Absolute pressures at start and end, Pa. */
  readonly startPa: AbsolutePa;
  readonly endPa: AbsolutePa;
  /** Time between them, s (above 0, at most 30 days). */
  readonly seconds: number;
  /** Gas temperatures at start and end, K; left out, both are the reference temperature. */
  readonly startK?: number;
  readonly endK?: number;
}

/**
 * Leakage at reference conditions (1013.25 hPa, 15 °C), m³/s; negative when the pressure rose.
 * q = V·(p₁/T₁ − p₂/T₂)·T_ref/(p_ref·Δt), from the ideal gas law at constant volume (DOMAIN 3.1).
 * @returns a problem for volumes, times or temperatures (200–400 K) out of range
 * @example gasLeakRate({ volumeM3: 0.03, startPa: 103_325, endPa: 102_925, seconds: 120 }) // 3.553 L/h
 */
export function gasLeakRate(fall: GasFall): Result<number> {
  const { volumeM3, startPa, endPa, seconds, startK = referenceTemperatureK, endK = referenceTemperatureK } = fall;
  const problem = firstProblem(
    inRange(volumeM3, 1e-6, 1000, 'volume', 'm³'),
    inRange(seconds, 1e-3, 2_592_000, 'time', 's'),
    inRange(startK, 200, 400, 'start temperature', 'K'),
    inRange(endK, 200, 400, 'end temperature', 'K'),
    inRange(startPa, 1, 1e8, 'start pressure', 'Pa absolute'),
    inRange(endPa, 1, 1e8, 'end pressure', 'Pa absolute'),
  );
  if (problem !== undefined) return refuse(problem);
  const amount = volumeM3 * (startPa / startK - endPa / endK);
  return good((amount * referenceTemperatureK) / (referencePressure * seconds));
}

export interface LargeFall {
  /** Gas space, m³ (1 mL to 1000 m³). */
  readonly volumeM3: number;
  /** Gauge pressures at start and end, Pa, the end brought to the start's temperature; both above nothing. */
  readonly startGaugePa: number;
  readonly endGaugePa: number;
  readonly seconds: number;
}

/**
 * Leak rate at the start pressure, m³/s at reference, of a fall that is large against it: q = V·p₁·ln(p₁/p₂)/(p_ref·t)
 * (DOMAIN 3.1). The law of a laminar leak, of all laws the largest; the mean over the time would understate it.
 * @returns a problem for volumes, times or pressures out of range; an end at nothing has no finite rate
 * @example worstLeakRate({ volumeM3: 7.66e-3, startGaugePa: 2250, endGaugePa: 1125, seconds: 60 }) // 7.07 L/h
 */
export function worstLeakRate({ volumeM3, startGaugePa, endGaugePa, seconds }: LargeFall): Result<number> {
  const problem = firstProblem(
    inRange(volumeM3, 1e-6, 1000, 'volume', 'm³'),
    inRange(seconds, 1e-3, 2_592_000, 'time', 's'),
    inRange(startGaugePa, 1e-3, 1e8, 'start pressure', 'Pa'),
    inRange(endGaugePa, 1e-3, 1e8, 'end pressure', 'Pa'),
  );
  if (problem !== undefined) return refuse(problem);
  return good((volumeM3 * startGaugePa * Math.log(startGaugePa / endGaugePa)) / (referencePressure * seconds));
}
