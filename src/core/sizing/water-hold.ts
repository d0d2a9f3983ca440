import { smallestVisibleLeak } from '../physics/hold-sight';
import { filledStiffness, type WallMaterial, wallAndWater } from '../physics/water-stiffness';
import { fromSi, good, type PressureUnit, type Result, referencePressure, toSi, unitLabel } from '../quantities';

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

/** Options of a question for the pipe. */
export const waterPipeOptions = (Object.keys(waterPipes) as WaterPipe[]).map((key) => [key, waterPipes[key].label] as const);

/** Softness of water and wall, 1/GPa, of a pipe's usual size (DOMAIN 3.7). */
export function softnessOf(pipe: WaterPipe): number {
  const { wall, outsideMm, wallMm } = waterPipes[pipe];
  const soft = wallAndWater({ material: wall, outsideM: outsideMm / 1000, wallM: wallMm / 1000 });
  return soft.ok ? soft.value * 1e9 : 1;
}

/** Trapped air that a filled system is taken to hold where nobody has measured it: 1 % by volume at atmospheric pressure. */
const usualAir = 0.01;

/** Stiffness of a filled pipe of the usual size with the usual air at a gauge pressure, Pa (DOMAIN 3.7). */
export function usualStiffness(pipe: WaterPipe, gaugePa: number): Result<number> {
  const { wall, outsideMm, wallMm } = waterPipes[pipe];
  const absolutePa = gaugePa + referencePressure;
  return filledStiffness({
    material: wall,
    outsideM: outsideMm / 1000,
    wallM: wallMm / 1000,
    airFraction: (usualAir * referencePressure) / absolutePa,
    absolutePa,
  });
}

export interface WaterHold {
  readonly litres: number;
  readonly pipe: WaterPipe;
  /** Start of the hold, gauge, and the threshold, both in `unit`. */
  readonly pressure: string;
  readonly threshold: string;
  readonly unit: PressureUnit;
}

/**
 * Smallest leak that a hold of water can show, L/h rounded up, with its working: the water that a fall of one threshold
 * lets go, V·δ/K (DOMAIN 3.7), over the time. Soft pipe and trapped air make a leak that the gauge hardly shows.
 */
export function waterSight(hold: WaterHold, seconds: number): Result<{ readonly litresPerHour: string; readonly working: string }> {
  const { litres, pipe, pressure, threshold, unit } = hold;
  const { label } = waterPipes[pipe];
  const stiffness = usualStiffness(pipe, toSi(Number(pressure), unit));
  if (!stiffness.ok) return stiffness;
  const thresholdPa = toSi(Number(threshold), unit);
  // The gas formula V·δ/(p_ref·t) with the stiffness in the place of the reference pressure.
  const leak = smallestVisibleLeak({ volumeM3: litres / 1000, unseenPa: (thresholdPa * referencePressure) / stiffness.value, seconds });
  if (!leak.ok) return leak;
  const litresPerHour = (Math.ceil(fromSi(leak.value, 'L/h') * 1e4) / 1e4).toFixed(4);
  return good({
    litresPerHour,
    working: `${litres.toFixed(1)} L of water in ${label.toLowerCase()} with ${usualAir * 100} % of trapped air: stiffness ${(stiffness.value / 1e6).toFixed(0)} MPa. A fall of ${threshold} ${unitLabel(unit)} is ${(((litres * thresholdPa) / stiffness.value) * 1000).toFixed(2)} mL, in ${Math.round(seconds / 60)} min ${litresPerHour} L/h.`,
  });
}
