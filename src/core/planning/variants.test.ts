import fc from 'fast-check';
import { judge } from '../judging/judge';
import { procedureById, procedures } from '../procedures';
import { exampleEvents, exampleFor, examplePlan, exampleProblems, planFor } from '../simulation/examples.fixture';
import { checkVariant, inputOf, planTest, type Variant } from './plan';

/* A firm's own procedures (DOMAIN 5.17): copies with figures changed inside safe bounds, by version. */

const variant = (change: Partial<Variant> = {}): Variant => ({
  id: '3f2b8c1e-5a77-4d0c-9b7e-2f6a1c9d8e04',
  base: 'domestic-gas-millibar',
  title: 'Lindqvay domestic',
  version: '2',
  reference: 'LC 7',
  figures: [{ figure: 'hold-seconds', value: '300' }],
  ...change,
});
const problems = (change: Partial<Variant>, base = 'domestic-gas-millibar') => {
  const procedure = procedureById(base);
  if (procedure === undefined) throw new Error(base);
  return checkVariant(procedure, variant({ base, ...change })).map(({ code, field }) => `${code} ${field}`);
};
const figures = (...changed: readonly (readonly [string, string])[]) => ({
  figures: changed.map(([figure, value]) => ({ figure, value })),
});

test.each([
  ['a longer hold', figures(['hold-seconds', '300']), []],
  ['a shorter one', figures(['hold-seconds', '119']), ['variant-looser hold-seconds']],
  ['one school’s looser drop, which is allowed by name', figures(['permitted-diaphragm-16-28', '1.5']), []],
  ['more than that school’s', figures(['permitted-diaphragm-16-28', '1.6']), ['variant-looser permitted-diaphragm-16-28']],
  ['half a second', figures(['hold-seconds', '300.5']), ['variant-value hold-seconds']],
  ['words', figures(['hold-seconds', 'long']), ['variant-value hold-seconds']],
  ['a threshold of nothing', figures(['perceptible-liquid', '0']), ['variant-senseless perceptible-liquid']],
  ['a figure that there is not', figures(['luck', '1']), ['variant-unknown luck']],
  ['a figure twice', figures(['hold-seconds', '300'], ['hold-seconds', '400']), ['variant-twice hold-seconds']],
  ['no title and no code', { title: ' ', reference: '' }, ['variant-title title', 'variant-reference reference']],
] as const)('%s', (_, change, expected) => expect(problems(change)).toEqual(expected));

test('the plan goes by its name and version, and each figure says where it came from', () => {
  const plan = planFor({ variant: variant() });
  expect(plan.procedure).toEqual({
    id: 'domestic-gas-millibar',
    version: '1',
    title: 'Lindqvay domestic',
    school: 'Own procedure, version 2 (LC 7), from Domestic low-pressure gas',
    variant: { id: variant().id, title: 'Lindqvay domestic', version: '2', reference: 'LC 7' },
  });
  expect(plan.figures.find(({ id }) => id === 'hold-seconds')).toMatchObject({
    value: '300',
    procedureValue: '120',
    source: 'own procedure',
    reference: 'LC 7',
  });
  expect(plan.phases.find(({ id }) => id === 'hold')).toMatchObject({ seconds: 300 });
  const again = planTest(inputOf(plan, '2026-11-20'));
  expect(again.ok && again.value.plan.hash).toBe(plan.hash);
});

test('a house rule binds an own procedure too: the stricter of the two', () => {
  const hold = (own: string, house: string) => {
    const houseRules = [{ procedure: 'domestic-gas-millibar', figure: 'hold-seconds', value: house, reference: 'House 1' }];
    return planFor({ variant: variant(figures(['hold-seconds', own])), houseRules }).figures.find(({ id }) => id === 'hold-seconds');
  };
  expect(hold('300', '240')).toMatchObject({ value: '300', source: 'own procedure' });
  expect(hold('300', '360')).toMatchObject({ value: '360', source: 'house rule' });
  // A drop that the own procedure loosened is still held by the firm's stricter rule.
  const houseRules = [{ procedure: 'domestic-gas-millibar', figure: 'permitted-diaphragm-16-28', value: '0.8', reference: 'House 1' }];
  const plan = planFor({ variant: variant(figures(['permitted-diaphragm-16-28', '1.5'])), houseRules, answers: { meter: 'diaphragm-16' } });
  expect(plan.figures.find(({ id }) => id === 'permitted-diaphragm-16-28')).toMatchObject({ value: '0.8', source: 'house rule' });
});

test('the sentence of the limit speaks of the time that is held', () => {
  expect(planFor({}).derivation.join(' ')).toContain('4.0 mbar in 2 minutes is permitted');
  expect(planFor({ variant: variant() }).derivation.join(' ')).toContain('4.0 mbar in 5 minutes is permitted');
  expect(planFor({ variant: variant(figures(['hold-seconds', '150'])) }).derivation.join(' ')).toContain('in 150 s is permitted');
});

test('a copy of another procedure is refused', () =>
  expect(exampleProblems('gas-piping-psi', { variant: variant({ figures: [] }) })).toContain('variant-base'));

test('a test keeps the version that it ran under: a later one changes nothing of its verdict', () => {
  const base = 'gas-piping-psi';
  const first = examplePlan(base, { variant: variant({ base, ...figures(['floor-seconds', '1800']) }) });
  const events = exampleEvents(first, 'sound');
  const before = judge(first, events);
  const second = examplePlan(base, { variant: variant({ base, version: '3', ...figures(['floor-seconds', '5400']) }) });
  expect(judge(first, events)).toEqual(before);
  expect(before.verdict).toBe('pass');
  // By the later rules the same readings would have been too short.
  expect(judge(second, events).verdict).not.toBe('pass');
});

test('for every figure: its own value and its loosest are taken, a step looser is refused', () => {
  for (const procedure of procedures)
    for (const { id, value, stricter, loosest = value, unit } of procedure.figures) {
      const found = (changed: string) => problems({ base: procedure.id, ...figures([id, changed]) }, procedure.id);
      expect(found(value)).toEqual([]);
      expect(found(loosest)).toEqual([]);
      const counted = ['s', 'days', 'years'].includes(unit);
      const step = counted ? 1 : Math.max(0.001, Number(loosest) / 1000);
      const looser = Number(loosest) + (stricter === 'higher' ? -step : step);
      if (looser >= 0) expect(found(counted ? String(Math.round(looser)) : looser.toFixed(4))).toEqual([`variant-looser ${id}`]);
    }
});

test('whatever is typed as a figure: a plan, or problems with their sentences', () => {
  const { gauge } = exampleFor('meter-turn-on-inches');
  const figure = fc.constantFrom(...(procedureById('meter-turn-on-inches')?.figures.map(({ id }) => id) ?? []), 'luck');
  const typed = fc.oneof(fc.string({ maxLength: 6 }), fc.constantFrom('0', '-1', '1e9', '12.5', '999999999'));
  fc.assert(
    fc.property(fc.array(fc.record({ figure, value: typed }), { maxLength: 4 }), (changed) => {
      const own = variant({ base: 'meter-turn-on-inches', figures: changed });
      const planned = planTest(exampleFor('meter-turn-on-inches', { variant: own, gauge }));
      return planned.ok || planned.problems.every(({ code, message }) => code !== '' && message !== '');
    }),
    { numRuns: 300 },
  );
});
