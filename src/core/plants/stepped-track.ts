import type { MeasurePoint, ReadQuantity } from '../course/phases';
import type { PlantAct, PlantTrack } from './plant';

/**
 * A plant between acts, on a fixed grid of time from the last act, so that asking at other moments changes nothing. Ask for
 * times in rising order for speed; an earlier time, or an act written after it was passed, starts over.
 */
export abstract class SteppedTrack implements PlantTrack {
  private step = 0;
  private done = 0;
  private originMs = 0;
  private lastMs = Number.NEGATIVE_INFINITY;
  private begun = false;

  protected constructor(
    protected readonly acts: readonly PlantAct[],
    protected readonly stepS: number,
  ) {}

  abstract shownAt(ms: number, role?: string): string;
  abstract temperatureAt(ms: number): number;
  abstract barometerAt(ms: number): number;
  abstract measuredAt(ms: number, point: MeasurePoint, quantity: ReadQuantity): string | undefined;

  /** State as it was before the first act. */
  protected abstract begin(): void;
  /** Moves on by so many steps of `stepS`. */
  protected abstract move(steps: number): void;
  protected abstract take(act: PlantAct): void;

  /** Seconds from the first act to a time; none before it. */
  protected sinceFirst(ms: number): number {
    return (ms - (this.acts[0]?.atMs ?? ms)) / 1000;
  }

  protected advance(ms: number): void {
    const overtaken = this.done < this.acts.length && this.acts[this.done].atMs < this.lastMs;
    if (!this.begun || ms < this.lastMs || overtaken) {
      this.begun = true;
      this.step = 0;
      this.done = 0;
      this.originMs = this.acts[0]?.atMs ?? 0;
      this.begin();
    }
    this.lastMs = ms;
    while (this.done < this.acts.length && this.acts[this.done].atMs <= ms) {
      const act = this.acts[this.done];
      this.run(act.atMs);
      this.take(act);
      this.done += 1;
      this.originMs = act.atMs;
      this.step = 0;
    }
    this.run(ms);
  }

  private run(ms: number): void {
    // Before the first act nothing is raised, so nothing can move.
    if (this.done === 0) return;
    const target = Math.floor((ms - this.originMs) / (this.stepS * 1000));
    if (target <= this.step) return;
    this.move(target - this.step);
    this.step = target;
  }
}
