import { mainAllowance } from '../physics/main-allowance';
import { wallAndWater } from '../physics/water-stiffness';
import { instrumentOf } from '../planning/instruments';
import type { Plan } from '../planning/plan';
import { referencePressure, toSi } from '../quantities';
import { type PlantAct, type PlantModel, type PlantTrack, type Scenario, shownAs } from './plant';
import { bellAt } from './random';

/** A water main filled and closed (DOMAIN 3.7, 10): its water, wall and trapped air give, a leak takes. SI throughout. */
export interface MainPlant {
  readonly seed: number;
  readonly volumeM3: number;
  /** Softness of water and wall, 1/Pa. */
  readonly softness: number;
  /** Trapped air by volume at atmospheric pressure. */
  readonly airAtAtmosphere: number;
  /** Leak, m³/s, at the reference pressure below, growing with its square root. */
  readonly leakM3s: number;
  readonly leakAtPa: number;
  /** Highest pressure that the pump reaches against the leak. */
  readonly reachesPa: number;
  /** What the gauge shows above the truth. */
  readonly zeroErrorPa: number;
}

interface MainScenario extends Scenario {
  readonly change: (plant: MainPlant) => MainPlant;
}

/** The sound main loses a third of what is allowed: tightness of a main is a matter of degree. */
const mainScenarios: readonly MainScenario[] = [
  { id: 'sound', label: 'Sound main', change: (plant) => plant },
  { id: 'leak', label: 'Leak over the allowance', change: (plant) => ({ ...plant, leakM3s: plant.leakM3s * 6 }) },
  {
    id: 'trapped-air',
    label: 'Leak hidden by trapped air',
    // The air gives back what the leak takes: the gauge hardly falls, and only the measured make-up tells.
    change: (plant) => ({ ...plant, leakM3s: plant.leakM3s * 6, airAtAtmosphere: 0.02 }),
  },
  { id: 'seen', label: 'Leak seen at a joint', change: (plant) => ({ ...plant, leakM3s: plant.leakM3s * 2 }), sees: { walk: 'leak' } },
  { id: 'unzeroed', label: 'Gauge off its zero', change: (plant) => ({ ...plant, zeroErrorPa: plant.leakAtPa / 50 }) },
  { id: 'open-end', label: 'Open hydrant', change: (plant) => ({ ...plant, reachesPa: 200_000 }) },
];

const stepS = 1;

class MainTrack implements PlantTrack {
  private pa = 0;
  private pumpedM3 = 0;
  private done = 0;
  private originMs = 0;
  private step = 0;
  private lastMs = Number.NEGATIVE_INFINITY;

  constructor(
    private readonly plant: MainPlant,
    private readonly plan: Plan,
    private readonly acts: readonly PlantAct[],
  ) {}

  shownAt(ms: number, role?: string): string {
    this.advance(ms);
    const { unit, readability } = instrumentOf(this.plan, role);
    const noise = 0.1 * toSi(Number(readability), unit) * bellAt(this.plant.seed, Math.floor(ms / 1000) % 1_000_000);
    return shownAs(Math.max(0, this.pa + (this.pa > 0 ? noise : 0)) + this.plant.zeroErrorPa, unit, readability);
  }

  temperatureAt(): number {
    return 12;
  }

  barometerAt(): number {
    return 1013.2;
  }

  /** What the last raising of a main already under pressure took: the make-up, drawn into the vessel. */
  measuredAt(ms: number): string {
    this.advance(ms);
    const { unit, readability } = instrumentOf(this.plan, 'vessel');
    return shownAs(this.pumpedM3, unit, readability);
  }

  private advance(ms: number): void {
    if (ms < this.lastMs) {
      this.pa = 0;
      this.done = 0;
      this.step = 0;
      this.pumpedM3 = 0;
    }
    this.lastMs = ms;
    while (this.done < this.acts.length && this.acts[this.done].atMs <= ms) {
      const act = this.acts[this.done];
      this.run(act.atMs);
      if (act.action === 'zero' || act.action === 'disconnect') this.pa = 0;
      if (act.action === 'raise') {
        const target = Math.min(act.pa ?? 0, this.plant.reachesPa);
        if (this.pa > 0) this.pumpedM3 = this.taken(this.pa, target);
        this.pa = target;
      }
      this.done += 1;
      this.originMs = act.atMs;
      this.step = 0;
    }
    this.run(ms);
  }

  private softnessAt(pa: number): number {
    const { softness, airAtAtmosphere } = this.plant;
    // Air at one temperature: its share shrinks with the pressure, and so does its give.
    return softness + (airAtAtmosphere * referencePressure) / (pa + referencePressure) ** 2;
  }

  /** Water that raising from one pressure to another takes, m³. */
  private taken(from: number, to: number): number {
    const { volumeM3, softness, airAtAtmosphere } = this.plant;
    const air = airAtAtmosphere * referencePressure * (1 / (from + referencePressure) - 1 / (to + referencePressure));
    return Math.max(0, volumeM3 * ((to - from) * softness + air));
  }

  private run(ms: number): void {
    if (this.done === 0) return;
    const target = Math.floor((ms - this.originMs) / (stepS * 1000));
    const { volumeM3, leakM3s, leakAtPa } = this.plant;
    while (this.step < target) {
      const leak = leakM3s * Math.sqrt(Math.max(0, this.pa) / leakAtPa);
      this.pa = Math.max(0, this.pa - (leak * stepS) / volumeM3 / this.softnessAt(this.pa));
      this.step += 1;
    }
  }
}

/** A sound main of the plan: what it is made of, a third of its allowance as its leak, a trace of air. */
function soundMain(plan: Plan, seed: number): MainPlant {
  const criterion = plan.phases.flatMap((phase) =>
    phase.kind === 'measure' && phase.criterion.kind === 'make-up-at-most' ? [phase.criterion] : [],
  )[0];
  const lengthM = Number(criterion?.lengthM ?? '100');
  const diameterM = Number(criterion?.diameterM ?? '0.1');
  const testPa = toSi(Number(plan.highest), plan.unit);
  const wallM = Math.max(0.004, diameterM / 20);
  const material = criterion?.material === 'PVC' ? 'PVC' : 'steel';
  const outsideM = diameterM + 2 * wallM;
  const soft = wallAndWater({ material, outsideM, wallM });
  const allowance = mainAllowance({ material: 'iron', lengthM, diameterM, meanPa: testPa });
  return {
    seed,
    volumeM3: (Math.PI / 4) * diameterM ** 2 * lengthM,
    softness: soft.ok ? soft.value : 5e-10,
    airAtAtmosphere: 0.001,
    leakM3s: allowance.ok ? allowance.value / 3 : 0,
    leakAtPa: testPa,
    reachesPa: Number.POSITIVE_INFINITY,
    zeroErrorPa: 0,
  };
}

export const mainModel: PlantModel = {
  scenarios: mainScenarios,
  track: (plan, id, seed, acts) => {
    const sound = soundMain(plan, seed);
    return new MainTrack(mainScenarios.find((one) => one.id === id)?.change(sound) ?? sound, plan, acts);
  },
};
