import { randomUUID } from 'node:crypto';
import { mkdtemp, readdir, symlink, utimes } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { withFirm } from '@/db/connection';
import { exchange } from '@/db/schema';
import type { Actor } from '../actor';
import { now } from '../clock';
import { must, openTestFirm } from '../test-firm.fixture';
import { beginExport, beginImport, exportFile, listExchanges, takePiece } from './jobs';
import { writeExport } from './write';

/* Exports and imports as they run: whose they are, what becomes of one whose process ends, and of its file. */

process.env.VAST_HOME = await mkdtemp(join(tmpdir(), 'exchange-jobs-'));
const folder = join(process.env.VAST_HOME, 'exchange');
const bench = await openTestFirm('exchange-jobs');
const { firmId, wren, iola, stranger } = bench;
afterAll(() => bench.close());

const minute = 60_000;
const listed = async (actor: Actor) => (await listExchanges(actor)).exchanges;

async function over(id: string) {
  for (let look = 0; look < 400; look += 1) {
    const row = (await listed(wren)).find((one) => one.id === id);
    if (row?.state === 'done' || row?.state === 'failed') return row;
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
  throw new Error('it never ended');
}

/** A row as a process left it that has ended since. */
async function left(state: 'running' | 'waiting' | 'arriving', silentMs: number): Promise<string> {
  const id = randomUUID();
  const seenAt = new Date(now() - silentMs);
  await withFirm(firmId, (tx) =>
    tx.insert(exchange).values({
      id,
      firmId,
      kind: state === 'arriving' ? 'import' : 'export',
      author: wren.userId,
      madeAt: seenAt,
      state,
      size: 100,
      seenAt,
    }),
  );
  return id;
}

test('two at once are done one after the other, and each says when it is', async () => {
  const [first, second] = [must(await beginExport(wren, { papers: false })), must(await beginExport(wren, { papers: false }))];
  const done = await Promise.all([over(first.id), over(second.id)]);
  expect(done.map(({ state, hasFile }) => [state, hasFile])).toEqual([
    ['done', true],
    ['done', true],
  ]);
  expect(done.every(({ size }) => size > 1000)).toBe(true);
  // The newest stands first.
  expect((await listed(wren)).slice(0, 2).map(({ id }) => id)).toEqual([second.id, first.id]);
});

test.each([
  ['running', 2 * minute, 'started anew meanwhile'],
  ['waiting', 2 * minute, 'started anew meanwhile'],
  ['arriving', 6 * minute, 'did not arrive whole'],
] as const)('one that was %s and says nothing for %d ms has failed, in words, and stays so', async (state, silentMs, words) => {
  const id = await left(state, silentMs);
  const row = (await listed(wren)).find((one) => one.id === id);
  expect(row).toMatchObject({ state: 'failed', said: [expect.stringContaining(words)] });
  expect((await listed(wren)).find((one) => one.id === id)).toMatchObject({ state: 'failed', said: row?.said });
});

test.each([
  ['running', 30_000],
  ['waiting', 30_000],
  ['arriving', 4 * minute],
] as const)('one that is %s and was heard of %d ms ago goes on', async (state, silentMs) => {
  const id = await left(state, silentMs);
  expect((await listed(wren)).find((one) => one.id === id)?.state).toBe(state);
});

test('a file lies here for a day and is gone then; its row stays, and says so', async () => {
  const { id } = must(await beginExport(wren, { papers: false }));
  await over(id);
  const got = must(await exportFile(wren, id));
  expect(got.name).toMatch(/^firm-\d{4}-\d{2}-\d{2}\.zip$/);
  expect((await buffer(got.body as never)).subarray(0, 2).toString()).toBe('PK');
  const long = new Date(Date.now() - 25 * 3_600_000);
  for (const name of await readdir(folder)) await utimes(join(folder, name), long, long);
  expect((await listed(wren)).find((one) => one.id === id)).toMatchObject({ state: 'done', hasFile: false });
  expect(await exportFile(wren, id)).toMatchObject({ ok: false, status: 404, problem: { code: 'gone' } });
  expect(await readdir(folder)).toEqual([]);
});

test('whose it is not sees, fetches and feeds nothing of it', async () => {
  const { id } = must(await beginExport(wren, { papers: false }));
  await over(id);
  expect(await listed(stranger)).toEqual([]);
  expect(await exportFile(stranger, id)).toMatchObject({ ok: false, status: 404 });
  expect(await takePiece(stranger, id, 0, Buffer.from('x'))).toMatchObject({ ok: false, status: 404 });
  expect(await takePiece(wren, id, 0, Buffer.from('x'))).toMatchObject({ ok: false, status: 404 });
  for (const wrong of ['', 'x', "' or true --"]) expect(await exportFile(wren, wrong)).toMatchObject({ ok: false, status: 404 });
  expect(await beginExport(iola, {})).toMatchObject({ ok: false, status: 403 });
  expect(await beginImport(iola, { size: 1 })).toMatchObject({ ok: false, status: 403 });
});

test('more than was announced is refused, and what is no size never begins', async () => {
  for (const size of [0, -5, 1.5, Number.NaN, 'large', undefined])
    expect(await beginImport(wren, { size })).toMatchObject({ ok: false, status: 400 });
  expect(await beginImport(wren, { size: 30 * 1024 ** 3 })).toMatchObject({ ok: false, status: 413 });
  const id = await left('arriving', 0);
  expect(must(await takePiece(wren, id, 0, Buffer.alloc(60)))).toEqual({ have: 60 });
  expect(await takePiece(wren, id, 60, Buffer.alloc(60))).toMatchObject({ ok: false, status: 413 });
  // What was good before stays, and the sender is told from where.
  expect(must(await takePiece(wren, id, 0, Buffer.alloc(10)))).toEqual({ have: 60 });
});

test('a full disk ends it in an error, and neither hangs nor leaves half a file that looks whole', async () => {
  const file = join(process.env.VAST_HOME ?? '', 'full.zip');
  await symlink('/dev/full', `${file}.part`);
  await expect(writeExport(firmId, file, false, () => undefined)).rejects.toMatchObject({ code: 'ENOSPC' });
  expect((await readdir(process.env.VAST_HOME ?? '')).filter((name) => name.startsWith('full'))).toEqual([]);
});
