import { type Body, type Envelope, type RunEvent, tick } from '../judging/events';
import { type Judgement, judge } from '../judging/judge';
import type { Plan } from '../planning/plan';
import { type CheckPhase, type HoldPhase, middleOf, type Phase } from '../procedures/phases';
import { decimal } from '../quantities';
import { type GasPlant, GasTrack, type PlantAct } from './gas-plant';
import { randomAt, uuidAt } from './random';
import type { Scenario } from './scenarios';
import { plantOf, seedOf } from './simulated-gauge';

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
  /** Ends the test at once when a hold is spoilt; otherwise it is restarted once. */
  readonly neverRestarts?: boolean;
}

/**
 * A technician doing a job by the plan on a simulated plant: looks at what the judge says is open, does it, and writes
 * it down. Pure: the same job gives the same events.
 */
export function simulateRun(job: Job): readonly RunEvent[] {
  const desk = new Desk(job);
  desk.write({ type: 'pen' });
  desk.write({ type: 'plant', action: 'scenario', value: job.scenario.id });
  // Every pass does one phase; the cap only guards against a course that never ends.
  for (let pass = 0; pass < 60; pass += 1) {
    const judgement = judge(job.plan, desk.events);
    const phase = job.plan.phases.find(({ id }) => id === judgement.current);
    if (phase === undefined) break;
    if (job.smellBefore === phase.id && !desk.events.some(({ type }) => type === 'smell')) {
      desk.write({ type: 'smell', text: 'Noticed on the way to the meter.' });
      continue;
    }
    const state = judgement.phases.find(({ id }) => id === phase.id);
    if (state?.spoilt === true)
      desk.meetTrouble(
        phase,
        judgement.next.find((step) => step.code === 'restart'),
        judgement,
      );
    else desk.perform(phase, state?.round ?? 1, judgement.openFrom);
  }
  return desk.events;
}

class Desk {
  readonly events: RunEvent[] = [];
  private readonly acts: PlantAct[] = [];
  private now: number;
  private clock: readonly [number, number] = [0, 0];
  private restarts = 0;
  private readonly seed: number;
  private readonly plant: GasPlant;

  constructor(private readonly job: Job) {
    this.now = job.startAt;
    this.seed = job.seed ?? seedOf(job.run);
    this.plant = plantOf(job.plan, job.scenario, this.seed);
  }

  write(body: Body, observedAt = this.now): RunEvent {
    const { job } = this;
    this.clock = tick(this.clock, this.now);
    const seq = this.events.length + 1;
    const envelope: Envelope = {
      schema: 1,
      run: job.run,
      id: uuidAt(this.seed, seq),
      device: job.device,
      seq,
      author: job.author,
      observedAt,
      enteredAt: this.now,
      offsetMinutes: job.offsetMinutes,
      boot: `${job.device}-1`,
      mono: observedAt - job.startAt,
      clock: this.clock,
    };
    const event = { ...envelope, ...body } as RunEvent;
    this.events.push(event);
    this.now += 400;
    return event;
  }

  perform(phase: Phase, round: number, openFrom = 0): void {
    for (const caution of phase.cautions) this.write({ type: 'caution', caution });
    this.wait(4 + 6 * randomAt(this.seed, this.events.length));
    switch (phase.kind) {
      case 'check':
        this.tickOff(phase, round);
        return;
      case 'zero':
        if (!this.job.scenario.forgetsZero) this.act('zero', '0');
        this.wait(5);
        this.read('zero', phase.id, round);
        return;
      case 'observe':
        this.write({
          type: 'observation',
          phase: phase.id,
          round,
          option: this.job.scenario.sees?.[phase.id] ?? phase.options.find(({ hoped }) => hoped)?.id ?? '',
        });
        return;
      case 'hold':
        this.hold(phase, round, openFrom);
    }
  }

  meetTrouble(phase: Phase, restart: { phase: string } | undefined, judgement: Judgement): void {
    if (phase.kind === 'zero' && this.job.scenario.forgetsZero) {
      // Connects and reads on regardless, then has to end the test: nothing read with this gauge counts.
      const first = this.job.plan.phases.find((one) => one.kind === 'hold');
      if (first?.kind === 'hold') {
        this.act('raise', middleOf(first));
        this.read('start', first.id, 1);
      }
    }
    if (restart !== undefined && this.restarts < 1 && !this.job.neverRestarts) {
      this.restarts += 1;
      const round = judgement.phases.find(({ id }) => id === restart.phase)?.round ?? 1;
      this.write({ type: 'restart', phase: restart.phase, round: round + 1, reason: 'Repeated after a spoilt hold' });
    } else
      this.write({
        type: 'stopped',
        reason: phase.kind === 'zero' ? 'The gauge cannot be brought to zero.' : 'The hold did not come to a result.',
      });
  }

  private tickOff(phase: CheckPhase, round: number): void {
    for (const item of phase.items) {
      this.wait(8);
      if (item.plant !== undefined) this.act(item.plant, '1');
      const state = item.boundary === undefined ? 'done' : 'plugged';
      this.write({
        type: 'check',
        phase: phase.id,
        round,
        item: item.id,
        state,
        ...(item.write === undefined ? {} : { text: `REF-${this.seed & 0xffff}` }),
      });
    }
  }

  private hold(phase: HoldPhase, round: number, openFrom: number): void {
    this.now = Math.max(this.now, openFrom);
    const middle = middleOf(phase);
    if (phase.criterion.kind === 'wait' || phase.purpose === 'let-by' || !this.shownIn(phase)) this.act('raise', middle);
    this.wait(3);
    const start = this.read('start', phase.id, round);
    const dueAt = start.observedAt + phase.seconds * 1000;
    this.trace(phase, round, start.observedAt, dueAt);
    if (phase.criterion.kind === 'wait') {
      this.now = dueAt + 1000;
      return;
    }
    this.now = dueAt + 1500;
    this.read('end', phase.id, round);
  }

  private shownIn({ band }: HoldPhase): boolean {
    const shown = Number(this.track().shownAt(this.now + 3000));
    return shown >= Number(band.low) && shown <= Number(band.high);
  }

  private trace(phase: HoldPhase, round: number, from: number, to: number): void {
    const track = this.track();
    const scale = decimal(this.job.plan.gauge.readability).scale;
    const values: number[] = [];
    for (let at = from; at <= to && values.length < 600; at += 1000) values.push(Number(decimal(track.shownAt(at)).digits));
    this.now = to;
    this.write(
      {
        type: 'trace',
        phase: phase.id,
        round,
        startAt: from,
        stepMs: 1000,
        unit: this.job.plan.gauge.unit,
        scale,
        values,
        source: 'simulated gauge',
      },
      from,
    );
  }

  private act(action: 'zero' | 'raise' | 'isolate' | 'reconnect', value: string): void {
    const event = this.write({ type: 'plant', action, value });
    this.acts.push({ atMs: event.observedAt, action, ...(action === 'raise' ? { mbar: Number(value) } : {}) });
  }

  private read(role: 'zero' | 'start' | 'end', phase: string, round: number): RunEvent {
    const observedAt = this.now;
    const value = this.track().shownAt(observedAt);
    this.now += 3000;
    return this.write(
      {
        type: 'reading',
        phase,
        round,
        role,
        quantity: 'pressure',
        value,
        unit: this.job.plan.gauge.unit,
        typed: value,
        source: 'simulated gauge',
      },
      observedAt,
    );
  }

  private track(): GasTrack {
    return new GasTrack(this.plant, this.acts);
  }

  private wait(seconds: number): void {
    this.now += Math.round(seconds * 1000);
  }
}
