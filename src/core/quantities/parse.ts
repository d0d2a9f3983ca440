import { add, type Decimal, decimal, negate, readDecimal } from '../exact/decimal';
import { bad, good, type Result } from './result';
import { type Unit, type UnitKind, unitKind, unitLabel, unitsOf } from './units';

/** A quantity as typed: its exact value, its unit, and the text itself for the record. */
export interface Typed {
  readonly value: Decimal;
  readonly unit: Unit;
  readonly text: string;
}

/** What people write after a number, beside the unit's own name; lower case, without spaces and dots. */
const aliases: Record<string, readonly Unit[]> = {
  '"': ['in', 'inH2O'],
  '”': ['in', 'inH2O'],
  "''": ['in', 'inH2O'],
  "'": ['ft'],
  inch: ['in'],
  inches: ['in'],
  inwc: ['inH2O'],
  inwg: ['inH2O'],
  '"wc': ['inH2O'],
  '"wg': ['inH2O'],
  mmwc: ['mmH2O'],
  mwc: ['mH2O'],
  ftwc: ['ftH2O'],
  psig: ['psi'],
  barg: ['bar'],
  mb: ['mbar'],
  feet: ['ft'],
  metre: ['m'],
  metres: ['m'],
  litre: ['L'],
  litres: ['L'],
  l: ['L'],
  gal: ['galUS'],
  usgal: ['galUS'],
  'usgal/h': ['galUS/h'],
  'gal/h': ['galUS/h'],
  gph: ['galUS/h'],
  lph: ['L/h'],
  lpm: ['L/min'],
  cuft: ['ft3'],
  cfm: ['CFM'],
  cfh: ['ft3/h'],
  sqft: ['ft2'],
  'kgf/cm2': ['at'],
  kgfcm2: ['at'],
  minutes: ['min'],
  sec: ['s'],
  seconds: ['s'],
  hour: ['h'],
  hours: ['h'],
  k: ['kelvin'],
  c: ['kelvin'],
  percent: ['%'],
};

const digitsOnly = (suffix: string): string => suffix.replace(/[\s.]/g, '').replace(/₂|²/g, '2').replace(/₃|³/g, '3').replace(/°/g, '');

function readUnit(suffix: string, kind: UnitKind): Result<Unit> {
  const written = digitsOnly(suffix);
  const offered = unitsOf(kind);
  // MPa and mPa differ by a billion, so the exact spelling goes first and a careless case is only then forgiven.
  const exact = offered.find((unit) => unit === written);
  if (exact !== undefined) return good(exact);
  const forgiven = offered.filter((unit) => unit.toLowerCase() === written.toLowerCase());
  if (forgiven.length === 1 && written !== 'mPa' && written !== 'mpa') return good(forgiven[0]);
  const alias = (aliases[written.toLowerCase()] ?? []).find((unit) => unitKind(unit) === kind);
  if (alias !== undefined) return good(alias);
  return bad('unit-unknown', `“${suffix.trim()}” is not a unit of ${kind} known here. Use one of ${offered.map(unitLabel).join(', ')}.`);
}

const fractionPart = /^([+-]?)(?:(\d+)(?:\s+|\s*-\s*))?(\d+)\s*\/\s*(\d+)/;
const numberPart = /^[+-]?(?:\d+(?:[.,]\d+)?|[.,]\d+)/;

/** Exact decimal of n/d, for denominators that end (2, 4, 5, 8, 10, 16 …). */
function exactFraction(numerator: string, denominator: string): Decimal | undefined {
  const under = BigInt(denominator);
  if (under === 0n) return undefined;
  for (let scale = 0; scale <= 9; scale += 1) {
    const over = BigInt(numerator) * 10n ** BigInt(scale);
    if (over % under === 0n) return { digits: over / under, scale };
  }
  return undefined;
}

function readNumber(text: string): Result<{ readonly value: Decimal; readonly rest: string }> {
  const fraction = fractionPart.exec(text);
  if (fraction !== null) {
    const [all, sign, whole = '0', over, under] = fraction;
    const part = exactFraction(over, under);
    if (part === undefined) return bad('fraction', `${over}/${under} is not a fraction of a scale; type it as a decimal.`);
    const value = add(decimal(whole), part);
    return good({ value: sign === '-' ? negate(value) : value, rest: text.slice(all.length) });
  }
  const match = numberPart.exec(text);
  if (match === null) return bad('not-a-number', `“${text}” is not a number. Type it like 20.5 or 7 1/2.`);
  const written = match[0];
  const rest = text.slice(written.length);
  if (/^[.,]?\d/.test(rest)) return bad('not-a-number', `“${text}” is not a number. Type it without thousands separators.`);
  if (/^[+-]?[1-9]\d{0,2},\d{3}$/.test(written))
    return bad('comma-ambiguous', `“${written}” can mean two things. Type ${written.replace(',', '')} or ${written.replace(',', '.')}.`);
  const tidy = written.replace(',', '.').replace(/^([+-]?)\./, '$10.');
  const value = readDecimal(tidy);
  return value === undefined ? bad('not-a-number', `“${text}” is not a number.`) : good({ value, rest });
}

/**
 * Reads a quantity as people write it: `7 1/2`, `7.5"`, `20,5 mbar`, `3psi`, `1-1/4`.
 * A value without a unit takes `assumed`, which the field shows beside itself.
 */
export function parseQuantity(text: string, kind: UnitKind, assumed: Unit): Result<Typed> {
  const clean = text.trim().replace(/−/g, '-');
  if (clean === '') return bad('empty', 'Type a figure.');
  const number = readNumber(clean);
  if (!number.ok) return number;
  const suffix = number.value.rest.trim();
  if (suffix === '') return good({ value: number.value.value, unit: assumed, text: clean });
  const unit = readUnit(suffix, kind);
  return unit.ok ? good({ value: number.value.value, unit: unit.value, text: clean }) : unit;
}
