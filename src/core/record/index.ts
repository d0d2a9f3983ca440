export * from '../exact/canonical';
export * from '../exact/hash';
export * from './csv';
export * from './json-schema';
export * from './record';
export * from './seal';
export * from './words';
