import { join } from 'node:path';
import { Piscina } from 'piscina';
import type { TestRecord } from '@/core/record';
import { type Answer, answer, later, refuse } from './answers';

/* Papers are typeset beside the service, one at a time. */

const shared = globalThis as { __vastStonePapers?: Piscina };

function pool(): Piscina {
  shared.__vastStonePapers ??= new Piscina({
    filename: join(process.cwd(), process.env.NEXT_DIST ?? '.next', 'paper-worker.mjs'),
    minThreads: 0,
    maxThreads: 1,
    maxQueue: 40,
    idleTimeout: 60_000,
    resourceLimits: { maxOldGenerationSizeMb: 512 },
  });
  return shared.__vastStonePapers;
}

/** A day's log with all its notes takes a tenth of this. */
const deadlineMs = 60_000;

/** The pages of a record. */
export async function pagesOf(record: TestRecord): Promise<Answer<Uint8Array<ArrayBuffer>>> {
  if (pool().queueSize >= 40) return later(503, 'busy', 'Many papers are being made just now. Try again in a moment.', 5);
  const signal = AbortSignal.timeout(deadlineMs);
  try {
    return answer((await pool().run({ record, root: process.cwd() }, { signal })) as Uint8Array<ArrayBuffer>);
  } catch (error) {
    if (signal.aborted) return refuse(413, 'too-much', 'This record is too long to be typeset here. Its JSON holds all of it.');
    throw error;
  }
}
