/**
 * Live estimate of a hold (DOMAIN 3.12): how far the gauge will have fallen when it is due, how sure that is, and what it says of the
 * limit. The interval keeps its promise also for readings that hang together and for a fall that bends: the noise is taken from the
 * readings themselves, as part that forgets at once and part that remembers for half a minute, and a fall that slows is weighed against a
 * straight one.
 */
export interface Point {
  /** Seconds since the hold's start. */
  readonly seconds: number;
  /** Gauge reading in any one unit, temperature-corrected where that applies. */
  readonly value: number;
}

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

/** What is seen, in cells of equal time, and the noise of a cell. */
interface Seen {
  readonly times: readonly number[];
  readonly values: readonly number[];
  readonly counts: readonly number[];
  /** Variances of the noise of one reading: what forgets at once, and what remembers for `memoryS`. */
  readonly white: number;
  readonly lasting: number;
  readonly step: number;
}

/** Cells keep the work constant at any rate of reading. */
const cells = 30;
/** Readings that hang together are taken to forget within so long. */
const memoryS = 30;
const parts = [0.2, 0.4, 0.6, 0.8, 1];
const shares = [0.12, 0.17, 0.24, 0.34, 0.48, 0.68, 0.96, 1.36, 2];
/** Ways that a fall may go: of its first pace a part stays, and the rest is spent in a share of the hold. The first is straight. */
const ways: readonly { readonly spent: number; readonly share: number; readonly weight: number }[] = [
  { spent: 0, share: 1, weight: 0.45 },
  ...parts.flatMap((spent) => shares.map((share) => ({ spent, share, weight: 0.55 / (parts.length * shares.length) }))),
];
/** From so likely on a bend is spoken of. */
const surelyBent = 0.9;
/** So likely it must be before it is called below the limit. */
const surelyBelow = 0.99;

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

interface Forecast {
  readonly middle: number;
  readonly low: number;
  readonly high: number;
  /** What it stays under with the certainty that “below” is said with. */
  readonly surely: number;
  /** How likely it bends. */
  readonly bent: number;
  /** The fall that it stays under with so much certainty. */
  readonly quantile: (share: number) => number;
  /** The fall by the models, weighed, from the first reading to a time. */
  readonly at: (seconds: number) => number;
}

/**
 * Under the limit is said more warily than over it: where few falls are under it, one in forty is soon one of ten that are said to be;
 * and by far only, until it was seen how long the readings remember.
 */
const statusOf = ({ low, middle, surely }: Forecast, limit: number, span: number): 'below' | 'above' | 'unclear' =>
  middle + upTo(middle, surely, span) < limit ? 'below' : low >= limit ? 'above' : 'unclear';

/** How far above its middle a forecast must still be under the limit. */
const upTo = (middle: number, surely: number, span: number): number => (span >= memoryS ? 1 : 3) * (surely - middle);

/** So many points are looked at; more are taken together. */
const mostPoints = 1500;

/** At most so many points, each the mean of as many readings as come to it: what is left out of a picture would be missed by an estimate. */
export function grouped(points: readonly Point[], most: number): readonly Point[] {
  const each = Math.ceil(points.length / most);
  if (each <= 1) return points;
  return Array.from({ length: Math.ceil(points.length / each) }, (_, group) => {
    let [seconds, value, count] = [0, 0, 0];
    for (let index = group * each; index < Math.min(points.length, (group + 1) * each); index += 1) {
      seconds += points[index].seconds;
      value += points[index].value;
      count += 1;
    }
    return { seconds: seconds / count, value: value / count };
  });
}

/** Readings without those that stand alone: further from the middle of their neighbours than any noise. */
function steady(seen: readonly Point[], step: number): readonly Point[] {
  const points = seen.filter(({ seconds, value }) => Number.isFinite(seconds) && Number.isFinite(value));
  if (points.length < 9) return points;
  const away = new Float64Array(points.length);
  const near = new Float64Array(5);
  for (let index = 0; index < points.length; index += 1) {
    const from = Math.max(0, Math.min(points.length - 5, index - 2));
    // Put in order as they are taken: five are too few for anything cleverer.
    for (let place = 0; place < 5; place += 1) {
      const { value } = points[from + place];
      let at = place;
      for (; at > 0 && near[at - 1] > value; at -= 1) near[at] = near[at - 1];
      near[at] = value;
    }
    away[index] = Math.abs(points[index].value - near[2]);
  }
  const usual = Float64Array.from(away).sort()[Math.floor(points.length * 0.9)];
  return points.filter((_, index) => away[index] <= Math.max(6 * usual, 4 * step));
}

function inCells(points: readonly Point[], from: number, span: number, step: number): Seen {
  const count = Math.min(cells, Math.max(3, Math.floor(points.length / 3)), points.length);
  const [times, values, counts]: number[][] = [[], [], []];
  let next = 0;
  for (let cell = 0; cell < count && next < points.length; cell += 1) {
    const end = from + (span * (cell + 1)) / count;
    const first = next;
    while (next < points.length && (cell === count - 1 || points[next].seconds < end)) next += 1;
    if (next === first) continue;
    let [time, value] = [0, 0];
    for (let index = first; index < next; index += 1) {
      time += points[index].seconds;
      value += points[index].value;
    }
    times.push(time / (next - first));
    values.push(value / (next - first));
    counts.push(next - first);
  }
  return { times, values, counts, step, ...noiseOf(points, times, values, step) };
}

/** How readings differ that lie so long apart, with what they share of the fall taken away: the noise, and how much of it lasts. */
function noiseOf(
  points: readonly Point[],
  times: readonly number[],
  values: readonly number[],
  step: number,
): { readonly white: number; readonly lasting: number } {
  const trend = curveThrough(times, values);
  const rest = Float64Array.from(points, ({ seconds, value }) => value - trend(seconds));
  const span = points[points.length - 1].seconds - points[0].seconds;
  const dt = span / (points.length - 1);
  const lags = [...new Set([1, 2, 4, 8, 16, 32].map((lag) => Math.round(lag)))].filter(
    (lag) => lag * dt <= span / 4 && lag < points.length / 2,
  );
  if (lags.length === 0) lags.push(1);
  let [sw, sl, sww, swl, sll] = [0, 0, 0, 0, 0];
  for (const lag of lags) {
    let sum = 0;
    for (let index = lag; index < rest.length; index += 1) {
      const apart = rest[index] - rest[index - lag];
      sum += apart * apart;
    }
    const differs = sum / (2 * (rest.length - lag));
    const lasts = 1 - Math.exp((-lag * dt) / memoryS);
    const weight = 1 / lag;
    sw += weight * differs;
    sl += weight * differs * lasts;
    sww += weight;
    swl += weight * lasts;
    sll += weight * lasts * lasts;
  }
  const determinant = sww * sll - swl * swl;
  let white = determinant > 1e-12 ? (sw * sll - sl * swl) / determinant : sw / sww;
  let lasting = determinant > 1e-12 ? (sl * sww - sw * swl) / determinant : 0;
  if (lasting < 0) [white, lasting] = [sw / sww, 0];
  if (white < 0) [white, lasting] = [0, sl / sll];
  // A figure that was rounded is never nearer than its step lets it be.
  // What lasts about as long as was seen is half taken for the fall itself: it is made up for.
  return { white: Math.max(white, (step * step) / 24), lasting: Math.max(lasting, 0) * (1 + (2.5 * memoryS) / span) };
}

/** A parabola through the cells, by least squares. */
function curveThrough(times: readonly number[], values: readonly number[]): (seconds: number) => number {
  const [from, to] = [times[0], times[times.length - 1]];
  const half = Math.max(1e-9, (to - from) / 2);
  const degree = times.length >= 6 ? 3 : 2;
  const matrix = new Float64Array(degree * degree);
  const right = new Float64Array(degree);
  for (const [index, time] of times.entries()) {
    const x = (time - from) / half - 1;
    const powers = [1, x, x * x];
    for (let row = 0; row < degree; row += 1) {
      right[row] += powers[row] * values[index];
      for (let column = 0; column < degree; column += 1) matrix[row * degree + column] += powers[row] * powers[column];
    }
  }
  const root = rootOf(matrix, degree);
  if (root === undefined) return () => values[0];
  const found = solved(root, degree, right);
  return (seconds) => {
    const x = (seconds - from) / half - 1;
    return found[0] + found[1] * x + (degree === 3 ? found[2] * x * x : 0);
  };
}

/** Every model's forecast, weighed by how well it explains what was seen. */
function forecastOf(data: Seen, holdSeconds: number): Forecast | undefined {
  const { times, values, counts, white, lasting, step } = data;
  const size = times.length;
  const [lowest, highest] = [Math.min(...values), Math.max(...values)];
  const scale = Math.max(highest - lowest, step, Math.sqrt(white + lasting));
  const span = times[size - 1] - times[0];
  // Rounding that no noise spreads holds for as long as the gauge shows one figure.
  const spread = Math.exp(-4 * Math.PI ** 2 * Math.min(10, (white - (step * step) / 12) / (step * step)));
  const passed = (highest - lowest) / step;
  const rounding = ((step * step) / 6) * Math.min(1, spread) * (1 / (1 + passed) ** 2);
  // A needle that sticks lags by a part of its step; one that noise keeps shaking does not stick.
  const lag = ((step * step) / 24) * (1 + 7 * Math.min(1, spread));
  const noise = new Float64Array(size * size);
  for (let row = 0; row < size; row += 1)
    for (let column = 0; column <= row; column += 1) {
      const kept = lasting * Math.exp(-Math.abs(times[row] - times[column]) / memoryS);
      const own = row === column ? white / counts[row] + rounding / size + 1e-12 * scale * scale : 0;
      noise[row * size + column] = kept + own;
      noise[column * size + row] = kept + own;
    }
  const fall = Float64Array.from(values, (value) => values[0] - value);
  const models: {
    readonly weight: number;
    readonly middle: number;
    readonly variance: number;
    readonly at: (seconds: number) => number;
  }[] = [];
  let best = Number.NEGATIVE_INFINITY;
  const root = rootOf(noise, size);
  if (root === undefined) return undefined;
  // By generalised least squares: a level, and a pace along each way, all of them with the noise made even.
  const level = evened(root, size, new Float64Array(size).fill(1));
  const seen = evened(root, size, fall);
  const [oneOne, oneFall, fallFall] = [dot(level, level), dot(level, seen), dot(seen, seen)];
  for (const { spent, share, weight: prior } of ways) {
    const lasts = share * holdSeconds;
    const gone = (seconds: number): number => (1 - spent) * seconds + spent * lasts * (1 - Math.exp(-seconds / lasts));
    const way = evened(root, size, Float64Array.from(times, gone));
    const [wayWay, oneWay, wayFall] = [dot(way, way), dot(level, way), dot(way, seen)];
    const determinant = oneOne * wayWay - oneWay * oneWay;
    if (!(determinant > 0)) continue;
    const pace = (oneOne * wayFall - oneWay * oneFall) / determinant;
    const from = (wayWay * oneFall - oneWay * wayFall) / determinant;
    const left = fallFall - from * oneFall - pace * wayFall;
    const weight = Math.log(prior) - 0.5 * left - 0.5 * Math.log(determinant / (gone(span) / span) ** 2);
    best = Math.max(best, weight);
    const to = gone(holdSeconds);
    models.push({
      weight,
      middle: pace * to,
      variance: (to * to * oneOne) / determinant + rounding * (to / Math.max(1e-9, gone(span))) ** 2 + lag,
      at: (seconds) => pace * gone(seconds),
    });
  }
  if (models.length === 0) return undefined;
  const weights = models.map(({ weight }) => Math.exp(weight - best));
  const whole = weights.reduce((sum, weight) => sum + weight, 0);
  if (!(whole > 0)) return undefined;
  // Few readings say little of their own noise.
  const few = 1 + 1 / Math.max(1, counts.reduce((sum, count) => sum + count, 0) - 2);
  // What is less likely than one in a hundred thousand moves no quantile that is asked for.
  const likely = models.flatMap(({ middle, variance }, index) =>
    weights[index] < 1e-5 * whole ? [] : [{ share: weights[index] / whole, middle, deviation: Math.sqrt(few * variance + 1e-18) }],
  );
  const below = (value: number): number => {
    let sum = 0;
    for (const { share, middle, deviation } of likely) sum += share * normal((value - middle) / deviation);
    return sum;
  };
  const [least, most] = [
    Math.min(...likely.map(({ middle, deviation }) => middle - 6 * deviation)),
    Math.max(...likely.map(({ middle, deviation }) => middle + 6 * deviation)),
  ];
  const quantile = (share: number): number => {
    let [low, high] = [least, most];
    for (let half = 0; half < 26; half += 1) {
      const middle = (low + high) / 2;
      if (below(middle) < share) low = middle;
      else high = middle;
    }
    return (low + high) / 2;
  };
  return {
    middle: quantile(0.5),
    low: quantile(0.025),
    high: quantile(0.975),
    surely: quantile(surelyBelow),
    bent: 1 - weights[0] / whole,
    quantile,
    at: (seconds) => models.reduce((sum, { at }, index) => sum + (weights[index] / whole) * at(seconds), 0),
  };
}

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
    const [up, down] = [upTo(then.middle, then.surely, to - times[0]), then.middle - then.low];
    for (const [index, forecast] of forecasts.entries())
      if (resolved[index] === undefined && (forecast + up < limit || forecast - down >= limit)) resolved[index] = to;
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

/** Cells joined two by two until there are few enough. */
function pairwise(data: Seen): Seen {
  if (data.times.length <= 1.5 * cells) return data;
  const [times, values, counts]: number[][] = [[], [], []];
  for (let index = 0; index < data.times.length; index += 2) {
    const [one, other] = [index, Math.min(index + 1, data.times.length - 1)];
    const [n, m] = [data.counts[one], other === one ? 0 : data.counts[other]];
    times.push((n * data.times[one] + m * data.times[other]) / (n + m));
    values.push((n * data.values[one] + m * data.values[other]) / (n + m));
    counts.push(n + m);
  }
  return pairwise({ ...data, times, values, counts });
}

const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let index = 0; index < a.length; index += 1) sum += a[index] * b[index];
  return sum;
};

/** Lower root of a positive matrix (Cholesky); undefined where it is none. */
function rootOf(matrix: Float64Array, size: number): Float64Array | undefined {
  const root = new Float64Array(size * size);
  for (let row = 0; row < size; row += 1)
    for (let column = 0; column <= row; column += 1) {
      let sum = matrix[row * size + column];
      for (let inner = 0; inner < column; inner += 1) sum -= root[row * size + inner] * root[column * size + inner];
      if (row === column) {
        if (!(sum > 0)) return undefined;
        root[row * size + row] = Math.sqrt(sum);
      } else root[row * size + column] = sum / root[column * size + column];
    }
  return root;
}

/** What is seen through a lower root: with that root's noise in it, as noise of one size that forgets at once. */
function evened(root: Float64Array, size: number, right: Float64Array): Float64Array {
  const found = Float64Array.from(right);
  for (let row = 0; row < size; row += 1) {
    let rest = found[row];
    for (let column = 0; column < row; column += 1) rest -= root[row * size + column] * found[column];
    found[row] = rest / root[row * size + row];
  }
  return found;
}

function solved(root: Float64Array, size: number, right: Float64Array): Float64Array {
  const found = evened(root, size, right);
  for (let row = size - 1; row >= 0; row -= 1) {
    for (let column = row + 1; column < size; column += 1) found[row] -= root[column * size + row] * found[column];
    found[row] /= root[row * size + row];
  }
  return found;
}

/** Share of a bell below so many deviations (Abramowitz and Stegun 26.2.17, to 1e-7). */
function normal(deviations: number): number {
  const size = Math.abs(deviations);
  const t = 1 / (1 + 0.2316419 * size);
  const tail =
    0.3989422804014327 *
    Math.exp((-size * size) / 2) *
    t *
    (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  return deviations < 0 ? tail : 1 - tail;
}
