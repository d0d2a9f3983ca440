import type { PlanShape as Plan } from '../../course/plan-shape';
import type { GasPlant } from '../../plants/gas-plant';
import { leakOf, warmingOf } from '../../plants/gas-scale';
import { common, inH2O, leak, lockUp, type RegulatedScenario, regulated } from '../../plants/regulated';
import type { SeenIn } from '../card';
import type { Names } from '.';

const scenarios: readonly RegulatedScenario<SeenIn<Names>>[] = [
  ...common,
  { id: 'rig-leak', label: 'Leak at the rig’s own joint', change: leak(3), sees: { rig: 'bubbles' } },
  { id: 'lock-up-high', label: 'Regulator locks up too high', change: lockUp(14.6) },
  { id: 'lock-up-low', label: 'Regulator locks up low', change: lockUp(5.5) },
  { id: 'creep', label: 'Regulator creeps', change: (plant) => ({ ...plant, creepMbarPerMin: inH2O(0.15) }) },
  {
    id: 'inlet-seeps',
    label: 'Inlet stop seeps',
    change: (plant, scale) => ({ ...plant, letByLh: leakOf(plant, { ...scale, seconds: 180, pressureMbar: 20 }, 6) }),
  },
  {
    id: 'masked-leak',
    label: 'Seeping stop feeds a leak',
    // Fed up to static by the stop: the manometer would stand, and only the seepage test at a lower pressure shows it.
    change: (plant, scale) => ({
      ...leak(4)(plant, scale),
      letByLh: leakOf(plant, { ...scale, seconds: 180, pressureMbar: 20 }, 8),
    }),
  },
  {
    id: 'hidden-by-warming',
    label: 'Leak hidden by a warming pipe, found with soap',
    change: (plant, scale) => ({ ...leak(3)(plant, scale), warmingKPerMin: warmingOf(plant, scale, 3) }),
    sees: { fittings: 'bubbles' },
  },
  // A dial tells a leak of about a litre an hour; the manometer one of a hundredth of that.
  { id: 'large-leak', label: 'Leak that the dial shows too', change: (plant) => ({ ...plant, pipeworkLeakLh: 3 }) },
];

const dialOf = (plan: Plan): Partial<GasPlant> => {
  const dial = plan.phases.flatMap((phase) => (phase.kind === 'hold' && phase.limit.kind === 'dial' ? [phase.limit] : []))[0];
  return dial === undefined ? {} : { litresPerTurn: Number(dial.litresPerTurn) };
};

export const plant = regulated(scenarios, (plan) => ({ lockUpMbar: inH2O(7.5), supplyMbar: inH2O(7.5), ...dialOf(plan) }));
