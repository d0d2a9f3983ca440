import { daysFromCivil } from '../exact/calendar';
import { isPressureUnit, type PressureUnit, type TemperatureUnit } from '../quantities';

/* A logging gauge's own file, row by row: times and figures, with what is wrong with them said and nothing repaired. */

/** How a file writes its times: ISO or year first, day first, month first, or seconds since its start. */
export const timeOrders = ['ymd', 'dmy', 'mdy', 'seconds'] as const;
export type TimeOrder = (typeof timeOrders)[number];

/** Which columns of a file are what, counted from 0. */
export interface LogMapping {
  readonly time: number;
  /** Where the date stands in a column of its own. */
  readonly date?: number;
  readonly value: number;
  /** Where a unit stands beside every figure. */
  readonly unitColumn?: number;
  readonly order: TimeOrder;
  readonly unit: PressureUnit;
  /** Minutes east of UTC of the file's clock at its first row; a zone written in the file counts before it. */
  readonly offsetMinutes: number;
  /** An hour that is missing: a gap in the readings, or a clock put forward for daylight saving. */
  readonly lostHour: 'gap' | 'clock';
  /** Start of a file that counts seconds, ms UTC. */
  readonly startAt?: number;
  /** Columns of the pipe's temperature and of the barometer, where the file has them. */
  readonly pipe?: { readonly column: number; readonly unit: TemperatureUnit };
  readonly air?: { readonly column: number; readonly unit: PressureUnit };
}

/** Something between two rows that do not follow one another at the file's own step. */
export interface LogBreak {
  readonly kind: 'gap' | 'jump back' | 'hour back' | 'hour forward';
  /** Row before it, counted from 0, and the time it makes, ms. */
  readonly row: number;
  readonly milliseconds: number;
}

/** What else a file logs beside the gauge, row by row; no number where a row has none. */
export interface LogChannel<U extends string = string> {
  readonly values: Float64Array;
  readonly scale: number;
  readonly unit: U;
}

export interface GaugeLog {
  /** ms UTC, in the order of the file. */
  readonly times: Float64Array;
  /** Whole steps of 10^-scale of the unit. */
  readonly values: Int32Array;
  readonly scale: number;
  readonly unit: PressureUnit;
  /** Usual time between rows, ms. */
  readonly stepMs: number;
  readonly breaks: readonly LogBreak[];
  /** Lines that hold no time or no figure: their count, and the first of them. */
  readonly unread: number;
  readonly firstUnread: readonly number[];
  readonly pipe?: LogChannel<TemperatureUnit>;
  readonly air?: LogChannel<PressureUnit>;
}

export type LogFault =
  | { readonly code: 'no-rows'; readonly message: string }
  | { readonly code: 'mixed-units'; readonly message: string; readonly line: number }
  | { readonly code: 'too-fine'; readonly message: string };

const stamp =
  /^\s*(?:(\d{1,4})[-/.](\d{1,2})[-/.](\d{1,4})[T ,]*)?(\d{1,2}):(\d{2})(?::(\d{2})(?:[.,](\d{1,3}))?)?\s*(am|pm)?\s*(z|[+-]\d{2}:?\d{2})?\s*$/i;

/** A time as a file writes it: ms since 1970 by its own clock, and its zone where that is written. */
export function readTime(text: string, order: TimeOrder): { readonly ms: number; readonly zoneMinutes?: number } | undefined {
  if (order === 'seconds') {
    const seconds = Number(text.trim().replace(',', '.'));
    return text.trim() === '' || !Number.isFinite(seconds) ? undefined : { ms: Math.round(seconds * 1000) };
  }
  const match = stamp.exec(text);
  if (match === null || match[1] === undefined) return undefined;
  const [, a, b, c, hour, minute, second = '0', fraction = '0', half, zone] = match;
  const [year, month, day] = order === 'ymd' ? [a, b, c] : order === 'dmy' ? [c, b, a] : [c, a, b];
  const full = Number(year) < 100 ? 2000 + Number(year) : Number(year);
  const hours = half === undefined ? Number(hour) : (Number(hour) % 12) + (half.toLowerCase() === 'pm' ? 12 : 0);
  if (!(Number(month) >= 1 && Number(month) <= 12 && Number(day) >= 1 && Number(day) <= 31)) return undefined;
  if (!(hours <= 23 && Number(minute) <= 59 && Number(second) <= 59)) return undefined;
  const ms =
    daysFromCivil(full, Number(month), Number(day)) * 86_400_000 +
    hours * 3_600_000 +
    Number(minute) * 60_000 +
    Number(second) * 1000 +
    Number(fraction.padEnd(3, '0'));
  if (zone === undefined) return { ms };
  const digits = zone.replace(/\D/g, '');
  const zoneMinutes = digits === '' ? 0 : (zone.startsWith('-') ? -1 : 1) * (Number(digits.slice(0, 2)) * 60 + Number(digits.slice(2)));
  return { ms, zoneMinutes };
}

const figure = /^([+-−]?\d*(?:[.,]\d+)?)\s*(\S*)$/;

/** Another column of the file. */
class Channel {
  private values = new Float64Array(4096);
  private scale = 0;
  constructor(private readonly column: number | undefined) {}

  take(cells: readonly string[], row: number): void {
    if (this.column === undefined) return;
    if (row >= this.values.length) {
      const more = new Float64Array(this.values.length * 2);
      more.set(this.values);
      this.values = more;
    }
    const match = figure.exec((cells[this.column] ?? '').trim());
    const digits = match === null || !/\d/.test(match[1]) ? '' : match[1].replace(',', '.').replace('−', '-');
    this.values[row] = digits === '' ? Number.NaN : Number(digits);
    if (digits.includes('.')) this.scale = Math.max(this.scale, Math.min(4, digits.length - digits.indexOf('.') - 1));
  }

  finish<U extends string>(count: number, unit: U): LogChannel<U> {
    return { values: this.values.slice(0, count), scale: this.scale, unit };
  }
}

/** Reads a file row by row; memory grows with the rows, not with their text. */
export class GaugeLogReader {
  private times = new Float64Array(4096);
  private figures = new Float64Array(4096);
  private readonly pipe: Channel;
  private readonly air: Channel;
  private count = 0;
  private scale = 0;
  private zoned = false;
  private unread = 0;
  private readonly firstUnread: number[] = [];
  private seenUnit: string | undefined;
  private mixed: { readonly line: number; readonly unit: string } | undefined;

  constructor(private readonly mapping: LogMapping) {
    this.pipe = new Channel(mapping.pipe?.column);
    this.air = new Channel(mapping.air?.column);
  }

  /** @param line of the file, counted from 1 */
  take(cells: readonly string[], line: number): void {
    const { time, date, value, unitColumn, order } = this.mapping;
    const stampText = date === undefined ? (cells[time] ?? '') : `${cells[date] ?? ''} ${cells[time] ?? ''}`;
    const at = readTime(stampText, order);
    const match = figure.exec((cells[value] ?? '').trim());
    if (at === undefined || match === null || !/\d/.test(match[1])) {
      this.unread += 1;
      if (this.firstUnread.length < 5) this.firstUnread.push(line);
      return;
    }
    const unit = (unitColumn === undefined ? match[2] : (cells[unitColumn] ?? '').trim()) || this.seenUnit;
    this.seenUnit ??= unit;
    if (unit !== undefined && unit !== this.seenUnit) this.mixed ??= { line, unit };
    const digits = match[1].replace(',', '.').replace('−', '-');
    this.scale = Math.max(this.scale, digits.includes('.') ? digits.length - digits.indexOf('.') - 1 : 0);
    if (this.count === this.times.length) this.grow();
    if (at.zoneMinutes !== undefined) this.zoned = true;
    this.times[this.count] = at.ms - (at.zoneMinutes ?? 0) * 60_000;
    this.figures[this.count] = Number(digits);
    this.pipe.take(cells, this.count);
    this.air.take(cells, this.count);
    this.count += 1;
  }

  private grow(): void {
    const [times, figures] = [new Float64Array(this.times.length * 2), new Float64Array(this.times.length * 2)];
    times.set(this.times);
    figures.set(this.figures);
    this.times = times;
    this.figures = figures;
  }

  finish(): { readonly ok: true; readonly value: GaugeLog } | { readonly ok: false; readonly fault: LogFault } {
    const { mapping, count, scale } = this;
    if (count < 2)
      return {
        ok: false,
        fault: {
          code: 'no-rows',
          message: 'No rows with a time and a figure were found. Choose other columns, another order of the date, or another separator.',
        },
      };
    if (this.mixed !== undefined)
      return {
        ok: false,
        fault: {
          code: 'mixed-units',
          line: this.mixed.line,
          message: `Line ${this.mixed.line} is in ${this.mixed.unit}, those before it in ${this.seenUnit}. Export the log again in one unit.`,
        },
      };
    if (scale > 6)
      return {
        ok: false,
        fault: { code: 'too-fine', message: 'The figures have more than six decimals. Export them as the gauge shows them.' },
      };
    const times = this.times.slice(0, count);
    const values = new Int32Array(count);
    const factor = 10 ** scale;
    for (let index = 0; index < count; index += 1) values[index] = Math.round(this.figures[index] * factor);
    const stepMs = usualStep(times);
    const breaks = this.placeInTime(times, stepMs);
    const unit = this.seenUnit !== undefined && isPressureUnit(this.seenUnit) ? this.seenUnit : mapping.unit;
    return {
      ok: true,
      value: {
        times,
        values,
        scale,
        unit,
        stepMs,
        breaks,
        unread: this.unread,
        firstUnread: this.firstUnread,
        ...(mapping.pipe === undefined ? {} : { pipe: this.pipe.finish(count, mapping.pipe.unit) }),
        ...(mapping.air === undefined ? {} : { air: this.air.finish(count, mapping.air.unit) }),
      },
    };
  }

  /** Times to UTC in place; an hour set back, and one set forward where that is said, move what follows. */
  private placeInTime(times: Float64Array, stepMs: number): readonly LogBreak[] {
    const { offsetMinutes, lostHour, order, startAt = 0 } = this.mapping;
    const hour = 3_600_000;
    const near = Math.max(2000, stepMs * 2);
    const breaks: LogBreak[] = [];
    let shift = order === 'seconds' ? -startAt : this.zoned ? 0 : offsetMinutes * 60_000;
    let before = times[0];
    times[0] -= shift;
    for (let row = 1; row < times.length; row += 1) {
      const own = times[row];
      const apart = own - before;
      before = own;
      const local = !this.zoned && order !== 'seconds';
      if (local && apart < 0 && Math.abs(apart - stepMs + hour) <= near) {
        shift -= hour;
        breaks.push({ kind: 'hour back', row: row - 1, milliseconds: -hour });
      } else if (local && lostHour === 'clock' && Math.abs(apart - stepMs - hour) <= near) {
        shift += hour;
        breaks.push({ kind: 'hour forward', row: row - 1, milliseconds: hour });
      } else if (apart < 0) breaks.push({ kind: 'jump back', row: row - 1, milliseconds: apart });
      else if (apart > stepMs * 1.5 + 1) breaks.push({ kind: 'gap', row: row - 1, milliseconds: apart });
      times[row] = own - shift;
    }
    return breaks;
  }
}

/** The middle of the first differences: what a file's step usually is. */
function usualStep(times: Float64Array): number {
  const apart: number[] = [];
  for (let row = 1; row < times.length && apart.length < 999; row += 1)
    if (times[row] > times[row - 1]) apart.push(times[row] - times[row - 1]);
  apart.sort((a, b) => a - b);
  return apart[Math.floor((apart.length - 1) / 2)] ?? 1000;
}
