'use client';

import { proxy, releaseProxy, wrap } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Part } from '@/core/course';
import type { Plan } from '@/core/planning';
import type { Detection } from '@/core/simulation';
import type { DetectionWorker } from '@/workers/detection';

/** Curves that were worked out on this device, the last so many, by plan hash and part. */
const storeKey = 'vast-stone-detections';
const mostKept = 40;
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

/** A plan's curve, worked out by a worker when asked, and kept by the plan's hash. */
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
  const own = useRef<Worker>(undefined);
  const stop = useCallback(() => {
    own.current?.terminate();
    own.current = undefined;
  }, []);
  useEffect(() => stop, [stop]);
  // Another plan's curve is no longer wanted.
  useEffect(() => {
    stop();
    setState({ name, found: keptAs(name) });
  }, [name, stop]);
  const start = () => {
    if (plan === undefined || part === undefined || own.current !== undefined) return;
    const worker = new Worker(new URL('../../workers/detection.ts', import.meta.url), { type: 'module' });
    own.current = worker;
    const remote = wrap<DetectionWorker>(worker);
    const mine = () => own.current === worker;
    setState({ name, progress: 0 });
    remote
      .detect(
        plan,
        part,
        proxy((progress: number) => {
          if (mine()) setState({ name, progress });
        }),
      )
      .then((found) => {
        keep(plan, part, found);
        if (mine()) setState({ name, found });
      })
      .catch((error: unknown) => {
        console.warn('No curve:', error);
        if (mine()) setState({ name, trouble: 'The curve could not be worked out here. Try again.' });
      })
      .finally(() => {
        if (!mine()) return;
        remote[releaseProxy]();
        stop();
      });
  };
  const cancel = () => {
    stop();
    setState({ name });
  };
  const current = state.name === name ? state : { name };
  return { found: current.found, progress: current.progress, trouble: current.trouble, start, cancel };
}
