import { type Forecast, forecastOf } from './forecast';
import { grouped, inCells, memoryS, type Point, pairwise, type Seen, steady } from './seen';

/**
 * Live estimate of a hold (DOMAIN 3.12): how far the gauge will have fallen when it is due, how sure that is, and what it says of the
 * limit. The interval keeps its promise also for readings that hang together and for a fall that bends: the noise is taken from the
 * readings themselves, as part that forgets at once and part that remembers for half a minute, and a fall that slows is weighed against a
 * straight one.
 */
export interface Estimate {
  /** Fall per second over the whole hold, positive downwards, with its 95 % interval, in the points' unit. */
  readonly fallPerSecond: number;
  readonly low: number;
  readonly high: number;
  /** Fall forecast for the whole hold with its interval. */
  readonly forecast: number;
  readonly forecastLow: number;
  readonly forecastHigh: number;
  /** `bends` cannot tell either: the fall slows or the system still settles, and how far is not known yet. */
  readonly status: 'below' | 'above' | 'unclear' | 'bends';
  /** Seconds of further watching before it can be told; absent when it is resolved. */
  readonly needed?: Needed;
}

/** How long it still takes: between these nine times in ten, `about` where that is told in one figure. */
export interface Needed {
  readonly least: number;
  readonly most: number;
  readonly about?: number;
}

/** From so likely on a bend is spoken of. */
const surelyBent = 0.9;
/** So many points are looked at; more are taken together. */
const mostPoints = 1500;

/**
 * @param seen readings in order of time; fewer than 3, or less than 5 s, give no estimate
 * @param readability of the gauge, above 0, in the points' unit
 * @param limit fall that must not be reached in `holdSeconds`, in the points' unit
 * @param tellsTime also works out how long it still needs
 */
export function estimateHold(
  seen: readonly Point[],
  readability: number,
  limit: number,
  holdSeconds: number,
  tellsTime = true,
): Estimate | undefined {
  const points = steady(grouped(seen, mostPoints), readability);
  const [first, last] = [points[0], points.at(-1)];
  if (first === undefined || last === undefined || points.length < 3 || !(readability > 0) || !(holdSeconds > 0)) return undefined;
  const span = last.seconds - first.seconds;
  if (!(span >= 5 && span < 1e9) || !(readability < 1e9) || readability < 1e-12) return undefined;
  const data = inCells(points, first.seconds, span, readability);
  if (data.times.length < 3) return undefined;
  const found = forecastOf(data, holdSeconds);
  if (found === undefined) return undefined;
  const { middle, low, high, bent } = found;
  const status = statusOf(found, limit, span);
  return {
    fallPerSecond: middle / holdSeconds,
    low: low / holdSeconds,
    high: high / holdSeconds,
    forecast: middle,
    forecastLow: low,
    forecastHigh: high,
    status: status === 'unclear' && bent > surelyBent ? 'bends' : status,
    ...(status === 'unclear' && tellsTime ? { needed: neededFor(data, found, limit, holdSeconds, span) } : {}),
  };
}

/**
 * Under the limit is said more warily than over it: where few falls are under it, one in forty is soon one of ten that are said to be;
 * and not at all until it was seen how long the readings remember.
 */
const statusOf = ({ low, surely }: Pick<Forecast, 'low' | 'surely'>, limit: number, span: number): 'below' | 'above' | 'unclear' =>
  span >= memoryS && surely < limit ? 'below' : low >= limit ? 'above' : 'unclear';

/** The forecast may turn out to be any of these shares of what is held possible. */
const maybe = [0.05, 0.15, 0.25, 0.35, 0.45, 0.55, 0.65, 0.75, 0.85, 0.95];
/** It is looked again after so many times as long. */
const looksAgain = 1.1;
/** So many of them must agree on the time, to a quarter, before it is told in one figure. */
const agree = 7;

/**
 * How much longer it takes, by the same interval, as it narrows if what comes goes on as it is forecast: for each that the forecast may
 * turn out to be.
 */
function neededFor(data: Seen, found: Forecast, limit: number, holdSeconds: number, span: number): Needed {
  const { times, values, counts } = data;
  const each = span / times.length;
  const end = times[times.length - 1];
  const usual = Math.max(1, Math.round(counts.reduce((sum, count) => sum + count, 0) / counts.length));
  const forecasts = maybe.map(found.quantile);
  const resolved: (number | undefined)[] = forecasts.map(() => undefined);
  for (let longer = looksAgain; end * longer < holdSeconds && resolved.includes(undefined); longer *= looksAgain) {
    const to = end * longer;
    const more = Math.max(1, Math.round((to - end) / each));
    const later = Array.from({ length: more }, (_, index) => end + ((to - end) * (index + 1)) / more);
    const then = forecastOf(
      pairwise({
        ...data,
        times: [...times, ...later],
        values: [...values, ...later.map((time) => values[0] - found.at(time))],
        counts: [...counts, ...later.map(() => usual)],
      }),
      holdSeconds,
    );
    if (then === undefined) break;
    const [up, down] = [then.surely - then.middle, then.middle - then.low];
    for (const [index, forecast] of forecasts.entries())
      if (resolved[index] === undefined && statusOf({ low: forecast - down, surely: forecast + up }, limit, to - times[0]) !== 'unclear')
        resolved[index] = to;
  }
  const all = resolved.map((time) => time ?? holdSeconds).sort((one, other) => one - other);
  const told = (all[4] + all[5]) / 2;
  const after = (time: number): number => Math.ceil(Math.max(0, time - end));
  return {
    // It may have come to it at any time since the look before.
    least: after(all[0] / looksAgain),
    most: after(all[9]),
    ...(all.filter((time) => time >= 0.8 * told && time <= 1.25 * told).length >= agree ? { about: after(told) } : {}),
  };
}
