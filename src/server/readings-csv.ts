import Papa from 'papaparse';
import { readQuantities } from '@/core/course';
import { type Body, type Envelope, envelopeOf, type ReadingSource, type RunEvent, readingRoles, readingSources } from '@/core/judging';
import {
  bad,
  decimal,
  good,
  type PressureUnit,
  type Problem,
  type Result,
  readDecimal,
  type Unit,
  unitKind,
  unitsOf,
} from '@/core/quantities';
import { type Attempt, type CsvColumn, csvColumns, serialOf, type TestRecord } from '@/core/record';
import { seedOf, uuidAt } from '@/core/simulation';

/** Readings from a CSV as `convert` writes it, back into a record (the other way of `readingsCsv`). */

type Row = Readonly<Record<CsvColumn, string>>;

const units: ReadonlySet<string> = new Set(
  (['pressure', 'volume', 'length', 'flow', 'turns', 'temperature'] as const).flatMap((kind) => unitsOf(kind) as readonly string[]),
);

/**
 * The record with the readings and traces of a CSV in place of its own; all else stays as it was, without its seal, its
 * signatures and its judgements, which no longer fit.
 * @returns a problem with the line of the first row that cannot be read
 */
export function withReadings(record: TestRecord, csv: string): Result<TestRecord> {
  const parsed = Papa.parse<string[]>(csv.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' });
  const [header = [], ...rows] = parsed.data;
  const missing = csvColumns.filter((column) => !header.includes(column));
  if (missing.length > 0) return bad('csv-columns', `The first line must name the columns; missing: ${missing.join(', ')}.`);
  const places = csvColumns.map((column) => header.indexOf(column));
  const read: { readonly row: Row; readonly at: number }[] = [];
  for (const [index, cells] of rows.entries()) {
    const row = Object.fromEntries(csvColumns.map((column, place) => [column, (cells[places[place]] ?? '').trim()])) as Row;
    const fault = faultOf(row, record);
    if (fault !== undefined) return bad(fault.code, `Line ${index + 2}: ${fault.message}`);
    read.push({ row, at: Date.parse(row.observed_at_utc) });
  }
  const { seal: _, signatures: __, certificate: ___, ...open } = record;
  return good({
    ...open,
    tests: record.tests.map((one, place) => ({
      ...one,
      attempts: one.attempts.map(({ judgement: ____, ...attempt }) => ({
        ...attempt,
        events: merged(
          attempt,
          read.filter(({ row }) => Number(row.test) === place + 1 && Number(row.attempt) === attempt.number),
        ),
      })),
    })),
  });
}

/**
 * The log with the CSV's readings and traces in place of its own. A row that names an event of the log stands where that one
 * stood, so that a withdrawal still finds it; another goes in by its time.
 */
function merged(attempt: Attempt, rows: readonly Timed[]): readonly RunEvent[] {
  const made = eventsOf(rows, attempt);
  const byId = new Map(made.map((event) => [event.id, event]));
  const kept = attempt.events.flatMap((event): RunEvent[] => {
    if (event.type !== 'reading' && event.type !== 'trace') return [event];
    const own = byId.get(event.id);
    byId.delete(event.id);
    return own === undefined ? [] : [{ ...own, ...envelopeOf(event), observedAt: own.observedAt } as RunEvent];
  });
  for (const event of byId.values()) {
    const place = kept.findIndex(({ observedAt }) => observedAt > event.observedAt);
    kept.splice(place < 0 ? kept.length : place, 0, event);
  }
  return kept.map((event, index) => ({ ...event, position: index + 1 }));
}

function faultOf(row: Row, record: TestRecord): Problem | undefined {
  const fault = (code: string, message: string): Problem => ({ code, message });
  const test = record.tests[Number(row.test) - 1];
  if (test === undefined) return fault('csv-test', `there is no test “${row.test}” in the record.`);
  const attempt = test.attempts.find(({ number }) => String(number) === row.attempt);
  if (attempt === undefined) return fault('csv-attempt', `there is no attempt “${row.attempt}” in the record.`);
  if (!attempt.plan.phases.some(({ id }) => id === row.phase)) return fault('csv-phase', `the plan has no phase “${row.phase}”.`);
  if (!/^[1-9]\d*$/.test(row.round)) return fault('csv-round', `“${row.round}” is no round; it counts from 1.`);
  if (row.role !== 'trace' && !readingRoles.some((role) => role === row.role))
    return fault('csv-role', `“${row.role}” is no role; use trace, ${readingRoles.join(', ')}.`);
  if (!readQuantities.some((quantity) => quantity === row.quantity))
    return fault('csv-quantity', `“${row.quantity}” is no quantity; use one of ${readQuantities.join(', ')}.`);
  if (readDecimal(row.value) === undefined) return fault('csv-value', `“${row.value}” is no figure with a decimal dot.`);
  if (!units.has(row.unit)) return fault('csv-unit', `“${row.unit}” is no unit that is known here.`);
  if (row.role === 'trace' && unitKind(row.unit as Unit) !== 'pressure') return fault('csv-unit', 'a trace is of pressure.');
  if (!/(Z|[+-]\d\d:\d\d)$/.test(row.observed_at_utc) || !Number.isFinite(Date.parse(row.observed_at_utc)))
    return fault('csv-time', `“${row.observed_at_utc}” is no time with its zone, such as 2026-01-05T09:00:00.000Z.`);
  if (row.qualifier !== '' && row.qualifier !== 'below range')
    return fault('csv-qualifier', `“${row.qualifier}” is not known; leave it empty or write below range.`);
  const serial = serialOf(attempt.plan, { phase: row.phase, quantity: row.quantity as (typeof readQuantities)[number] });
  if (row.instrument_serial !== serial)
    return fault(
      'csv-serial',
      `“${row.instrument_serial}” is not the instrument that the plan reads there${serial === '' ? '; leave it empty' : `, which is ${serial}`}.`,
    );
  const withdrawal = attempt.events.find((event) => event.type === 'withdrawn' && event.reading === row.event);
  if (row.withdrawn !== (withdrawal?.type === 'withdrawn' ? withdrawal.reason : ''))
    return fault('csv-withdrawn', 'a reading is withdrawn, and stands again, only in the test’s own log; leave that column as it was.');
  const skew = attempt.events.find(({ id }) => id === row.event)?.skew;
  if (row.clock_ahead_ms !== (skew === undefined ? '' : String(skew)))
    return fault('csv-clock', 'how far a device’s clock was ahead was found when its readings came; leave that column as it was.');
  if (!readingSources.some((source) => source === row.source))
    return fault('csv-source', `“${row.source}” is no source; use ${readingSources.join(', ')}.`);
  return undefined;
}

type Timed = { readonly row: Row; readonly at: number };

/** A reading each, and rows of a trace that follow one another at one step gathered into chunks of 600 at most. */
function eventsOf(rows: readonly Timed[], { run, events }: Attempt): readonly RunEvent[] {
  const made: RunEvent[] = [];
  const first = events[0];
  const seed = seedOf(run);
  const known = new Set(events.map((event) => event.id));
  const named = (id: string): boolean => known.has(id) && !made.some((event) => event.id === id);
  const write = (body: Body, at: number, id: string): void => {
    const seq = made.length + 1;
    const envelope: Envelope = {
      schema: 1,
      run,
      id: named(id) ? id : uuidAt(seed ^ 0x2545f491, seq),
      device: first?.device ?? 'readings.csv',
      seq,
      author: first?.author ?? 'readings.csv',
      observedAt: at,
      enteredAt: at,
      offsetMinutes: first?.offsetMinutes ?? 0,
      boot: 'readings.csv',
      mono: at - (rows[0]?.at ?? at),
    };
    made.push({ ...envelope, ...body } as RunEvent);
  };
  for (let index = 0; index < rows.length; index += 1) {
    const { row, at } = rows[index];
    const common = { phase: row.phase, round: Number(row.round), source: row.source as ReadingSource };
    if (row.role !== 'trace') {
      write(
        {
          type: 'reading',
          ...common,
          role: row.role as (typeof readingRoles)[number],
          quantity: row.quantity as (typeof readQuantities)[number],
          value: row.value,
          unit: row.unit as Unit,
          typed: row.value,
          ...(row.point === '' ? {} : { point: row.point }),
          ...(row.qualifier === '' ? {} : { qualifier: 'below range' as const }),
        },
        at,
        row.event,
      );
      continue;
    }
    const chunk = chunkFrom(rows, index);
    const scale = Math.max(...chunk.map((one) => decimal(one.row.value).scale));
    write(
      {
        type: 'trace',
        ...common,
        startAt: at,
        stepMs: chunk.length > 1 ? chunk[1].at - at : 1000,
        unit: row.unit as PressureUnit,
        scale,
        values: chunk.map((one) => stepsOf(one.row.value, scale)),
      },
      at,
      row.event,
    );
    index += chunk.length - 1;
  }
  return made;
}

const stepsOf = (text: string, scale: number): number => {
  const { digits, scale: own } = decimal(text);
  return Number(digits * 10n ** BigInt(scale - own));
};

function chunkFrom(rows: readonly Timed[], from: number): readonly Timed[] {
  const head = rows[from];
  const step = rows[from + 1] === undefined ? 0 : rows[from + 1].at - head.at;
  let end = from + 1;
  while (
    end < rows.length &&
    end - from < 600 &&
    step > 0 &&
    rows[end].at - rows[end - 1].at === step &&
    (['attempt', 'phase', 'round', 'role', 'unit', 'source', 'event'] as const).every(
      (column) => rows[end].row[column] === head.row[column],
    )
  )
    end += 1;
  return rows.slice(from, end);
}
