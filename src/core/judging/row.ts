import { instrumentOf, quantityOf, unitOfHold } from '../course/instruments';
import type { HoldPhase } from '../course/phases';
import { compareAcross } from '../limits';
import type { Plan } from '../planning/plan';
import { type Decimal, decimal, type InstrumentUnit, type ReadQuantity } from '../quantities';
import type { EventOf, RunEvent } from './events';
import { type Readings, stepsOf } from './readings';
import type { LocalDays } from './trust';

/** A round of a hold that has its start reading. */
export interface RunningHold {
  readonly phase: HoldPhase;
  readonly round: number;
  readonly startAt: number;
}

/**
 * The figures that a running hold takes in on the way, by the thousand: what is plain to see of one is decided here, in whole
 * steps and without a word. Everything else goes the long way, which says what is wrong with it.
 */
export class Row {
  private readonly phase: string;
  private readonly round: number;
  private readonly startAt: number;
  private readonly unit: InstrumentUnit;
  private readonly quantity: ReadQuantity;
  private readonly scale: number;
  private readonly step: number;
  private readonly low: number;
  private readonly high: number;

  constructor(plan: Plan, { phase, round, startAt }: RunningHold) {
    const { unit, readability, rangeLow, rangeHigh } = instrumentOf(plan, phase.instrument);
    const step = decimal(readability);
    this.phase = phase.id;
    this.round = round;
    this.startAt = startAt;
    this.unit = unit;
    this.quantity = quantityOf(unit);
    this.scale = step.scale;
    this.step = Number(step.digits);
    const inSteps = ({ digits, scale }: Decimal): number => Number(digits) * 10 ** (this.scale - scale);
    this.low = Math.ceil(inSteps(decimal(rangeLow)));
    const range = Math.floor(inSteps(decimal(rangeHigh)));
    const most = phase.rating ?? phase.ceiling;
    this.high = most === undefined ? range : atMost(range, this.scale, unit, decimal(most), unitOfHold(plan, phase));
  }

  /** A plain figure of this hold, in whole steps; NaN for what must go the long way. */
  stepsIn(event: EventOf<'reading'>): number {
    if (event.role !== 'between' || event.phase !== this.phase || event.round !== this.round) return Number.NaN;
    if (event.quantity !== this.quantity || event.unit !== this.unit || event.qualifier !== undefined) return Number.NaN;
    if (event.observedAt < this.startAt) return Number.NaN;
    const steps = stepsOf(event.value, this.scale);
    return steps >= this.low && steps <= this.high && steps % this.step === 0 ? steps : Number.NaN;
  }

  /**
   * Takes in the figures that stand in the log from a place on, one behind the other, up to the first that must go the long way.
   * They lie cold in memory: one tight loop lets the next be fetched while this one is looked at.
   * @returns how many, and whether one of them is simulated
   */
  takes(
    log: readonly RunEvent[],
    from: number,
    readings: Readings,
    days: LocalDays,
  ): { readonly count: number; readonly simulated: boolean } {
    let simulated = false;
    let last = Number.NEGATIVE_INFINITY;
    let place = from;
    for (; place < log.length; place += 1) {
      const event = log[place];
      const { position = Number.POSITIVE_INFINITY } = event;
      if (event.type !== 'reading' || position <= last) break;
      const steps = this.stepsIn(event);
      if (Number.isNaN(steps)) break;
      readings.push(place, event.observedAt, steps);
      days.add(event);
      if (event.source === 'simulated gauge') simulated = true;
      last = position;
    }
    return { count: place - from, simulated };
  }
}

/** The most steps, up to `most`, that are no more than a limit in another unit. */
function atMost(most: number, scale: number, unit: InstrumentUnit, limit: Decimal, limitUnit: InstrumentUnit): number {
  let low = -1;
  let high = most + 1;
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (compareAcross({ digits: BigInt(middle), scale }, unit, limit, limitUnit) <= 0) low = middle;
    else high = middle;
  }
  return low;
}
