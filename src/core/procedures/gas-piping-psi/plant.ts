import { airModel, common, type PipingScenario } from '../../plants/air';
import { leakOf, warmingOf } from '../../plants/gas-scale';
import type { SeenIn } from '../card';
import type { Names } from '.';

const scenarios: readonly PipingScenario<SeenIn<Names>>[] = [
  ...common,
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
];

export const plant = airModel(scenarios, undefined, ({ phase }) => phase === 'hold-open');
