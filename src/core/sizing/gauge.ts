import {
  compare,
  compareQuantities,
  decimal,
  exactSi,
  type InstrumentUnit,
  isPressureUnit,
  multiply,
  type PressureUnit,
  type TemperatureUnit,
  unitKind,
  unitLabel,
} from '../quantities';

export type { InstrumentUnit } from '../quantities';

/** A scale is a rule, a vessel or a dial: read against its marks. A barometer shows the air's own pressure, and is no gauge. */
export const instrumentKinds = ['digital', 'liquid', 'needle', 'scale', 'barometer'] as const;
export type InstrumentKind = (typeof instrumentKinds)[number];

/** What the last check of the rig that belongs to an instrument found (DOMAIN 5.18). */
export interface RigCheck {
  /** Local date, YYYY-MM-DD. */
  readonly on: string;
  /** It held that pressure, it did not, or it is a fan's and leaks so much at 25 Pa. */
  readonly what: 'holds' | 'does not hold' | 'leaks';
  readonly value: string;
  readonly unit: InstrumentUnit;
}

/** In words that follow "its rig". */
export function rigWords({ on, what, value, unit }: RigCheck): string {
  const figure = `${value} ${unitLabel(unit)}`;
  switch (what) {
    case 'holds':
      return `held ${figure} on ${on}`;
    case 'does not hold':
      return `did not hold ${figure} on ${on}`;
    case 'leaks':
      return `leaked ${figure} at 25 Pa on ${on}`;
  }
}

/** A measuring instrument as the plan freezes it. Figures are decimals in `unit`. */
export interface Instrument<U extends InstrumentUnit | TemperatureUnit = InstrumentUnit> {
  readonly id: string;
  readonly name: string;
  readonly kind: InstrumentKind;
  readonly unit: U;
  /** Smallest movement that it can show: last digit, or half the smallest division. */
  readonly readability: string;
  readonly rangeLow: string;
  readonly rangeHigh: string;
  readonly serial: string;
  /** A liquid column of known density, a rule or a vessel needs no calibration; `due` is a local date, YYYY-MM-DD. */
  readonly calibration: { readonly needed: false } | { readonly needed: true; readonly last: string; readonly due: string };
  readonly simulated: boolean;
  readonly rigCheck?: RigCheck;
}

/** Stands as the last calibration, and as the due date, of an instrument that needs one and has none on file. */
export const neverCalibrated = '0001-01-01';

/** When an instrument's calibration is due, in words: that date is never shown. */
export function dueText({ calibration }: Pick<Instrument, 'calibration'>): string {
  if (!calibration.needed) return 'needs no calibration';
  return calibration.last === neverCalibrated ? 'no calibration on file' : `due ${calibration.due}`;
}

/** The same with when it was done, for the record. */
export const calibrationText = (one: Pick<Instrument, 'calibration'>): string =>
  one.calibration.needed && one.calibration.last !== neverCalibrated ? `calibrated ${one.calibration.last}, ${dueText(one)}` : dueText(one);

/** A pressure gauge. */
export type Gauge = Instrument<PressureUnit>;
export type Thermometer = Instrument<TemperatureUnit>;
/** Whatever a firm may have. */
export type AnyInstrument = Instrument<InstrumentUnit | TemperatureUnit>;

export const isThermometer = <I extends AnyInstrument>(one: I): one is I & Thermometer => unitKind(one.unit) === 'temperature';
export const isBarometer = <I extends AnyInstrument>(one: I): one is I & Gauge => one.kind === 'barometer' && isPressureUnit(one.unit);
export const isGauge = <I extends AnyInstrument>(one: I): one is I & Gauge => one.kind !== 'barometer' && isPressureUnit(one.unit);
/** What is read of the system itself, and not of the weather. */
export const readsSystem = <I extends AnyInstrument>(one: I): one is I & Instrument => !isThermometer(one) && !isBarometer(one);

/** What a plan names to read the weather by: the pipe's temperature, and the air's pressure. */
export interface Weather {
  readonly thermometer?: Thermometer;
  readonly barometer?: Gauge;
}

/** One step of a thermometer, K. */
export const thermometerStepK = ({ readability, unit }: Thermometer): number => Number(readability) * (unit === 'F' ? 5 / 9 : 1);

/** What a plan asks of an instrument; figures in `unit`. */
export interface Demand {
  /** Highest value that it must show and the limit it must resolve. */
  readonly highest: string;
  readonly limit: string;
  readonly unit: InstrumentUnit;
  /** Its range must reach this many times `highest`, so that the test pressure lies well inside it. */
  readonly rangeAtLeast?: string;
  /** Its range may reach this many times `highest`, no further: a needle is read badly at its foot. */
  readonly rangeAtMost?: string;
  /** Its last calibration may be this many years old, whatever its own due date says. */
  readonly certificateYears?: number;
}

export interface GaugeDemand extends Demand {
  /** Local date of the test, YYYY-MM-DD. */
  readonly on: string;
}

export interface GaugeFinding {
  readonly code:
    | 'gauge-overdue'
    | 'gauge-range'
    | 'gauge-coarse'
    | 'gauge-coarser-choice'
    | 'gauge-range-wide'
    | 'gauge-range-short'
    | 'gauge-certificate-old';
  readonly blocks: boolean;
  readonly message: string;
}

const si = (value: string, unit: PressureUnit) => exactSi(decimal(value), unit);

/** The same day so many years later; 29 February becomes 1 March. */
const yearsLater = (date: string, years: number): string => {
  const moved = `${String(Number(date.slice(0, 4)) + years).padStart(4, '0')}${date.slice(4)}`;
  return moved.endsWith('-02-29') && years % 4 !== 0 ? `${moved.slice(0, 5)}03-01` : moved;
};

/** Why an instrument does not suit a demand, or suits it less well; empty when it suits. */
export function gaugeFindings(gauge: Instrument, demand: GaugeDemand): readonly GaugeFinding[] {
  const found: GaugeFinding[] = [];
  const unit = unitLabel(gauge.unit);
  const asked = unitLabel(demand.unit);
  const against = (own: string, other: string) => compareQuantities(decimal(own), gauge.unit, decimal(other), demand.unit);
  if (gauge.calibration.needed && gauge.calibration.due < demand.on)
    found.push({
      code: 'gauge-overdue',
      blocks: true,
      message:
        gauge.calibration.last === neverCalibrated
          ? 'No calibration is on file; a test with this gauge would be invalid.'
          : `Calibration was due on ${gauge.calibration.due}; a test on ${demand.on} with this gauge would be invalid.`,
    });
  if (
    demand.certificateYears !== undefined &&
    gauge.calibration.needed &&
    gauge.calibration.last !== neverCalibrated &&
    yearsLater(gauge.calibration.last, demand.certificateYears) < demand.on
  )
    found.push({
      code: 'gauge-certificate-old',
      blocks: true,
      message: `It was last calibrated on ${gauge.calibration.last}; this test wants a certificate of at most ${demand.certificateYears} years.`,
    });
  if (against(gauge.rangeHigh, demand.highest) < 0)
    found.push({
      code: 'gauge-range',
      blocks: true,
      message: `Its range ends at ${gauge.rangeHigh} ${unit}; the test needs ${demand.highest} ${asked}.`,
    });
  const timesHighest = (times: string) => multiply(decimal(demand.highest), decimal(times));
  if (
    demand.rangeAtLeast !== undefined &&
    compareQuantities(decimal(gauge.rangeHigh), gauge.unit, timesHighest(demand.rangeAtLeast), demand.unit) < 0
  )
    found.push({
      code: 'gauge-range-short',
      blocks: true,
      message: `Its range to ${gauge.rangeHigh} ${unit} is less than ${demand.rangeAtLeast} times the test pressure of ${demand.highest} ${asked}.`,
    });
  if (
    demand.rangeAtMost !== undefined &&
    compareQuantities(decimal(gauge.rangeHigh), gauge.unit, timesHighest(demand.rangeAtMost), demand.unit) > 0
  )
    found.push({
      code: 'gauge-range-wide',
      blocks: true,
      message: `Its range to ${gauge.rangeHigh} ${unit} is more than ${demand.rangeAtMost} times the test pressure of ${demand.highest} ${asked}: it is read badly so low.`,
    });
  if (against(gauge.readability, demand.limit) > 0)
    found.push({
      code: 'gauge-coarse',
      blocks: true,
      message: `It shows steps of ${gauge.readability} ${unit}; a movement of ${demand.limit} ${asked} must be seen.`,
    });
  return found;
}

/** Stands where a procedure reads nothing on any gauge. */
export const noGauge: Gauge = {
  id: 'none',
  name: 'No gauge',
  kind: 'liquid',
  unit: 'Pa',
  readability: '1',
  rangeLow: '0',
  rangeHigh: '1',
  serial: '',
  calibration: { needed: false },
  simulated: false,
};

/** Gauge classes that the millibar school gives thresholds for (DOMAIN 5.1). */
export type GaugeClass = 'liquid' | 'digital-one-decimal' | 'digital-two-decimals' | 'other';

/** Class by what the gauge shows in millibar: a step of 0.1 mbar is one decimal, 0.01 mbar is two. */
export function gaugeClass(gauge: Gauge): GaugeClass {
  if (gauge.kind === 'liquid') return 'liquid';
  if (gauge.kind !== 'digital') return 'other';
  const step = si(gauge.readability, gauge.unit);
  if (compare(step, si('0.01', 'mbar')) <= 0) return 'digital-two-decimals';
  return compare(step, si('0.1', 'mbar')) <= 0 ? 'digital-one-decimal' : 'other';
}
