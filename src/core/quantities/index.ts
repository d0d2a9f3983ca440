export * from '../exact/decimal';
export * from './display';
export * from './parse';
export * from './pressure';
export * from './read';
export * from './result';
export * from './units';
