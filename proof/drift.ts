import type { Chance } from './chance';

/** How far a quantity may wander in a hold: so much a second, at least and at most so much; nothing in one shorter than `from`. */
export interface Bounds {
  readonly perSecond: number;
  readonly least: number;
  readonly most: number;
  readonly from: number;
  readonly toEnds?: boolean;
}

/** A quantity that wanders: by so much over so long, along one of several ways, each within its bounds all the while. */
export class Drift {
  private readonly shape: 'steady' | 'soon' | 'late' | 'swing';
  private readonly signed: number;
  constructor(
    chance: Chance,
    private readonly bounds: Bounds,
  ) {
    this.shape = chance.one('steady', 'soon', 'late', 'swing');
    // Where the claim is tried, half of them go to an end of what is allowed.
    this.signed = bounds.toEnds === true && chance.happens(0.5) ? chance.one(-1, 1) : chance.between(-1, 1);
  }

  /** Since the start of a hold of so long. */
  at(second: number, hold: number): number {
    const { perSecond, least, most, from } = this.bounds;
    const bound = hold < from ? 0 : Math.min(most, Math.max(perSecond * hold, least));
    const part = Math.min(1, Math.max(0, second / Math.max(1, hold)));
    switch (this.shape) {
      case 'steady':
        return this.signed * bound * part;
      case 'soon':
        return this.signed * bound * Math.sqrt(part);
      case 'late':
        return this.signed * bound * part * part;
      case 'swing':
        return this.signed * bound * Math.sin((part * Math.PI) / 2);
    }
  }
}
