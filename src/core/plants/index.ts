/** Parts of simulated plants. */
export * from './gas-plant';
export * from './gas-scale';
export * from './hydraulic-plant';
export * from './plant';
export * from './random';
export * from './stepped-track';
export * from './trial';
