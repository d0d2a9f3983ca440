import { isPressureUnit, type PressureUnit } from '@/core/quantities';
import { type LogMapping, readTime, type TimeOrder } from '@/core/record';
import type { Peek } from '@/workers/gauge-log';

const spoken: Readonly<Record<string, PressureUnit>> = {
  'inh₂o': 'inH2O',
  'in w.c.': 'inH2O',
  inwc: 'inH2O',
  'mmh₂o': 'mmH2O',
  psig: 'psi',
  barg: 'bar',
};

/** A unit of pressure in a header, such as “Pressure (mbar)” or “p [psi]”. */
function unitIn(header: string): PressureUnit | undefined {
  for (const word of header.split(/[\s()[\],;/]+/)) {
    if (isPressureUnit(word)) return word;
    const known = spoken[word.toLowerCase()];
    if (known !== undefined) return known;
  }
  return undefined;
}

/** The order of a date by what cannot be otherwise; day first where both are possible. */
function orderOf(cells: readonly string[]): TimeOrder {
  for (const order of ['ymd', 'dmy', 'mdy'] as const)
    if (cells.length > 0 && cells.every((cell) => readTime(cell.includes(':') ? cell : `${cell} 00:00`, order) !== undefined)) return order;
  return 'ymd';
}

/** Which columns are what, as far as header and first rows tell; each can be changed. */
export function guessMapping({ header, rows }: Peek, unit: PressureUnit, offsetMinutes: number): LogMapping {
  const column = (test: (cell: string) => boolean) =>
    header.findIndex((_, index) => rows.length > 0 && rows.every((cells) => test((cells[index] ?? '').trim())));
  const clock = column((cell) => /\d{1,2}:\d{2}/.test(cell));
  const whole = clock >= 0 && rows.every((cells) => /\d[-/.]\d/.test(cells[clock] ?? ''));
  const date = whole ? -1 : column((cell) => /^\d{1,4}[-/.]\d{1,2}[-/.]\d{1,4}$/.test(cell));
  const figures = header
    .map((name, index) => ({ name, index }))
    .filter(
      ({ index }) =>
        index !== clock && index !== date && rows.every((cells) => /^[+-−]?\d+(?:[.,]\d+)?\s*\S*$/.test((cells[index] ?? '').trim())),
    );
  const named = figures.find(({ name }) => !/baro|atmos/i.test(name) && /press|druck|pa\b|bar|psi|h2o|h₂o/i.test(name));
  const seconds = clock < 0 ? figures.find(({ name }) => /time|sec|^t\b|\bs\b/i.test(name)) : undefined;
  const value = named ?? figures.find(({ index }) => index !== seconds?.index);
  const dates = rows.map((cells) => (date >= 0 ? `${cells[date]} ${cells[clock]}` : (cells[clock] ?? '')));
  const other = (test: RegExp) => figures.find(({ name, index }) => index !== value?.index && test.test(name));
  const pipe = other(/temp|°|\bpipe\b/i);
  const air = other(/baro|atmos|\bair\b/i);
  return {
    time: clock >= 0 ? clock : (seconds?.index ?? 0),
    ...(date >= 0 ? { date } : {}),
    value: value?.index ?? Math.min(1, header.length - 1),
    order: clock >= 0 ? orderOf(dates) : 'seconds',
    unit: unitIn(header[value?.index ?? 0] ?? '') ?? unit,
    offsetMinutes,
    lostHour: 'gap',
    ...(pipe === undefined ? {} : { pipe: { column: pipe.index, unit: /f\b|°f/i.test(pipe.name) ? ('F' as const) : ('C' as const) } }),
    ...(air === undefined ? {} : { air: { column: air.index, unit: unitIn(air.name) ?? ('hPa' as const) } }),
  };
}
