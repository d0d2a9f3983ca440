import { instrumentOf, quantityOf, unitOfHold } from '../course/instruments';
import { compareAcross } from '../limits';
import type { Plan } from '../planning/plan';
import { type Decimal, decimal, type InstrumentUnit, type ReadQuantity } from '../quantities';
import type { RunEvent } from './events';
import type { OpenAs } from './open';
import { stepsOf } from './readings';
import type { LocalDays } from './trust';

/**
 * The figures that a running hold takes in on the way, by the thousand: what is plain to see of one is decided here, in whole
 * steps and without a word. Everything else goes the long way, which says what is wrong with it.
 */
export class Row {
  private readonly phase: string;
  private readonly unit: InstrumentUnit;
  private readonly quantity: ReadQuantity;
  private readonly scale: number;
  private readonly step: number;
  private readonly low: number;
  private readonly high: number;
  private readonly startAt: number;

  constructor(
    plan: Plan,
    readonly open: OpenAs<'running'>,
  ) {
    const { phase, start } = open;
    const { unit, readability, rangeLow, rangeHigh } = instrumentOf(plan, phase.instrument);
    const step = decimal(readability);
    this.phase = phase.id;
    this.unit = unit;
    this.quantity = quantityOf(unit);
    this.scale = step.scale;
    this.step = Number(step.digits);
    const inSteps = ({ digits, scale }: Decimal): number => Number(digits) * 10 ** (this.scale - scale);
    this.low = Math.ceil(inSteps(decimal(rangeLow)));
    const range = Math.floor(inSteps(decimal(rangeHigh)));
    const most = phase.rating ?? phase.ceiling;
    this.high = most === undefined ? range : atMost(range, this.scale, unit, decimal(most), unitOfHold(plan, phase));
    this.startAt = start.event.observedAt;
  }

  /**
   * Takes in the figures that stand in the log from a place on, one behind the other, up to the first that must go the long way.
   * They lie cold in memory: one tight loop lets the next be fetched while this one is looked at.
   * @returns how many, and whether one of them is simulated
   */
  takes(log: readonly RunEvent[], from: number, days: LocalDays): { readonly count: number; readonly simulated: boolean } {
    const { phase, quantity, unit, scale, step, low, high, startAt, open } = this;
    const { round, read } = open;
    let simulated = false;
    let last = Number.NEGATIVE_INFINITY;
    let place = from;
    for (; place < log.length; place += 1) {
      const event = log[place];
      const { position = Number.POSITIVE_INFINITY } = event;
      if (event.type !== 'reading' || position <= last) break;
      if (event.role !== 'between' || event.phase !== phase || event.round !== round) break;
      if (event.quantity !== quantity || event.unit !== unit || event.qualifier !== undefined || event.observedAt < startAt) break;
      const steps = stepsOf(event.value, scale);
      if (!(steps >= low && steps <= high && steps % step === 0)) break;
      read.readings.push(place, event.observedAt, steps);
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
