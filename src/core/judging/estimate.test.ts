import fc from 'fast-check';
import { estimateHold } from './estimate';

const falling = (perSecond: number, seconds: number, step = 0.01) =>
  Array.from({ length: seconds + 1 }, (_, at) => ({ seconds: at, value: Math.round((20.5 - perSecond * at) / step) * step }));

describe('live estimate (DOMAIN 3.12)', () => {
  test('a clear fall is resolved above its limit, a still gauge below', () => {
    expect(estimateHold(falling(0.01, 60), 0.01, 0.25, 120)).toMatchObject({ status: 'above' });
    expect(estimateHold(falling(0, 110), 0.01, 0.25, 120)).toMatchObject({ status: 'below' });
  });

  test('nothing is called below the limit before half a minute was seen, and the time still needed knows it', () => {
    const early = estimateHold(falling(0, 20, 0.001), 0.001, 0.25, 120);
    expect(early).toMatchObject({ status: 'unclear' });
    expect(early?.forecastHigh).toBeLessThan(0.05);
    expect(early?.needed?.most).toBeGreaterThanOrEqual(10);
    expect(early?.needed?.most).toBeLessThan(17);
    expect(estimateHold(falling(0, 31, 0.001), 0.001, 0.25, 120)).toMatchObject({ status: 'below' });
  });

  test('early and coarse it cannot tell, and says how long it still needs', () => {
    const estimate = estimateHold(falling(0.001, 10, 0.1), 0.1, 0.25, 120);
    expect(estimate?.status).toBe('unclear');
    expect(estimate?.needed?.most).toBeGreaterThan(30);
    expect(estimate?.needed?.least).toBeLessThanOrEqual(estimate?.needed?.most ?? 0);
  });

  test('the interval holds the true rate over the readability, and one wild reading moves it little', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 0.02, noNaN: true }), fc.integer({ min: 30, max: 300 }), (rate, seconds) => {
        const estimate = estimateHold(falling(rate, seconds), 0.01, 0.25, 120, false);
        return estimate !== undefined && estimate.low <= rate + 1e-9 && rate <= estimate.high + 1e-9;
      }),
    );
    const wild = falling(0.005, 100);
    wild[50] = { seconds: 50, value: 35 };
    expect(estimateHold(wild, 0.01, 0.25, 120)?.fallPerSecond).toBeCloseTo(0.005, 3);
  });

  test('too little, or nonsense, gives no estimate and never a NaN', () => {
    expect(estimateHold([], 0.01, 0.25, 120)).toBeUndefined();
    expect(estimateHold(falling(0, 3), 0.01, 0.25, 120)).toBeUndefined();
    const endless = [
      { seconds: Number.NEGATIVE_INFINITY, value: 0 },
      { seconds: 0, value: 0 },
      { seconds: 0, value: 0 },
    ];
    expect(estimateHold(endless, 5e-324, 0.25, 120)).toBeUndefined();
    fc.assert(
      fc.property(
        fc.array(fc.record({ seconds: fc.double(), value: fc.double() }), { maxLength: 50 }),
        fc.double(),
        (points, readability) => {
          const estimate = estimateHold(points, readability, 0.25, 120);
          return estimate === undefined || !Number.isNaN(estimate.fallPerSecond);
        },
      ),
    );
  });
});

describe('a forecast that is sure of itself is right', () => {
  /** A gauge of a step that falls evenly, with up to half a step of noise, read once a second. */
  const falling = fc.record({
    perMinute: fc.double({ min: -0.5, max: 4, noNaN: true }),
    noise: fc.infiniteStream(fc.double({ min: -0.5, max: 0.5, noNaN: true })),
    seconds: fc.integer({ min: 20, max: 110 }),
  });
  const step = 0.01;
  const hold = 120;
  const seen = ({ perMinute, noise, seconds }: { perMinute: number; noise: Iterator<number>; seconds: number }) =>
    Array.from({ length: seconds }, (_, second) => ({
      seconds: second,
      value: Math.round((20.5 - (perMinute * second) / 60 + (noise.next().value ?? 0) * step) / step) * step,
    }));

  test('“below” is never said of a fall that will clearly reach the limit, nor “above” of one that clearly will not', () => {
    fc.assert(
      fc.property(falling, fc.constantFrom(0.25, 1, 4), (plant, limit) => {
        const estimate = estimateHold(seen(plant), step, limit, hold, false);
        const truth = (plant.perMinute * hold) / 60;
        if (estimate?.status === 'below') return truth < limit + 0.02;
        if (estimate?.status === 'above') return truth > limit - 0.02;
        return true;
      }),
      { numRuns: 500 },
    );
  });

  test('the rate lies in its interval, and the forecast in its own', () => {
    fc.assert(
      fc.property(falling, (plant) => {
        const estimate = estimateHold(seen(plant), step, 1, hold, false);
        return (
          estimate === undefined ||
          (estimate.low <= estimate.fallPerSecond &&
            estimate.fallPerSecond <= estimate.high &&
            estimate.forecastLow <= estimate.forecast &&
            estimate.forecast <= estimate.forecastHigh)
        );
      }),
      { numRuns: 300 },
    );
  });
});
