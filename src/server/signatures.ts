import { array, boolean, number, object, string } from 'yup';
import { canonical } from '@/core/exact';
import { signerRoles } from '@/core/record';
import { type Transaction, withFirm } from '@/db/connection';
import { signature } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { now } from './clock';
import { checked } from './forms';
import { loadTest } from './tests';

/* Signing: on the device that was there, on the certificate's page, and by the private link. */

const boundHash = string()
  .matches(/^[0-9a-f]{64}$/, 'The signature binds no judgement.')
  .required('The signature binds no judgement.');
const signatureId = string()
  .required()
  .test('uuid', 'The signature has no id.', (text) => isUuid(text ?? ''));

const signatureForm = object({
  id: signatureId,
  role: string().oneOf(signerRoles, 'Choose who signs.').required('Choose who signs.'),
  name: string().trim().required('Write the name of the person who signs.').max(120, 'Keep the name under 120 characters.'),
  absent: string().trim().max(200, 'Keep the reason under 200 characters.').default(''),
  refused: boolean().default(false),
  strokes: array(array(number().integer().min(-100_000).max(100_000).required()).max(20_000).required())
    .max(500)
    .default([]),
  judgementHash: boundHash,
  /** Other tests of the same paper that are signed for by the same hand. */
  also: array(object({ testId: string().required(), id: signatureId, judgementHash: boundHash }))
    .max(20)
    .default([]),
  signedAt: number()
    .integer()
    .required()
    .test(
      'time',
      'The signature’s time is no time between the test and now.',
      (at) => at !== undefined && at > 1_577_836_800_000 && at < now() + 86_400_000,
    ),
});

interface Signing {
  readonly id: string;
  readonly role: (typeof signerRoles)[number];
  readonly name: string;
  readonly absent: string;
  readonly refused: boolean;
  readonly remote: boolean;
  readonly strokes: readonly (readonly number[])[];
  readonly judgementHash: string;
  readonly signedAt: number;
}

/** Keeps a signature, or those of several tests that one hand signs for. It binds the judgement that the signer saw; made offline, it may arrive later, and twice. */
export async function addSignature(actor: Actor, testId: string, form: unknown): Promise<Answer<'kept' | 'already there'>> {
  const refused = refusedTo(actor, 'seal');
  if (refused !== undefined) return refused;
  const input = await checked(signatureForm, form);
  if (!input.ok) return input;
  const { role, absent, strokes, also } = input.value;
  if (![testId, ...also.map((one) => one.testId)].every(isUuid)) return notFound;
  if (role === 'supervisor' && actor.role !== 'supervisor')
    return refuse(403, 'not-supervisor', 'Only a supervisor countersigns, signed in as themselves.');
  const empty = emptySignature(role, absent, strokes);
  if (empty !== undefined) return empty;
  return withFirm(actor.firmId, async (tx) => {
    const all = [{ testId, id: input.value.id, judgementHash: input.value.judgementHash }, ...also];
    const kept: Answer<'kept' | 'already there'>[] = [];
    for (const one of all) {
      const result = await keepSignature(tx, actor.firmId, one.testId, { ...input.value, ...one, remote: false }, actor.userId);
      if (!result.ok) return result;
      kept.push(result);
    }
    return kept.some((one) => one.ok && one.value === 'kept') ? answer('kept') : answer('already there');
  });
}

/** What is no signature, and no reason for there being none. */
export function emptySignature(role: Signing['role'], absent: string, strokes: Signing['strokes']) {
  if (strokes.flat().length >= 8 || (role === 'customer' && absent !== '')) return undefined;
  return refuse(
    400,
    'signature-empty',
    role === 'customer' ? 'Sign in the field, or write why nobody could sign.' : 'Sign in the field.',
    'strokes',
  );
}

/** Keeps one signature of one test. @param by account of whoever is signed in, none by the private link */
export async function keepSignature(
  tx: Transaction,
  firmId: string,
  testId: string,
  signing: Signing,
  by: string | undefined,
): Promise<Answer<'kept' | 'already there'>> {
  const { id, role, name, absent, refused, remote, strokes, judgementHash, signedAt } = signing;
  const test = await loadTest(tx, testId);
  if (test === undefined) return notFound;
  if (role === 'supervisor' && by === test.test.author)
    return refuse(409, 'own-test', 'Whoever made the test does not countersign it. Ask another supervisor.');
  const isAbsent = absent !== '';
  const there = test.signatures.find((one) => one.id === id);
  if (there !== undefined)
    return there.judgementHash === judgementHash && there.role === role && canonical(there.strokes) === canonical(isAbsent ? [] : strokes)
      ? answer('already there')
      : refuse(409, 'signature-differs', 'A signature with this id is there already and is another. Sign again.');
  if (test.certificates.length > 0) return refuse(409, 'already-sealed', 'This test is sealed. A correction is a new certificate.');
  const kept = await tx
    .insert(signature)
    .values({
      id,
      firmId,
      testId,
      role,
      name,
      absent: isAbsent ? absent : null,
      refused: isAbsent && refused,
      remote,
      strokes: isAbsent ? [] : strokes,
      judgementHash,
      signedAt: new Date(signedAt),
    })
    .onConflictDoNothing()
    .returning({ id: signature.id });
  return kept.length > 0 ? answer('kept') : refuse(409, 'signature-differs', 'A signature with this id is there already. Sign again.');
}
