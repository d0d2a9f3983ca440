import { randomUUID } from 'node:crypto';
import { desc, eq } from 'drizzle-orm';
import { array, object, string } from 'yup';
import type { TestVerdict } from '@/core/course';
import { attemptsOf, meaningOf, type TestRecord, verdictWords } from '@/core/record';
import { type Transaction, whenCommitted, withFirm } from '@/db/connection';
import { certificate, certificateTest, firm, message, withdrawal } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { nowDate } from './clock';
import { checked } from './forms';
import { wakeMail } from './mail-wake';

/* Mail that leaves the firm: written here, sent by `mail-worker.ts`, and on record with what became of it. */

export const mailAddress = /^[^\s@<>",;]+@[^\s@<>",;]+\.[^\s@<>",;]+$/;

const sendForm = object({
  to: array(string().required())
    .min(1, 'Write at least one address.')
    .max(10, 'At most ten addresses at a time.')
    .required('Write at least one address.')
    .test('address', 'One of these is no mail address: it looks like name@place.example.', (all) =>
      (all ?? []).every((one) => mailAddress.test(one)),
    ),
  note: string().trim().max(1000, 'Keep the note under 1000 characters.').default(''),
});

/** What the mail of a paper says; the paper itself goes with it. */
export function paperMail(
  { site, tests, certificate: own, firm: from }: TestRecord,
  verdict: TestVerdict,
  note: string,
  answers: string,
): { readonly subject: string; readonly body: string } {
  const systems = tests.map(({ system }) => system?.name ?? 'a system').join(', ');
  const last = tests.length === 1 ? tests[0].attempts.at(-1) : undefined;
  const simulated = attemptsOf({ tests }).some(({ judgement }) => judgement?.simulated === true);
  return {
    subject: `${tests.length > 1 ? 'Report of a visit' : 'Certificate'} ${own?.number ?? ''}: ${systems}`,
    body: [
      ...(note === '' ? [] : [note, '']),
      `${systems}${site === undefined ? '' : ` at ${site.name}, ${site.address}`}.`,
      `${verdictWords[verdict].title}. ${last === undefined ? 'Each test has its own judgement: read the paper that is attached.' : meaningOf(last.plan, verdict)}`,
      ...(simulated
        ? ['SIMULATED: readings came from a simulated gauge. This is practice and proves nothing about a real installation.']
        : []),
      '',
      'The paper is attached. Anyone can check that it is genuine, without an account:',
      own?.checkAddress ?? '',
      '',
      from?.name ?? '',
      ...(answers === '' ? [] : [`Answers to ${answers}`]),
    ].join('\n'),
  };
}

async function queue(
  tx: Transaction,
  actor: Pick<Actor, 'firmId' | 'userId'>,
  to: readonly string[],
  what: Pick<typeof message.$inferInsert, 'kind' | 'subject' | 'body' | 'certificateId' | 'testId'>,
): Promise<readonly string[]> {
  const rows = to.map((recipient) => ({
    ...what,
    id: randomUUID(),
    firmId: actor.firmId,
    recipient,
    author: actor.userId,
    createdAt: nowDate(),
    nextAt: nowDate(),
  }));
  await tx.insert(message).values(rows);
  whenCommitted(tx, wakeMail);
  return rows.map(({ id }) => id);
}

/** Why a paper is to be sent to nobody any more: it was withdrawn, or another stands in its place. */
export async function noLongerGood(tx: Transaction, certificateId: string): Promise<string | undefined> {
  const [gone] = await tx.select({ reason: withdrawal.reason }).from(withdrawal).where(eq(withdrawal.certificateId, certificateId));
  if (gone !== undefined) return `This paper was withdrawn (${gone.reason}), so it is sent to nobody.`;
  const [newer] = await tx.select({ number: certificate.number }).from(certificate).where(eq(certificate.corrects, certificateId));
  return newer === undefined ? undefined : `${newer.number} stands in the place of this paper: send that one.`;
}

/** Puts a sealed paper into the outbox, once for each address; an address that is named twice gets one. */
export async function sendPaper(actor: Actor, certificateId: string, form: unknown): Promise<Answer<{ readonly ids: readonly string[] }>> {
  const refused = refusedTo(actor, 'send');
  if (refused !== undefined) return refused;
  if (!isUuid(certificateId)) return notFound;
  const input = await checked(sendForm, form);
  if (!input.ok) return input;
  return withFirm(actor.firmId, async (tx) => {
    const [found] = await tx.select().from(certificate).where(eq(certificate.id, certificateId));
    if (found === undefined) return notFound;
    const gone = await noLongerGood(tx, certificateId);
    if (gone !== undefined) return refuse(409, 'no-longer-good', gone);
    const [own] = await tx.select({ mail: firm.mail }).from(firm);
    const [of] = await tx
      .select({ testId: certificateTest.testId })
      .from(certificateTest)
      .where(eq(certificateTest.certificateId, certificateId))
      .orderBy(certificateTest.place);
    const to = [...new Map(input.value.to.map((one) => [one.toLowerCase(), one])).values()];
    const words = paperMail(JSON.parse(found.record) as TestRecord, found.verdict as TestVerdict, input.value.note, own?.mail ?? '');
    return answer({ ids: await queue(tx, actor, to, { kind: 'paper', certificateId, testId: of?.testId, ...words }) });
  });
}

export type Message = Pick<
  typeof message.$inferSelect,
  'id' | 'kind' | 'recipient' | 'subject' | 'state' | 'tries' | 'said' | 'createdAt' | 'nextAt' | 'settledAt' | 'certificateId' | 'testId'
>;

const columns = {
  id: message.id,
  kind: message.kind,
  recipient: message.recipient,
  subject: message.subject,
  state: message.state,
  tries: message.tries,
  said: message.said,
  createdAt: message.createdAt,
  nextAt: message.nextAt,
  settledAt: message.settledAt,
  certificateId: message.certificateId,
  testId: message.testId,
};

/** Puts a notice into the outbox that the program itself writes. */
export const queueNotice = (
  tx: Transaction,
  firmId: string,
  to: string,
  words: { readonly subject: string; readonly body: string; readonly testId: string | null },
): Promise<readonly string[]> => queue(tx, { firmId, userId: 'the program' }, [to], { kind: 'notice', ...words });

/** A message as a page shows it. */
export const shownMessage = ({ createdAt, nextAt, settledAt, ...rest }: Message) => ({
  ...rest,
  createdAt: createdAt.getTime(),
  nextAt: nextAt.getTime(),
  ...(settledAt === null ? {} : { settledAt: settledAt.getTime() }),
});

/** What went to whom of a paper, the newest first. */
export const messagesOf = (actor: Actor, certificateId: string): Promise<readonly Message[]> =>
  withFirm(actor.firmId, (tx) =>
    tx.select(columns).from(message).where(eq(message.certificateId, certificateId)).orderBy(desc(message.createdAt)).limit(50),
  );

/** Everything that went out, the newest first; at most 200. */
export const listMessages = (actor: Actor): Promise<readonly Message[]> =>
  withFirm(actor.firmId, (tx) => tx.select(columns).from(message).orderBy(desc(message.createdAt)).limit(200));

/** Tries once more what was refused, came back, or was given up; what waits is tried at once. */
export async function retryMessage(actor: Actor, id: string): Promise<Answer<'waiting'>> {
  const refused = refusedTo(actor, 'send');
  if (refused !== undefined) return refused;
  if (!isUuid(id)) return notFound;
  return withFirm(actor.firmId, async (tx) => {
    const [found] = await tx.select({ state: message.state }).from(message).where(eq(message.id, id)).for('update');
    if (found === undefined) return notFound;
    if (found.state === 'sent' || found.state === 'delivered')
      return refuse(409, 'was-sent', 'This was sent. To send it again, send the paper anew.');
    await tx.update(message).set({ state: 'waiting', tries: 0, nextAt: nowDate(), settledAt: null }).where(eq(message.id, id));
    whenCommitted(tx, wakeMail);
    return answer('waiting');
  });
}
