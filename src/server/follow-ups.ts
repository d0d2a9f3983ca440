import { randomBytes, randomUUID } from 'node:crypto';
import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { object, string } from 'yup';
import { dateText } from '@/core/exact';
import { type FollowUpKind, followUpKinds, followUpWords, isCalendarDay, type ShownFollowUp } from '@/core/register';
import { accounts, type Transaction, withFirm, withoutFirm } from '@/db/connection';
import { firm, followUp, person, site, system, user } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { now, nowDate } from './clock';
import { setting } from './environment';
import { checked } from './forms';
import { queueNotice } from './mail';
import { type LoadedTest, loadTest, verdictOf } from './tests';
import { offsetOfZone } from './zones';

/* What is still to be done after a test: with a date, a person and an end. */

const form = object({
  systemId: string().required('Name the system.'),
  kind: string().oneOf(followUpKinds, 'Choose what is to be done.').required('Choose what is to be done.'),
  due: string()
    .required('Write the date.')
    .test('day', 'This is no date of the calendar.', (text) => isCalendarDay(text ?? '')),
  person: string().default(''),
  what: string().trim().max(300, 'Keep it under 300 characters.').default(''),
  testId: string().default(''),
});

/** Ten signs that are hard to mistake for one another: 50 bits. */
const signs = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';
const newTag = (): string => Array.from(randomBytes(10), (byte) => signs[byte % 32]).join('');

export type FollowUp = Omit<typeof followUp.$inferSelect, 'firmId' | 'author' | 'remindedOn'> & {
  readonly system: string;
  readonly site: string;
};

const columns = {
  id: followUp.id,
  kind: followUp.kind,
  siteId: followUp.siteId,
  systemId: followUp.systemId,
  testId: followUp.testId,
  due: followUp.due,
  person: followUp.person,
  what: followUp.what,
  createdAt: followUp.createdAt,
  endedAt: followUp.endedAt,
  endedBy: followUp.endedBy,
  outcome: followUp.outcome,
  tag: followUp.tag,
  system: system.name,
  site: site.name,
};

const select = (tx: Transaction) =>
  tx.select(columns).from(followUp).innerJoin(system, eq(system.id, followUp.systemId)).innerJoin(site, eq(site.id, followUp.siteId));

/** Makes a follow-up of a system; one for a guard gauge gets the code of its tag. */
export async function addFollowUp(actor: Actor, input: unknown): Promise<Answer<{ readonly id: string }>> {
  const refused = refusedTo(actor, 'edit sites');
  if (refused !== undefined) return refused;
  const read = await checked(form, input);
  if (!read.ok) return read;
  const { systemId, kind, due, what, testId } = read.value;
  if (!isUuid(systemId) || (testId !== '' && !isUuid(testId))) return notFound;
  return withFirm(actor.firmId, async (tx) => {
    const [of] = await tx.select({ siteId: system.siteId }).from(system).where(eq(system.id, systemId));
    if (of === undefined) return notFound;
    const who = read.value.person;
    const [known] = who === '' ? [] : await tx.select({ id: person.id }).from(person).where(eq(person.id, who));
    if (who !== '' && known === undefined) return refuse(400, 'form', 'Choose somebody of the firm.', 'person');
    return answer({
      id: await make(tx, actor, { siteId: of.siteId, systemId, testId: testId === '' ? null : testId, kind, due, person: who, what }),
    });
  });
}

type Made = Pick<typeof followUp.$inferInsert, 'siteId' | 'systemId' | 'testId' | 'kind' | 'due' | 'person' | 'what'>;

async function make(tx: Transaction, actor: Actor, made: Made): Promise<string> {
  const id = randomUUID();
  await tx.insert(followUp).values({
    ...made,
    id,
    firmId: actor.firmId,
    author: actor.userId,
    createdAt: nowDate(),
    tag: made.kind === 'guard' ? newTag() : null,
  });
  return id;
}

/** Ends one, by a word; ended twice the first end stands. */
export async function endFollowUp(actor: Actor, id: string, input: { readonly outcome?: unknown }): Promise<Answer<'ended'>> {
  const refused = refusedTo(actor, 'edit sites');
  if (refused !== undefined) return refused;
  if (!isUuid(id)) return notFound;
  const outcome = typeof input.outcome === 'string' ? input.outcome.trim() : '';
  if (outcome.length < 2 || outcome.length > 300) return refuse(400, 'form', 'Say in a few words what was done.', 'outcome');
  return withFirm(actor.firmId, async (tx) => {
    const [found] = await tx.select({ endedAt: followUp.endedAt }).from(followUp).where(eq(followUp.id, id)).for('update');
    if (found === undefined) return notFound;
    if (found.endedAt !== null) return refuse(409, 'already-ended', 'This was ended already.');
    await tx.update(followUp).set({ endedAt: nowDate(), endedBy: actor.name, outcome }).where(eq(followUp.id, id));
    return answer('ended');
  });
}

/** Those that are open, the one that is due first first. */
export const openFollowUps = (firmId: string): Promise<readonly FollowUp[]> =>
  withFirm(firmId, (tx) => select(tx).where(isNull(followUp.endedAt)).orderBy(asc(followUp.due)).limit(200));

/** All of some tests' systems, also those that are over. */
export const followUpsOf = (firmId: string, systemIds: readonly string[]): Promise<readonly FollowUp[]> =>
  withFirm(firmId, (tx) =>
    systemIds.length === 0
      ? Promise.resolve([])
      : select(tx)
          .where(inArray(followUp.systemId, [...systemIds]))
          .orderBy(asc(followUp.due))
          .limit(100),
  );

/** Whether a test was made on a simulated plant: it is practice, and ends nothing that is real. */
const isPractice = (one: LoadedTest): boolean => verdictOf(one)?.simulated === true;
const procedureOf = ({ attempts }: LoadedTest): string | undefined => attempts.at(-1)?.plan.procedure.id;

/**
 * Ends what was still open of a system and is answered by this test: it was begun after what made the follow-up, it is no practice where
 * that was none, and where a test made it this one is of the same kind. Else an old pass, sealed late, or one of another line would cover
 * a failure.
 */
async function answered(tx: Transaction, one: LoadedTest, kinds: readonly FollowUpKind[], outcome: string): Promise<void> {
  const open = await tx
    .select({ id: followUp.id, testId: followUp.testId, createdAt: followUp.createdAt })
    .from(followUp)
    .where(and(eq(followUp.systemId, one.system.id), isNull(followUp.endedAt), inArray(followUp.kind, [...kinds])));
  for (const { id, testId, createdAt } of open) {
    const of = testId === null ? undefined : await loadTest(tx, testId);
    const since = of?.test.createdAt ?? createdAt;
    const isAnswered =
      one.test.createdAt > since &&
      (of === undefined ? !isPractice(one) : procedureOf(of) === procedureOf(one) && (isPractice(of) || !isPractice(one)));
    if (isAnswered) await tx.update(followUp).set({ endedAt: nowDate(), endedBy: 'what was done', outcome }).where(eq(followUp.id, id));
  }
}

/**
 * What a sealed paper leads to: a restricted use is to be repaired by its date, a failure as soon as somebody can, and a guard gauge that
 * was left on is read the day after, by the calendar of the office; a pass ends what it answers.
 */
export async function afterSealing(tx: Transaction, actor: Actor, tests: readonly LoadedTest[], number: string): Promise<void> {
  const [{ zone }] = await tx.select({ zone: firm.zone }).from(firm);
  const today = (days = 0): string => dateText(now() + offsetOfZone(zone, now()) * 60_000 + days * 86_400_000);
  for (const one of tests) {
    const judgement = verdictOf(one);
    const verdict = judgement?.verdict ?? 'in progress';
    const practice = isPractice(one) ? ' (simulated: practice)' : '';
    const common = { siteId: one.site.id, systemId: one.system.id, testId: one.test.id, person: one.test.author };
    if (verdict === 'pass' || verdict === 'pass with permitted drop')
      await answered(tx, one, ['repair', 'retest'], `Passed: certificate ${number}`);
    if (verdict === 'restricted' || verdict === 'fail') {
      const by = judgement?.reasons.find(({ data }) => data.by !== undefined)?.data.by ?? today();
      await make(tx, actor, { ...common, kind: 'repair', due: by, what: `Certificate ${number}: ${verdict}${practice}` });
    }
    const guarded =
      one.attempts.at(-1)?.plan.guard !== undefined && one.attempts.some(({ events }) => events.some(({ type }) => type === 'guard'));
    if (!guarded) continue;
    // One gauge stays on a system: what the test before left there is not watched any more.
    await answered(tx, one, ['guard'], `A later test left its own gauge on: certificate ${number}`);
    await make(tx, actor, { ...common, kind: 'guard', due: today(1), what: practice.trim() });
  }
}

/** What its person is told of one that is due. */
export const reminderOf = ({ kind, system: of, site: at, due, what }: FollowUp): { readonly subject: string; readonly body: string } => ({
  subject: `${followUpWords[kind].title}: ${of}, ${at}`,
  body: [
    `${followUpWords[kind].title} ${followUpWords[kind].by} ${due}: ${of} at ${at}.`,
    ...(what === '' ? [] : [what]),
    '',
    `${setting('VAST_ADDRESS')}/today`,
  ].join('\n'),
});

/** Reminds by mail of what is due, each person once, and again after a week. Answers how many were reminded. */
export async function remindDue(): Promise<number> {
  const today = dateText(now());
  const { rows } = await withoutFirm((tx) =>
    tx.execute<{ firm_id: string; id: string }>(sql`select * from due_follow_ups(${today}::date, 50)`),
  );
  let reminded = 0;
  for (const { firm_id: firmId, id } of rows) {
    const [found] = await withFirm(firmId, (tx) => select(tx).where(eq(followUp.id, id)));
    const [address] =
      found === undefined
        ? []
        : await accounts().select({ email: user.email, putAwayAt: user.putAwayAt }).from(user).where(eq(user.id, found.person));
    await withFirm(firmId, async (tx) => {
      const taken = await tx
        .update(followUp)
        .set({ remindedOn: today })
        .where(and(eq(followUp.id, id), sql`${followUp.remindedOn} is distinct from ${today}::date`))
        .returning({ id: followUp.id });
      if (taken.length === 0 || found === undefined || address === undefined || address.putAwayAt !== null) return;
      await queueNotice(tx, firmId, address.email, { testId: found.testId, ...reminderOf(found) });
      reminded += 1;
    });
  }
  return reminded;
}

/** A follow-up as a page shows it. @param names of the firm's people by account id */
export const shownFollowUp =
  (names: ReadonlyMap<string, string>) =>
  ({ id, kind, system: of, site: at, due, person: who, what, tag, endedAt, endedBy, outcome }: FollowUp): ShownFollowUp => ({
    id,
    kind,
    system: of,
    site: at,
    due,
    who: who === '' ? '' : (names.get(who) ?? 'somebody who has left'),
    what,
    ...(tag === null ? {} : { tag: `${setting('VAST_ADDRESS')}/tag/${tag}` }),
    ...(endedAt === null ? {} : { ended: { at: endedAt.getTime(), by: endedBy, how: outcome } }),
  });
