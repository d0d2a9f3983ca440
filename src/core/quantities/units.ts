import { compare, type Decimal, decimal, multiply, toNumber } from '../exact/decimal';

/**
 * Units with their exact factor to SI. Factors are decimals, so that a limit in one unit and a reading in another are
 * still compared exactly. Temperature is affine and has its own functions below.
 */
const table = {
  pressure: {
    Pa: '1',
    hPa: '100',
    mbar: '100',
    kPa: '1000',
    bar: '100000',
    MPa: '1000000',
    psi: '6894.757293',
    inH2O: '249.08891',
    mmH2O: '9.80665',
    mH2O: '9806.65',
    ftH2O: '2989.06692',
    atm: '101325',
    at: '98066.5',
  },
  volume: { L: '0.001', m3: '1', ft3: '0.028316846592', galUS: '0.003785411784', mL: '0.000001' },
  length: { mm: '0.001', m: '1', in: '0.0254', ft: '0.3048' },
  area: { m2: '1', ft2: '0.09290304' },
  time: { s: '1', min: '60', h: '3600' },
  turns: { turn: '1' },
  count: { pcs: '1' },
  /** A difference of temperature, which unlike a temperature has a plain factor. */
  difference: { kelvin: '1' },
  share: { '%': '0.01' },
} as const;

/** Flow factors are not finite decimals (an hour divides by 3600), so a flow is numerator volume over time. */
const flowTable = {
  'L/h': ['0.001', '3600'],
  'L/min': ['0.001', '60'],
  'mL/min': ['0.000001', '60'],
  'm3/h': ['1', '3600'],
  'ft3/h': ['0.028316846592', '3600'],
  CFM: ['0.028316846592', '60'],
  'L/s': ['0.001', '1'],
  'galUS/h': ['0.003785411784', '3600'],
} as const;

export type ExactKind = keyof typeof table;
export type UnitKind = ExactKind | 'flow' | 'temperature';
export type PressureUnit = keyof (typeof table)['pressure'];
export type VolumeUnit = keyof (typeof table)['volume'];
export type LengthUnit = keyof (typeof table)['length'];
export type AreaUnit = keyof (typeof table)['area'];
export type TimeUnit = keyof (typeof table)['time'];
export type FlowUnit = keyof typeof flowTable;
export type TurnUnit = keyof (typeof table)['turns'];
export type CountUnit = keyof (typeof table)['count'];
export type PlainUnit = keyof (typeof table)['difference'] | keyof (typeof table)['share'];
export const temperatureUnits = ['C', 'F', 'K'] as const;
export type TemperatureUnit = (typeof temperatureUnits)[number];
export type Unit =
  | PressureUnit
  | VolumeUnit
  | LengthUnit
  | AreaUnit
  | TimeUnit
  | FlowUnit
  | TurnUnit
  | CountUnit
  | PlainUnit
  | TemperatureUnit;

/** How a unit is printed; a unit not listed is printed as its name. */
const printed: Partial<Record<Unit, string>> = {
  inH2O: 'in WC',
  mmH2O: 'mmH₂O',
  mH2O: 'mH₂O',
  ftH2O: 'ftH₂O',
  m3: 'm³',
  ft3: 'ft³',
  galUS: 'US gal',
  m2: 'm²',
  ft2: 'ft²',
  'm3/h': 'm³/h',
  'ft3/h': 'ft³/h',
  'galUS/h': 'US gal/h',
  kelvin: 'K',
  pcs: '',
  C: '°C',
  F: '°F',
};

export const unitLabel = (unit: Unit): string => printed[unit] ?? unit;

export function unitKind(unit: Unit): UnitKind {
  for (const kind of Object.keys(table) as ExactKind[]) if (unit in table[kind]) return kind;
  return unit in flowTable ? 'flow' : 'temperature';
}

export const unitsOf = (kind: UnitKind): readonly Unit[] =>
  (kind === 'temperature' ? temperatureUnits : Object.keys(kind === 'flow' ? flowTable : table[kind])) as Unit[];

export const pressureUnits = unitsOf('pressure') as readonly PressureUnit[];
export const isPressureUnit = (unit: string): unit is PressureUnit => Object.hasOwn(table.pressure, unit);

/** A unit whose factor to SI is a finite decimal. */
export type ExactUnit = PressureUnit | VolumeUnit | LengthUnit | AreaUnit | TimeUnit | TurnUnit | CountUnit | PlainUnit;

/** Exact factor to SI of a unit that has one. */
export function exactFactor(unit: ExactUnit): Decimal {
  const kind = unitKind(unit) as ExactKind;
  return decimal((table[kind] as Record<string, string>)[unit]);
}

/** Exact value in SI (Pa, m³, m, m², s) of a decimal in a unit. */
export const exactSi = (value: Decimal, unit: ExactUnit): Decimal => multiply(value, exactFactor(unit));

const one = decimal('1');

/** Factor to SI as over / under, exact also for flows. Not for temperatures, which have no factor. */
function exactRatio(unit: Exclude<Unit, TemperatureUnit>): readonly [over: Decimal, under: Decimal] {
  if (!(unit in flowTable)) return [exactFactor(unit as ExactUnit), one];
  const [volume, seconds] = flowTable[unit as FlowUnit];
  return [decimal(volume), decimal(seconds)];
}

/** −1, 0 or 1 as one quantity is below, equal to or above another of its kind, whatever their units; exact. */
export function compareQuantities(
  a: Decimal,
  unit: Exclude<Unit, TemperatureUnit>,
  b: Decimal,
  otherUnit: Exclude<Unit, TemperatureUnit>,
): -1 | 0 | 1 {
  if (unit === otherUnit) return compare(a, b);
  const [over, under] = exactRatio(unit);
  const [otherOver, otherUnder] = exactRatio(otherUnit);
  return compare(multiply(multiply(a, over), otherUnder), multiply(multiply(b, otherOver), under));
}

/** Number of SI units (Pa, m³, m³/s, m, m², s, K) in `value` of `unit`; for physics, not for comparing with limits. */
export function toSi(value: number, unit: Unit): number {
  if (unit === 'C') return value + 273.15;
  if (unit === 'F') return ((value - 32) * 5) / 9 + 273.15;
  if (unit === 'K') return value;
  if (unit in flowTable) {
    const [volume, seconds] = flowTable[unit as FlowUnit];
    return (value * Number(volume)) / Number(seconds);
  }
  return value * toNumber(exactFactor(unit as PressureUnit));
}

/** The other way: `si` (SI units) expressed in `unit`. */
export function fromSi(si: number, unit: Unit): number {
  if (unit === 'C') return si - 273.15;
  if (unit === 'F') return ((si - 273.15) * 9) / 5 + 32;
  if (unit === 'K') return si;
  if (unit in flowTable) {
    const [volume, seconds] = flowTable[unit as FlowUnit];
    return (si * Number(seconds)) / Number(volume);
  }
  return si / toNumber(exactFactor(unit as PressureUnit));
}
