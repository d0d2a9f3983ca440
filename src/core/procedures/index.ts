import { domesticGasMillibar } from './domestic-gas-millibar';
import type { Procedure } from './procedure';

/** The library. A procedure is added by adding its file and naming it here. */
export const procedures: readonly Procedure[] = [domesticGasMillibar];

export const procedureById = (id: string): Procedure | undefined => procedures.find((procedure) => procedure.id === id);

export type * from './phases';
export type * from './procedure';
