export * from '../sizing/gauge';
export * from '../sizing/pipe-volume';
export * from './plan';
