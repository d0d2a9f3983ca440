import { bad, good, type Result } from './result';

/** Gauge and absolute pressures in Pa. The brands keep them from being mixed by accident. */
export type GaugePa = number & { readonly __pressure: 'gauge' };
export type AbsolutePa = number & { readonly __pressure: 'absolute' };

/** Above any plant this tool is for (100 MPa); catches slipped decimal points. */
const highest = 1e8;

/** A gauge pressure in Pa; may be below atmosphere, but not by more than one atmosphere of 110 kPa. */
export const gaugePa = (pa: number): Result<GaugePa> =>
  !(pa >= -110_000 && pa <= highest)
    ? bad('pressure-absurd', `${pa} Pa is not a pressure that this tool can handle; check the figure and its unit.`)
    : good(pa as GaugePa);

/** An absolute pressure in Pa, above vacuum. */
export const absolutePa = (pa: number): Result<AbsolutePa> =>
  !(pa > 0 && pa <= highest)
    ? bad('pressure-absurd', `An absolute pressure must be above zero and at most ${highest} Pa; it is ${pa}.`)
    : good(pa as AbsolutePa);

/** gauge + atmosphere, both in Pa. */
export const toAbsolute = (gauge: GaugePa, atmosphere: AbsolutePa): Result<AbsolutePa> => absolutePa(gauge + atmosphere);

/** absolute − atmosphere, both in Pa. */
export const toGauge = (absolute: AbsolutePa, atmosphere: AbsolutePa): Result<GaugePa> => gaugePa(absolute - atmosphere);

/** Reference conditions of a leak rate: 1013.25 hPa and 15 °C (DOMAIN 3.1). */
export const referencePressure = 101_325 as AbsolutePa;
export const referenceTemperatureK = 288.15;

/**
 * Atmosphere at a height above sea level: p = 1013.25 hPa · (1 − 2.25577e-5·h)^5.25588 (standard atmosphere).
 * @param metres −430 to 9000 m
 */
export function atmosphereAt(metres: number): Result<AbsolutePa> {
  if (!(metres >= -430 && metres <= 9000)) return bad('altitude-range', `The altitude must lie between −430 and 9000 m; it is ${metres}.`);
  return absolutePa(101_325 * (1 - 2.25577e-5 * metres) ** 5.25588);
}

/** A barometer reading as the atmosphere, Pa; it overrides the altitude. 500 to 1100 hPa. */
export function atmosphereFromBarometer(pa: number): Result<AbsolutePa> {
  if (!(pa >= 50_000 && pa <= 110_000))
    return bad(
      'barometer-range',
      `A barometer shows between 500 and 1100 hPa; this is ${(pa / 100).toFixed(1)} hPa. Read it again, and as it stands, not reduced to sea level.`,
    );
  return absolutePa(pa);
}
