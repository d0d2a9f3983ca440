import { compareEvents, judge, type RunEvent } from '@/core/judging';
import { eventsFor, planFor } from '@/core/simulation/examples.fixture';
import { newId } from './clock';
import { freshStore, person, serve } from './device.fixture';
import { eventsOf, fetchRun, startAttempt, startTest, thisMoment, writeEvent } from './log';
import { flush } from './outbox';
import { lossOf, noteUnsent } from './store';

const plan = planFor({});
const system = { id: '00000000-0000-4000-8000-00000000a001', name: 'Gas', site: 'Site' };
const remote = (run: string, events: readonly RunEvent[]) => ({
  body: {
    test: { id: 'test-1', systemId: system.id, system: 'Gas', site: 'Site' },
    runs: [{ id: run, number: 1, plan, events: events.map((event) => ({ ...event, run })) }],
  },
});

test('every event is counted, ordered and stamped with the moment that was handed in', async () => {
  const store = freshStore();
  const run = await startTest(store, person, system, plan, {});
  const moment = { at: thisMoment().at - 20_000, mono: 5, boot: 'boot-1' };
  const late = await writeEvent(store, person, run, { type: 'note', text: 'typed late' }, moment);
  expect(late).toMatchObject({ observedAt: moment.at, mono: 5, boot: 'boot-1', author: person.userId, run });
  expect(late.enteredAt).toBeGreaterThanOrEqual(moment.at + 20_000);
  const events = await eventsOf(store, run);
  expect(events.map(({ type, seq }) => [type, seq])).toEqual([
    ['pen', 1],
    ['note', 2],
  ]);
  expect(new Set(events.map(({ device }) => device)).size).toBe(1);
});

test('written at once, no two events share a place in the order', async () => {
  const store = freshStore();
  const run = await startTest(store, person, system, plan, {});
  await Promise.all(Array.from({ length: 30 }, (_, count) => writeEvent(store, person, run, { type: 'note', text: String(count) })));
  const events = await eventsOf(store, run);
  expect(events.map(({ seq }) => seq)).toEqual(Array.from({ length: 31 }, (_, count) => count + 1));
});

test('what is not sent yet stands after everything that has its place, in the order in which it was written', async () => {
  const store = freshStore();
  const run = await startTest(store, person, system, plan, {});
  const next = await writeEvent(store, person, run, { type: 'note', text: 'before' });
  await store.events.add({ ...(await eventsOf(store, run))[0], id: 'other', device: 'zz-other', position: 7 });
  expect((await eventsOf(store, run)).map(({ id }) => id).indexOf('other')).toBe(0);
  expect((await eventsOf(store, run)).at(-1)?.id).toBe(next.id);
});

describe('what other devices wrote', () => {
  test('is brought in once, whatever comes again, and judged as it was there', async () => {
    const store = freshStore();
    const events = eventsFor(plan, 'small-leak');
    const run = events[0].run;
    serve(() => remote(run, events));
    for (let time = 0; time < 2; time += 1) expect(await fetchRun(store, run)).toBe('fetched');
    const here = await eventsOf(store, run);
    expect(here).toHaveLength(events.length);
    expect([...here].sort(compareEvents)).toEqual(here);
    expect(judge(plan, here).verdict).toBe('pass with permitted drop');
  });

  test('never overwrites what was written here', async () => {
    const store = freshStore();
    const run = await startTest(store, person, system, plan, {});
    const own = await writeEvent(store, person, run, { type: 'note', text: 'mine' });
    serve((call) =>
      call.address.includes('/sync')
        ? { body: { receipts: (call.body as { items: unknown[] }).items.map(() => ({ ok: true, quarantined: [] })) } }
        : remote(run, [{ ...own, text: 'theirs' } as RunEvent]),
    );
    await flush(store);
    expect(await fetchRun(store, run)).toBe('fetched');
    expect((await eventsOf(store, run)).find(({ id }) => id === own.id)).toMatchObject({ text: 'mine' });
  });

  test('is not asked for while only this device knows the run', async () => {
    const store = freshStore();
    const run = await startTest(store, person, system, plan, {});
    const calls = serve(() => ({ status: 404 }));
    expect(await fetchRun(store, run)).toBe('no signal');
    expect(calls).toHaveLength(0);
  });

  test.each([
    [404, 'absent'],
    [401, 'no signal'],
    [500, 'no signal'],
  ] as const)('an answer of %i is “%s”', async (status, expected) => {
    const store = freshStore();
    serve(() => ({ status }));
    expect(await fetchRun(store, 'a-run')).toBe(expected);
  });
});

test('a new attempt is a run of its own: the old plan and its events stay', async () => {
  const store = freshStore();
  const first = await startTest(store, person, system, plan, {});
  const test = (await store.runs.get(first))?.testId ?? '';
  const changed = planFor({ answers: { work: 'new' } });
  const second = await startAttempt(store, person, test, 2, changed);
  expect((await store.runs.get(first))?.plan.hash).toBe(plan.hash);
  expect(await store.runs.get(second)).toMatchObject({ number: 2, testId: test, plan: { hash: changed.hash } });
  expect((await eventsOf(store, second)).map(({ type }) => type)).toEqual(['pen']);
});

test('stores of two people on one tablet are apart', async () => {
  const [one, other] = [freshStore(), freshStore()];
  await startTest(one, person, system, plan, {});
  expect(await one.runs.count()).toBe(1);
  expect(await other.runs.count()).toBe(0);
});

test('a store that the browser threw away is noticed, with what had not been sent; a new device and a kept store say nothing', async () => {
  const store = freshStore();
  expect(await lossOf(store, newId)).toBeUndefined();
  noteUnsent(store, 3);
  expect(await lossOf(store, newId)).toBeUndefined();
  await store.destroy();
  expect(await lossOf(store, newId)).toBe(3);
  // Said once; from here on the new one is the store.
  expect(await lossOf(store, newId)).toBeUndefined();
});

test('a device that has a run asks for what is new alone, and takes it in', async () => {
  const store = freshStore();
  const run = await startTest(store, person, system, plan, {});
  serve(({ address }) =>
    address.includes('/sync')
      ? {
          body: {
            receipts: [
              { ok: true, quarantined: [] },
              { ok: true, quarantined: [] },
              { ok: true, quarantined: [], from: 1 },
            ],
            serverNow: 0,
          },
        }
      : {},
  );
  expect(await flush(store)).toEqual({ state: 'sent' });
  const [own] = await eventsOf(store, run);
  const joined = { ...own, id: newId(), device: 'other', position: 2, type: 'note', text: 'from elsewhere' };
  const calls = serve(({ address }) => ({ body: address.includes('position=1') ? { run, joined: [joined] } : { unchanged: true } }));
  expect(await fetchRun(store, run)).toBe('fetched');
  expect(await fetchRun(store, run)).toBe('fetched');
  expect(calls.map(({ address }) => address.split('?')[1])).toEqual(['position=1&attempts=1', 'position=2&attempts=1']);
  expect((await eventsOf(store, run)).map(({ position }) => position)).toEqual([1, 2]);
});
