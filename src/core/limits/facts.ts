import type { Decimal, InstrumentUnit, ReadQuantity, Unit } from '../quantities';
import type { Correction } from './correction';
import type { Sample, Stood } from './stood';

/** What was read of the pipe and the air at one end of a hold. */
export interface Condition {
  readonly value: string;
  readonly unit: Unit;
}

/** One condition at both ends; overdue where its instrument was out of calibration, so that it corrects nothing in favour of a pass. */
export interface BothEnds {
  readonly start: Condition;
  readonly end: Condition;
  readonly overdue?: boolean;
}

/** Readings of the conditions at both ends, and what the plan asks of them. */
export interface ConditionFacts {
  /** Pipe and barometer where both ends were read. */
  readonly pipe?: BothEnds;
  readonly air?: BothEnds;
  /** Pipe temperatures read in between, in order of time. */
  readonly meanwhile: readonly { readonly at: number; readonly reading: Condition }[];
}

/** A hold that was read to its end, or was stopped: what its limit judges. Knows no log, no plan and no clock. */
export interface HoldFacts {
  readonly title: string;
  /** The planned time. */
  readonly seconds: number;
  /** Unit that the instrument shows, and its finest step in it. */
  readonly unit: InstrumentUnit;
  readonly step: Decimal;
  readonly limitUnit: InstrumentUnit;
  readonly start: Sample;
  readonly end: Sample;
  readonly dueAt: number;
  /** 1, and one more for every time it was done again. */
  readonly round: number;
  /** Ended before its time. */
  readonly stopped: boolean;
  /** How it stood from its start until a moment, or its end. */
  readonly stood: (until: number) => Stood;
  /** What it read at the due time, from readings on both sides within the tolerance, rounded down to a step. */
  readonly atDue: Decimal | undefined;
  readonly conditions: ConditionFacts;
  /** How it may be corrected; absent where it holds no gas. */
  readonly corrects?: Correction;
  /** The fall during the let-by that proved this pipework's valve, where it fell by its threshold or more (DOMAIN 4.21). */
  readonly letBy?: { readonly fall: Decimal; readonly seconds: number };
  /** Volumes written down while it ran: what was pumped back. */
  readonly pumped: readonly { readonly value: Decimal; readonly unit: InstrumentUnit }[];
  /** Some rise of it has no water written down beside it. */
  readonly pumpedUnmeasured: () => boolean;
  /** A rise puts more in doubt than the hold itself. */
  readonly risesFurther: boolean;
}

/** One figure of a point as it was read. */
export interface PointValue {
  readonly value: Decimal;
  readonly unit: InstrumentUnit;
  /** Finest step and lowest figure of the instrument that it was read on. */
  readonly step: string;
  readonly least: string;
  /** The instrument showed nothing: the truth lies under its range. */
  readonly belowRange: boolean;
}

/** A point with all its figures. */
export interface Measured {
  readonly id: string;
  readonly label: string;
  readonly values: ReadonlyMap<ReadQuantity, PointValue>;
}

/** What a hold before it came to, for a phase that is measured afterwards. */
export interface HeldBefore {
  readonly start: Decimal;
  readonly lowest: Decimal;
  readonly unit: InstrumentUnit;
  readonly step: Decimal;
  readonly pumped: HoldFacts['pumped'];
}

/** A phase whose points are all read. */
export interface MeasureFacts {
  readonly title: string;
  readonly points: readonly Measured[];
  readonly hold: (phase: string) => HeldBefore | undefined;
  /** Unit of the plan's pressures. */
  readonly planUnit: InstrumentUnit;
}
