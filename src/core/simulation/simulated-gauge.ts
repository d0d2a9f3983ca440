import { instrumentsOf } from '../course/instruments';
import type { RunEvent } from '../judging/events';
import type { Plan } from '../planning/plan';
import type { PlantAct, PlantTrack } from '../plants/plant';
import { isPressureUnit, toSi } from '../quantities';
import { plantModel, scenarioFor } from './plants';

/** The plant that a run's `plant` events describe, or none when no scenario was chosen. Always labelled simulated. */
export function simulatedGauge(plan: Plan, events: readonly RunEvent[], run: string): PlantTrack | undefined {
  const acts: PlantAct[] = [];
  let scenario = instrumentsOf(plan).some(({ instrument }) => instrument.simulated) ? 'sound' : undefined;
  for (const event of events) {
    if (event.type !== 'plant') continue;
    if (event.action === 'scenario') scenario = scenarioFor(plan, event.value)?.id ?? scenario;
    else acts.push(actOf(plan, event.observedAt, event.action, event.value));
  }
  if (scenario === undefined) return undefined;
  acts.sort((a, b) => a.atMs - b.atMs);
  return plantModel(plan).track(plan, scenario, seedOf(run), acts);
}

/** An act as it is written down: a pressure in the plan's unit, or a figure with a unit of its own (`250 mm`), and its circuit (`27.4 @high`). */
export function actOf(plan: Pick<Plan, 'unit'>, atMs: number, action: PlantAct['action'], value: string): PlantAct {
  if (action !== 'raise') return { atMs, action };
  const [target, of] = value.split(' @');
  const [figure, unit = plan.unit] = target.split(' ');
  return { atMs, action, of, to: toSi(Number(figure), unit === 'mm' || isPressureUnit(unit) ? unit : plan.unit) };
}

/** A seed from a run's id, so that the same run shows the same noise everywhere. */
export const seedOf = (run: string): number => {
  let seed = 0x811c9dc5;
  for (const char of run) seed = Math.imul(seed ^ char.charCodeAt(0), 0x01000193);
  return seed | 0;
};
