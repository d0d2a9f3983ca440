import fc from 'fast-check';
import { sentenceOf } from '../judging/catalogue';
import { judge } from '../judging/judge';
import { LogBuilder } from '../judging/log-builder.fixture';
import { estimateOf, tracesOf } from '../judging/trace';
import { inBand } from '../limits';
import { decimal, pressureUnits } from '../quantities';
import { demoGauge, planFor } from '../simulation/examples.fixture';
import { bandOnGauge, inPlanUnit, onGauge } from './gauge-scale';

const pascal = planFor({
  answers: { work: 'new' },
  gauge: { ...demoGauge, unit: 'Pa', readability: '1', rangeLow: '-100', rangeHigh: '15000' },
});
const psi = { ...pascal, gauge: { ...demoGauge, unit: 'psi', readability: '0.001' } as const };

describe('a pressure of the plan on its gauge', () => {
  test('in the same unit it stays as it is written', () => expect(onGauge(planFor({}), '20')).toBe('20'));

  test('in another unit it has the gauge’s decimals', () => {
    expect(bandOnGauge(pascal, { low: '20', high: '21' })).toEqual({ low: '2000', high: '2100' });
    expect(bandOnGauge(psi, { low: '20', high: '21' })).toEqual({ low: '0.290', high: '0.305' });
  });

  test('what it says of a band’s ends, the judge takes as inside', () => {
    for (const phase of pascal.phases) {
      if (phase.kind !== 'hold') continue;
      const { low, high } = bandOnGauge(pascal, phase.band);
      for (const end of [low, high]) expect(inBand(decimal(end), 'Pa', phase.band.low, phase.band.high, pascal.unit)).toBe(true);
      expect(inBand(decimal(String(Number(high) + 6)), 'Pa', phase.band.low, phase.band.high, pascal.unit)).toBe(false);
    }
  });
});

test('back in the plan’s unit it is what it was, in every unit', () => {
  fc.assert(
    fc.property(fc.constantFrom(...pressureUnits), fc.double({ min: 0.01, max: 90_000, noNaN: true }), (unit, value) => {
      const scale = { unit: 'mbar', gauge: { ...demoGauge, unit, readability: '0.000000001' } } as const;
      return Math.abs(inPlanUnit(scale, Number(onGauge(scale, String(value)))) - value) <= value * 1e-6 + 1e-3;
    }),
  );
});

test('a hold read in pascal is drawn and forecast in the plan’s millibar', () => {
  const log = new LogBuilder(pascal)
    .at(0)
    .tick('prepare')
    .at(20)
    .read('zero', 'zero', '0')
    .at(30)
    .read('let-by', 'start', '850')
    .at(91)
    .read('let-by', 'end', '850')
    .at(100)
    .read('settle', 'start', '2050')
    .at(170)
    .read('hold', 'start', '2050');
  for (let second = 5; second <= 60; second += 5) log.at(170 + second).read('hold', 'between', String(2050 - second));
  const judged = judge(pascal, log.events);
  const points = tracesOf(pascal, judged, log.events, undefined, 0).find(({ phase }) => phase === 'hold')?.points ?? [];
  expect(points[0]).toEqual({ seconds: 0, value: 20.5 });
  expect(points.at(-1)?.value).toBeCloseTo(19.9, 9);
  const estimate = estimateOf(
    pascal,
    pascal.phases.find(({ id }) => id === 'hold'),
    points,
  );
  expect(estimate?.forecast).toBeCloseTo(1.2, 3);
  expect(estimate?.status).toBe('above');
});

test('every sentence with a limit says the limit’s own unit beside the gauge’s', () => {
  const log = new LogBuilder(pascal)
    .at(0)
    .tick('prepare')
    .at(20)
    .read('zero', 'zero', '0')
    .at(30)
    .read('let-by', 'start', '1200')
    .read('let-by', 'start', '850')
    .at(91)
    .read('let-by', 'end', '850')
    .at(100)
    .read('settle', 'start', '2050')
    .held('2050', '2000')
    .observe('rig', 'dry')
    .at(2000)
    .tick('make-safe');
  const said = judge(pascal, log.events).reasons.map(sentenceOf);
  expect(said).toContain('The gauge fell 50 Pa; perceptible from 0.25 mbar, and no fall is permitted. The rig was soaped and is tight.');
  expect(said).toContain('A start reading of 1200 Pa for Let-by is outside 7 to 10 mbar; it does not count.');
});
