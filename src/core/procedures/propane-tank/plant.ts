import { leakOf } from '../../plants/gas-scale';
import { common, inH2O, leak, masked, type RegulatedScenario, regulated } from '../../plants/regulated';
import { toSi } from '../../quantities';
import type { SeenIn } from '../card';
import type { Names } from '.';

const scenarios: readonly RegulatedScenario<SeenIn<Names>>[] = [
  ...common,
  { id: 'rig-leak', label: 'Leak at the rig’s own joint', change: leak(3), sees: { rig: 'bubbles' } },
  {
    id: 'small-leak',
    label: 'Leak after the last regulator, too small for the tank’s gauge',
    // A fall that the low gauge shows in three minutes; on the tank's gauge less than half a step.
    change: (plant) => ({
      ...plant,
      applianceLeakLh: leakOf(plant, { thresholdMbar: inH2O(0.1), pressureMbar: inH2O(8), seconds: 180 }, 1.7),
    }),
  },
  {
    id: 'tank-passes',
    label: 'Tank valve passes',
    change: (plant, scale) => ({ ...plant, letByLh: 4 * leakOf(plant, scale, 3) * Math.sqrt(scale.pressureMbar / 20) }),
  },
  { id: 'masked-leak', label: 'Passing tank valve hides a leak', change: (plant, scale) => masked(plant, scale, 3) },
];

/** The tank’s own pressure stands before its valve. */
export const plant = regulated(
  scenarios,
  (plan) => ({
    lockUpMbar: Number.POSITIVE_INFINITY,
    supplyMbar: toSi(Number(plan.highest), plan.unit) / 100,
  }),
  ({ phase }) => phase === 'hold-low',
);
