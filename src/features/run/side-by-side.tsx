'use client';

import { useEffect, useRef, useState } from 'react';
import { dueOf } from '@/core/judging/due';
import { type OpenRun, useRun } from '@/features/field/use-run';
import { useShortcuts } from '@/ui/use-shortcuts';
import { RunScreen } from './run-screen';
import { SupplyWarning } from './supply-warning';
import { clockTime, countdown, useNow } from './use-now';

/** Two tests at once: one clock, the alarms in the order in which they sound, and a warning where one would disturb the other. */
export function SideBySide({
  runs,
  goVerdict,
  goAlone,
}: {
  readonly runs: readonly [string, string];
  readonly goVerdict: (run: string) => void;
  readonly goAlone: (run: string) => void;
}) {
  const first = useRun(runs[0]);
  const second = useRun(runs[1]);
  const [active, setActive] = useState<0 | 1>(0);
  const time = useNow(250);
  useShortcuts({ o: () => setActive((last) => (last === 0 ? 1 : 0)) });
  const opened = [first, second].filter((one): one is OpenRun => typeof one === 'object');
  const alone = opened.length === 1 && (first === 'absent' || second === 'absent') ? opened[0].run.id : undefined;
  useEffect(() => {
    if (alone !== undefined) goAlone(alone);
  }, [alone, goAlone]);
  if (opened.length < 2) return <p className="p-6 text-quiet">Opening both runs…</p>;
  const alarms = opened
    .flatMap(({ run: { id, plan }, test, judgement }) => {
      const due = dueOf(plan, judgement);
      const phase = plan.phases.find((one) => one.id === judgement.current);
      return due === undefined ? [] : [{ id, due, what: `${phase?.title}, ${test.system}` }];
    })
    .sort((a, b) => a.due - b.due);
  return (
    <div className="flex flex-1 flex-col lg:min-h-0">
      <section aria-label="Both tests" className="border-b border-line bg-surface px-4 py-2">
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
        <div className="mt-1">
          <SupplyWarning runs={opened} />
        </div>
        <div className="mt-1 flex gap-2 lg:hidden" role="tablist" aria-label="Tests">
          {opened.map(({ run, test }, index) => (
            <button
              key={run.id}
              type="button"
              role="tab"
              aria-selected={active === index}
              className={`min-h-12 flex-1 border-b-4 px-2 text-left text-sm ${active === index ? 'border-action font-semibold' : 'border-line text-quiet'}`}
              onClick={() => setActive(index as 0 | 1)}
            >
              {test.system}
            </button>
          ))}
        </div>
      </section>
      <div className="grid flex-1 lg:min-h-0 lg:grid-cols-2">
        {opened.map((open, index) => (
          <Half key={open.run.id} first={index === 0} active={active === index} take={() => setActive(index as 0 | 1)}>
            <RunScreen open={open} goVerdict={() => goVerdict(open.run.id)} beside={{ active: active === index }} />
          </Half>
        ))}
      </div>
    </div>
  );
}

/** One test of the two; whatever is touched in it makes it the one that takes the keys. */
function Half({
  first,
  active,
  take,
  children,
}: {
  readonly first: boolean;
  readonly active: boolean;
  readonly take: () => void;
  readonly children: React.ReactNode;
}) {
  const half = useRef<HTMLDivElement>(null);
  const latest = useRef(take);
  latest.current = take;
  useEffect(() => {
    const element = half.current;
    const touched = () => latest.current();
    for (const kind of ['pointerdown', 'focusin']) element?.addEventListener(kind, touched);
    return () => {
      for (const kind of ['pointerdown', 'focusin']) element?.removeEventListener(kind, touched);
    };
  }, []);
  return (
    <div
      ref={half}
      className={`flex min-w-0 flex-col lg:min-h-0 lg:overflow-y-auto lg:border-t-4 ${first ? 'lg:border-r lg:border-r-line' : ''} ${active ? 'lg:border-t-action' : 'lg:border-t-line max-lg:hidden'}`}
    >
      {children}
    </div>
  );
}
