import { createHash } from 'node:crypto';
import { and, eq, inArray, sql } from 'drizzle-orm';
import type { PgTable } from 'drizzle-orm/pg-core';
import { type Entry, open, type ZipFile } from 'yauzl';
import { dateText } from '@/core/exact';
import { isRole } from '@/core/permissions';
import { planHash } from '@/core/planning';
import { checkSeal, fingerprint, noSealBefore, type Signer } from '@/core/record';
import { calibrationFault, faultOf, type ThingKind } from '@/core/register';
import { type Transaction, withFirm } from '@/db/connection';
import * as schema from '@/db/schema';
import { now, nowDate } from '../clock';
import { sha256Of } from '../hash';
import { verifySignature } from '../keys';
import { readEvent, readPlan, readRecord } from '../reader';
import { standAll } from '../standing';
import { ExchangeFault, type Manifest, readManifest, type Signed, signedText } from './manifest';
import { type Goes, going, heard, nameOf, patiently, type Told } from './tables';
import type { Progress } from './write';

/** So long may one file of it be, and one line: a zip can promise more than any disk holds. */
const mostFile = 64 * 1024 * 1024;
const mostLine = 32 * 1024 * 1024;
const mostTable = 200 * 1024 * 1024 * 1024;
/** Rows put in at a time; the database takes 65 535 values in one statement. */
const together = 200;

/** A zip that is looked into: its files by name, read one at a time. */
class Bundle {
  private constructor(
    private readonly zip: ZipFile,
    private readonly entries: ReadonlyMap<string, Entry>,
  ) {}

  /** @throws ExchangeFault where it is no zip, or not all of one */
  static open(file: string): Promise<Bundle> {
    return new Promise((resolve, reject) => {
      const wrong = () =>
        reject(new ExchangeFault('This file is no zip, or it was cut short on its way. Copy the export again and take the whole file.'));
      open(file, { lazyEntries: true, autoClose: false, validateEntrySizes: true }, (error, zip) => {
        if (error !== null) return wrong();
        const entries = new Map<string, Entry>();
        zip.on('entry', (entry: Entry) => {
          entries.set(entry.fileName, entry);
          zip.readEntry();
        });
        zip.on('end', () => resolve(new Bundle(zip, entries)));
        zip.on('error', wrong);
        zip.readEntry();
      });
    });
  }

  close = (): void => this.zip.close();
  has = (name: string): boolean => this.entries.has(name);

  async *chunks(name: string, most: number): AsyncGenerator<Buffer> {
    const entry = this.entries.get(name);
    if (entry === undefined) throw new ExchangeFault(`${name} is missing in this file. Make the export again.`);
    if (entry.uncompressedSize > most) throw new ExchangeFault(`${name} is larger than anything that Vast Stone writes.`);
    const stream = await new Promise<NodeJS.ReadableStream>((resolve, reject) =>
      this.zip.openReadStream(entry, (error, opened) => (error === null ? resolve(opened) : reject(error))),
    ).catch(() => {
      throw damaged(name);
    });
    try {
      for await (const chunk of stream) yield chunk as Buffer;
    } catch (error) {
      throw error instanceof ExchangeFault ? error : damaged(name);
    }
  }

  async whole(name: string, most = mostFile): Promise<Buffer> {
    const parts: Buffer[] = [];
    for await (const chunk of this.chunks(name, most)) parts.push(chunk);
    return Buffer.concat(parts);
  }

  /** The lines of a table, and at their end whether they are those that the manifest names. */
  async *lines(name: string, told: Manifest['tables'][string]): AsyncGenerator<{ readonly number: number; readonly text: string }> {
    const hash = createHash('sha256');
    let rest: Buffer[] = [];
    let length = 0;
    let number = 0;
    for await (const chunk of this.chunks(name, mostTable)) {
      hash.update(chunk);
      let from = 0;
      for (let at = chunk.indexOf(10); at !== -1; at = chunk.indexOf(10, from)) {
        number += 1;
        yield { number, text: Buffer.concat([...rest, chunk.subarray(from, at)]).toString('utf8') };
        rest = [];
        length = 0;
        from = at + 1;
      }
      rest.push(chunk.subarray(from));
      length += chunk.length - from;
      if (length > mostLine) throw new ExchangeFault(`${name}, line ${number + 1}, is longer than anything that Vast Stone writes.`);
    }
    if (length > 0 || number !== told.rows || hash.digest('hex') !== told.sha256)
      throw new ExchangeFault(`${name} was altered since it was exported. Nothing was taken from this file.`);
  }
}

const damaged = (name: string): ExchangeFault => new ExchangeFault(`${name} is damaged. Copy the export again and take the whole file.`);

/** Looks at what is in a file before anything is taken from it. @throws ExchangeFault */
async function manifestOf(bundle: Bundle): Promise<{ readonly manifest: Manifest; readonly signed?: Signed }> {
  if (!bundle.has('manifest.json')) throw new ExchangeFault('This is a zip, but no export of a firm from Vast Stone.');
  const text = (await bundle.whole('manifest.json')).toString('utf8');
  const manifest = readManifest(text);
  for (const { table } of going)
    if (manifest.tables[nameOf(table)] === undefined) throw new ExchangeFault(`manifest.json does not name the table “${nameOf(table)}”.`);
  if (!bundle.has('manifest.sig')) {
    // What was left out of it, a withdrawal say, could not be told.
    if (manifest.tables[nameOf(schema.certificate)].rows > 0)
      throw new ExchangeFault(
        'This export has papers and carries no seal of the firm over the whole of it. Export it again where the firm’s key is, and take that file.',
      );
    return { manifest };
  }
  let signed: Signed;
  try {
    signed = JSON.parse((await bundle.whole('manifest.sig')).toString('utf8')) as Signed;
  } catch {
    throw damaged('manifest.sig');
  }
  if (!verifySignature(String(signed.publicKey), signedText(text), String(signed.signature)))
    throw new ExchangeFault(
      'This file was altered since it was exported: the firm’s seal over it does not hold. Nothing was taken from it.',
    );
  return { manifest, signed };
}

type Kept = Record<string, unknown>;

/** What comes in with a row of a table, and what is wrong with it. */
interface Coming {
  readonly tx: Transaction;
  readonly firmId: string;
  readonly signers: Map<string, Signer & { readonly publicKey: string }>;
  /** Seals by the one before each. */
  readonly chain: Map<string, string>;
  readonly papers: { count: number };
  /** Runs of every test of a paper, by paper and place. */
  readonly runs: Map<string, readonly string[]>;
  readonly people: string[];
  /** What lists said of each test where the data came from. */
  readonly before: Map<string, string>;
  head?: { readonly count: number; readonly seal: string };
}

const things = new Map<PgTable, ThingKind>([
  [schema.site, 'site'],
  [schema.system, 'system'],
  [schema.component, 'component'],
  [schema.equipment, 'equipment'],
  [schema.visit, 'visit'],
  [schema.instrument, 'instrument'],
]);

/** Rows as they come in: looked at, and changed where they mean something else here. @throws Error with words */
async function arrived(one: Goes, row: Kept, of: Coming): Promise<Kept | undefined> {
  const { table } = one;
  const thing = things.get(table);
  if (thing !== undefined) {
    const { id: _, version: __, createdAt: ___, ...said } = row;
    const fault = faultOf(thing, said);
    if (fault !== undefined) throw new Error(`cannot be: ${fault.message}`);
  }
  if (table === schema.firm) {
    const { id: _, lastCertificate, lastSeal, ...settings } = row;
    of.head = { count: Number(lastCertificate), seal: String(lastSeal) };
    await of.tx
      .update(schema.firm)
      .set({ ...settings, lastCertificate: of.head.count, lastSeal: of.head.seal })
      .where(eq(schema.firm.id, of.firmId));
    return undefined;
  }
  if (table === schema.person) {
    if (!isRole(row.role)) throw new Error('has a role that is not known here');
    of.people.push(String(row.name));
    return { ...row, putAwayAt: row.putAwayAt ?? nowDate() };
  }
  if (table === schema.sealKey) {
    const publicKey = String(row.publicKey);
    of.signers.set(String(row.id), { fingerprint: fingerprint(publicKey), revoked: row.revokedAt !== null, publicKey });
    return { ...row, privateKey: '', retiredAt: row.retiredAt ?? nowDate(), importedAt: nowDate() };
  }
  if (table === schema.calibration) {
    const fault = calibrationFault({ doneOn: row.doneOn, dueOn: row.dueOn, reference: row.reference }, dateText(now()));
    if (fault !== undefined) throw new Error(`cannot be: ${fault.message}`);
  }
  if (table === schema.run && row.unread === null) {
    const plan = readPlan(row.plan);
    if (!plan.ok || planHash(plan.value) !== plan.value.hash) throw new Error('holds a plan that is not the one that its hash names');
  }
  if (table === schema.event) {
    const event = readEvent(row.event);
    if (!event.ok) throw new Error(event.problem.message);
    if (event.value.id !== row.id || event.value.run !== row.runId) throw new Error('is an event of another run');
  }
  if (table === schema.photo && (sha256Of(row.picture as Buffer) !== row.storedHash || sha256Of(row.copy as Buffer) !== row.copyHash))
    throw new Error('names a picture that is another');
  if (table === schema.firmLogo && sha256Of(row.picture as Buffer) !== row.hash) throw new Error('names a logo that is another');
  if (table === schema.certificate) sealed(row, of);
  if (table === schema.certificateTest) await ofItsTest(row, of);
  if (table === schema.message && row.state === 'waiting')
    return { ...row, state: 'given up', said: 'Not sent any more: it came in with the firm’s data.', settledAt: nowDate() };
  // Whoever it was given to is put away here.
  if (table === schema.followUp) return { ...row, person: row.endedAt === null ? '' : row.person };
  if (table === schema.standing) {
    of.before.set(String(row.testId), String(row.verdict));
    return undefined;
  }
  return row;
}

/** A paper comes in as it was sealed, or not at all. */
function sealed(row: Kept, { signers, chain, papers, runs }: Coming): void {
  const number = String(row.number);
  const read = readRecord(String(row.record));
  if (!read.ok) throw new Error(`${number} cannot be read: ${read.problem.message}`);
  const { certificate, seal } = read.value;
  const key = signers.get(String(row.keyId));
  const state = key === undefined ? 'intact, signer unknown' : checkSeal(read.value, [key], verifySignature);
  if (state !== 'genuine' && state !== 'key revoked') throw new Error(`${number} is ${state}`);
  if (
    !/^\d{4}-\d{5,}$/.test(number) ||
    certificate?.number !== number ||
    certificate.checkCode !== row.checkCode ||
    seal === undefined ||
    seal.hash !== row.hash ||
    seal.previous !== row.previous ||
    seal.keyId !== row.keyId
  )
    throw new Error(`${number} is listed as another paper than it is`);
  chain.set(String(row.previous), String(row.hash));
  papers.count += 1;
  for (const [index, { attempts }] of read.value.tests.entries())
    runs.set(
      `${row.id} ${index + 1}`,
      attempts.flatMap(({ events }) => events.slice(0, 1).map(({ run }) => run)),
    );
}

/** A paper is of the tests that its own record is of: a seal over one proves nothing of another. */
async function ofItsTest(row: Kept, { tx, runs }: Coming): Promise<void> {
  const wanted = runs.get(`${row.certificateId} ${row.place}`);
  const found =
    wanted === undefined || wanted.length === 0
      ? []
      : await tx
          .select({ id: schema.run.id })
          .from(schema.run)
          .where(and(eq(schema.run.testId, String(row.testId)), inArray(schema.run.id, [...wanted])));
  if (wanted === undefined || found.length !== new Set(wanted).size) throw new Error('lists a paper under a test that it is not of');
}

/** Every seal follows the one before, from the first to the last, and none is missing. */
function chainFault({ chain, head }: Coming): string | undefined {
  let at = noSealBefore;
  for (let step = 0; step < chain.size; step += 1) {
    const next = chain.get(at);
    if (next === undefined) return 'a paper is missing in the chain of seals';
    at = next;
  }
  return head?.seal === at && head.count === chain.size ? undefined : 'the chain of seals does not end where the firm says';
}

const isEmpty = async (tx: Transaction): Promise<boolean> => {
  for (const { table, mayStand } of going) {
    if (mayStand === true) continue;
    const rows = await tx.select({ one: sql`1` }).from(table).limit(1);
    if (rows.length > 0) return false;
  }
  return true;
};

/** Whether a firm has nothing of its own yet, so that another's data can come in. */
export const isEmptyFirm = (firmId: string): Promise<boolean> => withFirm(firmId, isEmpty);

/**
 * Takes all of a firm's data into a firm that is empty: all of it, or nothing.
 * @returns what it came to, in lines to read
 * @throws ExchangeFault with what is wrong and what to do
 */
export async function readExport(firmId: string, file: string, progress: Progress): Promise<readonly string[]> {
  const bundle = await Bundle.open(file);
  try {
    const { manifest, signed } = await manifestOf(bundle);
    return await withFirm(firmId, (tx) => takeIn(tx, firmId, bundle, manifest, signed, progress));
  } finally {
    bundle.close();
  }
}

async function takeIn(
  tx: Transaction,
  firmId: string,
  bundle: Bundle,
  manifest: Manifest,
  signed: Signed | undefined,
  progress: Progress,
): Promise<readonly string[]> {
  await patiently(tx);
  // Nobody begins anything here meanwhile: a seal waits for this row.
  await tx.select({ id: schema.firm.id }).from(schema.firm).where(eq(schema.firm.id, firmId)).for('update');
  if (!(await isEmpty(tx)))
    throw new ExchangeFault('This firm has data of its own. An export comes into a firm that is empty yet: begin a new one for it.');
  const of: Coming = {
    tx,
    firmId,
    signers: new Map(),
    chain: new Map(),
    papers: { count: 0 },
    runs: new Map(),
    people: [],
    before: new Map(),
  };
  const total = going.reduce((sum, { table }) => sum + manifest.tables[nameOf(table)].rows, 0);
  let done = 0;
  for (const one of going) {
    const name = `tables/${nameOf(one.table)}.ndjson`;
    let rows: Kept[] = [];
    const put = async () => {
      if (rows.length > 0) await tx.insert(one.table).values(rows as never);
      rows = [];
    };
    for await (const { number, text } of bundle.lines(name, manifest.tables[nameOf(one.table)])) {
      try {
        const row = await arrived(one, heard(one, await joined(bundle, one, text)), of);
        if (row !== undefined) rows.push(nameOf(one.table) === 'firm' ? row : { ...row, firmId });
        if (rows.length >= Math.min(together, one.page)) await put();
      } catch (error) {
        throw error instanceof ExchangeFault
          ? error
          : new ExchangeFault(`${name}, line ${number}: ${wordsOf(error)}. Nothing was taken in.`);
      }
      done += 1;
      progress('Tables', done, total);
    }
    await put().catch((error) => {
      throw new ExchangeFault(`${name}: ${wordsOf(error)}. Nothing was taken in.`);
    });
  }
  const broken = chainFault(of);
  if (broken !== undefined) throw new ExchangeFault(`Papers: ${broken}. Nothing was taken in.`);
  if (signed !== undefined && ![...of.signers.values()].some(({ publicKey, revoked }) => publicKey === signed.publicKey && !revoked))
    throw new ExchangeFault('This file is sealed by a key that is not among the firm’s own. Nothing was taken from it.');
  const different = await judgedAgain(of, progress);
  const tests = of.before.size;
  return [
    `All of ${manifest.firm} came in, as it was exported on ${manifest.madeAt.slice(0, 10)}: ${going
      .map(({ table, called }) => ({ rows: manifest.tables[nameOf(table)].rows, called }))
      .flatMap(({ rows, called }) => (called === undefined || rows === 0 ? [] : [`${rows} ${called}`]))
      .join(', ')}.`,
    of.papers.count === 0 ? 'There were no papers.' : `${of.papers.count} papers: every seal holds, and none is missing in their chain.`,
    different.length === 0
      ? `${tests} tests, judged again here: the same verdicts.`
      : `${different.length} of ${tests} tests are judged differently by this version: ${different.slice(0, 20).join(', ')}. Look at them; their papers stand as they were sealed.`,
    `${of.people.length} people came in as put away: ${of.people.join(', ')}. Invite those who still work here.`,
    ...(signed === undefined ? ['The export carried no seal over the whole of it: that nobody altered it is not proved.'] : []),
  ];
}

/** A row's line with what stands apart put back in. */
async function joined(bundle: Bundle, { files = {} }: Goes, text: string): Promise<Told> {
  const line = JSON.parse(text) as Record<string, unknown>;
  if (typeof line !== 'object' || line === null || Array.isArray(line)) throw new Error('is no row');
  for (const key of Object.keys(files)) {
    const name = (line[key] as { file?: unknown } | null)?.file;
    if (typeof name !== 'string') throw new Error(`“${key}” names no file`);
    const data = await bundle.whole(name);
    line[key] = files[key].by === undefined ? data : data.toString('utf8');
  }
  return line;
}

const wordsOf = (error: unknown): string => {
  const found = error as { readonly code?: unknown; readonly cause?: { readonly code?: unknown } } | null;
  const code = found?.code ?? found?.cause?.code;
  if (code === '23505') return 'a row of this id stands in this installation already. Import it into another installation';
  if (code === '23503') return 'a row refers to one that is not there';
  return error instanceof SyntaxError
    ? 'is not JSON'
    : error instanceof Error && code === undefined
      ? error.message
      : 'a row cannot be kept';
};

/** Judged in one go: whoever asks the server for something else meanwhile waits no longer than for these. */
const atOnce = 3;

/** Makes the rows of lists again, from plans and events. Answers the tests of which the verdict is another than it was. */
async function judgedAgain({ tx, before }: Coming, progress: Progress): Promise<readonly string[]> {
  const different: string[] = [];
  const ids = (await tx.select({ id: schema.test.id }).from(schema.test).orderBy(schema.test.createdAt)).map(({ id }) => id);
  for (let from = 0; from < ids.length; from += atOnce) {
    for (const { testId, verdict } of await standAll(tx, ids.slice(from, from + atOnce)))
      if (before.get(testId) !== verdict) different.push(`${testId} (${before.get(testId) ?? 'not listed'}, now ${verdict})`);
    progress('Judging again', Math.min(from + atOnce, ids.length), ids.length);
  }
  return different;
}
