import { asc, eq } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { type Judgement, judgeGrowing, type RunEvent } from '@/core/judging';
import type { Plan } from '@/core/planning';
import type { Transaction } from '@/db/connection';
import { event, run } from '@/db/schema';
import type { Grown, Memory } from './standing';

/*
 * Runs that are being written to, judged as their log grows: a reading a second would otherwise have its whole log read and judged
 * a second. What is kept here is only ever a beginning of what the database holds, and is used only where it ends just before what
 * joins; else the log is read again.
 */

interface Live {
  readonly testId: string;
  readonly plan: Plan;
  readonly log: RunEvent[];
  readonly judge: () => Judgement;
  readonly memory: Memory;
}

/** Events that are kept of all runs together. */
const mostKept = 120_000;

const shared = globalThis as { __vastStoneLive?: LRUCache<string, Live> };
const kept = (): LRUCache<string, Live> => {
  shared.__vastStoneLive ??= new LRUCache<string, Live>({
    maxSize: mostKept,
    sizeCalculation: ({ log }) => log.length + 20,
    ttl: 3_600_000,
  });
  return shared.__vastStoneLive;
};

export const forgetLive = (runId: string): void => void kept().delete(runId);

const begun = (testId: string, plan: Plan, log: RunEvent[]): Live => ({ testId, plan, log, judge: judgeGrowing(plan, log), memory: {} });

/**
 * A run with what has just joined its log, judged; undefined where its plan cannot be read. Inside the transaction that holds the
 * lock on its test.
 * @param before how many events there were before, and the last of them
 * @param joined the events that joined, in order
 */
export async function liveRun(
  tx: Transaction,
  runId: string,
  before: { readonly placed: number; readonly last_id: string | null },
  joined: readonly RunEvent[],
): Promise<Omit<Grown, 'runId'> | undefined> {
  const known = kept().get(runId);
  let live: Live;
  if (known !== undefined && known.log.length === before.placed && (known.log.at(-1)?.id ?? null) === before.last_id) {
    known.log.push(...joined.map((one, index) => ({ ...one, position: before.placed + 1 + index })));
    live = known;
  } else {
    const [row] = await tx.select({ testId: run.testId, plan: run.plan, unread: run.unread }).from(run).where(eq(run.id, runId));
    if (row === undefined || row.unread !== null) return undefined;
    const rows = await tx.select().from(event).where(eq(event.runId, runId)).orderBy(asc(event.position));
    // What came after the seal is another matter, and belongs to the whole test.
    if (rows.some(({ late }) => late)) return undefined;
    live = begun(
      row.testId,
      row.plan,
      rows.map((one) => ({ ...one.event, position: one.position })),
    );
  }
  // Set again, so that its size is counted anew.
  kept().set(runId, live);
  return { testId: live.testId, plan: live.plan, events: live.log, judgement: live.judge(), memory: live.memory };
}
