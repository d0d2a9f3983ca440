import { atLeast, atMost, compare, decimal, exactSi, type PressureUnit, unitLabel } from '../quantities';

/** A pressure gauge as the plan freezes it. Figures are decimals in `unit`. */
export interface Gauge {
  readonly id: string;
  readonly name: string;
  readonly kind: 'liquid' | 'digital' | 'needle';
  readonly unit: PressureUnit;
  /** Smallest movement that it can show: last digit, or half the smallest division. */
  readonly readability: string;
  readonly rangeLow: string;
  readonly rangeHigh: string;
  readonly serial: string;
  /** A liquid column of known density needs no calibration; `due` is a local date, YYYY-MM-DD. */
  readonly calibration: { readonly needed: false } | { readonly needed: true; readonly last: string; readonly due: string };
  readonly simulated: boolean;
}

export interface GaugeDemand {
  /** Highest pressure that it must show and the limit it must resolve, both in `unit`. */
  readonly highest: string;
  readonly limit: string;
  readonly unit: PressureUnit;
  /** Local date of the test, YYYY-MM-DD. */
  readonly on: string;
}

export interface GaugeFinding {
  readonly code: 'gauge-overdue' | 'gauge-range' | 'gauge-coarse' | 'gauge-coarser-choice';
  readonly blocks: boolean;
  readonly message: string;
}

const si = (value: string, unit: PressureUnit) => exactSi(decimal(value), unit);

/** Why a gauge does not suit a demand, or suits it less well; empty when it suits. */
export function gaugeFindings(gauge: Gauge, demand: GaugeDemand): readonly GaugeFinding[] {
  const found: GaugeFinding[] = [];
  const unit = unitLabel(gauge.unit);
  if (gauge.calibration.needed && gauge.calibration.due < demand.on)
    found.push({
      code: 'gauge-overdue',
      blocks: true,
      message: `Calibration was due on ${gauge.calibration.due}; a test on ${demand.on} with this gauge would be invalid.`,
    });
  if (!atLeast(si(gauge.rangeHigh, gauge.unit), si(demand.highest, demand.unit)))
    found.push({
      code: 'gauge-range',
      blocks: true,
      message: `Its range ends at ${gauge.rangeHigh} ${unit}; the test needs ${demand.highest} ${unitLabel(demand.unit)}.`,
    });
  if (!atMost(si(gauge.readability, gauge.unit), si(demand.limit, demand.unit)))
    found.push({
      code: 'gauge-coarse',
      blocks: true,
      message: `It shows steps of ${gauge.readability} ${unit}; a movement of ${demand.limit} ${unitLabel(demand.unit)} must be seen.`,
    });
  return found;
}

/** Gauge classes that the millibar school gives thresholds for (DOMAIN 5.1). */
export type GaugeClass = 'liquid' | 'digital-one-decimal' | 'digital-two-decimals' | 'other';

/** Class by what the gauge shows in millibar: a step of 0.1 mbar is one decimal, 0.01 mbar is two. */
export function gaugeClass(gauge: Gauge): GaugeClass {
  if (gauge.kind === 'liquid') return 'liquid';
  if (gauge.kind === 'needle') return 'other';
  const step = si(gauge.readability, gauge.unit);
  if (compare(step, si('0.01', 'mbar')) <= 0) return 'digital-two-decimals';
  return compare(step, si('0.1', 'mbar')) <= 0 ? 'digital-one-decimal' : 'other';
}
