/** Procedures and plans as people read them. */
export * from './compare';
export * from './plan-text';
export * from './procedure-view';
export { type Proved, proved } from './proved';
export * from './search';
export * from './together';
