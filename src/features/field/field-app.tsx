'use client';

import dynamic from 'next/dynamic';
import { type ComponentType, type ReactNode, useCallback, useEffect, useMemo, useState } from 'react';
import { flush } from '@/device/outbox';
import { DeviceProvider, type Opening, useDevice } from '@/device/provider';
import { forgetPerson, openEarly } from '@/device/store';
import { DemoBanner, FaultBanner } from '@/features/frame/banners';
import { Absent } from '@/features/frame/page';
import { type At, addressOfPlace, mostBeside, type Place, placeOf, placeOfRuns, runsOf } from '@/features/frame/places';
import { type Source, SourceProvider } from '@/features/frame/source';
import { type FrameSlots, WholeFrame } from '@/features/frame/whole-frame';
import { Button } from '@/ui/button';
import { link } from '@/ui/classes';
import { useAfterFirstScreen } from '@/ui/first-screen';
import { Notice } from '@/ui/notice';
import { post } from '@/ui/post';
import { Toasts } from '@/ui/toasts';
import { LocatePlace, RunPlace, VerdictPlace } from './run-places';

type InPlace<A extends At> = { readonly place: Extract<Place, { at: A }>; readonly go: (place: Place) => void };
type Screen<A extends At> = ComponentType<InPlace<A>>;

/** A part of the page that is fetched when it is first shown, and what its place holds meanwhile. */
interface Part<P> {
  readonly load: () => Promise<ComponentType<P>>;
  readonly meanwhile: ReactNode;
}

const there = new WeakMap<object, unknown>();

async function fetched<P>(part: Part<P>): Promise<ComponentType<P>> {
  const shown = await part.load();
  there.set(part, shown);
  return shown;
}

/**
 * Shows a part as soon as it is there, and at once from then on. Not by suspending: what suspends is held back for a third of a second
 * once something stands in its place, which is longer than all the rest takes.
 */
function Fetched<P extends object>({ part, with: props }: { readonly part: Part<P>; readonly with: P }) {
  const [Shown, setShown] = useState(() => there.get(part) as ComponentType<P> | undefined);
  const [fault, setFault] = useState<unknown>();
  useEffect(() => {
    if (Shown !== undefined) return;
    let live = true;
    fetched(part).then(
      (shown) => live && setShown(() => shown),
      (error) => live && setFault(error),
    );
    return () => {
      live = false;
    };
  }, [part, Shown]);
  if (fault !== undefined) throw fault;
  return Shown === undefined ? part.meanwhile : <Shown {...props} />;
}

/** A screen that is at hand already. */
const Placed = ({ screen: Screen, with: props }: { readonly screen: ComponentType<InPlace<At>>; readonly with: InPlace<At> }) => (
  <Screen {...props} />
);

const later = <A extends At>(what: string, load: () => Promise<Screen<A>>): Part<InPlace<A>> => ({
  load,
  meanwhile: <p className="p-6 text-quiet">Opening {what}…</p>,
});

const listPlaces = () => import('./list-places');
const todayPlace = later<'today'>('today', () => import('./today-place').then((m) => m.TodayPlace));

/** Every place: the tab that it belongs to, and what shows it. A run is at hand at once; everything else comes as it is needed. */
const screens: { readonly [A in At]: { readonly tab?: string; readonly whole?: boolean; readonly screen: Screen<A> | Part<InPlace<A>> } } =
  {
    today: { tab: 'today', screen: todayPlace },
    sites: { tab: 'sites', screen: later('the sites', () => listPlaces().then((m) => m.SitesPlace)) },
    site: { tab: 'sites', screen: later('the site', () => listPlaces().then((m) => m.SitePlace)) },
    visit: { tab: 'today', screen: later('the visit', () => listPlaces().then((m) => m.VisitPlace)) },
    instruments: { tab: 'instruments', screen: later('the instruments', () => listPlaces().then((m) => m.InstrumentsPlace)) },
    sections: {
      tab: 'sites',
      screen: later('the sections', () => import('@/features/sections/sections-screen').then((m) => m.SectionsScreen)),
    },
    plan: { tab: 'sites', screen: later('the plan', () => import('@/features/plan/plan-screen').then((m) => m.PlanScreen)) },
    run: { whole: true, screen: RunPlace },
    verdict: { tab: 'today', screen: VerdictPlace },
    locate: { tab: 'today', screen: LocatePlace },
  };

const placesFrame: Part<FrameSlots> = { load: () => import('@/features/frame/frame').then((module) => module.Frame), meanwhile: null };
// A day begins at Today, also with no signal: it is fetched while the page is still put together, and its store is opened.
if (typeof window !== 'undefined' && window.location.search === '') {
  for (const part of [placesFrame, todayPlace]) fetched(part as Part<object>).catch(() => undefined);
  openEarly();
}
const OthersStrip = dynamic(() => import('@/features/run/others-strip').then((module) => module.OthersStrip), { ssr: false });

/** Everything on a device: one static page, fed from its own store. */
export function FieldApp() {
  return (
    <DeviceProvider
      closed={(state) => <Closed state={state} />}
      unkept={(words, understood) => (
        <div className="sticky top-0 z-50">
          <Notice tone="stop" role="alert">
            {words}{' '}
            <Button tone="bare" className="px-2" onClick={understood}>
              Understood
            </Button>
          </Notice>
        </div>
      )}
    >
      <Toasts>
        <Places />
      </Toasts>
    </DeviceProvider>
  );
}

const closedWords = {
  opening: 'Opening your store on this device…',
  nobody: 'This device does not know you yet. Sign in once with signal; after that its pages open without it.',
  'nothing taken along':
    'There is no signal, and your sites and gauges were not stored on this device yet. Open this page once with signal.',
} as const;

const Closed = ({ state }: { readonly state: Exclude<Opening['state'], 'open'> }) =>
  state === 'opening' ? (
    <p className="p-6 text-quiet">{closedWords.opening}</p>
  ) : (
    <Absent
      title={state === 'nobody' ? 'Sign in first' : 'Nothing taken along yet'}
      back={
        <a href="/sign-in" className={link}>
          Go to sign-in
        </a>
      }
    >
      {closedWords[state]}
    </Absent>
  );

function Places() {
  const { person, facts, store, change, calibrate, refresh, signal } = useDevice();
  const [place, setPlace] = useState<Place>();
  const after = useAfterFirstScreen();
  const [fault, setFault] = useState<string>();
  useEffect(() => {
    const read = () => setPlace(placeOf(new URLSearchParams(location.search)));
    read();
    window.addEventListener('popstate', read);
    return () => window.removeEventListener('popstate', read);
  }, []);
  const go = useCallback((next: Place) => {
    history.pushState(null, '', addressOfPlace(next));
    setPlace(next);
    window.scrollTo(0, 0);
  }, []);
  const source = useMemo<Source>(
    () => ({
      kind: 'device',
      person,
      change,
      calibrate,
      settle: async (id, choice) => {
        const answer = await post('POST /api/clashes/[id]', { id }, { choice });
        if (!answer.ok) return answer.problem;
        await refresh();
        return undefined;
      },
      hrefOf: addressOfPlace,
      go: (next) => {
        go(next);
        return true;
      },
    }),
    [person, change, calibrate, refresh, go],
  );
  const signOut = async () => {
    // What can be sent now is sent now; with a poor signal the answer comes after a moment all the same.
    await Promise.race([flush(store), new Promise((resolve) => setTimeout(resolve, 4000))]);
    const unsent = await store.outbox.count();
    if (unsent > 0)
      return setFault(
        `${unsent} ${unsent === 1 ? 'thing is' : 'things are'} on this device and not sent yet. Keep this page open with signal until it says “Saved and sent”, then sign out.`,
      );
    await post('POST /api/sign-out');
    forgetPerson();
    location.assign('/sign-in');
  };
  if (place === undefined) return <p className="p-6 text-quiet">Opening…</p>;
  const { tab, whole = false, screen } = screens[place.at];
  const here = screen as Screen<At> | Part<InPlace<At>>;
  const shown = runsOf(place);
  const shownAt = keyOf(place);
  const inPlace = { place: place as never, go };
  const slots: FrameSlots = {
    on: 'device',
    who: { name: person.name, role: person.role, firm: facts.firm.name },
    here: tab,
    go: (href) => {
      if (!href.startsWith('/field')) return false;
      go(placeOf(new URL(href, location.href).searchParams));
      return true;
    },
    signOut,
    strip:
      place.at === 'today' || !after ? undefined : (
        <OthersStrip
          shown={shown}
          inPlaces={!whole}
          go={(run) => go({ at: 'run', run })}
          {...(place.at !== 'run' || shown.length >= mostBeside ? {} : { beside: (other: string) => go(placeOfRuns([...shown, other])) })}
        />
      ),
    banner: (
      <>
        {!window.isSecureContext && (
          <p role="status" className="border-b-4 border-caution bg-surface px-4 py-2">
            This address is not secure: on this device the screen may sleep, and these pages will not open without signal. Ask whoever runs
            the installation for its https address.
          </p>
        )}
        {signal.state === 'signed out' && (
          <p role="status" className="border-b-4 border-caution bg-surface px-4 py-2">
            You are signed out. What you do is kept on this device;{' '}
            <a className={link} href="/sign-in">
              sign in again
            </a>{' '}
            to send it.
          </p>
        )}
        {facts.firm.demo && !whole && <DemoBanner />}
        {fault !== undefined && <FaultBanner of={fault} />}
      </>
    ),
    children: 'load' in here ? <Fetched key={shownAt} part={here} with={inPlace} /> : <Placed key={shownAt} screen={here} with={inPlace} />,
  };
  return <SourceProvider source={source}>{whole ? <WholeFrame {...slots} /> : <Fetched part={placesFrame} with={slots} />}</SourceProvider>;
}

/** Another system, test or run is another screen; what only stands beside it is not. */
const keyOf = (place: Place): string => {
  const { beside: _, words: __, ...own } = place as Place & { readonly beside?: string; readonly words?: string };
  return JSON.stringify(own);
};
