import type { PlanShape as Plan } from '../../course/plan-shape';
import { mainAllowance } from '../../physics/main-allowance';
import { wallAndWater } from '../../physics/water-stiffness';
import { type HydraulicPlant, HydraulicTrack, soundWater } from '../../plants/hydraulic-plant';
import type { PlantModel, Scenario } from '../../plants/plant';
import { triedWater } from '../../plants/trial';
import { toSi } from '../../quantities';
import type { SeenIn } from '../card';
import type { Names } from '.';

interface MainScenario extends Scenario<SeenIn<Names>> {
  readonly change: (plant: HydraulicPlant) => HydraulicPlant;
}

/** The sound main loses a third of what is allowed: tightness of a main is a matter of degree. */
const scenarios: readonly MainScenario[] = [
  { id: 'sound', label: 'Sound main', change: (plant) => plant },
  { id: 'leak', label: 'Leak over the allowance', change: (plant) => ({ ...plant, leakM3s: plant.leakM3s * 6 }) },
  {
    id: 'trapped-air',
    label: 'Leak hidden by trapped air',
    // The air gives back what the leak takes: the gauge hardly falls, and only the measured make-up tells.
    change: (plant) => ({ ...plant, leakM3s: plant.leakM3s * 6, airAtAtmosphere: 0.02 }),
  },
  { id: 'seen', label: 'Leak seen at a joint', change: (plant) => ({ ...plant, leakM3s: plant.leakM3s * 2 }), sees: { walk: 'leak' } },
  { id: 'blind-gauge', label: 'Valve at the pump shut before the gauge', change: (plant) => plant, sees: { sees: 'stands' } },
  { id: 'unzeroed', label: 'Gauge off its zero', change: (plant) => ({ ...plant, zeroErrorPa: plant.leakAtPa / 50 }) },
  { id: 'open-end', label: 'Open hydrant', change: (plant) => ({ ...plant, reachesPa: 200_000 }) },
];

/** A sound main of the plan: what it is made of, a third of its allowance as its leak, a trace of air. */
function soundMain(plan: Plan): HydraulicPlant {
  const criterion = plan.phases.flatMap((phase) =>
    phase.kind === 'measure' && phase.limit.kind === 'make-up-at-most' ? [phase.limit] : [],
  )[0];
  const lengthM = criterion === undefined ? 100 : toSi(Number(criterion.length), criterion.lengthUnit);
  const diameterM = criterion === undefined ? 0.1 : toSi(Number(criterion.diameter), criterion.diameterUnit);
  const testPa = toSi(Number(plan.highest), plan.unit);
  const wallM = Math.max(0.004, diameterM / 20);
  const material = criterion?.material === 'PVC' ? 'PVC' : 'steel';
  const outsideM = diameterM + 2 * wallM;
  const soft = wallAndWater({ material, outsideM, wallM });
  const allowance = mainAllowance({ material: 'iron', lengthM, diameterM, meanPa: testPa });
  return soundWater(plan, {
    volumeM3: (Math.PI / 4) * diameterM ** 2 * lengthM,
    softness: soft.ok ? soft.value : 5e-10,
    airAtAtmosphere: 0.001,
    leakM3s: allowance.ok ? allowance.value / 3 : 0,
    leakAtPa: testPa,
  });
}

export const plant: PlantModel = {
  scenarios,
  tried: (plan, trial, _seed, acts) => new HydraulicTrack(triedWater(soundMain(plan), plan, trial), plan, acts),
  track: (plan, id, _seed, acts) => {
    const sound = soundMain(plan);
    return new HydraulicTrack(scenarios.find((one) => one.id === id)?.change(sound) ?? sound, plan, acts);
  },
};
