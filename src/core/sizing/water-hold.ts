import type { Contents } from '../limits';
import type { MainMaterial } from '../physics/main-allowance';
import {
  filledStiffness,
  type WallMaterial,
  wallAndWater,
  wallMaterials,
  waterBulkModulus,
  waterExpansion,
} from '../physics/water-stiffness';
import { type Result, referencePressure } from '../quantities';
import type { PipeMaterial, PipeRun } from './pipe-volume';

/** Pipe materials that water systems are asked for, with the size that stands for them: outside and wall, mm. */
export const waterPipes = {
  copper: { label: 'Copper', wall: 'copper', outsideMm: 22, wallMm: 0.9, soft: false },
  steel: { label: 'Steel', wall: 'steel', outsideMm: 26.9, wallMm: 2.6, soft: false },
  PVC: { label: 'PVC', wall: 'PVC', outsideMm: 26.7, wallMm: 2.9, soft: false },
  PEX: { label: 'PEX', wall: 'PEX', outsideMm: 16, wallMm: 2, soft: true },
  multilayer: { label: 'Multilayer', wall: 'multilayer', outsideMm: 16, wallMm: 2, soft: true },
} as const satisfies Record<string, { label: string; wall: WallMaterial; outsideMm: number; wallMm: number; soft: boolean }>;
export type WaterPipe = keyof typeof waterPipes;

export const isSoft = (pipe: string): boolean => waterPipes[pipe as WaterPipe]?.soft === true;

const pipeOf: Partial<Record<PipeMaterial, WaterPipe>> = { cu: 'copper', 'cu-inch': 'copper', steel: 'steel', 'pex-inch': 'PEX' };

/** The pipe that a schedule names, where it names one alone and its words leave no choice: `16x2` may be PEX or multilayer. */
export function pipeOfRuns(runs: readonly Pick<PipeRun, 'material'>[]): WaterPipe | undefined {
  const [first, ...others] = runs.map(({ material }) => pipeOf[material]);
  return others.every((one) => one === first) ? first : undefined;
}

/** Options of a question for the pipe. */
export const waterPipeOptions = (Object.keys(waterPipes) as WaterPipe[]).map((key) => [key, waterPipes[key].label] as const);

/** Softness of water and wall, 1/GPa, of a pipe's usual size (DOMAIN 3.7). */
export function softnessOf(pipe: WaterPipe): number {
  const { wall, outsideMm, wallMm } = waterPipes[pipe];
  const soft = wallAndWater({ material: wall, outsideM: outsideMm / 1000, wallM: wallMm / 1000 });
  return soft.ok ? soft.value * 1e9 : 1;
}

/** Trapped air that a filled system is taken to hold where nobody has measured it, as a share of the volume at the test pressure (DOMAIN 3.3). */
const usualAir = 0.01;

/** Stiffness of a filled pipe of the usual size with the usual air at a gauge pressure, Pa (DOMAIN 3.7). */
export function usualStiffness(pipe: WaterPipe, gaugePa: number): Result<number> {
  const { wall, outsideMm, wallMm } = waterPipes[pipe];
  const absolutePa = gaugePa + referencePressure;
  return filledStiffness({ material: wall, outsideM: outsideMm / 1000, wallM: wallMm / 1000, airFraction: usualAir, absolutePa });
}

/** Air of so much by volume at atmospheric pressure, in % at a gauge pressure: what an air test finds or allows. */
export const airAtPressure = (share: number, gaugePa: number): string =>
  ((share * 100 * referencePressure) / (gaugePa + referencePressure)).toFixed(3);

/**
 * What a system of water holds, for what its test can see (DOMAIN 3.3, 3.7).
 * @param litres nothing where it is not known @param allowed air that an air test lets through, % at the test pressure
 */
export function waterIn(litres: number, pipe: WaterPipe, allowed?: string): Contents {
  if (!(litres > 0)) return { kind: 'unknown' };
  const { wall, label } = waterPipes[pipe];
  const { expansion } = wallMaterials[wall];
  return {
    kind: 'water',
    litres: litres.toFixed(3),
    pipe: label,
    softness: softnessOf(pipe).toFixed(6),
    airPercent: allowed ?? String(usualAir * 100),
    airIs: allowed === undefined ? 'assumed' : 'allowed',
    expansionPpm: expansion === undefined ? undefined : (Math.abs(waterExpansion - 3 * expansion) * 1e6).toFixed(3),
  };
}

/** Bore over wall that stands for mains, and their modulus, Pa. */
const mains = { iron: [30, 165e9, 12e-6], steel: [60, 200e9, 12e-6], PVC: [18, 3e9, 70e-6] } as const;

/** What a water main holds: its bore over its length, the usual air (DOMAIN 3.3, 3.7). Lengths in m. */
export function mainIn(material: MainMaterial, lengthM: number, diameterM: number): Contents {
  const [boreOverWall, modulus, expansion] = mains[material];
  return {
    kind: 'water',
    litres: ((Math.PI / 4) * diameterM ** 2 * lengthM * 1000).toFixed(3),
    pipe: material,
    softness: ((1 / waterBulkModulus + boreOverWall / modulus) * 1e9).toFixed(6),
    airPercent: String(usualAir * 100),
    airIs: 'assumed',
    expansionPpm: (Math.abs(waterExpansion - 3 * expansion) * 1e6).toFixed(3),
  };
}
