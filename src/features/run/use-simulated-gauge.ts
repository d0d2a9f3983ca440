'use client';

import { useEffect, useMemo, useState } from 'react';
import { instrumentsOf } from '@/core/course';
import type { RunEvent } from '@/core/judging';
import type { Plan } from '@/core/planning';
import type { PlantTrack } from '@/core/plants';

type Simulation = typeof import('@/core/simulation');
/** Kept once it is here, so that a screen opened again has its gauge at once. */
let simulation: Simulation | undefined;

/** The simulated gauge of a run. A real job never loads the plants, which is most of what a simulation weighs. */
export function useSimulatedGauge(plan: Plan, events: readonly RunEvent[], run: string): PlantTrack | undefined {
  const wanted = instrumentsOf(plan).some(({ instrument }) => instrument.simulated) || events.some(({ type }) => type === 'plant');
  const [ready, setReady] = useState(simulation);
  useEffect(() => {
    if (!wanted || ready !== undefined) return;
    let gone = false;
    import('@/core/simulation').then((found) => {
      simulation = found;
      if (!gone) setReady(found);
    });
    return () => {
      gone = true;
    };
  }, [wanted, ready]);
  return useMemo(() => ready?.simulatedGauge(plan, events, run), [ready, plan, events, run]);
}
