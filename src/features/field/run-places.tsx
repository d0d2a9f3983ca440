'use client';

import dynamic from 'next/dynamic';
import { type OpenRun, useRun } from '@/device/use-run';
import { Absent } from '@/features/frame/page';
import { type Place, placeOfRuns, runsOf } from '@/features/frame/places';
import { To } from '@/features/frame/source';
import { goOn, type PlanFrom } from '@/features/run/go-on';
import { RunScreen } from '@/features/run/run-screen';
import { link } from '@/ui/classes';

const VerdictScreen = dynamic(() => import('@/features/verdict/verdict-screen').then((module) => module.VerdictScreen), {
  ssr: false,
  loading: () => <p className="p-6 text-quiet">Opening the verdict…</p>,
});
const LocateScreen = dynamic(() => import('@/features/locate/locate-screen').then((module) => module.LocateScreen), {
  ssr: false,
  loading: () => <p className="p-6 text-quiet">Opening the search…</p>,
});
const SideBySide = dynamic(() => import('@/features/run/side-by-side').then((module) => module.SideBySide), {
  ssr: false,
  loading: () => <p className="p-6 text-quiet">Opening both runs…</p>,
});

type Go = (place: Place) => void;
type At<A extends Place['at']> = { readonly place: Extract<Place, { at: A }>; readonly go: Go };

/** The run that a place names, or why it cannot be shown. */
function OfRun({ run, children }: { readonly run: string; readonly children: (open: OpenRun) => React.ReactNode }) {
  const open = useRun(run);
  if (open === 'opening') return <p className="p-6 text-quiet">Opening the run…</p>;
  if (open === 'absent')
    return (
      <Absent
        title="This run is not here"
        back={
          <To place={{ at: 'today' }} className={link}>
            Today
          </To>
        }
      >
        It is not on this device, and the server does not show it to you. Choose it from Today, or open it once with signal.
      </Absent>
    );
  return children(open);
}

export function RunPlace({ place, go }: At<'run'>) {
  const shown = runsOf(place);
  return shown.length > 1 ? (
    <SideBySide
      runs={shown}
      goVerdict={(run) => go({ at: 'verdict', run })}
      goLocate={(run) => go({ at: 'locate', run })}
      goPlan={(open) => planFrom(open, go)}
      putAway={(run) => go(placeOfRuns(shown.filter((one) => one !== run)))}
    />
  ) : (
    <OfRun run={place.run}>
      {(open) => (
        <RunScreen
          open={open}
          goVerdict={() => go({ at: 'verdict', run: place.run })}
          goLocate={() => go({ at: 'locate', run: place.run })}
          goPlan={planFrom(open, go)}
        />
      )}
    </OfRun>
  );
}

const planFrom =
  (open: OpenRun, go: Go) =>
  async ({ avoid, answers }: PlanFrom) => {
    await goOn(open);
    go({
      at: 'plan',
      system: open.test.systemId,
      test: open.test.id,
      number: String(open.attempts.length + 1),
      avoid,
      ...(answers === undefined ? {} : { with: JSON.stringify(answers) }),
    });
  };

export const VerdictPlace = ({ place: { run }, go }: At<'verdict'>) => (
  <OfRun run={run}>
    {(open) => (
      <VerdictScreen
        open={open}
        goRun={() => go({ at: 'run', run })}
        openRun={(id: string) => go({ at: 'verdict', run: id })}
        goLocate={() => go({ at: 'locate', run })}
        goPlan={planFrom(open, go)}
      />
    )}
  </OfRun>
);

export const LocatePlace = ({ place: { run }, go }: At<'locate'>) => (
  <OfRun run={run}>
    {(open) => (
      <LocateScreen
        open={open}
        goVerdict={() => go({ at: 'verdict', run })}
        goPlan={planFrom(open, go)}
        goSections={() => go({ at: 'sections', system: open.test.systemId, run })}
      />
    )}
  </OfRun>
);
