import { randomUUID } from 'node:crypto';
import 'fake-indexeddb/auto';
import { type Rows, type Shape, StoreFailed, stored } from './tables';

interface Gauge {
  readonly id: string;
  readonly van: string;
  readonly due?: string;
  readonly reads: readonly string[];
}
interface Tables {
  readonly gauges: Rows<Gauge, string>;
  readonly queue: Rows<{ readonly order: number; readonly what: string }, number, { readonly what: string }>;
  readonly points: Rows<{ readonly run: string; readonly id: string; readonly at: number }, [string, string]>;
}

const shapes = {
  gauges: { key: 'id', by: ['van', 'due'], byEach: ['reads'] },
  queue: { key: 'order', counted: true },
  points: { key: ['run', 'id'], by: ['run'] },
} as const satisfies Record<keyof Tables, Shape>;

const fresh = () => stored<Tables>(randomUUID(), 1, shapes);
const gauge = (id: string, van = 'one', reads = ['gas'], due?: string): Gauge => ({
  id,
  van,
  reads,
  ...(due === undefined ? {} : { due }),
});
const four = [
  gauge('a', 'one', ['gas', 'water'], '2027-01-01'),
  gauge('b', 'two', ['gas']),
  gauge('c', 'one', ['water'], '2026-01-01'),
  gauge('d', 'two', ['air'], '2026-06-01'),
];
const ids = (rows: readonly { readonly id: string }[]) => rows.map(({ id }) => id).join('');

describe('finding', () => {
  const store = fresh();
  beforeAll(() => store.gauges.bulkPut(four));

  test.each<[string, () => Promise<readonly Gauge[]>, string]>([
    ['all, by their key', () => store.gauges.toArray(), 'abcd'],
    ['by an index', () => store.gauges.where('van').equals('two').toArray(), 'bd'],
    ['by the key itself', () => store.gauges.where('id').above('b').toArray(), 'cd'],
    ['from a value on; what has none is left out', () => store.gauges.where('due').aboveOrEqual('2026-06-01').toArray(), 'da'],
    ['by several values, as often as they hold', () => store.gauges.where('reads').anyOf(['gas', 'water']).toArray(), 'abac'],
    ['each once', () => store.gauges.where('reads').anyOf(['gas', 'water']).distinct().toArray(), 'abc'],
    ['a value asked for twice is one', () => store.gauges.where('van').anyOf(['one', 'one']).toArray(), 'ac'],
    ['none of no values', () => store.gauges.where('van').anyOf([]).toArray(), ''],
    ['in the order of an index', () => store.gauges.orderBy('due').toArray(), 'cda'],
    ['backwards', () => store.gauges.orderBy('due').reverse().toArray(), 'adc'],
    ['a part of it', () => store.gauges.orderBy('due').offset(1).limit(1).toArray(), 'd'],
    ['beyond its end', () => store.gauges.orderBy('due').offset(9).limit(1).toArray(), ''],
    ['the first few', () => store.gauges.where('id').above('').limit(3).toArray(), 'abc'],
    ['those that are wanted', () => store.gauges.filter(({ due }) => due !== undefined).toArray(), 'acd'],
    [
      'the first of those, backwards',
      () =>
        store.gauges
          .orderBy('due')
          .reverse()
          .filter(({ van }) => van === 'one')
          .limit(1)
          .toArray(),
      'a',
    ],
    [
      'the second of those',
      () =>
        store.gauges
          .filter(({ van }) => van === 'two')
          .offset(1)
          .limit(1)
          .toArray(),
      'd',
    ],
    ['sorted by a field', () => store.gauges.where('van').equals('one').sortBy('due'), 'ca'],
  ])('%s', async (_, find, expected) => expect(ids(await find())).toBe(expected));

  test('one, some, their keys and how many there are', async () => {
    expect(await store.gauges.get('b')).toEqual(four[1]);
    expect(await store.gauges.get('z')).toBeUndefined();
    expect(await store.gauges.bulkGet(['d', 'z', 'a'])).toEqual([four[3], undefined, four[0]]);
    expect(await store.gauges.where('van').equals('two').primaryKeys()).toEqual(['b', 'd']);
    expect(await store.gauges.filter(({ van }) => van === 'one').primaryKeys()).toEqual(['a', 'c']);
    expect([await store.gauges.count(), await store.gauges.where('van').equals('one').count()]).toEqual([4, 2]);
    expect(await store.gauges.filter(({ van }) => van === 'nine').first()).toBeUndefined();
  });
});

describe('changing', () => {
  test('rows are changed, put in the place of others and taken away', async () => {
    const store = fresh();
    await store.gauges.bulkPut(four);
    await store.gauges.update('a', { van: 'three' });
    await store.gauges.update('z', { van: 'three' });
    expect(await store.gauges.where('van').equals('three').toArray()).toEqual([{ ...four[0], van: 'three' }]);
    expect(
      await store.gauges
        .where('van')
        .equals('two')
        .modify((row) => ({ ...row, due: '2030-01-01' })),
    ).toBe(2);
    expect(ids(await store.gauges.where('due').above('2029').toArray())).toBe('bd');
    expect(await store.gauges.where('van').anyOf(['two', 'three']).delete()).toBe(3);
    await store.gauges.bulkDelete(['z']);
    expect(ids(await store.gauges.toArray())).toBe('c');
    await store.gauges.clear();
    expect(await store.gauges.count()).toBe(0);
  });

  test('a key of two parts finds its row, and what is counted up goes on from there', async () => {
    const store = fresh();
    await store.points.bulkPut([
      { run: 'r', id: '1', at: 5 },
      { run: 'r', id: '2', at: 6 },
      { run: 's', id: '1', at: 7 },
    ]);
    expect(await store.points.get(['s', '1'])).toMatchObject({ at: 7 });
    expect(await store.points.where('run').equals('r').delete()).toBe(2);
    expect(await store.points.count()).toBe(1);
    const first = await store.queue.add({ what: 'a' });
    await store.queue.delete(first);
    expect(await store.queue.add({ what: 'b' })).toBe(first + 1);
  });

  test('a row that is there is not added again, and the browser’s refusal is known as one', async () => {
    const store = fresh();
    await store.gauges.add(four[0]);
    await expect(store.gauges.add(gauge('a', 'other'))).rejects.toBeInstanceOf(StoreFailed);
    expect(await store.gauges.get('a')).toEqual(four[0]);
  });
});

describe('a transaction', () => {
  test('is all or nothing, over several tables', async () => {
    const store = fresh();
    await store.gauges.add(four[0]);
    class Wrong extends Error {}
    const work = store.transaction('rw', ['gauges', 'queue'], async ({ gauges, queue }) => {
      await queue.add({ what: 'first' });
      await gauges.put(gauge('a', 'changed'));
      expect((await gauges.get('a'))?.van).toBe('changed');
      throw new Wrong();
    });
    await expect(work).rejects.toBeInstanceOf(Wrong);
    expect(await store.gauges.get('a')).toEqual(four[0]);
    expect(await store.queue.count()).toBe(0);
    await expect(
      store.transaction('rw', ['gauges', 'queue'], async ({ gauges, queue }) => {
        await queue.add({ what: 'first' });
        await gauges.add(four[0]);
      }),
    ).rejects.toBeInstanceOf(StoreFailed);
    expect(await store.queue.count()).toBe(0);
  });

  test('of many that count the same, none is lost', async () => {
    const store = fresh();
    await store.gauges.add(gauge('a', '0'));
    await Promise.all(
      Array.from({ length: 20 }, () =>
        store.transaction('rw', ['gauges'], async ({ gauges }) => {
          const now = Number((await gauges.get('a'))?.van);
          await gauges.put(gauge('a', String(now + 1)));
        }),
      ),
    );
    expect((await store.gauges.get('a'))?.van).toBe('20');
  });
});

test('what was read is told of when it changes, and nothing else; a transaction tells once, a failed one not', async () => {
  const store = fresh();
  const told: (readonly string[])[] = [];
  const stop = store.onChange((tables) => told.push(tables));
  const read = new Set<string>();
  await store.watched(read).gauges.toArray();
  expect([...read]).toEqual(['gauges']);
  await store.watched(read).transaction('r', ['queue'], ({ queue }) => queue.count());
  expect([...read]).toEqual(['gauges', 'queue']);
  expect(told).toEqual([]);
  await store.gauges.put(four[0]);
  await store.transaction('rw', ['gauges', 'queue', 'points'], async ({ gauges, queue, points }) => {
    await gauges.bulkPut(four);
    await queue.add({ what: 'a' });
    await points.toArray();
  });
  await store
    .transaction('rw', ['gauges'], async ({ gauges }) => {
      await gauges.clear();
      throw new Error('no');
    })
    .catch(() => undefined);
  expect(told).toEqual([['gauges'], ['gauges', 'queue']]);
  stop();
  await store.gauges.clear();
  expect(told).toHaveLength(2);
});

test('it opens again after it was shut, and with another index keeps what was there', async () => {
  const name = randomUUID();
  const before = stored<Tables>(name, 1, { ...shapes, gauges: { key: 'id' } });
  await before.gauges.bulkPut(four);
  before.close();
  expect(await before.gauges.count()).toBe(4);
  // The one that is open lets the newer through.
  const after = stored<Tables>(name, 2, shapes);
  expect(ids(await after.gauges.where('van').equals('two').toArray())).toBe('bd');
  // The older page cannot go on with tables that it does not know, and says so.
  await expect(before.gauges.count()).rejects.toBeInstanceOf(StoreFailed);
  await after.destroy();
  expect(await after.gauges.count()).toBe(0);
});
