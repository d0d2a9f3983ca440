import { instrumentOf } from '../../course/instruments';
import type { MeasurePoint, ReadQuantity } from '../../course/phases';
import type { PlanShape as Plan } from '../../course/plan-shape';
import { type PlantModel, type PlantTrack, type Scenario, shownAs } from '../../plants/plant';
import { bellAt } from '../../plants/random';
import { toSi } from '../../quantities';

/** A duct system with a fan on it (DOMAIN 3.6, 10): Q = C·Δpⁿ, the rig's own leakage on top. SI throughout. */
interface DuctPlant {
  readonly seed: number;
  /** Flow at the reference pressure, m³/s, without the rig's. */
  readonly flowAtReference: number;
  readonly rigAtReference: number;
  readonly referencePa: number;
  readonly exponent: number;
  /** Smallest flow that the ring in use shows. */
  readonly leastFlow: number;
  /** What the gauge shows above the truth. */
  readonly zeroErrorPa: number;
}

interface DuctScenario extends Scenario {
  readonly change: (plant: DuctPlant, limit: number) => DuctPlant;
}

const scenarios: readonly DuctScenario[] = [
  { id: 'sound', label: 'Tight ducts', change: (plant) => plant },
  { id: 'leaky', label: 'Leaky ducts', change: (plant, limit) => ({ ...plant, flowAtReference: limit * 1.6 }) },
  {
    id: 'within-rig',
    label: 'Over the limit by the rig’s own leakage',
    change: (plant, limit) => ({ ...plant, flowAtReference: limit * 1.02 - plant.rigAtReference / 2 }),
  },
  { id: 'unzeroed', label: 'Gauge off its zero', change: (plant) => ({ ...plant, zeroErrorPa: 1.5 }) },
  { id: 'hose-off', label: 'Pressure hose off its tap', change: (plant) => ({ ...plant, exponent: 0.25 }) },
  { id: 'taped-register', label: 'Tape lifting as the pressure grows', change: (plant) => ({ ...plant, exponent: 1.35 }) },
  {
    id: 'below-range',
    label: 'Too tight for the ring',
    change: (plant) => ({ ...plant, flowAtReference: plant.leastFlow / 4, rigAtReference: 0 }),
  },
];

class DuctTrack implements PlantTrack {
  constructor(
    private readonly plant: DuctPlant,
    private readonly plan: Plan,
  ) {}

  /** Between the points the gauge lies open to the room. */
  shownAt(): string {
    return shownAs(this.plant.zeroErrorPa, this.plan.gauge.unit, this.plan.gauge.readability);
  }

  temperatureAt(): number {
    return 20;
  }

  barometerAt(): number {
    return 1013.2;
  }

  measuredAt(_: number, point: MeasurePoint, quantity: ReadQuantity): string | undefined {
    const { plant, plan } = this;
    const phase = plan.phases.find((one) => one.kind === 'measure' && one.points.some(({ id }) => id === point.id));
    const role = phase?.kind === 'measure' ? phase.fields.find((field) => field.quantity === quantity)?.instrument : undefined;
    const { unit, readability } = instrumentOf(plan, role);
    const index = phase?.kind === 'measure' ? phase.points.findIndex(({ id }) => id === point.id) : 0;
    const aim = toSi(Number(point.aim ?? '25'), plan.gauge.unit);
    // Set by hand on a fan's dial: the pressure reached is a little off its aim, and the flow is that of what was reached.
    const pressureText = shownAs(aim * (1 + 0.004 * bellAt(plant.seed, index)), plan.gauge.unit, plan.gauge.readability);
    if (quantity === 'pressure') return pressureText;
    const pa = toSi(Number(pressureText), plan.gauge.unit);
    const grown = (pa / plant.referencePa) ** plant.exponent;
    const flow = (plant.flowAtReference + plant.rigAtReference) * grown * (1 + 0.002 * bellAt(plant.seed, index + 100));
    return flow < plant.leastFlow ? undefined : shownAs(flow, unit, readability);
  }
}

function soundDucts(plan: Plan, seed: number): { readonly sound: DuctPlant; readonly limit: number } {
  const criterion = plan.phases.flatMap((phase) =>
    phase.kind === 'measure' && phase.limit.kind === 'flow-at-most' ? [phase.limit] : [],
  )[0];
  const meter = instrumentOf(plan, 'flow');
  const limit = criterion === undefined ? 0.01 : toSi(Number(criterion.limit), criterion.unit);
  return {
    limit,
    sound: {
      seed,
      flowAtReference: limit * 0.6,
      rigAtReference: criterion === undefined ? 0 : toSi(Number(criterion.baseline), criterion.unit),
      referencePa: Number(criterion?.reference ?? '25'),
      exponent: 0.62,
      leastFlow: toSi(Number(meter.rangeLow), meter.unit),
      zeroErrorPa: 0,
    },
  };
}

export const plant: PlantModel = {
  scenarios,
  tried: (plan, { leakM3s }, seed) => {
    const { sound } = soundDucts(plan, seed);
    return new DuctTrack(leakM3s > 0 ? { ...sound, flowAtReference: leakM3s, rigAtReference: 0 } : sound, plan);
  },
  track: (plan, id, seed) => {
    const { sound, limit } = soundDucts(plan, seed);
    return new DuctTrack(scenarios.find((one) => one.id === id)?.change(sound, limit) ?? sound, plan);
  },
};
