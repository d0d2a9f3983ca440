import { randomBytes, randomUUID } from 'node:crypto';
import { desc, eq, sql } from 'drizzle-orm';
import { array, number, object, string } from 'yup';
import { canonical, sha256 } from '@/core/exact';
import { catalogueVersion, dateText } from '@/core/judging';
import {
  attemptsOf,
  checkSeal,
  fingerprint,
  recordFormat,
  recordHash,
  recordVersion,
  type Signature,
  sealMessage,
  type TestRecord,
} from '@/core/record';
import { type Transaction, withFirm, withoutFirm } from '@/db/connection';
import { certificate, firm, signature } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { now, nowDate } from './clock';
import { setting } from './environment';
import { checked } from './forms';
import { signing, verifySignature } from './keys';
import { counted } from './metrics';
import { readRecord } from './reader';
import { lookAgain } from './register';
import { stand } from './standing';
import { checkDetails, type LoadedTest, loadTest, lockTest, verdictOf } from './tests';

/** What a signature binds: the judgements of all attempts. A later event changes them, and so voids it. */
export const judgementHash = (test: Pick<LoadedTest, 'attempts'>): string =>
  sha256(canonical(test.attempts.map(({ judgement }) => judgement)));

/** Photographs that events name, by run and hash. */
const namedPhotos = ({ attempts }: Pick<LoadedTest, 'attempts'>) =>
  attempts.flatMap(({ id, events }) =>
    [...new Map(events.filter((one) => one.type === 'photo').map((one) => [one.hash, one] as const)).values()].map(({ hash, takenAt }) => ({
      run: id,
      hash,
      takenAt,
    })),
  );

/** The record of a test as it stands, not yet numbered or sealed. */
function toRecord(test: LoadedTest, firmName: string): TestRecord {
  const hash = judgementHash(test);
  const signatures = test.signatures
    .filter((one) => one.judgementHash === hash)
    .map(
      (one): Signature => ({
        role: one.role,
        name: one.name,
        ...(one.absent === null ? {} : { absent: one.absent }),
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
        system: { name: test.system.name, kind: test.system.kind, components: test.components },
        details: { id: test.test.id, ...test.test.details, technician: test.test.author },
        attempts: test.attempts.map(({ id, number: count, plan, events, judgement }) => ({
          run: id,
          number: count,
          plan,
          events,
          judgement,
        })),
      },
    ],
    people: test.people,
    photos: namedPhotos(test).map((one) => {
      const kept = test.photos.find(({ runId, hash: sent }) => runId === one.run && sent === one.hash);
      return kept === undefined ? one : { ...one, stored: kept.storedHash };
    }),
    signatures: (['technician', 'customer'] as const).flatMap((role) => signatures.findLast((one) => one.role === role) ?? []),
  };
}

export interface Draft {
  readonly record: TestRecord;
  readonly test: LoadedTest;
  /** What stands between this test and its certificate; empty when it can be sealed. */
  readonly missing: readonly string[];
  /** Photographs that are named and have not come; it is sealed without them only where that is asked for, and says so. */
  readonly photosOnTheWay: number;
  /** Signatures that a later event voided. */
  readonly voided: readonly string[];
}

/** The photographs that are here, each with what it is evidence of. */
export const photographsIn = ({ attempts, photos }: LoadedTest): readonly { readonly hash: string; readonly label: string }[] =>
  attempts.flatMap(({ id, number, plan, events }) =>
    events.flatMap((event) => {
      if (event.type !== 'photo' || !photos.some(({ runId, hash }) => runId === id && hash === event.hash)) return [];
      const label = plan.evidence?.find((one) => one.id === event.slot)?.label ?? 'Photograph';
      return [{ hash: event.hash, label: attempts.length > 1 ? `${label}, attempt ${number}` : label }];
    }),
  );

/** Whether the last attempt was to go on in another one, and never did. */
const leftOpen = ({ attempts }: LoadedTest): boolean =>
  attempts.at(-1)?.judgement?.reasons.some(({ code }) => code === 'continued') === true;

function toDraft(test: LoadedTest, firmName: string): Draft {
  const record = toRecord(test, firmName);
  const verdict = verdictOf(test)?.verdict ?? 'in progress';
  const signed = (role: Signature['role']) => record.signatures?.some((one) => one.role === role) === true;
  const [unread] = test.unread;
  const missing = [
    ...(unread === undefined
      ? []
      : [`Attempt ${unread.number} cannot be read here, so it proves nothing and cannot be printed: ${unread.why}`]),
    ...(verdict === 'in progress' ? ['The test is still in progress: finish it, closing steps included.'] : []),
    ...(leftOpen(test) ? ['The last attempt left its closing steps to another that was not made: finish them there.'] : []),
    ...(signed('technician') ? [] : ['The technician’s signature.']),
    ...(signed('customer') ? [] : ['The customer’s or a witness’s signature, or why there is none.']),
  ];
  const hash = judgementHash(test);
  return {
    record,
    test,
    missing,
    photosOnTheWay: (record.photos ?? []).filter(({ stored }) => stored === undefined).length,
    voided: test.signatures.filter((one) => one.judgementHash !== hash).map(({ name, absent }) => absent ?? name),
  };
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
  signedAt: number()
    .integer()
    .required()
    .test(
      'time',
      'The signature’s time is no time between the test and now.',
      (at) => at !== undefined && at > 1_577_836_800_000 && at < now() + 86_400_000,
    ),
});

/** Keeps a signature. It binds the judgement that the signer saw; made offline, it may arrive later, and twice. */
export async function addSignature(actor: Actor, testId: string, form: unknown): Promise<Answer<'kept' | 'already there'>> {
  const refused = refusedTo(actor, 'seal');
  if (refused !== undefined) return refused;
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
    const there = test.signatures.find(({ id }) => id === input.value.id);
    if (there !== undefined)
      return there.judgementHash === input.value.judgementHash &&
        there.role === role &&
        canonical(there.strokes) === canonical(absent === '' ? strokes : [])
        ? answer('already there')
        : refuse(409, 'signature-differs', 'A signature with this id is there already and is another. Sign again.');
    if (test.certificates.length > 0) return refuse(409, 'already-sealed', 'This test is sealed. A correction is a new certificate.');
    const kept = await tx
      .insert(signature)
      .values({
        id: input.value.id,
        firmId: actor.firmId,
        testId,
        role,
        name: input.value.name,
        absent: absent === '' ? null : absent,
        strokes: absent === '' ? strokes : [],
        judgementHash: input.value.judgementHash,
        signedAt: new Date(input.value.signedAt),
      })
      .onConflictDoNothing()
      .returning({ id: signature.id });
    return kept.length > 0 ? answer('kept') : refuse(409, 'signature-differs', 'A signature with this id is there already. Sign again.');
  });
}

export interface Sealed {
  readonly id: string;
  readonly number: string;
  readonly checkCode: string;
}

/** Seals a test: numbers it, links it to the firm's chain, signs it. Asked twice, the first seal stands. */
export async function sealTest(actor: Actor, testId: string, form: { readonly withoutPhotos?: unknown } = {}): Promise<Answer<Sealed>> {
  const refused = refusedTo(actor, 'seal');
  if (refused !== undefined) return refused;
  if (!isUuid(testId)) return notFound;
  return withFirm(actor.firmId, async (tx) => {
    await lockTest(tx, testId);
    const before = await loadTest(tx, testId);
    if (before === undefined) return notFound;
    const [first] = await tx
      .select({ id: certificate.id, number: certificate.number, checkCode: certificate.checkCode })
      .from(certificate)
      .where(eq(certificate.testId, testId))
      .orderBy(certificate.issuedAt);
    if (first !== undefined) return answer(first);
    // The register may have learnt something since it was planned.
    for (const { id, plan } of before.attempts) await lookAgain(tx, id, plan);
    const test = (await loadTest(tx, testId)) ?? before;
    const draft = toDraft(test, await firmName(tx));
    if (draft.missing.length > 0) return refuse(409, 'not-ready', `Not yet: ${draft.missing.join(' ')}`);
    if (draft.photosOnTheWay > 0 && form.withoutPhotos !== true)
      return refuse(
        409,
        'photos-on-the-way',
        `${draft.photosOnTheWay === 1 ? 'A photograph is' : `${draft.photosOnTheWay} photographs are`} named and not here yet. Wait for the device to send, or seal without: the certificate then says so.`,
      );
    return issue(tx, actor, draft.record, verdictOf(test)?.verdict ?? 'in progress', testId);
  });
}

/** A correction: a new certificate of the same test with corrected particulars, which names the old one and why. */
export async function correctCertificate(
  actor: Actor,
  certificateId: string,
  form: { readonly reason?: unknown; readonly details?: unknown },
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
    await lockTest(tx, old.testId);
    const [newer] = await tx.select({ number: certificate.number }).from(certificate).where(eq(certificate.corrects, certificateId));
    if (newer !== undefined)
      return refuse(409, 'already-corrected', `This certificate was already corrected by ${newer.number}; correct that one.`);
    const { seal: _, certificate: __, ...body } = JSON.parse(old.record) as TestRecord;
    const [first, ...others] = body.tests;
    if (first?.details === undefined) return notFound;
    const record: TestRecord = { ...body, tests: [{ ...first, details: { ...first.details, ...corrected } }, ...others] };
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
    return refuse(409, 'no-key', 'The firm has no sealing key that can be used. Ask whoever runs this installation (docs/operations.md).');
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
    testId,
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
  await stand(tx, testId);
  counted('seals');
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
        site: certificate.site,
        simulated: certificate.simulated,
        system: certificate.system,
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
