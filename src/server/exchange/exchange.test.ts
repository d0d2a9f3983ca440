import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdtemp, readFile, stat, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { finished } from 'node:stream/promises';
import { eq } from 'drizzle-orm';
import sharp from 'sharp';
import { open } from 'yauzl';
import { ZipFile } from 'yazl';
import { sha256 } from '@/core/exact';
import type { TestRecord } from '@/core/record';
import { withFirm } from '@/db/connection';
import * as schema from '@/db/schema';
import { testDatabase } from '../../../ops/test-database';
import type { Actor } from '../actor';
import { answer } from '../answers';
import { checkByCode, readCertificate } from '../certificates';
import { at as clockAt, now } from '../clock';
import { addFirm, saveFirm } from '../firms';
import { addFollowUp, openFollowUps } from '../follow-ups';
import { knownSigners, rotateKey, signing } from '../keys';
import { paperPdf } from '../pdf';
import { addPhoto } from '../photos';
import { sealTest, withdrawCertificate } from '../sealing';
import { must, openTestFirm } from '../test-firm.fixture';
import { readTest } from '../tests';
import { makeThing } from '../things';
import { verifyFile } from '../verify';
import { writeExport } from '.';
import { beginExport, beginImport, exportFile, listExchanges, takePiece } from './jobs';
import { formatVersion, signedText } from './manifest';
import { readExport } from './read';
import { going, nameOf, staying } from './tables';

/* A firm's whole data as a file, and from it into another installation: the same verdicts, the same seals, nothing else. */

const folder = await mkdtemp(join(tmpdir(), 'exchange-'));
process.env.VAST_HOME = folder;
const from = await openTestFirm('exchange-from');
const home = process.env.VAST_DATABASE_URL;
const [into, second] = [await testDatabase('empty', 'exchange-into'), await testDatabase('empty', 'exchange-second')];
/** Which installation is at work from now on. */
const at = (where: string | undefined) => Object.assign(process.env, { VAST_DATABASE_URL: where });
afterAll(async () => {
  await from.close();
  await into.drop();
  await second.drop();
});

const quiet = () => undefined;
const make: Parameters<typeof writeExport>[4] = async (_, record) => answer(new Uint8Array(await paperPdf(record)));
const file = join(folder, 'firm.zip');

/** A firm that has nothing but its supervisor and key, in the other installation. */
async function emptyFirm(where = into): Promise<Actor> {
  at(where.appUrl);
  const firmId = randomUUID();
  await addFirm(firmId, 'Empty firm', '0000');
  await rotateKey(firmId);
  const actor: Actor = { userId: randomUUID(), firmId, name: 'New supervisor', role: 'supervisor' };
  await withFirm(firmId, (tx) => tx.insert(schema.person).values({ firmId, id: actor.userId, name: actor.name, role: actor.role }));
  return actor;
}

/** The files of a zip. */
const filesIn = (zip: string): Promise<Map<string, Buffer>> =>
  new Promise((resolve, reject) =>
    open(zip, { lazyEntries: true }, (error, opened) => {
      if (error !== null) return reject(error);
      const files = new Map<string, Buffer>();
      opened.on('entry', (entry) =>
        opened.openReadStream(entry, async (fault, stream) => {
          if (fault !== null) return reject(fault);
          files.set(entry.fileName, await buffer(stream));
          opened.readEntry();
        }),
      );
      opened.on('end', () => resolve(files));
      opened.readEntry();
    }),
  );

/** The same zip with some of its files changed, or gone. */
async function changed(change: (files: Map<string, Buffer>) => void): Promise<string> {
  const files = await filesIn(file);
  change(files);
  const zip = new ZipFile();
  for (const [name, data] of files) zip.addBuffer(data, name);
  zip.end();
  const made = join(folder, `${randomUUID()}.zip`);
  await finished(zip.outputStream.pipe(createWriteStream(made)));
  return made;
}

/** Whoever alters a table as well as the manifest that names its hash. */
function rewritten(files: Map<string, Buffer>, table: string, change: (text: string) => string): void {
  const name = `tables/${table}.ndjson`;
  const text = change(String(files.get(name)));
  files.set(name, Buffer.from(text));
  const manifest = JSON.parse(String(files.get('manifest.json')));
  manifest.tables[table] = { rows: text.split('\n').length - 1, sha256: sha256(text) };
  files.set('manifest.json', Buffer.from(JSON.stringify(manifest)));
}

const refusal = async (zip: string): Promise<string> => {
  const { firmId } = await emptyFirm();
  const words = await readExport(firmId, zip, quiet).then(
    () => 'taken in',
    (error: Error) => error.message,
  );
  // All or nothing: whatever was wrong, the firm is as empty as before.
  expect(await withFirm(firmId, (tx) => tx.select().from(schema.site))).toEqual([]);
  expect(await withFirm(firmId, (tx) => tx.select().from(schema.person))).toHaveLength(1);
  return words;
};

let papers: readonly { readonly id: string; readonly number: string; readonly record: string; readonly checkCode: string }[] = [];
let verdicts: Map<string, string>;
let unsealed = '';
let guardTag = '';
let sealOf: (manifest: string) => object;
let photographed: { readonly testId: string; readonly hash: string };

beforeAll(async () => {
  at(home);
  const { iola, wren, finishedTest, sign } = from;
  must(await makeThing(iola, 'site', { name: '=1+1', address: '-10 Weir Lane' }));
  must(
    await saveFirm(wren, {
      name: 'Lindqvay Fitters',
      emergencyNumber: '0000 555',
      address: '1 Quay',
      zone: 'UTC',
      locale: 'en-GB',
      sheet: 'letter',
    }),
  );
  const ids: string[] = [];
  for (const [fault, seed] of [
    ['sound', 3],
    ['let-by', 4],
    ['small-leak', 5],
  ] as const) {
    const { testId, runId } = await finishedTest(fault, seed);
    if (fault === 'sound') {
      const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: 'teal' } })
        .jpeg()
        .toBuffer();
      photographed = { testId, hash: must(await addPhoto(iola, runId, now(), picture)).hash };
    }
    ids.push(testId);
  }
  [, , unsealed] = ids;
  for (const testId of ids.slice(0, 2)) {
    await sign(testId);
    must(await sealTest(iola, testId));
  }
  const rows = await withFirm(from.firmId, (tx) => tx.select().from(schema.certificate).orderBy(schema.certificate.number));
  papers = rows;
  must(await withdrawCertificate(wren, rows[1].id, { reason: 'wrong system named' }));
  const listed = await withFirm(from.firmId, (tx) => tx.select().from(schema.standing));
  verdicts = new Map(listed.map(({ testId, verdict }) => [testId, verdict]));
  must(await addFollowUp(wren, { systemId: from.systemId, kind: 'guard', due: '2027-01-01' }));
  guardTag = (await openFollowUps(from.firmId)).find(({ tag }) => tag !== null)?.tag ?? 'none';
  const key = await withFirm(from.firmId, signing);
  if (key === undefined) throw new Error('the firm has no key');
  sealOf = (manifest) => ({ publicKey: key.publicKey, signature: key.sign(signedText(manifest)) });
  await writeExport(from.firmId, file, true, quiet, make);
}, 60_000);

test('every table of the database goes out or is named as staying, with why', async () => {
  const { rows } = await from.owner((client) =>
    client.query<{ name: string }>(
      `select case when schemaname = 'public' then tablename else schemaname || '.' || tablename end as name
       from pg_tables where schemaname in ('public', 'auth', 'installation')`,
    ),
  );
  const named = [...going, ...staying].map(({ table }) => nameOf(table));
  expect([...named].sort()).toEqual(rows.map(({ name }) => name).sort());
  expect(new Set(named).size).toBe(named.length);
  for (const { why } of staying) expect(why.length).toBeGreaterThan(5);
});

test('what is in it: tables, records as they were sealed, papers, pictures, schemas, and sheets without a formula', async () => {
  const files = await filesIn(file);
  for (const { table } of going) expect(files.has(`tables/${nameOf(table)}.ndjson`)).toBe(true);
  for (const { number, record } of papers) {
    expect(String(files.get(`records/${number}.json`))).toBe(record);
    expect(files.get(`papers/${number}.pdf`)?.subarray(0, 5).toString()).toBe('%PDF-');
  }
  expect([...files.keys()].filter((name) => name.startsWith('pictures/'))).toHaveLength(2);
  expect(JSON.parse(String(files.get('schema/record.json')))).toHaveProperty('$schema');
  const sites = String(files.get('csv/site.csv'));
  expect(sites).toContain("'=1+1");
  expect(sites).toContain("'-10 Weir Lane");
  // Nothing that opens anything: no password, no private key, no token.
  const all = [...files].map(([name, data]) => (name.startsWith('pictures/') ? '' : String(data))).join('\n');
  const [{ privateKey }] = await (async () => {
    at(home);
    return withFirm(from.firmId, (tx) => tx.select().from(schema.sealKey));
  })();
  expect(privateKey.length).toBeGreaterThan(20);
  expect(all).not.toContain(privateKey);
  expect(all).not.toContain('one@test.invalid');
  expect(String(files.get('tables/follow_up.ndjson'))).toContain('"kind":"guard"');
  expect(all).not.toContain(guardTag);
  expect(String(files.get('README.txt'))).toContain('auth.account: passwords');
});

test('in an installation where the same rows stand it is refused, and nothing is taken', async () => {
  at(home);
  const firmId = randomUUID();
  await addFirm(firmId, 'Beside it', '0000');
  await expect(readExport(firmId, file, quiet)).rejects.toThrow('stands in this installation already');
  expect(await withFirm(firmId, (tx) => tx.select().from(schema.system))).toEqual([]);
});

test('cut short at any place it is refused', async () => {
  const { size } = await stat(file);
  for (const share of [0, 0.01, 0.3, 0.7, 0.95, 0.9999]) {
    const cut = join(folder, `${randomUUID()}.zip`);
    await writeFile(cut, await readFile(file));
    await truncate(cut, Math.floor(size * share));
    expect(await refusal(cut)).toContain('cut short');
  }
  const other = join(folder, 'other.zip');
  await writeFile(other, 'a letter');
  expect(await refusal(other)).toContain('no zip');
});

test('what was altered is refused: a table, the manifest, a paper, a picture; and what is missing', async () => {
  expect(await refusal(await changed((files) => void files.set('tables/site.ndjson', Buffer.from('{}\n'))))).toMatch(/line 1|was altered/);
  const raised = (text: string) => text.replace(/"value":"([\d.]+)"/, '"value":"9$1"');
  expect(
    await refusal(
      await changed((files) => void files.set('tables/event.ndjson', Buffer.from(raised(String(files.get('tables/event.ndjson')))))),
    ),
  ).toContain('tables/event.ndjson was altered');
  expect(await refusal(await changed((files) => rewritten(files, 'event', raised)))).toContain('the firm’s seal over it does not hold');
  // Whoever has the firm's own key, and seals what was altered: every paper still stands for itself.
  const resealed = (change: (files: Map<string, Buffer>) => void) =>
    changed((files) => {
      change(files);
      files.set('manifest.sig', Buffer.from(JSON.stringify(sealOf(String(files.get('manifest.json'))))));
    });
  const paper = `records/${papers[0].number}.json`;
  expect(
    await refusal(await resealed((files) => void files.set(paper, Buffer.from(String(files.get(paper)).replace('Boiler', 'Cooker'))))),
  ).toContain(`${papers[0].number} is altered`);
  // A paper that is left out breaks the chain.
  expect(
    await refusal(
      await resealed((files) => {
        for (const table of ['certificate', 'certificate_test', 'withdrawal'])
          rewritten(files, table, (text) =>
            text
              .split('\n')
              .filter((line) => !line.includes(papers[1].id))
              .join('\n'),
          );
      }),
    ),
  ).toContain('the chain of seals does not end where the firm says');
  // A passed paper listed under a test that it is not of.
  expect(
    await refusal(
      await resealed((files) =>
        rewritten(files, 'certificate_test', (text) =>
          text
            .split('\n')
            .map((line) => (line.includes(papers[0].id) ? line.replace(/"testId":"[^"]+"/, `"testId":"${unsealed}"`) : line))
            .join('\n'),
        ),
      ),
    ),
  ).toContain('lists a paper under a test that it is not of');
  expect(await refusal(await changed((files) => void files.delete('manifest.sig')))).toContain(
    'carries no seal of the firm over the whole of it',
  );
  // A calibration that nobody can have made yet would make a gauge good for years.
  expect(
    await refusal(
      await resealed((files) =>
        rewritten(files, 'calibration', (text) =>
          text.replace(/"doneOn":"\d{4}/g, '"doneOn":"2999').replace(/"dueOn":"\d{4}/g, '"dueOn":"3000'),
        ),
      ),
    ),
  ).toContain('The calibration cannot lie in the future');
  const [picture] = [...(await filesIn(file)).keys()].filter((name) => name.startsWith('pictures/'));
  expect(await refusal(await changed((files) => void files.set(picture, Buffer.from('no picture'))))).toContain(
    'names a picture that is another',
  );
  expect(await refusal(await changed((files) => void files.delete(picture)))).toContain(`${picture} is missing`);
  expect(await refusal(await changed((files) => void files.delete('manifest.json')))).toContain('no export of a firm');
});

test('a firm that has no key that can be used exports without its seal, and is told what that means', async () => {
  at(home);
  const bare = randomUUID();
  await addFirm(bare, 'Keyless', '0');
  expect(await writeExport(bare, join(folder, 'bare.zip'), false, quiet)).toMatchObject({ sealed: false });
  // It has no papers, so it comes in; that nobody altered it is said not to be proved.
  const { firmId } = await emptyFirm();
  expect((await readExport(firmId, join(folder, 'bare.zip'), quiet)).join(' ')).toContain('is not proved');
});

test('a newer version is refused with what to do', async () => {
  const newer = await changed((files) => {
    const manifest = JSON.parse(String(files.get('manifest.json')));
    files.set('manifest.json', Buffer.from(JSON.stringify({ ...manifest, version: formatVersion + 1 })));
  });
  expect(await refusal(newer)).toContain('made by a newer version');
});

test('into an empty firm of another installation: the same verdicts, seals that hold, people put away, keys with their public part alone', async () => {
  const actor = await emptyFirm();
  const { firmId } = actor;
  const said = await readExport(firmId, file, quiet);
  expect(said.join('\n')).toContain('2 papers: every seal holds');
  expect(said.join('\n')).toContain('3 tests, judged again here: the same verdicts.');
  expect(said.join('\n')).toContain('2 people came in as put away: ');
  const here = await withFirm(firmId, (tx) => tx.select().from(schema.standing));
  expect(new Map(here.map(({ testId, verdict }) => [testId, verdict]))).toEqual(verdicts);
  for (const { id, number, record, checkCode } of papers) {
    const kept = must(await readCertificate(actor, id));
    expect(kept.record).toBe(record);
    expect(await checkByCode(checkCode)).toMatchObject({ number, firmName: 'Lindqvay Fitters' });
    const parsed = JSON.parse(record) as TestRecord;
    const pdf = await paperPdf(parsed);
    const found = must((await verifyFile(pdf, await knownSigners(parsed.seal?.hash))) as never) as {
      state: string;
      pages: { same: boolean };
    };
    expect(found.state).toBe('genuine');
    // The key vouches for what came with it and for nothing else.
    expect(must((await verifyFile(pdf, await knownSigners('0'.repeat(64)))) as never)).toMatchObject({ state: 'intact, signer unknown' });
  }
  expect(await checkByCode(papers[1].checkCode)).toMatchObject({ withdrawn: { reason: 'wrong system named' } });
  const people = await withFirm(firmId, (tx) => tx.select().from(schema.person));
  expect(people.filter(({ putAwayAt }) => putAwayAt === null).map(({ name }) => name)).toEqual(['New supervisor']);
  const keys = await withFirm(firmId, (tx) => tx.select().from(schema.sealKey));
  expect(keys.filter(({ importedAt }) => importedAt !== null).map(({ privateKey }) => privateKey)).toEqual(['']);
  expect(keys.filter(({ retiredAt }) => retiredAt === null)).toHaveLength(1);
  const loaded = must(await readTest(actor, photographed.testId));
  expect(loaded.photos.map(({ hash }) => hash)).toEqual([photographed.hash]);
  const [firm] = await withFirm(firmId, (tx) => tx.select().from(schema.firm));
  expect(firm).toMatchObject({ name: 'Lindqvay Fitters', sheet: 'letter', lastCertificate: 2 });
  // It is not empty any more.
  await expect(readExport(firmId, file, quiet)).rejects.toThrow('has data of its own');
  // Written out again, every table is the same but for what changed its meaning.
  const again = join(folder, 'again.zip');
  await writeExport(firmId, again, false, quiet);
  const [first, second] = [await filesIn(file), await filesIn(again)];
  for (const name of ['site', 'system', 'test', 'run', 'event', 'photo', 'signature', 'certificate', 'certificate_test', 'withdrawal'])
    expect(String(second.get(`tables/${name}.ndjson`))).toBe(String(first.get(`tables/${name}.ndjson`)));
});

test('as jobs: begun by a supervisor alone, with progress, a file to fetch, and pieces that may come twice', async () => {
  at(home);
  expect(await beginExport(from.iola, {})).toMatchObject({ ok: false, status: 403 });
  expect(await beginImport(from.wren, { size: 5 })).toMatchObject({ ok: false, problem: { code: 'not-empty' } });
  const { id } = must(await beginExport(from.wren, { papers: false }));
  const over = async (actor: Actor, one: string) => {
    for (let look = 0; look < 400; look += 1) {
      const row = (await listExchanges(actor)).exchanges.find((shown) => shown.id === one);
      if (row?.state === 'done' || row?.state === 'failed') return row;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    throw new Error('it never ended');
  };
  expect(await over(from.wren, id)).toMatchObject({ state: 'done', hasFile: true });
  const got = must(await exportFile(from.wren, id));
  const data = await buffer(got.body as never);
  expect(data).toHaveLength(got.size);
  expect(await exportFile(from.stranger, id)).toMatchObject({ ok: false });

  const actor = await emptyFirm(second);
  expect(await beginImport(actor, { size: -1 })).toMatchObject({ ok: false, status: 400 });
  const { id: coming } = must(await beginImport(actor, { size: data.length }));
  const half = Math.floor(data.length / 2);
  expect(must(await takePiece(actor, coming, 0, data.subarray(0, half)))).toEqual({ have: half });
  expect(must(await takePiece(actor, coming, 0, data.subarray(0, half)))).toEqual({ have: half });
  expect(await takePiece(await emptyFirm(second), coming, half, data.subarray(half))).toMatchObject({ ok: false, status: 404 });
  expect(must(await takePiece(actor, coming, half, data.subarray(half)))).toEqual({ have: data.length });
  const row = await over(actor, coming);
  expect(row.state).toBe('done');
  expect(row.said.join(' ')).toContain('the same verdicts');
  expect((await listExchanges(actor)).empty).toBe(false);

  // The same piece from two pages at once is put down once.
  const twice = await emptyFirm(second);
  const { id: doubled } = must(await beginImport(twice, { size: data.length + 10 }));
  await Promise.all([takePiece(twice, doubled, 0, data), takePiece(twice, doubled, 0, data), takePiece(twice, doubled, 0, data)]);
  expect(must(await takePiece(twice, doubled, 99, Buffer.from('x')))).toEqual({ have: data.length });
  // A page that was closed meanwhile sends no more: it is said, and stands in nobody's way.
  const cut = await clockAt(now() + 400_000, () => listExchanges(twice));
  expect(cut.exchanges[0]).toMatchObject({ state: 'failed', said: [expect.stringContaining('did not arrive whole')] });

  // A file that is none ends in words, not in silence.
  const other = await emptyFirm(second);
  const { id: wrong } = must(await beginImport(other, { size: 8 }));
  must(await takePiece(other, wrong, 0, Buffer.from('a letter')));
  expect(await over(other, wrong)).toMatchObject({ state: 'failed', said: [expect.stringContaining('no zip')] });
  expect(
    (await withFirm(other.firmId, (tx) => tx.select().from(schema.exchange).where(eq(schema.exchange.id, wrong))))[0].endedAt,
  ).not.toBeNull();
});
