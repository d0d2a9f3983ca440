import { absolute, compare, type Decimal, decimal, round, toText } from '../exact/decimal';

/** Decimals that a readability shows: 0.1 → 1, 0.25 → 2, 5 → 0. */
export const decimalsOf = (readability: string): number => decimal(readability).scale;

/** A value as the gauge would show it, e.g. 2.9731 on a 0.1 gauge is `3.0`. Never finer than the gauge. */
export const showAt = (value: Decimal, readability: string): string => toText(round(value, decimalsOf(readability)));

/**
 * Reads keypad digits for a gauge: with no point typed, a figure too large to be meant literally takes the gauge's own
 * decimals, so that `205` on a one-decimal gauge near 20 is 20.5.
 * @param text digits as typed, with or without a point or comma
 * @param readability the gauge's finest step, e.g. `0.1`
 * @param plausible the largest literal value that can be meant, in the gauge's unit
 */
export function readKeypad(text: string, readability: string, plausible: string): Decimal | undefined {
  const tidy = text.trim().replace(',', '.');
  if (!/^-?\d+(\.\d*)?$/.test(tidy)) return undefined;
  const literal = decimal(tidy.replace(/\.$/, ''));
  const decimals = decimalsOf(readability);
  if (tidy.includes('.') || decimals === 0 || compare(absolute(literal), decimal(plausible)) <= 0) return literal;
  return { digits: literal.digits, scale: decimals };
}
