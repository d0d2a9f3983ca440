import { type SQL, sql } from 'drizzle-orm';
import { getTableConfig, type PgColumn, type PgTable } from 'drizzle-orm/pg-core';
import type { Transaction } from '@/db/connection';
import * as schema from '@/db/schema';
import { sha256Of } from '../hash';

/*
 * Every table of the database, and whether a firm takes it along. What is not named here fails a test: nothing is forgotten by being
 * new.
 */

/** A table that goes out, in an order in which it can come in: what is referred to stands before what refers to it. */
export interface Goes {
  readonly table: PgTable;
  /** Rows read at a time: fewer where a row is large. */
  readonly page: number;
  /** Columns that stand in files of their own, named in the row: by the SHA-256 of what is in them, or by a name that the row has. */
  readonly files?: Readonly<Record<string, { readonly folder: string; readonly ending: string; readonly by?: string }>>;
  /** What its rows are to whoever reads what came in. */
  readonly called?: string;
  /** Also written as a table for a spreadsheet. */
  readonly sheet?: true;
  /** A firm that has rows of it before anything came in still counts as empty. */
  readonly mayStand?: true;
  /** Not put back, but held against what is made again from the rest. */
  readonly compared?: true;
}

const picture = { folder: 'pictures', ending: '.jpg' };

export const going: readonly Goes[] = [
  { table: schema.firm, page: 1, mayStand: true },
  { table: schema.firmLogo, page: 5, files: { picture: { folder: 'pictures', ending: '.png' } } },
  { table: schema.person, page: 500, sheet: true, mayStand: true },
  { table: schema.site, page: 500, sheet: true, called: 'sites' },
  { table: schema.system, page: 200, sheet: true, called: 'systems' },
  { table: schema.component, page: 500, sheet: true, called: 'components' },
  { table: schema.equipment, page: 500, sheet: true },
  { table: schema.visit, page: 500, sheet: true, called: 'visits' },
  { table: schema.clash, page: 500 },
  { table: schema.instrument, page: 500, sheet: true, called: 'instruments' },
  { table: schema.calibration, page: 500, sheet: true, called: 'calibrations' },
  { table: schema.houseRule, page: 500, sheet: true },
  { table: schema.ownProcedure, page: 200 },
  { table: schema.test, page: 500, sheet: true, called: 'tests' },
  { table: schema.run, page: 100 },
  { table: schema.event, page: 1000, called: 'entries of their logs' },
  { table: schema.quarantine, page: 50 },
  { table: schema.photo, page: 5, called: 'photographs', files: { picture, copy: picture } },
  { table: schema.signature, page: 100 },
  { table: schema.sealKey, page: 100, mayStand: true },
  {
    table: schema.certificate,
    page: 20,
    sheet: true,
    called: 'certificates',
    files: { record: { folder: 'records', ending: '.json', by: 'number' } },
  },
  { table: schema.certificateTest, page: 500, sheet: true },
  { table: schema.withdrawal, page: 500, sheet: true },
  { table: schema.followUp, page: 500, sheet: true, called: 'follow-ups' },
  { table: schema.message, page: 200, sheet: true, mayStand: true },
  { table: schema.standing, page: 200, sheet: true, compared: true },
];

/** Tables that stay, and why. */
export const staying: readonly { readonly table: PgTable; readonly why: string }[] = [
  { table: schema.command, why: 'answers to what was asked in the last days, kept for retries' },
  { table: schema.photoPiece, why: 'pieces of pictures that are on their way; the device sends them again' },
  { table: schema.signLink, why: 'private links end with the installation that made them' },
  { table: schema.calendarFeed, why: 'private calendar addresses end with the installation that made them' },
  { table: schema.exchange, why: 'what was exported and imported here' },
  { table: schema.apiToken, why: 'tokens of other programs end with the installation that made them' },
  { table: schema.user, why: 'accounts: people come in as put away, and are invited anew' },
  { table: schema.account, why: 'passwords' },
  { table: schema.session, why: 'who is signed in' },
  { table: schema.verification, why: 'confirmations on their way' },
  { table: schema.knownDevice, why: 'devices that people sign in from' },
  { table: schema.signInAttempt, why: 'tries at signing in' },
  { table: schema.mark, why: 'the installation itself' },
];

/** As the database names it. */
export const nameOf = (table: PgTable): string => {
  const { name, schema: own } = getTableConfig(table);
  return own === undefined ? name : `${own}.${name}`;
};

const isBytes = (column: PgColumn): boolean => column.getSQLType() === 'bytea';

/** What opens something: by a private key one seals, by the code on a tag one writes readings. */
const secrets = new Map<PgTable, readonly string[]>([
  [schema.sealKey, ['privateKey']],
  [schema.followUp, ['tag']],
]);

/** Columns that are told; the rest is the database's own affair, or a secret. */
export function toldColumns(table: PgTable): readonly (readonly [string, PgColumn])[] {
  const untold = new Set(['firmId', 'changedIn', 'changed', ...(secrets.get(table) ?? [])]);
  return Object.entries(table as unknown as Record<string, PgColumn>).filter(
    ([key, column]) => typeof column?.getSQLType === 'function' && !untold.has(key) && column.generated === undefined,
  );
}

export type Row = Readonly<Record<string, unknown>>;
/** A row as a line of a file tells it. */
export type Told = Readonly<Record<string, unknown>>;

/** What stands in a file of its own. */
export interface Apart {
  readonly name: string;
  readonly data: Buffer;
}

/** A row as it is told, and what of it stands in files of its own. */
export function told({ table, files = {} }: Goes, row: Row): { readonly line: Told; readonly apart: readonly Apart[] } {
  const apart: Apart[] = [];
  const line = Object.fromEntries(
    toldColumns(table).map(([key]) => {
      const value = row[key];
      const file = files[key];
      if (file !== undefined) {
        const data = Buffer.isBuffer(value) ? value : Buffer.from(String(value));
        const name = `${file.folder}/${file.by === undefined ? sha256Of(data) : String(row[file.by])}${file.ending}`;
        apart.push({ name, data });
        return [key, { file: name }];
      }
      if (value instanceof Date) return [key, value.toISOString()];
      return [key, Buffer.isBuffer(value) ? value.toString('base64') : (value ?? null)];
    }),
  );
  return { line, apart };
}

/** A row that can be kept, from what a line tells. @throws Error with words where it tells something else */
export function heard({ table }: Goes, line: Told): Record<string, unknown> {
  const columns = new Map(toldColumns(table));
  const unknown = Object.keys(line).find((key) => !columns.has(key));
  if (unknown !== undefined) throw new Error(`has “${unknown.slice(0, 40)}”, which is not known here`);
  return Object.fromEntries(
    [...columns].map(([key, column]) => {
      const value = line[key];
      if (value === undefined) throw new Error(`lacks “${key}”`);
      if (value === null || Buffer.isBuffer(value)) return [key, value];
      if (column.dataType === 'date') {
        const at = new Date(String(value));
        if (Number.isNaN(at.getTime())) throw new Error(`“${key}” is no moment`);
        return [key, at];
      }
      if (isBytes(column)) return [key, Buffer.from(String(value), 'base64')];
      const wanted = column.dataType;
      if ((wanted === 'string' || wanted === 'number' || wanted === 'boolean') && typeof value !== wanted)
        throw new Error(`“${key}” must be a ${wanted === 'string' ? 'text' : wanted === 'number' ? 'number' : 'yes or no'}`);
      return [key, value];
    }),
  );
}

/** Its key, by which it is gone through in order. */
export function keyOf(table: PgTable): readonly PgColumn[] {
  const { primaryKeys, columns } = getTableConfig(table);
  return primaryKeys[0]?.columns ?? columns.filter(({ primary }) => primary);
}

/** Of years of history one statement takes longer than any that somebody waits for. */
export const patiently = (tx: Transaction): Promise<unknown> =>
  tx.execute(sql`set local statement_timeout = '15min'; set local idle_in_transaction_session_timeout = '5min'`);

/** All rows of a table, a page at a time, so that memory stays flat however many there are. */
export async function* pagesOfTable(tx: Transaction, { table, page }: Goes): AsyncGenerator<readonly Row[]> {
  const key = keyOf(table);
  const all = Object.entries(table as unknown as Record<string, PgColumn>);
  const fields = key.map((column) => [all.find(([, one]) => one === column || one?.name === column.name)?.[0] ?? '', column] as const);
  let after: SQL | undefined;
  for (;;) {
    const rows = (await tx
      .select()
      .from(table)
      .where(after)
      .orderBy(...key)
      .limit(page)) as Row[];
    if (rows.length > 0) yield rows;
    if (rows.length < page) return;
    const last = rows[rows.length - 1];
    const places = sql.join(
      fields.map(([, column]) => sql`${column}`),
      sql`, `,
    );
    const values = sql.join(
      fields.map(([name, column]) => sql.param(last[name], column)),
      sql`, `,
    );
    after = sql`(${places}) > (${values})`;
  }
}
