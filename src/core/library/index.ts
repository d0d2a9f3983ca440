/** Procedures and plans as people read them. */
export * from './compare';
export * from './plan-text';
export * from './procedure-view';
export * from './search';
export * from './together';
