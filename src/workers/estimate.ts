import { expose } from 'comlink';
import { estimateOf, type Point, type Warmth } from '@/core/judging';
import type { Plan } from '@/core/planning';

/** The live estimate off the screen's thread: the plan is handed over once, then points as they come. */
const api = {
  estimate(plan: Plan, phase: string, points: readonly Point[], warmth: readonly Warmth[]) {
    return estimateOf(
      plan,
      plan.phases.find(({ id }) => id === phase),
      points,
      warmth,
    );
  },
};
export type EstimateWorker = typeof api;
expose(api);
