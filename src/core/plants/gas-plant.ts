import type { MeasurePoint, ReadQuantity } from '../course/phases';
import { decimal, multiply, type PressureUnit, toSi, toText, type Unit } from '../quantities';
import { referencePressure } from '../quantities/pressure';
import { type PlantAct, shownAs } from './plant';
import { bellAt } from './random';
import { SteppedTrack } from './stepped-track';

/**
 * Pipes that hold a gas, with their gauge (DOMAIN 3.13, 10). Pressures here are mbar gauge, times s, and the numbers
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
  /** Rise of a regulator that does not lock up, while it feeds, mbar/min. */
  readonly creepMbarPerMin?: number;
  /** What the regulator holds with about half of the appliances burning. */
  readonly flowingMbar?: number;
  /** Gas that one turn of the meter's test dial passes. */
  readonly litresPerTurn?: number;
  /** Warming of the gas in the pipe, K/min. */
  readonly warmingKPerMin: number;
  readonly startC: number;
  /** Change of the atmosphere, hPa/h; the gauge shows what is left. */
  readonly barometerHpaPerH?: number;
  readonly gauge: GaugeFault;
  /** Instruments of other roles on the same pipe. */
  readonly others?: Readonly<Record<string, { readonly unit: Unit; readonly readability: string }>>;
  /** Seconds between looks at what moves; a tenth where left out. */
  readonly stepS?: number;
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

const atmosphereMbar = 1013.25;

/** What an open supply holds it at: the regulator's lock-up, or the supply's own where there is no regulator. */
const fedMbar = ({ lockUpMbar, supplyMbar }: GasPlant): number => (Number.isFinite(lockUpMbar) ? lockUpMbar : supplyMbar);

const leakFlow = (leakLh: number, pressure: number): number => (pressure > 0 ? leakLh * Math.sqrt(pressure / 20) : 0);

/** Rate of change, mbar/s: V/p_ref·dp/dt = k_in·√(p_s − p) − k_out·√p, and the gas law for a warming pipe. */
function slope(plant: GasPlant, leakLh: number, pressure: number): number {
  const supply = plant.supplyMbar;
  const flowIn = supply > pressure ? plant.letByLh * Math.sqrt((supply - pressure) / supply) : 0;
  const perSecond = (flowIn - leakFlow(leakLh, pressure)) / 3600;
  const warming = ((pressure + atmosphereMbar) * plant.warmingKPerMin) / (60 * (plant.startC + 273.15));
  const weather = (plant.barometerHpaPerH ?? 0) / 3600;
  return (perSecond * (referencePressure / 100)) / plant.volumeL + warming - weather;
}

export class GasTrack extends SteppedTrack {
  private pressure = 0;
  private shown = 0;
  private leakLh = 0;
  private connected = false;
  private zeroed = false;
  /** Seconds that the open supply has fed it; none while it is shut. */
  private fedS: number | undefined;
  private turns = 0;

  constructor(
    private readonly plant: GasPlant,
    acts: readonly PlantAct[],
  ) {
    super(acts, plant.stepS ?? 0.1);
  }

  /** True gauge pressure at a time, mbar. */
  pressureAt(ms: number): number {
    this.advance(ms);
    return this.connected ? this.pressure : 0;
  }

  /** What the gauge shows at a time, as a decimal text of its readability; the turns of a dial where the role counts them. */
  shownAt(ms: number, role?: string): string {
    this.advance(ms);
    const { gauge: main, seed, others } = this.plant;
    const other = role === undefined ? undefined : others?.[role];
    if (other?.unit === 'turn') return shownAs(this.turns, 'turn', other.readability);
    const gauge =
      other === undefined
        ? main
        : { ...main, unit: other.unit as PressureUnit, readability: other.readability, noiseMbar: 0, zeroErrorMbar: 0, stictionMbar: 0 };
    const noise = gauge.noiseMbar * bellAt(seed, Math.floor(ms / 100) % 1_000_000);
    const held = gauge.stictionMbar > 0 ? this.shown : this.connected ? this.pressure : 0;
    const value = held + (this.zeroed ? 0 : gauge.zeroErrorMbar) + noise;
    const steps = Math.round(value / stepMbar(gauge));
    return toText(multiply({ digits: BigInt(steps), scale: 0 }, decimal(gauge.readability)));
  }

  /** Pipe temperature at a time, °C. */
  temperatureAt(ms: number): number {
    return this.plant.startC + (this.plant.warmingKPerMin * this.sinceFirst(ms)) / 60;
  }

  /** The atmosphere at a time, hPa. */
  barometerAt(ms: number): number {
    return atmosphereMbar + ((this.plant.barometerHpaPerH ?? 0) * this.sinceFirst(ms)) / 3600;
  }

  /** What the regulator holds while gas is used, where the plant has one; else the gauge as it stands. */
  measuredAt(ms: number, _: MeasurePoint, quantity: ReadQuantity): string | undefined {
    if (quantity !== 'pressure') return undefined;
    const { flowingMbar, gauge } = this.plant;
    return flowingMbar === undefined ? this.shownAt(ms) : shownAs(flowingMbar * 100, gauge.unit, gauge.readability);
  }

  protected begin(): void {
    this.pressure = 0;
    this.shown = 0;
    this.leakLh = this.plant.pipeworkLeakLh + this.plant.applianceLeakLh;
    // Until it is first put on the hose the gauge lies open to the air.
    this.connected = false;
    this.zeroed = false;
    this.fedS = undefined;
    this.turns = 0;
  }

  /** Steps by the midpoint rule. */
  protected move(steps: number): void {
    const { plant, leakLh, stepS } = this;
    let pressure = this.pressure;
    for (let step = 0; step < steps; step += 1) {
      if (this.fedS === undefined) {
        const middle = pressure + (slope(plant, leakLh, pressure) * stepS) / 2;
        pressure += slope(plant, leakLh, middle) * stepS;
      } else {
        this.fedS += stepS;
        pressure = fedMbar(plant) + ((plant.creepMbarPerMin ?? 0) * this.fedS) / 60;
        if (plant.litresPerTurn !== undefined) this.turns += (leakFlow(leakLh, pressure) * stepS) / 3600 / plant.litresPerTurn;
      }
      if (Math.abs(pressure - this.shown) > plant.gauge.stictionMbar) this.shown = pressure;
    }
    this.pressure = pressure;
  }

  protected take({ action, to = 0 }: PlantAct): void {
    const { plant } = this;
    if (action === 'zero' || action === 'disconnect') this.connected = false;
    if (action === 'raise' || action === 'feed') this.connected = true;
    if (action === 'zero') {
      this.zeroed = true;
      this.pressure = 0;
      this.shown = plant.gauge.stictionMbar;
    }
    if (action === 'isolate') this.leakLh = plant.pipeworkLeakLh;
    if (action === 'reconnect') this.leakLh = plant.pipeworkLeakLh + plant.applianceLeakLh;
    if (action === 'feed') {
      this.fedS = 0;
      this.pressure = fedMbar(plant);
    } else if (action === 'raise' || action === 'zero') this.fedS = undefined;
    if (action === 'raise') this.pressure = Math.min(to / 100, plant.lockUpMbar);
    if (action === 'raise' || action === 'feed') this.shown = this.pressure;
  }
}

/** A sound domestic installation of a volume with a gauge of a readability; supply below the band's lock-up. */
export const soundPlant = (seed: number, volumeL: number, gauge: Pick<GasPlant['gauge'], 'unit' | 'readability'>): GasPlant => ({
  seed,
  volumeL,
  pipeworkLeakLh: 0,
  applianceLeakLh: 0,
  letByLh: 0,
  supplyMbar: 25,
  lockUpMbar: 25,
  warmingKPerMin: 0,
  startC: 15,
  gauge: { unit: gauge.unit, readability: gauge.readability, zeroErrorMbar: 0, noiseMbar: stepMbar(gauge) * 0.12, stictionMbar: 0 },
});
