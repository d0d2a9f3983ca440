import { asc, eq } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { type EventOf, type Judgement, judgeGrowing, type OnTheWay, onTheWay, type RunEvent } from '@/core/judging';
import type { Plan } from '@/core/planning';
import type { Transaction } from '@/db/connection';
import { event, run } from '@/db/schema';
import { type RunRow, runRow } from './standing';

/*
 * Runs that are being written to, judged as their log grows: a reading a second would otherwise have its whole log read and judged
 * a second. What is kept here is only ever of a beginning of what the database holds, and is used only where it ends just before what
 * joins; else the log is read again. While a hold is read to on its way, which may be by the thousand, the log itself is let go.
 */

interface Live {
  readonly plan: Plan;
  /** What the row shows of the run. */
  row: RunRow;
  /** How long the log is, and the id of its last entry. */
  placed: number;
  lastId: string | null;
  /** The log, as long as it is short. */
  log?: { readonly events: RunEvent[]; readonly judge: () => Judgement };
  onTheWay: OnTheWay;
  /** What the server has said in it. */
  found: readonly EventOf<'found'>[];
}

/** How long a log was before something joined it, and what its last entry was. */
export interface Before {
  readonly placed: number;
  readonly last_id: string | null;
}

/** Entries and points that are kept of all runs together. */
const mostKept = 100_000;
/** What a run without its log takes, and how long a log may be to be kept, in entries. */
const [bare, shortLog] = [30, 200];

const shared = globalThis as { __vastStoneLive?: LRUCache<string, Live> };
const kept = (): LRUCache<string, Live> => {
  shared.__vastStoneLive ??= new LRUCache<string, Live>({
    maxSize: mostKept,
    sizeCalculation: ({ log, row }) => bare + (log?.events.length ?? 0) + Math.ceil((row.course?.size ?? 0) / 8),
    ttl: 3_600_000,
  });
  return shared.__vastStoneLive;
};

export const forgetLive = (runId: string): void => void kept().delete(runId);

/** What is known of a run, where it ends just before what joins. */
function liveAt(runId: string, { placed, last_id }: Before): Live | undefined {
  const known = kept().get(runId);
  return known !== undefined && known.placed === placed && known.lastId === last_id ? known : undefined;
}

/** What the server has said in a run's log, in its order; undefined where it is to be read. */
export const liveFound = (runId: string, before: Before): readonly EventOf<'found'>[] | undefined => liveAt(runId, before)?.found;

/** What a run shows now that something has joined its log: a row, the one that stands, or one that is made of the whole test. */
export type After = { readonly row: RunRow } | 'as it was' | 'of the whole test';

/**
 * Inside the transaction that holds the lock on its test.
 * @param before how many events there were before, and the last of them
 * @param joined the events that joined, in order, none of them after a seal
 */
export async function liveRun(tx: Transaction, runId: string, before: Before, joined: readonly RunEvent[]): Promise<After> {
  const live = liveAt(runId, before);
  const placed = joined.map((one, index) => ({ ...one, position: before.placed + 1 + index }));
  const changes = live === undefined ? undefined : grownOnTheWay(live, placed);
  if (live !== undefined && changes !== undefined) {
    if (live.log !== undefined && live.log.events.length + placed.length <= shortLog) live.log.events.push(...placed);
    else live.log = undefined;
    live.placed += placed.length;
    live.lastId = placed.at(-1)?.id ?? live.lastId;
    // Set again, so that its size is counted anew.
    kept().set(runId, live);
    return changes ? { row: live.row } : 'as it was';
  }
  // From here on it may fail half way: what was begun is not used again.
  kept().delete(runId);
  let next: { readonly testId: string; readonly plan: Plan; readonly log: NonNullable<Live['log']> };
  if (live?.log !== undefined) {
    live.log.events.push(...placed);
    next = { testId: live.row.testId, plan: live.plan, log: live.log };
  } else {
    const [row] = await tx.select({ testId: run.testId, plan: run.plan, unread: run.unread }).from(run).where(eq(run.id, runId));
    if (row === undefined || row.unread !== null) return 'of the whole test';
    const rows = await tx.select().from(event).where(eq(event.runId, runId)).orderBy(asc(event.position));
    // What came after the seal is another matter, and belongs to the whole test.
    if (rows.some(({ late }) => late)) return 'of the whole test';
    const events = rows.map((one): RunEvent => ({ ...one.event, position: one.position }));
    next = { testId: row.testId, plan: row.plan, log: { events, judge: judgeGrowing(row.plan, events) } };
  }
  const { testId, plan, log } = next;
  const { events } = log;
  const judgement = log.judge();
  const row = runRow(runId, testId, plan, events, judgement);
  kept().set(runId, {
    plan,
    row,
    placed: events.length,
    lastId: events.at(-1)?.id ?? null,
    log,
    onTheWay: onTheWay(plan, judgement, events),
    found: events.filter((one) => one.type === 'found'),
  });
  return { row };
}

/** Whether the row changes with what was read on a hold's way; undefined where more than that has joined. */
function grownOnTheWay({ onTheWay: takes, row: { course } }: Live, joined: readonly RunEvent[]): boolean | undefined {
  const read = takes(joined);
  if (read === undefined) return undefined;
  let [changes, last] = [false, course?.lastRead ?? 0];
  for (const point of read.get(course?.phase.id ?? '') ?? []) {
    // One that was read before those that are known has another course.
    if (point.seconds < last) return undefined;
    last = point.seconds;
    if (course?.add(point) === true) changes = true;
  }
  return changes;
}
