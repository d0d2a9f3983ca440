import { randomUUID } from 'node:crypto';
import { and, asc, eq, getTableColumns, inArray, isNull, or, type SQL, sql } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import { changers } from '@/core/permissions';
import {
  type Change,
  type Clash,
  type KeptClash,
  making,
  readChange,
  type Said,
  shapes,
  type Thing,
  type ThingKind,
  take,
} from '@/core/register';
import { type Transaction, together, withFirm } from '@/db/connection';
import { clash, component, equipment, instrument, site, system, visit } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { nowDate } from './clock';

/*
 * Making and changing what the register keeps. A device sends what somebody did to a thing, however long ago; what others did
 * meanwhile stands beside it, and nothing is lost.
 */

const tables = { site, system, component, instrument, equipment, visit } as const satisfies Record<ThingKind, PgTable>;

/** Their columns by the names of the shape, and what every one of them has. */
export const columnsOf = <K extends ThingKind>(kind: K): Readonly<Record<string, PgColumn>> => {
  const all = getTableColumns(tables[kind]) as unknown as Readonly<Record<string, PgColumn>>;
  const fields = Object.keys(shapes[kind].properties as object);
  return Object.fromEntries(['id', 'version', ...fields].map((field) => [field, all[field]]));
};

type Row = Readonly<Record<string, unknown>>;
const thingOf = <K extends ThingKind>(row: Row): Thing<K> => row as unknown as Thing<K>;

/** A thing as it stands, locked until the transaction is over. */
async function standing<K extends ThingKind>(tx: Transaction, kind: K, id: string): Promise<Thing<K> | undefined> {
  const table = tables[kind] as typeof site;
  const [row] = await tx
    .select(columnsOf(kind) as never)
    .from(table)
    .where(eq(table.id, id))
    .for('update');
  return row === undefined ? undefined : thingOf<K>(row as Row);
}

export interface KeptChange {
  readonly id: string;
  readonly is: 'made' | 'changed' | 'as it was';
  /** Fields that somebody else had changed: what stands is theirs, the other is kept for a person to choose. */
  readonly clashes: number;
}

/** Takes one change. The same again changes nothing. */
export async function keepChange(actor: Actor, input: unknown): Promise<Answer<KeptChange>> {
  const read = readChange(input);
  if (!read.ok) return refuse(400, read.problem.code, read.problem.message);
  const { thing, of } = read.value;
  const refused = refusedTo(actor, changers[thing]);
  if (refused !== undefined) return refused;
  return together(actor.firmId, async (tx) => {
    // Two devices that make the same thing meet here, as two that change it do.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${of}::text, 1))`);
    const now = await standing(tx, thing, of);
    const change = await redirected(tx, read.value);
    const owner = await ownerFault(tx, change);
    if (owner !== undefined) return owner;
    const said = now === undefined ? undefined : (without(now) as unknown as Said<typeof thing>);
    const taken = take(change, said);
    if (taken.is === 'unknown') return notFound;
    if (taken.is === 'refused') return refuse(400, taken.problem.code, taken.problem.message, taken.problem.field);
    const table = tables[thing] as typeof site;
    const values = taken.said as unknown as typeof site.$inferInsert;
    if (taken.is === 'made') {
      const made = await tx
        .insert(table)
        .values({ ...values, id: of, firmId: actor.firmId, createdAt: nowDate() })
        .onConflictDoNothing()
        .returning({ id: table.id });
      // The id is taken by something that this firm does not see.
      if (made.length === 0) return refuse(409, 'id-taken', 'This could not be kept under its id. Make it once more.');
    } else if (taken.is === 'changed')
      await tx
        .update(table)
        .set({ ...values, version: sql`${table.version} + 1` })
        .where(eq(table.id, of));
    const fresh = await keepClashes(tx, actor, change, taken.clashes);
    return answer({ id: of, is: taken.is, clashes: fresh });
  });
}

const without = <K extends ThingKind>({ id: _, version: __, ...said }: Thing<K>) => said;

/** What is made at a site, or of a system, that was put together with another goes to the other. */
async function redirected(tx: Transaction, change: Change): Promise<Change> {
  const siteId = change.fields.siteId?.is;
  if (typeof siteId !== 'string' || !isUuid(siteId)) return change;
  const [owner] = await tx.select({ mergedInto: site.mergedInto }).from(site).where(eq(site.id, siteId));
  return owner === undefined || owner.mergedInto === ''
    ? change
    : { ...change, fields: { ...change.fields, siteId: { ...change.fields.siteId, is: owner.mergedInto } } };
}

/** What it hangs on must be there, and this firm's. */
async function ownerFault(tx: Transaction, { fields }: Change): Promise<Answer<never> | undefined> {
  const missing = (message: string) => refuse(404, 'not-found', message);
  const { siteId, systemId } = fields;
  if (siteId !== undefined) {
    if (!isUuid(siteId.is)) return missing('The site that this belongs to is not here.');
    const [owner] = await tx.select({ id: site.id }).from(site).where(eq(site.id, siteId.is));
    if (owner === undefined) return missing('The site that this belongs to is not here.');
  }
  if (systemId !== undefined) {
    if (!isUuid(systemId.is)) return missing('The system that this belongs to is not here.');
    const [owner] = await tx.select({ id: system.id }).from(system).where(eq(system.id, systemId.is));
    if (owner === undefined) return missing('The system that this belongs to is not here.');
  }
  return undefined;
}

/** Keeps what does not stand; said twice it is kept once. */
async function keepClashes(tx: Transaction, actor: Actor, { thing, of }: Change, clashes: readonly Clash[]): Promise<number> {
  if (clashes.length === 0) return 0;
  const open = await tx
    .select({ field: clash.field, other: clash.other })
    .from(clash)
    .where(and(eq(clash.of, of), isNull(clash.settledAt)));
  const fresh = clashes.filter(
    ({ field, other }) => !open.some((one) => one.field === field && JSON.stringify(one.other) === JSON.stringify(other)),
  );
  if (fresh.length > 0)
    await tx.insert(clash).values(
      fresh.map(({ field, other }) => ({
        id: randomUUID(),
        firmId: actor.firmId,
        thing,
        of,
        field,
        other,
        author: actor.userId,
        at: nowDate(),
      })),
    );
  return fresh.length;
}

/** Several changes, all of them or none: what belongs together is never half done. */
export async function keepChanges(actor: Actor, input: unknown): Promise<Answer<readonly KeptChange[]>> {
  if (!Array.isArray(input) || input.length === 0 || input.length > 200)
    return refuse(400, 'form', 'Send the changes as a list, 200 at most.');
  return together(actor.firmId, async () => {
    const kept: KeptChange[] = [];
    for (const one of input) {
      const result = await keepChange(actor, one);
      // The command around it takes back what was done before.
      if (!result.ok) return result;
      kept.push(result.value);
    }
    return answer(kept);
  });
}

/** A new thing, where its id does not matter to whoever makes it. */
export async function makeThing<K extends ThingKind>(actor: Actor, kind: K, said: Partial<Said<K>>): Promise<Answer<{ id: string }>> {
  const made = await keepChange(actor, making(kind, randomUUID(), said));
  return made.ok ? answer({ id: made.value.id }) : made;
}

/** Systems of some sites, those that are put away left out. */
export const systemsOfSites = (tx: Transaction, siteIds: readonly string[]) =>
  tx
    .select({ id: system.id, name: system.name, siteId: system.siteId })
    .from(system)
    .where(and(eq(system.putAway, false), inArray(system.siteId, [...siteIds])));

/** Settles a clash: what stands stays, or the other takes its place. */
export async function settleClash(actor: Actor, id: string, choice: unknown): Promise<Answer<{ settled: true }>> {
  if (!isUuid(id)) return notFound;
  if (choice !== 'stands' && choice !== 'other') return refuse(400, 'form', 'Choose which of the two stands.');
  return together(actor.firmId, async (tx) => {
    const [found] = await tx.select().from(clash).where(eq(clash.id, id)).for('update');
    if (found === undefined) return notFound;
    const refused = refusedTo(actor, changers[found.thing]);
    if (refused !== undefined) return refused;
    if (found.settledAt !== null) return refuse(409, 'settled', 'Somebody has chosen already. Look at what stands now.');
    if (choice === 'other') {
      const now = await standing(tx, found.thing, found.of);
      if (now === undefined) return notFound;
      const was = (now as unknown as Row)[found.field];
      const kept = await keepChange(actor, {
        thing: found.thing,
        of: found.of,
        fields: { [found.field]: { was, is: found.other } },
      });
      if (!kept.ok) return kept;
    }
    await tx.update(clash).set({ settledBy: actor.userId, settledAt: nowDate() }).where(eq(clash.id, id));
    return answer({ settled: true });
  });
}

/** Things of a kind as they stand, by name where they have one. */
export async function thingsOf<K extends ThingKind>(tx: Transaction, kind: K, where?: SQL): Promise<readonly Thing<K>[]> {
  const columns = columnsOf(kind);
  const rows = await tx
    .select(columns as never)
    .from(tables[kind] as typeof site)
    .where(where)
    .orderBy(asc((columns.name ?? columns.on ?? columns.kind) as never));
  return (rows as readonly Row[]).map((row) => thingOf<K>(row));
}

/** What hangs on systems, whether it still does or not. */
export const componentsOf = (tx: Transaction, systems: readonly string[]): Promise<readonly Thing<'component'>[]> =>
  systems.length === 0 ? Promise.resolve([]) : thingsOf(tx, 'component', inArray(component.systemId, [...systems]));

export const readThing = <K extends ThingKind>(actor: Actor, kind: K, id: string): Promise<Thing<K> | undefined> =>
  isUuid(id)
    ? withFirm(actor.firmId, async (tx) => (await thingsOf(tx, kind, eq((tables[kind] as typeof site).id, id)))[0])
    : Promise.resolve(undefined);

export const sitesOf = (tx: Transaction, ids: readonly string[]): Promise<readonly Thing<'site'>[]> =>
  ids.length === 0 ? Promise.resolve([]) : thingsOf(tx, 'site', inArray(site.id, [...new Set(ids)]));

export interface OpenClash extends KeptClash {
  /** The site that it belongs to; none of its own for an instrument. */
  readonly siteId: string;
  readonly siteName: string;
}

/** What two people changed and nobody has chosen between yet, with the site that each belongs to. */
export const clashesOf = (firmId: string): Promise<readonly OpenClash[]> =>
  withFirm(firmId, async (tx) => {
    const open = await tx.select().from(clash).where(isNull(clash.settledAt)).orderBy(asc(clash.at)).limit(200);
    const ids = open.map(({ of }) => of);
    if (ids.length === 0) return [];
    const systems = await tx
      .select({ id: system.id, siteId: system.siteId, component: component.id })
      .from(system)
      .leftJoin(component, eq(component.systemId, system.id))
      .where(or(inArray(system.id, ids), inArray(component.id, ids)));
    const visits = await tx.select({ id: visit.id, siteId: visit.siteId }).from(visit).where(inArray(visit.id, ids));
    const siteOf = (of: string) =>
      systems.find((one) => one.id === of || one.component === of)?.siteId ?? visits.find(({ id }) => id === of)?.siteId ?? of;
    const sites = await sitesOf(
      tx,
      open.map(({ of }) => siteOf(of)),
    );
    return open.map(({ id, thing, of, field, other, author, at }) => ({
      id,
      thing,
      of,
      field,
      other,
      author,
      at: at.getTime(),
      siteId: siteOf(of),
      siteName: sites.find((one) => one.id === siteOf(of))?.name ?? '',
    }));
  });
