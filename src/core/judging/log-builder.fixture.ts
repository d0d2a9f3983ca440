import { answersTo, type CheckPhase, type ReadQuantity } from '../course/phases';
import type { Plan } from '../planning/plan';
import type { Unit } from '../quantities';
import type { Body, Envelope, EventOf, ReadingRole, RunEvent } from './events';

/** Writes a run's log by hand, a step at a time: for worked cases in tests and examples. Times are seconds from 0. */
export class LogBuilder {
  readonly events: RunEvent[] = [];
  private seconds = 0;

  constructor(
    private readonly plan: Plan,
    private readonly device = 'device-1',
    private readonly startAt = 1_795_000_000_000,
  ) {}

  at(seconds: number): this {
    this.seconds = seconds;
    return this;
  }

  write(body: Body, change: Partial<Envelope> = {}): this {
    const seq = this.events.length + 1;
    const time = this.startAt + Math.round(this.seconds * 1000);
    const envelope: Envelope = {
      schema: 1,
      run: '00000000-0000-4000-8000-000000000001',
      id: `00000000-0000-4000-8000-${this.device.slice(-1)}${String(seq).padStart(11, '0')}`,
      device: this.device,
      seq,
      author: 'Test technician',
      observedAt: time,
      enteredAt: time,
      offsetMinutes: 0,
      boot: `${this.device}-boot`,
      mono: Math.round(this.seconds * 1000),
      position: seq,
      ...change,
    };
    this.events.push({ ...envelope, ...body } as RunEvent);
    return this;
  }

  get lastId(): string {
    return this.events.at(-1)?.id ?? '';
  }

  read(
    phase: string,
    role: ReadingRole,
    value: string,
    change: { readonly round?: number; readonly unit?: 'mbar' | 'Pa' | 'psi'; readonly source?: EventOf<'reading'>['source'] } = {},
  ): this {
    return this.write({
      type: 'reading',
      phase,
      round: change.round ?? 1,
      role,
      quantity: 'pressure',
      value,
      unit: change.unit ?? (this.plan.gauge.unit as 'mbar'),
      typed: value,
      source: change.source ?? 'keypad',
    });
  }

  /** Any figure, at a point where one is named. */
  figure(
    phase: string,
    role: ReadingRole,
    quantity: ReadQuantity,
    value: string,
    unit: Unit,
    more: { readonly point?: string; readonly qualifier?: 'below range' } = {},
  ): this {
    return this.write({ type: 'reading', phase, round: 1, role, quantity, value, unit, typed: value, source: 'keypad', ...more });
  }

  /** A pipe temperature, °C. */
  degrees(phase: string, role: 'start' | 'end', value: string): this {
    return this.write({
      type: 'reading',
      phase,
      round: 1,
      role,
      quantity: 'temperature',
      value,
      unit: 'C',
      typed: value,
      source: 'keypad',
    });
  }

  /** The let-by, settling and hold of a second round, from 530 s. */
  again(end: string): this {
    const round = 2;
    return this.at(530)
      .read('let-by', 'start', '8.50', { round })
      .at(591)
      .read('let-by', 'end', '8.50', { round })
      .at(600)
      .read('settle', 'start', '20.50', { round })
      .at(670)
      .read('hold', 'start', '20.50', { round })
      .at(791)
      .read('hold', 'end', end, { round });
  }

  tick(phaseId: string, round = 1): this {
    const phase = this.plan.phases.find((one): one is CheckPhase => one.id === phaseId && one.kind === 'check');
    for (const item of phase?.items ?? [])
      this.write({
        type: 'check',
        phase: phaseId,
        round,
        item: item.id,
        state: answersTo(item)[0],
        ...(item.write === undefined ? {} : { text: 'REF-1' }),
      });
    return this;
  }

  observe(phase: string, option: string, round = 1): this {
    return this.write({ type: 'observation', phase, round, option });
  }

  /** Prepared, zeroed, let-by steady at 8.5; ends at 100 s. */
  proved(end = '8.50'): this {
    this.at(0).tick('prepare').at(20).read('zero', 'zero', '0.00');
    return this.at(30).read('let-by', 'start', '8.50').at(91).read('let-by', 'end', end);
  }

  /** Settled from 100 s; due at 160 s. */
  settled(): this {
    return this.at(100).read('settle', 'start', '20.50');
  }

  /** A hold from 170 s, due at 290 s, read at `endAt`. */
  held(start: string, end: string, endAt = 291): this {
    return this.at(170).read('hold', 'start', start).at(endAt).read('hold', 'end', end);
  }
}
