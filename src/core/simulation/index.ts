export * from './plant';
export * from './plants';
export * from './random';
export * from './simulated-gauge';
export * from './technician';
