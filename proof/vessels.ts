/* Vessels that lose: a gas in a volume, water in pipe that gives way, an open level. Each in SI, each by a step of its own. */

export const air = 101_325;
const k15 = 288.15;

export interface Way {
  /** m³/s at reference, at the pressure that it is named for. */
  readonly size: number;
  readonly at: number;
  /** Flow goes with the pressure to this power: 0.5 a hole, 1 a pore. */
  readonly power: number;
}
const through = ({ size, at, power }: Way, pressure: number): number => (pressure > 0 && at > 0 ? size * (pressure / at) ** power : 0);

/** A shut valve that passes: so much into nothing. */
export interface Passing {
  readonly size: number;
  readonly before: number;
}
const past = ({ size, before }: Passing, pressure: number): number =>
  before > pressure ? size * Math.sqrt((before - pressure) / before) : 0;

export interface Around {
  /** Change of the pipe's temperature, K, and of the air, Pa, since the run began. */
  readonly warmer: number;
  readonly heavier: number;
}

export interface Vessel {
  /** Gauge pressure now. */
  pressure(around: Around): number;
  /** Brought to a gauge pressure, and shut. */
  bring(pressure: number, around: Around): void;
  /** Some seconds pass. */
  pass(seconds: number, leak: Way | undefined, valve: Passing | undefined, around: Around): void;
}

/** A gas that stays what it is at the temperature that it was filled at. */
export class Gas implements Vessel {
  private inside = air;
  constructor(private readonly volume: number) {}
  pressure({ warmer, heavier }: Around): number {
    return (this.inside * (k15 + warmer)) / k15 - (air + heavier);
  }
  bring(pressure: number, { warmer, heavier }: Around): void {
    this.inside = ((pressure + air + heavier) * k15) / (k15 + warmer);
  }
  pass(seconds: number, leak: Way | undefined, valve: Passing | undefined, around: Around): void {
    const parts = Math.max(1, Math.min(60, Math.ceil(seconds / 5)));
    for (let part = 0; part < parts; part += 1) {
      const now = this.pressure(around);
      const net = (valve === undefined ? 0 : past(valve, now)) - (leak === undefined ? 0 : through(leak, now));
      this.inside += (net * air * seconds) / parts / this.volume;
    }
  }
}

/** Water in pipe that stretches, with air in it, that expands as it warms; soft pipe goes on stretching. */
export class Water implements Vessel {
  private content = 0;
  private crept = 0;
  private age = 0;
  constructor(
    private readonly volume: number,
    /** Of water and wall, 1/Pa; air by volume at the atmosphere's pressure; expansion, 1/K; how far it creeps in ten times the time, share of its volume. */
    private readonly make: { readonly softness: number; readonly air: number; readonly expansion: number; readonly creep: number },
  ) {}
  /** Water inside at a gauge pressure, beyond that at none. */
  at(pressure: number): number {
    return this.volume * (this.make.softness * pressure + this.make.air * (1 - air / (air + pressure)));
  }
  pressure({ warmer }: Around): number {
    const wanted = this.content + this.volume * (this.make.expansion * warmer) - this.crept;
    let [low, high] = [-0.9 * air, 1e8];
    for (let half = 0; half < 60; half += 1) {
      const middle = (low + high) / 2;
      if (this.at(middle) < wanted) low = middle;
      else high = middle;
    }
    return (low + high) / 2;
  }
  bring(pressure: number, { warmer }: Around): void {
    this.content = this.at(pressure) - this.volume * this.make.expansion * warmer + this.crept;
  }
  pass(seconds: number, leak: Way | undefined, valve: Passing | undefined, around: Around): void {
    const parts = Math.max(1, Math.min(20, Math.ceil(seconds / 30)));
    for (let part = 0; part < parts; part += 1) {
      const now = this.pressure(around);
      const net = (valve === undefined ? 0 : past(valve, now)) - (leak === undefined ? 0 : through(leak, now));
      this.content += (net * seconds) / parts;
      this.age += seconds / parts;
      if (now > 0 && this.make.creep > 0) this.crept = this.volume * this.make.creep * Math.log10(1 + this.age / 60);
    }
  }
}

/** A level in standing water, m above the mark's foot; what leaks goes through an opening's area. */
export class Level implements Vessel {
  private height = 0;
  constructor(private readonly area: number) {}
  pressure(): number {
    return this.height;
  }
  bring(height: number): void {
    this.height = height;
  }
  pass(seconds: number, leak: Way | undefined): void {
    this.height -= ((leak === undefined ? 0 : leak.size) * seconds) / this.area;
  }
}
