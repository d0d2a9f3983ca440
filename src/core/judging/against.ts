import type { Finding } from '../limits';
import type { Plan } from '../planning/plan';
import { boundaryProved } from './boundaries';
import { clockDoubt } from './clocks';
import type { EventOf } from './events';
import type { Kept, Rounds } from './rounds';
import { find } from './sayings';
import { doubtsOfGauge, LocalDays, overRating } from './trust';

/** What speaks against a pass whenever it joins: kept apart from the phases, and heard by all of them (DOMAIN 4.19). */
export class Against {
  /** What overrides any gauge, or puts all in doubt. */
  private readonly said: Finding[] = [];
  private readonly openedBoundaries = new Map<string, Finding>();
  private readonly overRatings = new Map<string, Finding>();
  private readonly clocks: EventOf<'clock'>[] = [];
  private readonly watches: { readonly heardAs: number; readonly watch: EventOf<'watch'> }[] = [];
  /** What the register says against an instrument, by its id. */
  private readonly found = new Map<string, Finding>();
  /** The local days on which anything was read. */
  readonly days = new LocalDays();

  /** Doubts about the instruments, for so many days. */
  private doubtedDays = 0;
  private ofGauge: readonly Finding[] = [];

  constructor(
    private readonly plan: Plan,
    private readonly rounds: Rounds,
  ) {}

  say(finding: Finding): void {
    this.said.push(finding);
  }

  hearClock(event: EventOf<'clock'>): void {
    this.clocks.push(event);
  }

  /** @param heardAs its place in the log: a watch vouches for what closes after it */
  hearWatch(watch: EventOf<'watch'>, heardAs: number): void {
    this.watches.push({ heardAs, watch });
  }

  hearFound({ about, of, is, text }: EventOf<'found'>): void {
    const key = `${about} ${of}`;
    if (is === 'as told') this.found.delete(key);
    else
      this.found.set(key, find(is === 'overdue' ? 'found-overdue' : is === 'differs' ? 'found-differs' : 'found-noted', { about, text }));
  }

  /** Whether a figure, or a trace, lies above what the weakest part may take. */
  rate(event: EventOf<'reading' | 'trace'>): boolean {
    const over = overRating(this.plan, event);
    if (over === undefined) return false;
    // A trace comes in many pieces: its round says it once.
    this.overRatings.set(event.type === 'trace' ? `${event.phase} ${event.round}` : event.id, over);
    return true;
  }

  /** The part that stood above its rating was looked at. Answers what that says; nothing where none did. */
  inspect({ sound, text }: EventOf<'inspected'>): Finding | undefined {
    if (this.overRatings.size === 0) return undefined;
    if (!sound) return find('over-rating-harmed', { text });
    this.overRatings.clear();
    return find('over-rating-sound', { text });
  }

  /** A boundary that had been proved was found open. Answers whether the item names one. */
  openBoundary(boundary: string | undefined, phase: string): boolean {
    const found = this.plan.boundaries.find(({ id }) => id === boundary);
    if (found === undefined) return false;
    this.openedBoundaries.set(found.id, find('boundary-opened', { label: found.label }, phase));
    return true;
  }

  /** What a hold's clocks leave open of its time. */
  clockOf(result: Kept): Finding | undefined {
    const before = this.watches.filter(({ heardAs }) => heardAs < result.closedBy).map(({ watch }) => watch);
    return clockDoubt(result, this.clocks, before);
  }

  /** What stands against a pass now, beside what the phases came to. */
  doubts(): readonly Finding[] {
    return [
      ...this.said,
      ...this.overRatings.values(),
      ...this.openedBoundaries.values(),
      ...this.rounds.all.flatMap((one) => this.clockOf(one) ?? []),
      ...this.found.values(),
    ];
  }

  /** What the instruments and the boundaries leave in doubt once there is something to doubt. */
  gaugeAndBoundaries(): readonly Finding[] {
    const { openedBoundaries, plan } = this;
    const unproved = this.unproved().filter(({ id }) => !openedBoundaries.has(id));
    const days = this.days.all;
    // Days are only ever added to: as many are the same.
    if (days.size !== this.doubtedDays) {
      this.doubtedDays = days.size;
      this.ofGauge = doubtsOfGauge(plan, days);
    }
    return unproved.length === 0 ? this.ofGauge : [...this.ofGauge, ...unproved.map(({ label }) => find('boundary-unproved', { label }))];
  }

  /** Whether an edge that lies inside what is measured stands open. */
  openInside(): boolean {
    return this.isDecided() && this.unproved().some(({ inside }) => inside === true);
  }

  private unproved(): Plan['boundaries'] {
    if (this.plan.boundaries.length === 0 || !this.isDecided()) return [];
    const phases = this.rounds.states();
    return this.plan.boundaries.filter((one) => this.openedBoundaries.has(one.id) || !boundaryProved(this.plan, one, phases));
  }

  private isDecided(): boolean {
    const came = this.rounds.standing(this.plan.judgedBy)?.came;
    return came !== undefined && 'endAt' in came && came.endAt !== undefined;
  }
}
