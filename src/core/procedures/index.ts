import { domesticGasMillibar } from './domestic-gas-millibar';
import { drainLevel } from './drain-level';
import { ductTightness } from './duct-tightness';
import { gasLeakRateProcedure } from './gas-leak-rate';
import { gasPipingPsi } from './gas-piping-psi';
import { heatingHydraulic } from './heating-hydraulic';
import { meterTurnOn } from './meter-turn-on';
import { poolDye } from './pool-dye';
import { poolLines } from './pool-lines';
import type { Procedure } from './procedure';
import { propaneTank } from './propane-tank';
import { propaneVehicle } from './propane-vehicle';
import { refrigerantNitrogen } from './refrigerant-nitrogen';
import { rigCheck } from './rig-check';
import { underfloorManifold } from './underfloor-manifold';
import { vehicleWater } from './vehicle-water';
import { waterIsolation } from './water-isolation';
import { waterMainMakeUp } from './water-main-make-up';

/** The library. A procedure is added by adding its folder and naming it here. */
export const procedures: readonly Procedure[] = [
  domesticGasMillibar,
  meterTurnOn,
  gasPipingPsi,
  propaneVehicle,
  propaneTank,
  gasLeakRateProcedure,
  waterIsolation,
  drainLevel,
  vehicleWater,
  heatingHydraulic,
  underfloorManifold,
  waterMainMakeUp,
  refrigerantNitrogen,
  poolLines,
  poolDye,
  ductTightness,
  rigCheck,
];

export const procedureById = (id: string): Procedure | undefined => procedures.find((procedure) => procedure.id === id);

/** The procedures for a kind of system, the usual one first. */
export const proceduresFor = (systemKind: string): readonly Procedure[] =>
  procedures.filter((procedure) => procedure.systemKinds.some((kind) => kind === systemKind));

export * from '../course/phases';
export * from './procedure';
