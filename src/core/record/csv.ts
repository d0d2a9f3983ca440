import type { RunEvent } from '../judging/events';
import { toText } from '../quantities';
import type { TestRecord } from './record';

const header = 'attempt,phase,round,role,observed_at_utc,value,unit,source,instrument_serial';

/** Quoted where needed; text that a spreadsheet would take for a formula gets a leading apostrophe. */
export function csvCell(text: string): string {
  const safe = /^[=+@\t\r]/.test(text) || (/^-/.test(text) && !/^-?\d+(\.\d+)?$/.test(text)) ? `'${text}` : text;
  return /[",\n\r]/.test(safe) ? `"${safe.replace(/"/g, '""')}"` : safe;
}

/** All readings of a record, one a line, traces a line a sample; RFC 4180, dot decimals, UTC times. */
export function readingsCsv(record: TestRecord, utc: (ms: number) => string): string {
  const lines = [header];
  for (const { number, plan, events } of record.attempts)
    for (const event of events)
      for (const [role, at, value, unit] of samples(event)) {
        const { phase, round, source } = event as Extract<RunEvent, { type: 'reading' }>;
        lines.push([String(number), phase, String(round), role, utc(at), value, unit, source, plan.gauge.serial].map(csvCell).join(','));
      }
  return `${lines.join('\r\n')}\r\n`;
}

function samples(event: RunEvent): readonly (readonly [string, number, string, string])[] {
  if (event.type === 'reading')
    return [[event.quantity === 'pressure' ? event.role : `temperature ${event.role}`, event.observedAt, event.value, event.unit]];
  if (event.type !== 'trace') return [];
  return event.values.map((digits, index) => [
    'trace',
    event.startAt + index * event.stepMs,
    toText({ digits: BigInt(digits), scale: event.scale }),
    event.unit,
  ]);
}
