import { sql } from 'drizzle-orm';
import { boolean, foreignKey, index, integer, jsonb, pgTable, primaryKey, text, unique, uniqueIndex, uuid } from 'drizzle-orm/pg-core';
import type { SignerRole } from '@/core/record';
import { firmId, id, instant } from './columns';
import { test } from './tests';

/* What leaves the firm, and by what it is known as its own. */
export const signature = pgTable(
  'signature',
  {
    id: id(),
    firmId: firmId(),
    testId: uuid('test_id').notNull(),
    role: text('role').$type<SignerRole>().notNull(),
    name: text('name').notNull(),
    /** Why nobody could sign. */
    absent: text('absent'),
    /** They were there and would not. */
    refused: boolean('refused').notNull().default(false),
    /** By the private link, on a device of their own. */
    remote: boolean('remote').notNull().default(false),
    strokes: jsonb('strokes').$type<readonly (readonly number[])[]>().notNull(),
    judgementHash: text('judgement_hash').notNull(),
    signedAt: instant('signed_at').notNull(),
  },
  (table) => [foreignKey({ columns: [table.firmId, table.testId], foreignColumns: [test.firmId, test.id] })],
);

/** Sealed: insert and read only. */
export const certificate = pgTable(
  'certificate',
  {
    id: id(),
    firmId: firmId(),
    number: text('number').notNull(),
    checkCode: text('check_code').notNull().unique(),
    verdict: text('verdict').notNull(),
    /** The record in its canonical form, seal included. */
    record: text('record').notNull(),
    hash: text('hash').notNull(),
    previous: text('previous').notNull(),
    corrects: uuid('corrects'),
    /* For lists and the check page: a sealed text is never taken apart by the database. */
    site: text('site').notNull(),
    system: text('system').notNull(),
    simulated: boolean('simulated').notNull(),
    keyId: uuid('key_id').notNull(),
    issuedAt: instant('issued_at').notNull(),
  },
  (table) => [
    unique('certificate_number').on(table.firmId, table.number),
    unique('certificate_chain').on(table.firmId, table.previous),
    unique('certificate_in_firm').on(table.firmId, table.id),
  ],
);

/** The tests that a paper is of, in its order: one, or those of a visit. Insert and read only. */
export const certificateTest = pgTable(
  'certificate_test',
  {
    firmId: firmId(),
    certificateId: uuid('certificate_id').notNull(),
    testId: uuid('test_id').notNull(),
    place: integer('place').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.firmId, table.certificateId, table.testId] }),
    foreignKey({ columns: [table.firmId, table.certificateId], foreignColumns: [certificate.firmId, certificate.id] }),
    foreignKey({ columns: [table.firmId, table.testId], foreignColumns: [test.firmId, test.id] }),
    index('certificate_by_test').on(table.firmId, table.testId),
  ],
);

export const sealKey = pgTable(
  'seal_key',
  {
    id: id(),
    firmId: firmId(),
    publicKey: text('public_key').notNull(),
    /** AES-256-GCM under a key kept outside the database: nonce, tag and cipher text, base64. */
    privateKey: text('private_key').notNull(),
    createdAt: instant('created_at').notNull(),
    retiredAt: instant('retired_at'),
    revokedAt: instant('revoked_at'),
  },
  (table) => [uniqueIndex('seal_key_live').on(table.firmId).where(sql`retired_at is null`)],
);
