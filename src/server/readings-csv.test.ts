import { judge, type RunEvent } from '@/core/judging';
import { csvColumns, readingsCsv, recordFormat, recordVersion, type TestRecord } from '@/core/record';
import { exampleEvents, examplePlan, fixtureRun } from '@/core/simulation/examples.fixture';
import { withReadings } from './readings-csv';

const plan = examplePlan('gas-piping-psi');
const events = exampleEvents(plan, 'pipework-leak');
const record: TestRecord = {
  format: recordFormat,
  version: recordVersion,
  tests: [{ attempts: [{ run: fixtureRun, number: 1, plan, events, judgement: judge(plan, events) }] }],
};
const utc = (ms: number) => new Date(ms).toISOString();
const csv = readingsCsv(record, utc);
const back = (text: string) => {
  const made = withReadings(record, text);
  if (!made.ok) throw new Error(`${made.problem.code}: ${made.problem.message}`);
  return made.value.tests[0].attempts[0];
};
const code = (text: string) => {
  const made = withReadings(record, text);
  return made.ok ? 'fine' : made.problem.code;
};
const readings = (list: readonly RunEvent[]) =>
  list.flatMap((event) =>
    event.type === 'reading' ? [[event.phase, event.role, event.quantity, event.value, event.unit, event.observedAt]] : [],
  );

test('every reading comes back as it was, and is judged the same', () => {
  const attempt = back(csv);
  expect(readings(attempt.events)).toEqual(readings(events));
  const [before, after] = [judge(plan, events), judge(plan, attempt.events)];
  expect(after.reasons).toEqual(before.reasons);
  expect(attempt).not.toHaveProperty('judgement');
});

test('traces come back sample by sample, in chunks of 600 at most', () => {
  const samples = (list: readonly RunEvent[]) =>
    list.flatMap((event) =>
      event.type === 'trace' ? event.values.map((digits, index) => [event.startAt + index * event.stepMs, digits / 10 ** event.scale]) : [],
    );
  const attempt = back(csv);
  expect(samples(attempt.events)).toEqual(samples(events));
  for (const event of attempt.events) if (event.type === 'trace') expect(event.values.length).toBeLessThanOrEqual(600);
});

test('columns may stand in any order, with a mark at the head of the file and blank lines', () => {
  const rows = csv
    .trim()
    .split('\r\n')
    .map((line) => line.split(',').reverse().join(','));
  expect(readings(back(`\uFEFF${rows.join('\n')}\n\n`).events)).toEqual(readings(events));
});

test('a gap in a trace begins a new chunk, and what is not a reading is kept', () => {
  const lines = csv.split('\r\n');
  const middle = lines.findIndex((line) => line.includes(',trace,')) + 10;
  const attempt = back([...lines.slice(0, middle), ...lines.slice(middle + 3)].join('\r\n'));
  const count = (list: readonly RunEvent[], type: RunEvent['type']) => list.filter((event) => event.type === type).length;
  expect(count(attempt.events, 'trace')).toBe(count(events, 'trace') + 1);
  for (const type of ['check', 'observation', 'caution', 'plant'] as const) expect(count(attempt.events, type)).toBe(count(events, type));
});

const head = csvColumns.join(',');
const line = (change: Partial<Record<(typeof csvColumns)[number], string>>) => {
  const row = {
    test: '1',
    attempt: '1',
    phase: 'hold',
    round: '1',
    role: 'start',
    quantity: 'pressure',
    point: '',
    observed_at_utc: '2026-01-05T09:00:00.000Z',
    value: '3.25',
    unit: 'psi',
    qualifier: '',
    source: 'keypad',
    instrument_serial: 'SIM',
    event: '',
    withdrawn: '',
    ...change,
  };
  return `${head}\n${csvColumns.map((column) => row[column]).join(',')}\n`;
};

test.each([
  [{}, 'fine'],
  [{ test: '2' }, 'csv-test'],
  [{ attempt: '2' }, 'csv-attempt'],
  [{ phase: 'nowhere' }, 'csv-phase'],
  [{ round: '0' }, 'csv-round'],
  [{ role: 'middle' }, 'csv-role'],
  [{ quantity: 'weight' }, 'csv-quantity'],
  [{ value: '3.2.5' }, 'csv-value'],
  [{ value: '' }, 'csv-value'],
  [{ unit: 'stone' }, 'csv-unit'],
  [{ role: 'trace', unit: 'mm' }, 'csv-unit'],
  [{ observed_at_utc: '2026-01-05T09:00:00' }, 'csv-time'],
  [{ observed_at_utc: 'noon Z' }, 'csv-time'],
  [{ qualifier: 'above range' }, 'csv-qualifier'],
  [{ source: 'memory' }, 'csv-source'],
])('%j: %s', (change, expected) => expect(code(line(change))).toBe(expected));

test('an empty file, and one without its columns, say what is missing', () => {
  expect(code('')).toBe('csv-columns');
  expect(withReadings(record, 'time,value\n1,2\n')).toMatchObject({
    ok: false,
    problem: { message: expect.stringContaining('test, attempt, phase') },
  });
});
