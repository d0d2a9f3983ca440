import fc from 'fast-check';
import { fallOf } from './falls.fixture';
import { forecastOf } from './forecast';
import { dot, evened, normal, rootOf, solved } from './least-squares';
import { grouped, inCells, type Point, pairwise, type Seen, steady } from './seen';

/* What the live estimate stands on: cells with their noise, and the least squares over them (DOMAIN 3.12). */

const straight = (perSecond: number, seconds: number, every = 1): Point[] =>
  Array.from({ length: Math.floor(seconds / every) + 1 }, (_, index) => ({
    seconds: index * every,
    value: 20 - perSecond * index * every,
  }));
/** Noise that is the same at every run: of one reading that forgets at once, and of one that remembers so long. */
function noisy(points: readonly Point[], white: number, lasting: number, memoryS = 30, from = 1): Point[] {
  let state = from;
  const next = () => {
    state = (state * 48_271) % 2_147_483_647;
    return state / 2_147_483_647;
  };
  const bell = () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
  let kept = lasting * bell();
  return points.map(({ seconds, value }, index) => {
    const stays = index === 0 ? 0 : Math.exp(-(seconds - points[index - 1].seconds) / memoryS);
    if (index > 0) kept = kept * stays + lasting * Math.sqrt(1 - stays * stays) * bell();
    return { seconds, value: value + white * bell() + kept };
  });
}
const seenOf = (points: readonly Point[], step = 0.001): Seen => inCells(points, points[0].seconds, points.at(-1)?.seconds ?? 0, step);

describe('sums', () => {
  test('a root times itself is the matrix, and what it solves is solved', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: 9, maxLength: 9 }),
        fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 3, maxLength: 3 }),
        (entries, right) => {
          // Positive by its making: any matrix times its own transpose, and a little on the diagonal.
          const matrix = Float64Array.from({ length: 9 }, (_, at) => {
            const [row, column] = [Math.floor(at / 3), at % 3];
            let sum = row === column ? 0.5 : 0;
            for (let inner = 0; inner < 3; inner += 1) sum += entries[row * 3 + inner] * entries[column * 3 + inner];
            return sum;
          });
          const root = rootOf(matrix, 3);
          if (root === undefined) throw new Error('no root');
          const found = solved(root, 3, Float64Array.from(right));
          for (let row = 0; row < 3; row += 1) expect(dot(matrix.slice(row * 3, row * 3 + 3), found)).toBeCloseTo(right[row], 6);
          // Seen evenly, a square is what the matrix makes of it.
          const even = evened(root, 3, Float64Array.from(right));
          expect(dot(even, even)).toBeCloseTo(dot(Float64Array.from(right), found), 6);
        },
      ),
    );
  });

  test('a matrix that is not positive has no root', () => {
    expect(rootOf(Float64Array.from([1, 2, 2, 1]), 2)).toBeUndefined();
    expect(rootOf(Float64Array.from([Number.NaN]), 1)).toBeUndefined();
  });

  test('the bell, against its table', () => {
    for (const [at, share] of [
      [0, 0.5],
      [1, 0.841344746],
      [1.959963985, 0.975],
      [-2.326347874, 0.01],
      [5, 0.999999713],
    ])
      expect(normal(at)).toBeCloseTo(share, 6);
  });
});

describe('what is seen', () => {
  test('taken together, readings keep their mean, and few are left as they are', () => {
    const points = noisy(straight(0.01, 5000), 0.01, 0);
    const mean = (all: readonly Point[], of: keyof Point) => all.reduce((sum, one) => sum + one[of], 0) / all.length;
    const whole = points.slice(0, 5000);
    const few = grouped(whole, 1000);
    expect(few).toHaveLength(1000);
    expect(mean(few, 'value')).toBeCloseTo(mean(whole, 'value'), 9);
    expect(mean(few, 'seconds')).toBeCloseTo(mean(whole, 'seconds'), 9);
    expect(grouped(points, 6000)).toBe(points);
    expect(grouped(points, 700).length).toBeLessThanOrEqual(700);
  });

  test('one reading far from its neighbours is left out; a step that lasts stays', () => {
    const points = noisy(straight(0, 100), 0.01, 0);
    const wild = points.map((point, index) => (index === 40 ? { ...point, value: 25 } : point));
    expect(steady(wild, 0.01).map(({ value }) => value)).not.toContain(25);
    expect(steady(wild, 0.01)).toHaveLength(wild.length - 1);
    const stepped = points.map((point, index) => (index > 50 ? { ...point, value: point.value - 1 } : point));
    expect(steady(stepped, 0.01)).toHaveLength(stepped.length);
    const nonsense = [...points, { seconds: Number.NaN, value: 20 }, { seconds: 101, value: Number.POSITIVE_INFINITY }];
    expect(steady(nonsense, 0.01)).toHaveLength(points.length);
  });

  test('noise is told apart: what forgets at once, and what remembers', () => {
    const many = Array.from({ length: 40 }, (_, run) => run + 1);
    const mean = (of: (run: number) => number) => many.reduce((sum, run) => sum + of(run), 0) / many.length;
    const forgetful = (run: number) => seenOf(noisy(straight(0.0001, 1800), 0.02, 0, 30, 37 * run));
    expect(mean((run) => Math.sqrt(forgetful(run).white))).toBeCloseTo(0.02, 3);
    expect(mean((run) => Math.sqrt(forgetful(run).lasting))).toBeLessThan(0.005);
    const lasting = (run: number) => seenOf(noisy(straight(0.0001, 1800), 0, 0.02, 30, 37 * run));
    expect(mean((run) => Math.sqrt(lasting(run).lasting))).toBeGreaterThan(0.017);
    expect(mean((run) => Math.sqrt(lasting(run).lasting))).toBeLessThan(0.024);
  });

  test('a fall is not taken for noise, and no figure is nearer than its step', () => {
    const { white, lasting } = seenOf(straight(0.01, 600), 0.01);
    expect(white).toBeCloseTo(0.01 ** 2 / 24, 9);
    expect(lasting).toBeLessThan(1e-9);
  });

  test('cells joined in pairs keep counts and means', () => {
    const data = seenOf(noisy(straight(0.01, 600), 0.01, 0));
    const long: Seen = {
      ...data,
      times: [...data.times, ...data.times.map((time) => time + 600), ...data.times.map((time) => time + 1200)],
      values: [...data.values, ...data.values, ...data.values],
      counts: [...data.counts, ...data.counts, ...data.counts],
    };
    const joined = pairwise(long);
    const sum = (all: readonly number[]) => all.reduce((total, one) => total + one, 0);
    expect(joined.times.length).toBeLessThanOrEqual(45);
    expect(sum(joined.counts)).toBe(sum(long.counts));
    const weighed = ({ values, counts }: Seen) => sum(values.map((value, index) => value * counts[index])) / sum(counts);
    expect(weighed(joined)).toBeCloseTo(weighed(long), 9);
  });
});

describe('the forecast', () => {
  test('a straight fall is forecast straight; shares of it lie in order', () => {
    const found = forecastOf(seenOf(noisy(straight(0.001, 600), 0.002, 0)), 1200);
    if (found === undefined) throw new Error('no forecast');
    expect(found.middle).toBeCloseTo(1.2, 1);
    expect(found.low).toBeLessThan(found.middle);
    expect(found.middle).toBeLessThan(found.high);
    expect(found.surely).toBeGreaterThan(found.quantile(0.95));
    expect(found.surely).toBeLessThan(found.high + (found.high - found.low));
    expect(found.quantile(0.2)).toBeLessThan(found.quantile(0.8));
    expect(found.quantile(0.5)).toBe(found.middle);
    expect(found.at(0)).toBeCloseTo(0, 6);
    expect(found.at(600)).toBeCloseTo(0.6, 1);
  });

  test('a fall that has spent itself is seen to bend, and forecast less far than it began', () => {
    const spent = straight(0, 900).map(({ seconds }) => ({ seconds, value: 20 - 0.5 * (1 - Math.exp(-seconds / 200)) }));
    const found = forecastOf(seenOf(noisy(spent, 0.002, 0)), 1800);
    expect(found?.bent).toBeGreaterThan(0.99);
    expect(found?.middle).toBeGreaterThan(0.45);
    expect(found?.middle).toBeLessThan(0.56);
  });

  test('more that is seen makes it narrower, more noise wider', () => {
    const width = (seconds: number, white: number) => {
      const found = forecastOf(seenOf(noisy(straight(0.0005, seconds), white, 0)), 1200);
      return (found?.high ?? 0) - (found?.low ?? 0);
    };
    expect(width(900, 0.01)).toBeLessThan(width(300, 0.01));
    expect(width(300, 0.01)).toBeLessThan(width(300, 0.05));
  });

  test('the fixture’s falls reach what they say', () => {
    for (const fall of ['straight', 'bending'] as const)
      for (let run = 1; run < 20; run += 1) {
        const { truth, points } = fallOf({ hold: { seconds: 900, every: 1 }, noise: 'independent', fall }, run);
        const end = points.slice(-60).reduce((sum, { value }) => sum + value, 0) / 60;
        expect(Math.abs(20 - end - truth)).toBeLessThan(0.06);
      }
  });
});
