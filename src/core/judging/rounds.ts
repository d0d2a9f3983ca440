import { instrumentOf } from '../course/instruments';
import { type CheckPhase, type HoldPhase, type Phase, type When, whenHolds, type ZeroPhase } from '../course/phases';
import type { Finding } from '../limits';
import { roomOfHold } from '../limits';
import type { Plan } from '../planning/plan';
import { decimal, unitLabel } from '../quantities';
import type { SoFar } from './conclude';
import type { EventOf, RunEvent } from './events';
import { nothingRead } from './facts';
import { hear } from './hearing';
import { type Around, abandoned, type Closed, closeHold, closeList, isTicked, itemStates, type Open, owesUntil } from './open';
import { openState } from './open-state';
import { find } from './sayings';
import type { PhaseJudgement } from './state';

/** What the phases ask of the run that they belong to. */
export interface RunSoFar {
  /** The events in their order, and how many of them have been heard; the last of these is being taken in. */
  readonly log: readonly RunEvent[];
  readonly heard: number;
  readonly ended: boolean;
  readonly smelt: boolean;
  /** A fail is proved: nothing voids it any more. */
  readonly proved: boolean;
  /** What the results come to so far, doubts counted. */
  soFar(): SoFar;
  /** A result has joined: whether a fail is proved now. */
  latch(): void;
  reading(id: string): EventOf<'reading'> | undefined;
}

/** A result, and how many events had been heard when it closed. */
export type Kept = Closed & { readonly closedBy: number };

/**
 * The phases of a run: which is open, which runs beside it, and what those that are over came to. What a phase came to stands;
 * later events reach open phases alone (DOMAIN 4.19).
 */
export class Rounds {
  /** Every round that is over, in the order in which it closed; it only grows. */
  private readonly closed: Kept[] = [];
  /** Of these, the ones that stand: rounds that a restart has put aside are left out. */
  private results: ReadonlyMap<string, Kept> = new Map();
  private readonly numbers = new Map<string, number>();
  /** Lists and zeroes that were begun, by phase and round: they stay while another phase comes before them. */
  private readonly lists = new Map<string, Open & { is: 'ticking' }>();
  private readonly zeros = new Map<string, Open & { is: 'zeroing' }>();
  /** The first phase that is due and not over. */
  private lead: Open | undefined;
  /** Holds on other gauges that run beside it, by phase. */
  private readonly beside = new Map<string, Open>();
  /** What was noticed of phases that were over, by phase and round. */
  private readonly voids = new Map<string, Finding>();
  private readonly begun = new Set<string>();
  private readonly around: Around;
  private readonly order: ReadonlyMap<string, number>;
  private readonly phases: ReadonlyMap<string, Phase>;

  constructor(
    private readonly plan: Plan,
    private readonly run: RunSoFar,
  ) {
    this.order = new Map(plan.phases.map(({ id }, index) => [id, index]));
    this.phases = new Map(plan.phases.map((phase) => [phase.id, phase]));
    this.around = { plan, closed: (id) => this.standing(id), reading: (id) => run.reading(id), place: () => run.heard - 1 };
  }

  phase(id: string): Phase | undefined {
    return this.phases.get(id);
  }

  placeOf(id: string): number {
    return this.order.get(id) ?? -1;
  }

  roundOf(phase: string): number {
    return this.numbers.get(phase) ?? 1;
  }

  /** A step of a list was answered: its round has begun. */
  begin(phase: string, round: number): void {
    this.begun.add(`${phase} ${round}`);
  }

  get leading(): Open | undefined {
    return this.lead;
  }

  /** All that is open now. */
  get open(): readonly Open[] {
    return this.lead === undefined ? [...this.beside.values()] : [this.lead, ...this.beside.values()];
  }

  /** What is open of a phase, whatever its round. */
  openAt(phase: string): Open | undefined {
    return this.lead?.phase.id === phase ? this.lead : this.beside.get(phase);
  }

  /** What is open of a phase's round, or may begin now: it hears its events. */
  openOf(phase: Phase, round: number): Open | undefined {
    if (this.lead?.phase.id === phase.id && this.lead.round === round) return this.lead;
    if (phase.kind !== 'hold' || phase.alongside === undefined || this.run.ended || round !== this.roundOf(phase.id)) return undefined;
    return this.beside.get(phase.id) ?? (this.mayBeginBeside(phase, phase.alongside) ? this.opened(phase) : undefined);
  }

  private mayBeginBeside(phase: HoldPhase, alongside: string): boolean {
    const runs = this.lead?.phase.id === alongside && (this.lead.is === 'running' || this.lead.is === 'ended');
    return runs && !this.results.has(phase.id) && this.holdsTrue(phase.when);
  }

  /** What an open phase makes of an event. Answers whether it heard it. */
  step(open: Open, event: RunEvent): boolean {
    const step = hear(open, event, this.around);
    if (step === undefined) return false;
    if ('closed' in step) this.over(step.closed);
    else if (this.lead?.phase.id === open.phase.id) {
      this.lead = step.open;
      this.closeTicked();
    } else this.beside.set(open.phase.id, step.open);
    return true;
  }

  /** An answer of a list that is gone through beside a hold which runs or is over. Answers whether there is such a list. */
  tickBeside(phase: Phase, event: EventOf<'check'>): boolean {
    if (phase.kind !== 'check' || phase.alongside === undefined || this.results.has(phase.id)) return false;
    if (event.round !== this.roundOf(phase.id)) return false;
    const runs = this.lead?.phase.id === phase.alongside && (this.lead.is === 'running' || this.lead.is === 'ended');
    if (!runs && !this.results.has(phase.alongside)) return false;
    hear(this.listOf(phase), event, this.around);
    return true;
  }

  /** Closes the ends whose time for what belongs to them is over by then; an end that was read is judged, also where all is ended now. */
  closeOverdue(enteredAt: number): void {
    if (this.lead?.is !== 'ended' && this.beside.size === 0) return;
    for (const one of this.open) if (one.is === 'ended' && enteredAt > owesUntil(one)) this.over(closeHold(one, this.around));
  }

  private over(closed: Closed): void {
    const stands: Kept = { ...this.alike(closed), closedBy: this.run.heard };
    this.closed.push(stands);
    this.results = new Map([...this.results, [stands.phase, stands]]);
    if (!this.beside.delete(stands.phase)) this.lead = undefined;
    this.advance();
    this.run.latch();
  }

  /** Two rounds that do not count by themselves and show the same fall are one (DOMAIN 4.22). */
  private alike(closed: Closed): Closed {
    const phase = this.phases.get(closed.phase);
    if (closed.facts === undefined || phase?.kind !== 'hold' || !tires(closed)) return closed;
    const room = roomOfHold(phase.limit);
    for (const { phase: id, facts, ...earlier } of this.closed) {
      if (id !== closed.phase || facts === undefined || !tires(earlier)) continue;
      const both = room.agree?.(phase.limit, facts, closed.facts);
      if (both === undefined) continue;
      return {
        ...closed,
        outcome: both.outcome,
        effect: both.effect,
        data: both.data,
        findings: [
          ...closed.findings.filter(({ weight }) => weight === 'note'),
          ...both.findings.map((one) => ({ ...one, phase: phase.id })),
        ],
      };
    }
    return closed;
  }

  /** Finds the phase that is open now: the first that is due and not over. */
  advance(): void {
    if (this.run.ended) this.beside.clear();
    const next = this.nextPhase();
    if (next === this.lead?.phase) return;
    // One that runs on its own gauge runs on, whatever comes before it again.
    if (this.lead !== undefined && !this.run.ended && isBeside(this.lead)) this.beside.set(this.lead.phase.id, this.lead);
    this.lead = next === undefined ? undefined : this.opened(next);
    this.closeTicked();
  }

  private closeTicked(): void {
    if (this.lead?.is === 'ticking' && isTicked(this.lead)) this.over(closeList(this.lead));
  }

  private nextPhase(): Phase | undefined {
    for (const phase of this.plan.phases) {
      const result = this.standing(phase.id);
      if (result !== undefined) {
        if (result.effect === 'spoils' && !this.run.ended && phase.kind !== 'check') return undefined;
        continue;
      }
      if (this.run.ended && phase.afterStop !== true) continue;
      if (this.holdsTrue(phase.when)) return phase;
    }
    return undefined;
  }

  private readonly holdsTrue = (when: When): boolean =>
    whenHolds(when, (condition) => {
      if ('signal' in condition) return this.run.smelt;
      if ('conclusion' in condition) return condition.conclusion === this.run.soFar();
      if ('begunBefore' in condition) {
        for (let round = this.roundOf(condition.phase) - 1; round >= 1; round -= 1)
          if (this.begun.has(`${condition.phase} ${round}`)) return true;
        return false;
      }
      return condition.outcome.includes(this.standing(condition.phase)?.outcome ?? '');
    });

  private opened(phase: Phase): Open {
    const base = { round: this.roundOf(phase.id), notes: [], spoiling: [] };
    switch (phase.kind) {
      case 'check':
        return this.listOf(phase);
      case 'zero':
        return this.zeroOf(phase);
      case 'observe':
        return { is: 'looking', phase, ...base };
      case 'hold': {
        // What ran beside another goes on as the one that leads.
        const there = this.beside.get(phase.id);
        this.beside.delete(phase.id);
        const { scale } = decimal(instrumentOf(this.plan, phase.instrument).readability);
        return there ?? { is: 'unstarted', phase, ...base, openFrom: this.openFrom(), read: nothingRead(scale, this.run.log) };
      }
      case 'measure':
        return { is: 'measuring', phase, ...base, openFrom: this.openFrom(), values: new Map() };
    }
  }

  private zeroOf(phase: ZeroPhase): Open & { is: 'zeroing' } {
    const round = this.roundOf(phase.id);
    const key = `${phase.id} ${round}`;
    const there = this.zeros.get(key) ?? { is: 'zeroing', phase, round, notes: [], spoiling: [] };
    this.zeros.set(key, there);
    return there;
  }

  /** A list's answers of its round. */
  private listOf(phase: CheckPhase): Open & { is: 'ticking' } {
    const round = this.roundOf(phase.id);
    const key = `${phase.id} ${round}`;
    const there = this.lists.get(key) ?? { is: 'ticking', phase, round, notes: [], spoiling: [], items: new Map() };
    this.lists.set(key, there);
    return there;
  }

  /** Zeroes that showed pressure and were not mended. */
  get unzeroed(): readonly EventOf<'reading'>[] {
    return [...this.zeros.values()].flatMap(({ shown, phase }) => (shown === undefined || this.results.has(phase.id) ? [] : [shown]));
  }

  /** The time of the phases before is not over before this, ms. */
  private openFrom(): number {
    let from = Number.NEGATIVE_INFINITY;
    for (const { id } of this.plan.phases) {
      const came = this.standing(id)?.came;
      if (came?.of === 'hold') from = Math.max(from, came.endAt ?? came.dueAt);
    }
    return from;
  }

  /** The result of a phase's present round, before anything that voids it. */
  resultOf(phase: string): Kept | undefined {
    return this.results.get(phase);
  }

  get all(): readonly Kept[] {
    return [...this.results.values()];
  }

  /** The round of a phase that closed so, whether it stands or not. */
  closedRound(phase: string, round: number): Kept | undefined {
    return this.closed.find((one) => one.phase === phase && one.round === round);
  }

  /** Holds that were done again, in the order in which they closed. */
  get putAside(): readonly Kept[] {
    return this.closed.filter((one) => this.results.get(one.phase) !== one && one.came.of === 'hold');
  }

  /** What a phase came to, as it stands: voided where something was noticed afterwards. */
  standing(id: string): Kept | undefined {
    const result = this.results.get(id);
    if (result === undefined) return undefined;
    const why = this.voids.get(`${id} ${result.round}`);
    return why === undefined || this.run.proved
      ? result
      : { ...result, outcome: 'void', effect: 'spoils', findings: [...result.findings, why] };
  }

  standings(): ReadonlyMap<string, Kept> {
    if (this.voids.size === 0) return this.results;
    return new Map(
      [...this.results.keys()].flatMap((id) => {
        const one = this.standing(id);
        return one === undefined ? [] : [[id, one] as const];
      }),
    );
  }

  void(result: Closed, why: Finding): void {
    this.voids.set(`${result.phase} ${result.round}`, why);
    this.advance();
  }

  /** The phase that waits to be done again; none while one before it is open. */
  spoilt(): Kept | undefined {
    if (this.run.ended || this.lead !== undefined) return undefined;
    return this.spoiltRounds().at(0);
  }

  private spoiltRounds(): readonly Kept[] {
    return this.plan.phases.flatMap(({ id, kind }) => {
      const result = this.standing(id);
      return result !== undefined && result.effect === 'spoils' && kind !== 'check' ? [result] : [];
    });
  }

  /**
   * Whether a new round may begin from a phase: after a hold that proves nothing, a start that would not stay, a let-by that fell.
   * @param unproved whether the time of a result is in doubt
   */
  mayRestartFrom(phase: Phase, unproved: (result: Kept) => boolean): boolean {
    const at = this.placeOf(phase.id);
    const reaches = (id: string | undefined) => id !== undefined && at <= this.placeOf(id);
    const spoilt = this.spoilt();
    if (spoilt !== undefined && reaches(againFrom(this.phases.get(spoilt.phase), spoilt.outcome))) return true;
    // Of two that ran beside one another each is done again by itself.
    if (this.spoiltRounds().some((one) => one.phase === phase.id && againFrom(phase, one.outcome) === phase.id)) return true;
    if (spoilt !== undefined) return false;
    if (this.beside.get(phase.id)?.spoiling.length) return true;
    const { lead } = this;
    if (lead !== undefined && lead.spoiling.length > 0 && 'restartFrom' in lead.phase && reaches(lead.phase.restartFrom)) return true;
    for (const { id } of this.plan.phases) {
      const result = this.standing(id);
      const own = this.phases.get(id);
      if (result === undefined || own?.kind !== 'hold') continue;
      // A settling that would not stay, while the hold that waits for it has not begun; a let-by that fell; a time that is not proved.
      if (result.outcome === 'settled' && this.lead?.is === 'unstarted' && reaches(id)) return true;
      if (own.limit.kind === 'no-rise' && result.outcome === 'fall' && result.round === 1 && reaches(id)) return true;
      if (unproved(result) && reaches(own.restartFrom)) return true;
    }
    return false;
  }

  /** A new round from a phase on. What runs, or ran, beside it on another gauge keeps its own. */
  restartFrom(phase: Phase): void {
    const from = this.placeOf(phase.id);
    const kept = new Map(this.results);
    for (const one of this.plan.phases.slice(from)) {
      if (one.kind === 'hold' && one.alongside === phase.id) continue;
      this.leave(one.id);
      kept.delete(one.id);
      this.numbers.set(one.id, this.roundOf(one.id) + 1);
    }
    this.results = kept;
    this.advance();
  }

  /** A round that is left before its end was read is kept as such. */
  private leave(id: string): void {
    const own = this.openAt(id);
    if (own === undefined) return;
    const left = abandoned(own);
    if (left !== undefined) this.closed.push({ ...left, closedBy: this.run.heard });
    if (this.lead === own) this.lead = undefined;
    this.beside.delete(id);
  }

  /** The phases as they stand. */
  states(): readonly PhaseJudgement[] {
    const spoilt = this.spoilt();
    const { current } = this;
    const at = current === undefined ? Number.POSITIVE_INFINITY : this.placeOf(current);
    return this.plan.phases.map((phase, index): PhaseJudgement => {
      const { id } = phase;
      const round = this.roundOf(id);
      const result = this.standing(id);
      if (result !== undefined) {
        const { outcome, effect, came } = result;
        return spoilt?.phase === id
          ? { id, round, state: 'current', is: 'spoilt', outcome, came }
          : { id, round, state: 'done', outcome, effect, came };
      }
      const open = this.openAt(id);
      if (open !== undefined) return { id, round, ...openState(open) };
      const list = phase.kind === 'check' && phase.alongside !== undefined ? this.lists.get(`${id} ${round}`) : undefined;
      if (list !== undefined) return { id, round, state: 'beside', items: itemStates(list) };
      if (phase.kind === 'hold' && phase.alongside !== undefined && this.openOf(phase, round) !== undefined)
        return { id, round, state: 'current', is: 'unstarted' };
      return { id, round, state: index > at && !(this.run.ended && phase.afterStop !== true) ? 'waiting' : 'skipped' };
    });
  }

  /** The phase that leads: it is open, or waits to be done again. */
  get current(): string | undefined {
    return this.lead?.phase.id ?? this.spoilt()?.phase;
  }
}

const isBeside = ({ is, phase }: Open): boolean =>
  (is === 'running' || is === 'ended') && phase.kind === 'hold' && phase.alongside !== undefined;

/** Where a round that proves nothing is done again from. */
export function againFrom(phase: Phase | undefined, outcome: string): string | undefined {
  switch (phase?.kind) {
    case 'hold':
      return outcome === 'rise' || outcome === 'hidden'
        ? (phase.afterRise ?? (outcome === 'hidden' ? phase.valve?.[0] : undefined) ?? phase.restartFrom)
        : phase.restartFrom;
    case 'measure':
      return phase.restartFrom;
    case 'observe':
      return phase.restartFrom ?? phase.id;
    default:
      return undefined;
  }
}

/** A round that was late or spoilt by something else than water or gas drawn: its fall may be held against another's. */
const tires = ({ outcome, drawn }: Pick<Closed, 'outcome' | 'drawn'>): boolean => (outcome === 'late' || outcome === 'void') && !drawn;

/** That a hold was done again, with its figures (DOMAIN 4.22). */
export function roundFinding(plan: Plan, { phase, title, round, outcome, came, findings }: Closed): Finding {
  const hold = plan.phases.find((one): one is HoldPhase => one.id === phase && one.kind === 'hold');
  const why = findings.find(({ weight }) => weight !== 'note');
  return find(
    'round',
    {
      title,
      round: String(round),
      start: came.of === 'hold' ? came.start : '',
      end: came.of === 'hold' ? (came.end ?? '') : '',
      unit: unitLabel(instrumentOf(plan, hold?.instrument).unit),
      outcome,
      why: why?.data.what ?? '',
    },
    phase,
  );
}
