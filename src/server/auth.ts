import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import DataLoader from 'dataloader';
import { and, eq, gt, inArray, isNull, ne } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { isRole, type Role } from '@/core/permissions';
import { accounts, withFirm } from '@/db/connection';
import { withoutWords } from '@/db/fault';
import { account, knownDevice, person, session, user, verification } from '@/db/schema';
import type { Actor } from './actor';
import { type Answer, later, refuse } from './answers';
import { nowDate } from './clock';
import { setting } from './environment';
import { log } from './log';
import { counted } from './metrics';
import { judged, reserve } from './sign-in';
import { clientOf } from './throttle';
import { newToken, tokenHash } from './tokens';

/** Work on the accounts, its faults without anybody's words. */
const open = accounts;
const guarded = <T>(work: Promise<T>): Promise<T> =>
  work.catch((error: unknown) => {
    throw withoutWords(error);
  });

function build() {
  const address = setting('VAST_ADDRESS');
  return betterAuth({
    baseURL: address,
    secret: setting('VAST_AUTH_SECRET'),
    database: drizzleAdapter(open(), { provider: 'pg', schema: { user, session, account, verification } }),
    emailAndPassword: { enabled: true, disableSignUp: true, minPasswordLength: 10 },
    // Throttling is ours, an account and a device at a time.
    rateLimit: { enabled: false },
    telemetry: { enabled: false },
    // A fault is told by its kind: the library's own words quote what was typed.
    logger: { level: 'error', log: (level) => log().error({ level }, 'accounts') },
    advanced: { cookiePrefix: 'vast-stone', useSecureCookies: address.startsWith('https:') },
    user: { additionalFields: { firmId: { type: 'string', input: false }, role: { type: 'string', input: false } } },
  });
}

let built: ReturnType<typeof build> | undefined;
const auth = (): ReturnType<typeof build> => {
  built ??= build();
  return built;
};

const deviceCookie = 'vast-stone-device';
const cookie = (headers: Headers, name: string): string | undefined =>
  headers
    .get('cookie')
    ?.split(';')
    .map((one) => one.trim().split('='))
    .find(([key]) => key === name)?.[1];

const wrong = refuse(403, 'sign-in-wrong', 'E-mail or password is wrong. Check both and try again.');

/**
 * Signs in; on success the answer is the response that carries the session cookie, and nothing of the session in its body.
 * A try is reserved before its password is looked at. Strangers share their tries at an account and may have to wait; a device
 * that the person has signed in from before has tries of its own.
 */
export async function signIn(form: Readonly<Record<string, unknown>>, headers: Headers): Promise<Answer<never> | Response> {
  const { email, password, ticket } = form;
  if (typeof email !== 'string' || email.length > 254) return refuse(400, 'form', 'Type your e-mail address.', 'email');
  if (typeof password !== 'string' || password.length > 200) return refuse(400, 'form', 'Type your password.', 'password');
  const key = email.trim().toLowerCase();
  const token = cookie(headers, deviceCookie);
  const device = token === undefined ? undefined : await knownTo(key, tokenHash(token));
  const tried = await guarded(reserve(key, device, clientOf(headers), typeof ticket === 'string' ? ticket : undefined));
  if ('waitSeconds' in tried) {
    counted('sign-ins refused');
    return later(429, 'sign-in-throttled', tried.message, tried.waitSeconds, tried.ticket);
  }
  const response = await auth().api.signInEmail({ body: { email: key, password }, headers, asResponse: true });
  const found = response.ok ? ((await response.json()) as { readonly token?: string; readonly user?: { readonly id: string } }) : undefined;
  const isOpen = found?.user === undefined ? false : await isThere(found.user.id);
  await guarded(judged(tried.id, isOpen));
  if (found?.user === undefined || found.token === undefined) return wrong;
  if (!isOpen) {
    await guarded(open().delete(session).where(eq(session.token, found.token)));
    return wrong;
  }
  counted('sign-ins');
  return welcomed(response, found.user.id, found.token, token, headers);
}

/** The device, where this account has signed in from it and it was not revoked. */
async function knownTo(email: string, device: string): Promise<string | undefined> {
  const [found] = await guarded(
    open()
      .select({ id: knownDevice.id })
      .from(knownDevice)
      .innerJoin(user, eq(user.id, knownDevice.userId))
      .where(and(eq(knownDevice.id, device), eq(user.email, email), isNull(knownDevice.revokedAt))),
  );
  return found?.id;
}

/** Whether somebody has signed in from it before: a shared tablet is one device of several people. */
const isKnown = async (token: string | undefined): Promise<boolean> =>
  token !== undefined &&
  (
    await guarded(
      open()
        .select({ id: knownDevice.id })
        .from(knownDevice)
        .where(and(eq(knownDevice.id, tokenHash(token)), isNull(knownDevice.revokedAt))),
    )
  ).length > 0;

const isThere = async (userId: string): Promise<boolean> =>
  (
    await guarded(
      open()
        .select({ id: user.id })
        .from(user)
        .where(and(eq(user.id, userId), isNull(user.putAwayAt))),
    )
  ).length > 0;

/** The device is known from now on, and the session is its own. */
async function welcomed(
  response: Response,
  userId: string,
  sessionToken: string,
  known: string | undefined,
  headers: Headers,
): Promise<Response> {
  const token = (await isKnown(known)) ? String(known) : newToken();
  const at = nowDate();
  const name = (headers.get('user-agent') ?? 'unknown').replace(/[^\x20-\x7e]/g, '').slice(0, 200);
  await guarded(
    open()
      .insert(knownDevice)
      .values({ id: tokenHash(token), userId, name, createdAt: at, seenAt: at })
      .onConflictDoUpdate({ target: [knownDevice.id, knownDevice.userId], set: { seenAt: at } }),
  );
  await guarded(
    open()
      .update(session)
      .set({ deviceId: tokenHash(token) })
      .where(eq(session.token, sessionToken)),
  );
  const own = new Headers({ 'content-type': 'application/json', 'cache-control': 'private, no-store' });
  for (const one of response.headers.getSetCookie()) own.append('set-cookie', one);
  const secure = setting('VAST_ADDRESS').startsWith('https:') ? '; Secure' : '';
  own.append('set-cookie', `${deviceCookie}=${token}; Path=/api/sign-in; Max-Age=34560000; HttpOnly; SameSite=Lax${secure}`);
  return new Response('{"signedIn":true}', { headers: own });
}

export async function signOut(headers: Headers): Promise<Response> {
  forget(headers);
  const response = await auth().api.signOut({ headers, asResponse: true });
  return response;
}

/**
 * Who a cookie stands for. Its signature is checked once; for seconds nothing is asked at all, then whether its session still stands:
 * asking often costs little, and an ended session ends soon.
 */
const sessionMs = 5000;
interface Known {
  readonly actor?: Actor;
  /** The session behind the cookie. */
  readonly token?: string;
  readonly until: number;
}
const shared = globalThis as { __vastStoneSessions?: LRUCache<string, Known> };
const sessions = () => {
  shared.__vastStoneSessions ??= new LRUCache({ max: 20_000, ttl: 3_600_000 });
  return shared.__vastStoneSessions;
};
const sessionCookie = () => `${setting('VAST_ADDRESS').startsWith('https:') ? '__Secure-' : ''}vast-stone.session_token`;
const forget = (headers: Headers): void => {
  const token = cookie(headers, sessionCookie());
  if (token !== undefined) sessions().delete(token);
};

/** Who is signed in, if anyone. */
export async function currentActor(headers: Headers): Promise<Actor | undefined> {
  const sent = cookie(headers, sessionCookie());
  if (sent === undefined || sent.length > 500) return undefined;
  const known = sessions().get(sent);
  if (known !== undefined && known.until > performance.now()) return known.actor;
  counted('session looked up');
  const found = known?.token === undefined ? await lookUp(headers) : await standing(known.token);
  sessions().set(sent, { ...found, until: performance.now() + sessionMs });
  return found.actor;
}

interface Found {
  readonly id: string;
  readonly firmId: string;
  readonly name: string;
  readonly role: string;
  readonly device?: string | null;
}
const actorOf = ({ id, firmId, name, role, device }: Found): Actor | undefined =>
  isRole(role) ? { userId: id, firmId, name, role, ...(typeof device === 'string' ? { deviceId: device } : {}) } : undefined;

async function lookUp(headers: Headers): Promise<Omit<Known, 'until'>> {
  const found = await auth().api.getSession({ headers });
  return found === null ? {} : standing(found.session.token);
}

/** Sessions that still stand, by their tokens; a crowd that asks at once is answered by one query. */
const stillStanding = new DataLoader<string, Omit<Known, 'until'>>(
  async (tokens) => {
    const found = await guarded(
      open()
        .select({ token: session.token, id: user.id, firmId: user.firmId, name: user.name, role: user.role, device: session.deviceId })
        .from(session)
        .innerJoin(user, eq(user.id, session.userId))
        .where(and(inArray(session.token, [...tokens]), gt(session.expiresAt, nowDate()), isNull(user.putAwayAt))),
    );
    const byToken = new Map(found.map((one) => [one.token, one]));
    return tokens.map((token) => {
      const one = byToken.get(token);
      return one === undefined ? {} : { actor: actorOf(one), token };
    });
  },
  { cache: false, maxBatchSize: 200, batchScheduleFn: (ask) => setImmediate(ask) },
);

/** Whether a session whose cookie was checked before is still there. */
const standing = (token: string): Promise<Omit<Known, 'until'>> => stillStanding.load(token);

/** Adds a person to a firm, with a password. */
export async function addPerson(one: {
  readonly firmId: string;
  readonly name: string;
  readonly email: string;
  readonly password: string;
  readonly role: Role;
}): Promise<Actor> {
  const context = await auth().$context;
  const made = (await context.internalAdapter.createUser(
    {
      name: one.name,
      email: one.email.toLowerCase(),
      emailVerified: true,
      firmId: one.firmId,
      role: one.role,
    },
    { method: 'admin' },
  )) as { id: string };
  await context.internalAdapter.linkAccount({
    userId: made.id,
    providerId: 'credential',
    accountId: made.id,
    password: await context.password.hash(one.password),
  });
  await withFirm(one.firmId, async (tx) => {
    await tx.insert(person).values({ firmId: one.firmId, id: made.id, name: one.name, role: one.role });
  });
  return { userId: made.id, firmId: one.firmId, name: one.name, role: one.role };
}

export interface Account {
  readonly id: string;
  readonly firmId: string;
  readonly name: string;
  readonly email: string;
  readonly role: string;
  readonly putAwayAt: Date | null;
}

const accountColumns = { id: user.id, firmId: user.firmId, name: user.name, email: user.email, role: user.role, putAwayAt: user.putAwayAt };

/** Everybody's accounts, for the operator. */
export const listAccounts = (): Promise<readonly Account[]> => guarded(open().select(accountColumns).from(user).orderBy(user.email));

export async function accountOf(email: string): Promise<Account | undefined> {
  const [found] = await guarded(open().select(accountColumns).from(user).where(eq(user.email, email.trim().toLowerCase())));
  return found;
}

/** Signs in no more, from now on; everything that the person wrote stays theirs. */
export async function putAway({ id, firmId }: Account): Promise<void> {
  await guarded(open().update(user).set({ putAwayAt: nowDate() }).where(eq(user.id, id)));
  await withFirm(firmId, (tx) => tx.update(person).set({ putAwayAt: nowDate() }).where(eq(person.id, id)));
  await endSessions(id);
}

/** Somebody as a deliverer of what they wrote, up to when they were put away or their device was revoked. */
export async function endOf(firmId: string, userId: string, device: string): Promise<Actor | undefined> {
  const [found] = await guarded(
    open()
      .select({ id: user.id, firmId: user.firmId, name: user.name, role: user.role, away: user.putAwayAt, revoked: knownDevice.revokedAt })
      .from(user)
      .leftJoin(knownDevice, and(eq(knownDevice.userId, user.id), eq(knownDevice.id, device)))
      .where(and(eq(user.id, userId), eq(user.firmId, firmId))),
  );
  const actor = found === undefined ? undefined : actorOf(found as never);
  if (actor === undefined) return undefined;
  const ends = [found.away, found.revoked].filter((one) => one !== null).map((one) => one.getTime());
  return { ...actor, delivers: { until: ends.length === 0 ? Number.POSITIVE_INFINITY : Math.min(...ends) } };
}

/** A new password; whoever was signed in with the old one is signed out. */
export async function setPassword(id: string, password: string): Promise<void> {
  const context = await auth().$context;
  await guarded(
    open()
      .update(account)
      .set({ password: await context.password.hash(password), updatedAt: nowDate() })
      .where(and(eq(account.userId, id), eq(account.providerId, 'credential'))),
  );
  await endSessions(id);
}

/** Ends a person's sessions; a process that knew them forgets within seconds. Answers how many there were. */
export async function endSessions(userId: string, deviceId?: string): Promise<number> {
  const ended = await guarded(
    open()
      .delete(session)
      .where(and(eq(session.userId, userId), deviceId === undefined ? ne(session.id, '') : eq(session.deviceId, deviceId)))
      .returning({ id: session.id }),
  );
  sessions().clear();
  return ended.length;
}

export const devicesOf = (userId: string) =>
  guarded(
    open()
      .select({ id: knownDevice.id, name: knownDevice.name, seenAt: knownDevice.seenAt, revokedAt: knownDevice.revokedAt })
      .from(knownDevice)
      .where(eq(knownDevice.userId, userId))
      .orderBy(knownDevice.seenAt),
  );

/** A device that was lost: its session ends, and it is a stranger's from now on. Answers whether there is such a one. */
export async function revokeDevice(userId: string, id: string): Promise<boolean> {
  const revoked = await guarded(
    open()
      .update(knownDevice)
      .set({ revokedAt: nowDate() })
      .where(and(eq(knownDevice.userId, userId), eq(knownDevice.id, id)))
      .returning({ id: knownDevice.id }),
  );
  if (revoked.length > 0) await endSessions(userId, id);
  return revoked.length > 0;
}
