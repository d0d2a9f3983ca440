import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { and, count, eq, gt } from 'drizzle-orm';
import { accounts } from '@/db/connection';
import { account, session, signInFailure, user, verification } from '@/db/schema';
import { type Actor, type Role, roles } from './actor';
import { type Answer, answer, refuse } from './answers';
import { now, nowDate } from './clock';
import { setting } from './environment';

const open = accounts;

function build() {
  const address = setting('VAST_ADDRESS');
  return betterAuth({
    baseURL: address,
    secret: setting('VAST_AUTH_SECRET'),
    database: drizzleAdapter(open(), { provider: 'pg', schema: { user, session, account, verification } }),
    emailAndPassword: { enabled: true, disableSignUp: true, minPasswordLength: 10 },
    // Throttling is ours, an account at a time: forwarded addresses can be forged.
    rateLimit: { enabled: false },
    telemetry: { enabled: false },
    // A wrong password is an answer to whoever typed it, not news for the log.
    logger: { level: 'error' },
    advanced: { cookiePrefix: 'vast-stone', useSecureCookies: address.startsWith('https:') },
    user: { additionalFields: { firmId: { type: 'string', input: false }, role: { type: 'string', input: false } } },
  });
}

let built: ReturnType<typeof build> | undefined;
const auth = (): ReturnType<typeof build> => {
  built ??= build();
  return built;
};

const windowMs = 15 * 60_000;
const allowedFailures = 5;

/** Signs in; on success the answer is the response that carries the session cookie. */
export async function signIn(email: string, password: string, headers: Headers): Promise<Answer<Response>> {
  const key = email.trim().toLowerCase();
  const [{ failures }] = await open()
    .select({ failures: count() })
    .from(signInFailure)
    .where(and(eq(signInFailure.email, key), gt(signInFailure.at, new Date(now() - windowMs))));
  if (failures >= allowedFailures)
    return refuse(429, 'sign-in-throttled', 'Too many wrong attempts for this account. Wait 15 minutes, or ask your supervisor.');
  const response = await auth().api.signInEmail({ body: { email: key, password }, headers, asResponse: true });
  if (response.ok) return answer(response);
  await open().insert(signInFailure).values({ email: key, at: nowDate() });
  return refuse(403, 'sign-in-wrong', 'E-mail or password is wrong. Check both and try again.');
}

export const signOut = (headers: Headers): Promise<Response> => auth().api.signOut({ headers, asResponse: true });

/** Who is signed in, if anyone. */
export async function currentActor(headers: Headers): Promise<Actor | undefined> {
  const found = await auth().api.getSession({ headers });
  if (found === null) return undefined;
  const { id, firmId, name, role } = found.user as unknown as { id: string; firmId: string; name: string; role: string };
  return roles.includes(role as Role) ? { userId: id, firmId, name, role: role as Role } : undefined;
}

/** Adds a person to a firm, with a password. */
export async function addPerson(person: {
  readonly firmId: string;
  readonly name: string;
  readonly email: string;
  readonly password: string;
  readonly role: Role;
}): Promise<Actor> {
  const context = await auth().$context;
  const made = (await context.internalAdapter.createUser(
    {
      name: person.name,
      email: person.email.toLowerCase(),
      emailVerified: true,
      firmId: person.firmId,
      role: person.role,
    },
    { method: 'admin' },
  )) as { id: string };
  await context.internalAdapter.linkAccount({
    userId: made.id,
    providerId: 'credential',
    accountId: made.id,
    password: await context.password.hash(person.password),
  });
  return { userId: made.id, firmId: person.firmId, name: person.name, role: person.role };
}

/** People of a firm, for sign-in in demo mode and for names on lists. */
export const peopleOf = (firmId: string) =>
  open().select({ name: user.name, email: user.email, role: user.role }).from(user).where(eq(user.firmId, firmId)).orderBy(user.name);
