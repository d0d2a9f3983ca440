import { instrumentOf, quantityOf, unitOfHold } from '../course/instruments';
import { answersTo, fieldsAt } from '../course/phases';
import { compareAcross, judgeMeasured } from '../limits';
import { absolute, compare, decimal, type ReadQuantity, toText, unitLabel } from '../quantities';
import type { Instrument } from '../sizing/gauge';
import { type EventOf, type EventType, neverWaived } from './events';
import { measureFacts, owedBy } from './facts';
import { type Around, closeHold, closing, type Open, type OpenAs, pointStates, readBetween, type Step, says, wholePoints } from './open';
import { readingFault, type Taken, unreadFault, valueText } from './readings';
import { find } from './sayings';
import { mayStart, readBefore } from './starts';

/*
 * Each state of an open phase says which events it hears and what they make of it: a handler gets the state and the event and
 * answers with the next state or a closed phase. What it has no handler for cannot happen.
 */

type Hears = {
  readonly [S in Open['is']]: { readonly [T in EventType]?: (open: OpenAs<S>, event: EventOf<T>, around: Around) => Step };
};

const disturb = (open: Open, event: EventOf<'disturbance'>): Step => {
  open.spoiling.push({
    id: event.id,
    finding: find('disturbed', { title: open.phase.title, what: event.what }, open.phase.id),
    waivable: !neverWaived.includes(event.what),
    drawn: event.what === 'water drawn' || event.what === 'gas used',
  });
  return { open };
};

const waive = (open: Open, event: EventOf<'waived'>): Step => {
  const index = open.spoiling.findIndex(({ id }) => id === event.disturbance);
  const one = open.spoiling[index];
  if (one === undefined || event.reason.trim() === '') return { open };
  const about = { what: one.finding.data.what ?? '', reason: event.reason };
  if (!one.waivable) open.notes.push(find('waiver-refused', about, open.phase.id));
  else {
    open.spoiling.splice(index, 1);
    open.notes.push(find('disturbance-waived', about, open.phase.id));
  }
  return { open };
};

const rigLeak = (open: Open, event: EventOf<'leak-seen'>): Step => {
  if (event.where === 'rig')
    open.spoiling.push({
      id: event.id,
      finding: find('rig-leak-seen', { title: open.phase.title }, open.phase.id),
      waivable: false,
      drawn: false,
    });
  return { open };
};

const jump = (open: Open, event: EventOf<'clock-jump'>): Step => {
  open.spoiling.push({
    id: event.id,
    finding: find('clock-jump', { title: open.phase.title, seconds: String(Math.round(event.milliseconds / 1000)) }, open.phase.id),
    waivable: false,
    drawn: false,
  });
  return { open };
};

const gap = (open: Open, event: EventOf<'gap'>): Step => {
  open.notes.push(find('gap', { title: open.phase.title, seconds: String(Math.round(event.milliseconds / 1000)) }, open.phase.id));
  return { open };
};

const spoils = { disturbance: disturb, waived: waive } as const;
const spoilsHold = { ...spoils, 'leak-seen': rigLeak, 'clock-jump': jump, gap } as const;

/** A reading of a hold on its own instrument; refused ones are noted. */
function taken(open: Open, event: EventOf<'reading'>, instrument: Instrument): Taken | undefined {
  const why = readingFault(instrument, event);
  if (why === undefined) return { event, value: decimal(event.value) };
  open.notes.push(find('reading-refused', { ...valueText(event), title: open.phase.title, why }, open.phase.id));
  return undefined;
}

const conditions = ['temperature', 'barometer'] as const;
const isCondition = (quantity: ReadQuantity): quantity is 'temperature' | 'barometer' =>
  (conditions as readonly ReadQuantity[]).includes(quantity);

/** What a hold takes in beside its start and end. Answers whether the event was one of these. */
function aside(open: OpenAs<'unstarted' | 'running' | 'ended'>, event: EventOf<'reading'>): boolean {
  const { read, phase, notes } = open;
  const into = isCondition(event.quantity)
    ? read.conditions
    : event.quantity === 'volume' && event.role === 'between'
      ? read.volumes
      : undefined;
  if (into === undefined) return false;
  const why = unreadFault(event);
  if (why === undefined) into.push(event);
  else notes.push(find('reading-refused', { ...valueText(event), title: phase.title, why }, phase.id));
  return true;
}

/** One in another unit than the gauge's is another instrument's: refused, and said once however many pieces it comes in. */
const trace = (open: OpenAs<'unstarted' | 'running' | 'ended'>, event: EventOf<'trace'>, { plan }: Around): Step => {
  const { phase, read, notes } = open;
  const { unit } = instrumentOf(plan, phase.instrument);
  if (event.unit === unit) read.traces.push(event);
  else if (!notes.some(({ code }) => code === 'trace-refused'))
    notes.push(find('trace-refused', { title: phase.title, unit: unitLabel(event.unit), own: unitLabel(unit) }, phase.id));
  return { open };
};

/** A reading may be withdrawn with a reason while its phase is open; both stay in the log (DOMAIN 4.16). */
const withdrawn = (open: OpenAs<'unstarted' | 'running' | 'ended'>, event: EventOf<'withdrawn'>, around: Around): Step => {
  const reading = around.reading(event.reading);
  if (reading === undefined || event.reason.trim() === '') return { open };
  open.read.gone.add(reading.id);
  open.notes.push(find('reading-withdrawn', { ...valueText(reading), reason: event.reason }, open.phase.id));
  if (open.is !== 'unstarted' && open.start.event.id === reading.id) {
    const { phase, round, notes, spoiling, read } = open;
    return { open: { is: 'unstarted', phase, round, notes, spoiling, read, openFrom: Number.NEGATIVE_INFINITY } };
  }
  if (open.is === 'ended' && open.end.event.id === reading.id) {
    const { phase, round, notes, spoiling, read, start, dueAt } = open;
    return { open: { is: 'running', phase, round, notes, spoiling, read, start, dueAt } };
  }
  return open.is === 'ended' ? settled(open, around) : { open };
};

/** The hold's end has its outcome when what belongs to it is in, declined or past its time (DOMAIN 4.19). */
function settled(open: OpenAs<'ended'>, around: Around): Step {
  return owedBy(open.phase, open.read, open.start, open.end).length > 0 ? { open } : { closed: closeHold(open, around) };
}

function started(open: OpenAs<'unstarted'>, event: EventOf<'reading'>, around: Around): Step {
  const { phase, round, notes, spoiling, read } = open;
  const { plan } = around;
  const instrument = instrumentOf(plan, phase.instrument);
  const reading = taken(open, event, instrument);
  if (reading === undefined) return { open };
  const unit = unitOfHold(plan, phase);
  const { low, high } = phase.band;
  const about = { ...valueText(event), title: phase.title, low, high, limitUnit: unitLabel(unit), ceiling: phase.ceiling ?? '' };
  const refuse = (code: 'start-too-soon' | 'over-ceiling' | 'start-out-of-band'): Step => {
    notes.push(find(code, about, phase.id));
    return { open };
  };
  if (event.observedAt < open.openFrom) return refuse('start-too-soon');
  const isOver = (limit: string) => compareAcross(reading.value, instrument.unit, decimal(limit), unit) > 0;
  if (phase.ceiling !== undefined && isOver(phase.ceiling))
    return refuse(phase.rating === undefined || isOver(phase.rating) ? 'over-ceiling' : 'start-out-of-band');
  const before = readBefore(plan, phase, (id) => around.closed(id)?.came);
  if (!mayStart(plan, phase, before, reading.value)) {
    if (phase.under === undefined || before === undefined) return refuse('start-out-of-band');
    const { least, most, percent } = phase.under;
    const boundUnit = percent === true ? '%' : unitLabel(unit);
    notes.push(find('start-not-under', { ...about, least, most, limitUnit: boundUnit, read: toText(before.value) }, phase.id));
    return { open };
  }
  const dueAt = event.observedAt + phase.seconds * 1000;
  read.readings.take(around.place(), reading);
  const running: OpenAs<'running'> = { is: 'running', phase, round, notes, spoiling, read, start: reading, dueAt };
  if (phase.limit.kind !== 'wait') return { open: running };
  // A settling is over with its time; nobody reads its end.
  return closing(
    running,
    { of: 'hold', startAt: event.observedAt, dueAt, start: event.value, data: says({ title: phase.title }) },
    'settled',
    'leads on',
  );
}

function notReached(open: OpenAs<'unstarted' | 'measuring'>, event: EventOf<'not-reached'>): Step {
  return closing(open, { of: 'not-reached', endAt: event.observedAt }, 'not-reached', 'fails', {
    data: says({ title: open.phase.title, text: event.text }),
  });
}

const hears: Hears = {
  ticking: {
    check: (open, event) => {
      const item = open.phase.items.find(({ id }) => id === event.item);
      if (item === undefined) return { open };
      const text = event.text?.trim() ?? '';
      // "Not proved" is said of a boundary; of any other step it says that it is not done.
      const answered =
        event.state === 'not-applicable'
          ? item.mayNotApply && text !== ''
          : answersTo(item).some((state) => state === event.state) && (item.write === undefined || text !== '');
      if (!answered) open.items.delete(item.id);
      else open.items.set(item.id, { id: item.id, state: event.state, text: text === '' ? undefined : text });
      return { open };
    },
  },
  looking: {
    ...spoils,
    observation: (open, event) => {
      const option = open.phase.options.find(({ id }) => id === event.option);
      if (option === undefined) return { open };
      return closing(open, { of: 'look' }, option.id, option.spoils === true ? 'spoils' : 'leads on');
    },
  },
  zeroing: {
    reading: (open, event, { plan }) => {
      const instrument = instrumentOf(plan, open.phase.instrument);
      if (event.role !== 'zero' || event.quantity !== quantityOf(instrument.unit)) return { open };
      const reading = taken(open, event, instrument);
      if (reading === undefined) return { open };
      if (compare(absolute(reading.value), decimal(open.phase.below)) < 0)
        return closing(open, { of: 'zero', shown: event.value }, 'zeroed', 'leads on');
      open.shown = event;
      return { open };
    },
    withdrawn: (open, event) => {
      if (open.shown?.id !== event.reading || event.reason.trim() === '') return { open };
      open.notes.push(find('reading-withdrawn', { ...valueText(open.shown), reason: event.reason }, open.phase.id));
      open.shown = undefined;
      return { open };
    },
  },
  unstarted: {
    reading: (open, event, around) => {
      if (aside(open, event)) return { open };
      const instrument = instrumentOf(around.plan, open.phase.instrument);
      if (event.quantity !== quantityOf(instrument.unit)) return { open };
      if (event.role === 'start') return started(open, event, around);
      // Read while it is raised: known, and no part of a hold that has not begun.
      const reading = taken(open, event, instrument);
      if (reading !== undefined) {
        if (event.role === 'end') open.notes.push(find('reading-order', { ...valueText(event), title: open.phase.title }, open.phase.id));
        open.read.readings.take(around.place(), reading);
      }
      return { open };
    },
    trace,
    withdrawn,
    'not-reached': notReached,
  },
  running: {
    ...spoilsHold,
    reading: (open, event, around) => {
      if (aside(open, event)) return { open };
      const { phase, round, notes, spoiling, read, start, dueAt } = open;
      const instrument = instrumentOf(around.plan, phase.instrument);
      if (event.quantity !== quantityOf(instrument.unit)) return { open };
      const reading = taken(open, event, instrument);
      if (reading === undefined) return { open };
      const about = { ...valueText(event), title: phase.title };
      if (event.role === 'start') {
        notes.push(find('second-start', about, phase.id));
        return { open };
      }
      if (event.observedAt < start.event.observedAt) {
        notes.push(find('reading-order', about, phase.id));
        return { open };
      }
      read.readings.take(around.place(), reading);
      if (event.role !== 'end') return { open };
      if (event.observedAt < dueAt) {
        notes.push(find('early-end', { ...about, early: String(Math.ceil((dueAt - event.observedAt) / 1000)) }, phase.id));
        return { open };
      }
      return settled({ is: 'ended', phase, round, notes, spoiling, read, start, dueAt, end: reading }, around);
    },
    trace,
    withdrawn,
    'hold-stopped': ({ phase, round, notes, spoiling, read, start, dueAt }, event, around) => {
      const last = read.readings.lastFrom(start.event.observedAt, read.gone);
      // Where nothing was read since, its start is all that there is.
      const end = last === undefined || last.event === start.event ? start : last;
      return settled({ is: 'ended', phase, round, notes, spoiling, read, start, dueAt, end, stopped: event.reason }, around);
    },
  },
  ended: {
    ...spoilsHold,
    reading: (open, event, around) => {
      if (aside(open, event)) return settled(open, around);
      const about = { ...valueText(event), title: open.phase.title };
      if (event.role === 'start') open.notes.push(find('second-start', about, open.phase.id));
      else if (event.role === 'end') open.notes.push(find('second-end', about, open.phase.id));
      return { open };
    },
    trace,
    withdrawn,
    declined: (open, event, around) => {
      open.read.declined.add(event.what);
      return settled(open, around);
    },
  },
  measuring: {
    ...spoils,
    'leak-seen': rigLeak,
    'clock-jump': jump,
    reading: (open, event, around) => {
      const { phase, values, notes } = open;
      const point = phase.points.find(({ id }) => id === (event.point ?? phase.points[0].id));
      const field = point === undefined ? undefined : fieldsAt(phase, point).find(({ quantity }) => quantity === event.quantity);
      if (point === undefined || field === undefined) return { open };
      const instrument = instrumentOf(around.plan, field.instrument);
      const about = { ...valueText(event), title: phase.title };
      const why = event.role === 'point' ? readingFault(instrument, event) : 'it was not read as a point’s figure';
      const there = values.get(point.id) ?? new Map<ReadQuantity, EventOf<'reading'>>();
      if (why !== undefined) notes.push(find('reading-refused', { ...about, why }, phase.id));
      else if (event.observedAt < open.openFrom) notes.push(find('start-too-soon', about, phase.id));
      else if (there.has(event.quantity)) notes.push(find('second-point', about, phase.id));
      else values.set(point.id, there.set(event.quantity, event));
      return measured(open, around);
    },
    withdrawn: (open, event) => {
      for (const there of open.values.values())
        for (const [quantity, reading] of there)
          if (reading.id === event.reading && event.reason.trim() !== '') {
            there.delete(quantity);
            open.notes.push(find('reading-withdrawn', { ...valueText(reading), reason: event.reason }, open.phase.id));
          }
      return { open };
    },
    'not-reached': notReached,
  },
};

function measured(open: OpenAs<'measuring'>, around: Around): Step {
  const { phase } = open;
  if (open.values.size < phase.points.length || wholePoints(open).length < phase.points.length) return { open };
  const times = readBetween(open);
  if (times === undefined) return { open };
  const verdict = judgeMeasured(phase.limit, measureFacts(around, open));
  return closing(
    open,
    { of: 'points', points: pointStates(open), startAt: times[0], endAt: times[1], data: verdict.data },
    verdict.outcome,
    verdict.effect,
    { data: verdict.data, findings: verdict.findings.map((one) => ({ ...one, phase: phase.id })) },
  );
}

/** What the open phase makes of an event; undefined where it does not hear it. */
export function hear<E extends EventOf<EventType>>(open: Open, event: E, around: Around): Step | undefined {
  const handler = hears[open.is][event.type] as ((open: Open, event: E, around: Around) => Step) | undefined;
  return handler?.(open, event, around);
}
