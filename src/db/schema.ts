import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  customType,
  date,
  foreignKey,
  index,
  integer,
  jsonb,
  pgSequence,
  pgTable,
  primaryKey,
  text,
  timestamp,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import type { TestVerdict } from '@/core/course';
import type { RunEvent } from '@/core/judging';
import type { Section } from '@/core/locating';
import type { Role } from '@/core/permissions';
import type { Plan, Variant } from '@/core/planning';
import type { PlanStart, Said, ThingKind } from '@/core/register';
import type { InstrumentKind, RigCheck } from '@/core/sizing';

const bytes = customType<{ data: Buffer }>({ dataType: () => 'bytea' });
const transactionId = customType<{ data: string }>({ dataType: () => 'xid8' });
const instant = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' });
const id = () => uuid('id').primaryKey();
/** Every table of the firm's own carries this, and a policy on it (see the row-security migration). */
const firmId = () => uuid('firm_id').notNull();

/**
 * The transaction that last changed a row, written by a trigger: differences are read from it, and what two write at the same time
 * is missed by neither.
 */
const changedIn = () => transactionId('changed_in').notNull().default(sql`pg_current_xact_id()`);
/** Of what is kept in the register: changes are counted, and nothing is taken away. */
const kept = () => ({
  version: integer('version').notNull().default(1),
  putAway: boolean('put_away').notNull().default(false),
  changedIn: changedIn(),
});

export * from './accounts';

export const firm = pgTable('firm', {
  id: id(),
  name: text('name').notNull(),
  emergencyNumber: text('emergency_number').notNull(),
  /** Counts the firm's certificates and tells the last seal; its row is the lock on the chain. */
  lastCertificate: integer('last_certificate').notNull().default(0),
  lastSeal: text('last_seal').notNull().default('0'.repeat(64)),
});

/** The firm's people by account id, for names beside what they wrote. */
export const person = pgTable(
  'person',
  {
    firmId: firmId(),
    id: text('id').notNull(),
    name: text('name').notNull(),
    role: text('role').$type<Role>().notNull(),
    putAwayAt: instant('put_away_at'),
  },
  (table) => [primaryKey({ columns: [table.firmId, table.id] })],
);

/** What was asked once, by the id that a client made for it: a retry gets the same answer. */
export const command = pgTable(
  'command',
  {
    firmId: firmId(),
    id: uuid('id').notNull(),
    author: text('author').notNull(),
    /** SHA-256 of what was asked. */
    content: text('content').notNull(),
    answer: jsonb('answer'),
    at: instant('at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.firmId, table.id] }), index('command_at').on(table.firmId, table.at)],
);

export const site = pgTable(
  'site',
  {
    id: id(),
    firmId: firmId(),
    name: text('name').notNull(),
    address: text('address').notNull(),
    occupier: text('occupier').notNull(),
    access: text('access').notNull().default(''),
    mergedInto: text('merged_into').notNull().default(''),
    apartFrom: jsonb('apart_from').$type<readonly string[]>().notNull().default([]),
    createdAt: instant('created_at').notNull(),
    ...kept(),
  },
  (table) => [unique('site_in_firm').on(table.firmId, table.id)],
);

export const system = pgTable(
  'system',
  {
    id: id(),
    firmId: firmId(),
    siteId: uuid('site_id').notNull(),
    name: text('name').notNull(),
    kind: text('kind').notNull(),
    pipes: text('pipes').notNull(),
    statedVolume: text('stated_volume').notNull(),
    answers: jsonb('answers').$type<Record<string, string>>().notNull(),
    sections: jsonb('sections').$type<readonly Section[]>().notNull(),
    createdAt: instant('created_at').notNull(),
    ...kept(),
  },
  (table) => [
    unique('system_in_firm').on(table.firmId, table.id),
    foreignKey({ columns: [table.firmId, table.siteId], foreignColumns: [site.firmId, site.id] }),
    index('system_by_site').on(table.firmId, table.siteId),
  ],
);

/** What hangs on a system; see `core/register/things.ts`. */
export const component = pgTable(
  'component',
  {
    id: id(),
    firmId: firmId(),
    systemId: uuid('system_id').notNull(),
    kind: text('kind').notNull(),
    make: text('make').notNull(),
    model: text('model').notNull(),
    serial: text('serial').notNull(),
    rating: text('rating').notNull(),
    height: text('height').notNull(),
    fitted: text('fitted').notNull(),
    removed: text('removed').notNull(),
    note: text('note').notNull(),
    createdAt: instant('created_at').notNull(),
    ...kept(),
  },
  (table) => [
    foreignKey({ columns: [table.firmId, table.systemId], foreignColumns: [system.firmId, system.id] }),
    index('component_by_system').on(table.firmId, table.systemId),
  ],
);

/** Balls, plugs, rings, regulators: what shows no figure. */
export const equipment = pgTable('equipment', {
  id: id(),
  firmId: firmId(),
  kind: text('kind').$type<Said<'equipment'>['kind']>().notNull(),
  name: text('name').notNull(),
  size: text('size').notNull(),
  rating: text('rating').notNull(),
  serial: text('serial').notNull(),
  note: text('note').notNull(),
  createdAt: instant('created_at').notNull(),
  ...kept(),
});

export const visit = pgTable(
  'visit',
  {
    id: id(),
    firmId: firmId(),
    siteId: uuid('site_id').notNull(),
    on: date('on_day', { mode: 'string' }).notNull(),
    people: jsonb('people').$type<readonly string[]>().notNull(),
    tests: jsonb('tests').$type<Said<'visit'>['tests']>().notNull(),
    ordered: boolean('ordered').notNull(),
    begins: text('begins').notNull(),
    note: text('note').notNull(),
    createdAt: instant('created_at').notNull(),
    ...kept(),
  },
  (table) => [
    foreignKey({ columns: [table.firmId, table.siteId], foreignColumns: [site.firmId, site.id] }),
    index('visit_by_site').on(table.firmId, table.siteId),
    index('visit_by_day').on(table.firmId, table.on),
  ],
);

/** A field that two people changed from the same beginning: what stands is with the thing, the other is here until a person has chosen. */
export const clash = pgTable(
  'clash',
  {
    id: id(),
    firmId: firmId(),
    thing: text('thing').$type<ThingKind>().notNull(),
    of: uuid('of').notNull(),
    field: text('field').notNull(),
    other: jsonb('other').notNull(),
    author: text('author').notNull(),
    at: instant('at').notNull(),
    settledBy: text('settled_by'),
    settledAt: instant('settled_at'),
    changedIn: changedIn(),
  },
  (table) => [index('clash_of').on(table.firmId, table.of), index('clash_open').on(table.firmId).where(sql`settled_at is null`)],
);

export const instrument = pgTable(
  'instrument',
  {
    id: id(),
    firmId: firmId(),
    name: text('name').notNull(),
    kind: text('kind').$type<InstrumentKind>().notNull(),
    unit: text('unit').notNull(),
    readability: text('readability').notNull(),
    rangeLow: text('range_low').notNull(),
    rangeHigh: text('range_high').notNull(),
    serial: text('serial').notNull(),
    calibrationNeeded: boolean('calibration_needed').notNull(),
    simulated: boolean('simulated').notNull().default(false),
    createdAt: instant('created_at').notNull(),
    ...kept(),
  },
  (table) => [unique('instrument_in_firm').on(table.firmId, table.id)],
);

export const calibration = pgTable(
  'calibration',
  {
    id: id(),
    firmId: firmId(),
    instrumentId: uuid('instrument_id').notNull(),
    doneOn: date('done_on', { mode: 'string' }).notNull(),
    dueOn: date('due_on', { mode: 'string' }).notNull(),
    reference: text('reference').notNull(),
    recordedBy: text('recorded_by').notNull(),
    recordedAt: instant('recorded_at').notNull(),
    changedIn: changedIn(),
  },
  (table) => [foreignKey({ columns: [table.firmId, table.instrumentId], foreignColumns: [instrument.firmId, instrument.id] })],
);

/** Every version of every house rule: a change is a new row, and so is lifting it. */
export const houseRule = pgTable(
  'house_rule',
  {
    id: id(),
    firmId: firmId(),
    procedure: text('procedure').notNull(),
    figure: text('figure').notNull(),
    value: text('value').notNull(),
    reference: text('reference').notNull(),
    version: integer('version').notNull().default(1),
    lifted: boolean('lifted').notNull().default(false),
    setBy: text('set_by').notNull().default(''),
    setAt: instant('set_at').notNull().defaultNow(),
  },
  (table) => [unique('house_rule_version').on(table.firmId, table.procedure, table.figure, table.version)],
);

/** Every published version of the firm's own procedures; withdrawing one is a version too. */
export const ownProcedure = pgTable(
  'own_procedure',
  {
    id: id(),
    firmId: firmId(),
    variantId: uuid('variant_id').notNull(),
    version: integer('version').notNull(),
    base: text('base').notNull(),
    title: text('title').notNull(),
    reference: text('reference').notNull(),
    figures: jsonb('figures').$type<Variant['figures']>().notNull(),
    withdrawn: boolean('withdrawn').notNull().default(false),
    publishedBy: text('published_by').notNull(),
    publishedAt: instant('published_at').notNull(),
  },
  (table) => [unique('own_procedure_version').on(table.firmId, table.variantId, table.version)],
);

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

export const signature = pgTable(
  'signature',
  {
    id: id(),
    firmId: firmId(),
    testId: uuid('test_id').notNull(),
    role: text('role').$type<'technician' | 'customer'>().notNull(),
    name: text('name').notNull(),
    /** Why nobody could sign. */
    absent: text('absent'),
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
    testId: uuid('test_id').notNull(),
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
