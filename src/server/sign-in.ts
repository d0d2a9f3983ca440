import { randomUUID } from 'node:crypto';
import { and, desc, eq, gt, inArray, lt, sql } from 'drizzle-orm';
import { accounts } from '@/db/connection';
import { signInAttempt } from '@/db/schema';
import { now, nowDate } from './clock';

/*
 * Tries at an account. Each is reserved before its password is looked at, so that many at once get no more of them than one after
 * the other. Strangers share theirs: who comes after five wrong ones takes a number, twenty seconds after the one before. A device
 * that the person has signed in from has tries of its own, which no stranger uses up.
 */

const windowMs = 15 * 60_000;
const allowed = 5;
const spacingMs = 20_000;
/** So many wait at most: a quarter of an hour. */
const mostWaiting = windowMs / spacingMs;
/** So many of them from one address: one stranger alone keeps nobody out. */
const mostOfOne = 3;
/** A number that nobody came back with is let go. */
const unusedMs = 5 * 60_000;

export type Tried =
  | { readonly id: string }
  | { readonly waitSeconds: number; readonly message: string /** To come back with. */; readonly ticket?: string };

const strangers = 'strangers';

const seconds = (ms: number): number => Math.max(1, Math.ceil(ms / 1000));

/**
 * Reserves a try.
 * @param device id of a device that this account has signed in from, if it is one
 * @param client address of whoever asks
 * @param ticket the number that was handed out before
 */
export const reserve = (email: string, device: string | undefined, client: string, ticket?: string): Promise<Tried> =>
  accounts().transaction(async (tx): Promise<Tried> => {
    const lane = device ?? strangers;
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`${lane} ${email}`}, 1))`);
    await tx.delete(signInAttempt).where(and(eq(signInAttempt.email, email), lt(signInAttempt.at, new Date(now() - 86_400_000))));
    const attempts = await tx
      .select()
      .from(signInAttempt)
      .where(and(eq(signInAttempt.email, email), eq(signInAttempt.lane, lane), gt(signInAttempt.at, new Date(now() - 2 * windowMs))))
      .orderBy(desc(signInAttempt.at));
    const waiting = attempts.filter(({ state, mayFrom }) => state === 'waiting' && mayFrom.getTime() > now() - unusedMs);
    const own = waiting.find(({ id }) => id === ticket);
    if (own !== undefined) {
      const left = own.mayFrom.getTime() - now();
      if (left > 0) return { waitSeconds: seconds(left), message: mustWait, ticket: own.id };
      await tx.update(signInAttempt).set({ state: 'reserved' }).where(eq(signInAttempt.id, own.id));
      return { id: own.id };
    }
    const tried = attempts.filter(({ state, at }) => (state === 'reserved' || state === 'wrong') && at.getTime() > now() - windowMs);
    const made = { id: randomUUID(), email, lane, client, at: nowDate() };
    if (tried.length < allowed) {
      await tx.insert(signInAttempt).values({ ...made, mayFrom: nowDate(), state: 'reserved' });
      return { id: made.id };
    }
    if (device !== undefined) {
      const left = tried[allowed - 1].at.getTime() + windowMs - now();
      return { waitSeconds: seconds(left), message: 'Too many wrong passwords from this device. Wait before you try again.' };
    }
    const others = waiting.filter(({ client: whose }) => whose === client);
    if (others.length >= mostOfOne) {
      const left = Math.max(...others.map(({ mayFrom }) => mayFrom.getTime())) - now();
      return { waitSeconds: seconds(Math.max(left, spacingMs)), message: mustWait };
    }
    const last = Math.max(now(), ...waiting.map(({ mayFrom }) => mayFrom.getTime()));
    if (waiting.length >= mostWaiting)
      return {
        waitSeconds: seconds(spacingMs),
        message:
          'Very many are trying this account. Sign in from a device that you have used before, or ask whoever runs this installation.',
      };
    const mayFrom = last + spacingMs;
    await tx.insert(signInAttempt).values({ ...made, mayFrom: new Date(mayFrom), state: 'waiting' });
    return { waitSeconds: seconds(mayFrom - now()), message: mustWait, ticket: made.id };
  });

/** How long is said beside it, as it runs down. */
const mustWait =
  'There were wrong passwords for this account from devices that it does not know. This one waits for its turn; a device that you have used before need not wait.';

/** What a reserved try came to. A right one clears what its lane has against it. */
export const judged = async (id: string, right: boolean): Promise<void> => {
  const [done] = await accounts()
    .update(signInAttempt)
    .set({ state: right ? 'right' : 'wrong' })
    .where(eq(signInAttempt.id, id))
    .returning({ email: signInAttempt.email, lane: signInAttempt.lane });
  if (right && done !== undefined && done.lane !== strangers)
    await accounts()
      .delete(signInAttempt)
      .where(and(eq(signInAttempt.email, done.email), eq(signInAttempt.lane, done.lane), inArray(signInAttempt.state, ['wrong'])));
};

/** Lets go of what no try is counted by any more. */
export const forgetOldTries = async (): Promise<void> => {
  await accounts()
    .delete(signInAttempt)
    .where(lt(signInAttempt.at, new Date(now() - 86_400_000)));
};
