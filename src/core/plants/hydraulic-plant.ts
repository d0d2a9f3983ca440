import { instrumentOf } from '../course/instruments';
import type { MeasurePoint, ReadQuantity } from '../course/phases';
import type { PlanShape as Plan } from '../course/plan-shape';
import { referencePressure, toSi } from '../quantities';
import { type PlantAct, shownAs } from './plant';
import { SteppedTrack } from './stepped-track';

/**
 * Pipes filled with water and closed (DOMAIN 3.7, 10): water, wall and trapped air give, a leak takes, a soft wall relaxes,
 * a valve that passes feeds. SI throughout, and floating point: this is the world to be measured, not a judgement of it.
 */
export interface HydraulicPlant {
  readonly volumeM3: number;
  /** Softness of water and wall, 1/Pa. */
  readonly softness: number;
  /** Trapped air by volume at atmospheric pressure. */
  readonly airAtAtmosphere: number;
  /** Leak, m³/s, at the pressure below, growing with its square root. */
  readonly leakM3s: number;
  readonly leakAtPa: number;
  /** Highest pressure that the pump reaches against the leak. */
  readonly reachesPa: number;
  /** What the gauge shows above the truth. */
  readonly zeroErrorPa: number;
  /** What stands before the supply valve, and what a shut valve passes into an empty system, m³/s. */
  readonly supplyPa: number;
  readonly letByM3s: number;
  /** Share of the pressure that a soft wall gives up as it relaxes, and the time in which it does most of that. */
  readonly relaxes: number;
  readonly relaxS: number;
  /** Rise of a closed, full pipe as it warms, Pa/s, and what its thermometer shows of it, K/min. */
  readonly warmingPaS: number;
  readonly warmingKPerMin: number;
  /** Somebody draws water once, this long after nothing was raised, and the pressure falls by so much. */
  readonly drawn?: { readonly afterS: number; readonly pa: number };
  /** A rise by more than this at once fires a plug. */
  readonly firesAbovePa: number;
}

/** A sound system of a plan; what fills it is what the plan says of its volume. */
export const soundWater = (plan: Plan, more: Partial<HydraulicPlant> = {}): HydraulicPlant => ({
  volumeM3: Number(plan.volume.litres) / 1000,
  softness: 6.6e-10,
  airAtAtmosphere: 0.002,
  leakM3s: 0,
  leakAtPa: toSi(Number(plan.highest), plan.unit),
  reachesPa: Number.POSITIVE_INFINITY,
  zeroErrorPa: 0,
  supplyPa: 0,
  letByM3s: 0,
  relaxes: 0,
  relaxS: 60,
  warmingPaS: 0,
  warmingKPerMin: 0,
  firesAbovePa: Number.POSITIVE_INFINITY,
  ...more,
});

/** Give of water, wall and air at a gauge pressure, 1/Pa: the air's share shrinks with the pressure, and so does its give. */
export const softnessAt = ({ softness, airAtAtmosphere }: HydraulicPlant, pa: number): number =>
  softness + (airAtAtmosphere * referencePressure) / (pa + referencePressure) ** 2;

/** Leak, m³/s, that lets a plant's pressure fall by `pa` in so many seconds. */
export const leakOver = (plant: HydraulicPlant, pa: number, seconds: number): number =>
  (pa * softnessAt(plant, plant.leakAtPa) * plant.volumeM3) / seconds;

export class HydraulicTrack extends SteppedTrack {
  private pa = 0;
  private relaxedPa = 0;
  private pumpedM3 = 0;
  private fed = false;
  private fired = false;
  private quietS = 0;
  private drawn = false;

  constructor(
    private readonly plant: HydraulicPlant,
    private readonly plan: Plan,
    acts: readonly PlantAct[],
  ) {
    super(acts, 1);
  }

  shownAt(ms: number, role?: string): string {
    this.advance(ms);
    const { unit, readability } = instrumentOf(this.plan, role);
    // A dial's needle is read to its nearest mark; it does not tremble from one to the next.
    return shownAs(this.pa + this.plant.zeroErrorPa, unit, readability);
  }

  temperatureAt(ms: number): number {
    return 12 + (this.plant.warmingKPerMin * this.sinceFirst(ms)) / 60;
  }

  barometerAt(): number {
    return 1013.2;
  }

  /** The pressure at a point; or the water that the last raising of a system already under pressure took. */
  measuredAt(ms: number, { id }: Pick<MeasurePoint, 'id'>, quantity: ReadQuantity): string {
    const phases = this.plan.phases.flatMap((phase) => (phase.kind === 'measure' ? [phase] : []));
    const fields = phases.find(({ points }) => points.some((point) => point.id === id))?.fields ?? phases.flatMap((phase) => phase.fields);
    const role = fields.find((field) => field.quantity === quantity)?.instrument;
    if (quantity === 'pressure') return this.shownAt(ms, role);
    this.advance(ms);
    const { unit, readability } = instrumentOf(this.plan, role);
    return shownAs(this.pumpedM3, unit, readability);
  }

  protected begin(): void {
    this.pa = 0;
    this.relaxedPa = 0;
    this.pumpedM3 = 0;
    this.fed = false;
    this.fired = false;
    this.quietS = 0;
    this.drawn = false;
  }

  protected take({ action, to = 0 }: PlantAct): void {
    const { plant } = this;
    this.quietS = 0;
    if (action === 'zero' || action === 'disconnect') this.pa = 0;
    if (action === 'feed') {
      this.fed = true;
      this.pa = plant.supplyPa;
    }
    if (action !== 'raise') return;
    this.fed = false;
    if (to - this.pa > plant.firesAbovePa) this.fired = true;
    const target = this.fired ? 0 : Math.min(to, plant.reachesPa);
    // Let down, it is drawn off into the vessel.
    this.pumpedM3 = this.pa > 0 ? this.taken(Math.min(this.pa, target), Math.max(this.pa, target)) : 0;
    this.pa = target;
  }

  protected move(steps: number): void {
    const { volumeM3, leakM3s, leakAtPa, supplyPa, letByM3s, relaxes, relaxS, warmingPaS, drawn } = this.plant;
    for (let step = 0; step < steps; step += 1) {
      this.quietS += this.stepS;
      if (this.fed || this.pa <= 0) continue;
      const out = leakM3s * Math.sqrt(this.pa / leakAtPa);
      const inward = supplyPa > this.pa ? letByM3s * Math.sqrt((supplyPa - this.pa) / supplyPa) : 0;
      const given = ((relaxes * this.pa - this.relaxedPa) * this.stepS) / relaxS;
      this.relaxedPa += given;
      const moved = ((inward - out) * this.stepS) / volumeM3 / softnessAt(this.plant, this.pa) + warmingPaS * this.stepS - given;
      this.pa = Math.max(0, this.pa + moved);
      if (drawn !== undefined && !this.drawn && this.quietS >= drawn.afterS) {
        this.drawn = true;
        this.pa = Math.max(0, this.pa - drawn.pa);
      }
    }
  }

  /** Water that raising from one pressure to another takes, m³. */
  private taken(from: number, to: number): number {
    const { volumeM3, softness, airAtAtmosphere } = this.plant;
    const air = airAtAtmosphere * referencePressure * (1 / (from + referencePressure) - 1 / (to + referencePressure));
    return Math.max(0, volumeM3 * ((to - from) * softness + air));
  }
}
