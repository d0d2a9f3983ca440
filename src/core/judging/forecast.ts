import { dot, evened, normal, rootOf } from './least-squares';
import { memoryS, type Seen } from './seen';

export interface Forecast {
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

const parts = [0.2, 0.4, 0.6, 0.8, 1];
const shares = [0.12, 0.17, 0.24, 0.34, 0.48, 0.68, 0.96, 1.36, 2];
/** Ways that a fall may go: of its first pace a part stays, and the rest is spent in a share of the hold. The first is straight. */
const ways: readonly { readonly spent: number; readonly share: number; readonly weight: number }[] = [
  { spent: 0, share: 1, weight: 0.45 },
  ...parts.flatMap((spent) => shares.map((share) => ({ spent, share, weight: 0.55 / (parts.length * shares.length) }))),
];
/** So likely it must be before it is called below the limit. */
const surelyBelow = 0.99;

/** Every model's forecast, weighed by how well it explains what was seen. */
export function forecastOf(data: Seen, holdSeconds: number): Forecast | undefined {
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
