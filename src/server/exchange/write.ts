import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { rename, rm, stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { finished } from 'node:stream/promises';
import { count, eq } from 'drizzle-orm';
import Papa from 'papaparse';
import { ZipFile } from 'yazl';
import { recordSchema, type TestRecord } from '@/core/record';
import { type Transaction, withSnapshot } from '@/db/connection';
import { certificate, firm } from '@/db/schema';
import { now } from '../clock';
import { signing } from '../keys';
import { pagesOf } from '../papers';
import { format, formatVersion, type Manifest, type Signed, signedText } from './manifest';
import { going, nameOf, pagesOfTable, patiently, staying, told, toldColumns } from './tables';

/** What is being done, how much of it is done, and how much there is. */
export type Progress = (doing: string, done: number, total: number) => void;

/** A zip that is written one file after the other: what is not written yet is not made yet. */
class Archive {
  private readonly zip = new ZipFile();
  private readonly written: Promise<void>;
  private fault: unknown;

  constructor(private readonly file: string) {
    const out = createWriteStream(`${file}.part`);
    this.written = finished(this.zip.outputStream.pipe(out));
    this.written.catch((error) => {
      this.fault = error;
    });
  }

  /** Adds a file; answers when all of it is in: however many there are, no more than one is in memory. */
  async add(name: string, content: AsyncIterable<Buffer | string> | Buffer, isPacked = false): Promise<void> {
    if (this.fault !== undefined) throw this.fault;
    const stream = Readable.from(Buffer.isBuffer(content) ? [content] : content, { objectMode: false, highWaterMark: 256 * 1024 });
    this.zip.addReadStream(stream, name, { compress: !isPacked, mtime: new Date(now()) });
    // Where the disk is full, the file's end never comes.
    await Promise.race([finished(stream), this.written]);
    if (this.fault !== undefined) throw this.fault;
  }

  async end(): Promise<void> {
    this.zip.end();
    await this.written;
    await rename(`${this.file}.part`, this.file);
  }

  abandon = (): Promise<void> => rm(`${this.file}.part`, { force: true });
}

const readMe = (leftOut: Manifest['leftOut']): string => `All of a firm's data, as Vast Stone wrote it.

manifest.json   what is here, with a hash of every table; manifest.sig is the firm's seal over it
tables/         every table, one row a line, as JSON; schema/tables.json says what each column is
records/        every sealed certificate as it was sealed; schema/record.json is its schema
papers/         the same certificates as PDF, where they were asked for
pictures/       photographs and logos, named by the SHA-256 of what is in them
csv/            tables for a spreadsheet; what would be a formula has a ' before it

An installation of Vast Stone takes all of it into a firm that is empty yet. People come in as put away, keys with their public part.

Left out:
${Object.entries(leftOut)
  .map(([name, why]) => `  ${name}: ${why}`)
  .join('\n')}
`;

/** What each column is, for whoever reads the tables without this program. */
const columnWords = () =>
  Object.fromEntries(
    going.map(({ table, files = {} }) => [
      nameOf(table),
      Object.fromEntries(
        toldColumns(table).map(([key, column]) => [
          key,
          `${files[key] === undefined ? column.getSQLType() : `name of a file in ${files[key].folder}/`}${column.notNull ? '' : ', or null'}`,
        ]),
      ),
    ]),
  );

const cell = (value: unknown): unknown =>
  value instanceof Date ? value.toISOString() : typeof value === 'object' && value !== null ? JSON.stringify(value) : value;

/**
 * Writes all of a firm's data into a zip, as it stands at one moment.
 * @param withPapers also every paper as PDF: a tenth of a second each
 * @param make what sets the pages
 * @returns the bytes of the file, and whether the firm's seal is over it: where it has no key that can be used there is none
 */
export async function writeExport(
  firmId: string,
  file: string,
  withPapers: boolean,
  progress: Progress,
  make = pagesOf,
): Promise<Exported> {
  const archive = new Archive(file);
  try {
    const { papers, sealed } = await withSnapshot(firmId, (tx) => snapshot(tx, archive, withPapers, progress));
    for (const [index, id] of papers.entries()) {
      progress('Papers as PDF', index, papers.length);
      const record = await recordOf(firmId, id);
      const pages = await make(firmId, record);
      if (!pages.ok) throw new Error(pages.problem.message);
      await archive.add(`papers/${record.certificate?.number ?? id}.pdf`, Buffer.from(pages.value), true);
    }
    await archive.end();
    return { bytes: (await stat(file)).size, sealed };
  } catch (error) {
    await archive.abandon();
    throw error;
  }
}

const recordOf = (firmId: string, id: string): Promise<TestRecord> =>
  withSnapshot(firmId, async (tx) => {
    const [row] = await tx.select({ record: certificate.record }).from(certificate).where(eq(certificate.id, id));
    return JSON.parse(row.record) as TestRecord;
  });

/** Everything that is read from the database; answers which papers there are. */
async function snapshot(
  tx: Transaction,
  archive: Archive,
  withPapers: boolean,
  progress: Progress,
): Promise<{ readonly papers: readonly string[]; readonly sealed: boolean }> {
  await patiently(tx);
  let total = 0;
  for (const { table } of going) total += (await tx.select({ rows: count() }).from(table))[0].rows;
  const tables: Record<string, { rows: number; sha256: string }> = {};
  const pictures = new Set<string>();
  let done = 0;
  for (const one of going) {
    const name = nameOf(one.table);
    const hash = createHash('sha256');
    let rows = 0;
    // Files that stand apart come after the table: a zip is written one file at a time.
    const lines = async function* () {
      for await (const page of pagesOfTable(tx, one)) {
        const text = page.map((row) => `${JSON.stringify(told(one, row).line)}\n`).join('');
        hash.update(text);
        rows += page.length;
        done += page.length;
        progress('Tables', done, total);
        yield text;
      }
    };
    await archive.add(`tables/${name}.ndjson`, lines());
    tables[name] = { rows, sha256: hash.digest('hex') };
    if (one.files !== undefined)
      for await (const page of pagesOfTable(tx, one))
        for (const row of page)
          for (const { name: apart, data } of told(one, row).apart) {
            if (pictures.has(apart)) continue;
            pictures.add(apart);
            await archive.add(apart, data, !apart.endsWith('.json'));
          }
    if (one.sheet === true) await archive.add(`csv/${name}.csv`, sheetOf(tx, one));
  }
  const [{ name: firmName }] = await tx.select({ name: firm.name }).from(firm);
  const leftOut = Object.fromEntries(staying.map(({ table, why }) => [nameOf(table), why]));
  const manifest: Manifest = {
    format,
    version: formatVersion,
    madeAt: new Date(now()).toISOString(),
    firm: firmName,
    tables,
    leftOut,
    papers: withPapers ? 'as PDF too' : 'as records only',
  };
  const text = JSON.stringify(manifest, null, 2);
  const key = await signing(tx);
  const signed: Signed | undefined = key === undefined ? undefined : { publicKey: key.publicKey, signature: key.sign(signedText(text)) };
  const json = (value: unknown) => Buffer.from(`${JSON.stringify(value, null, 2)}\n`);
  await archive.add('README.txt', Buffer.from(readMe(leftOut)));
  await archive.add('schema/record.json', json(recordSchema));
  await archive.add('schema/tables.json', json(columnWords()));
  await archive.add('manifest.json', Buffer.from(text));
  if (signed !== undefined) await archive.add('manifest.sig', json(signed));
  const rows = withPapers ? await tx.select({ id: certificate.id }).from(certificate).orderBy(certificate.issuedAt) : [];
  return { papers: rows.map(({ id }) => id), sealed: signed !== undefined };
}

export interface Exported {
  readonly bytes: number;
  readonly sealed: boolean;
}

/** Said of an export without it. */
export const unsealedWords =
  'It carries no seal of the firm, which has no key that can be used: where it has papers, no installation takes it in. Make a key, and export again.';

/** What a spreadsheet would take for a formula; a figure below nought is none. */
const formula = /^(?!-?\d+(?:[.,]\d+)?$)[=+\-@\t\r]/;

/** A table for a spreadsheet: what would be a formula there is text. */
async function* sheetOf(tx: Transaction, one: (typeof going)[number]): AsyncGenerator<string> {
  const columns = toldColumns(one.table)
    .map(([key]) => key)
    .filter((key) => one.files?.[key] === undefined);
  // A mark that tells a spreadsheet of its letters.
  yield `\uFEFF${Papa.unparse([columns])}\r\n`;
  for await (const page of pagesOfTable(tx, one)) {
    const cells = page.map((row) => columns.map((key) => cell(row[key])));
    yield `${Papa.unparse(cells, { escapeFormulae: formula })}\r\n`;
  }
}
