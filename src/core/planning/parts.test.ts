import fc from 'fast-check';
import { compareAcross } from '../limits';
import { decimal, fromSi, toSi } from '../quantities';
import { exampleFor } from '../simulation/examples.fixture';
import { overRating, parseComponent, parseComponents, seenBy, weakest } from '../sizing/components';
import { oneStep, storedAdvice } from '../sizing/gas-hold';
import { parsePipeLine, parseVolume } from '../sizing/pipe-volume';
import { chooseRing } from '../sizing/rings';
import { planTest } from './plan';

describe('components', () => {
  test.each([
    ['Hydrant 16bar -2m', 'Hydrant', 16e5, -2],
    ['Relief valve 150 psi', 'Relief valve', toSi(150, 'psi'), 0],
    ['Air valve 300psi 12ft', 'Air valve', toSi(300, 'psi'), 3.6576],
    ['Meter 0,5 bar +2m', 'Meter', 5e4, 2],
    ['Boiler 2 3 bar', 'Boiler 2', 3e5, 0],
  ])('%s', (text, name, ratingPa, heightM) => {
    const component = parseComponent(text);
    if (!component.ok) throw new Error(component.problem.message);
    expect(component.value.name).toBe(name);
    expect(component.value.ratingPa).toBeCloseTo(ratingPa, 6);
    expect(component.value.heightM).toBeCloseTo(heightM, 9);
  });
  test.each([
    ['Hydrant', 'component-line'],
    ['Hydrant 16', 'component-line'],
    ['16bar', 'component-line'],
    ['Hydrant 0bar', 'component-rating'],
    ['Hydrant 16bar 2000m', 'component-height'],
  ])('“%s” is refused with %s', (text, code) => expect(parseComponent(text)).toMatchObject({ ok: false, problem: { code } }));
  test('the line at fault is named, the others are kept', () => {
    const { components, problems } = parseComponents('Valve 10bar\n\nHydrant\nPump 8bar');
    expect(components.map(({ name }) => name)).toEqual(['Valve', 'Pump']);
    expect(problems.map(({ message }) => message.slice(0, 7))).toEqual(['Line 3:']);
  });
  test('with water the lowest part sees more and the highest less; with gas height counts nothing', () => {
    const { components } = parseComponents('High 10bar 20m\nLow 10.5bar -20m');
    expect(weakest(components, 9e5, 'water')?.name).toBe('Low');
    expect(weakest(components, 9e5, 'gas')?.name).toBe('High');
    expect(fromSi(seenBy(components[1], 9e5, 'water'), 'bar')).toBeCloseTo(10.958, 3);
  });
  test('at its rating a part holds; above it the test is stopped, with the pressure that would do', () => {
    const { components } = parseComponents('Valve 10bar');
    expect(overRating(components, 1e6, 'water', 'bar')).toBeUndefined();
    expect(overRating(components, 1.01e6, 'water', 'bar')).toMatchObject({
      code: 'over-weakest',
      message: expect.stringContaining('at 10 bar at most'),
    });
    expect(overRating([], 1e9, 'water', 'bar')).toBeUndefined();
  });
});

describe('holds of gas', () => {
  const gauge = exampleFor('gas-piping-psi').gauge;
  test('one step of a gauge in another unit always reaches the threshold made of it', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('mbar', 'kPa', 'inH2O', 'bar', 'Pa', 'psi') as fc.Arbitrary<'mbar'>,
        fc.integer({ min: 1, max: 500 }),
        fc.integer({ min: 0, max: 3 }),
        (unit, digits, scale) => {
          const readability = (digits / 10 ** scale).toFixed(scale);
          const step = oneStep({ ...gauge, unit, readability }, 'psi');
          const half = { digits: BigInt(digits) * 5n, scale: scale + 1 };
          return (
            compareAcross(decimal(readability), unit, decimal(step), 'psi') >= 0 &&
            // And half a step does not, as long as a step is more than a few millionths of the plan's unit.
            (Number(step) < 0.0001 || compareAcross(half, unit, decimal(step), 'psi') < 0)
          );
        },
      ),
    );
  });
  test('energy and thrust are said, with a warning where one is due', () => {
    expect(storedAdvice(60, '0.2068', 'bar', 50)).toEqual(['Stored energy 946 J.', 'End thrust on a plug or cap of 50 mm: 40.6 N.']);
    // In the plan's own units: 946 J, 40.6 N.
    expect(storedAdvice(60, '3', 'psi', 50)).toEqual(['Stored energy 698 ft·lbf.', 'End thrust on a plug or cap of 1.97 in: 9.13 lbf.']);
    expect(storedAdvice(50, '16.3', 'bar', 0)[0]).toEqual({ beware: expect.stringContaining('120 kJ: stay clear') });
    expect(storedAdvice(0, '16.3', 'bar', 0)[0]).toContain('not known');
    expect(storedAdvice(60, '1.379', 'bar', 50.8)[1]).toEqual({
      beware: 'End thrust on a plug or cap of 51 mm: 279 N; never trust a plug that only friction holds.',
    });
  });
});

describe('rings', () => {
  const rings = [
    { lowM3s: 0.002, highM3s: 0.02 },
    { lowM3s: 0.015, highM3s: 0.15 },
  ];
  test('the narrowest that holds the flow; below it the pressure is raised', () => {
    expect(chooseRing(rings, 0.018, 25)).toMatchObject({ ok: true, value: { ring: rings[0], pressurePa: 25 } });
    expect(chooseRing(rings, 0.05, 25)).toMatchObject({ ok: true, value: { ring: rings[1] } });
    // 2^(1/0.6) = 3.175 times the pressure doubles the flow.
    expect(chooseRing(rings, 0.001, 25)).toMatchObject({ ok: true, value: { ring: rings[0], pressurePa: 80 } });
    expect(chooseRing(rings, 0.00001, 25)).toMatchObject({ ok: false, problem: { code: 'ring-none' } });
    expect(chooseRing(rings, 1, 25)).toMatchObject({ ok: false, problem: { code: 'ring-none' } });
    expect(chooseRing([], 0.1, 25).ok).toBe(false);
  });
});

describe('lengths and volumes that are not known', () => {
  test('a line with a low and a high estimate', () => {
    expect(parsePipeLine('22cu 6..9')).toMatchObject({ ok: true, value: { lengthM: 9, lowestM: 6 } });
    expect(parsePipeLine('1sch40 20 to 40ft')).toMatchObject({ ok: true, value: { lengthM: 12.192, lowestM: 6.096 } });
    expect(parsePipeLine('22cu 9..6')).toMatchObject({ ok: false, problem: { code: 'pipe-estimate' } });
    expect(parsePipeLine('22cu 6..')).toMatchObject({ ok: false });
    expect(parseVolume('40..60 L')).toEqual({ ok: true, value: { litres: 60, lowest: 40 } });
    expect(parseVolume('1 ft3')).toMatchObject({ ok: true });
    expect(parseVolume('60..40')).toMatchObject({ ok: false, problem: { code: 'volume-estimate' } });
  });
  test('the plan goes by the larger, and says both', () => {
    const planned = planTest(exampleFor('gas-piping-psi', { pipes: '1sch40 40..60ft' }));
    if (!planned.ok) throw new Error('not planned');
    const { litres, lowest } = planned.value.plan.volume;
    expect(Number(litres)).toBeCloseTo(0.1 + 1.1 * 0.5576 * 18.288, 1);
    expect((Number(lowest) - 0.1) / (Number(litres) - 0.1)).toBeCloseTo(40 / 60, 2);
  });
});
