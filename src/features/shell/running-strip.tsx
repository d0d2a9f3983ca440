'use client';

import { countdown, useNow } from '@/features/run/use-now';
import { isHolding, useRunning } from './use-running';

/** The strip of running holds with their countdowns, on every office page. */
export function RunningStrip() {
  const time = useNow(500);
  const running = useRunning().filter((one) => isHolding(one, time));
  if (running.length === 0) return null;
  return (
    <ul aria-label="Running holds" className="flex gap-px overflow-x-auto border-b border-line bg-line">
      {running.map(({ run, system, phase, dueAt }) => (
        <li key={run} className="min-w-44 flex-1 bg-surface">
          <a href={`/field?run=${run}`} className="flex min-h-11 items-center justify-between gap-3 px-4 py-1.5 hover:bg-sunken">
            <span className="min-w-0 truncate text-sm">
              <b>{system}</b> <span className="text-quiet">{phase}</span>
            </span>
            {dueAt !== undefined && (
              <span className={`figures font-semibold ${dueAt <= time ? 'text-caution' : ''}`}>{countdown(dueAt - time)}</span>
            )}
          </a>
        </li>
      ))}
    </ul>
  );
}
