/** Live estimate of a hold (DOMAIN 3.12): how fast the gauge falls, how sure, and where it will stand when due. */
export interface Point {
  /** Seconds since the hold's start. */
  readonly seconds: number;
  /** Gauge reading in any one unit, temperature-corrected where that applies. */
  readonly value: number;
}

export interface Estimate {
  /** Fall per second, positive downwards, with its 95 % interval, in the points' unit. */
  readonly fallPerSecond: number;
  readonly low: number;
  readonly high: number;
  /** Fall forecast for the whole hold with its interval. */
  readonly forecast: number;
  readonly forecastLow: number;
  readonly forecastHigh: number;
  readonly status: 'below' | 'above' | 'unclear';
  /** Seconds of further watching before the gauge's steps can separate the forecast from the limit; absent when resolved. */
  readonly secondsNeeded?: number;
}

/** Bins keep the work constant at any rate of reading; the middle of each is its median, so a gauge's steps do no harm. */
const bins = 36;

/**
 * Theil–Sen slope of binned medians with its rank interval (Sen 1968), widened by the readability over the time seen.
 * @param seen readings in order of time; fewer than 3, or less than 5 s, give no estimate
 * @param readability of the gauge, above 0, in the points' unit
 * @param limit fall that must not be reached in `holdSeconds`, in the points' unit
 */
export function estimateHold(seen: readonly Point[], readability: number, limit: number, holdSeconds: number): Estimate | undefined {
  const points = seen.filter(({ seconds, value }) => Number.isFinite(seconds) && Number.isFinite(value));
  const first = points[0];
  const last = points.at(-1);
  if (first === undefined || last === undefined || points.length < 3 || !(readability > 0) || !(holdSeconds > 0)) return undefined;
  const span = last.seconds - first.seconds;
  if (!(span >= 5 && span < 1e9)) return undefined;
  const middles = binned(points, first.seconds, span);
  if (middles.length < 3) return undefined;

  const slopes: number[] = [];
  for (let right = 1; right < middles.length; right += 1)
    for (let left = 0; left < right; left += 1) {
      const run = middles[right].seconds - middles[left].seconds;
      if (run > 0) slopes.push((middles[left].value - middles[right].value) / run);
    }
  slopes.sort((a, b) => a - b);
  const count = middles.length;
  const spread = 1.96 * Math.sqrt((count * (count - 1) * (2 * count + 5)) / 18);
  const at = (rank: number) => slopes[Math.max(0, Math.min(slopes.length - 1, Math.round(rank)))];
  const step = readability / span;
  const fallPerSecond = median(slopes);
  const low = at((slopes.length - spread) / 2) - step;
  const high = at((slopes.length + spread) / 2) + step;
  const forecastLow = low * holdSeconds;
  const forecastHigh = high * holdSeconds;
  const status = forecastHigh < limit ? 'below' : forecastLow >= limit ? 'above' : 'unclear';
  const apart = Math.abs(fallPerSecond - limit / holdSeconds);
  const needed = apart > 0 ? Math.max(0, readability / apart - span) : Number.POSITIVE_INFINITY;
  return {
    fallPerSecond,
    low,
    high,
    forecast: fallPerSecond * holdSeconds,
    forecastLow,
    forecastHigh,
    status,
    secondsNeeded: status === 'unclear' && Number.isFinite(needed) ? Math.ceil(needed) : undefined,
  };
}

const median = (sorted: ArrayLike<number>): number => {
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
};

/** Medians of equal spans of time. Readings come in order of time, so a bin's median time is its middle reading's. */
function binned(points: readonly Point[], from: number, span: number): readonly Point[] {
  const middles: Point[] = [];
  let first = 0;
  for (let bin = 0; bin < bins && first < points.length; bin += 1) {
    const end = from + (span * (bin + 1)) / bins;
    let next = first;
    while (next < points.length && (bin === bins - 1 || points[next].seconds < end)) next += 1;
    if (next === first) continue;
    const values = new Float64Array(next - first);
    for (let index = first; index < next; index += 1) values[index - first] = points[index].value;
    // A typed array sorts by number, and many times faster than a plain one.
    values.sort();
    const middle = first + ((next - first) >> 1);
    const seconds = (next - first) % 2 === 1 ? points[middle].seconds : (points[middle - 1].seconds + points[middle].seconds) / 2;
    middles.push({ seconds, value: median(values) });
    first = next;
  }
  return middles;
}
