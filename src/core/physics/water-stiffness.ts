import { bad, firstProblem, good, inRange, type Result, refuse } from '../quantities/result';

/** Bulk modulus of water, Pa, and its expansion at 20 °C, 1/K (DOMAIN 3.7). */
export const waterBulkModulus = 2.19e9;
export const waterExpansion = 2.07e-4;
const aluminiumModulus = 70e9;

/** Pipe materials by their modulus, Pa, and linear expansion, 1/K, where the pipe is rigid enough to give a sign. */
export const wallMaterials = {
  steel: { label: 'Steel', modulus: 200e9, expansion: 12e-6 },
  copper: { label: 'Copper', modulus: 117e9, expansion: 17e-6 },
  PVC: { label: 'PVC', modulus: 3e9, expansion: 70e-6 },
  PE: { label: 'PE', modulus: 0.9e9, expansion: undefined },
  PEX: { label: 'PEX', modulus: 0.7e9, expansion: undefined },
  multilayer: { label: 'Multilayer', modulus: 0.7e9, expansion: undefined },
} as const;
export type WallMaterial = keyof typeof wallMaterials;

export interface FilledPipe {
  readonly material: WallMaterial;
  /** Outside diameter and wall, m (2 mm to 4 m; wall under half of it). */
  readonly outsideM: number;
  readonly wallM: number;
  /** Aluminium layer of a multilayer pipe, m; 0.2 mm when left out. */
  readonly aluminiumM?: number;
  /** Trapped air as a fraction of the volume at the pressure given, 0 to 0.5. */
  readonly airFraction: number;
  readonly absolutePa: number;
}

const checkPipe = ({ outsideM, wallM, aluminiumM = 0 }: Pick<FilledPipe, 'outsideM' | 'wallM' | 'aluminiumM'>) =>
  firstProblem(
    inRange(outsideM, 0.002, 4, 'outside diameter', 'm'),
    inRange(wallM, 1e-4, 0.5, 'wall', 'm'),
    inRange(wallM, 1e-4, outsideM / 2, 'wall, under half the diameter,', 'm'),
    inRange(aluminiumM, 0, wallM, 'aluminium layer, inside the wall,', 'm'),
  );

/** Softness that water and wall add to a filled pipe, 1/Pa: 1/K_water + D/(E·e), D the mean diameter. */
export function wallAndWater(pipe: Pick<FilledPipe, 'material' | 'outsideM' | 'wallM' | 'aluminiumM'>): Result<number> {
  const { material, outsideM, wallM, aluminiumM = material === 'multilayer' ? Math.min(2e-4, wallM) : 0 } = pipe;
  const problem = checkPipe({ outsideM, wallM, aluminiumM });
  if (problem !== undefined) return refuse(problem);
  const layer = material === 'multilayer' ? aluminiumModulus * aluminiumM : 0;
  return good(1 / waterBulkModulus + (outsideM - wallM) / (wallMaterials[material].modulus * wallM + layer));
}

/**
 * Stiffness of a closed, water-filled pipe, Pa: 1/K = 1/K_water + D/(E·e) + α/p_abs (DOMAIN 3.7). A loss dV moves the
 * gauge by dp = dV/V·K, so trapped air and soft pipe hide leaks.
 * @example copper 22 × 0.9 without air: 1.522 GPa; PEX 16 × 2: 95.6 MPa, with 1 % air at 5 bar: 36.9 MPa
 */
export function filledStiffness(pipe: FilledPipe): Result<number> {
  const soft = wallAndWater(pipe);
  if (!soft.ok) return soft;
  const problem = firstProblem(
    inRange(pipe.airFraction, 0, 0.5, 'air fraction', ''),
    inRange(pipe.absolutePa, 10_000, 1e8, 'pressure', 'Pa absolute'),
  );
  return problem === undefined ? good(1 / (soft.value + pipe.airFraction / pipe.absolutePa)) : refuse(problem);
}

/** Gauge movement for a loss of water, Pa: dp = dV/V·K. @param lossM3 at most a tenth of the volume */
export function fallForLoss(lossM3: number, volumeM3: number, stiffnessPa: number): Result<number> {
  const problem = firstProblem(
    inRange(volumeM3, 1e-6, 1e5, 'volume', 'm³'),
    inRange(lossM3, 0, volumeM3 / 10, 'loss, up to a tenth of the volume,', 'm³'),
    inRange(stiffnessPa, 1e3, 1e11, 'stiffness', 'Pa'),
  );
  return problem === undefined ? good((lossM3 / volumeM3) * stiffnessPa) : refuse(problem);
}

/**
 * Pressure change of a closed, full, rigid pipe for a kelvin, Pa/K: dp/dT = (β_water − 3·α_pipe)·K, at 20 °C (DOMAIN 3.7).
 * @returns `no-sign` for PE, PEX and multilayer: sun may raise or lower their gauge
 */
export function waterSensitivity(material: WallMaterial, stiffnessPa: number): Result<number> {
  const { expansion } = wallMaterials[material];
  if (expansion === undefined)
    return bad(
      'no-sign',
      `${wallMaterials[material].label}: sun and warming may raise or lower the gauge; no figure can be given.`,
      'material',
    );
  const problem = inRange(stiffnessPa, 1e3, 1e11, 'stiffness', 'Pa');
  return problem === undefined ? good((waterExpansion - 3 * expansion) * stiffnessPa) : refuse(problem);
}
