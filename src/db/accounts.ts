import { boolean, index, pgSchema, primaryKey, text, timestamp, uuid } from 'drizzle-orm/pg-core';

const instant = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' });

/* People and sessions: their own schema and their own database role. */
export const authSchema = pgSchema('auth');
export const user = authSchema.table('user', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  email: text('email').notNull().unique(),
  emailVerified: boolean('email_verified').notNull().default(false),
  image: text('image'),
  firmId: uuid('firm_id').notNull(),
  role: text('role').notNull(),
  createdAt: instant('created_at').notNull(),
  updatedAt: instant('updated_at').notNull(),
  /** Signs in no more; what they wrote stays theirs. */
  putAwayAt: instant('put_away_at'),
});
export const session = authSchema.table('session', {
  id: text('id').primaryKey(),
  expiresAt: instant('expires_at').notNull(),
  token: text('token').notNull().unique(),
  createdAt: instant('created_at').notNull(),
  updatedAt: instant('updated_at').notNull(),
  ipAddress: text('ip_address'),
  userAgent: text('user_agent'),
  userId: text('user_id')
    .notNull()
    .references(() => user.id, { onDelete: 'cascade' }),
  /** The device that it was begun on. */
  deviceId: text('device_id'),
});
export const account = authSchema.table('account', {
  id: text('id').primaryKey(),
  accountId: text('account_id').notNull(),
  providerId: text('provider_id').notNull(),
  userId: text('user_id')
    .notNull()
    .references(() => user.id, { onDelete: 'cascade' }),
  accessToken: text('access_token'),
  refreshToken: text('refresh_token'),
  idToken: text('id_token'),
  accessTokenExpiresAt: instant('access_token_expires_at'),
  refreshTokenExpiresAt: instant('refresh_token_expires_at'),
  scope: text('scope'),
  password: text('password'),
  createdAt: instant('created_at').notNull(),
  updatedAt: instant('updated_at').notNull(),
});
export const verification = authSchema.table('verification', {
  id: text('id').primaryKey(),
  identifier: text('identifier').notNull(),
  value: text('value').notNull(),
  expiresAt: instant('expires_at').notNull(),
  createdAt: instant('created_at'),
  updatedAt: instant('updated_at'),
});
/** A browser that a person has signed in from: their right password is never kept waiting there because of strangers. */
export const knownDevice = authSchema.table(
  'known_device',
  {
    /** SHA-256 of the token that the device keeps. */
    id: text('id').notNull(),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    /** As its program names itself. */
    name: text('name').notNull(),
    createdAt: instant('created_at').notNull(),
    seenAt: instant('seen_at').notNull(),
    revokedAt: instant('revoked_at'),
  },
  (table) => [primaryKey({ columns: [table.id, table.userId] })],
);
/** Every try to sign in, reserved before its password is looked at. */
export const signInAttempt = authSchema.table(
  'sign_in_attempt',
  {
    id: uuid('id').primaryKey(),
    email: text('email').notNull(),
    /** A known device's own, or the one that all strangers share. */
    lane: text('lane').notNull(),
    client: text('client').notNull(),
    at: instant('at').notNull(),
    /** A try that has to wait may be made from then on, once. */
    mayFrom: instant('may_from').notNull(),
    state: text('state').$type<'waiting' | 'reserved' | 'wrong' | 'right'>().notNull(),
  },
  (table) => [index('sign_in_attempt_lane').on(table.email, table.lane, table.at)],
);

/* The installation itself: one row. */
export const installationSchema = pgSchema('installation');
export const mark = installationSchema.table('mark', {
  one: boolean('one').primaryKey().default(true),
  /** What loads a new installation has done so; until then it is begun again. */
  loaded: text('loaded').$type<'demo' | 'empty'>(),
  /** Tells whether the secrets at hand are those that this database was made with: HMAC of a fixed word. */
  secrets: text('secrets').notNull(),
  madeAt: instant('made_at').notNull(),
});
