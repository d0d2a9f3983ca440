import fc from 'fast-check';
import type { Criterion, MeasureCriterion } from '../course/phases';
import { holdRule, measureRule } from '../limits';
import { planTest } from '../planning/plan';
import { alarmsOf, sideBySide } from '../planning/side-by-side';
import { procedures } from '../procedures';
import type { Task } from '../procedures/procedure';
import { exampleFor, examplePlan } from '../simulation/examples.fixture';
import { planText } from './plan-text';

/* What people read of a plan: its limits in words, its sheet, and two tests laid out in one day. */

describe('limits in words carry their figures', () => {
  const bands = { steps: [{ below: '2.5', outcome: 'too-low' }], beyond: 'in-order' };
  test.each<readonly [Criterion, RegExp]>([
    [{ kind: 'wait' }, /^Only time passes\.$/],
    [{ kind: 'no-rise', threshold: '0.25' }, /^No rise: 0\.25 mbar or more counts\.$/],
    [{ kind: 'no-fall', threshold: '0.25' }, /^No perceptible fall: 0\.25 mbar or more counts\.$/],
    [{ kind: 'no-fall', threshold: '0.25', permitted: '4.0' }, /from 0\.25 up to and including 4\.0 mbar is permitted/],
    [{ kind: 'at-most', limit: '14.3' }, /^Never above 14\.3 mbar\.$/],
    [{ kind: 'at-most', limit: '14', creep: '0.1' }, /and no creep of 0\.1 mbar/],
    [{ kind: 'keep' }, /A later phase decides/],
    [{ kind: 'keep', within: '5' }, /at most 5 mbar/],
    [
      {
        kind: 'leak-rate',
        litres: '30',
        factor: '1',
        bands: [
          { below: '1', outcome: 'unrestricted' },
          { below: '5', outcome: 'reduced' },
        ],
        beyond: 'shut-down',
      },
      /^Under 1 L\/h unrestricted, under 5 L\/h reduced, from there shut down\.$/,
    ],
    [{ kind: 'dial', threshold: '0.02', litresPerTurn: '14' }, /0\.02 turn counts/],
  ])('%j', (criterion, words) => expect(holdRule(criterion, 'mbar')).toMatch(words));
  test.each<readonly [MeasureCriterion, RegExp]>([
    [{ kind: 'recorded' }, /decides nothing/],
    [{ kind: 'in-bands', unit: 'bar', bands, worst: ['too-low'] }, /^Under 2\.5 bar too low, from there in order\.$/],
    [{ kind: 'air-at-most', litres: '1', softness: '1', atmosphereHpa: '1013.25', most: '0.04' }, /at most 4 % by volume/],
    [{ kind: 'flow-at-most', limit: '16.00', unit: 'CFM', reference: '25', baseline: '0' }, /^At most 16\.00 CFM at 25 Pa\.$/],
  ])('%j', (criterion, words) => expect(measureRule(criterion)).toMatch(words));
});

describe.each(procedures.map((procedure) => [procedure.id, procedure] as const))('the sheet of %s', (id, procedure) => {
  const planned = planTest(exampleFor(id));
  if (!planned.ok) throw new Error(id);
  const { plan } = planned.value;
  // Wrapped lines are joined again, so that a sentence can be looked for.
  const sheet = planText(procedure, planned.value).replace(/\n {2}/g, ' ');

  test('says its title, every derivation, caution, piece of kit and thing not tested', () => {
    for (const text of [plan.procedure.title, ...plan.derivation, ...Object.values(plan.cautions), ...procedure.kit, ...plan.notTested])
      expect(sheet).toContain(text.replace(/\s+/g, ' ').trim());
    expect(sheet).toContain('licensed practice come first');
  });
  test('neither sheet nor plan holds a word that a program forgot', () => {
    for (const text of [sheet, JSON.stringify(plan)]) expect(text).not.toMatch(/undefined|NaN|Infinity|\[object|\bnull\b/);
  });
  test('what a phase says to do is a sentence; what is ticked and chosen has words', () => {
    for (const phase of plan.phases) {
      expect(phase.say).toMatch(/[.?!]$/);
      if (phase.kind === 'check') for (const { text } of phase.items) expect(text.length).toBeGreaterThan(5);
      if (phase.kind === 'observe') expect(phase.options.filter(({ hoped }) => hoped)).toHaveLength(1);
    }
  });
  test('house rules and own figures stand on it with what the procedure asks', () => {
    const [figure] = procedure.figures;
    if (figure === undefined) return;
    const houseRules = [{ procedure: id, figure: figure.id, value: figure.value, reference: 'House 9' }];
    const housed = planTest(exampleFor(id, { houseRules }));
    expect(housed.ok && planText(procedure, housed.value).replace(/\n {2}/g, ' ')).toContain(
      `${figure.label}: ${figure.value} ${figure.unit} (procedure ${figure.value}; House 9)`,
    );
  });
});

test('every procedure that has a scope has a breach of it', () => {
  for (const { breaches = [], outOfScope } of procedures) expect(breaches.length > 0).toBe(outOfScope !== undefined);
});

describe('tests laid out in one day, whatever their tasks', () => {
  const task = fc.record({
    title: fc.constantFrom('a', 'b', 'c', 'd', 'e'),
    activeMinutes: fc.integer({ min: 0, max: 30 }),
    passiveMinutes: fc.integer({ min: 0, max: 60 }),
    supply: fc.option(fc.record({ of: fc.constant('water' as const), state: fc.constantFrom('on' as const, 'off' as const) }), {
      nil: undefined,
    }),
  });
  const tasks = fc.uniqueArray(task, { selector: ({ title }) => title, minLength: 1, maxLength: 3 });
  const day = fc.tuple(tasks, tasks).map(([first, second]) => [
    { id: 'one', title: 'One', tasks: first as readonly Task[] },
    { id: 'two', title: 'Two', tasks: second as readonly Task[] },
  ]);

  test('one pair of hands, each test in its own order, never longer than one after the other', () =>
    fc.assert(
      fc.property(day, (tests) => {
        const laid = sideBySide(tests);
        if (laid === undefined) return true;
        const busy = [...laid.tasks].filter((one) => one.freeMinute > one.startMinute).sort((a, b) => a.startMinute - b.startMinute);
        const hands = busy.every((one, index) => index === 0 || one.startMinute >= busy[index - 1].freeMinute);
        const inOrder = tests.every(({ id, tasks: own }) => {
          const placed = own.map(({ title }) => laid.tasks.find((one) => one.test === id && one.task === title));
          return placed.every((one, index) => one !== undefined && (index === 0 || one.startMinute >= (placed[index - 1]?.endMinute ?? 0)));
        });
        return hands && inOrder && laid.minutes <= laid.oneByOne;
      }),
      { numRuns: 150 },
    ));
  test('a supply is never wanted on and off at once', () =>
    fc.assert(
      fc.property(day, (tests) => {
        const wanting = sideBySide(tests)?.tasks.filter(({ supply }) => supply !== undefined) ?? [];
        return wanting.every((one) =>
          wanting.every(
            (other) =>
              one.supply?.state === other.supply?.state || one.endMinute <= other.startMinute || other.endMinute <= one.startMinute,
          ),
        );
      }),
      { numRuns: 150 },
    ));
  test('an alarm for each task that waits, in order of time', () =>
    fc.assert(
      fc.property(day, (tests) => {
        const laid = sideBySide(tests);
        if (laid === undefined) return true;
        const alarms = alarmsOf(laid);
        return (
          alarms.length === laid.tasks.filter(({ freeMinute, endMinute }) => endMinute > freeMinute).length &&
          alarms.every(({ minute }, index) => index === 0 || minute >= alarms[index - 1].minute)
        );
      }),
      { numRuns: 100 },
    ));
});

test('every example plans with no more than its own figures: none comes from a house', () => {
  for (const { id } of procedures)
    for (const { source, value, procedureValue } of examplePlan(id).figures) expect([source, value]).toEqual(['procedure', procedureValue]);
});
