import { sideBySide } from '@/core/planning';
import { procedureById, proceduresFor } from '@/core/procedures';
import { groundOf, systemOf } from '@/device/ground.fixture';
import { dayTests, usualProcedure } from './day-plan';

/* What a site's day is laid out from. */

const on = '2026-11-25';
const water = systemOf('water', 'water-isolation-hold');
const drain = systemOf('drain', 'drain-level-hold');
const pool = systemOf('pool', 'pool-lines-pressure');

test('a system is tested as it was last time, else by the first procedure of its kind', () => {
  const ground = groundOf([water]);
  expect(usualProcedure(ground, water)?.id).toBe(proceduresFor('water')[0].id);
  const last = proceduresFor('water').at(-1)?.id ?? '';
  const earlier = {
    test: 't',
    systemId: water.id,
    on,
    verdict: 'pass' as const,
    procedure: last,
    answers: {},
    pipes: '',
    statedVolume: '',
    gauge: '',
    instruments: {},
  };
  expect(usualProcedure({ ...ground, earlier: [earlier] }, water)?.id).toBe(last);
  expect(usualProcedure({ ...ground, earlier: [{ ...earlier, systemId: 'another' }] }, water)?.id).toBe(proceduresFor('water')[0].id);
});

test('each test brings its tasks and what it shares: the gauge it would take, and what a van carries once', () => {
  const ground = groundOf([water, drain, pool]);
  const entry = (system: typeof water, procedureId: string) => ({ system: system.id, procedure: procedureId });
  const [first, second, third] = dayTests(
    ground,
    [entry(water, 'water-isolation-hold'), entry(drain, 'drain-level-hold'), entry(pool, 'pool-lines-pressure')],
    on,
  );
  expect(first.title).toBe(water.name);
  expect(first.tasks.map(({ title }) => title)).toEqual(procedureById('water-isolation-hold')?.tasks.map(({ title }) => title));
  expect(first.needs).toHaveLength(1);
  expect(second.needs).toContain('test ball');
  expect(third.needs).toContain('plugs');
  expect(dayTests(ground, [{ system: 'gone', procedure: 'water-isolation-hold' }], on)).toEqual([]);
  expect(dayTests(ground, [entry(water, 'no such procedure')], on)).toEqual([]);
});

test('a longer hold by a house rule makes the day longer; without a gauge the procedure’s own times stand', () => {
  const entries = [{ system: water.id, procedure: 'water-isolation-hold' }];
  const waiting = (ground: ReturnType<typeof groundOf>) =>
    dayTests(ground, entries, on)[0].tasks.reduce((sum, { passiveMinutes }) => sum + passiveMinutes, 0);
  const plain = waiting(groundOf([water]));
  const rule = { procedure: 'water-isolation-hold', figure: 'hold-seconds', value: '7200', reference: 'House practice' };
  expect(waiting({ ...groundOf([water]), houseRules: [rule] })).toBeGreaterThan(plain + 60);
  const bare = dayTests({ ...groundOf([water]), instruments: [] }, entries, on)[0];
  expect(bare.needs).toEqual([]);
  expect(bare.tasks).toEqual(procedureById('water-isolation-hold')?.tasks);
});

test('two tests that need the one set of plugs go one after the other, however many people', () => {
  const other = { ...pool, id: 'pool-2' };
  const ground = groundOf([pool, other]);
  const lines = (systems: readonly (typeof pool)[]) =>
    sideBySide(
      dayTests(
        ground,
        systems.map(({ id }) => ({ system: id, procedure: 'pool-lines-pressure' })),
        on,
      ),
      { people: 2 },
    );
  const one = lines([pool]);
  expect(lines([pool, other])?.minutes).toBe((one?.minutes ?? 0) * 2);
});

test('one gauge for both is handed from the water’s test to the drain’s; with a gauge each, one is done in the other’s hold', () => {
  const tests = dayTests(
    groundOf([water, drain]),
    [
      { system: water.id, procedure: 'water-isolation-hold' },
      { system: drain.id, procedure: 'drain-level-hold' },
    ],
    on,
  );
  expect(tests[0].needs?.[0]).toBe(tests[1].needs?.[0]);
  expect(tests[0].needs).toHaveLength(1);
  const shared = sideBySide(tests, { people: 1 });
  expect(shared?.minutes).toBe(shared?.oneByOne);
  const apart = sideBySide([tests[0], { ...tests[1], needs: ['test ball'] }], { people: 1 });
  expect(apart?.minutes).toBeLessThan(shared?.minutes ?? 0);
});
