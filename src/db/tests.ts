import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  foreignKey,
  index,
  integer,
  jsonb,
  pgSequence,
  pgTable,
  primaryKey,
  text,
  unique,
  uuid,
} from 'drizzle-orm/pg-core';
import type { TestVerdict } from '@/core/course';
import type { RunEvent } from '@/core/judging';
import type { Plan } from '@/core/planning';
import type { PlanStart } from '@/core/register';
import type { RigCheck } from '@/core/sizing';
import { bytes, changedIn, firmId, id, instant } from './columns';
import { person, system } from './register';

/* Tests: what was planned, what was written down, and what lists say of it. */
export interface TestDetails {
  readonly jobOrigin: string;
  readonly visualInspection: 'done' | 'not done';
  readonly meterNumber: string;
  readonly meterReading: string;
}

export const test = pgTable(
  'test',
  {
    id: id(),
    firmId: firmId(),
    systemId: uuid('system_id').notNull(),
    details: jsonb('details').$type<TestDetails>().notNull(),
    /** Account id of whoever began it. */
    author: text('author').notNull(),
    createdAt: instant('created_at').notNull(),
  },
  (table) => [
    unique('test_in_firm').on(table.firmId, table.id),
    foreignKey({ columns: [table.firmId, table.systemId], foreignColumns: [system.firmId, system.id] }),
    foreignKey({ columns: [table.firmId, table.author], foreignColumns: [person.firmId, person.id] }),
    index('test_by_system').on(table.firmId, table.systemId, table.createdAt),
  ],
);

export const run = pgTable(
  'run',
  {
    id: id(),
    firmId: firmId(),
    testId: uuid('test_id').notNull(),
    number: integer('number').notNull(),
    plan: jsonb('plan').$type<Plan>().notNull(),
    /** Why the plan could not be read when it came; kept as it came. */
    unread: text('unread'),
    /** Of the plan, as a column of its own: row security lets an index be used for that. */
    procedure: text('procedure').generatedAlwaysAs(sql`plan #>> '{procedure,id}'`),
    createdAt: instant('created_at').notNull(),
  },
  (table) => [
    index('run_by_procedure').on(table.firmId, table.procedure, table.createdAt),
    unique('run_in_firm').on(table.firmId, table.id),
    unique('run_number').on(table.testId, table.number),
    foreignKey({ columns: [table.firmId, table.testId], foreignColumns: [test.firmId, test.id] }),
  ],
);

/** Append-only: the application's role may insert and read, nothing else. */
export const event = pgTable(
  'event',
  {
    runId: uuid('run_id').notNull(),
    id: uuid('id').notNull(),
    firmId: firmId(),
    event: jsonb('event').$type<RunEvent>().notNull(),
    /** Its place in the run's log: the order in which events joined, from 1. */
    position: integer('position').notNull(),
    receivedAt: instant('received_at').notNull(),
    /** Came after the test was sealed: kept and flagged, never merged. */
    late: boolean('late').notNull().default(false),
  },
  (table) => [
    primaryKey({ columns: [table.runId, table.id] }),
    unique('event_place').on(table.runId, table.position),
    foreignKey({ columns: [table.firmId, table.runId], foreignColumns: [run.firmId, run.id] }),
  ],
);

/** What a device sent and the server could not read. */
export const quarantine = pgTable('quarantine', {
  id: id(),
  firmId: firmId(),
  /** As it came, byte for byte: what cannot be read may hold what no text column keeps. */
  sent: bytes('sent').notNull(),
  /** Account id of whoever sent it, and the run that it was sent for. */
  author: text('author').notNull(),
  runId: text('run_id').notNull(),
  why: text('why').notNull(),
  receivedAt: instant('received_at').notNull(),
});

/** Hands out `standing.changed`: whatever was changed later has the higher number. */
export const standingChanged = pgSequence('standing_changed');

/**
 * What lists need of a test, written in the same transaction as its events: nothing is judged in order to be listed. All of it
 * follows from plans, events and certificates, and can be made again from them.
 */
export const standing = pgTable(
  'standing',
  {
    firmId: firmId(),
    testId: uuid('test_id').notNull(),
    systemId: uuid('system_id').notNull(),
    author: text('author').notNull(),
    createdAt: instant('created_at').notNull(),
    /** The last attempt that counts; none where nothing was run, or its plan cannot be read. */
    runId: uuid('run_id'),
    attempts: integer('attempts').notNull(),
    procedure: text('procedure'),
    verdict: text('verdict').$type<TestVerdict>().notNull(),
    simulated: boolean('simulated').notNull(),
    phase: text('phase').notNull(),
    dueAt: instant('due_at'),
    /** Seconds into the open hold, and the gauge; sixty points at most. */
    points: jsonb('points').$type<readonly (readonly [number, number])[]>().notNull(),
    forecast: jsonb('forecast').$type<StandingForecast>(),
    /** What its guard gauge gives alarm about. */
    alarm: text('alarm'),
    /** What a check of a rig came to, and of which instrument. */
    rig: jsonb('rig').$type<{ readonly instrument: string; readonly found: RigCheck }>(),
    /** What another plan can start from. */
    start: jsonb('start').$type<StandingStart>(),
    certificate: text('certificate'),
    changed: bigint('changed', { mode: 'number' }).notNull().default(sql`nextval('standing_changed')`),
    changedIn: changedIn(),
  },
  (table) => [
    primaryKey({ columns: [table.firmId, table.testId] }),
    foreignKey({ columns: [table.firmId, table.testId], foreignColumns: [test.firmId, test.id] }),
    index('standing_newest').on(table.firmId, table.createdAt),
    index('standing_by_system').on(table.firmId, table.systemId, table.createdAt),
    index('standing_by_run').on(table.firmId, table.runId),
    index('standing_open').on(table.firmId, table.createdAt).where(sql`verdict = 'in progress' and certificate is null`),
    index('standing_unsealed').on(table.firmId, table.createdAt).where(sql`verdict <> 'in progress' and certificate is null`),
    index('standing_alarm').on(table.firmId).where(sql`alarm is not null`),
    index('standing_rig').on(table.firmId, table.createdAt).where(sql`rig is not null`),
  ],
);

export interface StandingForecast {
  readonly fall: string;
  readonly unit: string;
  readonly status: 'below' | 'above' | 'unclear' | 'bends';
}

export type StandingStart = PlanStart;

export const photo = pgTable(
  'photo',
  {
    firmId: firmId(),
    hash: text('hash').notNull(),
    runId: uuid('run_id').notNull(),
    storedHash: text('stored_hash').notNull(),
    picture: bytes('picture').notNull(),
    /** The smaller copy that a paper carries, and its hash. */
    copyHash: text('copy_hash').notNull(),
    copy: bytes('copy').notNull(),
    takenAt: instant('taken_at').notNull(),
    receivedAt: instant('received_at').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.firmId, table.runId, table.hash] }),
    foreignKey({ columns: [table.firmId, table.runId], foreignColumns: [run.firmId, run.id] }),
  ],
);

/** Pieces of a picture that is on its way; they go when it is whole. */
export const photoPiece = pgTable(
  'photo_piece',
  {
    firmId: firmId(),
    runId: uuid('run_id').notNull(),
    hash: text('hash').notNull(),
    at: integer('at').notNull(),
    piece: bytes('piece').notNull(),
    receivedAt: instant('received_at').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.firmId, table.runId, table.hash, table.at] }),
    foreignKey({ columns: [table.firmId, table.runId], foreignColumns: [run.firmId, run.id] }),
  ],
);
