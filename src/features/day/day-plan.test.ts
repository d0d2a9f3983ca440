import { sideBySide } from '@/core/planning';
import { procedureById, proceduresFor } from '@/core/procedures';
import { kitOf, systemOf } from '@/features/field/kit.fixture';
import { dayTests, keepDay, readDay, usualProcedure } from './day-plan';

/* What a site's day is laid out from. */

const on = '2026-11-25';
const water = systemOf('water', 'water-isolation-hold');
const drain = systemOf('drain', 'drain-level-hold');
const pool = systemOf('pool', 'pool-lines-pressure');

test('a day is kept for its date: tomorrow begins with none, and what cannot be read is none', () => {
  const day = { on, entries: [{ systemId: 'a', procedureId: 'b' }], ordered: true, people: 2, startAt: 1 };
  keepDay('site', day);
  expect(readDay('site', on)).toEqual(day);
  expect(readDay('site', '2026-11-26')).toEqual({ on: '2026-11-26', entries: [], ordered: false, people: 1 });
  expect(readDay('elsewhere', on).entries).toEqual([]);
  localStorage.setItem('vast-stone-day-site', '{');
  expect(readDay('site', on).entries).toEqual([]);
});

test('a system is tested as it was last time, else by the first procedure of its kind', () => {
  const kit = kitOf([water]);
  expect(usualProcedure(kit, water)?.id).toBe(proceduresFor('water')[0].id);
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
  expect(usualProcedure({ ...kit, earlier: [earlier] }, water)?.id).toBe(last);
  expect(usualProcedure({ ...kit, earlier: [{ ...earlier, systemId: 'another' }] }, water)?.id).toBe(proceduresFor('water')[0].id);
});

test('each test brings its tasks and what it shares: the gauge it would take, and what a van carries once', () => {
  const kit = kitOf([water, drain, pool]);
  const entry = (system: typeof water, procedureId: string) => ({ systemId: system.id, procedureId });
  const [first, second, third] = dayTests(
    kit,
    [entry(water, 'water-isolation-hold'), entry(drain, 'drain-level-hold'), entry(pool, 'pool-lines-pressure')],
    on,
  );
  expect(first.title).toBe(water.name);
  expect(first.tasks.map(({ title }) => title)).toEqual(procedureById('water-isolation-hold')?.tasks.map(({ title }) => title));
  expect(first.needs).toHaveLength(1);
  expect(second.needs).toContain('test ball');
  expect(third.needs).toContain('plugs');
  expect(dayTests(kit, [{ systemId: 'gone', procedureId: 'water-isolation-hold' }], on)).toEqual([]);
  expect(dayTests(kit, [entry(water, 'no such procedure')], on)).toEqual([]);
});

test('a longer hold by a house rule makes the day longer; without a gauge the procedure’s own times stand', () => {
  const entries = [{ systemId: water.id, procedureId: 'water-isolation-hold' }];
  const waiting = (kit: ReturnType<typeof kitOf>) =>
    dayTests(kit, entries, on)[0].tasks.reduce((sum, { passiveMinutes }) => sum + passiveMinutes, 0);
  const plain = waiting(kitOf([water]));
  const rule = { procedure: 'water-isolation-hold', figure: 'hold-seconds', value: '7200', reference: 'House practice' };
  expect(waiting({ ...kitOf([water]), houseRules: [rule] })).toBeGreaterThan(plain + 60);
  const bare = dayTests({ ...kitOf([water]), instruments: [] }, entries, on)[0];
  expect(bare.needs).toEqual([]);
  expect(bare.tasks).toEqual(procedureById('water-isolation-hold')?.tasks);
});

test('two tests that need the one set of plugs go one after the other, however many people', () => {
  const other = { ...pool, id: 'pool-2' };
  const kit = kitOf([pool, other]);
  const lines = (systems: readonly (typeof pool)[]) =>
    sideBySide(
      dayTests(
        kit,
        systems.map(({ id }) => ({ systemId: id, procedureId: 'pool-lines-pressure' })),
        on,
      ),
      { people: 2 },
    );
  const one = lines([pool]);
  expect(lines([pool, other])?.minutes).toBe((one?.minutes ?? 0) * 2);
});

test('one gauge for both is handed from the water’s test to the drain’s; with a gauge each, one is done in the other’s hold', () => {
  const tests = dayTests(
    kitOf([water, drain]),
    [
      { systemId: water.id, procedureId: 'water-isolation-hold' },
      { systemId: drain.id, procedureId: 'drain-level-hold' },
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
