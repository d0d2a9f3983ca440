export * from './decimal';
export * from './display';
export * from './parse';
export * from './pressure';
export * from './result';
export * from './units';
