import { type AbsolutePa, type GaugePa, referenceTemperatureK } from '../quantities/pressure';
import { firstProblem, good, inRange, type Result, refuse } from '../quantities/result';

export interface GasWarming {
  readonly startGaugePa: GaugePa;
  readonly startK: number;
  readonly endK: number;
  readonly startAtmospherePa: AbsolutePa;
  readonly endAtmospherePa: AbsolutePa;
}

/**
 * Gauge pressure to expect at the end if nothing leaked, Pa: p₂g = (p₁g + a₁)·T₂/T₁ − a₂ (DOMAIN 3.2).
 * @returns a problem for temperatures outside 200–400 K or atmospheres outside 50–120 kPa
 */
export function expectedGauge(warming: GasWarming): Result<GaugePa> {
  const { startGaugePa, startK, endK, startAtmospherePa, endAtmospherePa } = warming;
  const problem = firstProblem(
    inRange(startGaugePa, -110_000, 1e8, 'start pressure', 'Pa'),
    inRange(startK, 200, 400, 'start temperature', 'K'),
    inRange(endK, 200, 400, 'end temperature', 'K'),
    inRange(startAtmospherePa, 50_000, 120_000, 'start atmosphere', 'Pa'),
    inRange(endAtmospherePa, 50_000, 120_000, 'end atmosphere', 'Pa'),
  );
  if (problem !== undefined) return refuse(problem);
  return good((((startGaugePa + startAtmospherePa) * endK) / startK - endAtmospherePa) as GaugePa);
}

/** Gauge movement for one kelvin of gas temperature, Pa/K: (p_g + a)/T (DOMAIN 3.2). */
export function temperatureSensitivity(gaugePa: GaugePa, atmospherePa: AbsolutePa, kelvin: number): Result<number> {
  const problem = firstProblem(
    inRange(gaugePa, -110_000, 1e8, 'pressure', 'Pa'),
    inRange(atmospherePa, 50_000, 120_000, 'atmosphere', 'Pa'),
    inRange(kelvin, 200, 400, 'temperature', 'K'),
  );
  if (problem !== undefined) return refuse(problem);
  return good((gaugePa + atmospherePa) / kelvin);
}

export interface CorrectionDoubt {
  /** Absolute pressure of the gas, Pa, and its temperature, K. */
  readonly absolutePa: number;
  readonly kelvin: number;
  /** How far each temperature and each barometer reading may be off, K and Pa. */
  readonly temperatureDoubtK: number;
  readonly barometerDoubtPa: number;
}

/**
 * How far a temperature and barometer correction may itself be off, Pa. Two readings of each are taken, independent of
 * one another: u = √2·√((p_abs/T·u_T)² + u_a²), the propagated doubt of 3.2's formula.
 */
export function correctionDoubt({ absolutePa, kelvin, temperatureDoubtK, barometerDoubtPa }: CorrectionDoubt): Result<number> {
  const problem = firstProblem(
    inRange(absolutePa, 1, 1e8, 'pressure', 'Pa absolute'),
    inRange(kelvin, 200, 400, 'temperature', 'K'),
    inRange(temperatureDoubtK, 0, 50, 'doubt of the temperature', 'K'),
    inRange(barometerDoubtPa, 0, 10_000, 'doubt of the barometer', 'Pa'),
  );
  if (problem !== undefined) return refuse(problem);
  return good(Math.SQRT2 * Math.hypot((absolutePa / kelvin) * temperatureDoubtK, barometerDoubtPa));
}

/**
 * Kelvins that a closed gas would have to warm to move its gauge so, negative where it would have to cool: ΔT = Δp·T/p_abs (DOMAIN 3.2,
 * 3.3), at 15 °C.
 * @param movedPa rise of the gauge, negative for a fall @param absolutePa pressure that it started from, above 0
 * @example kelvinForGas(-359, 103_425) // −1.0 K
 */
export const kelvinForGas = (movedPa: number, absolutePa: number): number => (movedPa * referenceTemperatureK) / absolutePa;
