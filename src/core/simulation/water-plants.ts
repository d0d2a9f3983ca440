import type { Plan } from '../planning/plan';
import type { HoldPhase } from '../procedures/phases';
import { type PressureUnit, parseQuantity, toNumber, toSi } from '../quantities';
import { boreOf, litresPerMetre } from '../sizing/pipe-volume';
import { softnessOf, type WaterPipe } from '../sizing/water-hold';
import { leakOf, warmingOf } from './gas-scale';
import { type HydraulicPlant, HydraulicTrack, leakOver, soundWater } from './hydraulic-plant';
import { airModel, type PipingScenario } from './piping-plant';
import type { PlantModel, Scenario } from './plant';

/** Water pipes of houses, heating, underfloor loops and pools (DOMAIN 5.7, 5.10, 5.11, 5.14). */

/** The hold that a fault is measured by: its threshold, Pa, its pressure, Pa gauge, and its time. */
interface Scale {
  readonly thresholdPa: number;
  readonly pressurePa: number;
  readonly seconds: number;
}

interface WaterScenario extends Scenario {
  readonly change: (plant: HydraulicPlant, scale: Scale) => HydraulicPlant;
}

const leak =
  (thresholds: number, over = 1) =>
  (plant: HydraulicPlant, { thresholdPa, seconds }: Scale): HydraulicPlant => ({
    ...plant,
    leakM3s: leakOver(plant, thresholds * thresholdPa, seconds * over),
  });

/** What an open valve would pass so that it lets the gauge rise by so many thresholds in two minutes from the hold's start. */
const passing = (plant: HydraulicPlant, { thresholdPa, pressurePa }: Scale, thresholds: number): number =>
  leakOver(plant, thresholds * thresholdPa, 120) / Math.sqrt((plant.supplyPa - pressurePa) / plant.supplyPa);

const drift =
  (thresholds: number) =>
  (plant: HydraulicPlant, { thresholdPa, seconds }: Scale): HydraulicPlant => ({
    ...plant,
    warmingPaS: (thresholds * thresholdPa) / seconds,
    warmingKPerMin: thresholds / 10,
  });

const common: readonly WaterScenario[] = [
  { id: 'sound', label: 'Sound system', change: (plant) => plant },
  { id: 'leak', label: 'Leak in the pipes', change: leak(4) },
  {
    id: 'unzeroed',
    label: 'Gauge off its zero',
    change: (plant, { thresholdPa }) => ({ ...plant, zeroErrorPa: thresholdPa * 3 }),
    forgetsZero: true,
  },
];

const houseScenarios: readonly WaterScenario[] = [
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
  { id: 'cistern', label: 'A cistern runs', change: leak(30), sees: { indicator: 'moving' } },
  { id: 'heater', label: 'Water heater left on', change: drift(9) },
  {
    id: 'water-drawn',
    label: 'Somebody draws water during the hold',
    change: (plant) => ({ ...plant, drawn: { afterS: 400, pa: 60_000 } }),
    disturbs: 'water drawn',
  },
];

const pipedScenarios: readonly WaterScenario[] = [
  ...common,
  { id: 'open-end', label: 'Open end', change: (plant) => ({ ...plant, reachesPa: 60_000 }) },
];

const heatingScenarios: readonly WaterScenario[] = [
  ...pipedScenarios,
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

const underfloorScenarios: readonly WaterScenario[] = [
  ...pipedScenarios,
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

const poolScenarios: readonly WaterScenario[] = [
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

/** Where the bleeding ends, in the plan's unit; the hold's band is wider, as the supply is only known once it is read. */
const bledTo = (plan: Plan): string | undefined =>
  plan.phases.flatMap((phase) => (phase.kind === 'check' ? phase.items : [])).find(({ id, to }) => id === 'bled' && to !== undefined)?.to;

const model = (scenarios: readonly WaterScenario[], usual: (plan: Plan) => Partial<HydraulicPlant>): PlantModel => ({
  scenarios,
  track: (plan, id, _seed, acts) => {
    const sound = soundWater(plan, usual(plan));
    const holds = plan.phases.filter((phase) => phase.kind === 'hold' && phase.purpose === 'tightness') as readonly HoldPhase[];
    const hold = holds.at(-1);
    const scenario = scenarios.find((one) => one.id === id);
    if (hold === undefined || scenario === undefined || hold.limit.kind !== 'no-fall') return new HydraulicTrack(sound, plan, acts);
    const scale: Scale = {
      thresholdPa: toSi(Number(hold.limit.threshold), plan.unit),
      pressurePa: toSi(Number(bledTo(plan) ?? hold.band.high), plan.unit),
      seconds: hold.seconds,
    };
    return new HydraulicTrack(scenario.change(sound, scale), plan, acts);
  },
});

const soft = (pipe: string | undefined): number => softnessOf((pipe ?? 'copper') as WaterPipe) / 1e9;

function supplyOf(typed: string, unit: PressureUnit): number {
  const supply = parseQuantity(typed, 'pressure', unit);
  return supply.ok ? toSi(toNumber(supply.value.value), supply.value.unit) : 400_000;
}

/** Supply pressure stands before the valve that is shut. */
export const houseWaterModel = model(houseScenarios, ({ answers, unit }) => ({
  softness: soft(answers.pipe),
  supplyPa: supplyOf(answers.supply, unit),
}));

/** Soft pipe gives up a part of its pressure within minutes of being raised. */
export const heatingModel = model(heatingScenarios, ({ answers }) => ({
  softness: soft(answers.pipe),
  ...(answers.pipe === 'PEX' || answers.pipe === 'multilayer' ? { relaxes: 0.05, relaxS: 45 } : {}),
}));

const wetLoops = model(underfloorScenarios, () => ({ softness: soft('multilayer'), relaxes: 0.04, relaxS: 240 }));

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
  underfloorScenarios.map(({ change: _, ...scenario }) => ({ ...scenario, change: airFaults[scenario.id] ?? ((plant) => plant) })),
  1,
);

export const underfloorModel: PlantModel = {
  scenarios: underfloorScenarios,
  track: (plan, ...more) => (plan.answers.medium === 'air' ? airLoops : wetLoops).track(plan, ...more),
};

/** A pool's line, filled from its size and length; its pipe is short and small enough to be looked up. */
export const poolModel = model(poolScenarios, ({ answers }) => {
  const bore = boreOf('sch40', answers.size);
  const length = parseQuantity(answers.length, 'length', 'ft');
  const metres = length.ok ? toSi(toNumber(length.value.value), length.value.unit) : 20;
  return {
    softness: soft('PVC'),
    volumeM3: ((bore.ok ? litresPerMetre(bore.value.boreMm) : 2) * metres) / 1000,
  };
});
