import { type GasPlant, GasTrack, soundPlant } from '../../plants/gas-plant';
import type { PlantModel, Scenario } from '../../plants/plant';
import { triedGas } from '../../plants/trial';
import type { SeenIn } from '../card';
import type { Names } from './names';

/** Domestic gas installations with hidden faults. */
interface GasScenario extends Scenario<SeenIn<Names>> {
  readonly change: (plant: GasPlant) => GasPlant;
}

const withFault = (plant: GasPlant, fault: Partial<GasPlant['gauge']>): GasPlant => ({ ...plant, gauge: { ...plant.gauge, ...fault } });

/** Leak that would drop `mbar` in two minutes from the test pressure, L/h. */
const leakFor = (plant: GasPlant, mbar: number): number => (mbar / 1013.25) * plant.volumeL * 30;

export const scenarios: readonly GasScenario[] = [
  { id: 'sound', label: 'Sound system', change: (plant) => plant },
  { id: 'small-leak', label: 'Small leak at an appliance', change: (plant) => ({ ...plant, applianceLeakLh: leakFor(plant, 1.6) }) },
  { id: 'pipework-leak', label: 'Leak in the pipework', change: (plant) => ({ ...plant, pipeworkLeakLh: leakFor(plant, 1.6) }) },
  { id: 'gross-leak', label: 'Large leak', change: (plant) => ({ ...plant, pipeworkLeakLh: leakFor(plant, 7) }) },
  {
    id: 'let-by',
    label: 'Valve lets by',
    change: (plant) => ({ ...plant, letByLh: leakFor(plant, 2.4) }),
    sees: { 'let-by-seat': 'bubbles' },
  },
  {
    id: 'masked-leak',
    label: 'Let-by hiding a leak',
    // Balanced near 20.5 mbar: the hold would stand still, and only the let-by test at low pressure shows it.
    change: (plant) => {
      const leak = leakFor(plant, 2.4);
      return {
        ...plant,
        pipeworkLeakLh: leak,
        letByLh: (leak * Math.sqrt(20.5 / 20)) / Math.sqrt((plant.supplyMbar - 20.5) / plant.supplyMbar),
      };
    },
  },
  { id: 'warming', label: 'Warming pipe', change: (plant) => ({ ...plant, warmingKPerMin: 0.06 }) },
  { id: 'unzeroed', label: 'Gauge not zeroed', change: (plant) => withFault(plant, { zeroErrorMbar: 0.6 }), forgetsZero: true },
  { id: 'sticky', label: 'Sticky gauge', change: (plant) => withFault(plant, { stictionMbar: 0.4 }) },
];

/** Installations of the millibar school. */
export const plant: PlantModel = {
  scenarios,
  tried: (plan, trial, seed, acts) =>
    new GasTrack(
      triedGas(soundPlant(seed, Number(plan.volume.litres), plan.gauge), plan, trial, ({ permitted }) => permitted === true),
      acts,
    ),
  track: (plan, id, seed, acts) => {
    const sound = soundPlant(seed, Number(plan.volume.litres), plan.gauge);
    const faulty = scenarios.find((one) => one.id === id)?.change(sound) ?? sound;
    // Parted from its valve, nothing is let by.
    return new GasTrack(plan.answers['supply-end'] === 'parted' ? { ...faulty, letByLh: 0 } : faulty, acts);
  },
};
