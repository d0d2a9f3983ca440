import { randomBytes, randomUUID } from 'node:crypto';
import { desc, eq, sql } from 'drizzle-orm';
import { array, number, object, string } from 'yup';
import { canonical, sha256 } from '@/core/exact';
import { catalogueVersion, dateText } from '@/core/judging';
import { recordFormat, recordHash, recordVersion, type Signature, sealMessage, type TestRecord } from '@/core/record';
import { type Transaction, withFirm, withoutFirm } from '@/db/connection';
import { certificate, firm, signature } from '@/db/schema';
import { type Actor, may } from './actor';
import { type Answer, answer, forbidden, isUuid, notFound, refuse } from './answers';
import { now, nowDate } from './clock';
import { setting } from './environment';
import { checked } from './forms';
import { signing } from './keys';
import { checkDetails, type LoadedTest, loadTest, lockTest, verdictOf } from './tests';

/** What a signature binds: the judgements of all attempts. A later event changes them, and so voids it. */
export const judgementHash = (test: Pick<LoadedTest, 'attempts'>): string =>
  sha256(canonical(test.attempts.map(({ judgement }) => judgement)));

/** The record of a test as it stands, not yet numbered or sealed. */
function toRecord(test: LoadedTest, firmName: string): TestRecord {
  const hash = judgementHash(test);
  const signatures = test.signatures
    .filter((one) => one.judgementHash === hash)
    .map(
      (one): Signature => ({
        role: one.role,
        name: one.name,
        signedAt: one.signedAt.getTime(),
        strokes: one.strokes,
        judgementHash: one.judgementHash,
      }),
    );
  return {
    format: recordFormat,
    version: recordVersion,
    firm: { name: firmName },
    site: { name: test.site.name, address: test.site.address, occupier: test.site.occupier },
    tests: [
      {
        system: { name: test.system.name, kind: test.system.kind, components: test.system.components },
        details: { id: test.test.id, ...test.test.details, technician: test.test.technician },
        attempts: test.attempts.map(({ id, number: count, plan, events, judgement }) => ({
          run: id,
          number: count,
          plan,
          events,
          judgement,
        })),
      },
    ],
    photos: test.photos.map(({ hash: sent, storedHash, takenAt }) => ({ hash: sent, stored: storedHash, takenAt: takenAt.getTime() })),
    signatures: (['technician', 'customer'] as const).flatMap((role) => signatures.findLast((one) => one.role === role) ?? []),
  };
}

export interface Draft {
  readonly record: TestRecord;
  readonly test: LoadedTest;
  /** What stands between this test and its certificate; empty when it can be sealed. */
  readonly missing: readonly string[];
  /** Signatures that a later event voided. */
  readonly voided: readonly string[];
}

function toDraft(test: LoadedTest, firmName: string): Draft {
  const record = toRecord(test, firmName);
  const verdict = verdictOf(test)?.verdict ?? 'in progress';
  const signed = (role: Signature['role']) => record.signatures?.some((one) => one.role === role) === true;
  const missing = [
    ...(verdict === 'in progress' ? ['The test is still in progress: finish it, closing steps included.'] : []),
    ...(signed('technician') ? [] : ['The technician’s signature.']),
    ...(signed('customer') ? [] : ['The customer’s or a witness’s signature, or why there is none.']),
  ];
  const hash = judgementHash(test);
  return { record, test, missing, voided: test.signatures.filter((one) => one.judgementHash !== hash).map(({ name }) => name) };
}

async function firmName(tx: Transaction): Promise<string> {
  const [found] = await tx.select({ name: firm.name }).from(firm);
  return found?.name ?? '';
}

export async function readDraft(actor: Actor, testId: string): Promise<Answer<Draft>> {
  if (!isUuid(testId)) return notFound;
  return withFirm(actor.firmId, async (tx) => {
    const test = await loadTest(tx, testId);
    return test === undefined ? notFound : answer(toDraft(test, await firmName(tx)));
  });
}

const signatureForm = object({
  id: string()
    .required()
    .test('uuid', 'The signature has no id.', (text) => isUuid(text ?? '')),
  role: string()
    .oneOf(['technician', 'customer'] as const, 'Choose who signs.')
    .required('Choose who signs.'),
  name: string().trim().required('Write the name of the person who signs.').max(120, 'Keep the name under 120 characters.'),
  absent: string().trim().max(200, 'Keep the reason under 200 characters.').default(''),
  strokes: array(array(number().integer().min(-100_000).max(100_000).required()).max(20_000).required())
    .max(500)
    .default([]),
  judgementHash: string()
    .matches(/^[0-9a-f]{64}$/, 'The signature binds no judgement.')
    .required('The signature binds no judgement.'),
  signedAt: number().integer().positive().required(),
});

/** Keeps a signature. It binds the judgement that the signer saw; made offline, it may arrive later, and twice. */
export async function addSignature(actor: Actor, testId: string, form: unknown): Promise<Answer<'kept' | 'already there'>> {
  if (!may(actor.role, 'seal')) return forbidden('Your role cannot take signatures.');
  if (!isUuid(testId)) return notFound;
  const input = await checked(signatureForm, form);
  if (!input.ok) return input;
  const { role, absent, strokes } = input.value;
  if (strokes.flat().length < 8 && !(role === 'customer' && absent !== ''))
    return refuse(
      400,
      'signature-empty',
      role === 'customer' ? 'Sign in the field, or write why nobody could sign.' : 'Sign in the field.',
      'strokes',
    );
  return withFirm(actor.firmId, async (tx) => {
    const test = await loadTest(tx, testId);
    if (test === undefined) return notFound;
    if (test.signatures.some(({ id }) => id === input.value.id)) return answer('already there');
    if (test.certificates.length > 0) return refuse(409, 'already-sealed', 'This test is sealed. A correction is a new certificate.');
    const name = absent === '' ? input.value.name : `Not signed: ${absent}`;
    await tx.insert(signature).values({
      id: input.value.id,
      firmId: actor.firmId,
      testId,
      role,
      name,
      strokes: absent === '' ? strokes : [],
      judgementHash: input.value.judgementHash,
      signedAt: new Date(input.value.signedAt),
    });
    return answer('kept');
  });
}

export interface Sealed {
  readonly id: string;
  readonly number: string;
  readonly checkCode: string;
}

/** Seals a test: numbers it, links it to the firm's chain, signs it. Asked twice, the first seal stands. */
export async function sealTest(actor: Actor, testId: string): Promise<Answer<Sealed>> {
  if (!may(actor.role, 'seal')) return forbidden('Your role cannot seal certificates.');
  if (!isUuid(testId)) return notFound;
  return withFirm(actor.firmId, async (tx) => {
    await lockTest(tx, testId);
    const test = await loadTest(tx, testId);
    if (test === undefined) return notFound;
    const [first] = await tx
      .select({ id: certificate.id, number: certificate.number, checkCode: certificate.checkCode })
      .from(certificate)
      .where(eq(certificate.testId, testId))
      .orderBy(certificate.issuedAt);
    if (first !== undefined) return answer(first);
    const draft = toDraft(test, await firmName(tx));
    if (draft.missing.length > 0) return refuse(409, 'not-ready', `Not yet: ${draft.missing.join(' ')}`);
    return issue(tx, actor, draft.record, verdictOf(test)?.verdict ?? 'in progress', testId);
  });
}

/** A correction: a new certificate of the same test with corrected particulars, which names the old one and why. */
export async function correctCertificate(
  actor: Actor,
  certificateId: string,
  form: { readonly reason?: unknown; readonly details?: unknown },
): Promise<Answer<Sealed>> {
  if (!may(actor.role, 'correct')) return forbidden('Only a supervisor corrects a certificate.');
  if (!isUuid(certificateId)) return notFound;
  const reason = typeof form.reason === 'string' ? form.reason.trim() : '';
  if (reason.length < 5 || reason.length > 500) return refuse(400, 'form', 'Say in a few words what is corrected and why.', 'reason');
  const details = await checkDetails(form.details ?? {});
  if (!details.ok) return details;
  return withFirm(actor.firmId, async (tx) => {
    const [old] = await tx.select().from(certificate).where(eq(certificate.id, certificateId));
    if (old === undefined) return notFound;
    await lockTest(tx, old.testId);
    const [newer] = await tx.select({ number: certificate.number }).from(certificate).where(eq(certificate.corrects, certificateId));
    if (newer !== undefined)
      return refuse(409, 'already-corrected', `This certificate was already corrected by ${newer.number}; correct that one.`);
    const { seal: _, certificate: __, ...body } = JSON.parse(old.record) as TestRecord;
    const [first, ...others] = body.tests;
    if (first?.details === undefined) return notFound;
    const record: TestRecord = { ...body, tests: [{ ...first, details: { ...first.details, ...details.value } }, ...others] };
    return issue(tx, actor, record, old.verdict, old.testId, { id: old.id, number: old.number, reason });
  });
}

/** Locks the chain's head, numbers, hashes, signs and stores. */
async function issue(
  tx: Transaction,
  actor: Actor,
  body: TestRecord,
  verdict: string,
  testId: string,
  corrects?: { readonly id: string; readonly number: string; readonly reason: string },
): Promise<Answer<Sealed>> {
  const [head] = await tx.select().from(firm).where(eq(firm.id, actor.firmId)).for('update');
  const key = await signing(tx);
  if (head === undefined || key === undefined)
    return refuse(409, 'no-key', 'The firm has no sealing key yet. Ask whoever runs this installation (docs/operations.md).');
  const issuedAt = now();
  const count = head.lastCertificate + 1;
  const issuedOn = dateText(issuedAt);
  const checkCode = randomBytes(16).toString('hex');
  const numbered: TestRecord = {
    ...body,
    certificate: {
      number: `${issuedOn.slice(0, 4)}-${String(count).padStart(5, '0')}`,
      issuedAt,
      issuedOn,
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
  const id = randomUUID();
  const number_ = record.certificate?.number ?? '';
  await tx.insert(certificate).values({
    id,
    firmId: actor.firmId,
    testId,
    number: number_,
    checkCode,
    verdict,
    record: canonical(record),
    hash,
    previous: head.lastSeal,
    corrects: corrects?.id ?? null,
    issuedAt: nowDate(),
  });
  await tx.update(firm).set({ lastCertificate: count, lastSeal: hash }).where(eq(firm.id, actor.firmId));
  return answer({ id, number: number_, checkCode });
}

export type Certificate = typeof certificate.$inferSelect;

export const listCertificates = (actor: Actor) =>
  withFirm(actor.firmId, async (tx) => {
    const rows = await tx
      .select({
        id: certificate.id,
        testId: certificate.testId,
        number: certificate.number,
        verdict: certificate.verdict,
        issuedAt: certificate.issuedAt,
        corrects: certificate.corrects,
        site: sql<string>`${certificate.record}::jsonb -> 'site' ->> 'name'`,
        simulated: sql<boolean>`coalesce((${certificate.record}::jsonb -> 'attempts' -> -1 -> 'judgement' ->> 'simulated')::boolean, false)`,
        system: sql<string>`${certificate.record}::jsonb -> 'system' ->> 'name'`,
      })
      .from(certificate)
      .orderBy(desc(certificate.issuedAt), desc(certificate.number));
    return rows;
  });

export async function readCertificate(actor: Actor, id: string): Promise<Answer<Certificate & { readonly parsed: TestRecord }>> {
  if (!isUuid(id)) return notFound;
  return withFirm(actor.firmId, async (tx) => {
    const [found] = await tx.select().from(certificate).where(eq(certificate.id, id));
    return found === undefined ? notFound : answer({ ...found, parsed: JSON.parse(found.record) as TestRecord });
  });
}

export interface PublicFacts {
  readonly number: string;
  readonly verdict: string;
  readonly issuedAt: Date;
  readonly firmName: string;
  readonly hash: string;
  readonly correctedBy?: string;
  readonly revoked: boolean;
  /** Its readings came from a simulated gauge. */
  readonly simulated: boolean;
}

/** What anyone who holds the code may know; no account. */
export async function checkByCode(code: string): Promise<PublicFacts | undefined> {
  if (!/^[0-9a-f]{32}$/.test(code)) return undefined;
  return withoutFirm(async (tx) => {
    const { rows } = await tx.execute<{
      number: string;
      verdict: string;
      issued_at: string | Date;
      firm_name: string;
      hash: string;
      corrected_by: string | null;
      revoked: boolean;
      simulated: boolean;
    }>(sql`select * from check_certificate(${code})`);
    const [row] = rows;
    if (row === undefined) return undefined;
    return {
      number: row.number,
      verdict: row.verdict,
      issuedAt: new Date(row.issued_at),
      firmName: row.firm_name,
      hash: row.hash,
      revoked: row.revoked,
      simulated: row.simulated,
      ...(row.corrected_by === null ? {} : { correctedBy: row.corrected_by }),
    };
  });
}
