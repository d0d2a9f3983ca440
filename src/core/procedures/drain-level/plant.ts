import { instrumentOf } from '../../course/instruments';
import type { MeasurePoint } from '../../course/phases';
import type { PlanShape as Plan } from '../../course/plan-shape';
import { type PlantAct, type PlantModel, type Scenario, shownAs } from '../../plants/plant';
import { bellAt } from '../../plants/random';
import { SteppedTrack } from '../../plants/stepped-track';
import { toSi } from '../../quantities';
import type { SeenIn } from '../card';
import type { Names } from '.';

/** A drain filled to a level behind a test ball (DOMAIN 3.9, 5.8, 10). SI throughout. */
interface DrainPlant {
  readonly seed: number;
  /** Fall of the level by a leak, and by water that comes past the ball, m/s. */
  readonly leakMs: number;
  readonly pastBallMs: number;
  /** Level that goes at first as the pipe wets and lets its air out, and the time in which most of it goes. */
  readonly wettingM: number;
  readonly wettingS: number;
  readonly ballPa: number;
  /** What the ball loses, Pa/s. */
  readonly ballLosesPaS: number;
  readonly zeroErrorPa: number;
  /** Somebody lets water in once, this long after the drain was filled. */
  readonly poured?: { readonly afterS: number; readonly m: number };
}

interface DrainScenario extends Scenario<SeenIn<Names>> {
  readonly change: (plant: DrainPlant) => DrainPlant;
}

/** The riser's rim above the foot of the rule, and the level that it is filled to where no figure is named, m. */
const rimM = 0.3;
const filledM = 0.2;

const mmIn20Min = (mm: number): number => mm / 1000 / 1200;

const scenarios: readonly DrainScenario[] = [
  { id: 'sound', label: 'Sound drain', change: (plant) => plant },
  { id: 'leak', label: 'Drain leaks below the slab', change: (plant) => ({ ...plant, leakMs: mmIn20Min(4) }) },
  { id: 'slow-leak', label: 'Slow leak', change: (plant) => ({ ...plant, leakMs: mmIn20Min(2) }) },
  {
    id: 'passing-ball',
    label: 'Ball passes water: looks like a leak',
    change: (plant) => ({ ...plant, pastBallMs: mmIn20Min(5) }),
    sees: { 'far-side': 'water' },
  },
  { id: 'soft-ball', label: 'Ball loses its air', change: (plant) => ({ ...plant, ballLosesPaS: plant.ballPa / 9000 }) },
  { id: 'ball-flat', label: 'Ball not blown up enough', change: (plant) => ({ ...plant, ballPa: plant.ballPa * 0.6 }) },
  { id: 'wetting', label: 'Level settles as the pipe wets', change: (plant) => ({ ...plant, wettingM: 0.006 }) },
  {
    id: 'water-used',
    label: 'Somebody flushes during the hold',
    change: (plant) => ({ ...plant, leakMs: mmIn20Min(3), poured: { afterS: 700, m: 0.02 } }),
    disturbs: 'water drawn',
  },
  { id: 'unzeroed', label: 'Ball’s gauge off its zero', change: (plant) => ({ ...plant, zeroErrorPa: 14_000 }) },
];

class DrainTrack extends SteppedTrack {
  private m = 0;
  private filledS: number | undefined;
  private poured = false;

  constructor(
    private readonly plant: DrainPlant,
    private readonly plan: Plan,
    acts: readonly PlantAct[],
  ) {
    super(acts, 1);
  }

  /** The level at the rule; without a role the ball's gauge, which lies open to the air. */
  shownAt(ms: number, role?: string): string {
    this.advance(ms);
    const { unit, readability, rangeHigh } = instrumentOf(this.plan, role);
    if (role === undefined) return shownAs(this.plant.zeroErrorPa, unit, readability);
    const noise = 0.0001 * bellAt(this.plant.seed, Math.floor(ms / 1000) % 1_000_000);
    // A dip is read from the rim, which stands above the slab.
    const from = Number(rangeHigh) <= 0 ? rimM : 0;
    return shownAs(Math.max(0, this.m + noise) - from, unit, readability);
  }

  temperatureAt(): number {
    return 14;
  }

  barometerAt(): number {
    return 1013.2;
  }

  measuredAt(ms: number, _: MeasurePoint): string {
    const { unit, readability } = this.plan.gauge;
    const pa = this.plant.ballPa - this.plant.ballLosesPaS * this.sinceFirst(ms);
    return shownAs(Math.max(0, pa) + this.plant.zeroErrorPa, unit, readability);
  }

  protected begin(): void {
    this.m = 0;
    this.filledS = undefined;
    this.poured = false;
  }

  protected take({ action, to = filledM }: PlantAct): void {
    if (action !== 'raise') return;
    this.m = to;
    this.filledS ??= 0;
  }

  protected move(steps: number): void {
    const { leakMs, pastBallMs, wettingM, wettingS, poured } = this.plant;
    for (let step = 0; step < steps; step += 1) {
      if (this.filledS === undefined) continue;
      const wets = (wettingM / wettingS) * Math.exp(-this.filledS / wettingS);
      this.filledS += this.stepS;
      this.m = Math.max(0, this.m - (leakMs + pastBallMs + wets) * this.stepS);
      if (poured !== undefined && !this.poured && this.filledS >= poured.afterS) {
        this.poured = true;
        this.m += poured.m;
      }
    }
  }
}

/** A sound drain, its ball held where the plan wants it. */
function soundDrain(plan: Plan, seed: number): DrainPlant {
  const aim = plan.phases.flatMap((phase) => (phase.kind === 'measure' ? phase.points : []))[0]?.aim ?? '0';
  return {
    seed,
    leakMs: 0,
    pastBallMs: 0,
    wettingM: 0.001,
    wettingS: 60,
    ballPa: toSi(Number(aim), plan.unit),
    ballLosesPaS: 0,
    zeroErrorPa: 0,
  };
}

export const plant: PlantModel = {
  scenarios,
  tried: (plan, { part, leakM3s }, seed, acts) => {
    const areaM2 = part.contents.kind === 'level' ? Number(part.contents.squareCm) / 1e4 : 1;
    return new DrainTrack({ ...soundDrain(plan, seed), leakMs: leakM3s / areaM2 }, plan, acts);
  },
  track: (plan, id, seed, acts) => {
    const sound = soundDrain(plan, seed);
    return new DrainTrack(scenarios.find((one) => one.id === id)?.change(sound) ?? sound, plan, acts);
  },
};
