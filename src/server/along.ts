import { and, desc, eq, gt, gte, inArray, isNotNull, isNull, lte, or, type SQL, sql } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import { dateText } from '@/core/exact';
import { type Along, type AlongAsked, type History, isFound, type KeptClash, searchWords, type Thing } from '@/core/register';
import { type Transaction, withFirm } from '@/db/connection';
import { calibration, clash, component, equipment, instrument, person, site, standing, system, test, visit } from '@/db/schema';
import type { Actor } from './actor';
import { type Answer, answer, isUuid, refuse } from './answers';
import { now } from './clock';
import { deliveryKey } from './delivery';
import { isDemo } from './environment';
import { listPeople, readFirm } from './firms';
import { openFollowUps, shownFollowUp } from './follow-ups';
import { knownInstruments } from './instruments';
import { listHouseRules, listOwnProcedures } from './rules';
import { systemsOfSites, thingsOf } from './things';

/*
 * What a device takes along. It says which sites it has and up to which place; it gets what it is to have, what was changed since,
 * and whole what is new to it. A place is a transaction number below which everything is over, so that nothing written at the same
 * moment is missed.
 */

const dayMs = 86_400_000;
/** Visits from a week ago until three weeks on, and what was worked on within two months. */
const visitsBackMs = 7 * dayMs;
const visitsOnMs = 21 * dayMs;
const recentMs = 60 * dayMs;
/** No device takes more sites than this; those of visits first, then the pinned, then the latest used. */
const mostSites = 400;
/** Of each system so many of its last tests. */
const mostHistory = 12;

const idsOf = (value: unknown): readonly string[] =>
  Array.isArray(value) ? [...new Set(value.filter((one): one is string => typeof one === 'string' && isUuid(one)))].slice(0, 2000) : [];

function readAsked(input: Readonly<Record<string, unknown>>): AlongAsked {
  const { epoch, since } = input;
  return {
    epoch: typeof epoch === 'string' ? epoch.slice(0, 80) : '',
    since: typeof since === 'string' && /^\d{1,20}$/.test(since) ? since : '0',
    have: idsOf(input.have),
    pinned: idsOf(input.pinned),
  };
}

/** The sites that a person's device takes along, by what they do there. */
async function scopeOf(tx: Transaction, actor: Actor, pinned: readonly string[]): Promise<readonly string[]> {
  const at = now();
  const visits = await tx
    .select({ id: visit.siteId, people: visit.people })
    .from(visit)
    .where(
      and(
        eq(visit.putAway, false),
        gte(visit.on, dateText(at - visitsBackMs)),
        lte(visit.on, dateText(at + visitsOnMs)),
        sql`(${visit.people} = '[]'::jsonb or ${visit.people} @> ${JSON.stringify([actor.userId])}::jsonb)`,
      ),
    )
    .orderBy(visit.on)
    .limit(1000);
  const latest = await tx
    .select({ id: system.siteId, at: sql`max(${test.createdAt})`.as('at') })
    .from(test)
    .innerJoin(system, eq(system.id, test.systemId))
    .where(and(eq(test.author, actor.userId), gt(test.createdAt, new Date(at - recentMs))))
    .groupBy(system.siteId)
    .orderBy(desc(sql`at`))
    .limit(1000);
  const wanted = [...new Set([...visits, ...pinned.map((id) => ({ id })), ...latest].map(({ id }) => id))].slice(0, mostSites);
  if (wanted.length === 0) return [];
  const there = await tx
    .select({ id: site.id, mergedInto: site.mergedInto })
    .from(site)
    .where(and(inArray(site.id, wanted), or(eq(site.putAway, false), sql`${site.mergedInto} <> ''`)));
  const by = new Map(there.map((one) => [one.id, one.mergedInto || one.id]));
  return [...new Set(wanted.flatMap((id) => by.get(id) ?? []))];
}

/** Everything of these systems for a device that has none of it, or only what was changed since. */
const changedSince = (column: PgColumn, since: string | undefined): SQL | undefined =>
  since === undefined ? undefined : sql`${column} >= ${since}::xid8`;

async function historiesOf(tx: Transaction, systems: readonly string[], since: string | undefined): Promise<readonly History[]> {
  if (systems.length === 0) return [];
  const places = tx
    .select({
      testId: standing.testId,
      place: sql<number>`row_number() over (partition by ${standing.systemId} order by ${standing.createdAt} desc)`.as('place'),
    })
    .from(standing)
    .where(inArray(standing.systemId, [...systems]))
    .as('places');
  const rows = await tx
    .select({ row: standing, technician: person.name })
    .from(standing)
    .innerJoin(places, eq(places.testId, standing.testId))
    .innerJoin(person, eq(person.id, standing.author))
    .where(and(lte(places.place, mostHistory), changedSince(standing.changedIn, since)));
  return rows.map(({ row, technician }) => historyOf(row, technician));
}

export const historyOf = (row: Omit<typeof standing.$inferSelect, 'changedIn' | 'changed'>, technician: string): History => ({
  test: row.testId,
  systemId: row.systemId,
  ...(row.runId === null ? {} : { run: row.runId }),
  ...(row.procedure === null ? {} : { procedure: row.procedure }),
  verdict: row.verdict,
  at: row.createdAt.getTime(),
  technician,
  attempts: row.attempts,
  simulated: row.simulated,
  ...(row.certificate === null ? {} : { certificate: row.certificate }),
  ...(row.alarm === null ? {} : { alarm: row.alarm }),
  ...(row.start === null ? {} : { start: row.start }),
});

/** Instruments that a difference brings: changed themselves, calibrated, or with a rig that was checked. */
async function instrumentIdsSince(tx: Transaction, since: string): Promise<readonly string[]> {
  const own = await tx.select({ id: instrument.id }).from(instrument).where(changedSince(instrument.changedIn, since));
  const calibrated = await tx.select({ id: calibration.instrumentId }).from(calibration).where(changedSince(calibration.changedIn, since));
  const checked = await tx
    .select({ rig: standing.rig })
    .from(standing)
    .where(and(isNotNull(standing.rig), changedSince(standing.changedIn, since)));
  return [...own.map(({ id }) => id), ...calibrated.map(({ id }) => id), ...checked.flatMap(({ rig }) => rig?.instrument ?? [])];
}

async function clashesSince(tx: Transaction, since: string | undefined): Promise<Pick<Along, 'clashes' | 'settled'>> {
  const open = await tx
    .select()
    .from(clash)
    .where(and(isNull(clash.settledAt), changedSince(clash.changedIn, since)))
    .limit(500);
  const over =
    since === undefined
      ? []
      : await tx
          .select({ id: clash.id })
          .from(clash)
          .where(and(isNotNull(clash.settledAt), changedSince(clash.changedIn, since)))
          .limit(500);
  return {
    clashes: open.map(
      ({ id, thing, of, field, other, author, at }): KeptClash => ({ id, thing, of, field, other, author, at: at.getTime() }),
    ),
    settled: over.map(({ id }) => id),
  };
}

/** The register of a device's sites, as differences from what it has. */
export async function takeAlong(actor: Actor, input: Readonly<Record<string, unknown>>, device?: string): Promise<Answer<Along>> {
  const asked = readAsked(input);
  const asOf = now();
  const [firm, houseRules, ownProcedures] = await Promise.all([
    readFirm(actor.firmId),
    listHouseRules(actor.firmId),
    listOwnProcedures(actor.firmId),
  ]);
  if (firm === undefined) return refuse(409, 'no-firm', 'This account belongs to no firm.');
  return withFirm(actor.firmId, async (tx) => {
    // Before anything is read: what is still under way has a number that is not below this.
    const { rows } = await tx.execute<{ epoch: string; place: string }>(
      sql`select register_epoch() as epoch, pg_snapshot_xmin(pg_current_snapshot())::text as place`,
    );
    const [{ epoch, place }] = rows;
    const same = epoch === asked.epoch && asked.since !== '0';
    const scope = await scopeOf(tx, actor, asked.pinned);
    const had = same ? scope.filter((id) => asked.have.includes(id)) : [];
    const fresh = scope.filter((id) => !had.includes(id));
    const { since } = asked;
    const [old, whole] = [had, fresh].map((ids) => [...ids]);
    const inScope = (column: PgColumn, changed: PgColumn): SQL | undefined =>
      or(
        old.length === 0 ? sql`false` : and(inArray(column, old), changedSince(changed, since)),
        whole.length === 0 ? sql`false` : inArray(column, whole),
      );
    const systemsOf = async (ids: readonly string[]) =>
      ids.length === 0
        ? []
        : (
            await tx
              .select({ id: system.id })
              .from(system)
              .where(inArray(system.siteId, [...ids]))
          ).map(({ id }) => id);
    const [oldSystems, newSystems] = [await systemsOf(old), await systemsOf(whole)];
    const ofSystems = (column: PgColumn, changed: PgColumn): SQL | undefined =>
      or(
        oldSystems.length === 0 ? sql`false` : and(inArray(column, oldSystems), changedSince(changed, since)),
        newSystems.length === 0 ? sql`false` : inArray(column, newSystems),
      );
    const people = await listPeople(actor.firmId);
    return answer({
      epoch,
      since: place,
      asOf,
      person: { userId: actor.userId, firmId: actor.firmId, name: actor.name, role: actor.role },
      delivery: deliveryKey(actor, device),
      firm: { ...firm, demo: isDemo() },
      people,
      followUps: (await openFollowUps(actor.firmId))
        .filter((one) => one.person === '' || one.person === actor.userId)
        .map(shownFollowUp(new Map(people.map(({ id, name }) => [id, name])))),
      houseRules,
      ownProcedures,
      scope,
      sites: await thingsOf(tx, 'site', inScope(site.id, site.changedIn)),
      systems: await thingsOf(tx, 'system', inScope(system.siteId, system.changedIn)),
      components: await thingsOf(tx, 'component', ofSystems(component.systemId, component.changedIn)),
      visits: await thingsOf(tx, 'visit', inScope(visit.siteId, visit.changedIn)),
      equipment: await thingsOf(tx, 'equipment', same ? changedSince(equipment.changedIn, since) : undefined),
      instruments: await knownInstruments(tx, same ? await instrumentIdsSince(tx, since) : undefined),
      histories: [...(await historiesOf(tx, oldSystems, since)), ...(await historiesOf(tx, newSystems, undefined))],
      ...(await clashesSince(tx, same ? since : undefined)),
    });
  });
}

export interface FoundSite {
  readonly site: Pick<Thing<'site'>, 'id' | 'name' | 'address' | 'occupier'>;
  readonly systems: readonly string[];
}

/** Sites of the firm by words of their name, address or occupier, or of a system's name; those that begin so first. */
export async function searchSites(actor: Actor, text: string, systemId = ''): Promise<Answer<readonly FoundSite[]>> {
  const words = searchWords(text);
  if (words.length === 0 && !isUuid(systemId)) return answer([]);
  return withFirm(actor.firmId, async (tx) => {
    const ofSystem = isUuid(systemId)
      ? inArray(site.id, tx.select({ id: system.siteId }).from(system).where(eq(system.id, systemId)))
      : undefined;
    const like = words.slice(0, 6).map((word) => {
      const pattern = `%${word.replace(/[\\%_]/g, '\\$&')}%`;
      return sql`(${site.name} || ' ' || ${site.address} || ' ' || ${site.occupier} || ' ' || coalesce((select string_agg(${system.name}, ' ') from ${system} where ${system.siteId} = ${site.id} and not ${system.putAway}), '')) ilike ${pattern}`;
    });
    const found = await tx
      .select({ id: site.id, name: site.name, address: site.address, occupier: site.occupier })
      .from(site)
      .where(and(eq(site.putAway, false), ofSystem, ...like))
      .orderBy(site.name)
      .limit(30);
    if (found.length === 0) return answer([]);
    const names = await systemsOfSites(
      tx,
      found.map(({ id }) => id),
    );
    const byName = [...found].sort((a, b) => Number(!isFound(words, a.name)) - Number(!isFound(words, b.name)));
    return answer(byName.map((one) => ({ site: one, systems: names.filter(({ siteId }) => siteId === one.id).map(({ name }) => name) })));
  });
}
