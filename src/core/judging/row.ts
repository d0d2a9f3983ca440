import { instrumentOf, quantityOf, unitOfHold } from '../course/instruments';
import { compareAcross } from '../limits';
import type { Plan } from '../planning/plan';
import { type Decimal, decimal, type InstrumentUnit, type ReadQuantity } from '../quantities';
import type { EventOf } from './events';
import type { OpenAs } from './open';
import { stepsOf } from './readings';

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

  /** Takes a reading in; false where it must go the long way. */
  takes(event: EventOf<'reading'>): boolean {
    if (
      event.role !== 'between' ||
      event.phase !== this.phase ||
      event.round !== this.open.round ||
      event.quantity !== this.quantity ||
      event.unit !== this.unit ||
      event.observedAt < this.startAt
    )
      return false;
    const steps = stepsOf(event.value, this.scale);
    if (!(steps >= this.low && steps <= this.high && steps % this.step === 0)) return false;
    this.open.read.readings.push(event, steps);
    return true;
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
