import { aimOf, inPlanUnit, onCircuit } from '../course/gauge-scale';
import { instrumentOf, quantityOf } from '../course/instruments';
import {
  answersTo,
  type CheckItem,
  type CheckPhase,
  fieldsAt,
  type HoldPhase,
  type MeasurePhase,
  middleOf,
  type Phase,
  type ReadQuantity,
  type ZeroPhase,
} from '../course/phases';
import type { Body, Envelope, ReadingRole, RunEvent } from '../judging/events';
import { guardText } from '../judging/guard-text';
import { type Judgement, judgeGrowing } from '../judging/judge';
import { heldSoFar } from '../judging/state';
import { makeUpPoints } from '../limits';
import type { Plan } from '../planning/plan';
import type { PlantAct, PlantTrack, Scenario } from '../plants/plant';
import { randomAt, uuidAt } from '../plants/random';
import { decimal, fromSi, toSi, type Unit } from '../quantities';
import { type Ask, type Present, present } from '../running';
import { plantModel } from './plants';
import { actOf, seedOf } from './simulated-gauge';

export interface Job {
  readonly plan: Plan;
  /** Seed of the plant's noise and of the technician's pace; left out, the run's own. */
  readonly seed?: number;
  readonly scenario: Scenario;
  readonly run: string;
  readonly author: string;
  readonly device: string;
  readonly startAt: number;
  readonly offsetMinutes: number;
  /** Smell of gas noticed before this phase. */
  readonly smellBefore?: string;
  /** The plant, where it is none of the procedure's scenarios. */
  readonly plant?: (seed: number, acts: readonly PlantAct[]) => PlantTrack;
  /** Figures are read and typed, a little late, and no gauge sends its trace. */
  readonly byHand?: boolean;
  /** Ends the test at once when a hold is spoilt; otherwise it is restarted once. */
  readonly neverRestarts?: boolean;
}

/**
 * A technician doing a job by the plan on a simulated plant: asks what is to be done now, as the run screen does, does it, and
 * writes it down. Pure: the same job gives the same events.
 */
export const simulateRun = (job: Job): readonly RunEvent[] => simulateJudged(job).events;

/** The same, with what the judge makes of it. */
export function simulateJudged(job: Job): { readonly events: readonly RunEvent[]; readonly judgement: Judgement } {
  const desk = new Desk(job);
  desk.write({ type: 'pen' });
  desk.write({ type: 'plant', action: 'scenario', value: job.scenario.id });
  // Every pass does one thing; the cap only guards against a course that never ends.
  for (let pass = 0; pass < 400; pass += 1) {
    const judgement = desk.judgement();
    const now = present(job.plan, judgement, desk.events, desk.now);
    if (now.do === 'nothing') break;
    if (job.smellBefore === now.phase.id && !desk.events.some(({ type }) => type === 'smell')) {
      desk.write({ type: 'smell', text: 'Noticed on the way to the meter.' });
      continue;
    }
    desk.perform(now, judgement);
  }
  return { events: desk.events, judgement: desk.judgement() };
}

class Desk {
  readonly events: RunEvent[] = [];
  private readonly acts: PlantAct[] = [];
  now: number;
  private restarts = 0;
  private readonly seed: number;
  /** Holds whose pressure would not come up. */
  private readonly unreached = new Set<string>();
  /** Starts that did not count, by phase. */
  private readonly missed = new Map<string, number>();
  /** The last thing done was a step that names its pressure. */
  private poised = false;
  private wasDisturbed = false;
  /** What was begun, by phase and round: its cautions are understood. */
  private readonly met = new Set<string>();
  private plant: PlantTrack | undefined;
  /** What the judge makes of the log so far. */
  readonly judgement: () => Judgement;

  constructor(private readonly job: Job) {
    this.judgement = judgeGrowing(job.plan, this.events);
    this.now = job.startAt;
    this.seed = job.seed ?? seedOf(job.run);
  }

  write(body: Body, observedAt = this.now): RunEvent {
    const { job } = this;
    const seq = this.events.length + 1;
    const event = {
      schema: 1,
      run: job.run,
      // Nobody keeps what is typed for a curve: there any id will do.
      id: job.byHand === true ? `00000000-0000-4000-8000-${String(seq).padStart(12, '0')}` : uuidAt(this.seed, seq),
      device: job.device,
      seq,
      author: job.author,
      observedAt,
      enteredAt: this.now,
      offsetMinutes: job.offsetMinutes,
      boot: `${job.device}-1`,
      mono: observedAt - job.startAt,
      position: seq,
      ...body,
    } satisfies Envelope & Body as RunEvent;
    this.events.push(event);
    this.now += 400;
    return event;
  }

  perform(now: Exclude<Present, { do: 'nothing' }>, judgement: Judgement): void {
    const { round } = now;
    switch (now.do) {
      case 'repeat':
        this.meetTrouble(now.phase, now.from, judgement);
        return;
      case 'tick':
        this.meet(now.phase, round);
        this.tickOff(now.phase, now.items, round);
        return;
      case 'choose':
        this.meet(now.phase, round);
        this.write({
          type: 'observation',
          phase: now.phase.id,
          round,
          option: this.job.scenario.sees?.[now.phase.id] ?? now.phase.options.find(({ hoped }) => hoped)?.id ?? '',
        });
        return;
      case 'settle':
        this.now = now.until;
        return;
      case 'hold':
        this.during(now.phase, round, now.until);
        return;
      case 'condition':
        this.conditions('end', now.phase, round);
        return;
      case 'read':
        this.readAsked(now, judgement);
    }
  }

  /** Comes to a phase: its cautions, and the way to it. */
  private meet({ id, cautions }: Phase, round: number): boolean {
    if (this.met.has(`${id} ${round}`)) return false;
    this.met.add(`${id} ${round}`);
    for (const caution of cautions) this.write({ type: 'caution', caution });
    this.wait(4 + 6 * randomAt(this.seed, this.events.length));
    return true;
  }

  private readAsked({ phase, round, ask }: Extract<Present, { do: 'read' }>, judgement: Judgement): void {
    if (ask.role === 'end') {
      if (phase.kind === 'hold') this.read('end', phase, round);
      return;
    }
    const first = this.meet(phase, round);
    if (phase.kind === 'measure') this.measure(phase, ask, round, first);
    else if (phase.kind === 'hold') this.begin(phase, round);
    else if (first) {
      // Off the hose either way; who forgets reads it as it is.
      this.act(this.job.scenario.forgetsZero ? 'disconnect' : 'zero', '0');
      this.wait(5);
      this.read('zero', phase, round);
    } else this.meetTrouble(phase, undefined, judgement);
  }

  private meetTrouble(phase: Phase, from: Phase | undefined, judgement: Judgement): void {
    if (phase.kind === 'zero' && this.job.scenario.forgetsZero) {
      // Connects and reads on regardless, then has to end the test: nothing read with this gauge counts.
      const first = this.job.plan.phases.find((one) => one.kind === 'hold');
      if (first?.kind === 'hold') {
        this.act('raise', middleOf(first));
        this.read('start', first, 1);
      }
    }
    if (from !== undefined && this.restarts < 1 && !this.job.neverRestarts) {
      this.restarts += 1;
      const round = judgement.phases.find(({ id }) => id === from.id)?.round ?? 1;
      this.write({ type: 'restart', phase: from.id, round: round + 1, reason: 'Repeated after a spoilt hold' });
    } else
      this.write({
        type: 'stopped',
        reason: phase.kind === 'zero' ? 'The gauge cannot be brought to zero.' : 'The hold did not come to a result.',
      });
  }

  private tickOff(phase: CheckPhase, items: readonly CheckItem[], round: number): void {
    // Who is hasty goes to the last pressure at once, and ticks the steps all the same.
    const last = phase.items.findLast(({ to }) => to !== undefined);
    for (const item of items) {
      this.wait(8);
      if (item.plant !== undefined) this.act(item.plant, '1');
      if (item.to !== undefined && (!this.job.scenario.hasty || item === last)) this.act('raise', onCircuit(item.to, item.of), true);
      const state = answersTo(item)[0];
      this.write({
        type: 'check',
        phase: phase.id,
        round,
        item: item.id,
        state,
        text: item.write === undefined ? undefined : item.guard === true ? this.readGuard() : `REF-${this.seed & 0xffff}`,
      });
    }
  }

  /** The guard gauge with the pipe's temperature, as it is written down too. */
  private readGuard(): string {
    const { unit } = this.job.plan.gauge;
    const value = this.track().shownAt(this.now);
    const celsius = this.track().temperatureAt(this.now).toFixed(1);
    this.write({ type: 'guard', value, unit, celsius, source: 'simulated gauge' });
    return guardText(value, unit, celsius);
  }

  /** Raises, feeds or leaves it, and reads the start. */
  private begin(phase: HoldPhase, round: number): void {
    if (phase.fed) this.feed();
    else if (this.toRaise(phase)) this.act('raise', aimOf(this.job.plan, phase));
    this.wait(3);
    if (phase.fed !== true && this.falling(phase)) {
      // Raised twice and still under the band: it will not come up.
      if (this.unreached.has(phase.id)) {
        this.write({ type: 'not-reached', phase: phase.id, round, text: 'It falls as fast as it is fed.' });
        return;
      }
      this.unreached.add(phase.id);
    }
    const start = this.read('start', phase, round);
    // A start that does not count begins nothing: raised again at the next look.
    const state = this.judgement().phases.find(({ id }) => id === phase.id);
    if (heldSoFar(state) === undefined) {
      this.met.delete(`${phase.id} ${round}`);
      const tries = (this.missed.get(phase.id) ?? 0) + 1;
      this.missed.set(phase.id, tries);
      if (tries > 3) this.write({ type: 'stopped', reason: 'The pressure will not stay in the band that the hold starts from.' });
      return;
    }
    this.conditions('start', phase, round);
    // A settling is over with its start: nobody asks for anything in it.
    if (phase.limit.kind === 'wait') {
      const dueAt = start.observedAt + phase.seconds * 1000;
      this.trace(phase, round, start.observedAt, dueAt);
      this.now = dueAt + 1000;
    }
  }

  /** What happens in a hold, until it is due. */
  private during(phase: HoldPhase, round: number, dueAt: number): void {
    const from = dueAt - phase.seconds * 1000;
    // Nobody waits out a hold that does not count.
    if (this.disturbed(phase, round, from)) return;
    this.pumpBack(phase, round, from, dueAt);
    this.trace(phase, round, from, dueAt);
    this.now = dueAt + 1500;
  }

  /** Looks every ten seconds and pumps back before the fall is too large, writing down the low pressure and the water. */
  private pumpBack(phase: HoldPhase, round: number, from: number, to: number): void {
    if (phase.limit.kind !== 'keep' || phase.limit.within === undefined) return;
    const { plan } = this.job;
    const { unit, readability } = instrumentOf(plan, phase.instrument);
    const field = plan.phases.flatMap((one) => (one.kind === 'measure' ? one.fields : [])).find(({ quantity }) => quantity === 'volume');
    const vessel = instrumentOf(plan, field?.instrument);
    const inPlan = (shown: number): number => inPlanUnit(plan, shown, phase);
    const start = Number(this.track().shownAt(from, phase.instrument));
    const mostFall = Number(phase.limit.within) - 1.5 * inPlan(Number(readability));
    let track = this.track();
    for (let at = from + 10_000; at < to - 30_000; at += 10_000) {
      const shown = track.shownAt(at, phase.instrument);
      if (inPlan(start) - inPlan(Number(shown)) < mostFall) continue;
      this.now = at;
      this.figure('between', phase.id, round, quantityOf(unit), shown, unit);
      this.act('raise', String(inPlan(start)));
      track = this.track();
      const pumped = track.measuredAt(this.now, { id: 'pumped', label: 'Pumped back' }, 'volume');
      if (pumped !== undefined) this.figure('between', phase.id, round, 'volume', pumped, vessel.unit);
    }
  }

  /** A level is filled once; what a step has just brought into the band is left alone; else valves are judged afresh. */
  private toRaise(phase: HoldPhase): boolean {
    const shown = this.shownIn(phase);
    if (shown && (this.poised || quantityOf(instrumentOf(this.job.plan, phase.instrument).unit) !== 'pressure')) return false;
    return phase.limit.kind === 'wait' || phase.purpose === 'let-by' || !shown;
  }

  private feed(): void {
    if (this.acts.at(-1)?.action !== 'feed') this.act('feed', '1');
  }

  /** Somebody in the house spoils the first tightness hold, is seen, and it is written down. */
  private disturbed(phase: HoldPhase, round: number, from: number): boolean {
    const what = this.job.scenario.disturbs;
    if (what === undefined || phase.purpose !== 'tightness' || this.wasDisturbed) return false;
    this.wasDisturbed = true;
    this.now = from + Math.round(phase.seconds * 600);
    this.write({ type: 'disturbance', phase: phase.id, round, what, text: 'Heard it run; nobody may until the hold is over.' });
    return true;
  }

  private shownIn(phase: HoldPhase, later = 3000): boolean {
    const shown = this.inPlanUnit(phase, this.now + later);
    return shown >= Number(phase.band.low) && shown <= Number(phase.band.high);
  }

  private falling(phase: HoldPhase): boolean {
    return this.inPlanUnit(phase, this.now) < Number(phase.band.low) * 0.95;
  }

  private inPlanUnit(phase: HoldPhase, at: number): number {
    return inPlanUnit(this.job.plan, Number(this.track().shownAt(at, phase.instrument)), phase);
  }

  /** Pipe temperature and barometer, where the hold may be corrected for them. */
  private conditions(role: 'start' | 'end', phase: HoldPhase, round: number): void {
    if (phase.corrects === undefined) return;
    const at = this.now;
    this.figure(role, phase.id, round, 'temperature', this.track().temperatureAt(at).toFixed(1), 'C');
    this.figure(role, phase.id, round, 'barometer', this.track().barometerAt(at).toFixed(1), 'hPa');
  }

  /** One figure of a point; at the first of each it is brought to where it is read. */
  private measure(phase: MeasurePhase, { point, quantity, of }: Ask, round: number, first: boolean): void {
    const { limit } = phase;
    if (point === undefined) return;
    if (first && phase.fed) this.feed();
    if (fieldsAt(phase, point)[0]?.quantity === quantity) {
      this.wait(40);
      // Pumped back to where the hold began, then drawn down to the lowest that it read.
      if (limit.kind === 'make-up-at-most') this.act('raise', this.endOf(limit.hold, point.id === makeUpPoints.back));
      if (limit.kind === 'air-at-most' && point.aim !== undefined) {
        this.act('raise', point.aim);
        if (inPlanUnit(this.job.plan, Number(this.track().shownAt(this.now + 2000))) < 0.9 * Number(point.aim)) {
          this.write({ type: 'not-reached', phase: phase.id, round, text: 'It does not come up.' });
          return;
        }
      }
    }
    const { unit, rangeLow } = instrumentOf(this.job.plan, of);
    const shown = this.track().measuredAt(this.now, point, quantity);
    this.figure('point', phase.id, round, quantity, shown ?? rangeLow, unit, {
      point: point.id,
      qualifier: shown === undefined ? 'below range' : undefined,
    });
  }

  /** The start of a hold, or its lowest reading, in the plan's unit. */
  private endOf(hold: string, first: boolean): string {
    const read = this.events.flatMap((event) =>
      event.type === 'reading' && event.phase === hold && event.quantity === 'pressure'
        ? [{ role: event.role, value: fromSi(toSi(Number(event.value), event.unit), this.job.plan.unit) }]
        : [],
    );
    const start = read.findLast(({ role }) => role === 'start');
    return String(first ? (start?.value ?? 0) : Math.min(...read.map(({ value }) => value)));
  }

  private trace(phase: HoldPhase, round: number, from: number, to: number): void {
    if (this.job.byHand === true) {
      this.now = to;
      return;
    }
    const track = this.track();
    const { unit, readability } = instrumentOf(this.job.plan, phase.instrument);
    const scale = decimal(readability).scale;
    // A chunk holds 600 samples at most; a long hold is sampled less often.
    const stepMs = Math.max(1, Math.ceil((to - from) / 1000 / 599)) * 1000;
    const values: number[] = [];
    for (let at = from; at <= to && values.length < 600; at += stepMs)
      values.push(Number(decimal(track.shownAt(at, phase.instrument)).digits));
    this.now = to;
    if (quantityOf(unit) !== 'pressure') return;
    this.write(
      {
        type: 'trace',
        phase: phase.id,
        round,
        startAt: from,
        stepMs,
        unit: unit as typeof this.job.plan.unit,
        scale,
        values,
        source: 'simulated gauge',
      },
      from,
    );
  }

  private act(action: PlantAct['action'], value: string, step = false): void {
    this.poised = step;
    const event = this.write({ type: 'plant', action, value });
    this.acts.push(actOf(this.job.plan, event.observedAt, action, value));
  }

  private read(role: 'zero' | 'start' | 'end', phase: HoldPhase | ZeroPhase, round: number): RunEvent {
    const { unit } = instrumentOf(this.job.plan, phase.instrument);
    const value = this.track().shownAt(this.now, phase.instrument);
    return this.figure(role, phase.id, round, quantityOf(unit), value, unit);
  }

  private figure(
    role: ReadingRole,
    phase: string,
    round: number,
    quantity: ReadQuantity,
    value: string,
    unit: Unit,
    more: { readonly point?: string; readonly qualifier?: 'below range' } = {},
  ): RunEvent {
    // A hand stamps a moment after its eyes have read.
    if (this.job.byHand === true) this.now += Math.round(1200 * randomAt(this.seed, 5000 + this.events.length));
    const observedAt = this.now;
    this.now += 3000;
    return this.write(
      { type: 'reading', phase, round, role, quantity, value, unit, typed: value, source: 'simulated gauge', ...more },
      observedAt,
    );
  }

  private track(): PlantTrack {
    // One track for the job: it notices acts written since it was last asked.
    const { plan, scenario, plant } = this.job;
    this.plant ??= plant?.(this.seed, this.acts) ?? plantModel(plan).track(plan, scenario.id, this.seed, this.acts);
    return this.plant;
  }

  private wait(seconds: number): void {
    this.now += Math.round(seconds * 1000);
  }
}
