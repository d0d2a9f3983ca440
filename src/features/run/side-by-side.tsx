'use client';

import { useEffect, useRef, useState } from 'react';
import { duesOf } from '@/core/judging';
import { useDevice } from '@/device/provider';
import { clockTime, countdown, useNow } from '@/device/use-now';
import { type UnfinishedRun, useOpenRuns } from '@/device/use-open-runs';
import { type OpenRun, useRun } from '@/device/use-run';
import { useShortcuts } from '@/ui/use-shortcuts';
import type { PlanFrom } from './go-on';
import { RunScreen } from './run-screen';
import { SupplyWarning } from './supply-warning';

/** Two to four tests at once: one clock, the alarms in the order in which they sound, and a warning where one would disturb another. */
export function SideBySide({
  runs,
  goVerdict,
  goLocate,
  goPlan,
  putAway,
}: {
  readonly runs: readonly string[];
  readonly goVerdict: (run: string) => void;
  readonly goLocate: (run: string) => void;
  readonly goPlan: (open: OpenRun) => (from: PlanFrom) => void;
  /** Takes one off the screen; its clock runs on. */
  readonly putAway: (run: string) => void;
}) {
  const { store } = useDevice();
  const unfinished = useOpenRuns(store);
  const [chosen, setActive] = useState(runs[0]);
  const active = runs.includes(chosen) ? chosen : runs[0];
  useShortcuts({ o: () => setActive(runs[(runs.indexOf(active) + 1) % runs.length]) });
  const shown = runs.flatMap((run) => unfinished.find((one) => one.run.id === run) ?? []);
  return (
    <div className="flex flex-1 flex-col lg:min-h-0">
      <section aria-label="Tests side by side" className="border-b border-line bg-surface px-4 py-2">
        <Alarms runs={shown} />
        <div className="mt-1">
          <SupplyWarning runs={shown} />
        </div>
        <div className="mt-1 flex gap-2 overflow-x-auto lg:hidden" role="tablist" aria-label="Tests">
          {runs.map((run) => (
            <button
              key={run}
              type="button"
              role="tab"
              aria-selected={active === run}
              className={`min-h-12 min-w-32 flex-1 border-b-4 px-2 text-left text-sm ${active === run ? 'border-action font-semibold' : 'border-line text-quiet'}`}
              onClick={() => setActive(run)}
            >
              {shown.find((one) => one.run.id === run)?.test.system ?? 'Done'}
            </button>
          ))}
        </div>
      </section>
      <div
        className={`grid flex-1 lg:min-h-0 ${runs.length === 3 ? 'lg:grid-cols-3' : 'lg:grid-cols-2'} ${runs.length > 3 ? 'lg:grid-rows-2' : ''}`}
      >
        {runs.map((run) => (
          <Part
            key={run}
            run={run}
            active={active === run}
            take={() => setActive(run)}
            goVerdict={() => goVerdict(run)}
            goLocate={() => goLocate(run)}
            goPlan={goPlan}
            putAway={() => putAway(run)}
          />
        ))}
      </div>
    </div>
  );
}

/** The one clock, and the alarms in the order in which they sound. */
function Alarms({ runs }: { readonly runs: readonly UnfinishedRun[] }) {
  const time = useNow(250);
  const alarms = runs
    .flatMap(({ run: { id, plan }, test, judgement }) =>
      duesOf(plan, judgement).map(({ phase, at }) => ({ id: `${id} ${phase.id}`, due: at, what: `${phase.title}, ${test.system}` })),
    )
    .sort((a, b) => a.due - b.due);
  return (
    <div className="flex flex-wrap items-baseline gap-x-8 gap-y-1">
      <p className="figures text-xl font-semibold" data-testid="one-clock">
        {clockTime(time)}
      </p>
      <ol aria-label="Alarms in order" className="flex flex-wrap gap-x-8 gap-y-1">
        {alarms.map(({ id, due, what }) => (
          <li key={id} className={due <= time ? 'font-semibold text-caution' : ''}>
            <b className="figures">{countdown(due - time)}</b> {what} <span className="text-sm text-quiet">at {clockTime(due)}</span>
          </li>
        ))}
        {alarms.length === 0 && <li className="text-quiet">No hold runs.</li>}
      </ol>
    </div>
  );
}

/** One test among them; whatever is touched in it makes it the one that takes the keys. */
function Part({
  run,
  active,
  take,
  goVerdict,
  goLocate,
  goPlan,
  putAway,
}: {
  readonly run: string;
  readonly active: boolean;
  readonly take: () => void;
  readonly goVerdict: () => void;
  readonly goLocate: () => void;
  readonly goPlan: (open: OpenRun) => (from: PlanFrom) => void;
  readonly putAway: () => void;
}) {
  const open = useRun(run);
  const part = useRef<HTMLDivElement>(null);
  const latest = useRef({ take, putAway });
  latest.current = { take, putAway };
  useEffect(() => {
    const element = part.current;
    const touched = () => latest.current.take();
    for (const kind of ['pointerdown', 'focusin']) element?.addEventListener(kind, touched);
    return () => {
      for (const kind of ['pointerdown', 'focusin']) element?.removeEventListener(kind, touched);
    };
  }, []);
  useEffect(() => {
    if (open === 'absent') latest.current.putAway();
  }, [open]);
  return (
    <div
      ref={part}
      className={`flex min-w-0 flex-col lg:min-h-0 lg:overflow-y-auto lg:border-t-4 lg:not-last:border-r lg:not-last:border-r-line ${active ? 'lg:border-t-action' : 'lg:border-t-line max-lg:hidden'}`}
    >
      {typeof open === 'string' ? (
        <p className="p-6 text-quiet">Opening the run…</p>
      ) : (
        <RunScreen open={open} goVerdict={goVerdict} goLocate={goLocate} goPlan={goPlan(open)} beside={{ active, putAway }} />
      )}
    </div>
  );
}
