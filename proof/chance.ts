/** Chance for the proof: a small generator of its own, so that every run can be made again. */
export class Chance {
  private state: number;
  constructor(start: number) {
    this.state = (start * 2_654_435_769 + 1) >>> 0;
    for (let warm = 0; warm < 4; warm += 1) this.next();
  }

  /** From 0 up to 1. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  }

  between(low: number, high: number): number {
    return low + (high - low) * this.next();
  }

  /** A bell of deviation one. */
  bell(): number {
    return Math.sqrt(-2 * Math.log(1 - this.next())) * Math.cos(2 * Math.PI * this.next());
  }

  one<T>(...of: readonly T[]): T {
    return of[Math.floor(this.next() * of.length)];
  }

  happens(share: number): boolean {
    return this.next() < share;
  }
}
