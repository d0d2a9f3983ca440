import { randomUUID } from 'node:crypto';
import { Ajv2020 } from 'ajv/dist/2020.js';
import type { Actor } from './actor';
import { endToken, listTokens, makeToken, readerOf } from './api-tokens';
import { at, now } from './clock';
import { listNames, openApi, readList, readTestRecord } from './read-api';
import { sealTest } from './sealing';
import { must, openTestFirm } from './test-firm.fixture';
import { makeThing } from './things';

/* Reading by a token: what the description says is what is answered, and nothing of another firm. */

process.env.VAST_ADDRESS = 'http://127.0.0.1:4747';
const bench = await openTestFirm('read-api');
const { iola, wren, stranger, firmId, finishedTest, sign } = bench;
afterAll(() => bench.close());

const bearing = (token: string) => new Headers({ authorization: `Bearer ${token}` });
const reader = async (actor: Actor = wren): Promise<Actor> => {
  const { token } = must(await makeToken(actor, { name: 'Accounts' }));
  const found = await readerOf(bearing(token));
  if (found === undefined) throw new Error('the token is not taken');
  return found;
};

/** All rows of a list, page by page. */
async function all(actor: Actor, name: string, limit: number): Promise<readonly Readonly<Record<string, unknown>>[]> {
  const rows: Readonly<Record<string, unknown>>[] = [];
  for (let after: string | null = ''; after !== null; ) {
    const query = new URLSearchParams({ limit: String(limit), ...(after === '' ? {} : { after }) });
    const page: { readonly rows: readonly Readonly<Record<string, unknown>>[]; readonly next: string | null } = must(
      await readList(actor, name, query),
    );
    rows.push(...page.rows);
    after = page.next;
  }
  return rows;
}

let testId = '';
beforeAll(async () => {
  ({ testId } = await finishedTest());
  await sign(testId);
  must(await sealTest(iola, testId));
  await finishedTest('let-by', 7);
  for (let one = 0; one < 7; one += 1) must(await makeThing(iola, 'site', { name: `Site ${one}`, address: `${one} Weir Lane` }));
});

test('a token is made by a supervisor, told once, and kept as a hash', async () => {
  expect(await makeToken(iola, { name: 'x' })).toMatchObject({ ok: false, status: 403 });
  expect(await makeToken(wren, { name: ' ' })).toMatchObject({ ok: false, problem: { field: 'name' } });
  expect(await makeToken(wren, { name: 'x', days: 9999 })).toMatchObject({ ok: false, problem: { field: 'days' } });
  const { token } = must(await makeToken(wren, { name: 'Once' }));
  expect(await readerOf(bearing(token))).toMatchObject({ firmId, role: 'office' });
  const { rows } = await bench.owner((client) => client.query<{ all: string }>('select row_to_json(t)::text as all from api_token t'));
  for (const row of rows) expect(row.all).not.toContain(token.slice(3));
  expect(JSON.stringify(await listTokens(wren))).not.toContain(token);
});

test('ended, expired, of nobody, cut or respelt: it reads nothing', async () => {
  const { token } = must(await makeToken(wren, { name: 'Short', days: 1 }));
  for (const wrong of ['', 'vs_', token.slice(0, -1), `${token}x`, token.toUpperCase(), `vs_${'a'.repeat(32)}`])
    expect(await readerOf(bearing(wrong))).toBeUndefined();
  expect(await readerOf(new Headers())).toBeUndefined();
  expect(await at(now() + 86_400_001, () => readerOf(bearing(token)))).toBeUndefined();
  const { id } = (await listTokens(wren)).find(({ name }) => name === 'Short') ?? { id: '' };
  expect(await endToken(stranger, id)).toMatchObject({ ok: false, status: 404 });
  expect(await endToken(iola, id)).toMatchObject({ ok: false, status: 403 });
  must(await endToken(wren, id));
  expect(await readerOf(bearing(token))).toBeUndefined();
  expect(await endToken(wren, id)).toMatchObject({ ok: false, status: 404 });
});

test.each(listNames)('%s: every row is as the description says, none twice and none left out, whatever the page', async (name) => {
  const actor = await reader();
  const description = openApi();
  const ajv = new Ajv2020({ strict: false, validateFormats: false, allErrors: true });
  const id = `https://check.invalid/${name}`;
  ajv.addSchema({ $id: id, ...description });
  const path = (description.paths as Record<string, { get: { operationId: string } }>)[`/api/v1/${name}`];
  const of = path.get.operationId.replace('list', '');
  const validate = ajv.compile({ $ref: `${id}#/components/schemas/${of}` });
  const rows = await all(actor, name, 3);
  for (const row of rows) {
    validate(row);
    expect(validate.errors ?? []).toEqual([]);
  }
  const key = (row: Readonly<Record<string, unknown>>) => String(row.id ?? row.testId);
  expect(rows.map(key)).toEqual((await all(actor, name, 500)).map(key));
  expect(new Set(rows.map(key)).size).toBe(rows.length);
  // Another firm's program sees nothing of it.
  const theirs = await all(await reader(stranger), name, 500);
  expect(theirs.filter((row) => rows.some((own) => key(own) === key(row)))).toEqual([]);
});

test('tests are gone through by when they changed: what comes later is found after the last', async () => {
  const actor = await reader();
  const before = await all(actor, 'tests', 500);
  expect(before.map(({ verdict }) => verdict).sort()).toEqual(['fail', 'pass']);
  const last = before.at(-1)?.changed;
  const { testId: newer } = await finishedTest('sound', 9);
  const { rows } = must(await readList(actor, 'tests', new URLSearchParams({ after: String(last) })));
  expect(rows.map((row) => row.testId)).toEqual([newer]);
});

test('a test is its record; what is asked wrongly is said', async () => {
  const actor = await reader();
  expect(must(await readTestRecord(actor, testId))).toMatchObject({ tests: [{ attempts: [{ number: 1 }] }] });
  expect(await readTestRecord(actor, 'x')).toMatchObject({ ok: false, status: 404 });
  expect(await readTestRecord(await reader(stranger), testId)).toMatchObject({ ok: false, status: 404 });
  expect(await readList(actor, 'people', new URLSearchParams())).toMatchObject({ ok: false, status: 404 });
  expect(await readList(actor, 'toString', new URLSearchParams())).toMatchObject({ ok: false, status: 404 });
  for (const limit of ['0', '501', '-1', '1.5', 'many'])
    expect(await readList(actor, 'sites', new URLSearchParams({ limit }))).toMatchObject({ ok: false, status: 400 });
  for (const after of ['1; drop table site', randomUUID().slice(1)])
    expect(await readList(actor, 'sites', new URLSearchParams({ after }))).toMatchObject({ ok: false, status: 400 });
});
