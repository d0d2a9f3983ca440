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
import { clockFound, type SentAt, skewOf, timesFound } from './found-times';
import { forgetLive, liveFound, liveRun } from './live-runs';
import { counted } from './metrics';
import { readEvent } from './reader';
import { type FoundBody, serverEvent } from './server-event';
import { Shared } from './shared';
import { type RunRow, stand, standAfter } from './standing';

export interface Appended {
  readonly stored: number;
  /** Ids that were there before: the same sync twice changes nothing. */
  readonly already: number;
  readonly late: number;
  /** The place of the first of them in the log, where all that was sent joined it in its order; the rest follows. */
  readonly from?: number;
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
  /** How far the device's clock is ahead, ms. */
  ahead: number,
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
    else if (actor.delivers !== undefined && read.value.enteredAt - ahead > actor.delivers.until)
      put('It was written after its author was put away, or the device revoked.');
    else {
      // Its place in the log and what its clock was worth are the server's to give.
      const { position: _, skew: __, ...one } = read.value;
      const before = readable.get(one.id);
      if (before !== undefined && isOther(before, one)) put(differs);
      else readable.set(one.id, one as RunEvent);
    }
  }
  return { readable: [...readable.values()], aside };
}

const differs = 'An entry with this id is there already and says something else. What was there first stands.';
const isOther = (a: RunEvent, b: unknown): boolean => canonical(a as unknown as Json) !== canonical(b as Json);

interface Part {
  readonly runId: string;
  readonly events: readonly RunEvent[];
  readonly readable: readonly RunEvent[];
  readonly sent: SentAt | undefined;
}

/**
 * Appends events to a run, in the order in which they are handed in. What cannot be read is kept aside, visibly, and never stops the
 * rest. Devices that send at the same time share a transaction: see `shared.ts`.
 */
export async function appendEvents(actor: Actor, runId: string, inputs: readonly unknown[], sent?: SentAt): Promise<Answer<Appended>> {
  const refused = refusedTo(actor, 'run tests');
  if (refused !== undefined) return refused;
  if (!isUuid(runId)) return notFound;
  const skew = skewOf(sent);
  const { readable: said, aside } = sorted(actor, runId, inputs, skew ?? 0);
  const readable = skew === undefined ? said : said.map((one): RunEvent => ({ ...one, skew }));
  const done = await appendings.ask(actor.firmId, { runId, events: [...readable, ...clockFound(runId, readable, sent)], readable, sent });
  if (done === undefined) return notFound;
  if (done.is_full) return full;
  const twice = done.differs.map((id): Aside => ({ id, why: differs, raw: readable.find((one) => one.id === id) }));
  const kept = [...aside, ...twice];
  if (kept.length > 0)
    await withFirm(actor.firmId, (tx) =>
      tx.insert(quarantine).values(
        kept.map(({ raw, why }) => ({
          id: randomUUID(),
          firmId: actor.firmId,
          sent: Buffer.from(JSON.stringify(raw) ?? ''),
          author: actor.userId,
          runId,
          why,
          receivedAt: nowDate(),
        })),
      ),
    );
  counted('events stored', done.stored);
  counted('events set aside', kept.length);
  return answer({
    stored: done.stored,
    already: readable.length - done.stored - twice.length,
    late: done.late,
    ...(skew === undefined && aside.length === 0 && done.stored === readable.length && done.stored > 0 ? { from: done.placed + 1 } : {}),
    quarantined: kept.map(({ id, why }) => ({ id, why })),
  });
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

/** What several devices of a firm have to append, in one transaction; a run that is not the firm's has no answer. */
async function appendAll(firmId: string, parts: readonly Part[]): Promise<readonly (Done | undefined)[]> {
  return withFirm(firmId, async (tx) => {
    const found = await append(
      tx,
      parts.map(({ runId, events }) => ({ run: runId, sent: events })),
    );
    const standing: { readonly part: Part; readonly done: Done; readonly said: number }[] = [];
    for (const [index, part] of parts.entries()) {
      const done = found[index];
      if (done === undefined || done.is_full) continue;
      const said = await writeFound(tx, part.runId, timesFound(part.readable, part.sent), liveFound(part.runId, done));
      if (done.joined + said > 0) standing.push({ part, done, said });
    }
    await standAll(tx, firmId, standing);
    return found;
  });
}

const appendings = new Shared(appendAll);

/** Brings the tests' rows in the lists up to what their logs say now. */
async function standAll(
  tx: Transaction,
  firmId: string,
  parts: readonly { readonly part: Part; readonly done: Done; readonly said: number }[],
): Promise<void> {
  const rows: RunRow[] = [];
  const whole = new Set<string>();
  for (const [index, { part, done, said }] of parts.entries()) {
    // A crowd is judged a few at a time: others are heard in between.
    if (index % 8 === 7) await new Promise((resolve) => setImmediate(resolve));
    // Some of them were there before, or the server added to them: the log itself is read again.
    if (done.joined !== part.events.length || said > 0) forgetLive(part.runId);
    const after = done.late > 0 ? 'of the whole test' : await liveRun(tx, part.runId, done, part.events);
    if (after === 'of the whole test') whole.add(done.test_id);
    else if (after !== 'as it was') rows.push(after.row);
  }
  for (const testId of [...whole, ...(await standAfter(tx, firmId, rows))]) await stand(tx, testId);
}

/** Puts events at the end of runs' logs, in one call. */
async function append(
  tx: Transaction,
  batch: readonly { readonly run: string; readonly sent: readonly RunEvent[] }[],
): Promise<readonly (Done | undefined)[]> {
  const { rows } = await tx.execute<Done & { readonly place: number }>(
    sql`select * from append_many(${JSON.stringify(batch)}::jsonb, ${nowDate().toISOString()}, ${mostEvents})`,
  );
  const found: (Done | undefined)[] = batch.map(() => undefined);
  for (const row of rows) found[row.place - 1] = row;
  return found;
}

/**
 * Writes what the server found into a run's log; what it says already is not said twice. Answers how much was new.
 * @param known what it has said there so far, where that is known
 */
export async function writeFound(
  tx: Transaction,
  run: string,
  found: readonly FoundBody[],
  known?: readonly EventOf<'found'>[],
): Promise<number> {
  if (found.length === 0) return 0;
  const said = known ?? (await foundOf(tx, run));
  const fresh = found.filter((one) => {
    const last = said.findLast(({ about, of }) => about === one.about && of === one.of);
    if (last === undefined) return one.is !== 'as told';
    // Of a clock that is a little otherwise at every look the first word stands.
    return last.is !== one.is || (one.about !== 'time' && last.text !== one.text);
  });
  if (fresh.length > 0) await append(tx, [{ run, sent: fresh.map((body) => serverEvent(run, body)) }]);
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
