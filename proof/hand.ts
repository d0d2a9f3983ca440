import { instrumentOf, type MeasurePoint, type Part, unitOfHold } from '@/core/course';
import { type Judgement, judgeGrowing, type RunEvent } from '@/core/judging';
import { roomOfHold } from '@/core/limits';
import type { Plan } from '@/core/planning';
import { fromSi, toSi, unitKind } from '@/core/quantities';
import { present } from '@/core/running';
import type { Chance } from './chance';
import { type Bounds, Drift } from './drift';
import { Gauge } from './gauges';
import type { Passing, Vessel, Way } from './vessels';

/** What a run is made on: vessels by the instrument that sees them, what leaks where, and what the case adds. */
export interface Place {
  readonly vessels: Readonly<Record<string, Vessel>>;
  /** The vessel that an instrument sees; its own name where it is not listed. */
  readonly sees: (role: string) => string;
  /** Leak of a vessel while a phase stands. */
  readonly leak: (vessel: string, phase: string) => Way | undefined;
  readonly valve: (vessel: string) => Passing | undefined;
  /** Pressure, Pa, of a phase whose supply is open. */
  readonly fed: (phase: string) => number;
  /** How far pipe, K, and air, Pa, wander in a hold. */
  readonly warms: Bounds;
  readonly presses: Bounds;
  /** Figures of a measuring phase, in SI. */
  readonly points?: (asked: { readonly point: MeasurePoint; readonly quantity: string; readonly hand: Hand }) => number;
}

/** A hand that works through a plan on a place, as the product asks, with the looseness of real hands; it never looks inside. */
export class Hand {
  readonly events: RunEvent[] = [];
  private readonly judged: () => Judgement;
  private readonly gauges = new Map<string, Gauge>();
  second = 0;
  private phase = '';
  private warmer = 0;
  private heavier = 0;
  private moving:
    | { readonly from: number; readonly hold: number; readonly base: readonly [number, number]; readonly by: readonly [Drift, Drift] }
    | undefined;
  private restarts = 0;
  private readonly begun = new Map<string, number>();
  private readonly triedEarly = new Set<string>();

  constructor(
    readonly plan: Plan,
    readonly place: Place,
    readonly chance: Chance,
    private readonly from: number,
  ) {
    this.judged = judgeGrowing(plan, this.events);
  }

  run(): Judgement {
    this.write({ type: 'pen' });
    for (let pass = 0; pass < 300; pass += 1) {
      const judgement = this.judged();
      const now = present(this.plan, judgement, this.events, this.clock());
      if (now.do === 'nothing') break;
      this.phase = now.phase.id;
      const { round } = now;
      if (now.do === 'tick')
        for (const item of now.items) {
          this.wait(this.chance.between(1, 9));
          if (item.to !== undefined) this.bringTo(item.to, item.of ?? 'gauge');
          const state = item.boundary === undefined ? 'done' : 'plugged';
          this.write({
            type: 'check',
            phase: now.phase.id,
            round,
            item: item.id,
            state,
            ...(item.write === undefined ? {} : { text: 'Proof 1' }),
          });
        }
      else if (now.do === 'choose') {
        this.wait(5);
        const hoped = now.phase.options.find((option) => option.hoped) ?? now.phase.options[0];
        this.write({ type: 'observation', phase: now.phase.id, round, option: hoped.id });
      } else if (now.do === 'settle') this.until((now.until - this.from) / 1000);
      else if (now.do === 'hold') this.sit(now.phase, round, (now.until - this.from) / 1000);
      else if (now.do === 'condition') {
        for (const what of now.owes) this.write({ type: 'declined', phase: now.phase.id, round, what });
      } else if (now.do === 'repeat') {
        if (now.from === undefined || this.restarts >= 2) this.write({ type: 'stopped', reason: 'It comes to nothing.' });
        else {
          this.restarts += 1;
          const at = judgement.phases.find(({ id }) => id === now.from?.id)?.round ?? 1;
          this.write({ type: 'restart', phase: now.from.id, round: at + 1, reason: 'Again, after a spoilt round.' });
        }
      } else this.readAsked(now, round, judgement);
    }
    return this.judged();
  }

  private clock = (): number => this.from + Math.round(this.second * 1000);

  write(body: Record<string, unknown>, late = 0): void {
    const seq = this.events.length + 1;
    const at = this.clock() + Math.round(late * 1000);
    this.events.push({
      schema: 1,
      run: '00000000-0000-4000-8000-00000000aaaa',
      id: `00000000-0000-4000-8000-${String(seq).padStart(12, '0')}`,
      device: 'proof',
      seq,
      author: 'Proof',
      observedAt: at,
      enteredAt: at,
      offsetMinutes: 0,
      boot: 'proof-1',
      mono: at - this.from,
      position: seq,
      ...body,
    } as unknown as RunEvent);
    if (late > 0) this.wait(late);
  }

  wait(seconds: number): void {
    this.until(this.second + seconds);
  }

  private get around() {
    return { warmer: this.warmer, heavier: this.heavier };
  }

  /** Lets time pass, the weather moving in a hold alone. */
  until(second: number): void {
    const parts = Math.max(1, Math.min(200, Math.ceil((second - this.second) / 20)));
    const each = (second - this.second) / parts;
    for (let part = 0; part < parts && each > 0; part += 1) {
      this.second += each;
      if (this.moving !== undefined) {
        const { from, hold, base, by } = this.moving;
        this.warmer = base[0] + by[0].at(this.second - from, hold);
        this.heavier = base[1] + by[1].at(this.second - from, hold);
      }
      for (const [name, vessel] of Object.entries(this.place.vessels))
        vessel.pass(each, this.place.leak(name, this.phase), this.place.valve(name), this.around);
    }
  }

  vesselOf(role: string): Vessel {
    return this.place.vessels[this.place.sees(role)];
  }

  bring(si: number, role: string): void {
    this.vesselOf(role).bring(si, this.around);
    this.gauges.get(role)?.free();
  }

  private bringTo(to: string, role: string): void {
    const [figure, unit] = to.split(' ');
    this.bring(toSi(Number(figure), (unit ?? this.plan.unit) as never), role);
    this.wait(this.chance.between(2, 8));
  }

  /** What an instrument of a role shows of a truth, in its own unit, as its figure is written. */
  shown(role: string | undefined, truth: number): string {
    const { unit, readability } = instrumentOf(this.plan, role);
    const name = role ?? 'gauge';
    const gauge = this.gauges.get(name) ?? new Gauge(toSi(Number(readability), unit), this.chance);
    this.gauges.set(name, gauge);
    const decimals = (readability.split('.')[1] ?? '').length;
    return (gauge.steps(truth, this.second) * Number(readability)).toFixed(decimals);
  }

  truth(role: string | undefined): number {
    return this.vesselOf(role ?? 'gauge').pressure(this.around);
  }

  private figure(role: string, phase: string, round: number, quantity: string, value: string, unit: string, more = {}): void {
    // Read, and stamped a little late.
    this.write(
      { type: 'reading', phase, round, role, quantity, value, unit, typed: value, source: 'keypad', ...more },
      this.chance.between(0, 1.2),
    );
  }

  private readAsked(now: Extract<ReturnType<typeof present>, { do: 'read' }>, round: number, _: Judgement): void {
    const { phase, ask } = now;
    const { unit } = ask.instrument;
    if (phase.kind === 'zero') {
      this.wait(10);
      this.figure(
        'zero',
        phase.id,
        round,
        ask.quantity,
        Number('0').toFixed((ask.instrument.readability.split('.')[1] ?? '').length),
        unit,
      );
      return;
    }
    if (phase.kind === 'measure') {
      this.wait(15);
      const point = ask.point ?? phase.points[0];
      const truth = this.place.points?.({ point, quantity: ask.quantity, hand: this }) ?? 0;
      this.figure('point', phase.id, round, ask.quantity, this.shown(ask.of, truth), unit, { point: point.id });
      return;
    }
    if (ask.role === 'end') {
      this.figure('end', phase.id, round, ask.quantity, this.shown(phase.instrument, this.truth(phase.instrument)), unit);
      this.weather(phase.id, round, 'end');
      this.moving = undefined;
      return;
    }
    const tries = (this.begun.get(phase.id) ?? 0) + 1;
    this.begun.set(phase.id, tries);
    if (tries > 12) {
      this.write({ type: 'stopped', reason: 'It will not stand where it has to begin.' });
      return;
    }
    const own = unitOfHold(this.plan, phase);
    const role = phase.instrument ?? 'gauge';
    if (phase.fed === true) this.bring(this.place.fed(phase.id), role);
    else if (unitKind(own) === 'pressure') {
      const shown = fromSi(this.truth(phase.instrument), own);
      const inside = shown >= Number(phase.band.low) && shown <= Number(phase.band.high);
      const afresh = phase.limit.kind === 'wait' ? phase.purpose === 'settle' : phase.purpose === 'let-by';
      if (!inside || afresh) this.bring(toSi((Number(phase.band.low) + Number(phase.band.high)) / 2, own), role);
    } else if (this.truth(phase.instrument) < 0.05) this.bring(0.3, role);
    this.wait(this.chance.between(3, 12));
    // The weather of this hold begins with it; a second hold beside it shares it.
    if (this.moving === undefined)
      this.moving = {
        from: this.second,
        hold: phase.seconds,
        base: [this.warmer, this.heavier],
        by: [
          // A short watch is no hold: it warms at its pace alone.
          new Drift(
            this.chance,
            phase.purpose === 'tightness'
              ? this.place.warms
              : { ...this.place.warms, perSecond: Math.min(this.place.warms.perSecond, 0.05 / 60), least: 0 },
          ),
          new Drift(this.chance, this.place.presses),
        ],
      };
    this.figure('start', phase.id, round, ask.quantity, this.shown(phase.instrument, this.truth(phase.instrument)), unit);
    if (phase.limit.kind === 'wait') this.moving = undefined;
    this.weather(phase.id, round, 'start');
  }

  /** Waits a hold out: as a rule a few seconds over, sometimes far too long; sometimes an end is tried before its time. */
  private sit(phase: Extract<Plan['phases'][number], { kind: 'hold' }>, round: number, due: number): void {
    if (roomOfHold(phase.limit).kind === 'keep') this.pumpsBack(phase, round, due);
    const key = `${phase.id} ${round}`;
    if (this.chance.happens(0.1) && !this.triedEarly.has(key) && due - this.second > 10 && phase.purpose === 'tightness') {
      this.triedEarly.add(key);
      this.until(due - this.chance.between(1, 4));
      const { unit } = instrumentOf(this.plan, phase.instrument);
      const quantity = unitKind(unit) === 'length' ? 'level' : unitKind(unit) === 'turns' ? 'turns' : 'pressure';
      this.figure('end', phase.id, round, quantity, this.shown(phase.instrument, this.truth(phase.instrument)), unit);
    }
    const late = this.chance.happens(0.06) ? this.chance.between(0.06, 0.2) * phase.seconds + 10 : this.chance.between(0.5, 6);
    this.until(Math.max(this.second + 0.5, due + late));
  }

  /** Looks every few minutes, and pumps back what has fallen, with the water measured. */
  private pumpsBack(phase: Extract<Plan['phases'][number], { kind: 'hold' }>, round: number, due: number): void {
    if (phase.limit.kind !== 'keep' || phase.limit.within === undefined) return;
    const { unit } = instrumentOf(this.plan, phase.instrument);
    const start = this.truth(phase.instrument);
    const most = toSi(Number(phase.limit.within), this.plan.unit);
    while (this.second + 120 < due) {
      this.wait(60);
      const low = this.truth(phase.instrument);
      if (start - low < 0.7 * most) continue;
      this.figure('between', phase.id, round, 'pressure', this.shown(phase.instrument, low), unit);
      const water = this.place.points?.({ point: { id: 'pumped', label: 'Pumped' }, quantity: 'volume', hand: this }) ?? 0;
      this.bring(start, phase.instrument ?? 'gauge');
      const vessel = instrumentOf(this.plan, 'vessel');
      this.figure('between', phase.id, round, 'volume', this.shown('vessel', water), vessel.unit);
    }
  }

  private weather(phase: string, round: number, role: 'start' | 'end'): void {
    const spec = this.plan.phases.find(({ id }) => id === phase);
    const corrects = spec?.kind === 'hold' ? spec.corrects : undefined;
    if (corrects === undefined) return;
    const { thermometer, barometer } = this.plan.weather ?? {};
    const wants = (what: 'temperatures' | 'barometer') => corrects.needed === 'both' || corrects.needed === what;
    const rounded = (value: number, step: number): string => (Math.round(value / step) * step).toFixed(step < 1 ? 1 : 0);
    if (thermometer !== undefined || wants('temperatures')) {
      const spot = this.chance.between(-0.05, 0.05);
      this.figure(role, phase, round, 'temperature', rounded(15 + this.warmer + spot, Number(thermometer?.readability ?? '0.1')), 'C');
    }
    if (barometer !== undefined || wants('barometer'))
      this.figure(role, phase, round, 'barometer', rounded(1013.25 + this.heavier / 100 + this.chance.between(-0.1, 0.1), 0.1), 'hPa');
  }
}

/** The part that a case is about. */
export const partNamed = (plan: Plan, what: string): Part => {
  const part = plan.sight.find((one) => one.what === what);
  if (part === undefined) throw new Error(`no part ${what}`);
  return part;
};
