import { instrumentOf, unitOfHold } from '../course/instruments';
import { fieldsAt, type HoldPhase } from '../course/phases';
import {
  type Condition,
  type HeldBefore,
  type HoldFacts,
  lateToleranceMs,
  type Measured,
  type MeasureFacts,
  type PointValue,
  type Sample,
  type Samples,
  type Stood,
  stoodBetween,
} from '../limits';
import { add, compare, type Decimal, decimal, type InstrumentUnit, readDecimal, round, subtract, unitKind } from '../quantities';
import { type EventOf, localDate, type RunEvent } from './events';
import type { Around, OpenAs } from './open';
import { Readings, type Taken } from './readings';

/** What was read in a hold's round beside its start and end, in the log's order. */
export interface Read {
  readonly readings: Readings;
  readonly traces: EventOf<'trace'>[];
  readonly conditions: EventOf<'reading'>[];
  readonly volumes: EventOf<'reading'>[];
  /** Ids of those that were withdrawn. */
  readonly gone: Set<string>;
  readonly declined: Set<'temperature' | 'barometer'>;
}

export const nothingRead = (scale: number, log: readonly RunEvent[]): Read => ({
  readings: new Readings(scale, log),
  traces: [],
  conditions: [],
  volumes: [],
  gone: new Set(),
  declined: new Set(),
});

/** A condition belongs to an end of a hold that it was read within so long of: 2 min, or 5 % of the hold (DOMAIN 4.6). */
export const conditionWindowMs = (seconds: number): number => Math.max(120_000, seconds * 50);

const kinds = { temperature: 'temperature', barometer: 'pressure' } as const;

/** The first reading of a condition that belongs to one end of a hold. */
function conditionAt({ conditions, gone }: Read, what: 'temperature' | 'barometer', role: 'start' | 'end', at: number, seconds: number) {
  return conditions.find(
    (event) =>
      event.quantity === what &&
      event.role === role &&
      !gone.has(event.id) &&
      readDecimal(event.value) !== undefined &&
      unitKind(event.unit) === kinds[what] &&
      Math.abs(event.observedAt - at) <= conditionWindowMs(seconds),
  );
}

/** What still belongs to a hold's end: what was read at its start, unless it was declined. */
export function owedBy({ seconds, corrects }: HoldPhase, read: Read, start: Taken, end: Taken): readonly ('temperature' | 'barometer')[] {
  if (corrects === undefined) return [];
  return (['temperature', 'barometer'] as const).filter(
    (what) =>
      !read.declined.has(what) &&
      conditionAt(read, what, 'start', start.event.observedAt, seconds) !== undefined &&
      conditionAt(read, what, 'end', end.event.observedAt, seconds) === undefined,
  );
}

const conditionOf = ({ value, unit }: EventOf<'reading'>): Condition => ({ value, unit });

/** What a hold's limit judges, made of its round. */
export function holdFacts(around: Around, open: OpenAs<'ended'>): HoldFacts {
  const { phase, read, start, end, dueAt } = open;
  const { plan } = around;
  const instrument = instrumentOf(plan, phase.instrument);
  const [from, to] = [start.event.observedAt, end.event.observedAt];
  const samples = read.readings.samples(start, end, read.gone);
  const { traces } = read;
  const known = new Map<string, Stood>();
  const stood: HoldFacts['stood'] = (until) => {
    const key = String(Math.min(until, to));
    const there = known.get(key) ?? stoodBetween(from, Math.min(until, to), samples, traces);
    known.set(key, there);
    return there;
  };
  const pair = (what: 'temperature' | 'barometer') => {
    const [first, last] = [conditionAt(read, what, 'start', from, phase.seconds), conditionAt(read, what, 'end', to, phase.seconds)];
    if (first === undefined || last === undefined) return undefined;
    const named = what === 'temperature' ? plan.weather?.thermometer : plan.weather?.barometer;
    const overdue =
      named?.calibration.needed === true &&
      [first, last].some((event) => named.calibration.needed && named.calibration.due < localDate(event));
    return { start: conditionOf(first), end: conditionOf(last), ...(overdue ? { overdue } : {}) };
  };
  const step = decimal(instrument.readability);
  const letBy = phase.valve?.map(around.closed).findLast((one) => one !== undefined);
  const letByFacts = letBy?.outcome === 'fall' ? letBy.facts : undefined;
  return {
    title: phase.title,
    seconds: phase.seconds,
    unit: instrument.unit,
    step,
    limitUnit: unitOfHold(plan, phase),
    start: { at: from, value: start.value },
    end: { at: to, value: end.value },
    dueAt,
    round: open.round,
    stopped: open.stopped !== undefined,
    stood,
    atDue: to > dueAt ? atDue(phase.seconds, dueAt, samples, traces, step) : undefined,
    conditions: {
      pipe: pair('temperature'),
      air: pair('barometer'),
      meanwhile: read.conditions
        .filter(
          ({ id, quantity, role, value, unit, observedAt }) =>
            quantity === 'temperature' &&
            role === 'between' &&
            !read.gone.has(id) &&
            observedAt > from &&
            observedAt < to &&
            readDecimal(value) !== undefined &&
            unitKind(unit) === 'temperature',
        )
        .sort((a, b) => a.observedAt - b.observedAt)
        .map((event) => ({ at: event.observedAt, reading: conditionOf(event) })),
    },
    corrects: phase.corrects,
    letBy:
      letByFacts === undefined || letByFacts.unit !== instrument.unit
        ? undefined
        : {
            fall: subtract(letByFacts.start.value, letByFacts.end.value),
            seconds: (letByFacts.end.at - letByFacts.start.at) / 1000,
          },
    pumped: pumpedIn(read),
    pumpedUnmeasured: () => unmeasuredRise(read, samples, traces, step, () => stood(to)),
    risesFurther: phase.afterRise !== undefined,
  };
}

const counted = (read: Read): readonly EventOf<'reading'>[] =>
  read.volumes.filter(({ id, value, unit }) => !read.gone.has(id) && readDecimal(value) !== undefined && unitKind(unit) === 'volume');

const pumpedIn = (read: Read): HoldFacts['pumped'] =>
  counted(read).map(({ value, unit }) => ({ value: decimal(value), unit: unit as InstrumentUnit }));

/** Whether the pressure rose between two readings and no water was written down between them. */
function unmeasuredRise(
  read: Read,
  samples: Samples,
  traces: readonly EventOf<'trace'>[],
  step: Decimal,
  throughout: () => Stood,
): boolean {
  const volumes = counted(read).map(({ observedAt }) => observedAt);
  const two = add(step, step);
  let from = 0;
  const { at, steps, scale } = samples;
  for (let index = 1; index < at.length; index += 1) {
    if (traces.length === 0 && steps[index] <= steps[index - 1]) continue;
    const pair = { at: [at[index - 1], at[index]], steps: [steps[index - 1], steps[index]], scale };
    // Where nothing was read between start and end, how it stood is known already.
    const { rise } = at.length === 2 ? throughout() : stoodBetween(at[index - 1], at[index], pair, traces);
    if (compare(rise, two) <= 0) continue;
    // Water is written down after the low reading that it makes up for; one entry does not stand for two rises.
    const next = volumes.findIndex((when, place) => place >= from && when >= at[index - 1]);
    if (next < 0) return true;
    from = next + 1;
  }
  return false;
}

/**
 * What it read at the due time, from readings on both sides of it within the tolerance, by straight line, rounded down to the
 * gauge's step so that rounding never helps a pass. Undefined when there are none.
 */
function atDue(seconds: number, dueAt: number, samples: Samples, traces: readonly EventOf<'trace'>[], step: Decimal): Decimal | undefined {
  const reach = lateToleranceMs(seconds);
  const points: Sample[] = [];
  for (let index = 0; index < samples.at.length; index += 1) {
    const at = samples.at[index];
    if (Math.abs(at - dueAt) <= reach) points.push({ at, value: { digits: BigInt(samples.steps[index]), scale: samples.scale } });
  }
  for (const { startAt, stepMs, values, scale } of traces) {
    const index = Math.floor((dueAt - startAt) / stepMs);
    for (const near of [index, index + 1])
      if (near >= 0 && near < values.length) points.push({ at: startAt + near * stepMs, value: { digits: BigInt(values[near]), scale } });
  }
  const before = points.filter(({ at }) => at <= dueAt && at >= dueAt - reach).sort((a, b) => b.at - a.at)[0];
  const after = points.filter(({ at }) => at >= dueAt && at <= dueAt + reach).sort((a, b) => a.at - b.at)[0];
  if (before === undefined || after === undefined) return undefined;
  if (before.at === after.at) return before.value;
  const scale = 6;
  const from = round(before.value, scale);
  const span = subtract(round(after.value, scale), from);
  const part = { digits: (span.digits * BigInt(dueAt - before.at)) / BigInt(after.at - before.at), scale };
  return round(add(from, part), step.scale, 'down');
}

/** What a measuring phase's limit judges. */
export function measureFacts(around: Around, open: OpenAs<'measuring'>): MeasureFacts {
  const { phase, values } = open;
  const { plan } = around;
  const points = phase.points.map((point): Measured => {
    const there = values.get(point.id);
    return {
      id: point.id,
      label: point.label,
      values: new Map(
        fieldsAt(phase, point).flatMap(({ quantity, instrument: role }): [typeof quantity, PointValue][] => {
          const event = there?.get(quantity);
          if (event === undefined) return [];
          const instrument = instrumentOf(plan, role);
          return [
            [
              quantity,
              {
                value: decimal(event.value),
                unit: event.unit as InstrumentUnit,
                step: instrument.readability,
                least: instrument.rangeLow,
                belowRange: event.qualifier === 'below range',
              },
            ],
          ];
        }),
      ),
    };
  });
  const hold = (id: string): HeldBefore | undefined => {
    const facts = around.closed(id)?.facts;
    return facts === undefined
      ? undefined
      : { start: facts.start.value, lowest: facts.stood(facts.end.at).lowest, unit: facts.unit, step: facts.step, pumped: facts.pumped };
  };
  return { title: phase.title, points, hold, planUnit: plan.unit };
}
