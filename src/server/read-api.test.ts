import { randomUUID } from 'node:crypto';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { Client } from 'pg';
import type { Actor } from './actor';
import { endToken, listTokens, makeToken, readerOf } from './api-tokens';
import { accountOf, addPerson, putAway } from './auth';
import { at, now } from './clock';
import { route } from './door';
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

test('whoever made it has left: it reads nothing any more', async () => {
  const leaver = await addPerson({ firmId, name: 'Leaver', email: 'leaver@api.invalid', password: 'long-enough-7', role: 'supervisor' });
  const { token } = must(await makeToken(leaver, { name: 'Left behind' }));
  expect(await readerOf(bearing(token))).toBeDefined();
  const account = await accountOf('leaver@api.invalid');
  if (account === undefined) throw new Error('no account');
  await putAway(account);
  expect(await readerOf(bearing(token))).toBeUndefined();
});

describe('through the door', () => {
  const list = route('GET /api/v1/[list]', ({ actor, params, query }) => readList(actor, params.list, query));
  const ask = (address: string, headers: Record<string, string> = {}) =>
    list(new Request(`http://127.0.0.1:4747${address}`, { headers }), {
      params: Promise.resolve({ list: address.split('/')[3].split('?')[0] }),
    });

  test('without a token, with another program’s words, or with a session alone: refused, and told what to send', async () => {
    for (const headers of [
      {},
      { authorization: 'Basic eDp5' },
      { authorization: 'Bearer x' },
      { cookie: 'better-auth.session_token=abc.def' },
    ]) {
      const response = await ask('/api/v1/sites', headers as Record<string, string>);
      expect(response.status).toBe(401);
      expect((await response.json()).problem).toMatchObject({
        code: 'no-token',
        message: expect.stringContaining('Authorization: Bearer'),
      });
    }
  });

  test('with one: the rows, kept by nobody on the way, and nothing that signs anybody in', async () => {
    const { token } = must(await makeToken(wren, { name: 'Door' }));
    const response = await ask('/api/v1/sites?limit=2', { authorization: `Bearer ${token}` });
    expect(response.status).toBe(200);
    expect(response.headers.get('cache-control')).toContain('no-store');
    expect(response.headers.get('set-cookie')).toBeNull();
    const page = await response.json();
    expect(page.rows).toHaveLength(2);
    expect(page.next).toBe(page.rows[1].id);
    expect((await listTokens(wren)).find(({ name }) => name === 'Door')?.usedAt).toBeDefined();
    const none = await ask('/api/v1/people', { authorization: `Bearer ${token}` });
    expect([none.status, (await none.json()).problem.message]).toEqual([404, expect.stringContaining('sites, systems')]);
  });
});

test('no more tokens than somebody can oversee', async () => {
  for (let one = 0; one < 20; one += 1) {
    const made = await makeToken(stranger, { name: `Program ${one}` });
    if (!made.ok) throw new Error(made.problem.message);
  }
  expect(await makeToken(stranger, { name: 'One more' })).toMatchObject({ ok: false, problem: { code: 'too-many' } });
  for (const { id, state } of await listTokens(stranger)) if (state === 'valid') must(await endToken(stranger, id));
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

test('what is new is asked for from where one was: also what was under way while one looked', async () => {
  const actor = await reader();
  const read = async (since: string) => must(await readList(actor, 'tests', new URLSearchParams({ since })));
  const { rows: all, since } = must(await readList(actor, 'tests', new URLSearchParams()));
  expect(all.map(({ verdict }) => verdict).sort()).toEqual(['fail', 'pass']);
  expect((await read(since ?? '')).rows).toEqual([]);
  const { testId: newer } = await finishedTest('sound', 9);
  expect((await read(since ?? '')).rows.map((row) => row.testId)).toEqual([newer]);
  // Somebody writes, has not finished, and another who began later has: the first is found when it is there.
  const slow = new Client({ connectionString: process.env.VAST_DATABASE_URL });
  await slow.connect();
  await slow.query(`begin; select set_config('app.firm_id', '${firmId}', true)`);
  await slow.query('update standing set phase = $1 where test_id = $2', ['slow', testId]);
  const { testId: quick } = await finishedTest('sound', 10);
  const looked = await read(since ?? '');
  expect(looked.rows.map((row) => row.testId)).toContain(quick);
  await slow.query('commit');
  await slow.end();
  expect((await read(looked.since ?? '')).rows.map((row) => row.testId)).toContain(testId);
  // Of another database everything is told.
  expect((await read('1-1:99999999')).rows).toHaveLength(4);
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
  for (const since of ['x', '1-1', ':5', "1-1:5' or true"])
    expect(await readList(actor, 'sites', new URLSearchParams({ since }))).toMatchObject({ ok: false, status: 400 });
  expect(await readList(actor, 'certificates', new URLSearchParams({ since: '1-1:5' }))).toMatchObject({ ok: false, status: 400 });
  for (const after of ['1; drop table site', randomUUID().slice(1)])
    expect(await readList(actor, 'sites', new URLSearchParams({ after }))).toMatchObject({ ok: false, status: 400 });
});
