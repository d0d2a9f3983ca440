import type { HoldPhase } from '../course/phases';
import type { PlanShape as Plan } from '../course/plan-shape';
import { toSi } from '../quantities';
import { softnessOf, type WaterPipe } from '../sizing/water-hold';
import { type HydraulicPlant, HydraulicTrack, leakOver, soundWater } from './hydraulic-plant';
import type { PlantModel, Scenario, Seen } from './plant';
import { triedWater } from './trial';

/** Water pipes of houses, heating, underfloor loops and pools (DOMAIN 5.7, 5.10, 5.11, 5.14). */

/** The hold that a fault is measured by: its threshold, Pa, its pressure, Pa gauge, and its time. */
export interface Scale {
  readonly thresholdPa: number;
  readonly pressurePa: number;
  readonly seconds: number;
}

export interface WaterScenario<S extends Seen = Seen> extends Scenario<S> {
  readonly change: (plant: HydraulicPlant, scale: Scale) => HydraulicPlant;
}

export const leak =
  (thresholds: number, over = 1) =>
  (plant: HydraulicPlant, { thresholdPa, seconds }: Scale): HydraulicPlant => ({
    ...plant,
    leakM3s: leakOver(plant, thresholds * thresholdPa, seconds * over),
  });

export const drift =
  (thresholds: number) =>
  (plant: HydraulicPlant, { thresholdPa, seconds }: Scale): HydraulicPlant => ({
    ...plant,
    warmingPaS: (thresholds * thresholdPa) / seconds,
    warmingKPerMin: thresholds / 10,
  });

/** Faults of every such plant. */
export const common: readonly WaterScenario<Record<never, never>>[] = [
  { id: 'sound', label: 'Sound system', change: (plant) => plant },
  { id: 'leak', label: 'Leak in the pipes', change: leak(4) },
  {
    id: 'unzeroed',
    label: 'Gauge off its zero',
    change: (plant, { thresholdPa }) => ({ ...plant, zeroErrorPa: thresholdPa * 3 }),
    forgetsZero: true,
  },
];

export const water = (scenarios: readonly WaterScenario[], usual: (plan: Plan) => Partial<HydraulicPlant>): PlantModel => ({
  scenarios,
  tried: (plan, trial, _seed, acts) => new HydraulicTrack(triedWater(soundWater(plan, usual(plan)), plan, trial), plan, acts),
  track: (plan, id, _seed, acts) => {
    const sound = soundWater(plan, usual(plan));
    const holds = plan.phases.filter((phase) => phase.kind === 'hold' && phase.purpose === 'tightness') as readonly HoldPhase[];
    const hold = holds.at(-1);
    const scenario = scenarios.find((one) => one.id === id);
    if (hold === undefined || scenario === undefined || hold.limit.kind !== 'no-fall') return new HydraulicTrack(sound, plan, acts);
    const scale: Scale = {
      thresholdPa: toSi(Number(hold.limit.threshold), plan.unit),
      pressurePa: toSi((Number(hold.band.low) + Number(hold.band.high)) / 2, plan.unit),
      seconds: hold.seconds,
    };
    return new HydraulicTrack(scenario.change(sound, scale), plan, acts);
  },
});

export const soft = (pipe: string | undefined): number => softnessOf((pipe ?? 'copper') as WaterPipe) / 1e9;
