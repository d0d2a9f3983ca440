import fc from 'fast-check';
import { roundedUp } from '../limits';
import { examplePlan, planFor } from '../simulation/examples.fixture';
import { gasIn, oneStep } from '../sizing/gas-hold';
import { waterIn } from '../sizing/water-hold';
import type { HoldPhase, PartGiven, Phase } from './phases';
import { type Sighted, sightOf } from './sight';
import { bluntedBy, sightWords } from './sight-words';

/* What a hold can see, in two figures (DOMAIN 3.3). */

const gauge = {
  id: 'g',
  name: 'g',
  kind: 'digital',
  serial: '',
  simulated: false,
  calibration: { needed: false },
  rangeLow: '0',
  rangeHigh: '100',
} as const;
const holdOf = (more: Partial<HoldPhase> & Pick<HoldPhase, 'band' | 'seconds' | 'limit'>): HoldPhase => ({
  id: 'hold',
  kind: 'hold',
  title: 'Hold',
  say: '',
  when: [],
  cautions: [],
  purpose: 'tightness',
  restartFrom: 'hold',
  ...more,
});
const part = (contents: PartGiven['contents'], more: Partial<PartGiven> = {}): PartGiven => ({
  phase: 'hold',
  what: 'it',
  contents,
  unit: 'L/h',
  ...more,
});
const seen = (plan: Sighted, given: PartGiven, held = {}) => {
  const found = sightOf(plan, given, held);
  if (found === undefined) throw new Error('it clears nothing');
  return found;
};

const millibar = (more: Partial<HoldPhase> = {}, letBySeconds = 60): Sighted => ({
  unit: 'mbar',
  gauge: { ...gauge, unit: 'mbar', readability: '0.01' },
  phases: [
    holdOf({
      id: 'let-by',
      purpose: 'let-by',
      band: { low: '7', high: '10' },
      seconds: letBySeconds,
      limit: { kind: 'no-rise', threshold: '0.25' },
    }),
    holdOf({ band: { low: '20', high: '21' }, seconds: 120, limit: { kind: 'no-fall', threshold: '0.25' }, valve: ['let-by'], ...more }),
  ] as readonly Phase[],
});

const psi = (more: Partial<HoldPhase> = {}, seconds = 900): Sighted => ({
  unit: 'psi',
  gauge: { ...gauge, unit: 'psi', readability: '0.1' },
  phases: [holdOf({ band: { low: '3', high: '3' }, seconds, limit: { kind: 'no-fall', threshold: '0.1' }, ...more })],
});

describe('check values (DOMAIN 3.3)', () => {
  test('5.1 with 20 L, steps of 0.01, supply unknown: 0.25 + 0.01 + 0.359 + 0.5 mbar, 0.66 L/h; 0.15 if nothing else moves', () => {
    const found = seen(millibar(), part(gasIn(20)));
    expect(found.terms.map(({ what, amount }) => [what, amount])).toEqual([
      ['limit', '0.250'],
      ['step', '0.0100'],
      ['temperature', '0.359'],
      ['let-by', '0.500'],
    ]);
    expect([found.alone, found.sure]).toEqual(['0.149', '0.663']);
  });
  test('60 L at 0.1 psi in 15 min: nothing under 1.63 L/h if nothing else moves, sure of 3.8', () => {
    const found = seen(psi(), part(gasIn(60)));
    expect([found.alone, found.sure]).toEqual(['1.64', '3.77']);
    expect(found.working[1]).toContain('60 L × that sum / (1013.25 mbar × 900 s) = 3.77 L/h');
  });
});

describe('what moves the sure figure', () => {
  const sure = (plan: Sighted, given = part(gasIn(20)), held = {}) => Number(seen(plan, given, held).sure);
  test('a longer watch of the valve, a known supply, a plugged boundary', () => {
    expect(sure(millibar({}, 240))).toBeLessThan(sure(millibar()));
    const plugged = sure(millibar({ valve: [] }));
    expect(sure(millibar({}, 240))).toBeGreaterThan(plugged);
    // A supply that is known shrinks what a let-by feeds at the hold's higher pressure.
    const known = part(gasIn(20), { supply: { value: '30', phase: 'let-by' } });
    expect(sure(millibar(), known)).toBeLessThan(sure(millibar()));
    expect(sure(millibar(), known)).toBeGreaterThan(plugged);
  });
  test('a thermometer counts from ten minutes on, and never makes it worse', () => {
    const corrects = (thermometerK?: string) => ({ corrects: { atmosphereHpa: '1013.25', needed: 'nothing' as const, thermometerK } });
    expect(sure(psi(corrects('0.1')))).toBeLessThan(sure(psi(corrects())));
    expect(sure(psi(corrects('1')))).toBe(sure(psi(corrects())));
    expect(sure(psi(corrects('0.1'), 300))).toBe(sure(psi(corrects(), 300)));
    expect(seen(psi(corrects('0.1')), part(gasIn(60))).assumes[0]).toBe('the pipe’s drift is known to 0.2 K by its thermometer');
    expect(seen(psi(corrects()), part(gasIn(60))).assumes[0]).toBe('the pipe drifts no more than 0.5 K');
  });
  test('the barometer from an hour on, at most 10 hPa; read, it leaves a quarter of a hectopascal', () => {
    const terms = (seconds: number, corrects?: HoldPhase['corrects']) =>
      Object.fromEntries(
        seen(psi({ corrects }, seconds), part(gasIn(60))).terms.map(({ what, amount }) => [what, Number(amount) * 6894.757]),
      );
    expect(terms(3540).barometer).toBeUndefined();
    expect(Math.round((terms(3600).barometer ?? 0) / 10)).toBe(10);
    expect(Math.round((terms(72_000).barometer ?? 0) / 20)).toBe(50);
    expect(terms(72_000, { atmosphereHpa: '1013.25', needed: 'both' }).barometer).toBeCloseTo(28.3, 0);
  });
  test('water by its stiffness: soft pipe hides more, its drift is not known, and measured air replaces the assumed', () => {
    const bar: Sighted = {
      unit: 'bar',
      gauge: { ...gauge, unit: 'bar', readability: '0.05' },
      phases: [holdOf({ band: { low: '4', high: '4' }, seconds: 900, limit: { kind: 'no-fall', threshold: '0.1' } })],
    };
    const copper = seen(bar, part(waterIn(100, 'copper')));
    const soft = seen(bar, part(waterIn(100, 'PEX')));
    expect(Number(soft.alone)).toBeGreaterThan(1.2 * Number(copper.alone));
    expect(copper.terms.some(({ what }) => what === 'temperature')).toBe(true);
    expect(soft.terms.some(({ what }) => what === 'temperature')).toBe(false);
    expect(soft.outside.join(' ')).toContain('soft pipe');
    expect(soft.assumes.join(' ')).not.toContain('drifts');
    const bled = seen(bar, part(waterIn(100, 'copper')), { airPercent: '0.1' });
    expect(Number(bled.sure)).toBeLessThan(0.5 * Number(copper.sure));
    expect(bled.assumes.join(' ')).toContain('0.1 % of air at the test pressure, as measured');
  });
  test('a permitted drop is claimed by itself, and a rate limit by the fall that it makes', () => {
    const permitted = { limit: { kind: 'no-fall', threshold: '0.25', permitted: '4.0' } } as const;
    expect(seen(millibar(permitted), part(gasIn(20), { permitted: true })).terms[0]).toMatchObject({ what: 'limit', amount: '4.00' });
    const rate = examplePlan('gas-leak-rate').sight[0];
    expect(Number(rate?.alone)).toBeCloseTo(1, 2);
    expect(Number(rate?.sure)).toBeGreaterThan(1);
  });
});

describe('where no figure can be given', () => {
  test('nobody knows the volume: the movement stands, and no rate', () => {
    const found = seen(millibar(), part({ kind: 'unknown' }));
    expect([found.alone, found.sure]).toEqual([undefined, undefined]);
    expect(found.terms).toHaveLength(4);
    expect(sightWords(found).sure).toContain('nobody knows the volume');
  });
  test('what may move is four fifths of the pressure: sure of no leak, and said', () => {
    const low = millibar({ band: { low: '1', high: '1' } });
    const found = seen(low, part(gasIn(20)));
    expect(found.sure).toBeUndefined();
    expect(found.blind).toContain('sure of no leak');
    expect(bluntedBy(found)).toContain('no leak is sure to be caught');
  });
  test('dye has none', () => expect(examplePlan('pool-dye-static').sight).toEqual([]));
});

describe('properties', () => {
  test('sure is never less than alone, and falls with a finer step, a longer watch, a smaller volume', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 500, noNaN: true }),
        fc.integer({ min: 60, max: 7200 }),
        fc.constantFrom('0.01', '0.1', '1'),
        (litres, seconds, step) => {
          const at = (volume: number, watch: number, readability: string) => {
            const plan = millibar({ seconds, limit: { kind: 'no-fall', threshold: '0.25' } }, watch);
            return seen({ ...plan, gauge: { ...plan.gauge, readability } } as Sighted, part(gasIn(volume)));
          };
          const one = at(litres, 60, step);
          if (one.sight.sure === undefined || one.sight.alone === undefined) return one.blind !== undefined;
          const finer = at(litres, 60, '0.001').sight.sure ?? Number.POSITIVE_INFINITY;
          const watched = at(litres, 300, step).sight.sure ?? Number.POSITIVE_INFINITY;
          const smaller = at(litres / 2, 60, step).sight.sure ?? Number.POSITIVE_INFINITY;
          return one.sight.sure >= one.sight.alone && finer <= one.sight.sure && watched <= one.sight.sure && smaller <= one.sight.sure;
        },
      ),
    );
  });
  test('a figure is rounded up, to three digits', () => {
    expect([0.66261, 3.768, 0.0000123456, 1234.1, 0, 10].map(roundedUp)).toEqual(['0.663', '3.77', '0.0000124', '1235', '0', '10.0']);
    fc.assert(fc.property(fc.double({ min: 1e-6, max: 1e6, noNaN: true }), (value) => Number(roundedUp(value)) >= value * (1 - 1e-8)));
  });
});

test('what may move unnoticed is more than the limit: said in the figures', () => {
  expect(bluntedBy(seen(millibar(), part(gasIn(20))))).toBe(
    'In it, what may move unnoticed (temperature 0.359 and let-by 0.500 mbar) is more than the limit itself, 0.250: a leak of up to 0.663 L/h may pass. Sharpen the test before anything is connected.',
  );
  expect(bluntedBy(seen(psi(), part(gasIn(60))))).toBeUndefined();
  expect(oneStep({ ...gauge, unit: 'psi', readability: '0.1' }, 'psi')).toBe('0.1');
  expect(planFor({}).sight.map(({ what }) => what)).toEqual(['the pipework', 'the appliances, where a drop is permitted']);
});
