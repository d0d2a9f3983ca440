import fc from 'fast-check';
import { judge } from '../judging/judge';
import { LogBuilder } from '../judging/log-builder.fixture';
import { mayStart } from '../judging/starts';
import { heldSoFar } from '../judging/state';
import type { Decimal } from '../quantities';
import { demoGauge, examplePlan, planFor } from '../simulation/examples.fixture';
import { type GaugeLog, GaugeLogReader, type LogMapping, readTime } from './gauge-log';
import { endFor, firstWindow, logEvents, logFault, rowsKeptOf } from './log-window';

const mapping: LogMapping = { time: 0, value: 1, order: 'ymd', unit: 'mbar', offsetMinutes: 60, lostHour: 'gap' };
const read = (rows: readonly string[][], change: Partial<LogMapping> = {}) => {
  const reader = new GaugeLogReader({ ...mapping, ...change });
  for (const [index, cells] of rows.entries()) reader.take(cells, index + 2);
  return reader.finish();
};
const log = (rows: readonly string[][], change: Partial<LogMapping> = {}): GaugeLog => {
  const result = read(rows, change);
  if (!result.ok) throw new Error(result.fault.message);
  return result.value;
};
const second = (count: number) => `2026-03-02 09:${String(Math.floor(count / 60)).padStart(2, '0')}:${String(count % 60).padStart(2, '0')}`;

describe('times as files write them', () => {
  test.each([
    ['2026-03-02 09:15:01', 'ymd', '2026-03-02T09:15:01.000Z'],
    ['2026-03-02T09:15:01.250', 'ymd', '2026-03-02T09:15:01.250Z'],
    ['02.03.2026 09:15', 'dmy', '2026-03-02T09:15:00.000Z'],
    ['3/2/2026 9:15:01 PM', 'mdy', '2026-03-02T21:15:01.000Z'],
    ['3/2/26 12:00:00 AM', 'mdy', '2026-03-02T00:00:00.000Z'],
    ['29/02/2028 23:59:59,5', 'dmy', '2028-02-29T23:59:59.500Z'],
  ] as const)('%s as %s', (text, order, iso) => expect(readTime(text, order)?.ms).toBe(Date.parse(iso)));

  test('a zone in the file counts before the one that is said', () => {
    expect(readTime('2026-03-02T09:15:01+02:00', 'ymd')).toMatchObject({ zoneMinutes: 120 });
    const zoned = log([
      ['2026-03-02T09:00:00+02:00', '1.0'],
      ['2026-03-02T09:00:01+02:00', '1.0'],
    ]);
    expect(zoned.times[0]).toBe(Date.parse('2026-03-02T07:00:00Z'));
    expect(
      log([
        ['2026-03-02 09:00:00', '1.0'],
        ['2026-03-02 09:00:01', '1.0'],
      ]).times[0],
    ).toBe(Date.parse('2026-03-02T08:00:00Z'));
  });

  test('what is no time is none', () => {
    for (const text of ['', '9 o’clock', '2026-13-02 09:00:00', '2026-03-02 25:00:00', '09:00:00'])
      expect(readTime(text, 'ymd')).toBeUndefined();
  });

  test('seconds since a start', () =>
    expect([
      ...log(
        [
          ['0', '1'],
          ['0,5', '1'],
          ['1', '1'],
        ],
        { order: 'seconds', startAt: 1000 },
      ).times,
    ]).toEqual([1000, 1500, 2000]));

  test('every minute of forty years, as the calendar has it', () =>
    fc.assert(
      fc.property(fc.integer({ min: 946_684_800, max: 2_208_988_800 }), (seconds) => {
        const iso = new Date(seconds * 1000).toISOString();
        return readTime(iso.slice(0, 19).replace('T', ' '), 'ymd')?.ms === seconds * 1000;
      }),
    ));
});

describe('what is wrong with a file is said, and nothing is repaired', () => {
  const rows = (count: number) => Array.from({ length: count }, (_, index) => [second(index), `20.5${index % 10}`]);

  test('lines without time or figure are counted and named', () => {
    const found = log([...rows(3), ['', '20.5'], [second(3), 'OL'], [second(4), '']]);
    expect(found).toMatchObject({ unread: 3, firstUnread: [5, 6, 7] });
    expect([...found.values]).toEqual([2050, 2051, 2052]);
  });

  test('decimal commas, signs and a unit behind the figure', () => {
    const found = log([
      [second(0), '-0,5 mbar'],
      [second(1), '+20,25 mbar'],
      [second(2), '−1 mbar'],
    ]);
    expect([...found.values]).toEqual([-50, 2025, -100]);
    expect(found).toMatchObject({ scale: 2, unit: 'mbar' });
  });

  test('two units in one file are refused, with the line', () =>
    expect(
      read([
        [second(0), '20.5 mbar'],
        [second(1), '2050 Pa'],
      ]),
    ).toMatchObject({ ok: false, fault: { code: 'mixed-units', line: 3 } }));

  test('no rows are refused with what to do', () =>
    expect(
      read([
        ['Time', 'Pressure'],
        ['x', 'y'],
      ]),
    ).toMatchObject({ ok: false, fault: { code: 'no-rows', message: expect.stringMatching(/columns/) } }));

  test('gaps and a clock that ran backwards are found, where they are', () => {
    const times = [0, 1, 2, 62, 63, 30, 31].map((count) => [second(count), '20.50']);
    expect(log(times).breaks).toEqual([
      { kind: 'gap', row: 2, milliseconds: 60_000 },
      { kind: 'jump back', row: 4, milliseconds: -33_000 },
    ]);
  });

  test('an hour set back for daylight saving: the times go on without a step', () => {
    const found = log(
      [
        ['2026-10-25 02:59:59', '1'],
        ['2026-10-25 02:00:00', '1'],
        ['2026-10-25 02:00:01', '1'],
      ],
      { offsetMinutes: 120 },
    );
    expect(found.breaks).toEqual([{ kind: 'hour back', row: 0, milliseconds: -3_600_000 }]);
    expect(found.times[1] - found.times[0]).toBe(1000);
    expect(found.times[0]).toBe(Date.parse('2026-10-25T00:59:59Z'));
  });

  test('an hour that is missing is a gap, unless it is said that the clock was put forward', () => {
    const spring = [
      ['2026-03-29 01:59:58', '1'],
      ['2026-03-29 01:59:59', '1'],
      ['2026-03-29 03:00:00', '1'],
    ];
    expect(log(spring).breaks).toMatchObject([{ kind: 'gap', milliseconds: 3_601_000 }]);
    const clock = log(spring, { lostHour: 'clock' });
    expect(clock.breaks).toMatchObject([{ kind: 'hour forward' }]);
    expect(clock.times[2] - clock.times[1]).toBe(1000);
  });
});

describe('a hold read from a log', () => {
  const plan = planFor({ answers: { work: 'new' }, gauge: demoGauge });
  const hold = plan.phases.find((phase) => phase.id === 'hold');
  if (hold?.kind !== 'hold') throw new Error('no hold');
  const begins = (value: Decimal) => mayStart(plan, hold, undefined, value);
  /** Rising into the band, then falling by `fall` steps of 0.01 mbar each second. */
  const course = (perSecond: number, length = 400) =>
    log(
      Array.from({ length }, (_, index) => [second(index), (index < 20 ? 10 + index * 0.5 : 20.5 - (index - 20) * perSecond).toFixed(2)]),
    );

  test('it begins at the first figure in the band that has its whole time after it', () => {
    const found = firstWindow(course(0), hold, begins);
    expect(found).toEqual({ start: 20, end: 140 });
    expect(firstWindow(course(0, 100), hold, begins)).toBeUndefined();
    expect(endFor(course(0), hold, 380)).toBeUndefined();
  });

  test('never across a clock that ran backwards', () => {
    const rows = Array.from({ length: 300 }, (_, index) => [second(index < 60 ? index + 500 : index), '20.50']);
    expect(firstWindow(log(rows), hold, begins)).toEqual({ start: 60, end: 180 });
  });

  test('its readings and trace are judged as if they had been typed', () => {
    for (const [perSecond, verdict] of [
      [0, 'tight'],
      [0.01, 'fall'],
    ] as const) {
      const file = course(perSecond);
      const found = firstWindow(file, hold, begins);
      if (found === undefined) throw new Error('no window');
      const builder = new LogBuilder(plan).proved().settled();
      const base = file.times[found.start] - builder.events[0].observedAt - 200_000;
      for (const { at, body } of logEvents(file, plan, hold, 1, found))
        builder.write(body, { observedAt: at - base, boot: 'log', mono: at - file.times[0] });
      const state = judge(plan, builder.events).phases.find(({ id }) => id === 'hold');
      expect(state).toMatchObject({ outcome: verdict });
      expect(heldSoFar(state)?.start).toBe('20.50');
      const kept = builder.events.flatMap((event) => (event.type === 'trace' ? event.values : []));
      expect(kept).toHaveLength(121);
    }
  });

  test('a trace breaks where the file does, and every sample is in it once', () => {
    const rows = [0, 1, 2, 3, 30, 31, 32].map((count) => [second(count), '20.50']);
    const short = { ...hold, seconds: 30 };
    const events = logEvents(log(rows), plan, short, 1, { start: 0, end: 6 });
    expect(events.map(({ body }) => (body.type === 'trace' ? body.values.length : body.type))).toEqual(['reading', 4, 3, 'reading']);
  });

  test('of a longer hold than is kept, a movement of one row is kept all the same, and how many stand for one is told', () => {
    const rows = 250_000;
    const long: GaugeLog = {
      ...course(0, 2),
      times: Float64Array.from({ length: rows }, (_, row) => row * 100),
      values: Int32Array.from({ length: rows }, (_, row) => (row === 100_001 ? 1700 : row === 200_002 ? 2300 : 2050)),
      stepMs: 100,
      breaks: [],
    };
    const window = { start: 0, end: rows - 1 };
    const kept = logEvents(long, plan, hold, 1, window).flatMap(({ body }) => (body.type === 'trace' ? body.values : []));
    expect(kept.length).toBe(Math.ceil(rows / rowsKeptOf(window)));
    expect(kept.length).toBeLessThanOrEqual(100_000);
    expect([Math.min(...kept), Math.max(...kept)]).toEqual([1700, 2300]);
  });

  test('a file in another unit than the plan’s gauge is refused', () => {
    expect(logFault(course(0), plan, hold)).toBeUndefined();
    expect(logFault({ ...course(0), unit: 'psi' }, plan, hold)).toMatch(/shows mbar, this file is in psi/);
  });
});

describe('the weather from the same file', () => {
  const plan = examplePlan('gas-piping-psi', { answers: { stages: 'first' } });
  const hold = plan.phases.find((phase) => phase.id === 'hold');
  if (hold?.kind !== 'hold') throw new Error('no hold');
  const rows = Array.from({ length: 1000 }, (_, index) => [
    second(index),
    '3.20',
    index % 7 === 0 ? '' : (18 + index / 1000).toFixed(1),
    '1009,4',
  ]);
  const read = log(rows, {
    unit: 'psi',
    pipe: { column: 2, unit: 'C' },
    air: { column: 3, unit: 'hPa' },
  });
  test('columns beside the gauge’s are read row by row, with the digits as they were logged', () => {
    expect(read.pipe).toMatchObject({ scale: 1, unit: 'C' });
    expect(Number.isNaN(read.pipe?.values[7])).toBe(true);
    expect(read.air?.values[999]).toBe(1009.4);
  });
  test('they stand at both ends of the hold and in between, and the hold is corrected by them', () => {
    const events = logEvents(read, plan, hold, 1, { start: 0, end: 905 });
    const weather = events.flatMap(({ body }) => (body.type === 'reading' && body.quantity !== 'pressure' ? [body] : []));
    const of = (quantity: string, role: string) => weather.filter((one) => one.quantity === quantity && one.role === role);
    expect(of('temperature', 'start').map(({ value, unit }) => `${value} ${unit}`)).toEqual(['18.0 C']);
    expect(of('temperature', 'end').map(({ value }) => value)).toEqual(['18.9']);
    expect(of('barometer', 'start').map(({ value, unit }) => `${value} ${unit}`)).toEqual(['1009.4 hPa']);
    expect(of('temperature', 'between').length).toBeGreaterThan(10);
    // The last is the gauge's end: whoever judges has all that belongs to it.
    expect(events.at(-1)?.body).toMatchObject({ role: 'end', quantity: 'pressure' });
    const judged = new LogBuilder(plan).tick('prepare').read('zero', 'zero', '0.00', { unit: 'psi' });
    for (const { at, body } of events) judged.at((at - read.times[0]) / 1000 + 100).write(body);
    const state = judge(plan, judged.events).phases.find(({ id }) => id === 'hold');
    expect(state).toMatchObject({ came: { drifts: { warms: { read: true } } } });
  });
});
