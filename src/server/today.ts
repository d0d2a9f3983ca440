import { and, eq, gte, inArray } from 'drizzle-orm';
import { dateText } from '@/core/exact';
import { may } from '@/core/permissions';
import { withFirm } from '@/db/connection';
import { system, visit } from '@/db/schema';
import type { Actor } from './actor';
import { now } from './clock';
import { listPeople } from './firms';
import { listInstruments } from './instruments';
import { type Listed, listNext, listStandings } from './standing';
import { listQuarantine } from './tests';
import { clashesOf, sitesOf, thingsOf } from './things';

const listed = ({ testId, runId, system, site, verdict, simulated, createdAt, certificate, alarm }: Listed) => ({
  test: testId,
  ...(runId === null ? {} : { run: runId }),
  system,
  site,
  verdict,
  simulated,
  at: createdAt.getTime(),
  ...(certificate === null ? {} : { certificate }),
  ...(alarm === null ? {} : { alarm }),
});

const mostVisits = 12;

/** Visits that are to come, whoever goes. */
const comingVisits = (firmId: string) =>
  withFirm(firmId, async (tx) => {
    const on = dateText(now());
    const visits = (await thingsOf(tx, 'visit', and(eq(visit.putAway, false), gte(visit.on, on)))).slice(0, mostVisits);
    const tested = [...new Set(visits.flatMap(({ tests }) => tests.map(({ system: id }) => id)))];
    const sites = await sitesOf(
      tx,
      visits.map(({ siteId }) => siteId),
    );
    return { visits, sites, systems: tested.length === 0 ? [] : await thingsOf(tx, 'system', inArray(system.id, tested)) };
  });

/** What the office sees of the day. */
export async function readToday(actor: Actor) {
  const { firmId } = actor;
  const [unsealed, fallen, recent, next, instruments, people, unread, clashes, coming] = await Promise.all([
    listStandings(firmId, 50, { only: 'unsealed' }),
    listStandings(firmId, 50, { only: 'alarm' }),
    listStandings(firmId, 8, { only: 'over' }),
    listNext(actor, 6),
    listInstruments(actor),
    listPeople(firmId),
    listQuarantine(actor),
    clashesOf(firmId),
    comingVisits(firmId),
  ]);
  const names = new Map(people.map(({ id, name }) => [id, name]));
  const site = (id: string) => coming.sites.find((one) => one.id === id)?.name ?? '';
  const perSite = new Map<string, { readonly name: string; count: number }>();
  for (const { siteId, siteName } of clashes) {
    const one = perSite.get(siteId) ?? { name: siteName, count: 0 };
    one.count += 1;
    perSite.set(siteId, one);
  }
  return {
    visits: coming.visits.map((one) => ({
      visit: one,
      site: site(one.siteId),
      people: one.people.map((id) => names.get(id) ?? 'somebody'),
      systems: one.tests.map(({ system: id }) => coming.systems.find((own) => own.id === id)?.name ?? 'A system'),
    })),
    unsealed: unsealed.map(listed),
    fallen: fallen.map(listed),
    recent: recent.map(listed),
    next: next.map(({ id, name, site: at, last }) => ({ id, name, site: at, ...(last === undefined ? {} : { last: last.getTime() }) })),
    instruments,
    clashes: [...perSite].map(([id, { name, count }]) => ({ site: id, name, count })),
    unread: unread.map(({ id, why, receivedAt }) => ({ id, why, at: receivedAt.getTime() })),
    maySeal: may(actor.role, 'seal'),
  };
}
