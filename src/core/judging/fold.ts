import { instrumentOf } from '../course/instruments';
import { type CheckPhase, type Phase, type When, whenHolds, type ZeroPhase } from '../course/phases';
import type { Finding } from '../limits';
import { roomOfHold } from '../limits';
import type { Plan } from '../planning/plan';
import { absolute, compare, decimal, type ReadQuantity, readDecimal, unitLabel } from '../quantities';
import { boundaryProved } from './boundaries';
import { clockDoubt } from './clocks';
import { type Concluded, conclude, type SoFar, saysSoFar, settle } from './conclude';
import { type EventOf, needsPen, type RunEvent } from './events';
import { nothingRead, owedBy } from './facts';
import {
  type Around,
  abandoned,
  type Closed,
  closeHold,
  closeList,
  hear,
  isTicked,
  itemStates,
  type Open,
  owesUntil,
  pointStates,
  readBetween,
} from './open';
import { valueText } from './readings';
import { Row } from './row';
import { find } from './sayings';
import type { PhaseJudgement } from './state';
import { doubtsOfGauge, LocalDays, overRating } from './trust';

/**
 * A run's log taken in, event by event, in the order in which the events joined it. What a phase came to stands: later events
 * reach the open phase alone. What speaks against a pass is kept apart and counts whenever it joins; a fail that is proved is
 * remembered and nothing clears it (DOMAIN 4.19, 4.24).
 */
export class Fold {
  /** Every round that is over, in the order in which it closed; it only grows. */
  private readonly closed: Closed[] = [];
  /** Of these, the ones that stand: rounds that a restart has put aside are left out. */
  private results: ReadonlyMap<string, Closed> = new Map();
  private readonly rounds = new Map<string, number>();
  /** Answers of lists, by phase and round. */
  private readonly besides = new Map<string, Open & { is: 'ticking' }>();
  /** Holds that run beside the open one, by phase and round. */
  private readonly besideHolds = new Map<string, Open>();
  /** Zeroes that were begun, by phase and round. */
  private readonly zeros = new Map<string, Open & { is: 'zeroing' }>();
  private open: Open | undefined;
  private readonly notes: Finding[] = [];
  /** What was noticed of phases that were over, by phase and round. */
  private readonly voids = new Map<string, Finding>();
  private readonly against: Finding[] = [];
  private readonly openedBoundaries = new Map<string, Finding>();
  private readonly overRatings = new Map<string, Finding>();
  private readonly clocks: EventOf<'clock'>[] = [];
  /** What the register says against an instrument, by its id. */
  private readonly registered = new Map<string, Finding>();
  private readonly watches: EventOf<'watch'>[] = [];
  /** How many watches had been read off when a round was closed, by phase and round. */
  private readonly watchesBy = new Map<string, number>();
  private readonly days = new LocalDays();
  /** What was read, by id: few are ever asked for, so the table is made when one is. */
  private readonly readings = new Map<string, EventOf<'reading'>>();
  private indexed = 0;
  private heard = 0;
  /** Ids of what was taken in: a thing that is there twice happened once. */
  private readonly taken = new Set<string>();
  private row: Row | undefined;
  private simulated = false;
  private readonly withdrawnIds: string[] = [];
  private readonly begun = new Set<string>();
  private pen: string | undefined;
  private smelt = false;
  private stopReason: string | undefined;
  private leak = false;
  /** A start or an end was read, or was to be. */
  private builtOn = false;
  /** A fail that is proved: set once, cleared by nothing. */
  private proved: (Concluded & { readonly found: readonly Finding[] }) | undefined;
  private readonly around: Around;
  private readonly order: ReadonlyMap<string, number>;
  private readonly phases: ReadonlyMap<string, Phase>;

  /** @param log in the order in which its events joined it */
  constructor(
    private readonly plan: Plan,
    private readonly log: readonly RunEvent[],
  ) {
    this.order = new Map(plan.phases.map(({ id }, index) => [id, index]));
    this.phases = new Map(plan.phases.map((phase) => [phase.id, phase]));
    this.around = { plan, closed: (id) => this.standing(id), reading: (id) => this.reading(id) };
    this.advance();
    for (const event of log) {
      this.heard += 1;
      this.take(event);
    }
  }

  private reading(id: string): EventOf<'reading'> | undefined {
    for (; this.indexed < this.heard; this.indexed += 1) {
      const event = this.log[this.indexed];
      if (event.type === 'reading' && !this.readings.has(event.id)) this.readings.set(event.id, event);
    }
    return this.readings.get(id);
  }

  private take(event: RunEvent): void {
    if ('source' in event && event.source === 'simulated gauge') this.simulated = true;
    // A figure that is there twice shows the same twice, and changes nothing.
    if (event.type === 'reading' && this.inRow(event)) return;
    if (this.taken.has(event.id)) return;
    this.taken.add(event.id);
    if (this.open?.is === 'ended' && event.enteredAt > owesUntil(this.open)) this.over(closeHold(this.open, this.around));
    for (const one of [...this.besideHolds.values()])
      if (one.is === 'ended' && event.enteredAt > owesUntil(one)) this.overBeside(closeHold(one, this.around));
    switch (event.type) {
      case 'pen':
        this.pen = event.device;
        return;
      case 'clock':
        this.clocks.push(event);
        // A time that is proved now may lead to another closing list.
        this.advance();
        this.latch();
        return;
      case 'register':
        if (event.found === 'differs') this.registered.set(event.instrument, find('register-differs', { text: event.text }));
        else this.registered.delete(event.instrument);
        this.advance();
        this.latch();
        return;
      case 'watch':
        this.watches.push(event);
        return;
      case 'smell':
        this.smelt = true;
        this.speak(find('smell', {}));
        return;
      case 'stopped':
        if (this.stopReason !== undefined) return;
        this.stopReason = event.reason;
        this.advance();
        this.latch();
        return;
      case 'searched':
        if (event.leak) this.searched(event);
        return;
      case 'inspected':
        this.inspected(event);
        return;
      case 'restart':
        this.restart(event);
        return;
      case 'withdrawn':
        this.withdraw(event);
        return;
      case 'waived':
        if (this.open !== undefined) this.step(event);
        for (const one of [...this.besideHolds.values()]) this.stepBeside(one, event);
        return;
      case 'reading':
        this.days.add(event);
        if (event.role === 'start' || event.role === 'end') this.builtOn = true;
        this.rated(event);
        break;
      case 'trace':
        this.rated(event);
        break;
      case 'check':
        if (event.state !== 'undone') this.begun.add(`${event.phase} ${event.round}`);
        break;
      default:
    }
    if ('phase' in event) this.inPhase(event);
  }

  private inRow(event: EventOf<'reading'>): boolean {
    const { open } = this;
    if (open?.is !== 'running') return false;
    if (this.row?.open !== open) this.row = new Row(this.plan, open);
    if (!this.row.takes(event)) return false;
    this.days.add(event);
    return true;
  }

  /** An event that names a phase and its round. */
  private inPhase(event: Extract<RunEvent, { readonly phase: string; readonly round: number }>): void {
    const phase = this.phases.get(event.phase);
    if (phase === undefined) return;
    const title = phase.title;
    if (needsPen(event)) {
      this.pen ??= event.device;
      if (this.pen !== event.device) {
        this.notes.push(find('pen-elsewhere', { what: whatOf(event), title }, phase.id));
        return;
      }
    }
    if (event.type === 'leak-seen' && event.where === 'system') {
      this.leakSeen(event, phase);
      return;
    }
    const isOpen = this.open !== undefined && this.open.phase.id === phase.id && this.open.round === event.round;
    if (isOpen) {
      if (!this.step(event) && !isAside(event)) this.unheard(event, title, 'nothing of the kind is asked for now');
      return;
    }
    const beside = this.besideHold(phase, event.round);
    if (beside !== undefined) {
      if (!this.stepBeside(beside, event) && !isAside(event)) this.unheard(event, title, 'nothing of the kind is asked for now');
      return;
    }
    if (event.type === 'check' && this.besideOf(phase) !== undefined && event.round === this.roundOf(phase.id)) {
      const beside = this.besideOf(phase);
      if (beside !== undefined) hear(beside, event, this.around);
      return;
    }
    this.late(event, phase);
  }

  /** What joins for a phase that is not open: only what speaks against a pass counts. */
  private late(event: Extract<RunEvent, { readonly phase: string; readonly round: number }>, phase: Phase): void {
    const { title } = phase;
    const result = this.results.get(phase.id);
    const standing = result !== undefined && result.round === event.round ? result : undefined;
    switch (event.type) {
      case 'disturbance':
      case 'clock-jump':
        if (standing !== undefined && within(standing, event.observedAt)) {
          this.void(
            standing,
            event.type === 'disturbance'
              ? find('disturbed', { title, what: event.what }, phase.id)
              : find('clock-jump', { title, seconds: String(Math.round(event.milliseconds / 1000)) }, phase.id),
          );
          return;
        }
        break;
      case 'leak-seen':
        this.rigLeaks(event.observedAt, phase);
        return;
      case 'check':
        if (standing !== undefined && (event.state === 'unproved' || event.state === 'undone')) this.boundaryOpened(event, phase);
        break;
      case 'reading':
        this.lateReading(event, phase, standing);
        return;
      default:
        if (isAside(event)) return;
    }
    this.unheard(event, title, standing === undefined ? 'its phase is not open' : 'its phase is over');
  }

  private lateReading(event: EventOf<'reading'>, phase: Phase, standing: Closed | undefined): void {
    const about = { ...valueText(event), title: phase.title };
    if (phase.kind === 'zero' && event.role === 'zero' && standing !== undefined) {
      // A zero read later is a check: it mends nothing, and what it shows may count against what was read.
      const value = readDecimal(event.value);
      if (value !== undefined && compare(absolute(value), decimal(phase.below)) >= 0)
        this.speak(find('not-zeroed', valueText(event), phase.id));
      return;
    }
    // Temperature and barometer are read alongside: they are no second end of what is held.
    const alongside = event.quantity === 'temperature' || event.quantity === 'barometer';
    if (standing?.came.of === 'hold' && event.role === 'start' && !alongside) this.notes.push(find('second-start', about, phase.id));
    else if (standing?.came.of === 'hold' && event.role === 'end' && !alongside) this.notes.push(find('second-end', about, phase.id));
    else if (standing?.came.of === 'points') this.notes.push(find('second-point', about, phase.id));
    else this.unheard(event, phase.title, standing === undefined ? 'its phase is not open' : 'its phase is over');
  }

  private unheard(event: RunEvent, title: string, why: string): void {
    this.notes.push(find('unheard', { what: whatOf(event), title, why }, 'phase' in event ? event.phase : undefined));
  }

  private step(event: RunEvent): boolean {
    if (this.open === undefined) return false;
    const step = hear(this.open, event, this.around);
    if (step === undefined) return false;
    if ('closed' in step) {
      this.over(step.closed);
      return true;
    }
    this.open = step.open;
    if (this.open.is === 'ticking' && isTicked(this.open)) this.over(closeList(this.open));
    return true;
  }

  /** The hold that runs, or may begin now, beside the open one. */
  private besideHold(phase: Phase, round: number): Open | undefined {
    if (phase.kind !== 'hold' || phase.alongside === undefined || this.ended) return undefined;
    if (round !== this.roundOf(phase.id) || this.results.has(phase.id)) return undefined;
    const there = this.besideHolds.get(`${phase.id} ${round}`);
    if (there !== undefined) return there;
    const { open } = this;
    const runs = open?.phase.id === phase.alongside && (open.is === 'running' || open.is === 'ended');
    return runs && this.holdsTrue(phase.when) ? this.opened(phase) : undefined;
  }

  private stepBeside(beside: Open, event: RunEvent): boolean {
    const step = hear(beside, event, this.around);
    if (step === undefined) return false;
    if ('closed' in step) this.overBeside(step.closed);
    else this.besideHolds.set(`${step.open.phase.id} ${step.open.round}`, step.open);
    return true;
  }

  /** A hold that ran beside another is over; the other runs on. */
  private overBeside(closed: Closed): void {
    this.besideHolds.delete(`${closed.phase} ${closed.round}`);
    this.keep(closed);
    this.advance();
    this.latch();
  }

  private over(closed: Closed): void {
    this.keep(closed);
    this.open = undefined;
    this.advance();
    this.latch();
  }

  private keep(closed: Closed): void {
    const stands = this.alike(closed);
    this.closed.push(stands);
    this.watchesBy.set(`${stands.phase} ${stands.round}`, this.watches.length);
    this.results = new Map([...this.results, [stands.phase, stands]]);
  }

  /** Two rounds that do not count by themselves and show the same fall are one (DOMAIN 4.22). */
  private alike(closed: Closed): Closed {
    const phase = this.phases.get(closed.phase);
    if (closed.facts === undefined || phase?.kind !== 'hold' || !tires(closed)) return closed;
    const room = roomOfHold(phase.limit);
    const earlier = this.closed.filter((one) => one.phase === closed.phase && tires(one) && one.facts !== undefined);
    for (const { facts } of earlier) {
      const both = facts === undefined ? undefined : room.agree?.(phase.limit, facts, closed.facts);
      if (both !== undefined)
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

  /** What a phase came to, as it stands: voided where something was noticed afterwards. */
  private standing(id: string): Closed | undefined {
    const result = this.results.get(id);
    if (result === undefined) return undefined;
    const why = this.voids.get(`${id} ${result.round}`);
    return why === undefined || this.proved !== undefined
      ? result
      : { ...result, outcome: 'void', effect: 'spoils', findings: [...result.findings, why] };
  }

  private standings(): ReadonlyMap<string, Closed> {
    if (this.voids.size === 0) return this.results;
    return new Map(
      [...this.results.keys()].flatMap((id) => {
        const one = this.standing(id);
        return one === undefined ? [] : [[id, one] as const];
      }),
    );
  }

  roundOf(phase: string): number {
    return this.rounds.get(phase) ?? 1;
  }

  private get ended(): boolean {
    return this.smelt || this.leak || this.stopReason !== undefined;
  }

  private readonly holdsTrue = (when: When): boolean =>
    whenHolds(when, (condition) => {
      if ('signal' in condition) return this.smelt;
      if ('conclusion' in condition) return condition.conclusion === this.soFar();
      if ('begunBefore' in condition) {
        for (let round = this.roundOf(condition.phase) - 1; round >= 1; round -= 1)
          if (this.begun.has(`${condition.phase} ${round}`)) return true;
        return false;
      }
      return condition.outcome.includes(this.standing(condition.phase)?.outcome ?? '');
    });

  /** Doubts count here too: a supply is not restored on a hold that an untrusted gauge read. */
  private soFar(): SoFar {
    return this.ended && this.proved === undefined ? 'other' : saysSoFar(this.settled(this.doubts()).verdict);
  }

  /** Finds the phase that is open now: the first that is due and not over. */
  private advance(): void {
    const next = this.nextPhase();
    if (next === this.open?.phase) return;
    this.open = next === undefined ? undefined : this.opened(next);
    if (this.open?.is === 'ticking' && isTicked(this.open)) this.over(closeList(this.open));
  }

  private nextPhase(): Phase | undefined {
    for (const phase of this.plan.phases) {
      const result = this.standing(phase.id);
      if (result !== undefined) {
        if (result.effect === 'spoils' && !this.ended && phase.kind !== 'check') return undefined;
        continue;
      }
      if (this.ended && phase.afterStop !== true) continue;
      if (this.holdsTrue(phase.when)) return phase;
    }
    return undefined;
  }

  /** The phase that waits to be done again. */
  private spoilt(): Closed | undefined {
    if (this.ended) return undefined;
    for (const { id, kind } of this.plan.phases) {
      const result = this.standing(id);
      if (result !== undefined && result.effect === 'spoils' && kind !== 'check') return result;
    }
    return undefined;
  }

  private opened(phase: Phase): Open {
    const base = { round: this.roundOf(phase.id), notes: [], spoiling: [] };
    switch (phase.kind) {
      case 'check':
        return this.listOf(phase);
      case 'zero':
        return this.zeroOf(phase, base.round);
      case 'observe':
        return { is: 'looking', phase, ...base };
      case 'hold': {
        // What ran beside another is the open one now.
        const there = this.besideHolds.get(`${phase.id} ${base.round}`);
        if (there !== undefined) {
          this.besideHolds.delete(`${phase.id} ${base.round}`);
          return there;
        }
        return {
          is: 'unstarted',
          phase,
          ...base,
          openFrom: this.openFrom(),
          read: nothingRead(decimal(instrumentOf(this.plan, phase.instrument).readability).scale),
        };
      }
      case 'measure':
        return { is: 'measuring', phase, ...base, openFrom: this.openFrom(), values: new Map() };
    }
  }

  private zeroOf(phase: ZeroPhase, round: number): Open & { is: 'zeroing' } {
    const key = `${phase.id} ${round}`;
    const there = this.zeros.get(key) ?? { is: 'zeroing', phase, round, notes: [], spoiling: [] };
    this.zeros.set(key, there);
    return there;
  }

  /** The time of the phases before is not over before this, ms. */
  openFrom(): number {
    let from = Number.NEGATIVE_INFINITY;
    for (const { id } of this.plan.phases) {
      const came = this.standing(id)?.came;
      if (came?.of === 'hold') from = Math.max(from, came.endAt ?? came.dueAt);
    }
    return from;
  }

  /** The list that is gone through beside a hold which runs or is over, where the phase is such a list. */
  private besideOf(phase: Phase): (Open & { is: 'ticking' }) | undefined {
    if (phase.kind !== 'check' || phase.alongside === undefined || this.results.has(phase.id)) return undefined;
    const holds = this.open?.phase.id === phase.alongside && (this.open.is === 'running' || this.open.is === 'ended');
    if (!holds && !this.results.has(phase.alongside)) return undefined;
    return this.listOf(phase);
  }

  /** A list's answers of its round: they stay while another phase comes before it. */
  private listOf(phase: CheckPhase): Open & { is: 'ticking' } {
    const round = this.roundOf(phase.id);
    const key = `${phase.id} ${round}`;
    const there = this.besides.get(key) ?? { is: 'ticking', phase, round, notes: [], spoiling: [], items: new Map() };
    this.besides.set(key, there);
    return there;
  }

  /** A new round, where one is due: after a hold that proves nothing, a start that would not stay, a let-by that fell; never after a proved fail. */
  private restart(event: EventOf<'restart'>): void {
    const phase = this.phases.get(event.phase);
    if (phase === undefined || event.round !== this.roundOf(event.phase) + 1) return;
    this.pen ??= event.device;
    const why =
      this.pen !== event.device
        ? 'the device does not hold the pen'
        : this.proved !== undefined
          ? 'a fail is proved'
          : this.ended
            ? 'the test has ended'
            : this.mayRestartFrom(phase)
              ? undefined
              : 'nothing there is to be done again';
    if (why !== undefined) {
      this.notes.push(find('restart-refused', { title: phase.title, why }, phase.id));
      return;
    }
    const left = this.open === undefined ? undefined : abandoned(this.open);
    if (left !== undefined) this.closed.push(left);
    const from = this.order.get(phase.id) ?? 0;
    const kept = new Map(this.results);
    for (const { id } of this.plan.phases.slice(from)) {
      const beside = this.besideHolds.get(`${id} ${this.roundOf(id)}`);
      const parted = beside === undefined ? undefined : abandoned(beside);
      if (parted !== undefined) this.closed.push(parted);
      this.besideHolds.delete(`${id} ${this.roundOf(id)}`);
      kept.delete(id);
      this.rounds.set(id, this.roundOf(id) + 1);
    }
    this.results = kept;
    this.open = undefined;
    this.advance();
  }

  private mayRestartFrom(phase: Phase): boolean {
    const at = this.order.get(phase.id) ?? 0;
    const reaches = (id: string | undefined) => id !== undefined && at <= (this.order.get(id) ?? -1);
    const spoilt = this.spoilt();
    if (spoilt !== undefined) return reaches(againFrom(this.phases.get(spoilt.phase), spoilt.outcome));
    const { open } = this;
    if (open !== undefined && open.spoiling.length > 0 && 'restartFrom' in open.phase) return reaches(open.phase.restartFrom);
    for (const { id } of this.plan.phases) {
      const result = this.standing(id);
      const own = this.phases.get(id);
      if (result === undefined || own?.kind !== 'hold') continue;
      // A settling that would not stay, while the hold that waits for it has not begun; a let-by that fell; a time that is not proved.
      if (result.outcome === 'settled' && open?.is === 'unstarted' && reaches(id)) return true;
      if (own.limit.kind === 'no-rise' && result.outcome === 'fall' && result.round === 1 && reaches(id)) return true;
      if (this.clockOf(result)?.weight === 'inconclusive' && reaches(own.restartFrom)) return true;
    }
    return false;
  }

  private withdraw(event: EventOf<'withdrawn'>): void {
    const reading = this.reading(event.reading);
    if (reading === undefined || event.reason.trim() === '') return;
    const { open } = this;
    if (open !== undefined && open.phase.id === reading.phase && open.round === reading.round) {
      this.withdrawnIds.push(reading.id);
      this.step(event);
      return;
    }
    const beside = this.besideHolds.get(`${reading.phase} ${reading.round}`);
    if (beside !== undefined) {
      this.withdrawnIds.push(reading.id);
      this.stepBeside(beside, event);
      return;
    }
    if (this.results.has(reading.phase)) this.notes.push(find('withdrawal-late', valueText(reading), reading.phase));
  }

  /** Something that overrides any gauge, or puts all in doubt, whenever it joins. */
  private speak(finding: Finding): void {
    this.against.push(finding);
    this.advance();
    this.latch();
  }

  /** A leak met while raising, before its hold began, is remade and no fail (DOMAIN 4.27); else it overrides any gauge. */
  private leakSeen(event: EventOf<'leak-seen'>, phase: Phase): void {
    if (this.metWhileRaising(event, phase)) {
      this.notes.push(find('remade-while-raising', { text: event.text }, phase.id));
      return;
    }
    this.leak = true;
    this.speak(find('leak-seen', { text: event.text }, phase.id));
  }

  private metWhileRaising({ observedAt, round }: EventOf<'leak-seen'>, phase: Phase): boolean {
    const { open } = this;
    if (phase.kind === 'hold') {
      const result = this.closed.find((one) => one.phase === phase.id && one.round === round);
      if (result?.came.of === 'hold') return observedAt < result.came.startAt;
      if (open?.phase.id === phase.id && (open.is === 'running' || open.is === 'ended')) return observedAt < open.start.event.observedAt;
      return result === undefined;
    }
    if (phase.kind === 'measure' || (phase.kind === 'check' && phase.closing)) return false;
    // Beside a list or a look: something is still to be raised after it, and nothing has fallen before it.
    const after = this.plan.phases.slice((this.order.get(phase.id) ?? 0) + 1);
    const fell = [...this.results.values()].some(({ effect, came }) => effect === 'fails' && came.of === 'hold');
    return (
      !fell &&
      after.some((one) => (one.kind === 'hold' || one.kind === 'measure') && this.standing(one.id) === undefined && this.mayComeYet(one))
    );
  }

  /** Whether a phase may still come when all goes well: it is not skipped already. */
  private mayComeYet({ when }: Phase): boolean {
    return (
      when.length === 0 ||
      when.some((all) =>
        all.every(
          (one) =>
            'phase' in one &&
            ('begunBefore' in one ||
              this.standing(one.phase) === undefined ||
              one.outcome.includes(this.standing(one.phase)?.outcome ?? '')),
        ),
      )
    );
  }

  /** Bubbles on the rig, seen after a hold's end and before it was soaped dry: that fall is not the system's (DOMAIN 4.8). */
  private rigLeaks(observedAt: number, phase: Phase): void {
    const soapedDry = this.plan.phases.some(
      (one) => one.kind === 'observe' && one.rig === true && this.standing(one.id)?.outcome === 'dry',
    );
    const own = this.results.get(phase.id);
    const fallen =
      own !== undefined && own.came.of === 'hold'
        ? own
        : [...this.results.values()].findLast(({ came, effect }) => came.of === 'hold' && effect === 'fails');
    const during = fallen !== undefined && within(fallen, observedAt);
    if (fallen === undefined || (soapedDry && !during)) {
      this.notes.push(find('unheard', { what: 'Bubbles on the rig', title: phase.title, why: 'no fall is in question' }, phase.id));
      return;
    }
    this.void(fallen, find('rig-leak-seen', { title: fallen.title }, fallen.phase));
  }

  private searched(event: EventOf<'searched'>): void {
    if (event.section === 'rig') {
      const fallen = [...this.results.values()].findLast(({ came, effect }) => came.of === 'hold' && effect === 'fails');
      if (fallen !== undefined) this.rigLeaks(event.observedAt, this.phases.get(fallen.phase) ?? this.plan.phases[0]);
      return;
    }
    if (event.section === 'gauge') return;
    this.leak = true;
    this.speak(find('leak-found', { text: event.text, section: event.section }));
  }

  private void(result: Closed, why: Finding): void {
    if (this.proved !== undefined) {
      this.notes.push({ ...why, weight: 'note' });
      return;
    }
    this.voids.set(`${result.phase} ${result.round}`, why);
    this.open = undefined;
    this.advance();
  }

  private boundaryOpened(event: EventOf<'check'>, phase: Phase): void {
    const item = phase.kind === 'check' ? phase.items.find(({ id }) => id === event.item) : undefined;
    const boundary = this.plan.boundaries.find(({ id }) => id === item?.boundary);
    if (boundary === undefined) return;
    this.openedBoundaries.set(boundary.id, find('boundary-opened', { label: boundary.label }, phase.id));
    this.advance();
    this.latch();
  }

  private rated(event: EventOf<'reading' | 'trace'>): void {
    const over = overRating(this.plan, event);
    if (over === undefined) return;
    // A trace comes in many pieces: its round says it once.
    this.overRatings.set(event.type === 'trace' ? `${event.phase} ${event.round}` : event.id, over);
    this.advance();
  }

  private inspected(event: EventOf<'inspected'>): void {
    if (this.overRatings.size === 0) return;
    if (!event.sound) {
      this.speak(find('over-rating-harmed', { text: event.text }));
      return;
    }
    this.overRatings.clear();
    this.notes.push(find('over-rating-sound', { text: event.text }));
    this.advance();
    this.latch();
  }

  private clockOf(result: Closed): Finding | undefined {
    return clockDoubt(result, this.clocks, this.watches.slice(0, this.watchesBy.get(`${result.phase} ${result.round}`)));
  }

  /** What stands against a pass now. */
  private doubts(): readonly Finding[] {
    const clocks = [...this.results.values()].flatMap((one) => this.clockOf(one) ?? []);
    return [
      ...this.against,
      ...this.overRatings.values(),
      ...this.openedBoundaries.values(),
      ...clocks,
      ...this.registered.values(),
      ...[...this.standings().values()].flatMap(({ findings }) => findings),
      ...[...(this.open === undefined ? [] : [this.open]), ...this.besideHolds.values()].flatMap(({ notes, spoiling }) => [
        ...notes,
        ...spoiling.map(({ finding }) => finding),
      ]),
      ...this.unzeroed(),
      ...doubtsOfGauge(this.plan, this.days.all),
      ...this.unprovedBoundaries(),
    ];
  }

  /** Only an error once readings were built on it, or the test was ended; until then it is a gauge still to be zeroed. */
  private unzeroed(): readonly Finding[] {
    if (!(this.builtOn || this.stopReason !== undefined)) return [];
    return [...this.zeros.values()].flatMap((open) =>
      open.shown === undefined || this.results.has(open.phase.id) ? [] : [find('not-zeroed', valueText(open.shown), open.phase.id)],
    );
  }

  private isDecided(): boolean {
    const came = this.standing(this.plan.judgedBy)?.came;
    return came !== undefined && 'endAt' in came && came.endAt !== undefined;
  }

  private unprovedBoundaries(): readonly Finding[] {
    if (!this.isDecided()) return [];
    const phases = this.states();
    return this.plan.boundaries
      .filter((boundary) => !this.openedBoundaries.has(boundary.id) && !boundaryProved(this.plan, boundary, phases))
      .map(({ label }) => find('boundary-unproved', { label }));
  }

  private openInside(): boolean {
    if (!this.isDecided()) return false;
    const phases = this.states();
    return this.plan.boundaries.some(
      (boundary) => boundary.inside === true && (this.openedBoundaries.has(boundary.id) || !boundaryProved(this.plan, boundary, phases)),
    );
  }

  private settled(doubts: readonly Finding[]): Concluded {
    const concluded = conclude(this.plan, this.holdsTrueOfOutcomes, this.standings());
    // It stays failed; what was found since may say it better.
    if (this.proved !== undefined) return concluded.verdict === 'fail' && this.proved.reason !== undefined ? concluded : this.proved;
    // Ended before it was complete, no pass is concluded; what failed by then is not unsaid (DOMAIN 4.24).
    const counts = this.ended && saysSoFar(concluded.verdict) !== 'other' ? undefined : concluded;
    return settle(counts, doubts, this.openInside());
  }

  /** As `holdsTrue`, for conclusions: they hang on outcomes and signals, never on one another. */
  private readonly holdsTrueOfOutcomes = (when: When): boolean =>
    whenHolds(when, (condition) =>
      'signal' in condition
        ? this.smelt
        : 'outcome' in condition && condition.outcome.includes(this.standing(condition.phase)?.outcome ?? ''),
    );

  private latch(): void {
    if (this.proved !== undefined) return;
    const found = this.doubts();
    const settled = this.settled(found);
    if (settled.verdict === 'fail')
      this.proved = { ...settled, found: found.filter(({ weight }) => weight === 'override' || weight === 'note') };
  }

  /** The phases as they stand. */
  states(): readonly PhaseJudgement[] {
    const spoilt = this.spoilt();
    const current = spoilt?.phase ?? this.open?.phase.id;
    const at = current === undefined ? Number.POSITIVE_INFINITY : (this.order.get(current) ?? 0);
    return this.plan.phases.map((phase, index): PhaseJudgement => {
      const base = { id: phase.id, round: this.roundOf(phase.id) };
      const result = this.standing(phase.id);
      if (result !== undefined) {
        const { outcome, came } = result;
        return result === spoilt || (spoilt?.phase === phase.id && spoilt.round === result.round)
          ? { ...base, state: 'current', is: 'spoilt', outcome, came }
          : { ...base, state: 'done', outcome, came };
      }
      if (this.open !== undefined && this.open.phase.id === phase.id) return { ...base, ...openState(this.open) };
      const runs = this.besideHolds.get(`${phase.id} ${base.round}`);
      if (runs !== undefined) return { ...base, ...openState(runs) };
      const beside = phase.kind === 'check' && phase.alongside !== undefined ? this.besides.get(`${phase.id} ${base.round}`) : undefined;
      if (beside !== undefined) return { ...base, state: 'beside', items: itemStates(beside) };
      return { ...base, state: index > at && !(this.ended && phase.afterStop !== true) ? 'waiting' : 'skipped' };
    });
  }

  /** What the log comes to. */
  finish() {
    const doubts = this.doubts();
    const settled = this.settled(doubts);
    const spoilt = this.spoilt();
    const rounds = this.closed
      .filter((one) => this.results.get(one.phase) !== one && one.came.of === 'hold')
      .flatMap((one) => [roundOfCame(one), ...one.findings.filter(({ weight }) => weight === 'note')]);
    return {
      settled,
      found: [...rounds, ...this.notes, ...doubts],
      phases: this.states(),
      current: spoilt?.phase ?? this.open?.phase.id,
      open: this.open,
      spoilt,
      openFrom: this.open?.is === 'unstarted' || this.open?.is === 'measuring' ? this.open.openFrom : undefined,
      stopReason: this.stopReason,
      withdrawn: this.withdrawnIds,
      pen: this.pen,
      proved: this.proved !== undefined,
      begun: this.results.size > 0,
      anyReading: this.days.all.size > 0,
      simulated: this.simulated,
    };
  }
}

/** What asks for nothing: kept without a word where its phase does not hear it. */
const isAside = ({ type }: RunEvent): boolean => type === 'stamp' || type === 'trace' || type === 'gap' || type === 'declined';

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
const tires = ({ outcome, drawn }: Closed): boolean => (outcome === 'late' || outcome === 'void') && !drawn;

/** Whether a moment lies inside what a phase held or read. */
function within({ came }: Closed, observedAt: number): boolean {
  if (came.of === 'hold') return observedAt >= came.startAt && observedAt <= (came.endAt ?? came.dueAt);
  return came.of === 'points' && observedAt >= came.startAt && observedAt <= came.endAt;
}

const whatIsRead: Partial<Record<ReadQuantity, string>> = { temperature: 'A pipe temperature', barometer: 'A barometer' };

const whatOf = (event: RunEvent): string => {
  switch (event.type) {
    case 'reading':
      return `${whatIsRead[event.quantity] ?? `A ${event.role} reading`} of ${event.value} ${unitLabel(event.unit)}`;
    case 'observation':
      return `The observation “${event.option}”`;
    case 'check':
      return `An answer to “${event.item}”`;
    case 'hold-stopped':
      return 'An early end';
    case 'not-reached':
      return '“It does not come up”';
    default:
      return `An entry (${event.type})`;
  }
};

function roundOfCame({ phase, title, round, outcome, came, findings, data }: Closed): Finding {
  const why = findings.find(({ weight }) => weight !== 'note');
  return find(
    'round',
    {
      title,
      round: String(round),
      start: came.of === 'hold' ? came.start : '',
      end: came.of === 'hold' ? (came.end ?? '') : '',
      unit: data.unit ?? '',
      outcome,
      why: why?.data.what ?? '',
    },
    phase,
  );
}

function openState(open: Open) {
  switch (open.is) {
    case 'ticking':
      return { state: 'current', is: 'ticking', items: itemStates(open) } as const;
    case 'looking':
      return { state: 'current', is: 'looking' } as const;
    case 'zeroing':
      return { state: 'current', is: 'zeroing', shown: open.shown?.value } as const;
    case 'unstarted':
      return { state: 'current', is: 'unstarted' } as const;
    case 'running':
    case 'ended': {
      const begun = { startAt: open.start.event.observedAt, dueAt: open.dueAt, start: open.start.event.value };
      if (open.spoiling.length > 0)
        return { state: 'current', is: 'spoilt', outcome: 'void', came: { of: 'hold', ...begun, data: {} } } as const;
      if (open.is === 'running') return { state: 'current', is: 'running', ...begun } as const;
      return {
        state: 'current',
        is: 'ended',
        ...begun,
        endAt: open.end.event.observedAt,
        end: open.end.event.value,
        owes: owedBy(open.phase, open.read, open.start, open.end),
        until: owesUntil(open),
      } as const;
    }
    case 'measuring':
      return { state: 'current', is: 'measuring', points: pointStates(open), startAt: readBetween(open)?.[0] } as const;
  }
}
