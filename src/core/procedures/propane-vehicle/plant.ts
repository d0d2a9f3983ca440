import { leakOf, warmingOf } from '../../plants/gas-scale';
import { common, inH2O, leak, lockUp, masked, type RegulatedScenario, regulated } from '../../plants/regulated';
import type { SeenIn } from '../card';
import type { Names } from '.';

const scenarios: readonly RegulatedScenario<SeenIn<Names>>[] = [
  ...common,
  { id: 'rig-leak', label: 'Leak at the rig’s own joint', change: leak(3), sees: { rig: 'bubbles' } },
  { id: 'lock-up-high', label: 'Regulator locks up too high', change: lockUp(14.6) },
  { id: 'lock-up-low', label: 'Regulator locks up low', change: lockUp(10.2) },
  { id: 'empty', label: 'Cylinder empty', change: lockUp(2) },
  { id: 'valve-feeds', label: 'Cylinder valve feeds it', change: (plant, scale) => ({ ...plant, letByLh: leakOf(plant, scale, 80) }) },
  { id: 'masked-leak', label: 'Passing cylinder valve hides a leak', change: (plant, scale) => masked(plant, scale, 4) },
  {
    id: 'warming',
    label: 'Vehicle in from the cold',
    change: (plant, scale) => ({ ...plant, warmingKPerMin: warmingOf(plant, scale, 3) }),
  },
  { id: 'fitting', label: 'Leak before the regulator', change: (plant) => plant, sees: { bubbles: 'bubbles' } },
  { id: 'starved', label: 'Regulator starves at half load', change: (plant) => ({ ...plant, flowingMbar: inH2O(9.6) }) },
];

export const plant = regulated(scenarios, () => ({ lockUpMbar: inH2O(12), supplyMbar: inH2O(12), flowingMbar: inH2O(11) }));
