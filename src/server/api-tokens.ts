import { randomUUID } from 'node:crypto';
import { and, desc, eq, gt, isNull, lt, or, sql } from 'drizzle-orm';
import { number, object, string } from 'yup';
import { withFirm, withoutFirm } from '@/db/connection';
import { apiToken } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { now, nowDate } from './clock';
import { checked } from './forms';
import { isHere, newToken, tokenHash } from './tokens';

/* Tokens by which other programs of the firm read: what they may see, and nothing that changes anything. */

const dayMs = 86_400_000;
/** What was last used is written down this often at most. */
const notedEveryMs = 60_000;
const mostLive = 20;

const tokenForm = object({
  name: string().trim().required('Write which program it is for.').max(80, 'Keep the name under 80 characters.'),
  days: number()
    .typeError('Say for how many days, 1 to 730.')
    .integer('Say for how many days, 1 to 730.')
    .min(1, 'Say for how many days, 1 to 730.')
    .max(730, 'Say for how many days, 1 to 730.')
    .default(365),
});

/** Makes a token. It is told once, here; what is kept of it is only a hash. */
export async function makeToken(actor: Actor, form: unknown): Promise<Answer<{ readonly token: string; readonly expiresAt: number }>> {
  const refused = refusedTo(actor, 'exchange');
  if (refused !== undefined) return refused;
  const input = await checked(tokenForm, form);
  if (!input.ok) return input;
  const { name, days } = input.value;
  return withFirm(actor.firmId, async (tx) => {
    const live = await tx
      .select({ id: apiToken.id })
      .from(apiToken)
      .where(and(isNull(apiToken.endedAt), gt(apiToken.expiresAt, nowDate())));
    if (live.length >= mostLive) return refuse(409, 'too-many', `There are ${mostLive} tokens already. End one that nobody uses.`);
    const token = `vs_${newToken()}`;
    const expiresAt = now() + days * dayMs;
    await tx.insert(apiToken).values({
      id: randomUUID(),
      firmId: actor.firmId,
      name,
      tokenHash: tokenHash(token),
      madeBy: actor.userId,
      madeAt: nowDate(),
      expiresAt: new Date(expiresAt),
    });
    return answer({ token, expiresAt });
  });
}

/** Ends a token: whoever reads by it reads no more. */
export async function endToken(actor: Actor, id: string): Promise<Answer<'ended'>> {
  const refused = refusedTo(actor, 'exchange');
  if (refused !== undefined) return refused;
  if (!isUuid(id)) return notFound;
  const ended = await withFirm(actor.firmId, (tx) =>
    tx
      .update(apiToken)
      .set({ endedAt: nowDate() })
      .where(and(eq(apiToken.id, id), isNull(apiToken.endedAt)))
      .returning({ id: apiToken.id }),
  );
  return ended.length === 0 ? notFound : answer('ended');
}

/** The firm's tokens, the newest first; nothing of the tokens themselves. */
export const listTokens = (actor: Actor) =>
  withFirm(actor.firmId, async (tx) => {
    const rows = await tx.select().from(apiToken).orderBy(desc(apiToken.madeAt)).limit(50);
    return rows.map(({ id, name, madeAt, expiresAt, usedAt, endedAt }) => ({
      id,
      name,
      madeAt: madeAt.getTime(),
      expiresAt: expiresAt.getTime(),
      ...(usedAt === null ? {} : { usedAt: usedAt.getTime() }),
      state: endedAt !== null ? ('ended' as const) : expiresAt.getTime() <= now() ? ('over' as const) : ('valid' as const),
    }));
  });

/** Whoever reads by the token that a request brings; undefined where it brings none that is valid. */
export async function readerOf(headers: Headers): Promise<Actor | undefined> {
  const token = /^Bearer (vs_[\w-]{32})$/i.exec(headers.get('authorization') ?? '')?.[1];
  if (token === undefined) return undefined;
  const found = await withoutFirm(async (tx) => {
    const { rows } = await tx.execute<{
      firm_id: string;
      id: string;
      name: string;
      made_by: string;
      expires_at: string | Date;
      ended_at: string | null;
    }>(sql`select firm_id, id, name, made_by, expires_at, ended_at from find_api_token(${tokenHash(token)})`);
    return rows[0];
  });
  if (found === undefined || found.ended_at !== null || new Date(found.expires_at).getTime() <= now()) return undefined;
  const seen = new Date(now() - notedEveryMs);
  const isOpen = await withFirm(found.firm_id, async (tx) => {
    if (!(await isHere(tx, found.made_by))) return false;
    await tx
      .update(apiToken)
      .set({ usedAt: nowDate() })
      .where(and(eq(apiToken.id, found.id), or(isNull(apiToken.usedAt), lt(apiToken.usedAt, seen))));
    return true;
  });
  if (!isOpen) return undefined;
  // It reads as the office does, and is counted by itself.
  return { userId: `token ${found.id}`, firmId: found.firm_id, name: found.name, role: 'office' };
}
