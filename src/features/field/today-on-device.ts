import { may, type Role } from '@/core/permissions';
import type { KeptClash, Thing } from '@/core/register';
import type { DeviceStore } from '@/device/store';
import type { ListedTest, TodayData } from '@/features/today/today-view';

const mostNext = 6;
const mostRecent = 8;
const mostVisits = 12;

/** Today as this device knows it: of the sites that it takes along, and of what was done on it. */
export async function todayOnDevice(store: DeviceStore, on: string, role: Role): Promise<TodayData> {
  const visits = await store.visits.where('on').aboveOrEqual(on).sortBy('on');
  const facts = await store.facts.get('facts');
  const [sites, systems, histories, instruments, clashes] = await Promise.all([
    store.sites.toArray(),
    store.systems.toArray(),
    store.histories.toArray(),
    store.instruments.toArray(),
    store.clashes.toArray(),
  ]);
  const siteById = new Map(sites.map((site) => [site.id, site]));
  const systemById = new Map(systems.map((system) => [system.id, system]));
  const siteOf = (system: Thing<'system'> | undefined) => (system === undefined ? undefined : siteById.get(system.siteId));
  const listed = histories
    .map(({ systemId, test, run, verdict, simulated, at, certificate, alarm }): ListedTest => {
      const system = systemById.get(systemId);
      return {
        test,
        run,
        verdict,
        simulated,
        at,
        certificate,
        alarm,
        system: system?.name ?? 'A system',
        site: siteOf(system)?.name ?? '',
      };
    })
    .sort((a, b) => b.at - a.at);
  const over = listed.filter(({ verdict }) => verdict !== 'in progress');
  const lastOf = new Map<string, number>();
  for (const { systemId, at } of histories) lastOf.set(systemId, Math.max(at, lastOf.get(systemId) ?? 0));
  const names = new Map((facts?.people ?? []).map(({ id, name }) => [id, name]));
  const me = facts?.person.userId ?? '';
  return {
    visits: visits
      .filter(({ putAway, people }) => !putAway && (people.length === 0 || people.includes(me)))
      .slice(0, mostVisits)
      .map((visit) => ({
        visit,
        site: siteById.get(visit.siteId)?.name ?? '',
        people: visit.people.map((id) => names.get(id) ?? 'somebody'),
        systems: visit.tests.map(({ system }) => systemById.get(system)?.name ?? 'A system'),
      })),
    fallen: listed.filter(({ alarm }) => alarm !== undefined),
    unsealed: over.filter(({ certificate, run }) => certificate === undefined && run !== undefined),
    recent: over.filter(({ run }) => run !== undefined).slice(0, mostRecent),
    next: systems
      .filter((system) => !system.putAway && siteOf(system)?.putAway === false)
      .sort((a, b) => (lastOf.get(a.id) ?? 0) - (lastOf.get(b.id) ?? 0) || (a.name < b.name ? -1 : 1))
      .slice(0, mostNext)
      .map((system) => ({ id: system.id, name: system.name, site: siteOf(system)?.name ?? '', last: lastOf.get(system.id) })),
    instruments: instruments.filter(({ putAway }) => !putAway),
    clashes: clashesBySite(clashes, siteById, systemById),
    unread: [],
    maySeal: may(role, 'seal'),
  };
}

function clashesBySite(
  clashes: readonly KeptClash[],
  sites: ReadonlyMap<string, Thing<'site'>>,
  systems: ReadonlyMap<string, Thing<'system'>>,
): TodayData['clashes'] {
  const count = new Map<string, number>();
  for (const { of } of clashes) {
    const site = sites.has(of) ? of : systems.get(of)?.siteId;
    if (site !== undefined) count.set(site, (count.get(site) ?? 0) + 1);
  }
  return [...count].map(([site, many]) => ({ site, name: sites.get(site)?.name ?? '', count: many }));
}
