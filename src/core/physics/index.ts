export * from './gas-leak';
export * from './gas-temperature';
export * from './hold-sight';
