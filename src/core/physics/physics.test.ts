import fc from 'fast-check';
import type { AbsolutePa, GaugePa } from '../quantities';
import { fromSi, toSi } from '../quantities';
import { gasLeakRate } from './gas-leak';
import { expectedGauge, temperatureSensitivity } from './gas-temperature';
import { holdTimeForLeak, smallestVisibleLeak, unmeasuredTemperaturePa } from './hold-sight';

const air = 101_325 as AbsolutePa;
const value = (result: { ok: true; value: number } | { ok: false }): number => (result.ok ? result.value : Number.NaN);

describe('leak rate from a fall (DOMAIN 3.1)', () => {
  test.each([
    [0.03, 400, 120, 3.553, 3],
    [0.0012, 50, 300, 0.00711, 5],
  ])('%d m³, %d Pa in %d s is %d L/h', (volumeM3, fall, seconds, expected, digits) => {
    const rate = gasLeakRate({ volumeM3, startPa: (101_325 + 2000) as AbsolutePa, endPa: (101_325 + 2000 - fall) as AbsolutePa, seconds });
    expect(fromSi(value(rate), 'L/h')).toBeCloseTo(expected, digits);
  });

  test('a gas that only cools leaks nothing', () => {
    const endPa = ((103_325 * 283.15) / 288.15) as AbsolutePa;
    const rate = gasLeakRate({ volumeM3: 1, startPa: 103_325 as AbsolutePa, endPa, startK: 288.15, endK: 283.15, seconds: 60 });
    expect(Math.abs(value(rate))).toBeLessThan(1e-12);
  });
});

describe('temperature and barometer (DOMAIN 3.2)', () => {
  test('3.00 psi at 70 °F is 2.666 psi at 60 °F', () => {
    const atmosphere = toSi(14.696, 'psi') as AbsolutePa;
    const end = expectedGauge({
      startGaugePa: toSi(3, 'psi') as GaugePa,
      startK: toSi(70, 'F'),
      endK: toSi(60, 'F'),
      startAtmospherePa: atmosphere,
      endAtmospherePa: atmosphere,
    });
    expect(fromSi(value(end), 'psi')).toBeCloseTo(2.666, 3);
  });

  test('nitrogen at 16.3 bar and 20 °C is 15.95 bar at 14 °C', () => {
    const end = expectedGauge({
      startGaugePa: 1.63e6 as GaugePa,
      startK: 293.15,
      endK: 287.15,
      startAtmospherePa: air,
      endAtmospherePa: air,
    });
    expect(fromSi(value(end), 'bar')).toBeCloseTo(15.95, 2);
  });

  test('one kelvin moves a gas pipe at 20.5 mbar by 3.6 mbar', () => {
    expect(value(temperatureSensitivity(2050 as GaugePa, air, 288.15)) / 100).toBeCloseTo(3.587, 2);
  });
});

describe('what a hold can see (DOMAIN 3.3)', () => {
  const delta = toSi(0.1, 'psi');
  test('60 L, 0.1 psi and 1 L/h need 24.5 min', () =>
    expect(value(holdTimeForLeak(0.06, delta, toSi(1, 'L/h'))) / 60).toBeCloseTo(24.5, 1));
  test('15 min there show nothing under 1.63 L/h', () =>
    expect(fromSi(value(smallestVisibleLeak({ volumeM3: 0.06, unseenPa: delta, seconds: 900 })), 'L/h')).toBeCloseTo(1.63, 2));
  test('one is the other turned round', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-3, max: 10, noNaN: true }),
        fc.double({ min: 1, max: 1e4, noNaN: true }),
        fc.double({ min: 10, max: 1e5, noNaN: true }),
        (volumeM3, unseenPa, seconds) => {
          const leak = value(smallestVisibleLeak({ volumeM3, unseenPa, seconds }));
          const time = holdTimeForLeak(volumeM3, unseenPa, leak);
          return !time.ok || Math.abs(time.value - seconds) < 1e-6 * seconds;
        },
      ),
    );
  });
  test('temperature that nobody measured: 1 K at 1 bar is 3.5 mbar', () =>
    expect(value(unmeasuredTemperaturePa(101_325, 1, 288.15))).toBeCloseTo(351.6, 1));
});

test('no input gives NaN, Infinity or an exception', () => {
  const any = fc.oneof(fc.double(), fc.constantFrom(0, -1, Number.NaN, Number.POSITIVE_INFINITY));
  const sane = (result: { ok: true; value: number } | { ok: false; problem: { message: string } }) =>
    result.ok ? Number.isFinite(result.value) : result.problem.message.length > 5;
  fc.assert(
    fc.property(any, any, any, any, any, (a, b, c, d, e) =>
      [
        gasLeakRate({ volumeM3: a, startPa: b as AbsolutePa, endPa: c as AbsolutePa, seconds: d, startK: e }),
        expectedGauge({
          startGaugePa: a as GaugePa,
          startK: b,
          endK: c,
          startAtmospherePa: d as AbsolutePa,
          endAtmospherePa: e as AbsolutePa,
        }),
        temperatureSensitivity(a as GaugePa, b as AbsolutePa, c),
        smallestVisibleLeak({ volumeM3: a, unseenPa: b, seconds: c }),
        holdTimeForLeak(a, b, c),
        unmeasuredTemperaturePa(a, b, c),
      ].every(sane),
    ),
  );
});
