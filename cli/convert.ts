import { parseArgs } from 'node:util';
import { readingsCsv } from '@/core/record';
import { readRecord } from '@/server/reader';
import { withReadings } from '@/server/readings-csv';
import { deliver, fail, readBytes } from './files';

/** A record's readings as CSV, or a CSV's readings into a record. */
export async function convert(args: readonly string[]): Promise<number> {
  const { positionals, values } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: { into: { type: 'string' }, out: { type: 'string' } },
  });
  const [name] = positionals;
  const data = await readBytes(name);
  if (typeof data === 'string') return fail(data);
  const text = data.toString('utf8');
  if (values.into === undefined) {
    if (name.toLowerCase().endsWith('.csv'))
      return fail('A CSV holds only readings: name the record that they belong to with --into RECORD.json.');
    const record = readRecord(text);
    if (!record.ok) return fail(`${name}: ${record.problem.message}`);
    await deliver(
      readingsCsv(record.value, (ms) => new Date(ms).toISOString()),
      values.out,
    );
    return 0;
  }
  const base = await readBytes(values.into);
  if (typeof base === 'string') return fail(base);
  const record = readRecord(base.toString('utf8'));
  if (!record.ok) return fail(`${values.into}: ${record.problem.message}`);
  const made = withReadings(record.value, text);
  if (!made.ok) return fail(`${name}: ${made.problem.code}: ${made.problem.message}`);
  await deliver(`${JSON.stringify(made.value, null, 1)}\n`, values.out);
  return 0;
}
