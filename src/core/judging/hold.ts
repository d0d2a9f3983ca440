import type { Plan } from '../planning/plan';
import type { HoldPhase } from '../procedures/phases';
import { add, compare, type Decimal, decimal, negate, round, subtract, toText, unitLabel } from '../quantities';
import { type EventOf, neverWaived } from './events';
import { compareAcross, inBand, timeText } from './exact';
import type { Log } from './log';
import { readingFault, type Taken, valueText } from './readings';
import { type Finding, finding } from './reasons';
import { warmingOf } from './temperature';
import { traceExtremes } from './trace-extremes';

export interface HoldResult {
  /** Absent while the hold is not over. */
  readonly outcome?: string;
  /** The outcome proves nothing: a new round is needed, or the end of the test. */
  readonly spoilt: boolean;
  readonly startAt?: number;
  readonly dueAt?: number;
  readonly endAt?: number;
  readonly start?: string;
  readonly end?: string;
  /** Fall, positive downwards, in the gauge's unit. */
  readonly fall?: string;
  readonly findings: readonly Finding[];
  readonly working: readonly string[];
}

/** Later than this past due counts as late: 5 % or 10 s, the larger (DOMAIN 4.3). */
export const lateToleranceMs = (seconds: number): number => Math.max(seconds * 50, 10_000);

/** A wall clock that strays from the monotonic one by more than this has jumped. */
const jumpMs = 2000;

interface Context {
  readonly phase: HoldPhase;
  readonly plan: Plan;
  readonly log: Log;
  readonly withdrawn: ReadonlySet<string>;
  /** The time of the phase before is not over before this; ms. */
  readonly openFrom: number;
}

/** Judges one round of a hold. Pure; knows no clock. */
export function judgeHold(context: Context): HoldResult {
  const { phase, log } = context;
  const notes: Finding[] = [];
  const readings = usable(context, notes);
  const start = findStart(context, readings, notes);
  if (start === undefined) return { spoilt: false, findings: notes, working: [] };

  const startAt = start.event.observedAt;
  const dueAt = startAt + phase.seconds * 1000;
  const begun = { startAt, dueAt, start: start.event.value };
  const end = findEnd(context, readings, start, dueAt, notes);
  const spoiltBy = spoiling(context, start, end, notes);
  if (spoiltBy !== undefined) return { ...begun, outcome: 'void', spoilt: true, findings: [...notes, spoiltBy], working: [] };
  if (phase.criterion.kind === 'wait') return { ...begun, outcome: 'settled', spoilt: false, findings: notes, working: [] };

  const stopped = log.inRound('hold-stopped', phase.id)[0];
  if (end === undefined && stopped !== undefined) return stoppedEarly(context, start, readings, stopped, begun, notes);
  if (end === undefined) return { ...begun, spoilt: false, findings: notes, working: [] };
  noteTrace(context, start, end, notes);
  const verdict = movement(context, start, end, dueAt, readings, notes);
  const over = { endAt: end.event.observedAt, end: end.event.value };
  return { ...begun, ...over, ...verdict, findings: [...notes, ...verdict.findings], working: verdict.working };
}

/** Readings of this round that this gauge can have shown, in the order in which they were taken. */
function usable({ phase, plan, log, withdrawn }: Context, notes: Finding[]): readonly Taken[] {
  const taken: Taken[] = [];
  for (const event of log.inRound('reading', phase.id)) {
    if (event.quantity !== 'pressure' || withdrawn.has(event.id)) continue;
    const why = readingFault(plan.gauge, event.value, event.unit);
    if (why === undefined) taken.push({ event, value: decimal(event.value) });
    else notes.push(finding('reading-refused', { ...valueText(event), title: phase.title, why }, phase.id));
  }
  return taken.sort((a, b) => a.event.observedAt - b.event.observedAt);
}

function findStart({ phase, plan, openFrom }: Context, readings: readonly Taken[], notes: Finding[]): Taken | undefined {
  const { low, high } = phase.band;
  let start: Taken | undefined;
  for (const reading of readings.filter(({ event }) => event.role === 'start')) {
    const about = { ...valueText(reading.event), title: phase.title, low, high, limitUnit: unitLabel(plan.unit) };
    if (start !== undefined) notes.push(finding('second-start', about, phase.id));
    else if (reading.event.observedAt < openFrom) notes.push(finding('start-too-soon', about, phase.id));
    else if (!inBand(reading.value, plan.gauge.unit, low, high, plan.unit)) notes.push(finding('start-out-of-band', about, phase.id));
    else start = reading;
  }
  return start;
}

function findEnd({ phase }: Context, readings: readonly Taken[], start: Taken, dueAt: number, notes: Finding[]): Taken | undefined {
  let end: Taken | undefined;
  // The first in the log's order ends the phase, whichever device wrote it; the rest are shown.
  const ends = readings.filter(({ event }) => event.role === 'end');
  for (const reading of ends.sort((a, b) => a.event.clock[0] - b.event.clock[0] || a.event.clock[1] - b.event.clock[1])) {
    const about = { ...valueText(reading.event), title: phase.title };
    const { observedAt } = reading.event;
    if (end !== undefined) notes.push(finding('second-end', about, phase.id));
    else if (observedAt < start.event.observedAt) notes.push(finding('reading-order', about, phase.id));
    else if (observedAt < dueAt)
      notes.push(finding('early-end', { ...about, early: String(Math.ceil((dueAt - observedAt) / 1000)) }, phase.id));
    else end = reading;
  }
  return end;
}

/** Whatever voids the round: a disturbance not set aside, bubbles on the rig, a clock that jumped. */
function spoiling({ phase, log }: Context, start: Taken, end: Taken | undefined, notes: Finding[]): Finding | undefined {
  const { title } = phase;
  const until = end?.event.observedAt ?? Number.POSITIVE_INFINITY;
  const during = (event: { observedAt: number }) => event.observedAt >= start.event.observedAt && event.observedAt <= until;
  for (const disturbance of log.inRound('disturbance', phase.id).filter(during)) {
    const waiver = log.of('waived').find((event) => event.disturbance === disturbance.id && event.reason.trim() !== '');
    const about = { title, what: disturbance.what };
    if (waiver === undefined) return finding('disturbed', about, phase.id);
    if (neverWaived.includes(disturbance.what)) {
      notes.push(finding('waiver-refused', about, phase.id));
      return finding('disturbed', about, phase.id);
    }
    notes.push(finding('disturbance-waived', { ...about, reason: waiver.reason }, phase.id));
  }
  if (log.inRound('leak-seen', phase.id).some((event) => event.where === 'rig' && during(event)))
    return finding('rig-leak-seen', { title }, phase.id);
  const jump = log.inRound('clock-jump', phase.id).filter(during)[0]?.milliseconds ?? strayed(start, end);
  if (jump !== undefined) return finding('clock-jump', { title, seconds: String(Math.round(jump / 1000)) }, phase.id);
  for (const gap of log.inRound('gap', phase.id).filter(during))
    notes.push(finding('gap', { title, seconds: String(Math.round(gap.milliseconds / 1000)) }, phase.id));
  return undefined;
}

/** How far the wall clock strayed from the monotonic one, where one program wrote both readings and the device was awake. */
function strayed(start: Taken, end: Taken | undefined): number | undefined {
  if (end === undefined || end.event.boot !== start.event.boot || end.event.device !== start.event.device) return undefined;
  const by = end.event.observedAt - start.event.observedAt - (end.event.mono - start.event.mono);
  // A sleeping device's monotonic clock may stand still, which looks like a jump ahead; only the awake device can tell.
  return by < -jumpMs ? by : undefined;
}

type Moved = Pick<HoldResult, 'outcome' | 'spoilt' | 'fall' | 'findings' | 'working'>;

function movement(context: Context, start: Taken, end: Taken, dueAt: number, readings: readonly Taken[], notes: Finding[]): Moved {
  const { phase, plan } = context;
  const { criterion } = phase;
  if (criterion.kind === 'wait') return { outcome: 'settled', spoilt: false, findings: [], working: [] };
  const unit = plan.gauge.unit;
  const reaches = (value: Decimal, limit: string) => compareAcross(value, unit, decimal(limit), plan.unit) >= 0;
  const fall = subtract(start.value, end.value);
  const rise = negate(fall);
  const data = {
    title: phase.title,
    time: timeText(phase.seconds),
    start: start.event.value,
    end: end.event.value,
    unit: unitLabel(unit),
    fall: toText(fall),
    rise: toText(rise),
    threshold: criterion.threshold,
    limitUnit: unitLabel(plan.unit),
    permitted: criterion.kind === 'no-fall' ? (criterion.permitted ?? '0') : '0',
  };
  const sum = `${data.start} − ${data.end} = ${data.fall} ${data.unit}`;
  const working = [
    sum,
    `Perceptible from ${criterion.threshold} ${unitLabel(plan.unit)}: ${reaches(fall, criterion.threshold) ? 'reached by the fall' : reaches(rise, criterion.threshold) ? 'reached by the rise' : 'not reached'}`,
  ];
  const say = (outcome: string, spoilt: boolean, ...findings: readonly Finding[]): Moved => ({
    outcome,
    spoilt,
    fall: data.fall,
    findings,
    working,
  });

  if (criterion.kind === 'no-rise') {
    if (reaches(rise, criterion.threshold)) return say('rise', false, finding('let-by-rise', data, phase.id, working));
    if (reaches(fall, criterion.threshold)) return say('fall', false, finding('let-by-fall', data, phase.id, working));
    return say('steady', false, finding('let-by-steady', data, phase.id, working));
  }
  if (reaches(rise, criterion.threshold))
    return say('rise', true, finding('hold-rise', { ...data, cause: causeOfRise(context, start.event.value) }, phase.id, working));

  const lateMs = end.event.observedAt - dueAt;
  const late = lateMs > lateToleranceMs(phase.seconds);
  if (overLimit(context, fall) && late) {
    const atDue = fallAtDue(context, start, dueAt, readings);
    if (atDue === undefined)
      return say('unclear', true, finding('late-fall', { ...data, late: String(Math.round(lateMs / 1000)) }, phase.id, working));
    notes.push(finding('interpolated', { ...data, fall: toText(atDue) }, phase.id));
    return { ...say(outcomeOf(context, atDue), false), fall: toText(atDue) };
  }
  return say(outcomeOf(context, fall), false);
}

/** A warming pipe is named only where its temperatures were read; it never makes the rise count for less. */
function causeOfRise({ phase, plan, log, withdrawn }: Context, start: string): string {
  const warming = warmingOf(phase, plan, log, start, withdrawn);
  return warming !== undefined && warming.effect > 0
    ? `the pipe warmed from ${warming.start} to ${warming.end} ${warming.unit}, which alone moves the gauge by about ${warming.effect.toFixed(2)} ${unitLabel(plan.gauge.unit)}; a valve that lets by cannot be told from that`
    : 'a valve letting by, sun or a warming pipe';
}

/** A fall that can be perceived and that nothing permits. */
function overLimit({ phase: { criterion }, plan }: Context, fall: Decimal): boolean {
  if (criterion.kind !== 'no-fall') return false;
  const against = (limit: string) => compareAcross(fall, plan.gauge.unit, decimal(limit), plan.unit);
  return against(criterion.threshold) >= 0 && (criterion.permitted === undefined || against(criterion.permitted) > 0);
}

function outcomeOf(context: Context, fall: Decimal): 'tight' | 'permitted' | 'fall' {
  if (overLimit(context, fall)) return 'fall';
  const { criterion } = context.phase;
  const perceptible =
    criterion.kind === 'no-fall' && compareAcross(fall, context.plan.gauge.unit, decimal(criterion.threshold), context.plan.unit) >= 0;
  return perceptible ? 'permitted' : 'tight';
}

/**
 * Fall at the due time from readings on both sides of it within the tolerance, by straight line, rounded up to the
 * gauge's step so that rounding never helps a pass. Undefined when there are none.
 */
function fallAtDue({ phase, plan, log }: Context, start: Taken, dueAt: number, readings: readonly Taken[]): Decimal | undefined {
  const reach = lateToleranceMs(phase.seconds);
  const points: { at: number; value: Decimal }[] = readings.map(({ event, value }) => ({ at: event.observedAt, value }));
  for (const trace of log.inRound('trace', phase.id)) {
    if (trace.unit !== plan.gauge.unit) continue;
    const index = Math.floor((dueAt - trace.startAt) / trace.stepMs);
    for (const near of [index, index + 1])
      if (near >= 0 && near < trace.values.length)
        points.push({ at: trace.startAt + near * trace.stepMs, value: { digits: BigInt(trace.values[near]), scale: trace.scale } });
  }
  const before = points
    .filter(({ at }) => at <= dueAt && at >= dueAt - reach && at >= start.event.observedAt)
    .sort((a, b) => b.at - a.at)[0];
  const after = points.filter(({ at }) => at >= dueAt && at <= dueAt + reach).sort((a, b) => a.at - b.at)[0];
  if (before === undefined || after === undefined) return undefined;
  if (before.at === after.at) return subtract(start.value, before.value);
  const scale = 6;
  const from = round(before.value, scale);
  const step = subtract(round(after.value, scale), from);
  const part = { digits: (step.digits * BigInt(dueAt - before.at)) / BigInt(after.at - before.at), scale };
  return round(subtract(start.value, add(from, part)), decimal(plan.gauge.readability).scale, 'up');
}

function stoppedEarly(
  context: Context,
  start: Taken,
  readings: readonly Taken[],
  stopped: EventOf<'hold-stopped'>,
  begun: { startAt: number; dueAt: number; start: string },
  notes: readonly Finding[],
): HoldResult {
  const { phase, plan } = context;
  const last = readings.filter(({ event }) => event.observedAt >= begun.startAt).at(-1) ?? start;
  const fall = subtract(start.value, last.value);
  const data = { title: phase.title, reason: stopped.reason, fall: toText(fall), unit: unitLabel(plan.gauge.unit) };
  const over = {
    ...begun,
    endAt: stopped.observedAt,
    end: last.event.value,
    fall: data.fall,
    working: [`${begun.start} − ${last.event.value} = ${data.fall} ${data.unit}`],
  };
  return overLimit(context, fall)
    ? { ...over, outcome: 'fall', spoilt: false, findings: [...notes, finding('stopped-fall', data, phase.id)] }
    : { ...over, outcome: 'stopped', spoilt: true, findings: [...notes, finding('stopped-hold', data, phase.id)] };
}

/** The extremes of the trace between start and end, said only where they pass what was read. */
function noteTrace({ phase, plan, log }: Context, start: Taken, end: Taken, notes: Finding[]): void {
  const traces = log.inRound('trace', phase.id).filter(({ unit }) => unit === plan.gauge.unit);
  const between = traceExtremes(traces, start.event.observedAt, end.event.observedAt);
  if (between === undefined) return;
  const [least, most] = compare(start.value, end.value) <= 0 ? [start.value, end.value] : [end.value, start.value];
  if (compare(between.lowest, least) >= 0 && compare(between.highest, most) <= 0) return;
  const { lowest, highest } = between;
  const data = { title: phase.title, lowest: toText(lowest), highest: toText(highest), unit: unitLabel(plan.gauge.unit) };
  notes.push(finding('moved-meanwhile', data, phase.id));
}
