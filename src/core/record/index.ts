export * from './canonical';
export * from './csv';
export * from './json-schema';
export * from './record';
export * from './seal';
export * from './sha256';
export * from './words';
