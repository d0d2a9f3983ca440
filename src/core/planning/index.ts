export * from '../sizing/gauge';
export * from '../sizing/pipe-volume';
export { exampleInput } from './example-input';
export { figuresOf, type Standing, standingOf } from './former';
export { type Without, withoutSupply } from './notice';
export * from './plan';
export * from './sharpen';
export { alarmsOf, type Day, type DayTest, sideBySide } from './side-by-side';
export { supplyClash } from './supplies';
