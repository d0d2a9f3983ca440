'use client';

import { useEffect, useState } from 'react';
import { addressOf } from '@/core/permissions';
import { isFound, searchWords, twinsOf } from '@/core/register';
import { useDevice } from '@/device/provider';
import { pin } from '@/device/register';
import type { Tables } from '@/device/store';
import { useSiteGround } from '@/device/use-ground';
import { useLive } from '@/device/use-live';
import { Absent } from '@/features/frame/page';
import type { Place } from '@/features/frame/places';
import { SignalLine } from '@/features/frame/signal-line';
import { To } from '@/features/frame/source';
import { InstrumentsView } from '@/features/instruments/instruments-view';
import { type SiteData, SiteView } from '@/features/sites/site-view';
import { type ListedSite, SiteRows, SitesView } from '@/features/sites/sites-view';
import { VisitView } from '@/features/visits/visit-view';
import { Button } from '@/ui/button';
import { link } from '@/ui/classes';

type Shown<A extends Place['at']> = { readonly place: Extract<Place, { at: A }>; readonly go: (place: Place) => void };

const opening = <p className="p-6 text-quiet">Opening…</p>;

/** Sites on this device by their words, and how many there are. */
async function sitesOnDevice(
  store: Tables,
  words: string,
): Promise<{ readonly found: readonly ListedSite[]; readonly total: number; readonly ids: ReadonlySet<string> }> {
  const wanted = searchWords(words);
  const [sites, systems] = await Promise.all([store.sites.toArray(), store.systems.toArray()]);
  const names = new Map<string, string[]>();
  for (const { siteId, name, putAway } of systems.sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true })))
    if (!putAway) names.set(siteId, [...(names.get(siteId) ?? []), name]);
  const inUse = sites.filter(({ putAway }) => !putAway).sort((a, b) => a.name.localeCompare(b.name));
  return {
    found: inUse
      .map((site) => ({ site, systems: names.get(site.id) ?? [] }))
      .filter(({ site, systems: own }) => isFound(wanted, `${site.name} ${site.address} ${site.occupier} ${own.join(' ')}`)),
    total: inUse.length,
    ids: new Set(inUse.map(({ id }) => id)),
  };
}

/** What the server finds beyond this device, a moment after the last key; nothing without signal. */
function useServerSearch(words: string): readonly ListedSite[] | undefined {
  const [found, setFound] = useState<readonly ListedSite[]>();
  useEffect(() => {
    setFound(undefined);
    if (searchWords(words).length === 0) return;
    const ending = new AbortController();
    const timer = setTimeout(async () => {
      try {
        const response = await fetch(`${addressOf('GET /api/field/search')}?words=${encodeURIComponent(words)}`, { signal: ending.signal });
        if (response.ok) setFound((await response.json()) as readonly ListedSite[]);
      } catch {
        // No signal: what is on this device is what there is.
      }
    }, 250);
    return () => {
      clearTimeout(timer);
      ending.abort();
    };
  }, [words]);
  return found;
}

export function SitesPlace({ place }: Shown<'sites'>) {
  const { store } = useDevice();
  const [words, setWords] = useState(place.words ?? '');
  const here = useLive(store, (read) => sitesOnDevice(read, words), [words]);
  const server = useServerSearch(words);
  if (here === undefined) return opening;
  const beyond = (server ?? []).filter(({ site }) => !here.ids.has(site.id));
  return (
    <SitesView
      words={words}
      search={setWords}
      found={here.found}
      total={here.total}
      signal={<SignalLine />}
      beyond={
        <>
          <SiteRows title="Not on this device yet" sites={beyond} />
          {words.trim() === '' && (
            <p className="mt-4 text-sm text-quiet">
              These are the sites of your visits, those you used lately, and those kept here. With signal a search finds every site of the
              firm; opening one takes it along.
            </p>
          )}
        </>
      }
    />
  );
}

async function siteOnDevice(store: Tables, id: string): Promise<SiteData | 'absent'> {
  const site = await store.sites.get(id);
  if (site === undefined) return 'absent';
  const systems = await store.systems.where('siteId').equals(id).sortBy('name');
  const ids = systems.map((system) => system.id);
  const [components, histories, visits, facts, clashes, sites] = await Promise.all([
    store.components.where('systemId').anyOf(ids).toArray(),
    store.histories.where('systemId').anyOf(ids).toArray(),
    store.visits.where('siteId').equals(id).toArray(),
    store.facts.get('facts'),
    store.clashes.toArray(),
    store.sites.toArray(),
  ]);
  return {
    site,
    systems: systems.map((system) => ({
      system,
      components: components.filter(({ systemId }) => systemId === system.id),
      tests: histories.filter(({ systemId }) => systemId === system.id).sort((a, b) => b.at - a.at),
    })),
    visits,
    people: facts?.people ?? [],
    clashes,
    twins: twinsOf(site, sites),
  };
}

/** A site that is not on this device is brought when it is opened, and kept for a while. */
function useBrought(site: string, isHere: boolean | undefined): 'asking' | 'no' | undefined {
  const { store, refresh } = useDevice();
  const [asked, setAsked] = useState<'asking' | 'no'>();
  useEffect(() => {
    if (isHere === undefined) return;
    if (isHere) {
      void store.pins.get(site).then((there) => (there?.by === 'hand' ? undefined : pin(store, site, 'opened')));
      return;
    }
    setAsked('asking');
    void pin(store, site, 'opened')
      .then(refresh)
      .then(async () => setAsked((await store.sites.get(site)) === undefined ? 'no' : undefined));
  }, [store, refresh, site, isHere]);
  return asked;
}

export function SitePlace({ place }: Shown<'site'>) {
  const { store } = useDevice();
  const data = useLive(store, (read) => siteOnDevice(read, place.site), [place.site]);
  const kept = useLive(store, async ({ pins }) => (await pins.get(place.site))?.by === 'hand', [place.site]);
  const asked = useBrought(place.site, data === undefined ? undefined : data !== 'absent');
  if (data === undefined || (data === 'absent' && asked !== 'no')) return opening;
  if (data === 'absent')
    return (
      <Absent
        title="This site is not on this device"
        back={
          <To place={{ at: 'sites' }} className={link}>
            Sites
          </To>
        }
      >
        There is no signal to bring it with, or there is no such site. Open it once with signal.
      </Absent>
    );
  return (
    <SiteView
      data={data}
      signal={<SignalLine />}
      kept={
        <Button tone="quiet" aria-pressed={kept === true} onClick={() => pin(store, place.site, kept === true ? 'opened' : 'hand')}>
          {kept === true ? 'Kept on this device' : 'Keep on this device'}
        </Button>
      }
    />
  );
}

export function VisitPlace({ place }: Shown<'visit'>) {
  const { store } = useDevice();
  const visit = useLive(store, async ({ visits }) => (await visits.get(place.visit)) ?? 'absent', [place.visit]);
  if (visit === undefined) return opening;
  if (visit === 'absent')
    return (
      <Absent
        title="This visit is not on this device"
        back={
          <To place={{ at: 'today' }} className={link}>
            Today
          </To>
        }
      >
        Somebody else goes there, or it was taken off. Open its site with signal.
      </Absent>
    );
  return <VisitOf visit={visit} />;
}

function VisitOf({ visit }: { readonly visit: Parameters<typeof VisitView>[0]['visit'] }) {
  const { facts } = useDevice();
  const ground = useSiteGround(visit.siteId);
  return ground === undefined ? (
    opening
  ) : (
    <VisitView visit={visit} ground={ground} people={facts.people.filter(({ role }) => role !== 'office')} signal={<SignalLine />} />
  );
}

export function InstrumentsPlace(_: Shown<'instruments'>) {
  const { store } = useDevice();
  const data = useLive(
    store,
    async ({ instruments, equipment }) => ({ instruments: await instruments.toArray(), equipment: await equipment.toArray() }),
    [],
  );
  return data === undefined ? (
    opening
  ) : (
    <InstrumentsView
      instruments={[...data.instruments].sort((a, b) => a.name.localeCompare(b.name))}
      equipment={data.equipment}
      signal={<SignalLine />}
    />
  );
}
