export * from '../plants/plant';
export * from '../plants/random';
export * from './detection';
export * from './plants';
export * from './simulated-gauge';
export * from './technician';
