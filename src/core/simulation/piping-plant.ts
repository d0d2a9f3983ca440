import type { Plan } from '../planning/plan';
import type { HoldPhase } from '../procedures/phases';
import { toSi } from '../quantities';
import { type GasPlant, GasTrack } from './gas-plant';
import type { PlantModel, Scenario } from './plant';
import { soundPlant } from './scenarios';

/**
 * Gas piping under a pneumatic test (DOMAIN 5.3): compressed air in pipes, tested at one pressure and then at a lower one
 * with the stops open. Appliance leaks lie beyond the stops and are there only once these are open.
 */

/** What a fault is measured by: the first hold that judges, its pressure and its threshold, mbar and s. */
interface Scale {
  readonly thresholdMbar: number;
  readonly pressureMbar: number;
  readonly seconds: number;
}

interface PipingScenario extends Scenario {
  readonly change: (plant: GasPlant, first: Scale, last: Scale) => GasPlant;
}

/** Leak, L/h at 20 mbar, that drops so many thresholds in a hold. */
const leakOf = (plant: GasPlant, { thresholdMbar, pressureMbar, seconds }: Scale, thresholds: number): number =>
  (((thresholds * thresholdMbar) / 1013.25) * plant.volumeL * 3600) / seconds / Math.sqrt(pressureMbar / 20);

/** Warming, K/min, that moves the gauge by so many thresholds in a hold. */
const warmingOf = (plant: GasPlant, { thresholdMbar, pressureMbar, seconds }: Scale, thresholds: number): number =>
  ((thresholds * thresholdMbar * (plant.startC + 273.15)) / (pressureMbar + 1013.25) / seconds) * 60;

const pipingScenarios: readonly PipingScenario[] = [
  { id: 'sound', label: 'Sound piping', change: (plant) => plant },
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
  {
    id: 'sticky',
    label: 'Sticky gauge',
    change: (plant, first) => ({ ...plant, gauge: { ...plant.gauge, stictionMbar: first.thresholdMbar * 3 } }),
  },
  {
    id: 'gross-leak',
    label: 'Open end',
    change: (plant, first) => ({ ...plant, pipeworkLeakLh: leakOf(plant, { ...first, seconds: 4 }, 40) }),
  },
  {
    id: 'unzeroed',
    label: 'Gauge not zeroed',
    change: (plant, first) => ({ ...plant, gauge: { ...plant.gauge, zeroErrorMbar: first.thresholdMbar * 3 } }),
    forgetsZero: true,
  },
];

function scaleOf(plan: Plan, phase: HoldPhase): Scale {
  const mbar = (text: string): number => toSi(Number(text), plan.unit) / 100;
  const threshold = phase.criterion.kind === 'no-fall' ? mbar(phase.criterion.threshold) : 1;
  return { thresholdMbar: threshold, pressureMbar: mbar(phase.band.low), seconds: phase.seconds };
}

export const pipingModel: PlantModel = {
  scenarios: pipingScenarios,
  track: (plan, id, seed, acts) => {
    const holds = plan.phases.filter((phase) => phase.kind === 'hold' && phase.criterion.kind === 'no-fall') as readonly HoldPhase[];
    const sound: GasPlant = {
      ...soundPlant(seed, Number(plan.volume.litres), plan.gauge),
      // Fed from a compressor or cylinder through a regulator, and disconnected for the hold.
      supplyMbar: 1,
      lockUpMbar: Number.POSITIVE_INFINITY,
      ...(plan.instruments === undefined
        ? {}
        : {
            others: Object.fromEntries(
              Object.entries(plan.instruments).map(([role, { unit, readability }]) => [
                role,
                { unit: unit as GasPlant['gauge']['unit'], readability },
              ]),
            ),
          }),
    };
    const scenario = pipingScenarios.find((one) => one.id === id);
    const [first, last] = [holds[0], holds.at(-1)];
    if (scenario === undefined || first === undefined || last === undefined) return new GasTrack(sound, acts);
    return new GasTrack(scenario.change(sound, scaleOf(plan, first), scaleOf(plan, last)), acts);
  },
};
