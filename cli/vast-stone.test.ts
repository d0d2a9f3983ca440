import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { isAsked, procedures } from '@/core/procedures';
import { main } from './main';

const program = join(import.meta.dirname, 'vast-stone.mjs');
const folder = mkdtempSync(join(tmpdir(), 'vast-stone-'));
const file = (name: string) => join(folder, name);

const run = (...args: string[]): Promise<{ code: number; out: string; error: string }> =>
  new Promise((resolve) => {
    execFile(process.execPath, [program, ...args], { maxBuffer: 1e8, env: { ...process.env, NODE_OPTIONS: '' } }, (failure, out, error) =>
      resolve({ code: failure === null ? 0 : Number(failure.code), out, error }),
    );
  });

/** The same without a process of its own, which takes a second each. */
async function within(...args: string[]): Promise<{ code: number; out: string; error: string }> {
  const said = { out: '', error: '' };
  const { log, error } = console;
  const { write } = process.stdout;
  console.log = (text: unknown) => {
    said.out += `${text}\n`;
  };
  console.error = (text: unknown) => {
    said.error += `${text}\n`;
  };
  process.stdout.write = ((text: string) => {
    said.out += text;
    return true;
  }) as typeof write;
  try {
    const code = await main(args, join(import.meta.dirname, '..'));
    return { code, ...said };
  } finally {
    Object.assign(console, { log, error });
    process.stdout.write = write;
  }
}

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
    expect(JSON.parse(out)).toMatchObject({ verdict, tests: [{ verdict, codes: expect.arrayContaining(['simulated']) }] });
    const [{ sight }] = JSON.parse(out).tests[0].attempts;
    expect(sight[0]).toMatchObject({
      told: verdict.startsWith('pass'),
      what: 'the pipework',
      unit: 'L/h',
      assumes: expect.arrayContaining(['the pipe drifts no more than 0.1 K']),
    });
    expect(Number(sight[0].sure)).toBeGreaterThan(Number(sight[0].alone));
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
    return within('judge', file('bad.json'));
  };
  test.each([
    ['broken JSON', () => '{\n "format": "vast-stone-record",\n "version": 1,,\n}', /line 3, column 15/],
    ['an empty file', () => '', /ends too early or is empty/],
    ['another format', () => JSON.stringify({ ...good(), format: 'x' }), /format must be "vast-stone-record"/],
    [
      'a reading that is no decimal',
      () => JSON.stringify(good()).replace(/"value":"20\.\d\d"/, '"value":"20,5"'),
      /tests › 0 › attempts › 0 › events › \d+ › value must match/,
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
      expect((await within(...args)).code).toBe(2);
  });
});

test('a plan that was changed after it was made is judged as it says now, and said to be changed', async () => {
  const record = JSON.parse(readFileSync(file('sound.json'), 'utf8'));
  expect(JSON.parse((await within('judge', file('sound.json'))).out).tests[0].attempts[0].planIntact).toBe(true);
  record.tests[0].attempts[0].plan.limit = '9';
  writeFileSync(file('changed.json'), JSON.stringify(record));
  expect(JSON.parse((await within('judge', file('changed.json'))).out).tests[0].attempts[0].planIntact).toBe(false);
});

describe('plan', () => {
  test.each(procedures.map(({ id }) => id))('%s: its example is planned, as a sheet and as JSON', async (id) => {
    expect((await within('plan', '--example', id, '--out', file(`${id}.in.json`))).code).toBe(0);
    const sheet = await within('plan', file(`${id}.in.json`));
    expect(sheet.code).toBe(0);
    expect(sheet.out).toMatch(/LIMIT, AND WHERE IT COMES FROM[\s\S]*licensed practice come first/);
    expect(JSON.parse((await within('plan', '--json', file(`${id}.in.json`))).out)).toMatchObject({
      procedure: { id },
      hash: expect.any(String),
    });
  });

  test.each(procedures.map((procedure) => [procedure.id, procedure] as const))(
    '%s: each answer out of its bounds is refused by name, exit 2',
    async (id, procedure) => {
      const input = JSON.parse((await within('plan', '--example', id)).out);
      for (const parameter of procedure.parameters) {
        if (!isAsked(procedure, parameter, input.answers) || (parameter.kind !== 'choice' && parameter.kind !== 'quantity')) continue;
        const wrong = parameter.kind === 'choice' ? 'something else' : String(Math.ceil(Number(parameter.most) * 1.01 + 1));
        writeFileSync(file('out.json'), JSON.stringify({ ...input, answers: { ...input.answers, [parameter.id]: wrong } }));
        const refused = await within('plan', file('out.json'));
        expect({ parameter: parameter.id, code: refused.code }).toEqual({ parameter: parameter.id, code: 2 });
        expect(refused.error).toMatch(parameter.kind === 'choice' ? /answer-unknown: / : /out-of-range: /);
      }
    },
  );

  test.each(procedures.flatMap(({ id, breaches = [] }) => breaches.map(([answers, code]) => [id, answers, code] as const)))(
    '%s with %j is refused with %s, exit 2',
    async (id, answers, code) => {
      const input = JSON.parse((await within('plan', '--example', id)).out);
      writeFileSync(file('breach.json'), JSON.stringify({ ...input, answers: { ...input.answers, ...answers } }));
      const refused = await within('plan', file('breach.json'));
      expect(refused.code).toBe(2);
      expect(refused.error).toContain(`${code}: `);
    },
  );

  test.each(procedures.map(({ id }) => id))('%s: a record that lacks its last reading is judged, and is no pass', async (id) => {
    const path = file(`${id}.short.json`);
    expect((await within('simulate', '--procedure', id, '--out', path)).code).toBe(0);
    const record = JSON.parse(readFileSync(path, 'utf8'));
    const { events } = record.tests[0].attempts[0];
    const decides = ({ type, role, quantity }: { type: string; role?: string; quantity?: string }) =>
      type === 'observation' || (type === 'reading' && role !== 'zero' && quantity !== 'temperature' && quantity !== 'barometer');
    record.tests[0].attempts[0].events = events.filter((_: unknown, index: number) => index !== events.findLastIndex(decides));
    writeFileSync(path, JSON.stringify(record));
    const { code, out } = await within('judge', path);
    expect(code).toBe(0);
    expect(JSON.parse(out).verdict).not.toMatch(/^pass/);
  });

  test('an own procedure in the input is followed, and refused where it is looser than is safe', async () => {
    const input = JSON.parse((await within('plan', '--example', 'domestic-gas-millibar')).out);
    const variant = {
      id: '3f2b8c1e-5a77-4d0c-9b7e-2f6a1c9d8e04',
      base: 'domestic-gas-millibar',
      title: 'Lindqvay domestic',
      version: '2',
      reference: 'LC 7',
      figures: [{ figure: 'hold-seconds', value: '300' }],
    };
    writeFileSync(file('own.json'), JSON.stringify({ ...input, variant }));
    const planned = JSON.parse((await within('plan', '--json', file('own.json'))).out);
    expect(planned.procedure).toMatchObject({ title: 'Lindqvay domestic', variant: { version: '2', reference: 'LC 7' } });
    writeFileSync(
      file('own.json'),
      JSON.stringify({ ...input, variant: { ...variant, figures: [{ figure: 'hold-seconds', value: '60' }] } }),
    );
    expect((await within('plan', file('own.json'))).error).toContain('variant-looser: Hold: 60 s is looser than is safe');
  });

  test('what cannot be planned is refused with the same codes as on the page, exit 2', async () => {
    const input = JSON.parse((await within('plan', '--example', 'water-main-make-up')).out);
    writeFileSync(file('pe.json'), JSON.stringify({ ...input, answers: { ...input.answers, material: 'PE', hours: '40 h' } }));
    const refused = await within('plan', file('pe.json'));
    expect(refused.code).toBe(2);
    expect(refused.error).toContain('out-of-range: Hold: it must lie between 1 and 24 h');
    writeFileSync(file('pe.json'), JSON.stringify({ ...input, answers: { ...input.answers, material: 'PE' } }));
    expect((await within('plan', file('pe.json'))).error).toContain('main-creeps: Polyethylene creeps');
    writeFileSync(file('pe.json'), JSON.stringify({ ...input, gauge: { ...input.gauge, unit: 'stone' } }));
    expect((await within('plan', file('pe.json'))).error).toContain('gauge › unit must be one of');
  });
});

describe('convert', () => {
  test.each([
    ['gas-piping-psi', 'hidden-by-warming', 'fail'],
    ['water-main-make-up', 'trapped-air', 'fail'],
    ['duct-tightness', 'below-range', 'inconclusive'],
    ['drain-level-hold', 'passing-ball', 'invalid'],
    ['meter-turn-on-inches', 'large-leak', 'fail'],
    ['heating-hydraulic', 'sound', 'pass'],
    ['propane-tank-check', 'small-leak', 'fail'],
    ['water-isolation-hold', 'water-drawn', 'pass'],
    ['gas-leak-rate', 'reduced', 'restricted'],
    ['refrigerant-nitrogen', 'hidden-by-warming', 'fail'],
    ['domestic-gas-millibar', 'small-leak', 'pass with permitted drop'],
  ])('%s, %s: out as CSV and back, it is judged the same', async (id, fault, verdict) => {
    const [record, csv, back] = ['rec.json', 'csv', 'back.json'].map((ending) => file(`${id}-${fault}.${ending}`));
    expect((await within('simulate', '--procedure', id, '--fault', fault, '--out', record)).code).toBe(0);
    expect((await within('convert', record, '--out', csv)).code).toBe(0);
    expect(readFileSync(csv, 'utf8')).toMatch(
      /^test,attempt,phase,round,role,quantity,point,observed_at_utc,clock_ahead_ms,value,unit,qualifier,source,instrument_serial,event,withdrawn\r\n/,
    );
    expect((await within('convert', csv, '--into', record, '--out', back)).code).toBe(0);
    const [before, after] = [await within('judge', record), await within('judge', back)];
    expect(JSON.parse(after.out)).toMatchObject({ verdict, tests: [{ codes: JSON.parse(before.out).tests[0].codes }] });
  });

  test.each([
    [
      'a figure with a comma',
      (line: string) => line.replace(/,(\d+)\.(\d),CFM/, ',"$1,$2",CFM'),
      /Line \d+: “\d+,\d” is no figure with a decimal dot/,
    ],
    ['a unit', (line: string) => line.replace(',CFM,', ',bushel,'), /csv-unit/],
    ['a time without its zone', (line: string) => line.replace('Z,', ','), /csv-time/],
    ['a phase', (line: string) => line.replace('points,', 'punkte,'), /csv-phase/],
  ])('%s that cannot be read is refused with its line', async (_, spoil, expected) => {
    const record = file('duct.json');
    await within('simulate', '--procedure', 'duct-tightness', '--out', record);
    const lines = (await within('convert', record)).out.split('\r\n');
    writeFileSync(file('spoilt.csv'), lines.map((line) => (line.includes('flow') ? spoil(line) : line)).join('\r\n'));
    const refused = await within('convert', file('spoilt.csv'), '--into', record);
    expect(refused.code).toBe(2);
    expect(refused.error).toMatch(expected);
  });

  test('a CSV alone, and one without its columns, are refused with what to do', async () => {
    writeFileSync(file('bare.csv'), 'time,value\n1,2\n');
    expect((await within('convert', file('bare.csv'))).error).toContain('--into RECORD.json');
    expect((await within('convert', file('bare.csv'), '--into', file('duct.json'))).error).toContain('missing: test, attempt, phase');
  });
});

test('a record without a seal is not verified', async () => {
  const { code, out } = await within('verify', file('sound.json'));
  expect(code).toBe(1);
  expect(JSON.parse(out)).toMatchObject({ state: 'not sealed', verdict: 'pass' });
});

test('the published schema is the one that readers use', async () => {
  const { out } = await within('schema');
  expect(JSON.parse(readFileSync(join(import.meta.dirname, '..', 'docs', 'record.schema.json'), 'utf8'))).toEqual(JSON.parse(out));
});
