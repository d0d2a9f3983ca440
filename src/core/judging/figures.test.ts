import fc from 'fast-check';
import type { Criterion, MeasureCriterion, Phase } from '../course/phases';
import { measurePhase } from '../procedures/phase-shapes';
import { toSi } from '../quantities';
import { LogBuilder } from './log-builder.fixture';
import { hold, instrument, judged, outcome, planOf } from './one-phase.fixture';

/* Lock-up with its bands and creep, a cylinder that feeds, figures in ranges, trapped air, and what does not come up. */

describe('lock-up of a regulator: a limit, a creep, then bands', () => {
  const bands = {
    steps: [
      { below: '9.5', outcome: 'empty' },
      { below: '11', outcome: 'low' },
    ],
    beyond: 'within',
  };
  const criterion: Criterion = { kind: 'at-most', limit: '14.3', creep: '0.1', bands };
  test.each([
    ['9.40', '9.40', 'empty'],
    // Bands are compared after rounding to a tenth: 9.45 is 9.5.
    ['9.44', '9.44', 'empty'],
    ['9.45', '9.45', 'low'],
    ['10.94', '10.94', 'low'],
    ['10.95', '10.95', 'within'],
    ['14.30', '14.30', 'within'],
    ['14.30', '14.31', 'over'],
    ['12.00', '12.09', 'within'],
    ['12.00', '12.10', 'creep'],
    ['12.00', '11.50', 'within'],
    // Over the limit counts before its creep, and a creep before the band.
    ['14.10', '14.40', 'over'],
    ['9.00', '9.20', 'creep'],
  ])('%s to %s: %s', (start, end, expected) => expect(outcome(planOf([hold(criterion)]), start, end)?.outcome).toBe(expected));
});

describe('a hold behind a cylinder valve: a rise has rules of its own', () => {
  const plan = planOf([hold({ kind: 'no-fall', threshold: '0.1', rise: { noted: '0.5', feedsTo: '10' } })]);
  test.each([
    ['8.00', '8.00', 'tight', undefined],
    ['8.00', '7.90', 'fall', undefined],
    ['8.00', '8.49', 'tight', undefined],
    ['8.00', '8.50', 'rise', true],
    ['8.00', '9.99', 'rise', true],
    ['8.00', '10.00', 'fed', undefined],
  ])('%s to %s: %s', (start, end, expected, spoilt) => {
    const found = outcome(plan, start, end);
    expect(found?.outcome).toBe(expected);
    expect(found?.spoilt === true).toBe(spoilt === true);
  });
  test('a noted rise is said', () => {
    const log = new LogBuilder(plan).at(0).read('hold', 'start', '8.00').at(601).read('hold', 'end', '8.30');
    expect(judged(plan, log.events).reasons.map(({ code }) => code)).toContain('rise-noted');
  });
});

const measuring = (criterion: MeasureCriterion, points: readonly string[], fields: readonly ('pressure' | 'volume')[]) =>
  planOf(
    [
      measurePhase({
        id: 'figures',
        title: 'Figures',
        say: '',
        fields: fields.map((quantity) => ({ quantity, label: quantity, ...(quantity === 'volume' ? { instrument: 'pump' } : {}) })),
        points: points.map((id) => ({ id, label: id })),
        limit: criterion,
        restartFrom: 'figures',
      }),
    ],
    { gauge: instrument('bar', '0.01') as never, instruments: { pump: instrument('mL', '1', '100000') }, unit: 'bar' },
  );
type Read = readonly [point: string, quantity: 'pressure' | 'volume', value: string];
const measured = (plan: ReturnType<typeof measuring>, reads: readonly Read[]) => {
  const log = new LogBuilder(plan).at(0);
  for (const [point, quantity, value] of reads)
    log.figure('figures', 'point', quantity, value, quantity === 'volume' ? 'mL' : 'bar', { point });
  return judged(plan, log.events).phases[0];
};

describe('figures by their range', () => {
  const plan = measuring(
    {
      kind: 'in-bands',
      unit: 'bar',
      bands: {
        steps: [
          { below: '2.5', outcome: 'low' },
          { below: '5.6', outcome: 'usual' },
        ],
        beyond: 'high',
      },
      worst: ['high', 'low'],
    },
    ['a', 'b'],
    ['pressure'],
  );
  test.each([
    ['2.44', '3.00', 'low'],
    ['2.45', '3.00', 'usual'],
    ['5.54', '3.00', 'usual'],
    ['5.55', '3.00', 'high'],
    ['2.00', '6.00', 'high'],
    ['6.00', '2.00', 'high'],
  ])('%s and %s bar: %s, the worst of them', (a, b, expected) =>
    expect(
      measured(plan, [
        ['a', 'pressure', a],
        ['b', 'pressure', b],
      ]).outcome,
    ).toBe(expected),
  );
  test('until every point is read nothing is said', () => expect(measured(plan, [['a', 'pressure', '3.00']]).outcome).toBeUndefined());
});

describe('trapped air from a compression (DOMAIN 3.7)', () => {
  const plan = measuring(
    { kind: 'air-at-most', litres: '100', softness: '0.657', atmosphereHpa: '1013.25', most: '0.04' },
    ['low', 'high'],
    ['pressure', 'volume'],
  );
  const run = (added: string, low = '1.50', high = '3.00') =>
    measured(plan, [
      ['low', 'pressure', low],
      ['low', 'volume', '0'],
      ['high', 'pressure', high],
      ['high', 'volume', added],
    ]);
  /** Water that a share of air takes between the two pressures: the formula turned round, so that the limit's side shows. */
  const taken = (share: number) => {
    const [low, high] = [toSi(1.5, 'bar') + 101_325, toSi(3, 'bar') + 101_325];
    return 100_000 * ((high - low) * 0.657e-9 + share * 101_325 * (1 / low - 1 / high));
  };
  test.each([
    [0.001, 'within'],
    [0.0399, 'within'],
    [0.0401, 'too-much'],
    [0.1, 'too-much'],
  ])('%d by volume: %s', (share, expected) => expect(run(taken(share).toFixed(0)).outcome).toBe(expected));
  test('less than water and pipe alone take, a pressure that did not rise: unclear, to be read again', () => {
    expect(run('5')).toMatchObject({ outcome: 'unclear', spoilt: true });
    expect(run('400', '3.00', '3.00')).toMatchObject({ outcome: 'unclear', spoilt: true });
  });
  test('more water for the same rise never makes the air less', () =>
    fc.assert(
      fc.property(fc.integer({ min: 10, max: 3000 }), fc.integer({ min: 0, max: 500 }), (added, more) => {
        const order = ['unclear', 'within', 'too-much'];
        return order.indexOf(run(String(added)).outcome ?? '') <= order.indexOf(run(String(added + more)).outcome ?? '');
      }),
      { numRuns: 60 },
    ));
});

describe('a pressure that does not come up fails any test (DOMAIN 4.14)', () => {
  const closing = { id: 'done', title: 'Done', say: '', kind: 'check', items: [], closing: true, cautions: [], when: [] } as const;
  const fails = (phase: Phase) => {
    const plan = planOf([phase, closing]);
    const log = new LogBuilder(plan).at(5).write({ type: 'not-reached', phase: phase.id, round: 1, text: 'It will not come up.' });
    const { verdict, reasons } = judged(plan, log.events);
    return `${verdict}: ${reasons[0]?.code}`;
  };
  test('in a hold, whatever decides it', () => {
    expect(fails(hold({ kind: 'wait' }))).toBe('fail: pressure-not-reached');
    expect(fails(hold({ kind: 'no-fall', threshold: '0.1' }))).toBe('fail: pressure-not-reached');
  });
  test('in a measuring phase too', () =>
    expect(fails(measuring({ kind: 'recorded' }, ['a'], ['pressure']).phases[0])).toBe('fail: pressure-not-reached'));
});

test('restricted use carries its date, and a doubt takes it away', () => {
  const rate: Criterion = { kind: 'leak-rate', litres: '36', factor: '1', bands: [{ below: '1', outcome: 'free' }], beyond: 'reduced' };
  const closing = { id: 'done', title: 'Done', say: '', kind: 'check', items: [], closing: true, cautions: [], when: [] } as const;
  const plan = planOf([hold(rate), closing], {}, [
    { when: [[{ phase: 'hold', outcome: ['reduced'] }]], verdict: 'restricted', reason: 'rate-reduced', about: 'hold', repairDays: 28 },
  ]);
  const log = new LogBuilder(plan).at(0).read('hold', 'start', '20.00').at(601).read('hold', 'end', '10.00');
  const restricted = judged(plan, log.events);
  expect(restricted.verdict).toBe('restricted');
  // 28 days from 18 November 2026, the day of the log.
  expect(restricted.reasons.find(({ code }) => code === 'rate-reduced')?.sentence).toMatch(/2026-12-\d\d/);
  const unproved = { ...plan, boundaries: [{ id: 'end', label: 'End', beyond: 'the rest' }] };
  expect(judged(unproved, log.events).verdict).toBe('inconclusive');
});
