import { rootOf, solved } from './least-squares';

export interface Point {
  /** Seconds since the hold's start. */
  readonly seconds: number;
  /** Gauge reading in any one unit, temperature-corrected where that applies. */
  readonly value: number;
}

/** What is seen, in cells of equal time, and the noise of a cell. */
export interface Seen {
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
export const memoryS = 30;

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
export function steady(seen: readonly Point[], step: number): readonly Point[] {
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

/** The points in cells, with their noise as they show it themselves. */
export function inCells(points: readonly Point[], from: number, span: number, step: number): Seen {
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

/** Cells joined two by two until there are few enough. */
export function pairwise(data: Seen): Seen {
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
  const lags = [1, 2, 4, 8, 16, 32].filter((lag) => lag * dt <= span / 4 && lag < points.length / 2);
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
