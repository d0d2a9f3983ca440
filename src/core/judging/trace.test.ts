import { exampleEvents, examplePlan, planFor } from '../simulation/examples.fixture';
import { scenarioFor } from '../simulation/plants';
import { judge } from './judge';
import { LogBuilder } from './log-builder.fixture';
import { atStartTemperature, estimateOf, tracesOf, warmthOf } from './trace';

const plan = examplePlan('gas-piping-psi', { answers: { stages: 'both' } });

describe('points at the start’s temperature', () => {
  const air = 101_325;
  // A sealed gas that warms from 293.15 K by 1 K in 600 s, at 3 psi.
  const warming = Array.from({ length: 61 }, (_, index) => ({
    seconds: index * 10,
    value: ((3 + 14.69595) * (293.15 + index / 60)) / 293.15 - 14.69595,
  }));
  const warmth = [
    { seconds: 0, kelvin: 293.15 },
    { seconds: 600, kelvin: 294.15 },
  ];
  test('a sealed gas that only warms stands still', () => {
    for (const { value } of atStartTemperature(warming, warmth, 'psi', air)) expect(value).toBeCloseTo(3, 4);
  });
  test('one temperature, or none, changes nothing', () => {
    expect(atStartTemperature(warming, warmth.slice(0, 1), 'psi', air)).toBe(warming);
    expect(atStartTemperature(warming, [], 'psi', air)).toBe(warming);
  });
  test('after the last temperature it is taken to stay', () => {
    const [, , late] = atStartTemperature(
      [
        { seconds: 0, value: 3 },
        { seconds: 600, value: 3 },
        { seconds: 1200, value: 3 },
      ],
      warmth,
      'psi',
      air,
    );
    expect(late.value).toBeCloseTo((17.69595 * 293.15) / 294.15 - 14.69595, 4);
  });
});

describe('a hold on another instrument than the plan’s gauge', () => {
  const gauge = { ...plan.gauge, unit: 'mbar', readability: '0.5', rangeHigh: '100' } as const;
  const mixed = examplePlan('gas-piping-psi', { instruments: { fine: gauge } });
  const events = exampleEvents(mixed, 'sound');
  const judgement = judge(mixed, events);

  test('is drawn in the plan’s unit, each phase by its own instrument', () => {
    expect(judgement.verdict).toBe('pass');
    const traced = tracesOf(mixed, judgement, events, undefined, 0);
    const mean = (id: string) => {
      const points = traced.find(({ phase }) => phase === id)?.points ?? [];
      return points.reduce((sum, { value }) => sum + value, 0) / points.length;
    };
    expect(mean('hold')).toBeCloseTo(3.25, 1);
    // Read in mbar, drawn in psi: 0.45 psi is 31 mbar.
    expect(mean('hold-open')).toBeCloseTo(0.45, 1);
  });

  test('is estimated with its own step, and with the pipe’s temperatures', () => {
    const phase = mixed.phases.find(({ id }) => id === 'hold-open');
    const points = tracesOf(mixed, judgement, events, undefined, 0).find((one) => one.phase === 'hold-open')?.points ?? [];
    // Its limit is a step of this gauge: it stands, and so much can be told and no more.
    expect(estimateOf(mixed, phase, points)?.status).toBe('unclear');
    expect(Math.abs(estimateOf(mixed, phase, points)?.forecast ?? 1)).toBeLessThan(0.002);
    expect(scenarioFor(plan, 'hidden-by-warming')).toBeDefined();
  });

  test('a leak that a warming pipe hides is seen in the estimate once temperatures are read', () => {
    const hidden = exampleEvents(plan, 'hidden-by-warming');
    const said = judge(plan, hidden);
    const phase = plan.phases.find(({ id }) => id === 'hold');
    const points = tracesOf(plan, said, hidden, undefined, 0).find((one) => one.phase === 'hold')?.points ?? [];
    expect(estimateOf(plan, phase, points)?.status).not.toBe('above');
    const warmth = warmthOf(said, hidden, 'hold');
    expect(warmth).toHaveLength(2);
    expect(estimateOf(plan, phase, points, warmth)?.status).toBe('above');
  });
});

test('what is refused or withdrawn is neither drawn nor reckoned with', () => {
  const gas = planFor({ answers: { work: 'new' } });
  const log = new LogBuilder(gas).proved().settled().at(170).read('hold', 'start', '20.50');
  const drawn = () =>
    tracesOf(gas, judge(gas, log.events), log.events, undefined, 0)
      .find(({ phase }) => phase === 'hold')
      ?.points.map(({ value }) => value);
  log.at(180).read('hold', 'between', '20.40').at(190).read('hold', 'between', '900.00').read('hold', 'between', '0.30', { unit: 'psi' });
  expect(drawn()).toEqual([20.5, 20.4]);
  log.figure('hold', 'start', 'temperature', '20.0', 'C').figure('hold', 'between', 'temperature', '30.0', 'C');
  expect(warmthOf(judge(gas, log.events), log.events, 'hold')).toHaveLength(2);
  const [lower, warmer] = [-5, -1].map((index) => log.events.filter(({ type }) => type === 'reading').at(index)?.id ?? '');
  log.write({ type: 'withdrawn', reading: warmer, reason: 'misread' });
  expect([drawn(), warmthOf(judge(gas, log.events), log.events, 'hold').length]).toEqual([[20.5, 20.4], 1]);
  log.write({ type: 'withdrawn', reading: lower, reason: 'misread' });
  expect([drawn(), warmthOf(judge(gas, log.events), log.events, 'hold').length]).toEqual([[20.5], 1]);
});
