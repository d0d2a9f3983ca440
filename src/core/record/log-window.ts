import { instrumentOf } from '../course/instruments';
import type { HoldPhase } from '../course/phases';
import type { Body } from '../judging/events';
import type { Plan } from '../planning/plan';
import { type Decimal, type PressureUnit, type TemperatureUnit, toText } from '../quantities';
import type { GaugeLog, LogChannel } from './gauge-log';

/** Rows of a log that a hold is read from: its start, and the first at or after its time. */
export interface LogWindow {
  readonly start: number;
  readonly end: number;
}

const valueAt = ({ values, scale }: GaugeLog, row: number): Decimal => ({ digits: BigInt(values[row]), scale });

/** A break that a hold cannot be read across: times ran backwards there. */
const jumps = ({ breaks }: GaugeLog): readonly number[] => breaks.filter(({ kind }) => kind === 'jump back').map(({ row }) => row);

/** The end for a start: the first row when the hold's time has passed; none where the file ends or its clock jumps before. */
export function endFor(log: GaugeLog, { seconds }: HoldPhase, start: number): number | undefined {
  const due = log.times[start] + seconds * 1000;
  const wall = jumps(log).find((row) => row >= start) ?? log.times.length - 1;
  // Times rise up to the next jump, so the row is found by halving.
  let [low, high] = [start, wall + 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (log.times[middle] >= due) high = middle;
    else low = middle + 1;
  }
  return low <= wall ? low : undefined;
}

/**
 * The first row from `from` on that may begin the hold and has its whole time after it.
 * @param begins whether a figure in the log's unit may begin it, as things stand
 */
export function firstWindow(log: GaugeLog, phase: HoldPhase, begins: (value: Decimal) => boolean, from = 0): LogWindow | undefined {
  for (let start = from; start < log.times.length; start += 1) {
    if (!begins(valueAt(log, start))) continue;
    const end = endFor(log, phase, start);
    if (end !== undefined) return { start, end };
    // Nothing later in this stretch has the time either.
    const wall = jumps(log).find((row) => row >= start);
    if (wall === undefined) return undefined;
    start = wall;
  }
  return undefined;
}

/** Why a log cannot be this hold's, in words; undefined where it can. */
export function logFault(log: GaugeLog, plan: Plan, phase: HoldPhase): string | undefined {
  const instrument = instrumentOf(plan, phase.instrument);
  if (log.unit !== instrument.unit)
    return `The plan’s gauge shows ${instrument.unit}, this file is in ${log.unit}. Choose its file, or plan the test with the gauge that logged it.`;
  return undefined;
}

export const rowText = (log: GaugeLog, row: number): string => toText(valueAt(log, row));

/** Most samples of a hold that are kept. */
const mostSamples = 100_000;

/** Of how many rows of a window one is kept: of a longer one the row furthest from the start, so that none looks stiller than it was. */
export const rowsKeptOf = ({ start, end }: LogWindow): number => Math.max(1, Math.ceil((end - start + 1) / mostSamples));

/** The value furthest from that at `start` in these rows. */
function furthest({ values }: GaugeLog, start: number, from: number, to: number): number {
  let far = values[from];
  for (let row = from + 1; row <= to; row += 1)
    if (Math.abs(values[row] - values[start]) > Math.abs(far - values[start])) far = values[row];
  return far;
}

/** The window as events: the start, the trace in chunks that break where the file does, and the end; each with its time. */
export function logEvents(
  log: GaugeLog,
  plan: Plan,
  phase: HoldPhase,
  round: number,
  { start, end }: LogWindow,
): readonly { readonly at: number; readonly body: Body }[] {
  const { unit } = instrumentOf(plan, phase.instrument);
  const reading = (role: 'start' | 'end', row: number) => {
    const value = rowText(log, row);
    const body: Body = {
      type: 'reading',
      phase: phase.id,
      round,
      role,
      quantity: 'pressure',
      value,
      unit,
      typed: value,
      source: 'logging gauge',
    };
    return { at: log.times[row], body };
  };
  const every = rowsKeptOf({ start, end });
  const stepMs = Math.max(1, Math.round(log.stepMs * every));
  const traces: { at: number; body: Body }[] = [];
  let values: number[] = [];
  let from = log.times[start];
  const close = () => {
    if (values.length > 0)
      traces.push({
        at: from,
        body: {
          type: 'trace',
          phase: phase.id,
          round,
          startAt: from,
          stepMs,
          unit: log.unit,
          scale: log.scale,
          values,
          source: 'logging gauge',
        },
      });
    values = [];
  };
  for (let row = start; row <= end; row += every) {
    const expected = from + values.length * stepMs;
    // A chunk says one step for all its samples: where the file strays from it a new one begins.
    if (values.length === 600 || (values.length > 0 && Math.abs(log.times[row] - expected) > stepMs / 2)) close();
    if (values.length === 0) from = log.times[row];
    values.push(furthest(log, start, row, Math.min(row + every - 1, end)));
  }
  close();
  // What belongs to an end is there before it is read: nobody is asked for it afterwards.
  return [
    reading('start', start),
    ...traces,
    ...weatherIn(log, phase, round, { start, end }),
    ...(phase.limit.kind === 'wait' ? [] : [reading('end', end)]),
  ];
}

/** So many temperatures between the ends are kept: enough to say how it went. */
const mostBetween = 24;

/** The pipe's temperature at both ends and in between, and the barometer at both ends, where the file has them and the hold corrects for them. */
function weatherIn(
  log: GaugeLog,
  phase: HoldPhase,
  round: number,
  { start, end }: LogWindow,
): readonly { readonly at: number; readonly body: Body }[] {
  if (phase.corrects === undefined) return [];
  const written = (
    channel: LogChannel<TemperatureUnit> | LogChannel<PressureUnit> | undefined,
    quantity: 'temperature' | 'barometer',
    role: 'start' | 'between' | 'end',
    rows: readonly number[],
  ) => {
    const row = channel === undefined ? undefined : rows.find((one) => Number.isFinite(channel.values[one]));
    if (channel === undefined || row === undefined) return [];
    const value = channel.values[row].toFixed(channel.scale);
    const { unit } = channel;
    const body: Body = { type: 'reading', phase: phase.id, round, role, quantity, value, unit, typed: value, source: 'logging gauge' };
    return [{ at: log.times[row], body }];
  };
  const near = Array.from({ length: Math.min(50, end - start + 1) }, (_, index) => index);
  const first = near.map((index) => start + index);
  const last = near.map((index) => end - index);
  const every = Math.max(1, Math.floor((end - start) / (mostBetween + 1)));
  const between = Array.from({ length: mostBetween }, (_, index) => start + (index + 1) * every).filter((row) => row > start && row < end);
  return [
    ...written(log.pipe, 'temperature', 'start', first),
    ...written(log.air, 'barometer', 'start', first),
    ...between.flatMap((row) => written(log.pipe, 'temperature', 'between', [row])),
    ...written(log.pipe, 'temperature', 'end', last),
    ...written(log.air, 'barometer', 'end', last),
  ];
}
