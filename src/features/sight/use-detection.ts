'use client';

import { proxy, wrap } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Part } from '@/core/course';
import type { Plan } from '@/core/planning';
import { curveOf, type Detection } from '@/core/simulation';
import type { DetectionWorker } from '@/workers/detection';

/** Curves that were worked out on this device, the last so many, by plan hash and part. */
const storeKey = 'vast-stone-detections';
const mostKept = 40;
/** A curve's runs are shared out among so many workers at most, one a core. */
const mostWorkers = 4;
const nameOf = (plan: Plan, part: Part): string => `${plan.hash} ${part.what}`;

function kept(): readonly (readonly [string, Detection])[] {
  try {
    const read: unknown = JSON.parse(localStorage.getItem(storeKey) ?? '[]');
    return Array.isArray(read) ? (read as [string, Detection][]) : [];
  } catch {
    return [];
  }
}

const keptAs = (name: string): Detection | undefined => kept().find(([other]) => other === name)?.[1];

function keep(plan: Plan, part: Part, found: Detection): void {
  const name = nameOf(plan, part);
  try {
    localStorage.setItem(storeKey, JSON.stringify([[name, found], ...kept().filter(([other]) => other !== name)].slice(0, mostKept)));
  } catch {
    // A store that is full keeps no curve: it is worked out again.
  }
}

export interface Detecting {
  readonly found: Detection | undefined;
  /** Share that is done, 0 to 1, while it is worked out. */
  readonly progress: number | undefined;
  readonly trouble: string | undefined;
  readonly start: () => void;
  readonly cancel: () => void;
}

/** A plan's curve, worked out by workers when asked, and kept by the plan's hash. */
export function useDetection(plan: Plan | undefined, part: Part | undefined): Detecting {
  const name = plan === undefined || part === undefined ? '' : nameOf(plan, part);
  const [state, setState] = useState<{
    readonly name: string;
    readonly found?: Detection;
    readonly progress?: number;
    readonly trouble?: string;
  }>({
    name: '',
  });
  const own = useRef<readonly Worker[]>([]);
  const stop = useCallback(() => {
    for (const worker of own.current) worker.terminate();
    own.current = [];
  }, []);
  useEffect(() => stop, [stop]);
  // Another plan's curve is no longer wanted.
  useEffect(() => {
    stop();
    setState({ name, found: keptAs(name) });
  }, [name, stop]);
  const start = () => {
    if (plan === undefined || part === undefined || own.current.length > 0) return;
    const count = Math.min(mostWorkers, Math.max(1, navigator.hardwareConcurrency));
    const workers = Array.from(
      { length: count },
      () => new Worker(new URL('../../workers/detection.ts', import.meta.url), { type: 'module' }),
    );
    own.current = workers;
    const mine = () => own.current === workers;
    const far = workers.map(() => 0);
    setState({ name, progress: 0 });
    Promise.all(
      workers.map((worker, nth) =>
        wrap<DetectionWorker>(worker).tally(
          { plan, part, share: { nth, of: count } },
          proxy((share: number) => {
            far[nth] = share;
            if (mine()) setState({ name, progress: far.reduce((sum, one) => sum + one, 0) / count });
          }),
        ),
      ),
    )
      .then((tallies) => {
        const found = curveOf(plan, part, tallies);
        keep(plan, part, found);
        if (mine()) setState({ name, found });
      })
      .catch((error: unknown) => {
        console.warn('No curve:', error);
        if (mine()) setState({ name, trouble: 'The curve could not be worked out here. Try again.' });
      })
      .finally(() => {
        if (mine()) stop();
      });
  };
  const cancel = () => {
    stop();
    setState({ name });
  };
  const current = state.name === name ? state : { name };
  return { found: current.found, progress: current.progress, trouble: current.trouble, start, cancel };
}
