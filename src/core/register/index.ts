/** What a firm keeps besides its tests: sites, systems, components, instruments, equipment, visits. */
export type * from './along';
export { bareInstrument } from './bare-instrument';
export * from './calibration';
export * from './change';
export * from './component-words';
export { faultOf, isCalendarDay, shownKinds } from './faults';
export * from './follow-ups';
export * from './search';
export * from './sheets';
export * from './things';
export * from './twins';
