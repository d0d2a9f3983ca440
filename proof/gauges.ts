import type { Chance } from './chance';

/**
 * How an instrument shows a truth: rounded to its step; with noise that has a memory; or with a needle that sticks until the truth has
 * moved by part of a step. Figures in SI.
 */
export class Gauge {
  private noise = 0;
  private readAt = 0;
  private stuck: number | undefined;
  private readonly shaky: number;
  private readonly sticks: number;
  private readonly memoryS: number;

  constructor(
    readonly step: number,
    private readonly chance: Chance,
  ) {
    const kind = chance.one('steady', 'noisy', 'sticking');
    this.shaky = kind === 'noisy' ? chance.between(0.1, 0.3) * step : 0.05 * step;
    this.memoryS = chance.one(1, 30);
    this.sticks = kind === 'sticking' ? chance.between(0.2, 0.5) * step : 0;
  }

  /** In whole steps. */
  steps(truth: number, second: number): number {
    const kept = Math.exp(-Math.max(0, second - this.readAt) / this.memoryS);
    this.noise = this.noise * kept + this.shaky * Math.sqrt(1 - kept * kept) * this.chance.bell();
    this.readAt = second;
    if (this.sticks > 0) {
      this.stuck ??= truth;
      // It follows, lagging by what holds it.
      if (Math.abs(truth - this.stuck) > this.sticks) this.stuck = truth - Math.sign(truth - this.stuck) * this.sticks;
    }
    return Math.round(((this.stuck ?? truth) + this.noise) / this.step);
  }

  /** A tap or a new pressure frees a needle. */
  free(): void {
    this.stuck = undefined;
  }
}
