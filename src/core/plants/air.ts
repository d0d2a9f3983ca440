import type { HoldPhase } from '../course/phases';
import type { PlanShape as Plan } from '../course/plan-shape';
import { type GasPlant, GasTrack, soundPlant } from './gas-plant';
import { leakOf, type Scale, scaleOf } from './gas-scale';
import type { PlantModel, Scenario, Seen } from './plant';
import { type Beyond, triedGas } from './trial';

/**
 * Pipes under air or nitrogen (DOMAIN 5.3, 5.9, 5.13), raised and closed off. What is isolated at first leaks only once it
 * is open again.
 */
export interface PipingScenario<S extends Seen = Seen> extends Scenario<S> {
  /** Scales of the first and the last hold that judges. */
  readonly change: (plant: GasPlant, first: Scale, last: Scale) => GasPlant;
}

/** Faults of every such plant. */
export const common: readonly PipingScenario<Record<never, never>>[] = [
  { id: 'sound', label: 'Sound piping', change: (plant) => plant },
  {
    id: 'sticky',
    label: 'Sticky gauge',
    change: (plant, first) => ({ ...plant, gauge: { ...plant.gauge, stictionMbar: first.thresholdMbar * 3 } }),
  },
  {
    id: 'gross-leak',
    label: 'Open end',
    change: (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, { ...first, seconds: 4 }, 40) }),
  },
  {
    id: 'unzeroed',
    label: 'Gauge not zeroed',
    change: (plant, first) => ({ ...plant, gauge: { ...plant.gauge, zeroErrorMbar: first.thresholdMbar * 3 } }),
    forgetsZero: true,
  },
];

/** Pipes under compressed gas with faults of their own. */
export const airModel = (scenarios: readonly PipingScenario[], stepS?: number, beyond?: Beyond): PlantModel => ({
  scenarios,
  tried: (plan, trial, seed, acts) => new GasTrack(triedGas(pipingOf(plan, seed, stepS), plan, trial, beyond), acts),
  track: (plan, id, seed, acts) => {
    const holds = plan.phases.filter((phase) => phase.kind === 'hold' && phase.limit.kind === 'no-fall') as readonly HoldPhase[];
    const sound = pipingOf(plan, seed, stepS);
    const scenario = scenarios.find((one) => one.id === id);
    const [first, last] = [holds[0], holds.at(-1)];
    if (scenario === undefined || first === undefined || last === undefined) return new GasTrack(sound, acts);
    return new GasTrack(scenario.change(sound, scaleOf(plan, first), scaleOf(plan, last)), acts);
  },
});

/** Fed from a compressor or cylinder through a regulator, and disconnected for the hold. */
const pipingOf = (plan: Plan, seed: number, stepS: number | undefined): GasPlant => ({
  ...soundPlant(seed, Number(plan.volume.litres), plan.gauge),
  supplyMbar: 1,
  lockUpMbar: Number.POSITIVE_INFINITY,
  stepS,
  others: plan.instruments,
});
