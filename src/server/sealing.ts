import { randomBytes, randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { canonical } from '@/core/exact';
import { catalogueVersion, dateText } from '@/core/judging';
import { layoutVersion } from '@/core/papers';
import { attemptsOf, checkSeal, fingerprint, recordHash, sealMessage, type TestRecord, verdictOver } from '@/core/record';
import { type Transaction, withFirm } from '@/db/connection';
import { certificate, certificateTest, firm, withdrawal } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { now, nowDate } from './clock';
import { recordedFirm, testsOfPaper, toDraft } from './drafts';
import { setting } from './environment';
import { afterSealing } from './follow-ups';
import { signing, verifySignature } from './keys';
import { counted } from './metrics';
import { readRecord } from './reader';
import { lookAgain } from './register';
import { stand } from './standing';
import { checkDetails, type LoadedTest, lockTest, verdictOf } from './tests';
import { offsetOfZone } from './zones';

/* Sealing a paper: it is numbered, linked to the firm's chain and signed, and never changes again. */

export interface Sealed {
  readonly id: string;
  readonly number: string;
  readonly checkCode: string;
}

/**
 * Seals a paper of one test or several: numbers it, links it to the firm's chain, signs it. Asked twice, the first seal stands; of
 * tests of which another paper is already none is made.
 */
export async function sealTest(
  actor: Actor,
  testId: string,
  form: { readonly withoutPhotos?: unknown; readonly also?: unknown } = {},
): Promise<Answer<Sealed>> {
  const refused = refusedTo(actor, 'seal');
  if (refused !== undefined) return refused;
  const also = Array.isArray(form.also) ? form.also.filter((one): one is string => typeof one === 'string') : [];
  const ids = [...new Set([testId, ...also])];
  if (!ids.every(isUuid)) return notFound;
  return withFirm(actor.firmId, async (tx) => {
    // Always in the same order: two who seal at once wait for each other and never for ever.
    for (const id of [...ids].sort()) await lockTest(tx, id);
    const before = await testsOfPaper(tx, testId, also);
    if (!before.ok) return before;
    const sealed = before.value.filter(({ certificates }) => certificates.length > 0);
    if (sealed.length > 0) {
      const first = await paperOfAll(tx, ids);
      if (first !== undefined) return answer(first);
      return refuse(
        409,
        'already-sealed',
        `${sealed.map(({ system }) => system.name).join(' and ')}: sealed already, as ${sealed.map(({ certificates }) => certificates[0].number).join(' and ')}. Make this paper of the others.`,
      );
    }
    // The register may have learnt something since it was planned.
    for (const one of before.value) for (const { id, plan } of one.attempts) await lookAgain(tx, id, plan);
    const tests = await testsOfPaper(tx, testId, also);
    if (!tests.ok) return tests;
    const draft = toDraft(tests.value, await recordedFirm(tx));
    if (draft.missing.length > 0) return refuse(409, 'not-ready', `Not yet: ${draft.missing.join(' ')}`);
    if (draft.photosOnTheWay > 0 && form.withoutPhotos !== true)
      return refuse(
        409,
        'photos-on-the-way',
        `${draft.photosOnTheWay === 1 ? 'A photograph is' : `${draft.photosOnTheWay} photographs are`} named and not here yet. Wait for the device to send, or seal without: the certificate then says so.`,
      );
    const verdict = verdictOver(tests.value.map((one) => verdictOf(one)?.verdict ?? 'in progress'));
    return issue(tx, actor, draft.record, verdict, ids, undefined, tests.value);
  });
}

/** Withdraws a paper: it stays as it is and on file, and whoever checks it is told why it is to be relied on no more. */
export async function withdrawCertificate(
  actor: Actor,
  certificateId: string,
  form: { readonly reason?: unknown },
): Promise<Answer<'withdrawn'>> {
  const refused = refusedTo(actor, 'correct');
  if (refused !== undefined) return refused;
  if (!isUuid(certificateId)) return notFound;
  const reason = typeof form.reason === 'string' ? form.reason.trim() : '';
  if (reason.length < 5 || reason.length > 500) return refuse(400, 'form', 'Say in a few words why nobody is to rely on it.', 'reason');
  return withFirm(actor.firmId, async (tx) => {
    const [found] = await tx.select({ id: certificate.id }).from(certificate).where(eq(certificate.id, certificateId));
    if (found === undefined) return notFound;
    const made = await tx
      .insert(withdrawal)
      .values({ certificateId, firmId: actor.firmId, reason, author: actor.userId, at: nowDate() })
      .onConflictDoNothing()
      .returning({ id: withdrawal.certificateId });
    return made.length === 0 ? refuse(409, 'already-withdrawn', 'This paper was withdrawn already.') : answer('withdrawn');
  });
}

/** The first paper that is of exactly these tests. */
async function paperOfAll(tx: Transaction, ids: readonly string[]): Promise<Sealed | undefined> {
  const rows = await tx
    .select({ id: certificate.id, number: certificate.number, checkCode: certificate.checkCode, testId: certificateTest.testId })
    .from(certificateTest)
    .innerJoin(certificate, eq(certificate.id, certificateTest.certificateId))
    .where(eq(certificateTest.testId, ids[0]))
    .orderBy(certificate.issuedAt);
  for (const { id, number, checkCode } of rows) {
    const of = await tx.select({ testId: certificateTest.testId }).from(certificateTest).where(eq(certificateTest.certificateId, id));
    if (of.length === ids.length && of.every(({ testId }) => ids.includes(testId))) return { id, number, checkCode };
  }
  return undefined;
}

/**
 * A correction: a new certificate of the same tests with corrected particulars, which names the old one and why.
 * @param form `place`: of which of several tests, from 1
 */
export async function correctCertificate(
  actor: Actor,
  certificateId: string,
  form: { readonly reason?: unknown; readonly details?: unknown; readonly place?: unknown },
): Promise<Answer<Sealed>> {
  const refused = refusedTo(actor, 'correct');
  if (refused !== undefined) return refused;
  if (!isUuid(certificateId)) return notFound;
  const reason = typeof form.reason === 'string' ? form.reason.trim() : '';
  if (reason.length < 5 || reason.length > 500) return refuse(400, 'form', 'Say in a few words what is corrected and why.', 'reason');
  const details = await checkDetails(form.details ?? {});
  if (!details.ok) return details;
  // Only what it names is corrected; whatever it leaves out stays.
  const named = typeof form.details === 'object' && form.details !== null ? Object.keys(form.details) : [];
  const corrected = Object.fromEntries(Object.entries(details.value).filter(([key]) => named.includes(key)));
  return withFirm(actor.firmId, async (tx) => {
    const [old] = await tx.select().from(certificate).where(eq(certificate.id, certificateId));
    if (old === undefined) return notFound;
    const of = await tx
      .select({ testId: certificateTest.testId })
      .from(certificateTest)
      .where(eq(certificateTest.certificateId, certificateId))
      .orderBy(certificateTest.place);
    const ids = of.map(({ testId }) => testId);
    for (const id of [...ids].sort()) await lockTest(tx, id);
    const [newer] = await tx.select({ number: certificate.number }).from(certificate).where(eq(certificate.corrects, certificateId));
    if (newer !== undefined)
      return refuse(409, 'already-corrected', `This certificate was already corrected by ${newer.number}; correct that one.`);
    const { seal: _, certificate: __, ...body } = JSON.parse(old.record) as TestRecord;
    const place = form.place === undefined ? 1 : Number(form.place);
    const before = body.tests[place - 1]?.details;
    if (before === undefined) return refuse(400, 'form', 'Choose the test whose particulars are corrected.', 'place');
    const tests = body.tests.map((one, index) => (index === place - 1 ? { ...one, details: { ...before, ...corrected } } : one));
    const record: TestRecord = { ...body, tests };
    return issue(tx, actor, record, old.verdict, ids, { id: old.id, number: old.number, reason });
  });
}

/** Locks the chain's head, numbers, hashes, signs and stores. */
async function issue(
  tx: Transaction,
  actor: Actor,
  body: TestRecord,
  verdict: string,
  testIds: readonly string[],
  corrects?: { readonly id: string; readonly number: string; readonly reason: string },
  /** As they were sealed, for what follows of them; a correction leads to nothing new. */
  tests?: readonly LoadedTest[],
): Promise<Answer<Sealed>> {
  const [head] = await tx.select().from(firm).where(eq(firm.id, actor.firmId)).for('update');
  const key = await signing(tx);
  if (head === undefined || key === undefined)
    return refuse(409, 'no-key', 'The firm has no sealing key that can be used. Ask whoever runs this installation (docs/operations.md).');
  const issuedAt = now();
  const count = head.lastCertificate + 1;
  const offsetMinutes = offsetOfZone(head.zone, issuedAt);
  const issuedOn = dateText(issuedAt + offsetMinutes * 60_000);
  const checkCode = randomBytes(16).toString('hex');
  const numbered: TestRecord = {
    ...body,
    certificate: {
      number: `${issuedOn.slice(0, 4)}-${String(count).padStart(5, '0')}`,
      issuedAt,
      issuedOn,
      offsetMinutes,
      layout: layoutVersion,
      checkCode,
      checkAddress: `${setting('VAST_ADDRESS')}/check/${checkCode}`,
      catalogue: catalogueVersion,
      ...(corrects === undefined ? {} : { corrects: { number: corrects.number, reason: corrects.reason } }),
    },
  };
  const hash = recordHash(numbered);
  const chained = { hash, keyId: key.keyId, previous: head.lastSeal, sealedAt: issuedAt };
  const record: TestRecord = {
    ...numbered,
    seal: { algorithm: 'ed25519', publicKey: key.publicKey, signature: key.sign(sealMessage(chained)), ...chained },
  };
  const text = canonical(record);
  // What every reader will do with it is done before it leaves: nothing is sealed that a checker refuses.
  const read = readRecord(text);
  if (!read.ok) return refuse(409, 'not-readable', `This cannot be sealed, for no reader would take it: ${read.problem.message}`);
  const attempts = attemptsOf(read.value);
  if (checkSeal(read.value, [{ fingerprint: fingerprint(key.publicKey), revoked: false }], verifySignature) !== 'genuine')
    return refuse(409, 'not-readable', 'This cannot be sealed: read again, its seal does not hold. Tell whoever runs this installation.');
  const id = randomUUID();
  const number_ = record.certificate?.number ?? '';
  await tx.insert(certificate).values({
    id,
    firmId: actor.firmId,
    number: number_,
    checkCode,
    verdict,
    record: text,
    hash,
    previous: head.lastSeal,
    corrects: corrects?.id ?? null,
    site: record.site?.name ?? '',
    system: record.tests.map(({ system }) => system?.name ?? '').join(', '),
    simulated: attempts.some(({ judgement }) => judgement?.simulated === true),
    keyId: key.keyId,
    issuedAt: nowDate(),
  });
  await tx.update(firm).set({ lastCertificate: count, lastSeal: hash }).where(eq(firm.id, actor.firmId));
  await tx
    .insert(certificateTest)
    .values(testIds.map((testId, index) => ({ firmId: actor.firmId, certificateId: id, testId, place: index + 1 })));
  for (const testId of testIds) await stand(tx, testId);
  if (tests !== undefined) await afterSealing(tx, actor, tests, number_);
  counted('seals');
  return answer({ id, number: number_, checkCode });
}
