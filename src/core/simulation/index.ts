export * from './gas-plant';
export * from './random';
export * from './scenarios';
export * from './simulated-gauge';
export * from './technician';
