import { airModel, common, type PipingScenario } from '../../plants/air';
import { leakOf, warmingOf } from '../../plants/gas-scale';

const scenarios: readonly PipingScenario[] = [
  ...common,
  { id: 'pipework-leak', label: 'Leak in the piping', change: (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, first, 2.4) }) },
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

/** Holds of an hour and more: a look a second is enough. */
export const plant = airModel(scenarios, 1);
