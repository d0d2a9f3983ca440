import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { Piscina } from 'piscina';
import { fingerprint, type SealState, type TestRecord } from '@/core/record';
import { withoutFirm } from '@/db/connection';
import { type Answer, answer, later, refuse } from './answers';
import { knownSigners } from './keys';
import { counted, nowThere } from './metrics';
import type { verifyFile } from './verify';

/* Files that anyone sends are checked one at a time, beside the service and not in it. */

interface Checks {
  readonly pool: Piscina;
  /** Ends when the last that asked has had its turn. */
  turn: Promise<unknown>;
  waiting: number;
}

const shared = globalThis as { __vastStoneChecks?: Checks };

function checks(): Checks {
  shared.__vastStoneChecks ??= {
    pool: new Piscina({
      filename: join(process.cwd(), process.env.NEXT_DIST ?? '.next', 'check-worker.mjs'),
      minThreads: 0,
      maxThreads: 1,
      idleTimeout: 20_000,
      resourceLimits: { maxOldGenerationSizeMb: 256 },
    }),
    turn: Promise.resolve(),
    waiting: 0,
  };
  return shared.__vastStoneChecks;
}

const mostWaiting = 8;
/** A real certificate, a day's log of readings in it, takes a tenth of this. */
const deadlineMs = 10_000;
/** What one check may add to the process's memory. */
const mostMemory = 256 * 1024 * 1024;

const tooMuch = refuse(
  413,
  'too-much',
  'This file takes too much work to be checked here, so it is hardly a certificate of ours. The command line checks it (vast-stone verify).',
);

/** The facts of a file that somebody holds: is it as it was sealed, by whom, and what became of it since. */
export async function checkFile(data: Buffer): Promise<Answer<unknown>> {
  const own = checks();
  if (own.waiting >= mostWaiting) return later(503, 'busy', 'Many files are being checked just now. Try again in a moment.', 5);
  own.waiting += 1;
  nowThere('files in check', own.waiting);
  const mine = own.turn.then(() => verified(own.pool, data));
  own.turn = mine.catch(() => undefined);
  try {
    return await mine;
  } finally {
    own.waiting -= 1;
    nowThere('files in check', own.waiting);
  }
}

async function verified(pool: Piscina, data: Buffer): Promise<Answer<unknown>> {
  const ending = new AbortController();
  const before = process.memoryUsage.rss();
  const began = performance.now();
  const watch = setInterval(() => {
    if (process.memoryUsage.rss() - before > mostMemory || performance.now() - began > deadlineMs) ending.abort();
  }, 50);
  try {
    const known = await knownSigners();
    const result: Awaited<ReturnType<typeof verifyFile>> = await pool.run({ data, known, root: process.cwd() }, { signal: ending.signal });
    counted('files checked');
    if (!result.ok) return { ok: false, status: 400, problem: result.problem };
    const { record, ...facts } = result.value;
    return answer({
      ...facts,
      ...(facts.state === 'intact, signer unknown' ? { state: await asImported(record) } : {}),
      site: record.site?.name,
      system: record.tests.map(({ system }) => system?.name ?? 'not named').join(', '),
      issuedOn: record.certificate?.issuedOn,
      ...(record.seal === undefined ? {} : await sinceThen(record.seal.hash)),
    });
  } catch (error) {
    if (ending.signal.aborted || (error as { code?: unknown }).code === 'ERR_WORKER_OUT_OF_MEMORY') return tooMuch;
    throw error;
  } finally {
    clearInterval(watch);
  }
}

/** A paper that came in with a firm's data: its signer is known for what came with it. The seal itself was found to hold. */
async function asImported({ seal }: TestRecord): Promise<SealState> {
  if (seal === undefined) return 'not sealed';
  const signer = (await knownSigners(seal.hash)).find((one) => one.fingerprint === fingerprint(seal.publicKey));
  return signer === undefined ? 'intact, signer unknown' : signer.revoked ? 'key revoked' : 'genuine';
}

/** What became since of the paper with this seal, where it is one of this installation: corrected by another, withdrawn. */
const sinceThen = (hash: string): Promise<{ readonly correctedBy?: string; readonly withdrawn?: string; readonly imported?: string }> =>
  withoutFirm(async (tx) => {
    const { rows } = await tx.execute<{ corrected_by: string | null; withdrawn_because: string | null; imported_at: string | Date | null }>(
      sql`select corrected_by, withdrawn_because, imported_at from check_record(${hash})`,
    );
    const [row] = rows;
    return {
      ...(row?.corrected_by == null ? {} : { correctedBy: row.corrected_by }),
      ...(row?.withdrawn_because == null ? {} : { withdrawn: row.withdrawn_because }),
      ...(row?.imported_at == null ? {} : { imported: new Date(row.imported_at).toISOString().slice(0, 10) }),
    };
  });
