export * from '../exact/decimal';
export { convertTyped, typedIn as typedWith, unitTyped } from './convert';
export * from './display';
export * from './parse';
export * from './pressure';
export * from './read';
export * from './result';
export * from './units';
