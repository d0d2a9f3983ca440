/** What procedures size things by: volumes, times, sight, gauges, plugs, rings, regulators. */
export * from './appliances';
export * from './components';
export * from './gas-hold';
export * from './gauge';
export * from './guard-gauge';
export * from './line-groups';
export * from './line-map';
export { type MeasuredSteps, measuredLine, measuredSteps } from './measured-line';
export * from './pipe-volume';
export * from './plugs';
export * from './regulator';
export * from './rings';
export * from './serviceability';
export * from './volume-hold';
export * from './water-hold';
