import { compare, type Decimal } from '../quantities';
import type { EventOf } from './events';

type Trace = Pick<EventOf<'trace'>, 'startAt' | 'stepMs' | 'scale' | 'values'>;

export interface Extremes {
  readonly lowest: Decimal;
  readonly highest: Decimal;
}

/**
 * Lowest and highest sample of traces taken from `from` to `to` (ms, both ends included); undefined where there is none.
 * A day at a sample a second is 86 400 of them, so a chunk is only searched where a quick look finds it outside what is
 * known so far.
 */
export function traceExtremes(traces: readonly Trace[], from: number, to: number): Extremes | undefined {
  let lowest: Decimal | undefined;
  let highest: Decimal | undefined;
  let scale = -1;
  let low = 0;
  let high = 0;
  for (const trace of traces) {
    const { length } = trace.values;
    // Clamped to the chunk, then marked as whole: an index that the engine takes for a fraction costs four times as much.
    const first = Math.max(0, Math.min(length, Math.ceil((from - trace.startAt) / trace.stepMs))) | 0;
    const last = Math.max(-1, Math.min(length - 1, Math.floor((to - trace.startAt) / trace.stepMs))) | 0;
    if (last < first) continue;
    if (scale === trace.scale && within(trace.values, first, last, low, high)) continue;
    const [least, most] = search(trace.values, first, last);
    // The range known so far counts steps of one scale; a chunk of another begins it anew.
    low = scale === trace.scale ? Math.min(low, least) : least;
    high = scale === trace.scale ? Math.max(high, most) : most;
    scale = trace.scale;
    lowest = lesser(lowest, { digits: BigInt(least), scale });
    highest = greater(highest, { digits: BigInt(most), scale });
  }
  return lowest === undefined || highest === undefined ? undefined : { lowest, highest };
}

const lesser = (a: Decimal | undefined, b: Decimal): Decimal => (a === undefined || compare(b, a) < 0 ? b : a);
const greater = (a: Decimal | undefined, b: Decimal): Decimal => (a === undefined || compare(b, a) > 0 ? b : a);

/** Largest size for which the quick look's sums of 32-bit steps cannot run over unseen. */
const quickReach = 2 ** 30;

/** Whether all of values[from..to] (32-bit whole numbers) lie in low..high. No branch in the loop: a sign bit remembers. */
function within(values: readonly number[], from: number, to: number, low: number, high: number): boolean {
  if (low < -quickReach || high > quickReach) return false;
  const floor = low | 0;
  const ceiling = high | 0;
  let outside = 0;
  for (let index = from; index <= to; index += 1) {
    const value = values[index] | 0;
    outside |= (value - floor) | (ceiling - value);
  }
  return outside >= 0;
}

function search(values: readonly number[], from: number, to: number): readonly [number, number] {
  let least = values[from];
  let most = least;
  for (let index = from + 1; index <= to; index += 1) {
    const value = values[index];
    if (value < least) least = value;
    else if (value > most) most = value;
  }
  return [least, most];
}
