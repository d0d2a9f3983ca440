export * from './boundaries';
export * from './course';
export * from './estimate';
export * from './events';
export { inBand } from './exact';
export * from './judge';
export type { NextStep } from './next-steps';
export { readingFault } from './readings';
export { type Finding, type ReasonCode, reasons, type Weight } from './reasons';
