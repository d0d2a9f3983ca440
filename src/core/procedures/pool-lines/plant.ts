import { common, leak, soft, type WaterScenario, water } from '../../plants/water';
import { parseQuantity, toNumber, toSi } from '../../quantities';
import { boreOf, litresPerMetre } from '../../sizing/pipe-volume';
import type { SeenIn } from '../card';
import type { Names } from '.';

const scenarios: readonly WaterScenario<SeenIn<Names>>[] = [
  ...common,
  { id: 'passing-plug', label: 'Plug passes: looks like the line', change: leak(4), sees: { 'check-1': 'passing' } },
  { id: 'broken-line', label: 'Broken line', change: (plant) => ({ ...plant, reachesPa: 20_000 }) },
  {
    id: 'fast-rise',
    label: 'Plug fired by a fast rise',
    // Steps of 5 psi with pauses keep it in; all at once does not.
    change: (plant) => ({ ...plant, firesAbovePa: 45_000 }),
    hasty: true,
  },
  {
    id: 'trapped-air',
    label: 'Leak made smaller by trapped air',
    change: (plant, scale) => ({ ...leak(8)(plant, scale), airAtAtmosphere: 0.01 }),
  },
];

/** A pool's line, filled from its size and length; its pipe is short and small enough to be looked up. */
export const plant = water(scenarios, ({ answers }) => {
  const bore = boreOf('sch40', answers.size);
  const length = parseQuantity(answers.length, 'length', 'ft');
  const metres = length.ok ? toSi(toNumber(length.value.value), length.value.unit) : 20;
  return {
    softness: soft('PVC'),
    volumeM3: ((bore.ok ? litresPerMetre(bore.value.boreMm) : 2) * metres) / 1000,
  };
});
