import type { Decimal } from '../quantities';

/** A reading as it was taken. */
export interface Sample {
  readonly at: number;
  readonly value: Decimal;
}

/** Readings in order of time: when each was taken, and what it read in whole steps of 10^-scale of the unit. */
export interface Samples {
  readonly at: ArrayLike<number>;
  readonly steps: ArrayLike<number>;
  readonly scale: number;
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

/** A trace's values in whole steps are no larger than this, either way. */
export const traceMost = 1_000_000_000;

/** Of a trace the median over so long counts (DOMAIN 4.20). */
const medianMs = 10_000;

/**
 * How readings and traces stood from `from` to `to` (ms), in order of time. Readings count as they are; of a trace the median
 * over ten seconds, so that one wild sample is nothing. A day at a sample a second is 86 400 of them: a stretch that lies inside what is
 * known breaks no record and is passed over.
 * @param readings in order of time, the first at `from`; one at least
 */
export function stoodBetween(from: number, to: number, readings: Samples, traces: readonly Chunk[]): Stood {
  const inside = traces.filter(({ startAt, stepMs, values }) => startAt <= to && startAt + (values.length - 1) * stepMs >= from);
  const scale = inside.reduce((most, chunk) => Math.max(most, chunk.scale), readings.scale);
  const record = new Records();
  const chunks = inside.some(({ startAt }, index) => index > 0 && startAt < inside[index - 1].startAt)
    ? [...inside].sort((a, b) => a.startAt - b.startAt)
    : inside;
  const { at, steps } = readings;
  const count = at.length;
  const factor = 10 ** (scale - readings.scale);
  let next = 0;
  const readUpTo = (moment: number): void => {
    for (; next < count && at[next] <= moment; next += 1) if (at[next] >= from && at[next] <= to) record.take(steps[next] * factor);
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

/** An unbroken trace, its last samples before each new stretch kept, as many as ten seconds hold. */
class Window {
  private readonly size: number;
  /** The last samples so far, fewer than a whole window, and behind them the stretch that is looked at. */
  private row: number[] = [];
  private kept = 0;
  private seen = 0;

  constructor(readonly stepMs: number) {
    this.size = Math.max(1, Math.round(medianMs / stepMs));
  }

  /** Takes in values[first..last], in units of 1 / factor of the record's. */
  run(values: readonly number[], first: number, last: number, factor: number, record: Records): void {
    const { size } = this;
    const count = last - first + 1;
    if (
      factor === 1 &&
      this.seen >= size &&
      count >= size &&
      liesWithin(values, first, last, record.low, record.top) &&
      liesWithin(this.row, 0, this.kept - 1, record.low, record.top)
    ) {
      this.seen += count;
      this.kept = 0;
      this.keep(values, last - size + 1, last, factor);
      return;
    }
    // Windows that reach back over the stretch's edge are looked at in a row of their own, the rest where they stand.
    const edge = factor === 1 && count >= size ? size - 1 : count;
    this.keep(values, first, first + edge - 1, factor);
    this.look(this.row, this.kept - edge, this.kept - 1, record);
    if (edge < count) {
      this.look(values, first + edge, last, record);
      this.kept = 0;
      this.keep(values, last - size + 1, last, factor);
    }
    this.seen += count;
  }

  /** Puts values behind what is kept, of which no more than a window stays before them. */
  private keep(values: readonly number[], first: number, last: number, factor: number): void {
    const from = Math.max(0, this.kept - this.size);
    this.row = this.row.slice(from, this.kept);
    for (let index = first; index <= last; index += 1) this.row.push(values[index] * factor);
    this.kept = this.row.length;
  }

  /** Looks at every window that ends at from..to of a row. */
  private look(row: readonly number[], from: number, to: number, record: Records): void {
    const { size } = this;
    // Half a window must be there before its median is one; a shorter trace is taken when it ends.
    let at = Math.max(from, Math.ceil(size / 2) - 1);
    while (at <= to) {
      const { low, top } = record;
      // Until a window is full it grows, and nothing leaves it.
      const until = row === this.row && at < size - 1 ? Math.min(to, size - 2) : to;
      const full = row !== this.row || at >= size - 1;
      const isNarrow = row !== this.row && fitsWord(low) && fitsWord(top);
      at = !full
        ? nextBeyondGrowing(row, at, until, low, top)
        : isNarrow
          ? nextBeyondInWords(row, at, until, size, low, top)
          : nextBeyond(row, at, until, size, low, top);
      if (at <= until) record.take(medianOf(row, Math.max(0, at - size + 1), at));
    }
  }

  /** A trace too short for a whole window still counts, by the median of what there is. */
  close(record: Records): void {
    if (this.seen > 0 && this.seen * 2 < this.size) record.take(medianOf(this.row, 0, this.kept - 1));
  }
}

/** A gauge that stands still breaks no record. */
function liesWithin(row: readonly number[], from: number, to: number, low: number, top: number): boolean {
  for (let index = from; index <= to; index += 1) if (row[index] < low || row[index] > top) return false;
  return true;
}

function medianOf(row: readonly number[], from: number, to: number): number {
  const window = row.slice(from, to + 1).sort((a, b) => a - b);
  return window[(window.length - 1) >> 1];
}

/**
 * The first place of from..to whose full window has its median outside low..top, else the place after. A median lies beyond a mark
 * when more than half its window does, so two counts are kept; what they add costs no branch.
 */
function nextBeyond(row: readonly number[], from: number, to: number, size: number, low: number, top: number): number {
  const middle = (size - 1) >> 1;
  const upper = size - middle - 1;
  let below = 0;
  let above = 0;
  for (let index = from - size + 1; index < from; index += 1) {
    below += Number(row[index] < low);
    above += Number(row[index] > top);
  }
  for (let index = from; index <= to; index += 1) {
    const value = row[index];
    below += Number(value < low);
    above += Number(value > top);
    if (below > middle || above > upper) return index;
    const gone = row[index - size + 1];
    below -= Number(gone < low);
    above -= Number(gone > top);
  }
  return to + 1;
}

/** A trace's values lie within so much of nothing (its schema), so that the difference of two fits a word. */
const fitsWord = (value: number): boolean => Math.abs(value) <= traceMost;

/** As `nextBeyond`, for what fits a word: a difference's sign is the count, and both counts share a word whose top bits say when either is full. */
function nextBeyondInWords(row: readonly number[], from: number, to: number, size: number, low: number, top: number): number {
  const middle = (size - 1) >> 1;
  const upper = size - middle - 1;
  const mark = low | 0;
  const roof = top | 0;
  let counts = (0x7fff - middle) | ((0x7fff - upper) << 16);
  for (let index = from - size + 1; index < from; index += 1) {
    const value = row[index] | 0;
    counts = (counts + ((value - mark) >>> 31) + (((roof - value) >>> 31) << 16)) | 0;
  }
  for (let index = from; index <= to; index += 1) {
    const value = row[index] | 0;
    counts = (counts + ((value - mark) >>> 31) + (((roof - value) >>> 31) << 16)) | 0;
    if ((counts & 0x80008000) !== 0) return index;
    const gone = row[index - size + 1] | 0;
    counts = (counts - ((gone - mark) >>> 31) - (((roof - gone) >>> 31) << 16)) | 0;
  }
  return to + 1;
}

/** As `nextBeyond`, for a window that begins with the row and grows. */
function nextBeyondGrowing(row: readonly number[], from: number, to: number, low: number, top: number): number {
  let below = 0;
  let above = 0;
  for (let index = 0; index <= to; index += 1) {
    below += Number(row[index] < low);
    above += Number(row[index] > top);
    const middle = index >> 1;
    if (index >= from && (below > middle || above > index - middle)) return index;
  }
  return to + 1;
}
