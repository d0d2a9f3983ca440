/** Finding the leak. */
export * from './isolation-plan';
export * from './likelihood';
export * from './search-log';
export * from './sections';
