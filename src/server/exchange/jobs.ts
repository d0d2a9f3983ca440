import { randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { appendFile, mkdir, readdir, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { desc, eq } from 'drizzle-orm';
import pLimit from 'p-limit';
import { whenCommitted, withFirm } from '@/db/connection';
import { exchange } from '@/db/schema';
import { type Actor, refusedTo } from '../actor';
import { type Answer, answer, isUuid, notFound, refuse } from '../answers';
import { now, nowDate } from '../clock';
import { faultFacts, log } from '../log';
import { ExchangeFault } from './manifest';
import { isEmptyFirm, readExport } from './read';
import { type Progress, unsealedWords, writeExport } from './write';

/* Exports and imports as they run: one at a time, beside everything else, with a row each that says how far it is. */

/** In the home of the installation, for its service alone. */
const folder = (): string => join(process.env.VAST_HOME ?? tmpdir(), 'exchange');
const fileOf = (id: string): string => join(folder(), `${id}.zip`);

export type Exchange = typeof exchange.$inferSelect;
/** As a page shows it. */
export interface ShownExchange extends Omit<Exchange, 'firmId' | 'madeAt' | 'seenAt' | 'endedAt'> {
  readonly madeAt: number;
  readonly hasFile: boolean;
}

/** A file lies here for a day; who needs it longer has it. */
const keptMs = 86_400_000;
/** Whoever works on one says so every second: after so long it has ended with its process. */
const silentMs = 60_000;
/** A file of which no piece came for so long does not come any more. */
const cutMs = 300_000;
const saysEveryMs = 700;
const mostBytes = 20 * 1024 ** 3;
const shownAtMost = 10;

const queue = pLimit(1);
/** Pieces of files as they come: two of the same place must not both be put down. */
const arriving = pLimit(1);

const set = (firmId: string, id: string, said: Partial<Exchange>): Promise<unknown> =>
  withFirm(firmId, (tx) =>
    tx
      .update(exchange)
      .set({ ...said, seenAt: nowDate() })
      .where(eq(exchange.id, id)),
  );

const sizeOf = (file: string): Promise<number> =>
  stat(file).then(
    ({ size }) => size,
    () => 0,
  );

/** Removes files that nobody fetched. */
async function tidy(): Promise<void> {
  await mkdir(folder(), { recursive: true, mode: 0o700 });
  for (const name of await readdir(folder())) {
    const file = join(folder(), name);
    const found = await stat(file).catch(() => undefined);
    if (found !== undefined && Date.now() - found.mtimeMs > keptMs) await rm(file, { force: true });
  }
}

/** Has the work of a row done in its turn, and says in it how far it is and what it came to. */
async function enqueue(firmId: string, id: string, job: (progress: Progress) => Promise<Partial<Exchange>>): Promise<void> {
  // Also while it waits for its turn, and while nothing counts up, it is alive.
  const alive = setInterval(() => void set(firmId, id, {}).catch(() => undefined), 10_000);
  await queue(() => work(firmId, id, job)).finally(() => clearInterval(alive));
}

async function work(firmId: string, id: string, job: (progress: Progress) => Promise<Partial<Exchange>>): Promise<void> {
  let said = 0;
  let saying: Promise<unknown> = Promise.resolve();
  const progress: Progress = (doing, done, total) => {
    if (Date.now() - said < saysEveryMs && done < total) return;
    said = Date.now();
    saying = saying.then(() => set(firmId, id, { doing, done, total })).catch(() => undefined);
  };
  try {
    await set(firmId, id, { state: 'running' });
    const came = await job(progress);
    await saying;
    await set(firmId, id, { ...came, state: 'done', endedAt: nowDate() });
  } catch (error) {
    if (!(error instanceof ExchangeFault)) log().error({ exchange: id, ...faultFacts(error) }, 'exchange failed');
    const words =
      error instanceof ExchangeFault
        ? error.message
        : (error as { code?: unknown }).code === 'ENOSPC'
          ? 'There is no room left on the disk of the installation. Tell whoever runs it.'
          : 'The server could not finish it; nothing was changed. Tell whoever runs it.';
    await saying;
    await set(firmId, id, { state: 'failed', said: [words], endedAt: nowDate() }).catch(() => undefined);
  }
}

const begin = (
  actor: Actor,
  kind: Exchange['kind'],
  state: Exchange['state'],
  size: number,
  then?: (id: string) => void,
): Promise<Answer<{ id: string }>> =>
  withFirm(actor.firmId, async (tx) => {
    const id = randomUUID();
    await tx
      .insert(exchange)
      .values({ id, firmId: actor.firmId, kind, author: actor.userId, madeAt: nowDate(), state, size, seenAt: nowDate() });
    // Its row has to be there before anybody works on it.
    if (then !== undefined) whenCommitted(tx, () => then(id));
    return answer({ id });
  });

/** Begins to write all of the firm's data into a file. */
export async function beginExport(actor: Actor, form: { readonly papers?: unknown }): Promise<Answer<{ id: string }>> {
  const refused = refusedTo(actor, 'exchange');
  if (refused !== undefined) return refused;
  await tidy();
  const { firmId } = actor;
  return begin(actor, 'export', 'waiting', 0, (id) => {
    void enqueue(firmId, id, async (progress) => {
      const { bytes, sealed } = await writeExport(firmId, fileOf(id), form.papers !== false, progress);
      return { size: bytes, said: sealed ? [] : [unsealedWords] };
    });
  });
}

/** Begins to take a file of so many bytes, which arrives in pieces. */
export async function beginImport(actor: Actor, form: { readonly size?: unknown }): Promise<Answer<{ id: string }>> {
  const refused = refusedTo(actor, 'exchange');
  if (refused !== undefined) return refused;
  const size = Number(form.size);
  if (!Number.isSafeInteger(size) || size <= 0) return refuse(400, 'form', 'Choose the file of the export.', 'file');
  if (size > mostBytes)
    return refuse(413, 'too-large', 'This file is too large for a browser. Whoever runs the installation takes it in: ./operate import.');
  if (!(await isEmptyFirm(actor.firmId)))
    return refuse(
      409,
      'not-empty',
      'This firm has data of its own. An export comes into a firm that is empty yet: begin a new one for it.',
    );
  await tidy();
  return begin(actor, 'import', 'arriving', size);
}

/** Takes a piece of the file at its place; with the last of them the work begins. Answers how much of it is here. */
export const takePiece = (actor: Actor, id: string, at: number, piece: Buffer): Promise<Answer<{ have: number }>> =>
  arriving(() => putPiece(actor, id, at, piece));

async function putPiece(actor: Actor, id: string, at: number, piece: Buffer): Promise<Answer<{ have: number }>> {
  if (!isUuid(id)) return notFound;
  const [row] = await withFirm(actor.firmId, (tx) => tx.select().from(exchange).where(eq(exchange.id, id)));
  if (row === undefined || row.kind !== 'import') return notFound;
  const file = fileOf(id);
  const have = await sizeOf(file);
  // Sent again, or not from here on: the sender is told where to go on.
  if (row.state !== 'arriving' || at !== have || piece.length === 0) return answer({ have });
  if (have + piece.length > row.size) return refuse(413, 'too-large', 'More came than was announced. Choose the file again.');
  await appendFile(file, piece, { mode: 0o600 });
  await set(actor.firmId, id, { doing: 'Arriving', done: Math.floor((have + piece.length) / 1024), total: Math.ceil(row.size / 1024) });
  if (have + piece.length === row.size) {
    await set(actor.firmId, id, { state: 'waiting' });
    void enqueue(actor.firmId, id, async (progress) => {
      try {
        return { said: await readExport(actor.firmId, file, progress) };
      } finally {
        await rm(file, { force: true });
      }
    });
  }
  return answer({ have: have + piece.length });
}

/** The last of them, the newest first; one whose process has ended has failed. */
export async function listExchanges(actor: Actor): Promise<{ readonly exchanges: readonly ShownExchange[]; readonly empty: boolean }> {
  await tidy();
  const rows = await withFirm(actor.firmId, (tx) => tx.select().from(exchange).orderBy(desc(exchange.madeAt)).limit(shownAtMost));
  const shown: ShownExchange[] = [];
  for (const row of rows) {
    const silence = now() - row.seenAt.getTime();
    const isCut = row.state === 'arriving' && silence > cutMs;
    const lost = isCut || (silence > silentMs && (row.state === 'running' || row.state === 'waiting'));
    const said = !lost
      ? row.said
      : [
          isCut
            ? 'The file did not arrive whole: its page was closed, or had no signal. Choose it again.'
            : 'The server was started anew meanwhile; nothing was changed. Begin again.',
        ];
    if (lost) await set(actor.firmId, row.id, { state: 'failed', said, endedAt: nowDate() });
    const { firmId: _, seenAt: __, endedAt: ___, madeAt, ...rest } = row;
    shown.push({
      ...rest,
      said,
      state: lost ? 'failed' : row.state,
      madeAt: madeAt.getTime(),
      hasFile: row.kind === 'export' && row.state === 'done' && (await sizeOf(fileOf(row.id))) > 0,
    });
  }
  return { exchanges: shown, empty: await isEmptyFirm(actor.firmId) };
}

/** The file of an export, as a stream. */
export async function exportFile(
  actor: Actor,
  id: string,
): Promise<Answer<{ readonly body: ReadableStream; readonly size: number; readonly name: string }>> {
  if (!isUuid(id)) return notFound;
  const [row] = await withFirm(actor.firmId, (tx) => tx.select().from(exchange).where(eq(exchange.id, id)));
  const size = row?.kind === 'export' && row.state === 'done' ? await sizeOf(fileOf(id)) : 0;
  if (size === 0) return refuse(404, 'gone', 'This file lay here for a day and is gone. Export again.');
  return answer({
    body: Readable.toWeb(createReadStream(fileOf(id))) as ReadableStream,
    size,
    name: `firm-${row.madeAt.toISOString().slice(0, 10)}.zip`,
  });
}
