export * from './gauge';
export * from './pipe-volume';
export * from './plan';
