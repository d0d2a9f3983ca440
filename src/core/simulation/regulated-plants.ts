import type { Plan } from '../planning/plan';
import type { HoldPhase } from '../procedures/phases';
import { toSi } from '../quantities';
import { type GasPlant, GasTrack } from './gas-plant';
import { leakOf, type Scale, scaleOf, warmingOf } from './gas-scale';
import type { PlantModel, Scenario } from './plant';
import { soundPlant } from './scenarios';

/** Gas behind a regulator, a cylinder, a tank or an inlet stop (DOMAIN 5.2, 5.4–5.6). */
interface RegulatedScenario extends Scenario {
  /** `scale` is that of the tightness hold. */
  readonly change: (plant: GasPlant, scale: Scale, plan: Plan) => GasPlant;
}

const inH2O = (value: number): number => toSi(value, 'inH2O') / 100;

const leak =
  (thresholds: number) =>
  (plant: GasPlant, scale: Scale): GasPlant => ({ ...plant, pipeworkLeakLh: leakOf(plant, scale, thresholds) });

/** A valve that feeds what a leak takes, so that the two balance at the pressure of the hold. */
function masked(plant: GasPlant, scale: Scale, thresholds: number): GasPlant {
  const pipeworkLeakLh = leakOf(plant, scale, thresholds);
  const at = scale.middleMbar;
  const letByLh = (pipeworkLeakLh * Math.sqrt(at / 20)) / Math.sqrt((plant.supplyMbar - at) / plant.supplyMbar);
  return { ...plant, pipeworkLeakLh, letByLh };
}

const lockUp = (value: number) => (plant: GasPlant) => ({ ...plant, lockUpMbar: inH2O(value), supplyMbar: inH2O(value) });

const common: readonly RegulatedScenario[] = [
  { id: 'sound', label: 'Sound system', change: (plant) => plant },
  { id: 'leak', label: 'Leak in the pipes', change: leak(3) },
  { id: 'rig-leak', label: 'Leak at the rig’s own joint', change: leak(3), sees: { rig: 'bubbles' } },
  {
    id: 'unzeroed',
    label: 'Gauge off its zero',
    change: (plant, { thresholdMbar }) => ({ ...plant, gauge: { ...plant.gauge, zeroErrorMbar: thresholdMbar * 3 } }),
    forgetsZero: true,
  },
  {
    id: 'sticky',
    label: 'Sticky gauge',
    change: (plant, { thresholdMbar }) => ({ ...plant, gauge: { ...plant.gauge, stictionMbar: thresholdMbar * 2 } }),
  },
];

const meterSet: readonly RegulatedScenario[] = [
  ...common,
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

const vehicle: readonly RegulatedScenario[] = [
  ...common,
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

const tank: readonly RegulatedScenario[] = [
  ...common,
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

/** Leaks of the litres-per-hour school are named by their rate, L/h at the pressure of the hold. */
const rate =
  (litresPerHour: number) =>
  (plant: GasPlant, { pressureMbar }: Scale): GasPlant => ({ ...plant, pipeworkLeakLh: litresPerHour / Math.sqrt(pressureMbar / 20) });

const gasLine: readonly RegulatedScenario[] = [
  ...common.filter(({ id }) => id !== 'leak' && id !== 'rig-leak'),
  { id: 'slight', label: 'Leak of a tenth of a litre an hour', change: rate(0.1) },
  // Measured under one, and over it with what the gauge and the barometer may hide.
  { id: 'near-limit', label: 'Leak too near a litre an hour for the time', change: rate(0.95) },
  { id: 'reduced', label: 'Leak of two and a half litres an hour', change: rate(2.5) },
  { id: 'large-leak', label: 'Leak of eight litres an hour', change: rate(8) },
  { id: 'rig-leak', label: 'Leak at the rig’s own joint', change: rate(2.5), sees: { rig: 'bubbles', 'rig-strength': 'bubbles' } },
  {
    id: 'hidden-by-weather',
    label: 'Leak made smaller by a falling barometer',
    change: (plant, scale) => ({ ...rate(1.15)(plant, scale), barometerHpaPerH: -12 }),
  },
  { id: 'open-end', label: 'Open end', change: rate(4000) },
];

/** What the plant is like when nothing is wrong. */
type Sound = (plan: Plan) => Partial<GasPlant>;

const model = (scenarios: readonly RegulatedScenario[], usual: Sound): PlantModel => ({
  scenarios,
  track: (plan, id, seed, acts) => {
    const tightness = plan.phases.find((phase) => phase.kind === 'hold' && phase.purpose === 'tightness') as HoldPhase | undefined;
    const sound: GasPlant = {
      ...soundPlant(seed, Number(plan.volume.litres), plan.gauge),
      ...(plan.instruments === undefined ? {} : { others: plan.instruments }),
      ...usual(plan),
    };
    const scenario = scenarios.find((one) => one.id === id);
    const plant = scenario === undefined || tightness === undefined ? sound : scenario.change(sound, scaleOf(plan, tightness), plan);
    return new GasTrack(plant, acts);
  },
});

const dialOf = (plan: Plan): Partial<GasPlant> => {
  const dial = plan.phases.flatMap((phase) => (phase.kind === 'hold' && phase.limit.kind === 'dial' ? [phase.limit] : []))[0];
  return dial === undefined ? {} : { litresPerTurn: Number(dial.litresPerTurn) };
};

export const meterSetModel = model(meterSet, (plan) => ({ lockUpMbar: inH2O(7.5), supplyMbar: inH2O(7.5), ...dialOf(plan) }));

export const vehicleModel = model(vehicle, () => ({ lockUpMbar: inH2O(12), supplyMbar: inH2O(12), flowingMbar: inH2O(11) }));

/** The tank's own pressure stands before its valve. */
export const tankModel = model(tank, (plan) => ({
  lockUpMbar: Number.POSITIVE_INFINITY,
  supplyMbar: toSi(Number(plan.highest), plan.unit) / 100,
}));

/** Gas at operating pressure, or what a pump or cylinder raises, closed off while it is held. */
export const gasLineModel = model(gasLine, () => ({ lockUpMbar: Number.POSITIVE_INFINITY, supplyMbar: 1 }));
