'use client';

import dynamic from 'next/dynamic';
import { duesOf } from '@/core/judging';
import { useDevice } from '@/device/provider';
import { countdown, useNow } from '@/device/use-now';
import { useOpenRuns } from '@/device/use-open-runs';
import { isHolding, useRunning } from '@/device/use-running';
import { Button } from '@/ui/button';
import { useUnpressed } from '@/ui/pressed';

// The library of procedures says which phase needs which supply; it is fetched only where two tests run.
const SupplyWarning = dynamic(() => import('./supply-warning').then((module) => module.SupplyWarning), { ssr: false });

const dayMs = 86_400_000;

/** A test under way, whoever runs it. */
interface Other {
  readonly id: string;
  readonly system: string;
  readonly phase: string;
  readonly due?: number;
  readonly here: boolean;
}

/** The other tests under way, with their countdowns, on every field screen: one tap goes there, another puts the two side by side. */
export function OthersStrip({
  shown,
  go,
  beside,
  inPlaces = false,
}: {
  /** Those that are open, which are no others. */
  readonly shown: readonly string[];
  readonly go: (run: string) => void;
  readonly beside?: (run: string) => void;
  /** Beside the places, where they stand one below another on a wide screen. */
  readonly inPlaces?: boolean;
}) {
  const { store } = useDevice();
  const unfinished = useOpenRuns(store);
  const remote = useRunning();
  const time = useNow(500);
  const here = unfinished
    // What was begun another day is no company for today's hold.
    .filter(({ events }) => time - (events.at(-1)?.observedAt ?? 0) < dayMs)
    .map(({ run: { id, plan }, test, judgement }): Other => {
      const due = duesOf(plan, judgement).at(0);
      return {
        id,
        system: test.system,
        phase: (due?.phase ?? plan.phases.find((one) => one.id === judgement.current))?.title ?? '',
        here: true,
        due: due?.at,
      };
    });
  const known = new Set(unfinished.map((one) => one.run.id));
  const elsewhere = remote
    .filter((one) => !known.has(one.run) && isHolding(one, time))
    .map(({ run: id, system, phase, dueAt }): Other => ({ id, system, phase, here: false, due: dueAt }));
  // The next alarm first; lists, which have none, last.
  const others = [...here, ...elsewhere]
    .filter(({ id }) => !shown.includes(id))
    .sort((a, b) => (a.due ?? Number.POSITIVE_INFINITY) - (b.due ?? Number.POSITIVE_INFINITY))
    .slice(0, 6);
  const stands = useUnpressed(others.length > 0);
  if (!stands) return null;
  const today = unfinished.filter(({ events }) => time - (events.at(-1)?.observedAt ?? 0) < dayMs);
  return (
    <>
      {today.length > 1 && <SupplyWarning runs={today} />}
      <ul
        aria-label="Other tests under way"
        data-strip
        className={`flex shrink-0 gap-px overflow-x-auto border-b border-line bg-line ${inPlaces ? 'lg:flex-col lg:border-t' : ''}`}
      >
        {others.map(({ id, system, phase, due, here: mine }) => (
          <li key={id} className="flex min-w-56 flex-1 items-center gap-2 bg-surface px-4">
            <button
              type="button"
              className="flex min-h-12 min-w-0 flex-1 items-center justify-between gap-3 text-left"
              onClick={() => go(id)}
            >
              <span className="min-w-0 truncate text-sm">
                <b>{system}</b> <span className="text-quiet">{phase}</span>
              </span>
              {due !== undefined && (
                <span className={`figures font-semibold ${due <= time ? 'text-caution' : ''}`}>{countdown(due - time)}</span>
              )}
            </button>
            {beside !== undefined && mine && (
              <Button
                tone="bare"
                size="tall"
                className="shrink-0 border-l border-line pl-3 text-sm"
                onClick={() => beside(id)}
                aria-label={`Side by side with ${system}`}
              >
                Side by side
              </Button>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}
