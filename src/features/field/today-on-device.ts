import { may, type Role } from '@/core/permissions';
import type { KeptClash, Thing } from '@/core/register';
import type { DeviceStore, KeptHistory, Tables } from '@/device/store';
import type { ListedTest, TodayData } from '@/features/today/today-view';

const mostNext = 6;
const mostRecent = 8;
const mostVisits = 12;

/** Today as this device knows it: of the sites that it takes along, and of what was done on it. */
export const todayOnDevice = (store: Pick<DeviceStore, 'transaction'>, on: string, role: Role): Promise<TodayData> =>
  // One look at one state of the store.
  store.transaction('r', ['visits', 'facts', 'histories', 'lasts', 'instruments', 'clashes', 'systems', 'sites'], (read) =>
    looked(read, on, role),
  );

async function looked(store: Tables, on: string, role: Role): Promise<TodayData> {
  const [visits, facts, owing, newest, instruments, clashes, next] = await Promise.all([
    store.visits.where('on').aboveOrEqual(on).sortBy('on'),
    store.facts.get('facts'),
    store.histories.where('owes').anyOf(['seal', 'look']).distinct().toArray(),
    store.histories
      .orderBy('at')
      .reverse()
      .filter(({ verdict, run }) => verdict !== 'in progress' && run !== undefined)
      .limit(mostRecent)
      .toArray(),
    store.instruments.toArray(),
    store.clashes.toArray(),
    longestAgo(store),
  ]);
  const ofSystems = [...owing, ...newest].map(({ systemId }) => systemId);
  const named = await store.systems.bulkGet([
    ...new Set([...ofSystems, ...visits.flatMap(({ tests }) => tests.map(({ system }) => system)), ...clashes.map(({ of }) => of)]),
  ]);
  const systemById = new Map(
    [...named, ...next.map(({ system }) => system)].flatMap((system) => (system === undefined ? [] : [[system.id, system] as const])),
  );
  const sites = await store.sites.bulkGet([
    ...new Set([
      ...[...systemById.values()].map(({ siteId }) => siteId),
      ...visits.map(({ siteId }) => siteId),
      ...clashes.map(({ of }) => of),
    ]),
  ]);
  const siteById = new Map(sites.flatMap((site) => (site === undefined ? [] : [[site.id, site] as const])));
  const siteOf = (system: Thing<'system'> | undefined) => (system === undefined ? undefined : siteById.get(system.siteId));
  const listed = ({ systemId, test, run, verdict, simulated, at, certificate, alarm }: KeptHistory): ListedTest => {
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
  };
  const owed = (what: KeptHistory['owes'][number]): readonly ListedTest[] =>
    owing
      .filter(({ owes }) => owes.includes(what))
      .sort((a, b) => b.at - a.at)
      .map(listed);
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
    fallen: owed('look'),
    unsealed: owed('seal'),
    recent: newest.map(listed),
    next: next.map(({ system, last }) => ({ id: system.id, name: system.name, site: siteOf(system)?.name ?? '', last })),
    instruments: instruments.filter(({ putAway }) => !putAway),
    clashes: clashesBySite(clashes, siteById, systemById),
    unread: [],
    maySeal: may(role, 'seal'),
  };
}

/** The systems in use that were tested longest ago, those never tested first; of those that were read together, by name. */
async function longestAgo(store: Tables): Promise<readonly { readonly system: Thing<'system'>; readonly last: number | undefined }[]> {
  const found: { readonly system: Thing<'system'>; readonly last: number | undefined }[] = [];
  const many = 4 * mostNext;
  for (let from = 0; found.length < mostNext; from += many) {
    const lasts = await store.lasts.orderBy('at').offset(from).limit(many).toArray();
    const systems = await store.systems.bulkGet(lasts.map(({ systemId }) => systemId));
    const sites = await store.sites.bulkGet(systems.map((system) => system?.siteId ?? ''));
    for (const [index, system] of systems.entries())
      if (system !== undefined && !system.putAway && sites[index]?.putAway === false)
        found.push({ system, last: lasts[index].at === 0 ? undefined : lasts[index].at });
    if (lasts.length < many) break;
  }
  return found.sort((a, b) => (a.last ?? 0) - (b.last ?? 0) || (a.system.name < b.system.name ? -1 : 1)).slice(0, mostNext);
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
