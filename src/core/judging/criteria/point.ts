import type { InstrumentUnit } from '../../planning/gauge';
import type { Plan } from '../../planning/plan';
import type { MeasurePhase, ReadQuantity } from '../../procedures/phases';
import type { Decimal } from '../../quantities';
import type { HoldResult } from '../hold';
import type { Log } from '../log';
import type { Finding } from '../reasons';

/** One figure of a point as it was read. */
export interface PointValue {
  readonly value: Decimal;
  readonly unit: InstrumentUnit;
  /** The instrument showed nothing: the truth lies under its range. */
  readonly belowRange: boolean;
}

/** A point with all its figures. */
export interface Measured {
  readonly id: string;
  readonly label: string;
  readonly values: ReadonlyMap<ReadQuantity, PointValue>;
}

export interface MeasureContext {
  readonly phase: MeasurePhase;
  readonly plan: Plan;
  readonly log: Log;
  readonly points: readonly Measured[];
  /** Holds judged before it. */
  readonly holds: ReadonlyMap<string, HoldResult>;
  /** Readings that were withdrawn in time. */
  readonly withdrawn: ReadonlySet<string>;
}

/** What a criterion makes of a phase whose points are all read. */
export interface Found {
  readonly outcome: string;
  readonly spoilt: boolean;
  readonly findings: readonly Finding[];
  readonly working: readonly string[];
  readonly data: Readonly<Record<string, string>>;
}
