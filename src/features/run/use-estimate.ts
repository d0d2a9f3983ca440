'use client';

import { releaseProxy, wrap } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import { type Estimate, grouped, type Point, type Warmth } from '@/core/judging';
import type { Plan } from '@/core/planning';
import type { EstimateWorker } from '@/workers/estimate';

/** Points that an estimate is made from at most: more are taken together before they are handed over. */
const enough = 900;

/**
 * The live estimate of the open hold, made by a worker about once a second: asked again only once the last answer is there, so
 * that a slow device falls behind in estimates and never in its clock. None while no hold runs.
 */
export function useEstimate(
  plan: Plan,
  phase: string | undefined,
  points: readonly Point[],
  warmth: readonly Warmth[],
): Estimate | undefined {
  const [estimate, setEstimate] = useState<{ readonly phase: string; readonly value: Estimate | undefined }>();
  const worker = useRef<ReturnType<typeof wrap<EstimateWorker>>>(undefined);
  const busy = useRef(false);
  const running = phase !== undefined;
  useEffect(() => {
    if (!running) return;
    const own = new Worker(new URL('../../workers/estimate.ts', import.meta.url), { type: 'module' });
    worker.current = wrap<EstimateWorker>(own);
    busy.current = false;
    return () => {
      worker.current?.[releaseProxy]();
      worker.current = undefined;
      own.terminate();
    };
  }, [running]);
  const second = Math.floor(points.at(-1)?.seconds ?? 0);
  const latest = useRef({ points, warmth });
  latest.current = { points, warmth };
  // biome-ignore lint/correctness/useExhaustiveDependencies: once a second, and whenever a reading is written; not at 10 Hz.
  useEffect(() => {
    if (phase === undefined || worker.current === undefined || busy.current) return;
    busy.current = true;
    let gone = false;
    worker.current
      .estimate(plan, phase, grouped(latest.current.points, enough), latest.current.warmth)
      .then((value) => !gone && setEstimate({ phase, value }))
      .catch((error: unknown) => console.warn('No estimate:', error))
      .finally(() => {
        busy.current = false;
      });
    return () => {
      gone = true;
    };
  }, [plan, phase, second, warmth]);
  return estimate?.phase === phase ? estimate?.value : undefined;
}
