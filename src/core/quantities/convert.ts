import { toNumber, toText } from '../exact/decimal';
import { parseQuantity } from './parse';
import { fromSi, toSi, type Unit, type UnitKind, unitLabel } from './units';

/**
 * What somebody typed, in another unit: `402 m` as `1319 ft`. Exact where the unit stays; else rounded to four digits, which is more
 * than anybody measures with, and never to nothing.
 * @param text a figure with its unit, or without one, then in `assumed`
 * @returns the figure alone, in `to`; undefined where the text is no figure
 */
export function convertTyped(text: string, kind: UnitKind, assumed: Unit, to: Unit): string | undefined {
  const typed = parseQuantity(text, kind, assumed);
  if (!typed.ok) return undefined;
  const { value, unit } = typed.value;
  if (unit === to) return toText(value);
  return String(Number(fromSi(toSi(toNumber(value), unit), to).toPrecision(4)));
}

/** The unit that a figure is in: the one typed, else the assumed one. */
export function unitTyped(text: string, kind: UnitKind, assumed: Unit): Unit {
  const typed = parseQuantity(text, kind, assumed);
  if (typed.ok) return typed.value.unit;
  // A unit alone, its figure still to come.
  const alone = parseQuantity(`1 ${text.trim()}`, kind, assumed);
  return alone.ok ? alone.value.unit : assumed;
}

/** A figure with its unit, as an answer keeps it: the assumed unit is not written. */
export const typedIn = (figure: string, unit: Unit, assumed: Unit): string => {
  const bare = figure.trim();
  return unit === assumed || bare === '' ? bare : `${bare} ${unitLabel(unit)}`;
};
