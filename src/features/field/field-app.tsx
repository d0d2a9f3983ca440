'use client';

import dynamic from 'next/dynamic';
import { useCallback, useEffect, useState } from 'react';
import { RunScreen } from '@/features/run/run-screen';
import { heading, link } from '@/ui/classes';
import { FieldProvider, SignalLine, useField } from './field';
import { useRun } from './use-run';

const PlanScreen = dynamic(() => import('@/features/plan/plan-screen').then((module) => module.PlanScreen), {
  ssr: false,
  loading: () => <p className="p-6 text-quiet">Opening the plan…</p>,
});
const VerdictScreen = dynamic(() => import('@/features/verdict/verdict-screen').then((module) => module.VerdictScreen), {
  ssr: false,
  loading: () => <p className="p-6 text-quiet">Opening the verdict…</p>,
});

const OthersStrip = dynamic(() => import('@/features/run/others-strip').then((module) => module.OthersStrip), { ssr: false });
const SideBySide = dynamic(() => import('@/features/run/side-by-side').then((module) => module.SideBySide), {
  ssr: false,
  loading: () => <p className="p-6 text-quiet">Opening both runs…</p>,
});

const DayScreen = dynamic(() => import('@/features/day/day-screen').then((module) => module.DayScreen), {
  ssr: false,
  loading: () => <p className="p-6 text-quiet">Opening the day…</p>,
});

const SectionsScreen = dynamic(() => import('@/features/sections/sections-screen').then((module) => module.SectionsScreen), {
  ssr: false,
  loading: () => <p className="p-6 text-quiet">Opening the sections…</p>,
});

const LocateScreen = dynamic(() => import('@/features/locate/locate-screen').then((module) => module.LocateScreen), {
  ssr: false,
  loading: () => <p className="p-6 text-quiet">Opening the search…</p>,
});

/** Where the field screens stand, kept in the address so that reload and a second device find it again. */
interface Place {
  readonly run?: string;
  /** A site whose day is laid out. */
  readonly day?: string;
  /** Further runs on the screen with the first, by commas. */
  readonly beside?: string;
  readonly system?: string;
  readonly view?: string;
  readonly test?: string;
  readonly number?: string;
  readonly avoid?: string;
  readonly procedure?: string;
  /** Answers that the plan starts from, as JSON. */
  readonly with?: string;
}

const readPlace = (): Place => Object.fromEntries(new URLSearchParams(location.search));

export function FieldApp() {
  const [place, setPlace] = useState<Place>();
  useEffect(() => {
    const read = () => setPlace(readPlace());
    read();
    window.addEventListener('popstate', read);
    return () => window.removeEventListener('popstate', read);
  }, []);
  const go = useCallback((next: Place) => {
    const query = new URLSearchParams(Object.entries(next).filter((entry): entry is [string, string] => entry[1] !== undefined));
    history.pushState(null, '', `/field?${query}`);
    setPlace(next);
    window.scrollTo(0, 0);
  }, []);
  if (place === undefined) return <p className="p-6 text-quiet">Opening…</p>;
  const shown = runsOf(place);
  const isList = place.run === undefined && place.system === undefined && place.day === undefined;
  // Back to the search, or to the site that it was opened from; a tab of its own has nowhere to go back to.
  const leaveSections = () => {
    if (place.run !== undefined) go({ run: place.run, view: 'locate' });
    else if (history.length > 1) history.back();
    else go({});
  };
  return (
    <FieldProvider>
      {/* On the run screen the whole height is the run's; elsewhere the page scrolls. */}
      <div className={place.run !== undefined && place.view === undefined ? 'flex min-h-dvh flex-col lg:h-dvh' : ''}>
        {/* The list of systems must not move away from the finger when a test elsewhere begins. */}
        <div className={isList ? 'min-h-12' : 'shrink-0'}>
          <OthersStrip
            shown={shown}
            go={(other) => go({ run: other })}
            saysNone={isList}
            {...(shown.length === 0 || shown.length >= mostBeside ? {} : { beside: (other: string) => go(placeOf([...shown, other])) })}
          />
        </div>
        {place.system !== undefined && place.view === 'sections' ? (
          <SectionsScreen systemId={place.system} done={leaveSections} />
        ) : shown.length > 1 ? (
          <SideBySide
            runs={shown}
            goVerdict={(run) => go({ run, view: 'verdict' })}
            putAway={(run) => go(placeOf(shown.filter((one) => one !== run)))}
          />
        ) : place.run !== undefined ? (
          <Run key={place.run} place={place} go={go} />
        ) : place.system !== undefined ? (
          <PlanScreen
            key={`${place.system} ${place.test} ${place.avoid} ${place.with} ${place.procedure}`}
            systemId={place.system}
            {...attemptOf(place)}
            open={(run: string) => go({ run })}
          />
        ) : place.day !== undefined ? (
          <DayScreen key={place.day} siteId={place.day} plan={(system, procedure) => go({ system, procedure })} />
        ) : (
          <Nowhere go={go} />
        )}
      </div>
    </FieldProvider>
  );
}

/** More than these side by side leave none of them room; the others stand in the strip. */
const mostBeside = 4;
/** The runs that are on the screen together, each once. */
const runsOf = ({ run, beside = '' }: Place): readonly string[] =>
  run === undefined ? [] : [...new Set([run, ...beside.split(',').filter((id) => id !== '')])].slice(0, mostBeside);
const placeOf = ([run, ...beside]: readonly string[]): Place => ({ run, ...(beside.length === 0 ? {} : { beside: beside.join(',') }) });

const attemptOf = ({ test, number, avoid, procedure, with: answers }: Place) => ({
  procedureId: procedure,
  ...(answers === undefined ? {} : { withAnswers: readAnswers(answers) }),
  ...(test === undefined ? {} : { attemptOf: { testId: test, number: Number(number ?? 2) } }),
  avoidGauge: avoid,
});

/** Answers from the address; whatever is not a list of texts there is as good as none. */
function readAnswers(text: string): Readonly<Record<string, string>> {
  try {
    return Object.fromEntries(Object.entries(JSON.parse(text) as object).filter(([, value]) => typeof value === 'string'));
  } catch {
    return {};
  }
}

function Run({ place, go }: { readonly place: Place; readonly go: (next: Place) => void }) {
  const { run = '', view } = place;
  const open = useRun(run);
  if (open === 'opening') return <p className="p-6 text-quiet">Opening the run…</p>;
  if (open === 'absent')
    return (
      <main className="mx-auto max-w-xl p-6">
        <h1 className={heading}>This run is not here</h1>
        <p className="mt-2 text-quiet">
          It is not on this device, and the server does not show it to you. Choose it from Today, or open it once with signal.
        </p>
        <a className={`${link} mt-4 inline-block`} href="/today">
          Today
        </a>
      </main>
    );
  const goPlan = ({ avoid, answers }: { readonly avoid?: string; readonly answers?: Readonly<Record<string, string>> }) =>
    go({
      system: open.test.systemId,
      test: open.test.id,
      number: String(open.attempts.length + 1),
      avoid,
      ...(answers === undefined ? {} : { with: JSON.stringify(answers) }),
    });
  if (view === 'verdict')
    return (
      <VerdictScreen
        open={open}
        goRun={() => go({ run })}
        openRun={(id: string) => go({ run: id, view: 'verdict' })}
        goLocate={() => go({ run, view: 'locate' })}
        goPlan={goPlan}
      />
    );
  if (view === 'locate')
    return (
      <LocateScreen
        open={open}
        goVerdict={() => go({ run, view: 'verdict' })}
        goPlan={goPlan}
        goSections={() => go({ system: open.test.systemId, view: 'sections', run })}
      />
    );
  return <RunScreen open={open} goVerdict={() => go({ run, view: 'verdict' })} />;
}

/** With no run or system named: the systems on this device, so that a job can be begun with no signal. */
function Nowhere({ go }: { readonly go: (next: Place) => void }) {
  const { kit } = useField();
  return (
    <main className="mx-auto max-w-xl p-6">
      <h1 className={heading}>On this device</h1>
      <p className="mt-1 text-quiet">Choose a system to plan a test. This works with no signal.</p>
      <SignalLine />
      <ul className="mt-4 divide-y divide-line">
        {kit.systems.map(({ id, name, site }) => (
          <li key={id}>
            <button
              type="button"
              className="flex min-h-14 w-full items-center justify-between gap-4 py-2 text-left hover:bg-sunken"
              onClick={() => go({ system: id })}
            >
              <span className="font-medium">{name}</span>
              <span className="text-quiet">{site.name}</span>
            </button>
          </li>
        ))}
      </ul>
    </main>
  );
}
