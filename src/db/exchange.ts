import { bigint, index, integer, jsonb, pgTable, text } from 'drizzle-orm/pg-core';
import { firmId, id, instant } from './columns';

/* What goes out of the firm as a whole, comes in as a whole, and who else may read. */

export const exchangeKinds = ['export', 'import'] as const;
export const exchangeStates = ['arriving', 'waiting', 'running', 'done', 'failed'] as const;

/** The firm's data written into a file, or taken from one. The row is its progress; the file lies in the home of the installation. */
export const exchange = pgTable(
  'exchange',
  {
    id: id(),
    firmId: firmId(),
    kind: text('kind').$type<(typeof exchangeKinds)[number]>().notNull(),
    author: text('author').notNull(),
    madeAt: instant('made_at').notNull(),
    state: text('state').$type<(typeof exchangeStates)[number]>().notNull(),
    /** What is being done, how much of it is done and how much there is. */
    doing: text('doing').notNull().default(''),
    done: integer('done').notNull().default(0),
    total: integer('total').notNull().default(0),
    /** Bytes of the file. */
    size: bigint('size', { mode: 'number' }).notNull().default(0),
    /** Lines that say what it came to. */
    said: jsonb('said').$type<readonly string[]>().notNull().default([]),
    /** When whoever works on it last said so: one that says nothing any more has ended with its process. */
    seenAt: instant('seen_at').notNull(),
    endedAt: instant('ended_at'),
  },
  (table) => [index('exchange_newest').on(table.firmId, table.madeAt)],
);

/** A token by which another program of the firm reads. It is nowhere but with whoever it was shown to. */
export const apiToken = pgTable(
  'api_token',
  {
    id: id(),
    firmId: firmId(),
    name: text('name').notNull(),
    /** SHA-256 of the token. */
    tokenHash: text('token_hash').notNull().unique(),
    madeBy: text('made_by').notNull(),
    madeAt: instant('made_at').notNull(),
    expiresAt: instant('expires_at').notNull(),
    usedAt: instant('used_at'),
    endedAt: instant('ended_at'),
  },
  (table) => [index('api_token_made').on(table.firmId, table.madeAt)],
);
