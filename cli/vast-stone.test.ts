import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const program = join(import.meta.dirname, 'vast-stone.mjs');
const folder = mkdtempSync(join(tmpdir(), 'vast-stone-'));
const file = (name: string) => join(folder, name);

const run = (...args: string[]): Promise<{ code: number; out: string; error: string }> =>
  new Promise((resolve) => {
    execFile(process.execPath, [program, ...args], { maxBuffer: 1e8, env: { ...process.env, NODE_OPTIONS: '' } }, (failure, out, error) =>
      resolve({ code: failure === null ? 0 : Number(failure.code), out, error }),
    );
  });

describe('simulate and judge', () => {
  test.each([
    ['sound', 'pass'],
    ['small-leak', 'pass with permitted drop'],
    ['masked-leak', 'fail'],
    ['unzeroed', 'invalid'],
  ])('%s is judged %s, exit 0 whatever the verdict', async (fault, verdict) => {
    const path = file(`${fault}.json`);
    expect((await run('simulate', '--procedure', 'domestic-gas-millibar', '--fault', fault, '--seed', '11', '--out', path)).code).toBe(0);
    const { code, out } = await run('judge', path);
    expect(code).toBe(0);
    expect(JSON.parse(out)).toMatchObject({ verdict, codes: expect.arrayContaining(['simulated']) });
  });

  test('the same seed writes the same file', async () => {
    const [first, second] = await Promise.all([run('simulate', '--seed', '4'), run('simulate', '--seed', '4')]);
    expect(first.out).toBe(second.out);
  });
});

describe('what cannot be read: exit 2 and the place of the fault', () => {
  const good = () => JSON.parse(readFileSync(file('sound.json'), 'utf8'));
  const judged = async (text: string) => {
    writeFileSync(file('bad.json'), text);
    return run('judge', file('bad.json'));
  };
  test.each([
    ['broken JSON', () => '{\n "format": "vast-stone-record",\n "version": 1,,\n}', /line 3, column 15/],
    ['an empty file', () => '', /ends too early or is empty/],
    ['another format', () => JSON.stringify({ ...good(), format: 'x' }), /format must be "vast-stone-record"/],
    [
      'a reading that is no decimal',
      () => JSON.stringify(good()).replace(/"value":"20\.\d\d"/, '"value":"20,5"'),
      /attempts › 0 › events › \d+ › value must match/,
    ],
    ['an event of no known type', () => JSON.stringify(good()).replace('"type":"pen"', '"type":"pencil"'), /events › 0/],
    ['a field that is not known', () => JSON.stringify({ ...good(), extra: 1 }), /“extra”, which is not known here/],
  ])('%s', async (_, text, message) => {
    const { code, error } = await judged(text());
    expect(code).toBe(2);
    expect(error).toMatch(message);
  });

  test('no file, no such command, no such option, no such fault', async () => {
    for (const args of [
      ['judge', file('none.json')],
      ['judge'],
      ['guess'],
      ['simulate', '--leak'],
      ['simulate', '--fault', 'gremlins'],
      ['simulate', '--seed', 'x'],
      ['verify', file('none.pdf')],
    ])
      expect((await run(...args)).code).toBe(2);
  });
});

test('a plan that was changed after it was made is judged as it says now, and said to be changed', async () => {
  const record = JSON.parse(readFileSync(file('sound.json'), 'utf8'));
  expect(JSON.parse((await run('judge', file('sound.json'))).out).attempts[0].planIntact).toBe(true);
  record.attempts[0].plan.limit = '9';
  writeFileSync(file('changed.json'), JSON.stringify(record));
  expect(JSON.parse((await run('judge', file('changed.json'))).out).attempts[0].planIntact).toBe(false);
});

test('a record without a seal is not verified', async () => {
  const { code, out } = await run('verify', file('sound.json'));
  expect(code).toBe(1);
  expect(JSON.parse(out)).toMatchObject({ state: 'not sealed', verdict: 'pass' });
});

test('the published schema is the one that readers use', async () => {
  const { out } = await run('schema');
  expect(JSON.parse(readFileSync(join(import.meta.dirname, '..', 'docs', 'record.schema.json'), 'utf8'))).toEqual(JSON.parse(out));
});
