import type { Decimal } from '../quantities';

/** A reading as it was taken. */
export interface Sample {
  readonly at: number;
  readonly value: Decimal;
}

/** Readings in a row: whole steps of 10^-scale of the unit, `stepMs` apart. */
export interface Chunk {
  readonly startAt: number;
  readonly stepMs: number;
  readonly scale: number;
  readonly values: readonly number[];
}

/** How a hold stood between two moments, both included. */
export interface Stood {
  readonly lowest: Decimal;
  readonly highest: Decimal;
  /** The largest rise above the lowest so far; never below nothing. */
  readonly rise: Decimal;
}

/** Of a trace the median over so long counts (DOMAIN 4.20). */
const medianMs = 10_000;

/**
 * How readings and traces stood from `from` to `to` (ms), in order of time. Readings count as they are; of a trace the median
 * over ten seconds, so that one wild sample is nothing. A day at a sample a second is 86 400 of them: a stretch that lies inside what is
 * known breaks no record and is passed over.
 * @param readings in order of time, the first at `from`; one at least
 */
export function stoodBetween(from: number, to: number, readings: readonly Sample[], traces: readonly Chunk[]): Stood {
  const inside = traces.filter(({ startAt, stepMs, values }) => startAt <= to && startAt + (values.length - 1) * stepMs >= from);
  const scale = Math.max(...new Set([...readings.map(({ value }) => value.scale), ...inside.map((chunk) => chunk.scale)]));
  const record = new Records();
  const chunks = inside.some(({ startAt }, index) => index > 0 && startAt < inside[index - 1].startAt)
    ? [...inside].sort((a, b) => a.startAt - b.startAt)
    : inside;
  let next = 0;
  const readUpTo = (moment: number): void => {
    for (; next < readings.length && readings[next].at <= moment; next += 1) {
      const { at, value } = readings[next];
      if (at < from || at > to) continue;
      record.take(Number(value.digits) * 10 ** (scale - value.scale));
    }
  };
  let covered = from - 1;
  let window: Window | undefined;
  for (const chunk of chunks) {
    const { startAt, stepMs, values } = chunk;
    readUpTo(Math.max(startAt, from));
    const first = Math.max(0, Math.ceil((Math.max(from, covered + 1) - startAt) / stepMs)) | 0;
    const last = Math.min(values.length - 1, Math.floor((to - startAt) / stepMs)) | 0;
    if (last < first) continue;
    // A window does not reach across a gap: what lies on its far side may be another pressure.
    if (window === undefined || window.stepMs !== stepMs || startAt + first * stepMs - covered > 1.5 * stepMs) {
      window?.close(record);
      window = new Window(stepMs);
    }
    window.run(values, first, last, 10 ** (scale - chunk.scale), record);
    covered = startAt + last * stepMs;
  }
  window?.close(record);
  readUpTo(to);
  const decimal = (digits: number): Decimal => ({ digits: BigInt(digits), scale });
  return { lowest: decimal(record.low), highest: decimal(record.high), rise: decimal(record.rise) };
}

/** Lowest, highest, and largest rise above the lowest so far. */
class Records {
  low = 0;
  high = 0;
  rise = 0;
  private begun = false;

  /** Above this a value breaks a record. */
  get top(): number {
    return Math.min(this.high, this.low + this.rise);
  }

  take(value: number): void {
    if (!this.begun) {
      this.begun = true;
      this.low = value;
      this.high = value;
      return;
    }
    if (value < this.low) this.low = value;
    if (value > this.high) this.high = value;
    if (value - this.low > this.rise) this.rise = value - this.low;
  }
}

/** Largest size for which the quick look's sums of 32-bit steps cannot run over unseen. */
const quickReach = 2 ** 30;

/** The last samples of an unbroken trace, as many as ten seconds hold. */
class Window {
  private readonly held: number[] = [];
  private readonly size: number;
  /** Oldest of a full window. */
  private oldest = 0;

  constructor(readonly stepMs: number) {
    this.size = Math.max(1, Math.round(medianMs / stepMs));
  }

  run(values: readonly number[], first: number, last: number, factor: number, record: Records): void {
    if (this.held.length === this.size && factor === 1 && within(values, first, last, record.low, record.top)) {
      this.refill(values, Math.max(first, last - this.size + 1), last);
      return;
    }
    const { held, size } = this;
    let { low, top } = record;
    let [below, above] = this.counts(low, top);
    for (let index = first; index <= last; index += 1) {
      const value = values[index] * factor;
      if (held.length < size) held.push(value);
      else {
        const gone = held[this.oldest];
        if (gone < low) below -= 1;
        else if (gone > top) above -= 1;
        held[this.oldest] = value;
        this.oldest += 1;
        if (this.oldest === size) this.oldest = 0;
      }
      if (value < low) below += 1;
      else if (value > top) above += 1;
      // Half a window must be there before its median is one; a shorter trace is taken when it ends.
      const { length } = held;
      if (length * 2 < size || (below === 0 && above === 0)) continue;
      const middle = (length - 1) >> 1;
      // A median lies below a mark when more than half its window does.
      if (below > middle || length - above <= middle) {
        record.take(this.median());
        low = record.low;
        top = record.top;
        [below, above] = this.counts(low, top);
      }
    }
  }

  /** A trace too short for a whole window still counts, by the median of what there is. */
  close(record: Records): void {
    if (this.held.length > 0 && this.held.length * 2 < this.size) record.take(this.median());
  }

  private median(): number {
    return [...this.held].sort((a, b) => a - b)[(this.held.length - 1) >> 1];
  }

  private counts(low: number, top: number): [number, number] {
    let below = 0;
    let above = 0;
    for (const value of this.held) {
      if (value < low) below += 1;
      else if (value > top) above += 1;
    }
    return [below, above];
  }

  private refill(values: readonly number[], first: number, last: number): void {
    for (let index = first; index <= last; index += 1) {
      this.held[this.oldest] = values[index];
      this.oldest = (this.oldest + 1) % this.size;
    }
  }
}

/** Whether all of values[from..to] (32-bit whole numbers) lie in low..high. No branch in the loop: a sign bit remembers. */
function within(values: readonly number[], from: number, to: number, low: number, high: number): boolean {
  if (low < -quickReach || high > quickReach || !Number.isInteger(low) || !Number.isInteger(high)) return false;
  const floor = low | 0;
  const ceiling = high | 0;
  let outside = 0;
  for (let index = from; index <= to; index += 1) {
    const value = values[index] | 0;
    outside |= (value - floor) | (ceiling - value);
  }
  return outside >= 0;
}
