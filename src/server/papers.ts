import { join } from 'node:path';
import { eq, inArray } from 'drizzle-orm';
import { Piscina } from 'piscina';
import type { Paper } from '@/core/papers';
import type { TestRecord } from '@/core/record';
import { withFirm } from '@/db/connection';
import { firmLogo, photo } from '@/db/schema';
import type { PaperJob } from '@/workers/paper-worker';
import { type Answer, answer, later, refuse } from './answers';

/* Papers are typeset beside the service, one at a time. */

const shared = globalThis as { __vastStonePapers?: Piscina; __vastStonePapersWarm?: true };

function pool(): Piscina {
  shared.__vastStonePapers ??= new Piscina({
    filename: join(process.cwd(), process.env.NEXT_DIST ?? '.next', 'paper-worker.mjs'),
    // Once there was a first paper it stays: reading its types anew takes longer than ten papers.
    minThreads: 1,
    maxThreads: 1,
    maxQueue: 40,
    resourceLimits: { maxOldGenerationSizeMb: 512 },
  });
  return shared.__vastStonePapers;
}

/** A day's log with all its notes takes a tenth of this. */
const deadlineMs = 60_000;

/** The pictures that a record's paper shows, by the hash of the copy: its photographs and the firm's logo. */
export const picturesOf = (firmId: string, { photos = [], firm }: TestRecord): Promise<readonly (readonly [string, Uint8Array])[]> =>
  withFirm(firmId, async (tx) => {
    const copies = photos.flatMap(({ copy }) => copy ?? []);
    const shown =
      copies.length === 0
        ? []
        : await tx.select({ hash: photo.copyHash, data: photo.copy }).from(photo).where(inArray(photo.copyHash, copies));
    const logo =
      firm?.logo === undefined
        ? []
        : await tx.select({ hash: firmLogo.hash, data: firmLogo.picture }).from(firmLogo).where(eq(firmLogo.hash, firm.logo));
    return [...shown, ...logo].map(({ hash, data }) => [hash, new Uint8Array(data)] as const);
  });

/** The pages of a record of this firm. */
export const pagesOf = async (firmId: string, record: TestRecord): Promise<Answer<Uint8Array<ArrayBuffer>>> =>
  pagesOfRecord(record, await picturesOf(firmId, record));

const pagesOfRecord = (record: TestRecord, pictures: readonly (readonly [string, Uint8Array])[]) =>
  done<Uint8Array<ArrayBuffer>>({ want: 'pages', record, pictures, root: process.cwd() });

/** The receipt strip of a record. */
export const stripOf = (record: TestRecord): Promise<Answer<Uint8Array<ArrayBuffer>>> =>
  done({ want: 'strip', record, root: process.cwd() });

/** What stands on a record's strip, for the roll on the screen. */
export const rollOf = (record: TestRecord): Promise<Answer<Paper>> => done({ want: 'roll', record });

/** What stands on a record's paper, for a page of the browser. */
export async function paperIn(record: TestRecord): Promise<Answer<Paper>> {
  const found = await done<Paper>({ want: 'blocks', record });
  // Whoever looks at a paper wants its pages soon: the first, which is the slow one, is made while they read.
  if (found.ok && shared.__vastStonePapersWarm === undefined) {
    shared.__vastStonePapersWarm = true;
    void pagesOfRecord(record, []).catch(() => undefined);
  }
  return found;
}

async function done<T>(job: PaperJob): Promise<Answer<T>> {
  if (pool().queueSize >= 40) return later(503, 'busy', 'Many papers are being made just now. Try again in a moment.', 5);
  const signal = AbortSignal.timeout(deadlineMs);
  try {
    return answer((await pool().run(job, { signal })) as T);
  } catch (error) {
    if (signal.aborted) return refuse(413, 'too-much', 'This record is too long to be typeset here. Its JSON holds all of it.');
    throw error;
  }
}
