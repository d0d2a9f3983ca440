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

/** A paper that is to be relied on no more, and why; nothing takes its place. Insert and read only. */
export const withdrawal = pgTable(
  'withdrawal',
  {
    certificateId: uuid('certificate_id').notNull(),
    firmId: firmId(),
    reason: text('reason').notNull(),
    author: text('author').notNull(),
    at: instant('at').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.firmId, table.certificateId] }),
    foreignKey({ columns: [table.firmId, table.certificateId], foreignColumns: [certificate.firmId, certificate.id] }),
  ],
);

/** A private link by which somebody elsewhere signs, once: its token is nowhere but in the link. */
export const signLink = pgTable(
  'sign_link',
  {
    id: id(),
    firmId: firmId(),
    /** SHA-256 of the token. */
    tokenHash: text('token_hash').notNull().unique(),
    /** Tests of the paper with the judgement of each that the link was made for. */
    tests: jsonb('tests').$type<readonly { readonly id: string; readonly judgementHash: string }[]>().notNull(),
    /** Who is to sign. */
    name: text('name').notNull(),
    madeBy: text('made_by').notNull(),
    madeAt: instant('made_at').notNull(),
    expiresAt: instant('expires_at').notNull(),
    usedAt: instant('used_at'),
  },
  (table) => [index('sign_link_made').on(table.firmId, table.madeAt)],
);

export const messageKinds = ['paper', 'sign link', 'notice'] as const;
export const messageStates = ['waiting', 'sent', 'delivered', 'refused', 'bounced', 'given up'] as const;

/** Mail that leaves the firm: what went to whom, and what became of it. The row is the job of the worker that sends it. */
export const message = pgTable(
  'message',
  {
    id: id(),
    firmId: firmId(),
    kind: text('kind').$type<(typeof messageKinds)[number]>().notNull(),
    recipient: text('recipient').notNull(),
    subject: text('subject').notNull(),
    body: text('body').notNull(),
    /** The paper that goes with it. */
    certificateId: uuid('certificate_id'),
    testId: uuid('test_id'),
    author: text('author').notNull(),
    createdAt: instant('created_at').notNull(),
    state: text('state').$type<(typeof messageStates)[number]>().notNull().default('waiting'),
    tries: integer('tries').notNull().default(0),
    /** Not tried before then; of what is being sent just now, when it counts as lost and is tried again. */
    nextAt: instant('next_at').notNull(),
    /** What the last try, or a notice about it, said. */
    said: text('said').notNull().default(''),
    settledAt: instant('settled_at'),
  },
  (table) => [
    index('message_newest').on(table.firmId, table.createdAt),
    index('message_of_certificate').on(table.firmId, table.certificateId),
    index('message_due').on(table.nextAt).where(sql`state = 'waiting'`),
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
    /** Came in with the firm's data from elsewhere: it seals nothing here, and vouches for the papers that came with it alone. */
    importedAt: instant('imported_at'),
  },
  (table) => [uniqueIndex('seal_key_live').on(table.firmId).where(sql`retired_at is null`)],
);
