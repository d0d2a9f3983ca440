import fc from 'fast-check';
import { procedures } from '../procedures';
import { facts, figurePairs, shared } from './compare';
import { figureText, type ProcedureView, viewOf } from './procedure-view';
import { finds, wordsOf } from './search';
import { togetherWith } from './together';

/* The library's pages are made from the procedures' data: what they show must be what the plan does. */

const on = '2026-01-05';
const view = (id: string, rules: Parameters<typeof viewOf>[1] = []): ProcedureView => {
  const procedure = procedures.find((one) => one.id === id);
  if (procedure === undefined) throw new Error(id);
  return viewOf(procedure, rules, on);
};

describe.each(procedures.map(({ id }) => id))('%s', (id) => {
  const shown = view(id);
  test('its example is worked out, with a course from its first step', () => {
    expect(shown.trouble).toBeUndefined();
    expect(shown.worked?.course.steps[0]).toMatchObject({ number: 1 });
  });
  test('the picture’s numbers are those of the steps, and every hold says its time and what decides it', () => {
    const main = shown.worked?.phases.filter((phase) => phase.main) ?? [];
    expect(shown.worked?.course.steps.map((step) => step.id)).toEqual(main.map((phase) => phase.id));
    expect(shown.worked?.course.steps.map((step) => step.number)).toEqual(main.map((_, index) => index + 1));
    for (const phase of shown.worked?.phases ?? [])
      if (phase.kind === 'hold') expect(phase.time !== undefined && phase.rule?.endsWith('.') && phase.band !== undefined).toBe(true);
  });
  test('what only a fault brings about says when', () => {
    for (const phase of shown.worked?.phases ?? []) if (!phase.main) expect(phase.when).not.toBe('');
  });
  test('it is found by its title, by words of its kit and by nothing that it has not', () => {
    const words = wordsOf(shown);
    expect(finds(words, shown.title)).toBe(true);
    expect(finds(words, `${shown.title.split(' ')[0]} ${shown.kit[0].split(' ')[0]}`)).toBe(true);
    expect(finds(words, `${shown.title} zeppelin`)).toBe(false);
  });
});

test('a house rule stands beside the procedure’s figure and moves the course', () => {
  const rule = { procedure: 'gas-piping-psi', figure: 'floor-seconds', value: '3600', reference: 'House 5' };
  const housed = view('gas-piping-psi', [rule, { ...rule, procedure: 'pool-lines-pressure' }]);
  expect(housed.figures.find(({ id }) => id === 'floor-seconds')).toMatchObject({
    value: '900',
    house: { value: '3600', reference: 'House 5' },
  });
  expect(housed.figures.filter(({ house }) => house !== undefined)).toHaveLength(1);
  const seconds = ({ worked }: ProcedureView) => worked?.course.steps.flatMap((step) => (step.kind === 'hold' ? [step.seconds] : []))[0];
  expect([seconds(view('gas-piping-psi')), seconds(housed)]).toEqual([900, 3600]);
});

test('house rules that leave no course are said, and the rest of the page stands', () => {
  const rules = [
    { procedure: 'domestic-gas-millibar', figure: 'test-low', value: '20.9', reference: 'House 1' },
    { procedure: 'domestic-gas-millibar', figure: 'test-high', value: '20.1', reference: 'House 2' },
  ];
  const broken = view('domestic-gas-millibar', rules);
  expect(broken.worked).toBeUndefined();
  expect(broken.trouble).toContain('leave no band');
  expect(broken.figures.length).toBeGreaterThan(5);
});

test('corridors, ceilings and falls of the picture are the plan’s own, in one unit', () => {
  const step = (id: string, phase: string) => view(id).worked?.course.steps.find((one) => one.id === phase);
  expect(step('domestic-gas-millibar', 'hold')).toMatchObject({ band: [20, 21], fall: 4, decides: true });
  expect(step('domestic-gas-millibar', 'let-by')).toMatchObject({ band: [7, 10], rise: 0.25 });
  expect(step('meter-turn-on-inches', 'lock-up')).toMatchObject({ band: [6.5, 8.6], ceiling: 14, fed: true });
  expect(step('drain-level-hold', 'hold')).toMatchObject({ reads: 'level' });
  // 7 in w.c. on the low gauge is 0.253 psi on the course's axis.
  expect(step('propane-tank-check', 'hold-low')).toMatchObject({ band: [expect.closeTo(0.2529, 3), expect.closeTo(0.3251, 3)] });
  expect(step('duct-tightness', 'points')).toMatchObject({ flow: { limit: 16, unit: 'CFM', reference: 25, at: [25, 12.5] } });
  // 1 L/h out of 27.785 L in five minutes is a fall of 3.04 mbar.
  expect(step('gas-leak-rate', 'hold')).toMatchObject({ fall: expect.closeTo(3.039, 2) });
  expect(step('refrigerant-nitrogen', 'rise-low')).toMatchObject({ stops: [1, 6, 11, 16.3] });
});

test('what each can come to: dye passes nothing, the leak rate restricts', () => {
  expect(view('pool-dye-static').verdicts).toEqual(['fail', 'inconclusive']);
  expect(view('gas-leak-rate').verdicts).toEqual(['pass', 'restricted', 'fail', 'inconclusive']);
});

test.each([
  ['900', 's', '15 min'],
  ['60', 's', '60 s'],
  ['0.25', 'mbar', '0.25 mbar'],
  ['1.5', '×', '1.5 ×'],
])('%s %s is read as %s', (value, unit, expected) => expect(figureText({ value, unit })).toBe(expected));

describe('side by side', () => {
  const [gas, rate] = [view('domestic-gas-millibar'), view('gas-leak-rate')];
  test('rows that agree are not marked, rows that differ are', () => {
    for (const { differs } of facts(gas, gas)) expect(differs).toBe(false);
    const rows = facts(gas, rate);
    expect(rows.find(({ label }) => label === 'School')).toEqual({
      label: 'School',
      first: 'Millibar school',
      second: 'Litres-per-hour school',
      differs: true,
    });
    expect(rows.find(({ label }) => label === 'Holds that decide')?.first).toMatch(/Hold: 20 to 21 mbar, 2 min/);
  });
  test('figures of both stand in one row; of one alone on its side; none is lost', () => {
    for (const first of procedures.map(({ id }) => view(id)))
      for (const second of [gas, rate]) {
        const { both, onlyFirst, onlySecond } = figurePairs(first, second);
        expect(both.length + onlyFirst.length).toBe(first.figures.length);
        expect(new Set(both.map(({ label }) => label)).size).toBe(both.length);
        expect(both.length + onlySecond.length).toBeGreaterThanOrEqual(second.figures.length);
      }
    const { both } = figurePairs(view('propane-vehicle'), view('propane-tank-check'));
    expect(both.length).toBeGreaterThan(0);
  });
  const letter = fc.constantFrom<string>('a', 'b', 'c', 'd');
  test('lists: every line once, on its side', () =>
    fc.assert(
      fc.property(fc.uniqueArray(letter), fc.uniqueArray(letter), (first, second) => {
        const found = shared(first, second);
        const side = (text: string) => (first.includes(text) && second.includes(text) ? 'both' : first.includes(text) ? 'first' : 'second');
        return new Set(found.map(({ text }) => text)).size === found.length && found.every((one) => one.in === side(one.text));
      }),
    ));
});

test('water isolation and drain level are done together, and only they', () => {
  const pairs = procedures.flatMap((procedure) => {
    const together = togetherWith(procedure);
    return together === undefined ? [] : [`${procedure.id} with ${together.id}`];
  });
  expect(pairs).toEqual(['water-isolation-hold with drain-level-hold', 'drain-level-hold with water-isolation-hold']);
  const water = procedures.find(({ id }) => id === 'water-isolation-hold');
  const together = water === undefined ? undefined : togetherWith(water);
  expect(together?.day.minutes).toBeLessThan(together?.day.oneByOne ?? 0);
  expect(together?.alarms.length).toBeGreaterThan(1);
});
