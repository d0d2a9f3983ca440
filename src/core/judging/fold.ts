import type { Phase, When } from '../course/phases';
import { whenHolds } from '../course/phases';
import type { Finding } from '../limits';
import type { Plan } from '../planning/plan';
import { absolute, compare, decimal, type ReadQuantity, readDecimal, unitLabel } from '../quantities';
import { Against } from './against';
import { cardFindings } from './cards';
import { type Concluded, conclude, type SoFar, saysSoFar, settle } from './conclude';
import { compareEvents, type EventOf, needsPen, type RunEvent } from './events';
import { fallOfTheRig, lastFallen, metWhileRaising, within } from './leaks';
import type { OpenAs } from './open';
import { valueText } from './readings';
import { type Kept, Rounds, type RunSoFar, roundFinding } from './rounds';
import { Row } from './row';
import { find } from './sayings';

type InPhase = Extract<RunEvent, { readonly phase: string; readonly round: number }>;

/**
 * A run's log taken in, event by event, in the order in which the events joined it: what each may move, and what is said of one
 * that moves nothing. The phases (`Rounds`) keep what they came to, what speaks against a pass is kept apart (`Against`), and a
 * fail that is proved is remembered and nothing clears it (DOMAIN 4.19, 4.24).
 */
class Fold implements RunSoFar {
  heard = 0;
  smelt = false;
  private readonly rounds: Rounds;
  private readonly against: Against;
  private readonly notes: Finding[] = [];
  /** What was read, by id: few are ever asked for, so the table is made when one is. */
  private readonly readings = new Map<string, EventOf<'reading'>>();
  private indexed = 0;
  /** Ids of what was taken in: a thing that is there twice happened once. */
  private readonly taken = new Set<string>();
  /** Rows of the holds that run: two at most are read in turn. */
  private readonly rows = new WeakMap<OpenAs<'running'>, Row>();
  private simulated = false;
  private readonly withdrawnIds: string[] = [];
  private pen: string | undefined;
  private stopReason: string | undefined;
  private goesOn = false;
  /** The last card of each appliance. */
  private readonly cards = new Map<string, EventOf<'appliance'>>();
  private leak = false;
  /** A start or an end was read, or was to be. */
  private builtOn = false;
  /** A fail that is proved: set once, cleared by nothing. */
  private fail: (Concluded & { readonly found: readonly Finding[] }) | undefined;

  constructor(
    private readonly plan: Plan,
    readonly log: readonly RunEvent[],
  ) {
    this.rounds = new Rounds(plan, this);
    this.against = new Against(plan, this.rounds);
    this.rounds.advance();
  }

  /** Takes the whole log in; false, and nothing to be asked of it, where its events do not stand in the order in which they joined it. */
  takesAll(): boolean {
    const { log } = this;
    while (this.heard < log.length) {
      const event = log[this.heard];
      if (this.heard > 0 && compareEvents(log[this.heard - 1], event) > 0) return false;
      const inRow = event.type === 'reading' ? this.takeRow(event.phase) : 0;
      if (inRow > 0) this.heard += inRow;
      else {
        this.heard += 1;
        this.take(event);
      }
    }
    return true;
  }

  reading(id: string): EventOf<'reading'> | undefined {
    for (; this.indexed < this.heard; this.indexed += 1) {
      const event = this.log[this.indexed];
      if (event.type === 'reading' && !this.readings.has(event.id)) this.readings.set(event.id, event);
    }
    return this.readings.get(id);
  }

  private take(event: RunEvent): void {
    if ('source' in event && event.source === 'simulated gauge') this.simulated = true;
    if (this.taken.has(event.id)) return;
    this.taken.add(event.id);
    this.rounds.closeOverdue(event.enteredAt);
    switch (event.type) {
      case 'pen':
        this.pen = event.device;
        return;
      case 'clock':
        this.against.hearClock(event);
        // A time that is proved now may lead to another closing list.
        this.look();
        return;
      case 'found':
        if (event.is === 'simulated') this.simulated = true;
        this.against.hearFound(event);
        this.look();
        return;
      case 'watch':
        this.against.hearWatch(event, this.heard);
        return;
      case 'smell':
        this.smelt = true;
        this.speak(find('smell', {}));
        return;
      case 'stopped':
        if (this.stopReason !== undefined) return;
        // What was read to its end is judged first: ending never unproves (DOMAIN 4.24).
        this.rounds.closeOverdue(Number.POSITIVE_INFINITY);
        this.stopReason = event.reason;
        this.look();
        return;
      case 'appliance':
        this.cards.set(event.of ?? event.name, event);
        return;
      case 'continued':
        this.pen ??= event.device;
        if (this.pen === event.device) this.goesOn = true;
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
        for (const open of this.rounds.open) this.rounds.step(open, event);
        return;
      case 'reading':
        this.against.days.add(event);
        if (event.role === 'start' || event.role === 'end') this.builtOn = true;
        if (this.against.rate(event)) this.rounds.advance();
        break;
      case 'trace':
        if (this.against.rate(event)) this.rounds.advance();
        break;
      case 'check':
        if (event.state !== 'undone') this.rounds.begin(event.phase, event.round);
        break;
      default:
    }
    if ('phase' in event) this.inPhase(event);
  }

  /**
   * Plain figures that come next for a hold that runs, taken in a row. One that is there twice shows the same twice, and changes nothing.
   * @returns how many
   */
  private takeRow(phase: string): number {
    const open = this.rounds.openAt(phase);
    if (open?.is !== 'running') return 0;
    let row = this.rows.get(open);
    if (row === undefined) {
      row = new Row(this.plan, { phase: open.phase, round: open.round, startAt: open.start.event.observedAt });
      this.rows.set(open, row);
    }
    const { count, simulated } = row.takes(this.log, this.heard, open.read.readings, this.against.days);
    if (simulated) this.simulated = true;
    return count;
  }

  /** Something has changed beside the phases: which is open, and whether a fail is proved. */
  private look(): void {
    this.rounds.advance();
    this.latch();
  }

  /** Something that overrides any gauge, or puts all in doubt, whenever it joins. */
  private speak(finding: Finding): void {
    this.against.say(finding);
    this.look();
  }

  /** An event that names a phase and its round. */
  private inPhase(event: InPhase): void {
    const phase = this.rounds.phase(event.phase);
    if (phase === undefined) return;
    if (needsPen(event)) {
      this.pen ??= event.device;
      if (this.pen !== event.device) {
        this.notes.push(find('pen-elsewhere', { what: whatOf(event), title: phase.title }, phase.id));
        return;
      }
    }
    if (event.type === 'leak-seen' && event.where === 'system') {
      this.leakSeen(event, phase);
      return;
    }
    const open = this.rounds.openOf(phase, event.round);
    if (open !== undefined) {
      if (!this.rounds.step(open, event) && !isAside(event)) this.unheard(event, phase.title, 'nothing of the kind is asked for now');
      return;
    }
    if (event.type === 'check' && this.rounds.tickBeside(phase, event)) return;
    this.late(event, phase);
  }

  /** What joins for a phase that is not open: only what speaks against a pass counts. */
  private late(event: InPhase, phase: Phase): void {
    const { title } = phase;
    const result = this.rounds.resultOf(phase.id);
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

  private lateReading(event: EventOf<'reading'>, phase: Phase, standing: Kept | undefined): void {
    const about = { ...valueText(event), title: phase.title };
    if (phase.kind === 'zero' && event.role === 'zero' && standing !== undefined) {
      // A zero read later is a check: it mends nothing, and what it shows may count against what was read.
      const value = readDecimal(event.value);
      if (value !== undefined && compare(absolute(value), decimal(phase.below)) >= 0)
        this.speak(find('not-zeroed', valueText(event), phase.id));
      return;
    }
    // A settling is over by its time alone: what is read in it shows how it settles, and changes nothing.
    if (readWhileSettling(phase, event) && standing !== undefined && within(standing, event.observedAt)) return;
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

  /** A new round, where one is due; never after a proved fail. */
  private restart(event: EventOf<'restart'>): void {
    const phase = this.rounds.phase(event.phase);
    if (phase === undefined || event.round !== this.rounds.roundOf(event.phase) + 1) return;
    this.pen ??= event.device;
    const why = this.restartRefused(event, phase);
    if (why === undefined) this.rounds.restartFrom(phase);
    else this.notes.push(find('restart-refused', { title: phase.title, why }, phase.id));
  }

  private restartRefused({ device }: EventOf<'restart'>, phase: Phase): string | undefined {
    if (this.pen !== device) return 'the device does not hold the pen';
    if (this.proved) return 'a fail is proved';
    if (this.ended) return 'the test has ended';
    const unproved = (result: Kept) => this.against.clockOf(result)?.weight === 'inconclusive';
    return this.rounds.mayRestartFrom(phase, unproved) ? undefined : 'nothing there is to be done again';
  }

  private withdraw(event: EventOf<'withdrawn'>): void {
    const reading = this.reading(event.reading);
    if (reading === undefined || event.reason.trim() === '') return;
    const phase = this.rounds.phase(reading.phase);
    const open = phase === undefined ? undefined : this.rounds.openOf(phase, reading.round);
    if (open !== undefined) {
      this.withdrawnIds.push(reading.id);
      this.rounds.step(open, event);
    } else if (readWhileSettling(phase, reading)) this.withdrawnIds.push(reading.id);
    else if (this.rounds.resultOf(reading.phase) !== undefined) this.notes.push(find('withdrawal-late', valueText(reading), reading.phase));
  }

  /** Met while raising it is remade; else a leak that is seen overrides any gauge. */
  private leakSeen(event: EventOf<'leak-seen'>, phase: Phase): void {
    if (metWhileRaising(this.plan, this.rounds, event, phase)) {
      this.notes.push(find('remade-while-raising', { text: event.text }, phase.id));
      return;
    }
    this.leak = true;
    this.speak(find('leak-seen', { text: event.text }, phase.id));
  }

  private rigLeaks(observedAt: number, phase: Phase): void {
    const fallen = fallOfTheRig(this.plan, this.rounds, observedAt, phase);
    if (fallen === undefined)
      this.notes.push(find('unheard', { what: 'Bubbles on the rig', title: phase.title, why: 'no fall is in question' }, phase.id));
    else this.void(fallen, find('rig-leak-seen', { title: fallen.title }, fallen.phase));
  }

  private searched(event: EventOf<'searched'>): void {
    if (event.section === 'rig') {
      const fallen = lastFallen(this.rounds);
      if (fallen !== undefined) this.rigLeaks(event.observedAt, this.rounds.phase(fallen.phase) ?? this.plan.phases[0]);
      return;
    }
    if (event.section === 'gauge') return;
    this.leak = true;
    this.speak(find('leak-found', { text: event.text, section: event.section }));
  }

  private void(result: Kept, why: Finding): void {
    if (this.proved) this.notes.push({ ...why, weight: 'note' });
    else this.rounds.void(result, why);
  }

  private boundaryOpened(event: EventOf<'check'>, phase: Phase): void {
    const item = phase.kind === 'check' ? phase.items.find(({ id }) => id === event.item) : undefined;
    if (this.against.openBoundary(item?.boundary, phase.id)) this.look();
  }

  private inspected(event: EventOf<'inspected'>): void {
    const found = this.against.inspect(event);
    if (found === undefined) return;
    if (found.weight === 'note') {
      this.notes.push(found);
      this.look();
    } else this.speak(found);
  }

  get ended(): boolean {
    return this.smelt || this.leak || this.stopReason !== undefined;
  }

  get proved(): boolean {
    return this.fail !== undefined;
  }

  /** Doubts count here too: a supply is not restored on a hold that an untrusted gauge read. */
  soFar(): SoFar {
    return this.ended && !this.proved ? 'other' : saysSoFar(this.settled(this.doubts()).verdict);
  }

  latch(): void {
    if (this.proved) return;
    const found = this.doubts();
    const settled = this.settled(found);
    if (settled.verdict === 'fail')
      this.fail = { ...settled, found: found.filter(({ weight }) => weight === 'override' || weight === 'note') };
  }

  /** What stands against a pass now, with what the phases say of themselves. */
  private doubts(): readonly Finding[] {
    return [
      ...this.against.doubts(),
      ...[...this.rounds.standings().values()].flatMap(({ findings }) => findings),
      ...this.rounds.open.flatMap(({ notes, spoiling }) => [...notes, ...spoiling.map(({ finding }) => finding)]),
      ...this.unzeroed(),
      ...this.against.gaugeAndBoundaries(),
    ];
  }

  /** Only an error once readings were built on it, or the test was ended; until then it is a gauge still to be zeroed. */
  private unzeroed(): readonly Finding[] {
    if (!(this.builtOn || this.stopReason !== undefined)) return [];
    return this.rounds.unzeroed.map((shown) => find('not-zeroed', valueText(shown), shown.phase));
  }

  private settled(doubts: readonly Finding[]): Concluded {
    const concluded = conclude(this.plan, this.holdsTrueOfOutcomes, this.rounds.standings());
    // It stays failed; what was found since may say it better.
    if (this.fail !== undefined) return concluded.verdict === 'fail' && this.fail.reason !== undefined ? concluded : this.fail;
    // Ended before it was complete, no pass is concluded; what failed by then is not unsaid (DOMAIN 4.24).
    const counts = this.ended && saysSoFar(concluded.verdict) !== 'other' ? undefined : concluded;
    return settle(counts, doubts, this.against.openInside());
  }

  /** Conclusions hang on outcomes and signals, never on one another. */
  private readonly holdsTrueOfOutcomes = (when: When): boolean =>
    whenHolds(when, (condition) =>
      'signal' in condition
        ? this.smelt
        : 'outcome' in condition && condition.outcome.includes(this.rounds.standing(condition.phase)?.outcome ?? ''),
    );

  /** What the log comes to. */
  finish() {
    const { rounds } = this;
    const doubts = this.doubts();
    const { leading } = rounds;
    return {
      settled: this.settled(doubts),
      found: [
        ...rounds.putAside.flatMap((one) => [roundFinding(this.plan, one), ...one.findings.filter(({ weight }) => weight === 'note')]),
        ...this.notes,
        ...cardFindings(this.plan, [...this.cards.values()]),
        ...doubts,
      ],
      phases: rounds.states(),
      current: rounds.current,
      spoilt: rounds.spoilt(),
      openFrom: leading?.is === 'unstarted' || leading?.is === 'measuring' ? leading.openFrom : undefined,
      stopReason: this.stopReason,
      // After a smell of gas nothing goes on.
      goesOn: this.goesOn && !this.smelt,
      withdrawn: this.withdrawnIds,
      pen: this.pen,
      begun: rounds.all.length > 0,
      anyReading: this.against.days.all.size > 0,
      simulated: this.simulated,
    };
  }
}

/** A fold over a log that grows: `takesAll` takes in what has joined since. */
export const growingFold = (plan: Plan, log: readonly RunEvent[]): Fold => new Fold(plan, log);

/** A log taken in, in whatever order it is handed in: in its own it is looked at once. */
export function foldOf(plan: Plan, events: readonly RunEvent[]): Fold {
  const fold = new Fold(plan, events);
  if (fold.takesAll()) return fold;
  const sorted = new Fold(plan, [...events].sort(compareEvents));
  sorted.takesAll();
  return sorted;
}

/** Nothing is built on it, whenever it comes. */
const readWhileSettling = (phase: Phase | undefined, { role }: EventOf<'reading'>): boolean =>
  phase?.kind === 'hold' && phase.limit.kind === 'wait' && role === 'between';

/** What asks for nothing: kept without a word where its phase does not hear it. */
const isAside = ({ type }: RunEvent): boolean => type === 'stamp' || type === 'trace' || type === 'gap' || type === 'declined';

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
