import { type HydraulicPlant, leakOver } from '../../plants/hydraulic-plant';
import { common, drift, leak, type Scale, soft, type WaterScenario, water } from '../../plants/water';
import { type PressureUnit, parseQuantity, toNumber, toSi } from '../../quantities';
import type { SeenIn } from '../card';
import type { Names } from '.';

/** What an open valve would pass so that it lets the gauge rise by so many thresholds in two minutes from the hold's start. */
const passing = (plant: HydraulicPlant, { thresholdPa, pressurePa }: Scale, thresholds: number): number =>
  leakOver(plant, thresholds * thresholdPa, 120) / Math.sqrt((plant.supplyPa - pressurePa) / plant.supplyPa);

const scenarios: readonly WaterScenario<SeenIn<Names>>[] = [
  ...common,
  { id: 'rig-leak', label: 'Hose tap drips', change: leak(4), sees: { rig: 'bubbles' } },
  {
    id: 'valve-passes',
    label: 'Supply valve passes',
    change: (plant, scale) => ({ ...plant, letByM3s: passing(plant, scale, 3) }),
  },
  {
    id: 'masked-leak',
    label: 'Passing valve hides a leak',
    change: (plant, scale) => ({ ...leak(6)(plant, scale), letByM3s: passing(plant, scale, 5) }),
  },
  { id: 'blind-gauge', label: 'Hose tap shut behind the gauge', change: (plant) => plant, sees: { sees: 'stands' } },
  { id: 'cistern', label: 'A cistern runs', change: leak(30), sees: { indicator: 'moving' } },
  { id: 'heater', label: 'Water heater left on', change: drift(9) },
  {
    id: 'water-drawn',
    label: 'Somebody draws water during the hold',
    change: (plant) => ({ ...plant, drawn: { afterS: 400, pa: 60_000 } }),
    disturbs: 'water drawn',
  },
];

function supplyOf(typed: string, unit: PressureUnit): number {
  const supply = parseQuantity(typed, 'pressure', unit);
  return supply.ok ? toSi(toNumber(supply.value.value), supply.value.unit) : 400_000;
}

/** Supply pressure stands before the valve that is shut. */
export const plant = water(scenarios, ({ answers, unit }) => ({
  softness: soft(answers.pipe),
  supplyPa: supplyOf(answers.supply, unit),
}));
