import { firstProblem, good, inRange, type Result, refuse } from '../quantities/result';

/** Weight of water, Pa per metre of height: 998.2 kg/m³ at 20 °C × 9.80665 m/s² (DOMAIN 3.7, 3.9); 0.0979 bar, 0.4328 psi per ft. */
export const waterPaPerMetre = 998.2 * 9.80665;

/**
 * Pressure of a column of water, Pa: p = ρ·g·h; negative for a point above (DOMAIN 3.9).
 * @param heightM −1000 to 1000 m
 */
export function staticHead(heightM: number): Result<number> {
  const problem = inRange(heightM, -1000, 1000, 'height', 'm');
  return problem === undefined ? good(waterPaPerMetre * heightM) : refuse(problem);
}

/** Area of a round opening, m². @param boreM above 0, at most 10 m */
export function openingArea(boreM: number): Result<number> {
  const problem = inRange(boreM, 0.001, 10, 'bore', 'm');
  return problem === undefined ? good((Math.PI / 4) * boreM ** 2) : refuse(problem);
}

/**
 * Loss from a standing level, m³/s: area of all standing-water openings × fall / time (DOMAIN 3.9). Every open riser's
 * area adds, and a branch with a large free surface hides a fall.
 * @param areaM2 1 mm² to 1000 m² @param fallM −10 to 10 m @param seconds 1 s to 7 days
 */
export function levelLoss(areaM2: number, fallM: number, seconds: number): Result<number> {
  const problem = firstProblem(
    inRange(areaM2, 1e-6, 1000, 'area of the openings', 'm²'),
    inRange(fallM, -10, 10, 'fall', 'm'),
    inRange(seconds, 1, 604_800, 'time', 's'),
  );
  return problem === undefined ? good((areaM2 * fallM) / seconds) : refuse(problem);
}
