import { randomUUID } from 'node:crypto';
import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import { array, boolean, number, object, string } from 'yup';
import type { TestRecord } from '@/core/record';
import { type Transaction, withFirm, withoutFirm } from '@/db/connection';
import { signLink } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, notFound, refuse } from './answers';
import { now, nowDate } from './clock';
import { judgementHash, recordedFirm, testsOfPaper, toDraft } from './drafts';
import { setting } from './environment';
import { checked } from './forms';
import { emptySignature, keepSignature } from './signatures';
import { newToken, tokenHash } from './tokens';

/* A private link: the customer or a witness reads the paper on a device of their own, and signs it there, once. */

/** A week: whoever has not signed by then is asked anew. */
const livesMs = 7 * 86_400_000;

const linkForm = object({
  name: string().trim().required('Write who is to sign.').max(120, 'Keep the name under 120 characters.'),
  also: array(string().required()).max(20).default([]),
});

export interface MadeLink {
  readonly address: string;
  readonly expiresAt: number;
}

/** Makes a link to sign by. Its address is told once, here; what is kept of it is only a hash. */
export async function makeSignLink(actor: Actor, testId: string, form: unknown): Promise<Answer<MadeLink>> {
  const refused = refusedTo(actor, 'seal');
  if (refused !== undefined) return refused;
  const input = await checked(linkForm, form);
  if (!input.ok) return input;
  const { name, also } = input.value;
  return withFirm(actor.firmId, async (tx) => {
    const tests = await testsOfPaper(tx, testId, also);
    if (!tests.ok) return tests;
    const draft = toDraft(tests.value, await recordedFirm(tx));
    if (tests.value.some(({ certificates }) => certificates.length > 0))
      return refuse(409, 'already-sealed', 'This is sealed: nobody can sign it any more. A correction is a new certificate.');
    if (draft.missing.some((line) => line.includes('still in progress')))
      return refuse(409, 'not-finished', 'Finish the test first: what is signed is its verdict.');
    const token = newToken();
    const expiresAt = now() + livesMs;
    await tx.insert(signLink).values({
      id: randomUUID(),
      firmId: actor.firmId,
      tokenHash: tokenHash(token),
      tests: tests.value.map((one) => ({ id: one.test.id, judgementHash: judgementHash(one) })),
      name,
      madeBy: actor.userId,
      madeAt: nowDate(),
      expiresAt: new Date(expiresAt),
    });
    return answer({ address: `${setting('VAST_ADDRESS')}/sign/${token}`, expiresAt });
  });
}

/** Links of a test that nobody has used yet. */
export const openLinks = (actor: Actor, testId: string) =>
  withFirm(actor.firmId, async (tx) => {
    const rows = await tx.select().from(signLink).where(isNull(signLink.usedAt)).orderBy(desc(signLink.madeAt)).limit(50);
    return rows
      .filter(({ tests, expiresAt }) => tests.some(({ id }) => id === testId) && expiresAt.getTime() > now())
      .map(({ id, name, expiresAt }) => ({ id, name, expiresAt: expiresAt.getTime() }));
  });

type Link = typeof signLink.$inferSelect;

/** Does something with the link of a token, where there is one. */
async function withLink<T>(token: string, work: (tx: Transaction, link: Link) => Promise<Answer<T>>): Promise<Answer<T>> {
  if (!/^[A-Za-z0-9_-]{32}$/.test(token)) return notFound;
  const found = await withoutFirm(async (tx) => {
    const { rows } = await tx.execute<{ firm_id: string; id: string }>(sql`select * from find_sign_link(${tokenHash(token)})`);
    return rows[0];
  });
  if (found === undefined) return notFound;
  return withFirm(found.firm_id, async (tx) => {
    const [link] = await tx.select().from(signLink).where(eq(signLink.id, found.id)).for('update');
    return link === undefined ? notFound : work(tx, link);
  });
}

export type LinkState = 'open' | 'used' | 'expired' | 'changed' | 'sealed';

export interface OpenedLink {
  readonly state: LinkState;
  readonly name: string;
  readonly firmId: string;
  readonly firm: string;
  /** What is to be signed. */
  readonly record: TestRecord;
}

async function opened(tx: Transaction, link: Link): Promise<Answer<OpenedLink>> {
  const [first, ...others] = link.tests;
  const tests = await testsOfPaper(
    tx,
    first.id,
    others.map(({ id }) => id),
  );
  if (!tests.ok) return tests;
  const own = await recordedFirm(tx);
  const changed = tests.value.some((one) => judgementHash(one) !== link.tests.find(({ id }) => id === one.test.id)?.judgementHash);
  const sealed = tests.value.some(({ certificates }) => certificates.length > 0);
  const state: LinkState =
    link.usedAt !== null ? 'used' : sealed ? 'sealed' : link.expiresAt.getTime() <= now() ? 'expired' : changed ? 'changed' : 'open';
  return answer({ state, name: link.name, firmId: link.firmId, firm: own.name, record: toDraft(tests.value, own).record });
}

/** What a link shows to whoever holds it. */
export const readLink = (token: string): Promise<Answer<OpenedLink>> => withLink(token, opened);

const gone: Readonly<Record<Exclude<LinkState, 'open'>, string>> = {
  used: 'This link was used already: there is a signature by it. Ask the firm for another link if it is not yours.',
  sealed: 'This paper is sealed by now, and nobody can sign it any more. Ask the firm for the certificate.',
  expired: 'This link has expired. Ask the firm for a new one.',
  changed:
    'Something was written in this test after the link was made, so it is not what you were asked to sign. Ask the firm for a new link.',
};

/** Why a link can be signed by no more. */
export const linkWords = (state: LinkState): string | undefined => (state === 'open' ? undefined : gone[state]);

const remoteForm = object({
  name: string().trim().required('Write your name.').max(120, 'Keep the name under 120 characters.'),
  absent: string().trim().max(200, 'Keep the reason under 200 characters.').default(''),
  refused: boolean().default(false),
  strokes: array(array(number().integer().min(-100_000).max(100_000).required()).max(20_000).required())
    .max(500)
    .default([]),
});

/** Keeps a signature by a private link: for every test of its paper, and never twice. */
export async function signByLink(token: string, form: unknown): Promise<Answer<'kept'>> {
  const input = await checked(remoteForm, form);
  if (!input.ok) return input;
  const { name, absent, refused, strokes } = input.value;
  const empty = emptySignature('customer', absent, strokes);
  if (empty !== undefined) return empty;
  return withLink(token, async (tx, link) => {
    const found = await opened(tx, link);
    if (!found.ok) return found;
    const why = linkWords(found.value.state);
    if (why !== undefined) return refuse(409, `link-${found.value.state}`, why);
    for (const { id: testId, judgementHash: hash } of link.tests) {
      const kept = await keepSignature(
        tx,
        link.firmId,
        testId,
        { id: randomUUID(), role: 'customer', name, absent, refused, remote: true, strokes, judgementHash: hash, signedAt: now() },
        undefined,
      );
      if (!kept.ok) return kept;
    }
    const used = await tx
      .update(signLink)
      .set({ usedAt: nowDate() })
      .where(and(eq(signLink.id, link.id), isNull(signLink.usedAt)))
      .returning({ id: signLink.id });
    return used.length === 0 ? refuse(409, 'link-used', gone.used) : answer('kept');
  });
}

/** Whether a picture is shown by the paper of a link: only those of it are handed out. */
export async function pictureOfLink(token: string, hash: string): Promise<Answer<{ readonly firmId: string }>> {
  if (!/^[0-9a-f]{64}$/.test(hash)) return notFound;
  const found = await readLink(token);
  if (!found.ok) return found;
  const { record, firmId } = found.value;
  const shown = [record.firm?.logo, ...(record.photos ?? []).map(({ copy }) => copy)];
  return shown.includes(hash) ? answer({ firmId }) : notFound;
}
