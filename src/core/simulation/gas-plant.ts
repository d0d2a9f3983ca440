import { decimal, multiply, type PressureUnit, toSi, toText } from '../quantities';
import { referencePressure } from '../quantities/pressure';
import type { PlantAct, PlantTrack } from './plant';
import { bellAt } from './random';

/**
 * A domestic gas installation with its gauge (DOMAIN 3.13, 10). Pressures here are mbar gauge, times s, and the numbers
 * are floating point: this is the world to be measured, not a judgement of it.
 */
export interface GasPlant {
  readonly seed: number;
  readonly volumeL: number;
  /** Leak of the pipework and of the appliances, L/h at 20 mbar. */
  readonly pipeworkLeakLh: number;
  readonly applianceLeakLh: number;
  /** Flow through the shut valve into an empty system, L/h. */
  readonly letByLh: number;
  readonly supplyMbar: number;
  /** Regulator's lock-up: the valve cannot raise the system above it. */
  readonly lockUpMbar: number;
  /** Warming of the gas in the pipe, K/min. */
  readonly warmingKPerMin: number;
  readonly startC: number;
  /** Change of the atmosphere, hPa/h; the gauge shows what is left. */
  readonly barometerHpaPerH?: number;
  readonly gauge: GaugeFault;
  /** Instruments of other roles on the same pipe. */
  readonly others?: Readonly<Record<string, Pick<GaugeFault, 'unit' | 'readability'>>>;
}

export interface GaugeFault {
  /** What it shows above the truth until it is zeroed. */
  readonly zeroErrorMbar: number;
  /** What it shows in, and its finest step there. */
  readonly unit: PressureUnit;
  readonly readability: string;
  /** Deviation of its noise. */
  readonly noiseMbar: number;
  /** It does not move until the truth is this far from what it shows, and does not come back to zero. */
  readonly stictionMbar: number;
}

/** A gauge's finest step, mbar. */
export const stepMbar = ({ unit, readability }: Pick<GaugeFault, 'unit' | 'readability'>): number => toSi(Number(readability), unit) / 100;

const stepS = 0.1;
const atmosphereMbar = 1013.25;

/** Rate of change, mbar/s: V/p_ref·dp/dt = k_in·√(p_s − p) − k_out·√p, and the gas law for a warming pipe. */
function slope(plant: GasPlant, leakLh: number, pressure: number): number {
  const supply = plant.supplyMbar;
  const flowIn = supply > pressure ? plant.letByLh * Math.sqrt((supply - pressure) / supply) : 0;
  const flowOut = pressure > 0 ? leakLh * Math.sqrt(pressure / 20) : 0;
  const perSecond = (flowIn - flowOut) / 3600;
  const warming = ((pressure + atmosphereMbar) * plant.warmingKPerMin) / (60 * (plant.startC + 273.15));
  const weather = (plant.barometerHpaPerH ?? 0) / 3600;
  return (perSecond * (referencePressure / 100)) / plant.volumeL + warming - weather;
}

/**
 * The plant between acts, on a fixed grid of 0.1 s from the last act, so that asking at other moments changes nothing.
 * Ask for times in rising order for speed; an earlier time starts over.
 */
export class GasTrack implements PlantTrack {
  private pressure = 0;
  private shown = 0;
  private step = 0;
  private done = 0;
  private originMs = 0;
  private leakLh = 0;
  private connected = true;
  private zeroed = false;
  private lastMs = Number.NEGATIVE_INFINITY;

  constructor(
    private readonly plant: GasPlant,
    private readonly acts: readonly PlantAct[],
  ) {
    this.reset();
  }

  /** True gauge pressure at a time, mbar. */
  pressureAt(ms: number): number {
    this.advance(ms);
    return this.connected ? this.pressure : 0;
  }

  /** What the gauge shows at a time, as a decimal text of its readability. */
  shownAt(ms: number, role?: string): string {
    this.advance(ms);
    const { gauge: main, seed, others } = this.plant;
    const other = role === undefined ? undefined : others?.[role];
    const gauge = other === undefined ? main : { ...main, ...other, noiseMbar: 0, zeroErrorMbar: 0, stictionMbar: 0 };
    const noise = gauge.noiseMbar * bellAt(seed, Math.floor(ms / 100) % 1_000_000);
    const held = gauge.stictionMbar > 0 ? this.shown : this.connected ? this.pressure : 0;
    const value = held + (this.zeroed ? 0 : gauge.zeroErrorMbar) + noise;
    const steps = Math.round(value / stepMbar(gauge));
    return toText(multiply({ digits: BigInt(steps), scale: 0 }, decimal(gauge.readability)));
  }

  /** Pipe temperature at a time, °C. */
  temperatureAt(ms: number): number {
    return this.plant.startC + (this.plant.warmingKPerMin * (ms - (this.acts[0]?.atMs ?? ms))) / 60_000;
  }

  /** The atmosphere at a time, hPa. */
  barometerAt(ms: number): number {
    return atmosphereMbar + ((this.plant.barometerHpaPerH ?? 0) * (ms - (this.acts[0]?.atMs ?? ms))) / 3_600_000;
  }

  /** Gas pipework has no measuring points. */
  measuredAt(): undefined {
    return undefined;
  }

  private reset(): void {
    this.pressure = 0;
    this.shown = 0;
    this.step = 0;
    this.done = 0;
    this.originMs = this.acts[0]?.atMs ?? 0;
    this.leakLh = this.plant.pipeworkLeakLh + this.plant.applianceLeakLh;
    // Until it is first put on the hose the gauge lies open to the air.
    this.connected = false;
    this.zeroed = false;
    this.lastMs = Number.NEGATIVE_INFINITY;
  }

  private advance(ms: number): void {
    if (ms < this.lastMs) this.reset();
    this.lastMs = ms;
    while (this.done < this.acts.length && this.acts[this.done].atMs <= ms) {
      const act = this.acts[this.done];
      this.run(act.atMs);
      this.apply(act);
      this.done += 1;
      this.originMs = act.atMs;
      this.step = 0;
    }
    this.run(ms);
  }

  /** Steps (midpoint rule) along the grid up to a time. */
  private run(ms: number): void {
    // Before the first act nothing is raised, so nothing can move.
    if (this.done === 0) return;
    const { plant, leakLh } = this;
    const target = Math.floor((ms - this.originMs) / (stepS * 1000));
    let pressure = this.pressure;
    while (this.step < target) {
      const middle = pressure + (slope(plant, leakLh, pressure) * stepS) / 2;
      pressure += slope(plant, leakLh, middle) * stepS;
      this.step += 1;
      if (Math.abs(pressure - this.shown) > plant.gauge.stictionMbar) this.shown = pressure;
    }
    this.pressure = pressure;
  }

  private apply(act: PlantAct): void {
    if (act.action === 'zero' || act.action === 'disconnect') this.connected = false;
    if (act.action === 'raise') this.connected = true;
    if (act.action === 'zero') {
      this.zeroed = true;
      this.pressure = 0;
      this.shown = this.plant.gauge.stictionMbar;
    }
    if (act.action === 'isolate') this.leakLh = this.plant.pipeworkLeakLh;
    if (act.action === 'reconnect') this.leakLh = this.plant.pipeworkLeakLh + this.plant.applianceLeakLh;
    if (act.action === 'raise') {
      this.pressure = Math.min((act.pa ?? 0) / 100, this.plant.lockUpMbar);
      this.shown = this.pressure;
    }
  }
}
