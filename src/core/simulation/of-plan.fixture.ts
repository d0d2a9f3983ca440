import type { HoldPhase, MeasurePhase } from '../course/phases';
import { type exampleFor, examplePlan } from './examples.fixture';

/* Looks into the plan of a changed example, for tests. */

type Change = Parameters<typeof exampleFor>[1];

export function holdOf(id: string, change: Change = {}, phase = 'hold'): HoldPhase {
  const found = examplePlan(id, change).phases.find((one) => one.id === phase);
  if (found?.kind !== 'hold') throw new Error(`${id} has no hold ${phase}`);
  return found;
}

export function measureOf(id: string, phase: string, change: Change = {}): MeasurePhase {
  const found = examplePlan(id, change).phases.find((one) => one.id === phase);
  if (found?.kind !== 'measure') throw new Error(`${id} measures no ${phase}`);
  return found;
}

/** Ids of a checklist's items. */
export function itemsOf(id: string, phase: string, change: Change = {}): readonly string[] {
  const found = examplePlan(id, change).phases.find((one) => one.id === phase);
  return found?.kind === 'check' ? found.items.map((item) => item.id) : [];
}

export const phaseIds = (id: string, change: Change = {}): readonly string[] => examplePlan(id, change).phases.map((phase) => phase.id);
