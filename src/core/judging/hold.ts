import { quantityOf } from '../planning/instruments';
import { compare, decimal, subtract, toText, unitLabel } from '../quantities';
import { contextOf, type HoldContext, judgeMovement, overLimit } from './criteria';
import { type EventOf, neverWaived } from './events';
import { compareAcross, inBand } from './exact';
import type { Log } from './log';
import { readingFault, type Taken, valueText } from './readings';
import { type Finding, finding } from './reasons';
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
  /** Fall, positive downwards, in the instrument's unit. */
  readonly fall?: string;
  /** The fall that temperature and barometer leave, where they were read. */
  readonly corrected?: string;
  /** Numbers for a conclusion's sentence, once it is over. */
  readonly data?: Readonly<Record<string, string>>;
  readonly findings: readonly Finding[];
  readonly working: readonly string[];
}

/** A wall clock that strays from the monotonic one by more than this has jumped. */
const jumpMs = 2000;

/** Judges one round of a hold. Pure; knows no clock. */
export function judgeHold(base: Omit<HoldContext, 'instrument' | 'unit'>): HoldResult {
  const context = contextOf(base);
  const { phase, log } = context;
  const notes: Finding[] = [];
  const readings = usable(context, notes);
  const start = findStart(context, readings, notes);
  if (start === undefined) return unreached(context, notes) ?? { spoilt: false, findings: notes, working: [] };

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
  const { notes: said, findings, ...moved } = judgeMovement(context, phase.criterion, { start, end, dueAt, readings });
  const over = { endAt: end.event.observedAt, end: end.event.value };
  return { ...begun, ...over, ...moved, findings: [...notes, ...said, ...findings] };
}

/** A pressure that cannot be raised, or falls as fast as it is fed, fails the phase without a start (DOMAIN 4.14). */
function unreached({ phase, log }: HoldContext, notes: readonly Finding[]): HoldResult | undefined {
  const event = log.inRound('not-reached', phase.id)[0];
  if (event === undefined) return undefined;
  const data = { title: phase.title, low: phase.band.low, text: event.text };
  return { outcome: 'not-reached', spoilt: false, endAt: event.observedAt, findings: notes, working: [], data };
}

/** Readings of this round that this gauge can have shown, in the order in which they were taken. */
function usable({ phase, log, withdrawn, instrument }: HoldContext, notes: Finding[]): readonly Taken[] {
  const taken: Taken[] = [];
  const quantity = quantityOf(instrument.unit);
  for (const event of log.inRound('reading', phase.id)) {
    if (event.quantity !== quantity || withdrawn.has(event.id)) continue;
    const why = readingFault(instrument, event.value, event.unit);
    if (why === undefined) taken.push({ event, value: decimal(event.value) });
    else notes.push(finding('reading-refused', { ...valueText(event), title: phase.title, why }, phase.id));
  }
  return taken.sort((a, b) => a.event.observedAt - b.event.observedAt);
}

function findStart({ phase, openFrom, instrument, unit }: HoldContext, readings: readonly Taken[], notes: Finding[]): Taken | undefined {
  const { low, high } = phase.band;
  let start: Taken | undefined;
  for (const reading of readings.filter(({ event }) => event.role === 'start')) {
    const about = { ...valueText(reading.event), title: phase.title, low, high, limitUnit: unitLabel(unit), ceiling: phase.ceiling ?? '' };
    if (start !== undefined) notes.push(finding('second-start', about, phase.id));
    else if (reading.event.observedAt < openFrom) notes.push(finding('start-too-soon', about, phase.id));
    else if (phase.ceiling !== undefined && compareAcross(reading.value, instrument.unit, decimal(phase.ceiling), unit) > 0)
      notes.push(finding('over-ceiling', about, phase.id));
    else if (!inBand(reading.value, instrument.unit, low, high, unit)) notes.push(finding('start-out-of-band', about, phase.id));
    else start = reading;
  }
  return start;
}

function findEnd({ phase }: HoldContext, readings: readonly Taken[], start: Taken, dueAt: number, notes: Finding[]): Taken | undefined {
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
function spoiling({ phase, log }: HoldContext, start: Taken, end: Taken | undefined, notes: Finding[]): Finding | undefined {
  const until = end?.event.observedAt ?? Number.POSITIVE_INFINITY;
  const during = (event: { observedAt: number }) => event.observedAt >= start.event.observedAt && event.observedAt <= until;
  const disturbed = disturbance(log, phase, during, notes);
  if (disturbed !== undefined) return disturbed;
  const { title } = phase;
  const jump = log.inRound('clock-jump', phase.id).filter(during)[0]?.milliseconds ?? strayed(start, end);
  if (jump !== undefined) return finding('clock-jump', { title, seconds: String(Math.round(jump / 1000)) }, phase.id);
  for (const gap of log.inRound('gap', phase.id).filter(during))
    notes.push(finding('gap', { title, seconds: String(Math.round(gap.milliseconds / 1000)) }, phase.id));
  return undefined;
}

/** A disturbance that nobody may set aside, or nobody has; or bubbles on the rig (DOMAIN 4.9, 4.12). */
export function disturbance(
  log: Log,
  { id, title }: { readonly id: string; readonly title: string },
  during: (event: { readonly observedAt: number }) => boolean,
  notes: Finding[],
): Finding | undefined {
  for (const event of log.inRound('disturbance', id).filter(during)) {
    const waiver = log.of('waived').find((one) => one.disturbance === event.id && one.reason.trim() !== '');
    const about = { title, what: event.what };
    if (waiver === undefined) return finding('disturbed', about, id);
    if (neverWaived.includes(event.what)) {
      notes.push(finding('waiver-refused', about, id));
      return finding('disturbed', about, id);
    }
    notes.push(finding('disturbance-waived', { ...about, reason: waiver.reason }, id));
  }
  return log.inRound('leak-seen', id).some((event) => event.where === 'rig' && during(event))
    ? finding('rig-leak-seen', { title }, id)
    : undefined;
}

/** How far the wall clock strayed from the monotonic one, where one program wrote both readings and the device was awake. */
function strayed(start: Taken, end: Taken | undefined): number | undefined {
  if (end === undefined || end.event.boot !== start.event.boot || end.event.device !== start.event.device) return undefined;
  const by = end.event.observedAt - start.event.observedAt - (end.event.mono - start.event.mono);
  // A sleeping device's monotonic clock may stand still, which looks like a jump ahead; only the awake device can tell.
  return by < -jumpMs ? by : undefined;
}

function stoppedEarly(
  context: HoldContext,
  start: Taken,
  readings: readonly Taken[],
  stopped: EventOf<'hold-stopped'>,
  begun: { startAt: number; dueAt: number; start: string },
  notes: readonly Finding[],
): HoldResult {
  const { phase, instrument } = context;
  const last = readings.filter(({ event }) => event.observedAt >= begun.startAt).at(-1) ?? start;
  const fall = subtract(start.value, last.value);
  const data = { title: phase.title, reason: stopped.reason, fall: toText(fall), unit: unitLabel(instrument.unit) };
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
function noteTrace({ phase, log, instrument }: HoldContext, start: Taken, end: Taken, notes: Finding[]): void {
  const traces = log.inRound('trace', phase.id).filter(({ unit }) => unit === instrument.unit);
  const between = traceExtremes(traces, start.event.observedAt, end.event.observedAt);
  if (between === undefined) return;
  const [least, most] = compare(start.value, end.value) <= 0 ? [start.value, end.value] : [end.value, start.value];
  if (compare(between.lowest, least) >= 0 && compare(between.highest, most) <= 0) return;
  const { lowest, highest } = between;
  const data = { title: phase.title, lowest: toText(lowest), highest: toText(highest), unit: unitLabel(instrument.unit) };
  notes.push(finding('moved-meanwhile', data, phase.id));
}
