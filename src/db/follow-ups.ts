import { sql } from 'drizzle-orm';
import { date, foreignKey, index, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import type { FollowUpKind } from '@/core/register';
import { firmId, id, instant } from './columns';
import { site, system } from './register';
import { test } from './tests';

/* What is still to be done after a test. */

export const followUp = pgTable(
  'follow_up',
  {
    id: id(),
    firmId: firmId(),
    kind: text('kind').$type<FollowUpKind>().notNull(),
    siteId: uuid('site_id').notNull(),
    systemId: uuid('system_id').notNull(),
    /** The test that it came of. */
    testId: uuid('test_id'),
    due: date('due', { mode: 'string' }).notNull(),
    /** Account id of whoever sees to it; empty where it is anybody's. */
    person: text('person').notNull(),
    what: text('what').notNull(),
    author: text('author').notNull(),
    createdAt: instant('created_at').notNull(),
    endedAt: instant('ended_at'),
    /** Who ended it and how: by a word, or by what was done. */
    endedBy: text('ended_by').notNull().default(''),
    outcome: text('outcome').notNull().default(''),
    /** The day on which its person was last reminded. */
    remindedOn: date('reminded_on', { mode: 'string' }),
    /** Code of the tag that hangs on a guard gauge: whoever reads it needs no account. */
    tag: text('tag').unique(),
  },
  (table) => [
    foreignKey({ columns: [table.firmId, table.siteId], foreignColumns: [site.firmId, site.id] }),
    foreignKey({ columns: [table.firmId, table.systemId], foreignColumns: [system.firmId, system.id] }),
    foreignKey({ columns: [table.firmId, table.testId], foreignColumns: [test.firmId, test.id] }),
    index('follow_up_open').on(table.firmId, table.due).where(sql`ended_at is null`),
    index('follow_up_of_system').on(table.firmId, table.systemId),
  ],
);

/** A private calendar address of one person: its token is nowhere but in the address. */
export const calendarFeed = pgTable(
  'calendar_feed',
  {
    firmId: firmId(),
    person: text('person').notNull(),
    /** SHA-256 of the token; a new one ends the old. */
    tokenHash: text('token_hash').notNull().unique(),
    madeAt: instant('made_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.firmId, table.person] })],
);
