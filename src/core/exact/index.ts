export { datedAt, dateText, localDate, type Observed } from './calendar';
export { canonical, type Json } from './canonical';
export * from './decimal';
export { misfit } from './fit';
export { sha256, sha256Bytes } from './hash';
export * from './shape';
export * from './storable';
