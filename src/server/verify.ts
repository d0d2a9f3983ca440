import type { TestVerdict } from '@/core/course';
import { canonical } from '@/core/exact';
import { judge } from '@/core/judging';
import { planHash } from '@/core/planning';
import { bad, good, type Problem, type Result } from '@/core/quantities';
import { type Attempt, attemptsOf, checkSeal, fingerprint, type SealState, type Signer, type TestRecord, verdictOver } from '@/core/record';
import { verifySignature } from './keys';
import { checkPages, type PagesChecked } from './pdf/compare';
import { readRecord } from './reader';

export interface Verification {
  readonly state: SealState;
  readonly number?: string;
  readonly verdict: string;
  readonly signer?: string;
  /** For a PDF: whether its pages are what the record gives. */
  readonly pages?: PagesChecked;
  /** Readings came from a simulated gauge. */
  readonly simulated: boolean;
  /** Attempts whose judgement differs when judged again by this version. */
  readonly judgedDifferently: readonly number[];
  /** Attempts whose plan is not the one that its hash names. */
  readonly planAltered: readonly number[];
  readonly record: TestRecord;
}

/** Checks a record or a certificate's PDF that anyone holds. Needs no database: the trusted signers are handed in. */
export async function verifyFile(data: Buffer, known: readonly Signer[], root?: string): Promise<Result<Verification>> {
  const isPdf = data.subarray(0, 5).toString('latin1') === '%PDF-';
  const text = isPdf ? await attachedRecord(data) : good(data.toString('utf8'));
  if (!text.ok) return text;
  const read = readRecord(text.value);
  if (!read.ok) return read;
  const record = read.value;
  const judged = attemptsOf(record).map((attempt) => ({ ...attempt, again: judge(attempt.plan, attempt.events) }));
  return good({
    state: checkSeal(record, known, verifySignature),
    ...(record.certificate === undefined ? {} : { number: record.certificate.number }),
    ...(record.seal === undefined ? {} : { signer: fingerprint(record.seal.publicKey) }),
    verdict: verdictOver(record.tests.map(({ attempts }) => verdictOf(attempts.at(-1)))),
    simulated: judged.some(({ again }) => again.simulated),
    judgedDifferently: judged
      .filter(({ judgement, again }) => judgement !== undefined && canonical(judgement) !== canonical(again))
      .map(({ number }) => number),
    planAltered: attemptsOf(record)
      .filter(({ plan }) => planHash(plan) !== plan.hash)
      .map(({ number }) => number),
    ...(isPdf ? { pages: await checkPages(data, record, root) } : {}),
    record,
  });
}

/** As it was sealed, or judged now. */
const verdictOf = (attempt: Attempt | undefined): TestVerdict =>
  attempt === undefined ? 'in progress' : (attempt.judgement ?? judge(attempt.plan, attempt.events)).verdict;

const noRecord: { readonly ok: false; readonly problem: Problem } = bad(
  'no-record',
  'This PDF holds no record. Ask for the original file of the certificate.',
);

/** A day's readings with every attempt's trace take a tenth of this. */
const mostPages = 500;

/** The record attached to a PDF, read by a full PDF reader, since other programs may have rewritten the file. */
async function attachedRecord(data: Buffer): Promise<Result<string>> {
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  try {
    const document = await getDocument({ data: new Uint8Array(data), useSystemFonts: false, verbosity: 0 }).promise;
    if (document.numPages > mostPages) {
      await document.destroy();
      return bad('too-many-pages', `This PDF has ${document.numPages} pages; no certificate of ours has more than ${mostPages}.`);
    }
    const attachments = (await document.getAttachments()) as Record<string, { filename: string; content: Uint8Array }> | null;
    await document.destroy();
    const found = Object.values(attachments ?? {}).find(({ filename }) => filename === 'record.json');
    return found === undefined ? noRecord : good(Buffer.from(found.content).toString('utf8'));
  } catch {
    return bad('not-a-pdf', 'This PDF cannot be read; it may be damaged. Ask for the original file of the certificate.');
  }
}
