'use client';

import { useEffect, useState } from 'react';
import { addressOf } from '@/core/permissions';
import { countdown, useNow } from '@/features/run/use-now';
import type { Running } from '@/server/field';

/** Tests in progress, whoever runs them; asked every few seconds. */
export function useRunning(): readonly Running[] {
  const [running, setRunning] = useState<readonly Running[]>([]);
  useEffect(() => {
    const look = () =>
      fetch(addressOf('GET /api/running'))
        .then((response) => (response.ok ? response.json() : undefined))
        .then((found: readonly Running[] | undefined) => found !== undefined && setRunning(found))
        .catch(() => undefined);
    look();
    const timer = setInterval(look, 5000);
    return () => clearInterval(timer);
  }, []);
  return running;
}

/** A hold that runs or has just fallen due; one that nobody read for an hour is only an unfinished test. */
export const isHolding = ({ dueAt }: Running, time: number): boolean => dueAt !== undefined && dueAt - time > -3_600_000;

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
