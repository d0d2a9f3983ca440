import fc from 'fast-check';
import { compare, type Decimal } from '../quantities';
import { traceExtremes } from './trace-extremes';

const whole = fc.oneof(
  fc.integer({ min: 1990, max: 2060 }),
  fc.integer({ min: -(2 ** 31), max: 2 ** 31 - 1 }),
  fc.constantFrom(-(2 ** 31), 2 ** 31 - 1, -(2 ** 30), 2 ** 30, 2 ** 30 + 1, 0),
);
const trace = fc.record({
  startAt: fc.integer({ min: 0, max: 20_000 }),
  stepMs: fc.constantFrom(100, 1000),
  scale: fc.constantFrom(1, 2),
  values: fc.array(whole, { minLength: 1, maxLength: 12 }),
});

test('the quick look finds what looking at every sample finds, for any traces, scales and times', () => {
  fc.assert(
    fc.property(
      fc.array(trace, { maxLength: 8 }),
      fc.integer({ min: 0, max: 15_000 }),
      fc.integer({ min: 0, max: 15_000 }),
      (traces, a, b) => {
        const [from, to] = [Math.min(a, b), Math.max(a, b)];
        const all = traces.flatMap(({ startAt, stepMs, scale, values }) =>
          values
            .map((digits, index): { at: number; value: Decimal } => ({
              at: startAt + index * stepMs,
              value: { digits: BigInt(digits), scale },
            }))
            .filter(({ at }) => at >= from && at <= to)
            .map(({ value }) => value),
        );
        const found = traceExtremes(traces, from, to);
        const sorted = all.sort(compare);
        if (sorted.length === 0) return found === undefined;
        return found !== undefined && compare(found.lowest, sorted[0]) === 0 && compare(found.highest, sorted[sorted.length - 1]) === 0;
      },
    ),
    { numRuns: 2000 },
  );
});

test('two scales are compared by their value: 20.5 and 20.45', () => {
  const one = { startAt: 0, stepMs: 1000 };
  const found = traceExtremes(
    [
      { ...one, scale: 1, values: [205] },
      { ...one, scale: 2, values: [2045] },
    ],
    0,
    0,
  );
  expect(found).toEqual({ lowest: { digits: 2045n, scale: 2 }, highest: { digits: 205n, scale: 1 } });
});
