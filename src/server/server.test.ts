import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { Client } from 'pg';
import sharp from 'sharp';
import { jobFor, planFor } from '@/core/simulation/fixtures';
import { simulateRun } from '@/core/simulation/technician';
import { closeConnections, withFirm, withoutFirm } from '@/db/connection';
import { certificate } from '@/db/schema';
import { type TestDatabase, testDatabase } from '../../ops/test-database';
import type { Actor } from './actor';
import type { Answer } from './answers';
import { addPerson, signIn } from './auth';
import { certificatePdf } from './certificate-pdf';
import {
  addSignature,
  checkByCode,
  correctCertificate,
  judgementHash,
  listCertificates,
  readCertificate,
  readDraft,
  sealTest,
} from './certificates';
import { at, now } from './clock';
import { readRun, receive } from './field';
import { addFirm, setHouseRule } from './firms';
import { addCalibration, addInstrument, listInstruments } from './instruments';
import { knownSigners, revokeKeys, rotateKey } from './keys';
import { addPhoto, readPhoto } from './photos';
import { addSite, addSystem, listSites, readSite } from './sites';
import { appendEvents, createRun, createTest, listTests, readTest } from './tests';
import { verifyFile } from './verify';

/* The server on a database of its own: commands, firms apart, append-only logs, seals. */

let database: TestDatabase;
let iola: Actor;
let wren: Actor;
let stranger: Actor;
let systemId: string;

const firmId = randomUUID();
const otherFirmId = randomUUID();

function must<T>(result: Answer<T>): T {
  if (!result.ok) throw new Error(result.problem.message);
  return result.value;
}

beforeAll(async () => {
  database = await testDatabase('empty', 'server');
  process.env.VAST_DATABASE_URL = database.appUrl;
  process.env.VAST_AUTH_DATABASE_URL = database.authUrl;
  await addFirm(firmId, 'Test firm', '0000');
  await addFirm(otherFirmId, 'Other firm', '0000');
  await rotateKey(firmId);
  await rotateKey(otherFirmId);
  iola = await addPerson({ firmId, name: 'Test technician', email: 'one@test.invalid', password: 'long-enough-1', role: 'technician' });
  wren = await addPerson({ firmId, name: 'Test supervisor', email: 'two@test.invalid', password: 'long-enough-2', role: 'supervisor' });
  stranger = await addPerson({
    firmId: otherFirmId,
    name: 'Other technician',
    email: 'three@test.invalid',
    password: 'long-enough-3',
    role: 'supervisor',
  });
  const site = must(await addSite(iola, { name: 'Site', address: 'Somewhere 1', occupier: '' }));
  systemId = must(await addSystem(iola, site.id, { name: 'Gas', pipes: '22cu 12\n15cu 9', components: 'Boiler\nHob' })).id;
});

afterAll(async () => {
  await closeConnections();
  await database.drop();
});

const details = { jobOrigin: 'round', visualInspection: 'done', meterNumber: 'M-1', meterReading: '100' };

/** A finished test of the system on a plant with a fault. */
async function finishedTest(fault = 'sound', seed = 3): Promise<{ testId: string; runId: string; plan: ReturnType<typeof planFor> }> {
  const plan = planFor({});
  const testId = randomUUID();
  const runId = randomUUID();
  must(await createTest(iola, { id: testId, systemId, details }));
  must(await createRun(iola, { id: runId, testId, number: 1, plan }));
  must(await appendEvents(iola, runId, simulateRun(jobFor(plan, fault, seed, { run: runId }))));
  return { testId, runId, plan };
}

const stroke = [[0, 0, 100, 100, 200, 50, 300, 80, 400, 20]];

async function sign(testId: string): Promise<void> {
  const hash = judgementHash(must(await readTest(iola, testId)));
  for (const role of ['technician', 'customer'] as const)
    must(
      await addSignature(iola, testId, { id: randomUUID(), role, name: 'Somebody', strokes: stroke, judgementHash: hash, signedAt: now() }),
    );
}

async function owner<T>(work: (client: Client) => Promise<T>): Promise<T> {
  const client = new Client({ connectionString: database.ownerUrl });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

describe('firms apart', () => {
  test('every table of the firm has row security, forced, with a policy for reading and writing', async () => {
    const tables = await owner((client) =>
      client.query(`select c.relname as name, c.relrowsecurity as enabled, c.relforcerowsecurity as forced,
        (select count(*)::int from pg_policy p where p.polrelid = c.oid and p.polqual is not null and p.polwithcheck is not null) as policies
        from pg_class c join pg_namespace n on n.oid = c.relnamespace where n.nspname = 'public' and c.relkind = 'r'`),
    );
    expect(tables.rows.length).toBeGreaterThan(12);
    for (const row of tables.rows) expect(row).toMatchObject({ enabled: true, forced: true, policies: 1 });
  });

  test('the application’s role owns nothing and cannot get round its policies', async () => {
    const { rows } = await owner((client) =>
      client.query(
        `select rolsuper, rolbypassrls, (select count(*)::int from pg_class where relowner = r.oid) as owned from pg_roles r where rolname = 'vast_app'`,
      ),
    );
    expect(rows[0]).toEqual({ rolsuper: false, rolbypassrls: false, owned: 0 });
  });

  test('without a firm in the transaction there are no rows, and another firm’s cannot be written', async () => {
    expect((await withoutFirm((tx) => tx.execute(sql`select * from site`))).rows).toEqual([]);
    await expect(
      withFirm(otherFirmId, (tx) =>
        tx.execute(
          sql`insert into site (id, firm_id, name, address, occupier, created_at) values (${randomUUID()}, ${firmId}, 'x', 'x', '', now())`,
        ),
      ),
    ).rejects.toThrow();
  });

  test('another firm’s ids answer like ids that do not exist, in every query and command', async () => {
    const { testId, runId, plan } = await finishedTest();
    const [{ id: siteId }] = await listSites(iola);
    const absent = randomUUID();
    for (const [own, none] of [
      [readSite(stranger, siteId), readSite(stranger, absent)],
      [readTest(stranger, testId), readTest(stranger, absent)],
      [readRun(stranger, runId), readRun(stranger, absent)],
      [readDraft(stranger, testId), readDraft(stranger, absent)],
      [sealTest(stranger, testId), sealTest(stranger, absent)],
      [appendEvents(stranger, runId, []), appendEvents(stranger, absent, [])],
      [
        createTest(stranger, { id: randomUUID(), systemId, details }),
        createTest(stranger, { id: randomUUID(), systemId: absent, details }),
      ],
      [
        createRun(stranger, { id: randomUUID(), testId, number: 2, plan }),
        createRun(stranger, { id: randomUUID(), testId: absent, number: 2, plan }),
      ],
      [addSystem(stranger, siteId, { name: 'x' }), addSystem(stranger, absent, { name: 'x' })],
      [createTest(stranger, { id: testId, systemId, details }), readTest(stranger, 'no-uuid')],
    ] as const) {
      const [a, b] = await Promise.all([own, none]);
      expect(a).toEqual(b);
      expect(a).toMatchObject({ ok: false, status: 404 });
    }
    expect(await listTests(stranger)).toEqual([]);
    expect(await listCertificates(stranger)).toEqual([]);
  });
});

describe('the log', () => {
  test('the same sync twice changes nothing; half a sync and then the whole is the whole', async () => {
    const plan = planFor({});
    const [testId, runId] = [randomUUID(), randomUUID()];
    const events = simulateRun(jobFor(plan, 'sound', 4, { run: runId }));
    const items = [
      { kind: 'test', id: testId, systemId, details },
      { kind: 'run', id: runId, testId, number: 1, plan },
      { kind: 'events', run: runId, events: events.slice(0, 9) },
    ] as const;
    for (let time = 0; time < 2; time += 1)
      expect(must(await receive(iola, items)).receipts).toEqual(items.map(() => ({ ok: true, quarantined: [] })));
    expect(must(await appendEvents(iola, runId, events))).toMatchObject({ stored: events.length - 9, already: 9 });
    const loaded = must(await readTest(iola, testId));
    expect(loaded.attempts[0].events).toHaveLength(events.length);
    expect(loaded.attempts[0].judgement.verdict).toBe('pass');
  });

  test('nobody can change or delete an event, a run or a certificate: not the application, not the owner', async () => {
    const { testId } = await finishedTest();
    await sign(testId);
    must(await sealTest(iola, testId));
    for (const statement of [
      'update event set late = true',
      'delete from event',
      'truncate event',
      `update certificate set verdict = 'pass'`,
      'delete from certificate',
      'delete from run',
      "update signature set name = 'x'",
    ])
      await expect(withFirm(firmId, (tx) => tx.execute(sql.raw(statement)))).rejects.toThrow();
    await owner(async (client) => {
      // The owner is bound by the forced policies; even past them the triggers refuse.
      await client.query(`create policy test_all on certificate to current_user using (true) with check (true)`);
      await expect(client.query(`update certificate set verdict = 'pass'`)).rejects.toThrow(/append-only/);
      await expect(client.query('delete from certificate')).rejects.toThrow(/append-only/);
      await client.query('drop policy test_all on certificate');
    });
  });

  test('what cannot be read is kept aside and stops nothing', async () => {
    const { runId } = await finishedTest();
    const note = {
      schema: 1,
      run: runId,
      id: randomUUID(),
      device: 'd',
      seq: 900,
      author: iola.name,
      observedAt: 1,
      enteredAt: 1,
      offsetMinutes: 0,
      boot: 'b',
      mono: 0,
      clock: [1, 0],
      type: 'note',
      text: 'good',
    };
    const result = must(
      await appendEvents(iola, runId, [
        { nonsense: true },
        note,
        { ...note, id: randomUUID(), run: randomUUID() },
        { ...note, id: randomUUID(), author: 'Somebody else' },
        null,
      ]),
    );
    expect(result).toMatchObject({ stored: 1 });
    expect(result.quarantined.map(({ why }) => why.slice(0, 20))).toHaveLength(4);
    const { rows } = await withFirm(firmId, (tx) => tx.execute<{ count: number }>(sql`select count(*)::int as count from quarantine`));
    expect(rows[0].count).toBeGreaterThanOrEqual(4);
  });

  test('a plan that its answers do not give is refused', async () => {
    const testId = randomUUID();
    must(await createTest(iola, { id: testId, systemId, details }));
    const plan = planFor({});
    for (const altered of [
      { ...plan, limit: '5.0' },
      { ...plan, hash: '0'.repeat(64) },
      { ...plan, phases: plan.phases.slice(1) },
      { nothing: true },
    ])
      expect(await createRun(iola, { id: randomUUID(), testId, number: 1, plan: altered })).toMatchObject({ ok: false, status: 400 });
    const loose = planFor({}).figures.map((figure) =>
      figure.id === 'hold-seconds' ? { ...figure, value: '60', source: 'house rule' as const, reference: 'x' } : figure,
    );
    expect(await createRun(iola, { id: randomUUID(), testId, number: 1, plan: { ...plan, figures: loose } })).toMatchObject({
      ok: false,
      problem: { code: 'house-rule-looser' },
    });
  });

  test('office staff run no tests; technicians correct nothing and add no gauges', async () => {
    const office: Actor = { ...iola, role: 'office' };
    expect(await createTest(office, { id: randomUUID(), systemId, details })).toMatchObject({ ok: false, status: 403 });
    expect(await correctCertificate(iola, randomUUID(), { reason: 'wrong meter' })).toMatchObject({ ok: false, status: 403 });
    expect(await addInstrument(iola, {})).toMatchObject({ ok: false, status: 403 });
    expect(
      await setHouseRule(iola, { procedure: 'domestic-gas-millibar', figure: 'hold-seconds', value: '180', reference: 'x' }),
    ).toMatchObject({ ok: false, status: 403 });
  });
});

describe('certificates', () => {
  test('not before the test is done and signed; asked twice, one seal', async () => {
    const { testId, runId } = await finishedTest();
    expect(await sealTest(iola, testId)).toMatchObject({ ok: false, problem: { code: 'not-ready' } });
    await sign(testId);
    // A later event voids the signatures.
    must(
      await appendEvents(iola, runId, [
        {
          schema: 1,
          run: runId,
          id: randomUUID(),
          device: 'd9',
          seq: 1,
          author: iola.name,
          observedAt: now(),
          enteredAt: now(),
          offsetMinutes: 0,
          boot: 'b',
          mono: 0,
          clock: [now(), 0],
          type: 'smell',
          text: 'after all',
        },
      ]),
    );
    expect(must(await readDraft(iola, testId)).voided).toHaveLength(2);
    expect(await sealTest(iola, testId)).toMatchObject({ ok: false });

    const other = await finishedTest('sound', 8);
    await sign(other.testId);
    const [first, second] = await Promise.all([sealTest(iola, other.testId), sealTest(wren, other.testId)]);
    expect(must(first)).toEqual(must(second));
  });

  test('the chain has no gap and no fork, also when two seal at once', async () => {
    const tests = await Promise.all([finishedTest('sound', 21), finishedTest('sound', 22), finishedTest('let-by', 23)]);
    for (const { testId } of tests) await sign(testId);
    await Promise.all(tests.map(({ testId }) => sealTest(iola, testId).then(must)));
    const rows = await withFirm(firmId, (tx) =>
      tx.select({ hash: certificate.hash, previous: certificate.previous }).from(certificate).orderBy(certificate.number),
    );
    let head = '0'.repeat(64);
    for (const row of rows) {
      expect(row.previous).toBe(head);
      head = row.hash;
    }
  });

  test('events after sealing are kept, flagged and not judged', async () => {
    const { testId, runId } = await finishedTest('sound', 31);
    await sign(testId);
    const { id } = must(await sealTest(iola, testId));
    const late = {
      schema: 1,
      run: runId,
      id: randomUUID(),
      device: 'd9',
      seq: 1,
      author: iola.name,
      observedAt: now(),
      enteredAt: now(),
      offsetMinutes: 0,
      boot: 'b',
      mono: 0,
      clock: [now(), 0],
      type: 'smell',
      text: '',
    };
    expect(must(await appendEvents(iola, runId, [late]))).toMatchObject({ stored: 1, late: 1 });
    const after = must(await readTest(iola, testId));
    expect(after.lateEvents).toBe(1);
    expect(after.attempts[0].judgement.verdict).toBe('pass');
    expect(must(await readCertificate(iola, id)).verdict).toBe('pass');
    expect(
      await addSignature(iola, testId, {
        id: randomUUID(),
        role: 'customer',
        name: 'x',
        strokes: stroke,
        judgementHash: '0'.repeat(64),
        signedAt: 1,
      }),
    ).toMatchObject({ ok: false, status: 409 });
  });

  test('a correction names the old, keeps its readings, and is itself sealed', async () => {
    const { testId } = await finishedTest('sound', 41);
    await sign(testId);
    const old = must(await sealTest(iola, testId));
    expect(await correctCertificate(wren, old.id, { reason: 'no' })).toMatchObject({ ok: false });
    const made = must(
      await correctCertificate(wren, old.id, { reason: 'Meter number mistyped', details: { ...details, meterNumber: 'M-2' } }),
    );
    const { parsed } = must(await readCertificate(iola, made.id));
    expect(parsed.certificate?.corrects).toEqual({ number: old.number, reason: 'Meter number mistyped' });
    expect(parsed.test?.meterNumber).toBe('M-2');
    expect(must(await readCertificate(iola, old.id)).parsed.test?.meterNumber).toBe('M-1');
    expect(await correctCertificate(wren, old.id, { reason: 'Meter number mistyped', details })).toMatchObject({
      ok: false,
      problem: { code: 'already-corrected' },
    });
    expect(await checkByCode(old.checkCode)).toMatchObject({ number: old.number, correctedBy: made.number });
  });

  test('anyone’s file: genuine, altered, pages changed, unknown signer, revoked key', async () => {
    const { testId } = await finishedTest('small-leak', 51);
    await sign(testId);
    const { id, checkCode, number } = must(await sealTest(iola, testId));
    const { record, parsed } = must(await readCertificate(iola, id));
    const known = await knownSigners();
    const check = async (data: Buffer, signers = known) => {
      const result = await verifyFile(data, signers);
      return result.ok
        ? { state: result.value.state, pages: result.value.pages, judgedDifferently: result.value.judgedDifferently }
        : result.problem.code;
    };
    expect(await check(Buffer.from(record))).toEqual({ state: 'genuine', pages: undefined, judgedDifferently: [] });
    expect(await check(Buffer.from(JSON.stringify(parsed, null, 3)))).toMatchObject({ state: 'genuine' });
    expect(await check(Buffer.from(record), [])).toMatchObject({ state: 'intact, signer unknown' });
    expect(await check(Buffer.from(record.replace(/"value":"20\.(\d)/, '"value":"19.$1')))).toMatchObject({ state: 'altered' });
    const pdf = await certificatePdf(parsed);
    expect(pdf.equals(await certificatePdf(parsed))).toBe(true);
    expect(await check(pdf)).toMatchObject({ state: 'genuine', pages: 'as sealed' });
    const painted = Buffer.concat([pdf, Buffer.from('\n% painted over\n')]);
    expect(await check(painted)).toMatchObject({ state: 'genuine', pages: 'trust the record, not these pages' });
    expect(await check(Buffer.from('%PDF-1.7 nonsense'))).toBe('not-a-pdf');
    expect(await check(Buffer.from('{"a":1}'))).toBe('unreadable');
    expect(await check(Buffer.from('hello'))).toBe('not-json');
    expect(await checkByCode(checkCode)).toMatchObject({
      number,
      verdict: 'pass with permitted drop',
      firmName: 'Test firm',
      revoked: false,
      simulated: true,
    });
    expect(await checkByCode('0'.repeat(32))).toBeUndefined();
    expect(await checkByCode("' or true --")).toBeUndefined();
    await rotateKey(firmId);
    expect(await check(Buffer.from(record), await knownSigners())).toMatchObject({ state: 'genuine' });
    await revokeKeys(firmId);
    expect(await check(Buffer.from(record), await knownSigners())).toMatchObject({ state: 'key revoked' });
    await rotateKey(firmId);
  });

  test('the certificate is in the pages what it is in the record', async () => {
    const { testId } = await finishedTest('small-leak', 61);
    const draft = must(await readDraft(iola, testId));
    const pdf = await certificatePdf(draft.record);
    const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
    const document = await getDocument({ data: new Uint8Array(pdf), verbosity: 0 }).promise;
    let text = '';
    for (let number = 1; number <= document.numPages; number += 1) {
      const content = await (await document.getPage(number)).getTextContent();
      text += content.items.map((item) => ('str' in item ? item.str : '')).join(' ');
    }
    const plain = text.replace(/\s+/g, ' ');
    for (const words of ['DRAFT', 'Pass with permitted drop', 'SIMULATED', 'Not tested', 'Local code', 'permitted', 'L/h', 'Gauge:', '− '])
      expect(plain).toContain(words);
    await document.destroy();
  });
});

test('full fonts: every sign that the catalogues use is in all three faces', async () => {
  const { openSync } = await import('fontkit');
  const { reasons } = await import('@/core/judging/reasons');
  const signs = new Set([
    ...`→≤≥≈Δ₂²³°·×−–—“”’…½⌫${JSON.stringify(planFor({}))}${Object.values(reasons)
      .map(({ say }) => String(say))
      .join('')}`,
  ]);
  for (const face of ['DejaVuSans', 'DejaVuSans-Bold', 'DejaVuSansMono']) {
    const font = openSync(`node_modules/dejavu-fonts-ttf/ttf/${face}.ttf`);
    const lacking = [...signs].filter(
      (sign) => sign !== '⌫' && (sign.codePointAt(0) ?? 0) >= 32 && !font.hasGlyphForCodePoint(sign.codePointAt(0) ?? 0),
    );
    expect({ face, lacking }).toEqual({ face, lacking: [] });
  }
});

describe('photographs', () => {
  test('re-encoded, without the place where they were taken; the same twice is one; other firms see nothing', async () => {
    const { runId } = await finishedTest('sound', 71);
    const sent = await sharp({ create: { width: 2400, height: 1200, channels: 3, background: '#765' } })
      .withExif({ IFD0: { Copyright: 'x' }, IFD3: { GPSLatitude: '51/1 30/1 0/1' } })
      .jpeg()
      .toBuffer();
    const { hash } = must(await addPhoto(iola, runId, 1_790_000_000_000, sent));
    expect(must(await addPhoto(iola, runId, 1_790_000_000_000, sent)).hash).toBe(hash);
    const kept = must(await readPhoto(iola, hash));
    const facts = await sharp(kept).metadata();
    expect(facts).toMatchObject({ format: 'jpeg', width: 1600 });
    expect(facts.exif).toBeUndefined();
    expect(await readPhoto(stranger, hash)).toMatchObject({ ok: false, status: 404 });
  });

  test('no picture, too large, no time, no such run: a plain answer', async () => {
    const { runId } = await finishedTest('sound', 72);
    expect(await addPhoto(iola, runId, 1, Buffer.from('not a picture'))).toMatchObject({
      ok: false,
      problem: { code: 'photo-unreadable' },
    });
    expect(await addPhoto(iola, runId, 1, Buffer.alloc(16 * 1024 * 1024))).toMatchObject({ ok: false, status: 413 });
    expect(await addPhoto(iola, runId, Number.NaN, Buffer.from('x'))).toMatchObject({ ok: false, status: 400 });
    expect(
      await addPhoto(
        iola,
        randomUUID(),
        1,
        await sharp({ create: { width: 8, height: 8, channels: 3, background: '#000' } })
          .png()
          .toBuffer(),
      ),
    ).toMatchObject({ ok: false, status: 404 });
  });
});

describe('instruments and sites', () => {
  test('a gauge needs sound figures; a calibration sound dates; overdue is counted in days', async () => {
    const good = { name: 'G', kind: 'digital', unit: 'mbar', readability: '0,1', rangeLow: '0', rangeHigh: '100', serial: 'S' };
    for (const change of [
      { name: '' },
      { kind: 'x' },
      { unit: 'parsec' },
      { readability: 'fine' },
      { readability: '0' },
      { readability: '-1' },
      { rangeHigh: '-5' },
      { serial: '' },
    ])
      expect(await addInstrument(wren, { ...good, ...change })).toMatchObject({ ok: false, status: 400 });
    const { id } = must(await addInstrument(wren, good));
    for (const form of [
      { doneOn: 'x', dueOn: '2027-01-01', reference: 'r' },
      { doneOn: '2026-01-01', dueOn: '2025-01-01', reference: 'r' },
      { doneOn: '2999-01-01', dueOn: '2999-02-01', reference: 'r' },
      { doneOn: '2026-13-45', dueOn: '2027-01-01', reference: 'r' },
    ])
      expect(await addCalibration(wren, id, form)).toMatchObject({ ok: false, status: 400 });
    must(await addCalibration(wren, id, { doneOn: '2025-01-01', dueOn: '2026-01-01', reference: 'r' }));
    const listed = await at(Date.parse('2026-01-11T12:00:00Z'), () => listInstruments(wren));
    expect(listed.find(({ gauge }) => gauge.id === id)).toMatchObject({ dueInDays: -10, gauge: { readability: '0.1' } });
  });

  test('sites and systems say what is missing, by field', async () => {
    expect(await addSite(iola, { name: '', address: 'x' })).toMatchObject({ ok: false, problem: { field: 'name' } });
    const [{ id }] = await listSites(iola);
    expect(await addSystem(iola, id, { name: 'Gas', pipes: '22cu' })).toMatchObject({ ok: false, problem: { field: 'pipes' } });
    expect(await addSystem(iola, id, { name: 'Gas', statedVolume: 'big' })).toMatchObject({
      ok: false,
      problem: { field: 'statedVolume' },
    });
  });
});

test('five wrong passwords close an account for a quarter of an hour, and only that account', async () => {
  const enter = (email: string, password: string) => signIn(email, password, new Headers());
  for (let attempt = 0; attempt < 5; attempt += 1)
    expect(await enter('one@test.invalid', 'wrong')).toMatchObject({ ok: false, status: 403 });
  expect(await enter('one@test.invalid', 'long-enough-1')).toMatchObject({ ok: false, status: 429 });
  expect(await enter('two@test.invalid', 'long-enough-2')).toMatchObject({ ok: true });
  expect(await enter('nobody@test.invalid', 'wrong')).toEqual(await enter('two@test.invalid', 'wrong'));
  await at(Date.now() + 16 * 60_000, async () => expect(await enter('one@test.invalid', 'long-enough-1')).toMatchObject({ ok: true }));
});
