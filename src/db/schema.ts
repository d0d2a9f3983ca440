/* All tables. Nothing else reads them by their files. */
export * from './accounts';
export * from './exchange';
export * from './follow-ups';
export * from './papers';
export * from './register';
export * from './tests';
