import { and, asc, gt, type SQL, sql } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import { recordSchema, type TestRecord } from '@/core/record';
import { type Transaction, withFirm } from '@/db/connection';
import * as schema from '@/db/schema';
import type { Actor } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { readDraft } from './drafts';
import { setting } from './environment';
import { type Row, told, toldColumns } from './exchange/tables';

/*
 * What other programs of the firm read. Each list is told once, here: what it answers, how it is gone through, and its description all
 * follow from it.
 */

interface List {
  readonly table: PgTable;
  readonly is: string;
  /** Its key, by which it is gone through: whatever is asked after this is what comes next. */
  readonly by: 'id' | 'testId';
  readonly without?: readonly string[];
}

const lists: Readonly<Record<string, List>> = {
  sites: { table: schema.site, is: 'Where the firm works', by: 'id' },
  systems: { table: schema.system, is: 'What is tested: pipework and ducts of a site', by: 'id' },
  components: { table: schema.component, is: 'What hangs on a system', by: 'id' },
  visits: { table: schema.visit, is: 'Days on site, with what is tested', by: 'id' },
  instruments: { table: schema.instrument, is: 'Gauges and other instruments', by: 'id' },
  calibrations: { table: schema.calibration, is: 'Calibrations of instruments', by: 'id' },
  equipment: { table: schema.equipment, is: 'What shows no figure: balls, plugs, pumps', by: 'id' },
  tests: {
    table: schema.standing,
    is: 'Tests with their verdicts',
    by: 'testId',
    without: ['points', 'forecast', 'start', 'rig', 'runId'],
  },
  certificates: { table: schema.certificate, is: 'Sealed papers', by: 'id', without: ['record', 'keyId'] },
  'follow-ups': { table: schema.followUp, is: 'What is still to be done after tests', by: 'id', without: ['remindedOn'] },
};

export const listNames = Object.keys(lists);

const columnNamed = (table: PgTable, key: string): PgColumn => (table as unknown as Record<string, PgColumn>)[key];
const shownColumns = ({ table, without = [] }: List): readonly (readonly [string, PgColumn])[] =>
  toldColumns(table).filter(([key]) => !without.includes(key));
/** Notes the transaction that changed a row last: then it can be asked what is new. */
const changedIn = ({ table }: List): PgColumn | undefined => (table as unknown as Record<string, PgColumn | undefined>).changedIn;

const [usual, most] = [100, 500];

interface ListPage {
  readonly rows: readonly Row[];
  readonly next: string | null;
  /** Up to which place of the register this knows; only of lists that can be asked what is new. */
  readonly since?: string;
}

/** The place of the register as it stands: whatever is written later, or was under way just now, lies behind it. */
async function placeNow(tx: Transaction): Promise<{ readonly epoch: string; readonly place: string }> {
  const { rows } = await tx.execute<{ epoch: string; place: string }>(
    sql`select register_epoch() as epoch, pg_snapshot_xmin(pg_current_snapshot())::text as place`,
  );
  return rows[0];
}

/**
 * A page of a list, in the order of its keys.
 * @param query `after`: the `next` of the page before; `limit`: rows, 1 to 500; `since`: as the first page of an earlier round named it,
 * for what was changed from then on. Of two that write at the same time neither is missed; a row may be told twice.
 */
export async function readList(actor: Actor, name: string, query: URLSearchParams): Promise<Answer<ListPage>> {
  const list = Object.hasOwn(lists, name) ? lists[name] : undefined;
  if (list === undefined) return refuse(404, 'not-found', `There is no list “${name.slice(0, 40)}”. There are: ${listNames.join(', ')}.`);
  const limit = query.get('limit') === null ? usual : Number(query.get('limit'));
  if (!Number.isInteger(limit) || limit < 1 || limit > most)
    return refuse(400, 'limit', `“limit” is a whole number from 1 to ${most}.`, 'limit');
  const after = query.get('after');
  if (after !== null && !isUuid(after)) return refuse(400, 'after', '“after” is what a page named as its “next”.', 'after');
  const changed = changedIn(list);
  const since = /^([\w-]{1,60}):(\d{1,20})$/.exec(query.get('since') ?? '');
  if (query.get('since') !== null && (since === null || changed === undefined))
    return refuse(
      400,
      'since',
      changed === undefined ? 'This list cannot be asked what is new: go through it.' : '“since” is what an earlier page named so.',
      'since',
    );
  const { table, by } = list;
  const key = columnNamed(table, by);
  return withFirm(actor.firmId, async (tx) => {
    const { epoch, place } = await placeNow(tx);
    const conditions: SQL[] = [
      ...(after === null ? [] : [gt(key, after)]),
      // Of another database, such as one that was restored, nothing is known: all of it is told.
      ...(since === null || changed === undefined || since[1] !== epoch ? [] : [sql`${changed} >= ${since[2]}::xid8`]),
    ];
    const rows = (await tx
      .select()
      .from(table)
      .where(and(...conditions))
      .orderBy(asc(key))
      .limit(limit + 1)) as Row[];
    const shown = rows.slice(0, limit);
    const fields = new Set(shownColumns(list).map(([field]) => field));
    return answer({
      rows: shown.map((row) =>
        Object.fromEntries(Object.entries(told({ table, page: 1 }, row).line).filter(([field]) => fields.has(field))),
      ),
      next: rows.length > limit ? String(shown[shown.length - 1][by]) : null,
      ...(changed === undefined ? {} : { since: `${epoch}:${place}` }),
    });
  });
}

/** A test as its record: plan, events and judgement of every attempt, sealed or not. */
export async function readTestRecord(actor: Actor, id: string): Promise<Answer<TestRecord>> {
  if (!isUuid(id)) return notFound;
  const draft = await readDraft(actor, id);
  return draft.ok ? answer(draft.value.record) : draft;
}

const typeOf = (column: PgColumn): Record<string, unknown> => {
  const type = column.getSQLType();
  const base: Record<string, unknown> = type.startsWith('timestamp')
    ? { type: 'string', format: 'date-time' }
    : type === 'date'
      ? { type: 'string', format: 'date' }
      : type === 'uuid'
        ? { type: 'string', format: 'uuid' }
        : type === 'boolean'
          ? { type: 'boolean' }
          : type === 'integer' || type === 'bigint'
            ? { type: 'integer' }
            : type === 'jsonb'
              ? {}
              : { type: 'string' };
  return column.notNull || base.type === undefined ? base : { ...base, type: [base.type, 'null'] };
};

const rowSchema = (list: List) => ({
  type: 'object',
  properties: Object.fromEntries(shownColumns(list).map(([key, column]) => [key, typeOf(column)])),
  required: shownColumns(list).map(([key]) => key),
  additionalProperties: false,
});

const titled = (name: string): string => name.replace(/(^|-)(\w)/g, (_, __, letter: string) => letter.toUpperCase());
const json = (of: unknown) => ({ content: { 'application/json': { schema: of } } });
const problem = { description: 'What is wrong, in words', ...json({ $ref: '#/components/schemas/Problem' }) };
const refusals = { '400': problem, '401': problem, '404': problem, '429': problem };
const sinceParameter = {
  name: 'since',
  in: 'query',
  description:
    'What the first page of an earlier round named so: then only what was changed from then on. A row may be told twice and none is missed',
  schema: { type: 'string' },
};
const byId = { name: 'id', in: 'path', required: true, schema: { type: 'string', format: 'uuid' } };

/** The description of all of it, for programs that write programs (OpenAPI 3.1). */
export const openApi = () => ({
  openapi: '3.1.0',
  info: {
    title: 'Vast Stone: reading',
    version: '1',
    description:
      'What a firm’s other programs may read: its register, its tests with their verdicts, and its sealed papers. A supervisor makes a token under Firm, Data in and out; it reads and changes nothing, and ends on its day.',
  },
  servers: [{ url: setting('VAST_ADDRESS') }],
  security: [{ token: [] }],
  paths: {
    ...Object.fromEntries(
      Object.entries(lists).map(([name, list]) => [
        `/api/v1/${name}`,
        {
          get: {
            operationId: `list${titled(name)}`,
            summary: list.is,
            parameters: [
              { name: 'after', in: 'query', description: 'The “next” of the page before', schema: { type: 'string' } },
              { name: 'limit', in: 'query', schema: { type: 'integer', minimum: 1, maximum: most, default: usual } },
              ...(changedIn(list) === undefined ? [] : [sinceParameter]),
            ],
            responses: {
              '200': {
                description: 'A page, in order; “next” is null on the last',
                ...json({
                  type: 'object',
                  properties: {
                    rows: { type: 'array', items: { $ref: `#/components/schemas/${titled(name)}` } },
                    next: { type: ['string', 'null'] },
                    ...(changedIn(list) === undefined ? {} : { since: { type: 'string' } }),
                  },
                  required: ['rows', 'next'],
                  additionalProperties: false,
                }),
              },
              ...refusals,
            },
          },
        },
      ]),
    ),
    '/api/v1/tests/{id}': {
      get: {
        operationId: 'readTest',
        summary: 'A test as its record: plan, events and judgement of every attempt, sealed or not',
        parameters: [byId],
        responses: { '200': { description: 'The record', ...json({ $ref: '#/components/schemas/Record' }) }, ...refusals },
      },
    },
    '/api/v1/certificates/{id}/record': {
      get: {
        operationId: 'readRecord',
        summary: 'A sealed record, letter for letter as it was sealed',
        parameters: [byId],
        responses: { '200': { description: 'The record', ...json({ $ref: '#/components/schemas/Record' }) }, ...refusals },
      },
    },
    '/api/v1/certificates/{id}/pdf': {
      get: {
        operationId: 'readPaper',
        summary: 'A sealed paper as PDF',
        parameters: [byId],
        responses: {
          '200': { description: 'The paper', content: { 'application/pdf': { schema: { type: 'string', format: 'binary' } } } },
          ...refusals,
        },
      },
    },
  },
  components: {
    securitySchemes: { token: { type: 'http', scheme: 'bearer' } },
    schemas: {
      ...Object.fromEntries(Object.entries(lists).map(([name, list]) => [titled(name), rowSchema(list)])),
      Record: recordSchema,
      Problem: {
        type: 'object',
        properties: {
          problem: {
            type: 'object',
            properties: { code: { type: 'string' }, message: { type: 'string' }, field: { type: 'string' } },
            required: ['code', 'message'],
          },
        },
        required: ['problem'],
      },
    },
  },
});
