import { randomUUID } from 'node:crypto';
import { and, asc, eq, sql } from 'drizzle-orm';
import { canonical, type Json, storableFault, storableWords } from '@/core/exact';
import { type EventOf, isFromDevice, type RunEvent } from '@/core/judging';
import { type Transaction, withFirm } from '@/db/connection';
import { event, quarantine } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { limits } from './body';
import { nowDate } from './clock';
import { clockFound, type SentAt, timesFound } from './found-times';
import { forgetLive, liveRun } from './live-runs';
import { counted } from './metrics';
import { readEvent } from './reader';
import { type FoundBody, serverEvent } from './server-event';
import { stand, standAfter } from './standing';

export interface Appended {
  readonly stored: number;
  /** Ids that were there before: the same sync twice changes nothing. */
  readonly already: number;
  readonly late: number;
  /** What was not taken, with the reason: kept here as it came, and told to whoever sent it. */
  readonly quarantined: readonly { readonly id: string; readonly why: string }[];
}

/** A day of readings at one a second, with room. */
const mostEvents = 100_000;

const full = refuse(409, 'run-full', `A run holds at most ${mostEvents.toLocaleString('en')} entries. End it, and start a new attempt.`);

interface Aside {
  readonly id: string;
  readonly why: string;
  readonly raw: unknown;
}

const idOf = (raw: unknown): string => {
  const id = (raw as { id?: unknown } | null | undefined)?.id;
  return typeof id === 'string' ? id.slice(0, 100) : '';
};

/** What can be read of what was sent, and what cannot, with why. */
function sorted(
  actor: Actor,
  runId: string,
  inputs: readonly unknown[],
): { readonly readable: readonly RunEvent[]; readonly aside: readonly Aside[] } {
  const readable = new Map<string, RunEvent>();
  const aside: Aside[] = [];
  for (const raw of inputs) {
    const put = (why: string) => aside.push({ id: idOf(raw), why, raw });
    const fault = storableFault(raw, limits);
    if (fault !== undefined) {
      put(storableWords[fault.why]);
      continue;
    }
    const read = readEvent(raw);
    if (!read.ok) put(read.problem.message);
    else if (!isFromDevice(read.value)) put('Only the server writes that.');
    else if (read.value.run !== runId) put('It belongs to another run.');
    else if (read.value.author !== actor.userId) put('Somebody else wrote it; only they can send it.');
    else {
      // Its place in the log is the server's to give.
      const { position: _, ...one } = read.value;
      const before = readable.get(one.id);
      if (before !== undefined && isOther(before, one)) put(differs);
      else readable.set(one.id, one as RunEvent);
    }
  }
  return { readable: [...readable.values()], aside };
}

const differs = 'An entry with this id is there already and says something else. What was there first stands.';
const isOther = (a: RunEvent, b: unknown): boolean => canonical(a as unknown as Json) !== canonical(b as Json);

/** Appends events to a run, in the order in which they are handed in. What cannot be read is kept aside, visibly, and never stops the rest. */
export async function appendEvents(actor: Actor, runId: string, inputs: readonly unknown[], sent?: SentAt): Promise<Answer<Appended>> {
  const refused = refusedTo(actor, 'run tests');
  if (refused !== undefined) return refused;
  if (!isUuid(runId)) return notFound;
  const { readable, aside } = sorted(actor, runId, inputs);
  return withFirm(actor.firmId, async (tx) => {
    const handed = [...readable, ...clockFound(runId, readable, sent)];
    const done = await append(tx, runId, handed);
    if (done === undefined) return notFound;
    if (done.is_full) return full;
    const said = await writeFound(tx, runId, timesFound(readable, sent));
    if (done.joined + said > 0) await standWith(tx, actor.firmId, runId, done, said > 0 ? [] : handed);
    const twice = done.differs.map((id): Aside => ({ id, why: differs, raw: readable.find((one) => one.id === id) }));
    const kept = [...aside, ...twice];
    if (kept.length > 0)
      await tx.insert(quarantine).values(
        kept.map(({ raw, why }) => ({
          id: randomUUID(),
          firmId: actor.firmId,
          sent: Buffer.from(JSON.stringify(raw) ?? ''),
          author: actor.userId,
          runId,
          why,
          receivedAt: nowDate(),
        })),
      );
    counted('events stored', done.stored);
    counted('events set aside', kept.length);
    return answer({
      stored: done.stored,
      already: readable.length - done.stored - twice.length,
      late: done.late,
      quarantined: kept.map(({ id, why }) => ({ id, why })),
    });
  });
}

/** Brings the test's row in the lists up to what its log says now. */
async function standWith(tx: Transaction, firmId: string, runId: string, done: Done, handed: readonly RunEvent[]): Promise<void> {
  // Some of them were there before: which, only the log itself can tell.
  if (done.joined !== handed.length) forgetLive(runId);
  const live = done.late > 0 ? undefined : await liveRun(tx, runId, done, handed);
  if (live === undefined || !(await standAfter(tx, firmId, runId, live.plan, live.events, live.judgement))) await stand(tx, done.test_id);
}

interface Done extends Record<string, unknown> {
  readonly stored: number;
  readonly late: number;
  readonly differs: readonly string[];
  readonly is_full: boolean;
  readonly placed: number;
  readonly last_id: string | null;
  readonly test_id: string;
  readonly joined: number;
}

/** Puts events at the end of a run's log; undefined where the run is not the firm's. */
async function append(tx: Transaction, runId: string, events: readonly RunEvent[]) {
  const { rows } = await tx.execute<Done>(
    sql`select stored, late, differs, is_full, placed, last_id, test_id, joined from append_events(${runId}, ${JSON.stringify(events)}::jsonb, ${nowDate().toISOString()}, ${mostEvents})`,
  );
  return rows[0];
}

/** Writes what the server found into a run's log; what it says already is not said twice. Answers how much was new. */
export async function writeFound(tx: Transaction, run: string, found: readonly FoundBody[]): Promise<number> {
  if (found.length === 0) return 0;
  const said = await foundOf(tx, run);
  const fresh = found.filter((one) => {
    const last = said.findLast(({ about, of }) => about === one.about && of === one.of);
    return last === undefined ? one.is !== 'as told' : last.is !== one.is || last.text !== one.text;
  });
  if (fresh.length > 0)
    await append(
      tx,
      run,
      fresh.map((body) => serverEvent(run, body)),
    );
  return fresh.length;
}

/** What the server has said in a run's log, in its order. */
async function foundOf(tx: Transaction, run: string): Promise<readonly EventOf<'found'>[]> {
  const rows = await tx
    .select({ event: event.event })
    .from(event)
    .where(and(eq(event.runId, run), sql`${event.event} ->> 'type' = 'found'`))
    .orderBy(asc(event.position));
  return rows.map((row) => row.event as EventOf<'found'>);
}
