import { getTableConfig, type PgColumn, type PgTable } from 'drizzle-orm/pg-core';
import fc from 'fast-check';
import * as schema from '@/db/schema';
import { sha256Of } from '../hash';
import { type Goes, going, heard, keyOf, nameOf, staying, told, toldColumns } from './tables';

/* What every table tells, and hears again: for rows of any kind, without a database. */

const isText = (type: string): boolean => type === 'text';

/** Any value that a column can have, by its type. */
function anyOf(column: PgColumn): fc.Arbitrary<unknown> {
  const type = column.getSQLType();
  const known: fc.Arbitrary<unknown> =
    type === 'bytea'
      ? fc.uint8Array({ maxLength: 60 }).map((bytes) => Buffer.from(bytes))
      : type.startsWith('timestamp')
        ? fc.date({ min: new Date(0), max: new Date(4e12), noInvalidDate: true })
        : type === 'boolean'
          ? fc.boolean()
          : type === 'integer' || type === 'bigint'
            ? fc.integer()
            : type === 'jsonb'
              ? fc.oneof(fc.dictionary(fc.string(), fc.string()), fc.array(fc.integer()))
              : type === 'uuid'
                ? fc.uuid()
                : type === 'date'
                  ? fc.constant('2026-12-02')
                  : fc.string({ unit: 'grapheme' });
  return column.notNull ? known : fc.option(known, { nil: null });
}

/** Any row of a table; what names a file of its own is a number, as the register makes them. */
const rowOf = ({ table, files = {} }: Goes): fc.Arbitrary<Record<string, unknown>> => {
  const names = new Set(Object.values(files).flatMap(({ by }) => by ?? []));
  return fc.record(
    Object.fromEntries(
      toldColumns(table).map(([key, column]) => [
        key,
        names.has(key) ? fc.integer({ min: 10_000, max: 99_999 }).map((count) => `2026-${count}`) : anyOf(column),
      ]),
    ),
  );
};

/** A line as it comes back through a file, with what stood apart put in again. */
function joined(one: Goes, row: Record<string, unknown>): Record<string, unknown> {
  const { line, apart } = told(one, row);
  const read = JSON.parse(JSON.stringify(line)) as Record<string, unknown>;
  const files = new Map(apart.map(({ name, data }) => [name, data]));
  for (const [key, { by }] of Object.entries(one.files ?? {})) {
    const name = (read[key] as { file: string }).file;
    const data = files.get(name);
    if (data === undefined) throw new Error(`${name} was not told`);
    read[key] = by === undefined ? data : data.toString('utf8');
  }
  return read;
}

describe.each(going.map((one) => [nameOf(one.table), one] as const))('%s', (_, one) => {
  test('any row comes back as it went', () => {
    fc.assert(
      fc.property(rowOf(one), (row) => {
        expect(heard(one, joined(one, row))).toEqual(row);
      }),
      { numRuns: 60 },
    );
  });

  test('a line that lacks something, or has something that nobody knows, is refused by its name', () => {
    const columns = toldColumns(one.table).map(([key]) => key);
    fc.assert(
      fc.property(rowOf(one), fc.nat(columns.length - 1), (row, at) => {
        const line = joined(one, row);
        const { [columns[at]]: gone, ...rest } = line;
        expect(gone).toBeDefined();
        expect(() => heard(one, rest)).toThrow(`lacks “${columns[at]}”`);
        expect(() => heard(one, { ...line, extra: 1 })).toThrow('has “extra”, which is not known here');
      }),
      { numRuns: 20 },
    );
  });

  test('a value of another kind is refused, and no text is taken for a figure', () => {
    const [row] = fc.sample(rowOf(one), 1);
    const line = joined(one, row);
    for (const [key, column] of toldColumns(one.table)) {
      const type = column.getSQLType();
      if (one.files?.[key] !== undefined || type === 'jsonb' || type === 'bytea') continue;
      const wrong = type.startsWith('timestamp') ? 'yesterday' : isText(type) || type === 'uuid' || type === 'date' ? 5 : 'five';
      expect(() => heard(one, { ...line, [key]: wrong })).toThrow(key);
    }
  });

  test('it has a key to be gone through by, and says of which firm it is to nobody', () => {
    expect(keyOf(one.table).length).toBeGreaterThan(0);
    const columns = toldColumns(one.table).map(([key]) => key);
    expect(columns).not.toContain('firmId');
    expect(columns).not.toContain('changedIn');
  });
});

test('no table comes before one that it refers to, and none refers to one that stays', () => {
  const places = new Map<PgTable, number>(going.map(({ table }, index) => [table, index]));
  for (const { table } of going)
    for (const key of getTableConfig(table).foreignKeys) {
      const { foreignTable } = key.reference();
      const [own, other] = [places.get(table), places.get(foreignTable)];
      expect([nameOf(table), nameOf(foreignTable), other !== undefined]).toEqual([nameOf(table), nameOf(foreignTable), true]);
      expect([nameOf(table), nameOf(foreignTable), Number(other) < Number(own)]).toEqual([nameOf(table), nameOf(foreignTable), true]);
    }
});

test('what opens something is told by no table', () => {
  const secret = /private|password|token/i;
  for (const { table } of going)
    for (const [key] of toldColumns(table)) expect([nameOf(table), key, secret.test(key)]).toEqual([nameOf(table), key, false]);
  expect(toldColumns(schema.followUp).map(([key]) => key)).not.toContain('tag');
  expect(toldColumns(schema.sealKey).map(([key]) => key)).toContain('publicKey');
  // Those that hold a secret stay, or hide it.
  const hiding = going.filter(({ table }) => Object.keys(table).some((key) => secret.test(key))).map(({ table }) => nameOf(table));
  expect(hiding).toEqual(['seal_key']);
  expect(staying.length).toBeGreaterThan(10);
});

test('a picture is named by what is in it, and the same picture once', () => {
  const photographs = going.find(({ table }) => table === schema.photo);
  if (photographs === undefined) throw new Error('photographs stay');
  fc.assert(
    fc.property(rowOf(photographs), (row) => {
      const { apart } = told(photographs, row);
      expect(apart).toHaveLength(2);
      for (const { name, data } of apart) expect(name).toBe(`pictures/${sha256Of(data)}.jpg`);
    }),
  );
});
