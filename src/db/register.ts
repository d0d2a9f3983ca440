import { sql } from 'drizzle-orm';
import { boolean, date, foreignKey, index, integer, jsonb, pgTable, primaryKey, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { Section } from '@/core/locating';
import type { Role } from '@/core/permissions';
import type { Variant } from '@/core/planning';
import type { PaperLocale } from '@/core/record';
import type { Said, ThingKind } from '@/core/register';
import type { InstrumentKind } from '@/core/sizing';
import { bytes, changedIn, firmId, id, instant, kept } from './columns';

/* The firm, its people, and what they test and carry. */
export const firm = pgTable('firm', {
  id: id(),
  name: text('name').notNull(),
  emergencyNumber: text('emergency_number').notNull(),
  /* What stands on its papers; empty where nobody stated it. */
  address: text('address').notNull().default(''),
  registration: text('registration').notNull().default(''),
  supplierNumber: text('supplier_number').notNull().default(''),
  /** Where customers' answers go. */
  mail: text('mail').notNull().default(''),
  /** Zone of the office, by its name in the zone database. */
  zone: text('zone').notNull().default('UTC'),
  locale: text('locale').$type<PaperLocale>().notNull().default('en-GB'),
  sheet: text('sheet').$type<'A4' | 'letter'>().notNull().default('A4'),
  /** A supervisor signs too before a paper is sealed. */
  countersign: boolean('countersign').notNull().default(false),
  /** SHA-256 of the logo that papers carry from now on. */
  logo: text('logo').notNull().default(''),
  /** Counts the firm's certificates and tells the last seal; its row is the lock on the chain. */
  lastCertificate: integer('last_certificate').notNull().default(0),
  lastSeal: text('last_seal').notNull().default('0'.repeat(64)),
});

/** Every logo that papers were sealed with; none is ever lost, or those papers could not be made again. */
export const firmLogo = pgTable(
  'firm_logo',
  { firmId: firmId(), hash: text('hash').notNull(), picture: bytes('picture').notNull(), addedAt: instant('added_at').notNull() },
  (table) => [primaryKey({ columns: [table.firmId, table.hash] })],
);

/** The firm's people by account id, for names beside what they wrote. */
export const person = pgTable(
  'person',
  {
    firmId: firmId(),
    id: text('id').notNull(),
    name: text('name').notNull(),
    role: text('role').$type<Role>().notNull(),
    /** Number of the licence that they work under, as papers state it. */
    licence: text('licence').notNull().default(''),
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
