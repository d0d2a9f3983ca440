import { instrumentOf, quantityOf } from '../course/instruments';
import type { ReadQuantity } from '../course/phases';
import type { RunEvent } from '../judging/events';
import type { Plan } from '../planning/plan';
import { toText } from '../quantities';
import type { TestRecord } from './record';

/** Columns of the readings' CSV, in order; a reader may need no more than the first line to know them. */
export const csvColumns = [
  'test',
  'attempt',
  'phase',
  'round',
  'role',
  'quantity',
  'point',
  'observed_at_utc',
  'clock_ahead_ms',
  'value',
  'unit',
  'qualifier',
  'source',
  'instrument_serial',
  'event',
  'withdrawn',
] as const;
export type CsvColumn = (typeof csvColumns)[number];

/** What a spreadsheet takes for the beginning of a formula, also behind blanks and in the wide forms of the signs. */
const formula = /^[\s\u00a0\u3000]*[=+@\uff1d\uff0b\uff20\uff0d\u2212]|^[\t\r]/;

/** Quoted where needed, also for those who part cells by semicolons; text that would be taken for a formula gets a leading apostrophe. */
export function csvCell(text: string): string {
  const isFigure = /^-?\d+(\.\d+)?$/.test(text);
  const safe = !isFigure && (formula.test(text) || /^[\s\u00a0\u3000]*-/.test(text)) ? `'${text}` : text;
  return /[",;\t\n\r]|^\s|\s$/.test(safe) ? `"${safe.replace(/"/g, '""')}"` : safe;
}

/** All readings of a record, one a line, traces a line a sample; RFC 4180, dot decimals, UTC times. */
export function readingsCsv(record: TestRecord, utc: (ms: number) => string): string {
  const lines = [csvColumns.join(',')];
  const attempts = record.tests.flatMap((one, place) => one.attempts.map((attempt) => ({ ...attempt, test: String(place + 1) })));
  for (const { test, number, plan, events } of attempts) {
    // A withdrawal goes along in every export (DOMAIN 4.16).
    const gone = new Map(events.flatMap((event) => (event.type === 'withdrawn' ? [[event.reading, event.reason] as const] : [])));
    for (const event of events)
      for (const row of rowsOf(plan, event, utc, gone.get(event.id) ?? ''))
        lines.push(csvColumns.map((column) => csvCell({ test, attempt: String(number), ...row }[column] ?? '')).join(','));
  }
  return `${lines.join('\r\n')}\r\n`;
}

type Row = Readonly<Partial<Record<CsvColumn, string>>>;

function rowsOf(plan: Plan, event: RunEvent, utc: (ms: number) => string, withdrawn: string): readonly Row[] {
  if (event.type !== 'reading' && event.type !== 'trace') return [];
  const common = {
    phase: event.phase,
    round: String(event.round),
    source: event.source,
    unit: event.unit,
    point: '',
    qualifier: '',
    event: event.id,
    clock_ahead_ms: event.skew === undefined ? '' : String(event.skew),
    withdrawn,
  };
  if (event.type === 'reading')
    return [
      {
        ...common,
        role: event.role,
        quantity: event.quantity,
        point: event.point ?? '',
        observed_at_utc: utc(event.observedAt),
        value: event.value,
        qualifier: event.qualifier ?? '',
        instrument_serial: serialOf(plan, event),
      },
    ];
  return event.values.map((digits, index) => ({
    ...common,
    role: 'trace',
    quantity: 'pressure',
    observed_at_utc: utc(event.startAt + index * event.stepMs),
    value: toText({ digits: BigInt(digits), scale: event.scale }),
    instrument_serial: serialOf(plan, { ...event, quantity: 'pressure' }),
  }));
}

/** Serial of the instrument that a phase reads a quantity on; none for a thermometer or barometer that the plan does not name. */
export function serialOf(plan: Plan, { phase: id, quantity }: { readonly phase: string; readonly quantity: ReadQuantity }): string {
  if (quantity === 'temperature') return plan.weather?.thermometer?.serial ?? '';
  if (quantity === 'barometer') return plan.weather?.barometer?.serial ?? '';
  const phase = plan.phases.find((one) => one.id === id);
  const role =
    phase?.kind === 'measure'
      ? phase.fields.find((field) => field.quantity === quantity)?.instrument
      : phase?.kind === 'hold' || phase?.kind === 'zero'
        ? phase.instrument
        : undefined;
  const instrument = instrumentOf(plan, role);
  return quantityOf(instrument.unit) === quantity ? instrument.serial : '';
}
