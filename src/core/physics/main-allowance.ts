import { bad, firstProblem, good, inRange, type Result, refuse } from '../quantities/result';
import { fromSi, toSi } from '../quantities/units';

/** Materials whose mains the allowance is meant for. Plastic that creeps needs its own method (DOMAIN 3.8). */
export const mainMaterials = ['iron', 'steel', 'PVC'] as const;
export type MainMaterial = (typeof mainMaterials)[number];

export interface MainUnderTest {
  readonly material: MainMaterial | 'PE';
  /** Length, m (1 m to 100 km), and nominal diameter, m (0.02 to 4). */
  readonly lengthM: number;
  readonly diameterM: number;
  /** Mean of the start and the low pressure, Pa gauge (10 kPa to 10 MPa). */
  readonly meanPa: number;
  /** Reckoned by the rule in feet, inches and psi, where the main was given so: the two roundings of it differ in the sixth digit. */
  readonly customary?: boolean;
}

/**
 * Make-up allowed to a water main, m³/s: L/h = S·D·√P / 794 798 with S in m, D in mm and P in kPa, which is
 * S·D·√P / 148 000 in US gal/h with ft, in and psi (DOMAIN 3.8). An area rule of practice, not a law of nature.
 * @returns `main-creeps` for PE, whose creep takes up water in a sound pipe
 * @example mainAllowance({ material: 'iron', lengthM: 402.336, diameterM: 0.2032, meanPa: toSi(155, 'psi') }) // 3.363 L/h
 */
export function mainAllowance({ material, lengthM, diameterM, meanPa, customary = false }: MainUnderTest): Result<number> {
  if (material === 'PE')
    return bad(
      'main-creeps',
      'Polyethylene creeps and takes up water without leaking: this allowance does not apply to it. Use a method made for PE mains.',
      'material',
    );
  const problem = firstProblem(
    inRange(lengthM, 1, 100_000, 'length', 'm'),
    inRange(diameterM, 0.02, 4, 'diameter', 'm'),
    inRange(meanPa, 10_000, 1e7, 'mean pressure', 'Pa'),
  );
  if (problem !== undefined) return refuse(problem);
  if (customary)
    return good(toSi((fromSi(lengthM, 'ft') * fromSi(diameterM, 'in') * Math.sqrt(fromSi(meanPa, 'psi'))) / 148_000, 'galUS/h'));
  return good((lengthM * diameterM * 1000 * Math.sqrt(meanPa / 1000)) / 794_798 / 3.6e6);
}

/** Mean of the start and low pressures of a main's hold, Pa gauge. */
export const meanPressure = (startPa: number, lowPa: number): number => (startPa + lowPa) / 2;
