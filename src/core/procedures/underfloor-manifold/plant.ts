import { airModel, type PipingScenario } from '../../plants/air';
import { leakOf, warmingOf } from '../../plants/gas-scale';
import type { PlantModel } from '../../plants/plant';
import { common, drift, leak, soft, type WaterScenario, water } from '../../plants/water';
import type { SeenIn } from '../card';
import type { Names } from '.';

const scenarios: readonly WaterScenario<SeenIn<Names>>[] = [
  ...common,
  { id: 'open-end', label: 'Open end', change: (plant) => ({ ...plant, reachesPa: 60_000 }) },
  {
    id: 'long-relaxing',
    label: 'Pipe that relaxes for hours',
    change: (plant) => ({ ...plant, relaxes: 0.2, relaxS: 2400 }),
  },
  { id: 'soft-pipe', label: 'Leak that looks like soft pipe relaxing', change: leak(3) },
  { id: 'sun', label: 'Sun on the loops', change: drift(3) },
  { id: 'gross-leak', label: 'Pierced loop', change: leak(120) },
  { id: 'rig-leak', label: 'Pump’s own valve drips', change: leak(120), sees: { 'rig-1': 'bubbles', rig: 'bubbles' } },
];

const wetLoops = water(scenarios, () => ({ softness: soft('multilayer'), relaxes: 0.04, relaxS: 240 }));

/** The same faults in loops that are full of air, where frost threatens: air does not relax, and warms with the sun. */
const airFaults: Readonly<Record<string, PipingScenario['change']>> = {
  leak: (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, first, 3) }),
  'rig-leak': (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, first, 3) }),
  'gross-leak': (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, first, 40) }),
  'open-end': (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, { ...first, seconds: 4 }, 40) }),
  'soft-pipe': (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, first, 2) }),
  sun: (plant, first) => ({ ...plant, warmingKPerMin: warmingOf(plant, first, 3) }),
  unzeroed: (plant, first) => ({ ...plant, gauge: { ...plant.gauge, zeroErrorMbar: first.thresholdMbar * 3 } }),
};
const airLoops = airModel(
  scenarios.map(({ change: _, ...scenario }) => ({ ...scenario, change: airFaults[scenario.id] ?? ((plant) => plant) })),
  1,
);

export const plant: PlantModel = {
  scenarios,
  tried: (plan, ...more) =>
    (plan.answers.medium === 'air' ? airLoops : wetLoops).tried?.(plan, ...more) ?? wetLoops.track(plan, 'sound', 0, []),
  track: (plan, ...more) => (plan.answers.medium === 'air' ? airLoops : wetLoops).track(plan, ...more),
};
