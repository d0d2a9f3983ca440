import { type Unit, unitLabel } from '../quantities';

/** A look at the guard gauge in words. */
export const guardText = (value: string, unit: Unit, celsius: string | undefined): string =>
  `${value} ${unitLabel(unit)}${celsius === undefined ? '' : `, ${celsius} °C`}`;
