import type { Calculation } from './calculation';
import { ductPoints } from './duct-points';
import { holdTime } from './hold-time';
import { leakRate } from './leak-rate';
import { makeUp } from './make-up';
import { refrigerant } from './refrigerant';
import { staticHeadCalculation } from './static-head';
import { stiffness } from './stiffness';
import { storedEnergyCalculation } from './stored-energy';
import { temperature } from './temperature';
import { testDial } from './test-dial';
import { volume } from './volume';

/** The calculations of Bench, the ones asked for most first. */
export const calculations: readonly Calculation[] = [
  leakRate,
  volume,
  holdTime,
  temperature,
  testDial,
  ductPoints,
  makeUp,
  refrigerant,
  stiffness,
  staticHeadCalculation,
  storedEnergyCalculation,
];

export const calculationById = (id: string): Calculation | undefined => calculations.find((calculation) => calculation.id === id);

export * from './address';
export * from './calculation';
export * from './units';
