import { group } from 'd3-array';
import { and, asc, desc, eq, gt, inArray, sql } from 'drizzle-orm';
import { object, string } from 'yup';
import { canonical, dateText } from '@/core/exact';
import { type EventOf, type Judgement, judge, type RunEvent } from '@/core/judging';
import { type Plan, planHash } from '@/core/planning';
import { componentText, fittedOn } from '@/core/register';
import { type Transaction, withFirm } from '@/db/connection';
import { certificate, certificateTest, event, person, photo, quarantine, run, signature, site, system, test } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { nowDate } from './clock';
import { checked } from './forms';
import { readPlan } from './reader';
import { lookUp } from './register';
import { stand } from './standing';
import { componentsOf } from './things';

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
  const refused = refusedTo(actor, 'run tests');
  if (refused !== undefined) return refused;
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
        author: actor.userId,
        createdAt: nowDate(),
      })
      .onConflictDoNothing()
      .returning({ id: test.id });
    if (made.length > 0) {
      await stand(tx, input.id);
      return answer('made');
    }
    const [own] = await tx.select().from(test).where(eq(test.id, input.id));
    if (own === undefined) return notFound;
    const isSame = own.systemId === input.systemId && canonical({ ...own.details }) === canonical({ ...details.value });
    return isSame
      ? answer('already there')
      : refuse(
          409,
          'test-differs',
          'This test is there already, of another system or with other particulars. What was there first stands.',
        );
  });
}

/**
 * Makes an attempt: a run of a frozen plan. A changed plan is a new attempt, never a silent change. No plan is refused, or what was
 * done by it would be lost: one that cannot be read is kept as it came and proves nothing, one that this build would not make is
 * marked, and what the register knows otherwise is written into its log.
 */
export async function createRun(actor: Actor, input: NewRun): Promise<Answer<'made' | 'already there'>> {
  const refused = refusedTo(actor, 'run tests');
  if (refused !== undefined) return refused;
  if (!isUuid(input.id) || !isUuid(input.testId)) return notFound;
  if (typeof input.plan !== 'object' || input.plan === null) return refuse(400, 'plan-missing', 'An attempt needs a plan.');
  const { plan, unread } = readRunPlan(input.plan);
  return withFirm(actor.firmId, async (tx) => {
    const [owner] = await tx.select({ id: test.id }).from(test).where(eq(test.id, input.testId));
    if (owner === undefined) return notFound;
    await lockTest(tx, input.testId);
    const [there] = await tx.select({ testId: run.testId, plan: run.plan }).from(run).where(eq(run.id, input.id));
    if (there !== undefined)
      return there.testId === input.testId && canonical(there.plan as never) === canonical(input.plan as never)
        ? answer('already there')
        : refuse(409, 'run-differs', 'This attempt is already there with another plan. Start a new attempt.');
    const numbers = await tx.select({ number: run.number }).from(run).where(eq(run.testId, input.testId));
    if (numbers.length >= mostAttempts)
      return refuse(409, 'attempts-full', `A test holds at most ${mostAttempts} attempts. Begin a new test of this system.`);
    // Two devices may both call theirs the second: the one that arrives later takes the next number.
    const asked = Number.isInteger(input.number) && input.number >= 1 && input.number <= mostAttempts ? input.number : 1;
    const number = numbers.some((other) => other.number === asked) ? Math.max(...numbers.map((other) => other.number)) + 1 : asked;
    const made = await tx
      .insert(run)
      .values({ id: input.id, firmId: actor.firmId, testId: input.testId, number, plan: input.plan as Plan, unread, createdAt: nowDate() })
      .onConflictDoNothing()
      .returning({ id: run.id });
    if (made.length === 0) return notFound;
    if (plan !== undefined) await lookUp(tx, input.id, plan);
    await stand(tx, input.testId);
    return answer('made');
  });
}

const mostAttempts = 100;

/** The plan, where this build reads it, or why it does not. */
function readRunPlan(input: object): { readonly plan?: Plan; readonly unread?: string } {
  const read = readPlan(input);
  if (!read.ok) return { unread: read.problem.message };
  return planHash(read.value) === read.value.hash ? { plan: read.value } : { unread: 'This plan was altered: its hash is not its own.' };
}

export interface Attempted extends Run {
  readonly events: readonly RunEvent[];
  readonly judgement: Judgement;
}

export interface LoadedTest {
  readonly test: Test;
  /** Whoever began it. */
  readonly technician: string;
  /** Everybody who wrote in it, by account id. */
  readonly people: readonly { readonly id: string; readonly name: string; readonly licence: string }[];
  readonly system: typeof system.$inferSelect;
  readonly site: typeof site.$inferSelect;
  /** What hung on the system when the test was begun, a line each. */
  readonly components: readonly string[];
  readonly attempts: readonly Attempted[];
  readonly signatures: readonly (typeof signature.$inferSelect)[];
  readonly photos: readonly {
    readonly runId: string;
    readonly hash: string;
    readonly storedHash: string;
    readonly copyHash: string;
    readonly takenAt: Date;
  }[];
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
  /** Attempts whose plan this build cannot read: kept, shown, and proof of nothing. */
  readonly unread: readonly { readonly run: string; readonly number: number; readonly why: string }[];
}

/** An event with its place in the log. */
const placed = (row: typeof event.$inferSelect): RunEvent => ({ ...row.event, position: row.position });

/** Whole tests inside a transaction, judged afresh, in the order of their ids. As many queries for fifty as for one. */
export async function loadTests(tx: Transaction, ids: readonly string[]): Promise<readonly LoadedTest[]> {
  if (ids.length === 0) return [];
  const tests = await tx
    .select({ test, system, site, technician: person.name })
    .from(test)
    .innerJoin(person, eq(person.id, test.author))
    .innerJoin(system, eq(system.id, test.systemId))
    .innerJoin(site, eq(site.id, system.siteId))
    .where(inArray(test.id, [...ids]));
  const parts = await componentsOf(tx, [...new Set(tests.map((one) => one.system.id))]);
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
          .select({ runId: photo.runId, hash: photo.hash, storedHash: photo.storedHash, copyHash: photo.copyHash, takenAt: photo.takenAt })
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
      testId: certificateTest.testId,
      number: certificate.number,
      verdict: certificate.verdict,
      issuedAt: certificate.issuedAt,
      corrects: certificate.corrects,
    })
    .from(certificateTest)
    .innerJoin(certificate, eq(certificate.id, certificateTest.certificateId))
    .where(inArray(certificateTest.testId, [...ids]))
    .orderBy(asc(certificate.issuedAt));
  const written = group(rows, ({ runId }) => runId);
  const authors = [...new Set([...tests.map((one) => one.test.author), ...rows.map(({ event: one }) => one.author)])];
  const names = await tx
    .select({ id: person.id, name: person.name, licence: person.licence })
    .from(person)
    .where(inArray(person.id, authors))
    .orderBy(asc(person.id));
  return ids.flatMap((testId): LoadedTest[] => {
    const found = tests.find((one) => one.test.id === testId);
    if (found === undefined) return [];
    const own = runs.filter((one) => one.testId === testId);
    const sealed = certificates.filter((one) => one.testId === testId);
    // An attempt begun elsewhere before the seal was known of must not turn a sealed test into one in progress.
    const sealedAt = sealed[0]?.issuedAt;
    const inTime = own.filter(({ createdAt }) => sealedAt === undefined || createdAt <= sealedAt);
    const judged = inTime.filter(({ unread }) => unread === null);
    const late = own.flatMap(({ id }) => (written.get(id) ?? []).filter((row) => row.late).map(placed));
    const last = judged.at(-1)?.id;
    const watch = late.filter((event): event is EventOf<'guard'> => event.type === 'guard' && event.run === last);
    return [
      {
        ...found,
        components: fittedOn(
          parts.filter(({ systemId }) => systemId === found.system.id),
          dateText(found.test.createdAt.getTime()),
        ).map(componentText),
        attempts: judged.map((one): Attempted => {
          const events = (written.get(one.id) ?? []).filter((row) => !row.late).map(placed);
          return { ...one, events, judgement: judge(one.plan, events) };
        }),
        people: names.filter(
          ({ id }) => id === found.test.author || own.some((one) => (written.get(one.id) ?? []).some((row) => row.event.author === id)),
        ),
        signatures: signatures.filter((one) => one.testId === testId),
        photos: photos.filter(({ runId }) => own.some(({ id }) => id === runId)),
        certificates: sealed,
        watch,
        lateEvents: late.length - watch.length,
        lateAttempts: own.length - inTime.length,
        unread: inTime.flatMap(({ id, number, unread }) => (unread === null ? [] : [{ run: id, number, why: unread }])),
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

/** What joined a run's log after a place; of what came after the seal only looks at the guard gauge. */
export async function eventsAfter(tx: Transaction, runId: string, position: number): Promise<readonly RunEvent[]> {
  const rows = await tx
    .select()
    .from(event)
    .where(and(eq(event.runId, runId), gt(event.position, position)))
    .orderBy(asc(event.position));
  return rows.filter((row) => !row.late || row.event.type === 'guard').map(placed);
}

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
