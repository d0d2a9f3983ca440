import { eventsFor, planFor } from '@/core/simulation/examples.fixture';
import { newId } from './clock';
import { type Call, freshStore, person, serve } from './device.fixture';
import { eventsOf, fetchRun, startTest, writeEvent } from './log';
import { countRefused, countWaiting, flush, refusedItems, tryAgain } from './outbox';
import { takeAlong } from './register';
import type { DeviceStore } from './store';

const plan = planFor({});
const system = { id: '00000000-0000-4000-8000-00000000a001', name: 'Gas', site: 'Site' };

interface Sent {
  readonly items: readonly { readonly kind: string; readonly run?: string; readonly events?: readonly { readonly id: string }[] }[];
}
const itemsOf = ({ body }: Call) => (body as Sent).items;
const taken = (call: Call) => ({ body: { receipts: itemsOf(call).map(() => ({ ok: true, quarantined: [] })), serverNow: 0 } });

async function begun(store: DeviceStore): Promise<string> {
  const run = await startTest(store, person, system, plan, {});
  for (const text of ['one', 'two', 'three']) await writeEvent(store, person, run, { type: 'note', text });
  return run;
}

test('goes in the order in which it was written: the test, its attempt, then the attempt’s events together', async () => {
  const store = freshStore();
  const run = await begun(store);
  const calls = serve(taken);
  expect(await flush(store)).toEqual({ state: 'sent' });
  expect(calls).toHaveLength(1);
  expect(itemsOf(calls[0]).map(({ kind }) => kind)).toEqual(['test', 'run', 'events']);
  expect(itemsOf(calls[0])[2]).toMatchObject({ run, events: [{ type: 'pen' }, { text: 'one' }, { text: 'two' }, { text: 'three' }] });
  expect(await countWaiting(store)).toBe(0);
  // What was sent stays in the log.
  expect(await eventsOf(store, run)).toHaveLength(4);
});

test.each(['half an answer', 'another page'] as const)(
  '%s is no signal: nothing is lost, nothing thrown, and it goes whole afterwards',
  async (instead) => {
    const store = freshStore();
    const run = await begun(store);
    serve(() => ({ instead }));
    expect(await flush(store)).toEqual({ state: 'no signal', count: 6 });
    expect(await takeAlong()).toBeUndefined();
    expect(await fetchRun(store, run)).toBe('no signal');
    serve(taken);
    expect(await flush(store)).toEqual({ state: 'sent' });
    serve(() => ({ instead }));
    expect(await fetchRun(store, run)).toBe('no signal');
    const picture = new Blob(['jpg']);
    await writeEvent(store, person, run, { type: 'photo', hash: 'a'.repeat(64), takenAt: 5, text: '' }, undefined, picture);
    serve((call) => (call.address.includes('/photo') ? { status: 413, instead } : taken(call)));
    expect(await flush(store)).toMatchObject({ state: 'no signal' });
    expect(await countRefused(store)).toBe(0);
  },
);

test('with no signal everything stays, and goes whole when there is one again', async () => {
  const store = freshStore();
  await begun(store);
  serve(() => {
    throw new TypeError('no network');
  });
  expect(await flush(store)).toEqual({ state: 'no signal', count: 6 });
  const calls = serve(taken);
  expect(await flush(store)).toEqual({ state: 'sent' });
  expect(itemsOf(calls[0])).toHaveLength(3);
});

test.each([
  ['a server that fails', { status: 503 }, 'no signal'],
  ['a server that does not answer what was asked', { body: {} }, 'no signal'],
  ['a receipt that is missing', { body: { receipts: [{ ok: true, quarantined: [] }] } }, 'no signal'],
  ['nobody signed in any more', { status: 401 }, 'signed out'],
] as const)('%s: nothing is taken for sent', async (_, answer, state) => {
  const store = freshStore();
  await begun(store);
  serve(() => answer);
  expect((await flush(store)).state).toBe(state);
  // What has its receipt is gone; the rest waits, and nothing is marked as refused.
  expect(await countRefused(store)).toBe(0);
  expect(await countWaiting(store)).toBeGreaterThanOrEqual(5);
});

test('a session that is over: what was worked on is delivered by its key, a change of the register waits for a sign-in', async () => {
  const store = freshStore();
  const run = await begun(store);
  const picture = new Blob([new Uint8Array([1, 2, 3])]);
  await writeEvent(store, person, run, { type: 'photo', hash: 'c'.repeat(64), takenAt: 5, text: '' }, undefined, picture);
  await store.outbox.add({ item: { kind: 'change', id: 'one', change: {} } } as never);
  await store.facts.put({ key: 'facts', delivery: 'the key' } as never);
  const calls = serve((call) =>
    call.delivery !== 'the key'
      ? { status: 401 }
      : call.address.includes('/photo')
        ? { body: { have: (call.body as Blob).size } }
        : taken(call),
  );
  expect(await flush(store)).toEqual({ state: 'signed out', count: 1 });
  const delivered = calls.filter(({ delivery }) => delivery !== undefined);
  expect(delivered.filter(({ address }) => !address.includes('/photo')).flatMap((call) => itemsOf(call).map(({ kind }) => kind))).toEqual([
    'test',
    'run',
    'events',
  ]);
  expect(delivered.some(({ address }) => address.includes('/photo'))).toBe(true);
  expect((await store.outbox.toArray()).map(({ item }) => item.kind)).toEqual(['change']);
  // A key that is not taken either changes nothing.
  const other = freshStore();
  await begun(other);
  await other.facts.put({ key: 'facts', delivery: 'an old key' } as never);
  serve(() => ({ status: 401 }));
  expect((await flush(other)).state).toBe('signed out');
  expect(await countWaiting(other)).toBeGreaterThanOrEqual(5);
});

test('asked twice at once it sends once', async () => {
  const store = freshStore();
  await begun(store);
  const calls = serve(taken);
  await Promise.all([flush(store), flush(store), flush(store)]);
  expect(calls).toHaveLength(1);
});

test('one event that the server cannot read stays with the reason; those beside it have arrived', async () => {
  const store = freshStore();
  const run = await begun(store);
  const bad = (await eventsOf(store, run)).find((event) => event.type === 'note' && event.text === 'two');
  serve((call) => ({
    body: {
      receipts: itemsOf(call).map(({ kind }) => ({
        ok: true,
        quarantined: kind === 'events' ? [{ id: bad?.id, why: 'not known here' }] : [],
      })),
    },
  }));
  expect(await flush(store)).toEqual({ state: 'sent' });
  expect(await refusedItems(store)).toMatchObject([{ refused: 'not known here', item: { kind: 'events', events: [{ id: bad?.id }] } }]);
  expect(await countWaiting(store)).toBe(0);
});

test('a refused attempt stops nothing else, and is sent again only when asked', async () => {
  const store = freshStore();
  await begun(store);
  serve((call) => ({
    body: {
      receipts: itemsOf(call).map(({ kind }) => (kind === 'run' ? { ok: false, message: 'altered plan' } : { ok: true, quarantined: [] })),
    },
  }));
  expect(await flush(store)).toEqual({ state: 'sent' });
  expect((await refusedItems(store)).map(({ refused, item }) => [refused, item.kind])).toEqual([['altered plan', 'run']]);
  const quiet = serve(taken);
  await flush(store);
  expect(quiet).toHaveLength(0);
  expect(await tryAgain(store)).toBe(1);
  await flush(store);
  expect(itemsOf(quiet[0]).map(({ kind }) => kind)).toEqual(['run']);
  expect(await countRefused(store)).toBe(0);
});

describe('photographs', () => {
  const picture = new Blob([new Uint8Array([1, 2, 3])], { type: 'image/png' });
  const withPhoto = async (store: DeviceStore) => {
    const run = await begun(store);
    await writeEvent(store, person, run, { type: 'photo', hash: 'a'.repeat(64), takenAt: 5, text: '' }, undefined, picture);
    await writeEvent(store, person, run, { type: 'note', text: 'after' });
    return run;
  };

  /** The server's side of a picture's pieces. */
  const pieces = () => {
    const have = { bytes: 0 };
    const asked: string[] = [];
    const answer = (call: Call) => {
      const query = new URL(call.address, 'http://x').searchParams;
      const length = call.body instanceof Blob ? call.body.size : 0;
      asked.push(`${query.get('at')}+${length}`);
      if (Number(query.get('at')) === have.bytes) have.bytes += length;
      return { body: { have: have.bytes } };
    };
    return { have, asked, answer };
  };

  test('go after everything else, in pieces, and after a break go on where they were', async () => {
    const store = freshStore();
    const run = await begun(store);
    const large = new Blob([new Uint8Array(500_000)], { type: 'image/jpeg' });
    await writeEvent(store, person, run, { type: 'photo', hash: 'a'.repeat(64), takenAt: 5, text: '' }, undefined, large);
    await writeEvent(store, person, run, { type: 'note', text: 'after' });
    const { have, asked, answer } = pieces();
    let breaks = 1;
    const calls = serve((call) => {
      if (!call.address.includes('/photo')) return taken(call);
      if (have.bytes > 200_000 && breaks > 0) {
        breaks -= 1;
        throw new TypeError('no network');
      }
      return answer(call);
    });
    expect(await flush(store)).toMatchObject({ state: 'no signal', count: 1 });
    // The note that was written after the picture has arrived before it.
    expect(JSON.stringify(calls[0].body)).toContain('after');
    expect(await flush(store)).toEqual({ state: 'sent' });
    expect(have.bytes).toBe(500_000);
    expect(asked).toEqual(['0+0', '0+196608', '196608+196608', '0+0', '393216+106784']);
  });

  test('one that is refused stays with the reason; the readings have gone all the same', async () => {
    const store = freshStore();
    await withPhoto(store);
    const calls = serve((call) =>
      call.address.includes('/photo') ? { status: 413, body: { problem: { message: 'larger than 15 MB' } } } : taken(call),
    );
    expect(await flush(store)).toEqual({ state: 'sent' });
    expect(calls).toHaveLength(2);
    const [left] = await refusedItems(store);
    expect(left).toMatchObject({ refused: 'larger than 15 MB', item: { kind: 'photo' } });
    expect(left.item.kind === 'photo' && left.item.picture.size).toBe(3);
  });

  test('no event names a picture that was not kept: both are written, or neither', async () => {
    const store = freshStore();
    const run = await begun(store);
    const { add } = IDBObjectStore.prototype;
    IDBObjectStore.prototype.add = function (this: IDBObjectStore, row: { item?: { kind: string } }) {
      if (row.item?.kind === 'photo') throw new DOMException('disk full', 'QuotaExceededError');
      return add.call(this, row);
    };
    try {
      await expect(
        writeEvent(store, person, run, { type: 'photo', hash: 'b'.repeat(64), takenAt: 5, text: '' }, undefined, picture),
      ).rejects.toThrow('disk full');
    } finally {
      IDBObjectStore.prototype.add = add;
    }
    expect((await eventsOf(store, run)).some(({ type }) => type === 'photo')).toBe(false);
  });
});

test('what the server fails on three times is set aside, and the rest goes on; a busy server sets nothing aside', async () => {
  const store = freshStore();
  const run = await begun(store);
  const fault = { status: 500, body: { problem: { code: 'fault', message: 'fault 1' } } };
  // Whatever holds this note brings the server down.
  await writeEvent(store, person, run, { type: 'note', text: 'poison' });
  const other = await startTest(store, person, system, plan, {});
  const calls = serve((call) => (JSON.stringify(call.body).includes('poison') ? fault : taken(call)));
  expect(await flush(store)).toMatchObject({ state: 'waiting' });
  expect(await flush(store)).toMatchObject({ state: 'waiting' });
  expect(await countRefused(store)).toBe(0);
  expect(await flush(store)).toEqual({ state: 'sent' });
  const left = await refusedItems(store);
  expect(left.map(({ item }) => item.kind === 'events' && item.run)).toEqual(left.map(() => run));
  expect(left[0].refused).toContain('failed on it three times');
  // The other test has arrived meanwhile.
  expect(calls.some(({ body }) => JSON.stringify(body).includes(other))).toBe(true);
  await tryAgain(store);
  serve(() => ({ status: 503, body: { problem: { code: 'busy', message: 'later' } } }));
  for (let time = 0; time < 4; time += 1) expect(await flush(store)).toMatchObject({ state: 'no signal' });
  expect(await countRefused(store)).toBe(0);
});

test.each([
  ['a character that no place keeps', 'a\u0000b', 'cannot be kept'],
  ['half a symbol', 'a\ud83d', 'cannot be kept'],
  ['four thousand letters and one', 'a'.repeat(4001), 'too long'],
])('%s is refused where it is typed, and nothing is written', async (_, text, words) => {
  const store = freshStore();
  const run = await startTest(store, person, system, plan, {});
  const before = await eventsOf(store, run);
  await expect(writeEvent(store, person, run, { type: 'note', text })).rejects.toThrow(words);
  expect(await eventsOf(store, run)).toEqual(before);
});

test('a whole job of many events goes in a few batches and leaves nothing behind', async () => {
  const store = freshStore();
  const run = await startTest(store, person, system, plan, {});
  for (const event of [...eventsFor(plan, 'small-leak'), ...eventsFor(plan, 'sound')].flatMap((event) => Array(16).fill(event)))
    await store.outbox.add({ item: { kind: 'events', run, events: [event] } } as never);
  const before = await countWaiting(store);
  expect(before).toBeGreaterThan(500);
  let received = 0;
  const calls = serve((call) => {
    received += itemsOf(call).reduce((sum, { events }) => sum + (events?.length ?? 1), 0);
    return taken(call);
  });
  expect(await flush(store)).toEqual({ state: 'sent' });
  expect(received).toBe(before);
  expect(calls).toHaveLength(Math.ceil(before / 500));
  expect(await countWaiting(store)).toBe(0);
});

test('no sending is longer than the server takes, and one thing goes however long it is', async () => {
  const store = freshStore();
  const run = await startTest(store, person, system, plan, {});
  for (const length of [1_500_000, ...Array<number>(12).fill(300_000)])
    await store.outbox.add({ item: { kind: 'events', run, events: [{ id: newId(), type: 'note', text: 'x'.repeat(length) }] } } as never);
  const lengths: number[] = [];
  serve((call) => {
    lengths.push(JSON.stringify(call.body).length);
    return taken(call);
  });
  expect(await flush(store)).toEqual({ state: 'sent' });
  expect(Math.max(...lengths)).toBeGreaterThan(1_500_000);
  expect(lengths.filter((length) => length > 1_050_000)).toHaveLength(1);
  expect(await countWaiting(store)).toBe(0);
});
