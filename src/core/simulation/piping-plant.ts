import type { Plan } from '../planning/plan';
import type { HoldPhase } from '../procedures/phases';
import { type GasPlant, GasTrack } from './gas-plant';
import { leakOf, type Scale, scaleOf, warmingOf } from './gas-scale';
import type { PlantModel, Scenario } from './plant';
import { soundPlant } from './scenarios';

/**
 * Pipes under air or nitrogen (DOMAIN 5.3, 5.9, 5.13), raised and closed off. What is isolated at first leaks only once it
 * is open again.
 */
export interface PipingScenario extends Scenario {
  /** Scales of the first and the last hold that judges. */
  readonly change: (plant: GasPlant, first: Scale, last: Scale) => GasPlant;
}

const pipingScenarios: readonly PipingScenario[] = [
  { id: 'sound', label: 'Sound piping', change: (plant) => plant },
  { id: 'pipework-leak', label: 'Leak in the piping', change: (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, first, 2.4) }) },
  {
    id: 'control-leak',
    label: 'Leak at a control beyond the stops',
    change: (plant, _, last) => ({ ...plant, applianceLeakLh: leakOf(plant, last, 3) }),
  },
  {
    id: 'rig-leak',
    label: 'Leak at the rig’s own joint',
    change: (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, first, 2.4) }),
    sees: { rig: 'bubbles', 'rig-open': 'bubbles' },
  },
  {
    id: 'hidden-by-warming',
    label: 'Leak hidden by a warming pipe',
    // What the leak takes the sun gives back: the gauge stands still, and only the pipe's temperature tells.
    change: (plant, first) => ({
      ...plant,
      pipeworkLeakLh: leakOf(plant, first, 2.2),
      warmingKPerMin: warmingOf(plant, first, 2.2),
    }),
  },
  {
    id: 'cooling',
    label: 'Cooling pipe, no leak',
    change: (plant, first) => ({ ...plant, warmingKPerMin: warmingOf(plant, first, -1.6) }),
  },
  {
    id: 'weather',
    label: 'Leak at a control, hidden by a falling barometer',
    change: (plant, _, last) => ({
      ...plant,
      applianceLeakLh: leakOf(plant, last, 2.2),
      barometerHpaPerH: (-2.2 * last.thresholdMbar * 3600) / last.seconds,
    }),
  },
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

const without = (...ids: readonly string[]) => pipingScenarios.filter(({ id }) => !ids.includes(id));

const vehicleWaterScenarios: readonly PipingScenario[] = [
  ...without('control-leak', 'weather'),
  {
    id: 'seen-inside',
    label: 'Leak found inside with soap',
    change: (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, first, 2.4) }),
    sees: { inside: 'bubbles' },
  },
];

const refrigerantScenarios: readonly PipingScenario[] = [
  ...without('control-leak', 'rig-leak', 'weather', 'hidden-by-warming', 'cooling'),
  {
    id: 'slow-leak',
    label: 'Leak that only the long hold shows',
    change: (plant, _, last) => ({ ...plant, pipeworkLeakLh: leakOf(plant, { ...last, pressureMbar: 13_300 }, 1.2) }),
  },
  {
    id: 'rig-leak',
    label: 'Leak at the rig’s own joint',
    change: (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, first, 2.4) }),
    sees: { 'rig-strength-low': 'bubbles', 'rig-strength-high': 'bubbles' },
  },
  {
    id: 'hidden-by-warming',
    label: 'Leak hidden by warming pipes',
    change: (plant, _, last) => ({
      ...plant,
      pipeworkLeakLh: leakOf(plant, { ...last, pressureMbar: 11_800 }, 2.6),
      warmingKPerMin: warmingOf(plant, { ...last, pressureMbar: 14_700 }, 2.6),
    }),
  },
  {
    id: 'cooling',
    label: 'Cooling pipes, no leak',
    change: (plant, _, last) => ({ ...plant, warmingKPerMin: warmingOf(plant, { ...last, pressureMbar: 14_700 }, -2.6) }),
  },
  {
    id: 'sides-pass',
    label: 'A valve between the sides passes',
    change: (plant) => plant,
    sees: { 'other-low': 'moved', 'other-high': 'moved' },
  },
];

/** Pipes under compressed gas with faults of their own. */
export const airModel = (scenarios: readonly PipingScenario[], stepS?: number): PlantModel => ({
  scenarios,
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
  ...(stepS === undefined ? {} : { stepS }),
  ...(plan.instruments === undefined ? {} : { others: plan.instruments }),
});

export const pipingModel = airModel(pipingScenarios);
export const vehicleWaterModel = airModel(vehicleWaterScenarios, 1);
/** Holds of an hour and more: a look a second is enough. */
export const refrigerantModel = airModel(refrigerantScenarios, 1);
