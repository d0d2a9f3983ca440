export { fitDuct, flowAt, impliedExponent, usualExponent } from './duct-flow';
export * from './gas-leak';
export * from './gas-temperature';
export * from './hold-sight';
export { mainAllowance, meanPressure } from './main-allowance';
