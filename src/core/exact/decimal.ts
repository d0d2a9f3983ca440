/**
 * Exact decimals: value = digits / 10^scale. Readings and limits are compared in these, never in binary fractions,
 * because 20.2 − 20.0 in binary falls short of 0.2 and a fall that reaches a limit would pass as "below" it.
 */
export interface Decimal {
  readonly digits: bigint;
  readonly scale: number;
}

const plain = /^([+-]?)(\d+)(?:\.(\d+))?$/;

/** Reads `-20.50`; keeps the trailing zeros (they are the typed precision). Undefined for anything else. */
export function readDecimal(text: string): Decimal | undefined {
  const match = plain.exec(text);
  if (match === null) return undefined;
  const [, sign, whole, part = ''] = match;
  const magnitude = BigInt(whole + part);
  return { digits: sign === '-' ? -magnitude : magnitude, scale: part.length };
}

/** As `readDecimal`, for figures that the program itself wrote. @throws RangeError when they are no decimal. */
export function decimal(text: string): Decimal {
  const known = kept.get(text);
  if (known !== undefined) return known;
  const value = readDecimal(text);
  if (value === undefined) throw new RangeError(`not a decimal: ${text}`);
  if (kept.size >= mostKept) kept.clear();
  kept.set(text, value);
  return value;
}
/** A plan's figures are read over and over: the last so many are kept as they were read. */
const kept = new Map<string, Decimal>();
const mostKept = 500;

const powers: readonly bigint[] = Array.from({ length: 40 }, (_, exponent) => 10n ** BigInt(exponent));
const power = (exponent: number): bigint => powers[exponent] ?? 10n ** BigInt(exponent);

const aligned = (a: Decimal, b: Decimal): readonly [bigint, bigint, number] => {
  const scale = Math.max(a.scale, b.scale);
  return [a.digits * power(scale - a.scale), b.digits * power(scale - b.scale), scale];
};

export const add = (a: Decimal, b: Decimal): Decimal => {
  const [x, y, scale] = aligned(a, b);
  return { digits: x + y, scale };
};

export const negate = (a: Decimal): Decimal => ({ digits: -a.digits, scale: a.scale });
export const subtract = (a: Decimal, b: Decimal): Decimal => add(a, negate(b));
export const multiply = (a: Decimal, b: Decimal): Decimal => ({ digits: a.digits * b.digits, scale: a.scale + b.scale });
export const absolute = (a: Decimal): Decimal => (a.digits < 0n ? negate(a) : a);

/** −1, 0 or 1 as a is below, equal to or above b; exact. */
export function compare(a: Decimal, b: Decimal): -1 | 0 | 1 {
  const [x, y] = aligned(a, b);
  return x < y ? -1 : x > y ? 1 : 0;
}

export const atLeast = (a: Decimal, b: Decimal): boolean => compare(a, b) >= 0;
export const atMost = (a: Decimal, b: Decimal): boolean => compare(a, b) <= 0;

export type Rounding = 'nearest' | 'up' | 'down';

/** Rounds to `scale` decimals: nearest (halves away from zero), up (towards +∞) or down (towards −∞). */
export function round(a: Decimal, scale: number, rounding: Rounding = 'nearest'): Decimal {
  if (a.scale <= scale) return { digits: a.digits * power(scale - a.scale), scale };
  const step = power(a.scale - scale);
  let whole = a.digits / step;
  const rest = a.digits % step;
  if (rest !== 0n) {
    if (rounding === 'nearest') {
      if ((rest < 0n ? -rest : rest) * 2n >= step) whole += a.digits < 0n ? -1n : 1n;
    } else if (rounding === 'up' && rest > 0n) whole += 1n;
    else if (rounding === 'down' && rest < 0n) whole -= 1n;
  }
  return { digits: whole, scale };
}

/** True when a is a whole number of steps; step must not be zero. */
export function isMultipleOf(a: Decimal, step: Decimal): boolean {
  const [x, y] = aligned(a, step);
  return y !== 0n && x % y === 0n;
}

export function toText(a: Decimal): string {
  const negative = a.digits < 0n;
  const text = (negative ? -a.digits : a.digits).toString().padStart(a.scale + 1, '0');
  const cut = text.length - a.scale;
  return (negative ? '-' : '') + (a.scale === 0 ? text : `${text.slice(0, cut)}.${text.slice(cut)}`);
}

/** For drawing and physics only, never for a comparison with a limit. */
export const toNumber = (a: Decimal): number => Number(toText(a));

/** The decimal nearest to a computed number at `scale` decimals: the stated rounding step of computed quantities. */
export function fromNumber(value: number, scale: number): Decimal | undefined {
  if (!(Number.isFinite(value) && Math.abs(value) < 1e15)) return undefined;
  return decimal(value.toFixed(scale));
}
