import { domesticGasMillibar } from './domestic-gas-millibar';
import { ductTightness } from './duct-tightness';
import { gasPipingPsi } from './gas-piping-psi';
import type { Procedure } from './procedure';
import { waterMainMakeUp } from './water-main-make-up';

/** The library. A procedure is added by adding its file and naming it here. */
export const procedures: readonly Procedure[] = [domesticGasMillibar, gasPipingPsi, waterMainMakeUp, ductTightness];

export const procedureById = (id: string): Procedure | undefined => procedures.find((procedure) => procedure.id === id);

/** The procedures for a kind of system, the usual one first. */
export const proceduresFor = (systemKind: string): readonly Procedure[] =>
  procedures.filter((procedure) => procedure.systemKind === systemKind);

export * from './phases';
export * from './procedure';
