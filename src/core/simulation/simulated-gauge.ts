import type { RunEvent } from '../judging/events';
import type { Plan } from '../planning/plan';
import { type GasPlant, GasTrack, type PlantAct } from './gas-plant';
import { type Scenario, scenarioById, soundPlant } from './scenarios';

/** The plant that a run's `plant` events describe, or none when no scenario was chosen. Always labelled simulated. */
export function simulatedGauge(plan: Plan, events: readonly RunEvent[], run: string): GasTrack | undefined {
  const acts: PlantAct[] = [];
  let scenario = plan.gauge.simulated ? scenarioById('sound') : undefined;
  for (const event of events) {
    if (event.type !== 'plant') continue;
    if (event.action === 'scenario') scenario = scenarioById(event.value) ?? scenario;
    else acts.push({ atMs: event.observedAt, action: event.action, ...(event.action === 'raise' ? { mbar: Number(event.value) } : {}) });
  }
  if (scenario === undefined) return undefined;
  acts.sort((a, b) => a.atMs - b.atMs);
  return new GasTrack(plantOf(plan, scenario, seedOf(run)), acts);
}

/** A plant of the plan's volume and gauge with a scenario's fault. */
export function plantOf(plan: Plan, scenario: Scenario, seed: number): GasPlant {
  return scenario.change(soundPlant(seed, Number(plan.volume.litres), plan.gauge));
}

/** A seed from a run's id, so that the same run shows the same noise everywhere. */
export const seedOf = (run: string): number => {
  let seed = 0x811c9dc5;
  for (const char of run) seed = Math.imul(seed ^ char.charCodeAt(0), 0x01000193);
  return seed | 0;
};
