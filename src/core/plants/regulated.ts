import type { HoldPhase } from '../course/phases';
import type { PlanShape as Plan } from '../course/plan-shape';
import { toSi } from '../quantities';
import { type GasPlant, GasTrack, soundPlant } from './gas-plant';
import { leakOf, type Scale, scaleOf } from './gas-scale';
import type { PlantModel, Scenario, Seen } from './plant';
import { type Beyond, triedGas } from './trial';

/** Gas behind a regulator, a cylinder, a tank or an inlet stop (DOMAIN 5.2, 5.4–5.6). */
export interface RegulatedScenario<S extends Seen = Seen> extends Scenario<S> {
  /** `scale` is that of the tightness hold. */
  readonly change: (plant: GasPlant, scale: Scale, plan: Plan) => GasPlant;
}

export const inH2O = (value: number): number => toSi(value, 'inH2O') / 100;

export const leak =
  (thresholds: number) =>
  (plant: GasPlant, scale: Scale): GasPlant => ({ ...plant, pipeworkLeakLh: leakOf(plant, scale, thresholds) });

/** A valve that feeds what a leak takes, so that the two balance at the pressure of the hold. */
export function masked(plant: GasPlant, scale: Scale, thresholds: number): GasPlant {
  const pipeworkLeakLh = leakOf(plant, scale, thresholds);
  const at = scale.middleMbar;
  const letByLh = (pipeworkLeakLh * Math.sqrt(at / 20)) / Math.sqrt((plant.supplyMbar - at) / plant.supplyMbar);
  return { ...plant, pipeworkLeakLh, letByLh };
}

export const lockUp = (value: number) => (plant: GasPlant) => ({ ...plant, lockUpMbar: inH2O(value), supplyMbar: inH2O(value) });

/** Faults of every such plant. */
export const common: readonly RegulatedScenario<Record<never, never>>[] = [
  { id: 'sound', label: 'Sound system', change: (plant) => plant },
  { id: 'leak', label: 'Leak in the pipes', change: leak(3) },
  {
    id: 'unzeroed',
    label: 'Gauge off its zero',
    change: (plant, { thresholdMbar }) => ({ ...plant, gauge: { ...plant.gauge, zeroErrorMbar: thresholdMbar * 3 } }),
    forgetsZero: true,
  },
  {
    id: 'sticky',
    label: 'Sticky gauge',
    change: (plant, { thresholdMbar }) => ({ ...plant, gauge: { ...plant.gauge, stictionMbar: thresholdMbar * 2 } }),
  },
];

/** What the plant is like when nothing is wrong. */
type Sound = (plan: Plan) => Partial<GasPlant>;

const soundOf = (plan: Plan, seed: number, usual: Sound): GasPlant => ({
  ...soundPlant(seed, Number(plan.volume.litres), plan.gauge),
  others: plan.instruments,
  ...usual(plan),
});

export const regulated = (scenarios: readonly RegulatedScenario[], usual: Sound, beyond?: Beyond): PlantModel => ({
  scenarios,
  tried: (plan, trial, seed, acts) => new GasTrack(triedGas(soundOf(plan, seed, usual), plan, trial, beyond), acts),
  track: (plan, id, seed, acts) => {
    const tightness = plan.phases.find((phase) => phase.kind === 'hold' && phase.purpose === 'tightness') as HoldPhase | undefined;
    const sound = soundOf(plan, seed, usual);
    const scenario = scenarios.find((one) => one.id === id);
    const plant = scenario === undefined || tightness === undefined ? sound : scenario.change(sound, scaleOf(plan, tightness), plan);
    return new GasTrack(plant, acts);
  },
});
