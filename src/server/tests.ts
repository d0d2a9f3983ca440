import { createHash, randomUUID } from 'node:crypto';
import { group } from 'd3-array';
import { and, asc, desc, eq, inArray, notInArray, sql } from 'drizzle-orm';
import { object, string } from 'yup';
import { dateText, type EventOf, isFromDevice, type Judgement, judge, type RunEvent } from '@/core/judging';
import { inputOf, planHash, planTest } from '@/core/planning';
import { type Transaction, withFirm } from '@/db/connection';
import { certificate, event, photo, quarantine, run, signature, site, system, test } from '@/db/schema';
import { type Actor, may } from './actor';
import { type Answer, answer, forbidden, isUuid, notFound, refuse } from './answers';
import { now, nowDate } from './clock';
import { checked } from './forms';
import { readEvent, readPlan } from './reader';

export type Test = typeof test.$inferSelect;
export type Run = typeof run.$inferSelect;

const detailsForm = object({
  jobOrigin: string().trim().max(200, 'Keep the job’s origin under 200 characters.').default(''),
  visualInspection: string()
    .oneOf(['done', 'not done'] as const)
    .default('not done'),
  meterNumber: string().trim().max(60, 'Keep the meter number under 60 characters.').default(''),
  meterReading: string().trim().max(60, 'Keep the meter reading under 60 characters.').default(''),
});
export const checkDetails = (input: unknown) => checked(detailsForm, input);

/** Sealing and appending to one test wait for each other. */
const testLock = (testId: unknown) => sql`pg_advisory_xact_lock(hashtextextended(${testId}::text, 0))`;
export const lockTest = (tx: Transaction, testId: string) => tx.execute(sql`select ${testLock(testId)}`);

/** A plan from a device: readable, unaltered, and what planning its own inputs gives; no figure looser than the rules. */
function checkPlan(input: unknown): Answer<Run['plan']> {
  const read = readPlan(input);
  if (!read.ok) return { ok: false, status: 400, problem: read.problem };
  const again = planTest(inputOf(read.value, dateText(now())));
  if (!again.ok) return { ok: false, status: 400, problem: again.problems[0] };
  return again.value.plan.hash === read.value.hash && planHash(read.value) === read.value.hash
    ? answer(again.value.plan)
    : refuse(400, 'plan-altered', 'This plan is not what its answers give. Make the plan again and start a new attempt.');
}

export interface NewTest {
  readonly id: string;
  readonly systemId: string;
  readonly details: unknown;
}

export interface NewRun {
  readonly id: string;
  readonly testId: string;
  readonly number: number;
  readonly plan: unknown;
}

/** Makes a test; the same id again is the same test. */
export async function createTest(actor: Actor, input: NewTest): Promise<Answer<'made' | 'already there'>> {
  if (!may(actor.role, 'run tests')) return forbidden('Your role cannot run tests.');
  if (!isUuid(input.id) || !isUuid(input.systemId)) return notFound;
  const details = await checkDetails(input.details);
  if (!details.ok) return details;
  return withFirm(actor.firmId, async (tx) => {
    const [owner] = await tx.select({ id: system.id }).from(system).where(eq(system.id, input.systemId));
    if (owner === undefined) return notFound;
    const made = await tx
      .insert(test)
      .values({
        id: input.id,
        firmId: actor.firmId,
        systemId: input.systemId,
        details: details.value,
        technician: actor.name,
        createdAt: nowDate(),
      })
      .onConflictDoNothing()
      .returning({ id: test.id });
    if (made.length > 0) return answer('made');
    const [own] = await tx.select({ id: test.id }).from(test).where(eq(test.id, input.id));
    return own === undefined ? notFound : answer('already there');
  });
}

/** Makes an attempt: a run of a frozen plan. A changed plan is a new attempt, never a silent change. */
export async function createRun(actor: Actor, input: NewRun): Promise<Answer<'made' | 'already there'>> {
  if (!may(actor.role, 'run tests')) return forbidden('Your role cannot run tests.');
  if (!isUuid(input.id) || !isUuid(input.testId)) return notFound;
  if (!(Number.isInteger(input.number) && input.number >= 1 && input.number <= 100))
    return refuse(400, 'attempt-number', 'A test holds at most 100 attempts.');
  const plan = checkPlan(input.plan);
  if (!plan.ok) return plan;
  return withFirm(actor.firmId, async (tx) => {
    const [owner] = await tx.select({ id: test.id }).from(test).where(eq(test.id, input.testId));
    if (owner === undefined) return notFound;
    await lockTest(tx, input.testId);
    const [there] = await tx
      .select({ testId: run.testId, hash: sql<string>`${run.plan} ->> 'hash'` })
      .from(run)
      .where(eq(run.id, input.id));
    if (there !== undefined)
      return there.testId === input.testId && there.hash === plan.value.hash
        ? answer('already there')
        : refuse(409, 'run-differs', 'This attempt is already there with another plan. Start a new attempt.');
    const numbers = await tx.select({ number: run.number }).from(run).where(eq(run.testId, input.testId));
    // Two devices may both call theirs the second: the one that arrives later takes the next number.
    const number = numbers.some((other) => other.number === input.number)
      ? Math.max(...numbers.map((other) => other.number)) + 1
      : input.number;
    const made = await tx
      .insert(run)
      .values({ id: input.id, firmId: actor.firmId, testId: input.testId, number, plan: plan.value, createdAt: nowDate() })
      .onConflictDoNothing()
      .returning({ id: run.id });
    return made.length > 0 ? answer('made') : notFound;
  });
}

export interface Appended {
  readonly stored: number;
  /** Ids that were there before: the same sync twice changes nothing. */
  readonly already: number;
  readonly late: number;
  readonly quarantined: readonly { readonly id: string; readonly why: string }[];
}

/** A device's two clocks at the moment at which it sent, ms. */
export interface SentAt {
  readonly device: string;
  readonly boot: string;
  readonly at: number;
  readonly mono: number;
}

/** What a device says of its clocks, where it says it well. */
export function readSentAt(input: unknown): SentAt | undefined {
  if (typeof input !== 'object' || input === null) return undefined;
  const { device, boot, at, mono } = input as Partial<Record<keyof SentAt, unknown>>;
  const named = (text: unknown): text is string => typeof text === 'string' && text.length > 0 && text.length <= 200;
  const moment = (value: unknown): value is number => Number.isSafeInteger(value) && Math.abs(value as number) <= 253_402_300_799_999;
  return named(device) && named(boot) && moment(at) && at >= 0 && moment(mono) ? { device, boot, at, mono } : undefined;
}

/** What the server found of the clock that timed these readings; it goes into the log right after them (DOMAIN 4.25). */
function clockFound(runId: string, events: readonly RunEvent[], sent: SentAt | undefined): readonly RunEvent[] {
  // A device whose clock is in doubt asks with nothing to send.
  const timed =
    events.length === 0 ||
    events.some(
      (event) =>
        event.type === 'pen' ||
        event.type === 'hold-stopped' ||
        (event.type === 'reading' && (event.role === 'start' || event.role === 'end')),
    );
  if (sent === undefined || !timed) return [];
  const serverAt = now();
  return [
    {
      schema: 1,
      run: runId,
      id: randomUUID(),
      device: 'server',
      seq: 1,
      author: 'server',
      observedAt: serverAt,
      enteredAt: serverAt,
      offsetMinutes: 0,
      boot: 'server',
      mono: 0,
      type: 'clock',
      of: sent.device,
      ofBoot: sent.boot,
      deviceAt: sent.at,
      deviceMono: sent.mono,
      serverAt,
    },
  ];
}

/** Appends events to a run, in the order in which they are handed in. What cannot be read is kept aside, visibly, and never stops the rest. */
export async function appendEvents(actor: Actor, runId: string, inputs: readonly unknown[], sent?: SentAt): Promise<Answer<Appended>> {
  if (!may(actor.role, 'run tests')) return forbidden('Your role cannot write to tests.');
  if (!isUuid(runId)) return notFound;
  const readable: RunEvent[] = [];
  const aside: { id: string; why: string; raw: unknown }[] = [];
  for (const raw of inputs) {
    const read = readEvent(raw);
    const id = String((raw as { id?: unknown } | null)?.id ?? '');
    if (!read.ok) aside.push({ id, why: read.problem.message, raw });
    else if (!isFromDevice(read.value)) aside.push({ id, why: 'Only the server writes that.', raw });
    else if (read.value.run !== runId) aside.push({ id, why: 'It belongs to another run.', raw });
    else if (read.value.author !== actor.name)
      aside.push({ id, why: `It was written by ${read.value.author}; only they can send it.`, raw });
    // Its place in the log is the server's to give.
    else readable.push({ ...read.value, position: undefined });
  }
  return withFirm(actor.firmId, async (tx) => {
    const { rows } = await tx.execute<{ stored: number; late: number }>(
      sql`select stored, late from append_events(${runId}, ${JSON.stringify([...readable, ...clockFound(runId, readable, sent)])}::jsonb, ${nowDate().toISOString()})`,
    );
    const [done] = rows;
    if (done === undefined) return notFound;
    if (aside.length > 0)
      await tx
        .insert(quarantine)
        .values(
          aside.map(({ raw, why }) => ({ id: randomUUID(), firmId: actor.firmId, raw: { sent: raw ?? null }, why, receivedAt: nowDate() })),
        );
    return answer({
      stored: done.stored,
      already: readable.length - done.stored,
      late: done.late,
      quarantined: aside.map(({ id, why }) => ({ id, why })),
    });
  });
}

export interface Attempted extends Run {
  readonly events: readonly RunEvent[];
  readonly judgement: Judgement;
}

export interface LoadedTest {
  readonly test: Test;
  readonly system: typeof system.$inferSelect;
  readonly site: typeof site.$inferSelect;
  readonly attempts: readonly Attempted[];
  readonly signatures: readonly (typeof signature.$inferSelect)[];
  readonly photos: readonly { readonly hash: string; readonly storedHash: string; readonly takenAt: Date }[];
  readonly certificates: readonly {
    readonly id: string;
    readonly number: string;
    readonly verdict: string;
    readonly issuedAt: Date;
    readonly corrects: string | null;
  }[];
  /** Looks at the last attempt's guard gauge after sealing: it is watched long after the certificate is signed. */
  readonly watch: readonly EventOf<'guard'>[];
  /** Other events, and whole attempts, that came after sealing; kept and shown, not judged. */
  readonly lateEvents: number;
  readonly lateAttempts: number;
}

/** An event with its place in the log. */
const placed = (row: typeof event.$inferSelect): RunEvent => ({ ...row.event, position: row.position });

/** Whole tests inside a transaction, judged afresh, in the order of their ids. As many queries for fifty as for one. */
async function loadTests(tx: Transaction, ids: readonly string[]): Promise<readonly LoadedTest[]> {
  if (ids.length === 0) return [];
  const tests = await tx
    .select({ test, system, site })
    .from(test)
    .innerJoin(system, eq(system.id, test.systemId))
    .innerJoin(site, eq(site.id, system.siteId))
    .where(inArray(test.id, [...ids]));
  const runs = await tx
    .select()
    .from(run)
    .where(inArray(run.testId, [...ids]))
    .orderBy(asc(run.number));
  const runIds = runs.map(({ id }) => id);
  const rows =
    runIds.length === 0
      ? []
      : await tx.select().from(event).where(inArray(event.runId, runIds)).orderBy(asc(event.runId), asc(event.position));
  const photos =
    runIds.length === 0
      ? []
      : await tx
          .select({ runId: photo.runId, hash: photo.hash, storedHash: photo.storedHash, takenAt: photo.takenAt })
          .from(photo)
          .where(inArray(photo.runId, runIds))
          .orderBy(asc(photo.hash));
  const signatures = await tx
    .select()
    .from(signature)
    .where(inArray(signature.testId, [...ids]))
    .orderBy(asc(signature.signedAt));
  const certificates = await tx
    .select({
      id: certificate.id,
      testId: certificate.testId,
      number: certificate.number,
      verdict: certificate.verdict,
      issuedAt: certificate.issuedAt,
      corrects: certificate.corrects,
    })
    .from(certificate)
    .where(inArray(certificate.testId, [...ids]))
    .orderBy(asc(certificate.issuedAt));
  const written = group(rows, ({ runId }) => runId);
  return ids.flatMap((testId): LoadedTest[] => {
    const found = tests.find((one) => one.test.id === testId);
    if (found === undefined) return [];
    const own = runs.filter((one) => one.testId === testId);
    const sealed = certificates.filter((one) => one.testId === testId);
    // An attempt begun elsewhere before the seal was known of must not turn a sealed test into one in progress.
    const sealedAt = sealed[0]?.issuedAt;
    const judged = own.filter(({ createdAt }) => sealedAt === undefined || createdAt <= sealedAt);
    const late = own.flatMap(({ id }) => (written.get(id) ?? []).filter((row) => row.late).map(placed));
    const last = judged.at(-1)?.id;
    const watch = late.filter((event): event is EventOf<'guard'> => event.type === 'guard' && event.run === last);
    return [
      {
        ...found,
        attempts: judged.map((one): Attempted => {
          const events = (written.get(one.id) ?? []).filter((row) => !row.late).map(placed);
          return { ...one, events, judgement: judge(one.plan, events) };
        }),
        signatures: signatures.filter((one) => one.testId === testId),
        photos: photos.filter(({ runId }) => own.some(({ id }) => id === runId)),
        certificates: sealed,
        watch,
        lateEvents: late.length - watch.length,
        lateAttempts: own.length - judged.length,
      },
    ];
  });
}

/** A whole test inside a transaction, judged afresh. */
export const loadTest = async (tx: Transaction, testId: string): Promise<LoadedTest | undefined> => (await loadTests(tx, [testId]))[0];

export async function readTest(actor: Actor, testId: string): Promise<Answer<LoadedTest>> {
  if (!isUuid(testId)) return notFound;
  return withFirm(actor.firmId, async (tx) => {
    const found = await loadTest(tx, testId);
    return found === undefined ? notFound : answer(found);
  });
}

/** Tests, newest first, judged; `limit` at most 200. `unsealed` leaves out those with a certificate. */
export const listTests = (
  actor: Actor,
  limit = 50,
  only: { readonly systemId?: string; readonly unsealed?: boolean } = {},
): Promise<readonly LoadedTest[]> =>
  withFirm(actor.firmId, async (tx) => {
    const sealed = tx.select({ id: certificate.testId }).from(certificate);
    const rows = await tx
      .select({ id: test.id })
      .from(test)
      .where(
        and(
          only.systemId === undefined ? undefined : eq(test.systemId, only.systemId),
          only.unsealed ? notInArray(test.id, sealed) : undefined,
        ),
      )
      .orderBy(desc(test.createdAt))
      .limit(Math.min(limit, 200));
    return loadTests(
      tx,
      rows.map(({ id }) => id),
    );
  });

/** The test that a run belongs to. */
export async function testOfRun(actor: Actor, runId: string): Promise<Answer<LoadedTest>> {
  if (!isUuid(runId)) return notFound;
  return withFirm(actor.firmId, async (tx) => {
    const [owner] = await tx.select({ testId: run.testId }).from(run).where(eq(run.id, runId));
    const found = owner === undefined ? undefined : await loadTest(tx, owner.testId);
    return found === undefined ? notFound : answer(found);
  });
}

/** Verdict of a test: its last attempt's. */
export const verdictOf = ({ attempts }: Pick<LoadedTest, 'attempts'>): Judgement | undefined => attempts.at(-1)?.judgement;

export const sha256Of = (data: Buffer): string => createHash('sha256').update(data).digest('hex');

/** What devices sent and this server could not read, newest first; at most 50. */
export const listQuarantine = (actor: Actor) =>
  withFirm(actor.firmId, (tx) =>
    tx
      .select({ id: quarantine.id, why: quarantine.why, receivedAt: quarantine.receivedAt })
      .from(quarantine)
      .orderBy(desc(quarantine.receivedAt))
      .limit(50),
  );

/** Whether the run is one of the firm's. */
export const ownsRun = (tx: Transaction, runId: string) =>
  tx
    .select({ testId: run.testId })
    .from(run)
    .where(and(eq(run.id, runId)));
