import { common, leak, soft, type WaterScenario, water } from '../../plants/water';
import type { SeenIn } from '../card';
import type { Names } from '.';

const scenarios: readonly WaterScenario<SeenIn<Names>>[] = [
  ...common,
  { id: 'open-end', label: 'Open end', change: (plant) => ({ ...plant, reachesPa: 60_000 }) },
  { id: 'gross-leak', label: 'Large leak', change: leak(40) },
  { id: 'rig-leak', label: 'Pump’s own valve drips', change: leak(40), sees: { 'rig-1': 'bubbles', rig: 'bubbles' } },
  {
    id: 'trapped-air',
    label: 'Leak hidden by trapped air',
    change: (plant, scale) => ({ ...leak(4)(plant, scale), airAtAtmosphere: 0.08 }),
  },
  {
    id: 'soft-pipe',
    label: 'Leak that looks like soft pipe relaxing',
    change: (plant, scale) => leak(3)(plant, scale),
  },
];

/** Soft pipe gives up a part of its pressure within minutes of being raised. */
export const plant = water(scenarios, ({ answers }) => ({
  softness: soft(answers.pipe),
  ...(answers.pipe === 'PEX' || answers.pipe === 'multilayer' ? { relaxes: 0.05, relaxS: 45 } : {}),
}));
