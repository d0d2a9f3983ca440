import type { Samples } from '../limits';
import { atLeast, atMost, type Decimal, decimal, isMultipleOf, readDecimal, round, unitLabel } from '../quantities';
import type { Instrument } from '../sizing/gauge';
import type { EventOf, RunEvent } from './events';

export interface Taken {
  readonly event: EventOf<'reading'>;
  readonly value: Decimal;
}

/**
 * Readings of one gauge in the log's order, in whole steps of 10^-scale of its unit. A day by hand is 86 400 of them: what is
 * worked with stands in columns, and of each the place in the log rather than the event, which lies cold.
 */
export class Readings {
  private places = new Int32Array(16);
  private at = new Float64Array(16);
  private steps = new Float64Array(16);
  private count = 0;

  /** @param log all that is taken in: room for as many is made at once, when a few have been */
  constructor(
    private readonly scale: number,
    private readonly log: readonly RunEvent[],
  ) {}

  /** @param place of the reading in the log */
  push(place: number, observedAt: number, steps: number): void {
    const { count } = this;
    if (count === this.at.length) this.grow(Math.max(count * 2, this.log.length));
    this.places[count] = place;
    this.at[count] = observedAt;
    this.steps[count] = steps;
    this.count = count + 1;
  }

  take(place: number, { event, value }: Taken): void {
    this.push(place, event.observedAt, Number(round(value, this.scale).digits));
  }

  private grow(room: number): void {
    const { places, at, steps } = this;
    this.places = new Int32Array(room);
    this.places.set(places);
    this.at = new Float64Array(room);
    this.at.set(at);
    this.steps = new Float64Array(room);
    this.steps.set(steps);
  }

  private event(index: number): EventOf<'reading'> {
    return this.log[this.places[index]] as EventOf<'reading'>;
  }

  /** The last one, by its time, that was taken from a moment on and still counts. */
  lastFrom(moment: number, gone: ReadonlySet<string>): Taken | undefined {
    let last: EventOf<'reading'> | undefined;
    for (let index = 0; index < this.count; index += 1) {
      if (this.at[index] < moment || (last !== undefined && this.at[index] < last.observedAt)) continue;
      const event = this.event(index);
      if (!gone.has(event.id)) last = event;
    }
    return last === undefined ? undefined : { event: last, value: decimal(last.value) };
  }

  /** What counts from a start to an end, in order of time. These two stand first and last, whatever was read in the same millisecond. */
  samples(start: Taken, end: Taken, gone: ReadonlySet<string>): Samples {
    const { scale } = this;
    const [from, to] = [start.event.observedAt, end.event.observedAt];
    const first = this.placeOf(start.event);
    if (end !== start && gone.size === 0 && first >= 0 && this.event(this.count - 1) === end.event && this.isInOrder(first))
      return { at: this.at.subarray(first, this.count), steps: this.steps.subarray(first, this.count), scale };
    const whole = ({ value }: Taken): number => Number(round(value, scale).digits);
    const at = new Float64Array(this.count + 2);
    const steps = new Float64Array(this.count + 2);
    at[0] = from;
    steps[0] = whole(start);
    let count = 1;
    let sorted = true;
    for (let index = 0; index < this.count; index += 1) {
      const moment = this.at[index];
      if (moment < from || moment > to) continue;
      // Most lie in between: only at the very ends an event may be one of these two, and only for withdrawals it is looked up.
      if (moment === from || moment === to || gone.size > 0) {
        const event = this.event(index);
        if (event === start.event || event === end.event || gone.has(event.id)) continue;
      }
      if (moment < at[count - 1]) sorted = false;
      at[count] = moment;
      steps[count] = this.steps[index];
      count += 1;
    }
    if (!sorted) {
      const order = Array.from({ length: count }, (_, index) => index).sort((a, b) => at[a] - at[b] || a - b);
      at.set(order.map((index) => at[index]));
      steps.set(order.map((index) => steps[index]));
    }
    if (end === start) return { at: at.subarray(0, count), steps: steps.subarray(0, count), scale };
    at[count] = to;
    steps[count] = whole(end);
    return { at: at.subarray(0, count + 1), steps: steps.subarray(0, count + 1), scale };
  }

  private placeOf(event: EventOf<'reading'>): number {
    for (let index = 0; index < this.count; index += 1)
      if (this.at[index] === event.observedAt && this.event(index) === event) return index;
    return -1;
  }

  private isInOrder(first: number): boolean {
    for (let index = first + 1; index < this.count; index += 1) if (this.at[index] < this.at[index - 1]) return false;
    return true;
  }
}

const [zero, nine, point] = [48, 57, 46];

/** A plain figure such as `20.05` in whole steps of 10^-scale; NaN for what has a sign, more decimals or is none at all. */
export function stepsOf(text: string, scale: number): number {
  let steps = 0;
  let decimals = -1;
  const { length } = text;
  if (length === 0 || length > 12) return Number.NaN;
  for (let index = 0; index < length; index += 1) {
    const code = text.charCodeAt(index);
    if (code >= zero && code <= nine) {
      steps = steps * 10 + (code - zero);
      if (decimals >= 0) decimals += 1;
    } else if (code === point && decimals < 0 && index > 0 && index < length - 1) decimals = 0;
    else return Number.NaN;
  }
  let missing = scale - Math.max(decimals, 0);
  if (missing < 0) return Number.NaN;
  for (; missing > 0; missing -= 1) steps *= 10;
  return steps <= Number.MAX_SAFE_INTEGER ? steps : Number.NaN;
}

/** Why a reading does not count, in words that follow "does not count:"; undefined when it does. */
export function readingFault(gauge: Instrument, { quantity, value, unit, qualifier }: EventOf<'reading'>): string | undefined {
  const unread = unreadFault({ quantity, qualifier });
  if (unread !== undefined || qualifier === undefined) return unread ?? figureFault(gauge, value, unit);
  return readDecimal(value) === undefined ? notFigure : unit === gauge.unit ? undefined : otherUnit(gauge);
}

/** A flow that does not move the meter lies under its range; any other instrument has to show a figure (DOMAIN 5.16). */
export const unreadFault = ({ quantity, qualifier }: Pick<EventOf<'reading'>, 'quantity' | 'qualifier'>): string | undefined =>
  qualifier === undefined || quantity === 'flow' ? undefined : 'only a flow may be below the range of what measures it';

const notFigure = 'it is not a figure';
const otherUnit = ({ unit }: Instrument): string => `the gauge shows ${unitLabel(unit)}`;

/** Why a figure cannot have been read on this gauge, in words that follow "does not count:"; undefined when it can. */
export function figureFault(gauge: Instrument, value: string, unit: string): string | undefined {
  const figure = readDecimal(value);
  if (figure === undefined) return notFigure;
  if (unit !== gauge.unit) return otherUnit(gauge);
  if (!atLeast(figure, decimal(gauge.rangeLow)) || !atMost(figure, decimal(gauge.rangeHigh)))
    return `the gauge shows ${gauge.rangeLow} to ${gauge.rangeHigh} ${unitLabel(gauge.unit)}`;
  if (!isMultipleOf(figure, decimal(gauge.readability))) return `the gauge shows steps of ${gauge.readability}`;
  return undefined;
}

export const valueText = (event: EventOf<'reading'>): { value: string; unit: string } => ({
  value: event.value,
  unit: unitLabel(event.unit),
});
