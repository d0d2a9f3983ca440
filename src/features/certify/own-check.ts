import { hashes, verify } from '@noble/ed25519';
import { sha512 } from '@noble/hashes/sha2.js';
import { type Paper, paperOf } from '@/core/papers';
import { addressOf } from '@/core/permissions';
import { bad, type Result } from '@/core/quantities';
import { checkSeal, fingerprint, readRecord, type SealState, type Signer, type TestRecord } from '@/core/record';

/* What this browser finds by itself of a file: whether it is as it was sealed, and by whom. Only the list of signers is asked for. */

export interface OwnCheck {
  readonly state: SealState;
  readonly record: TestRecord;
  readonly signer?: string;
  /** What the record gives as a paper: to be laid beside the one in hand. */
  readonly paper: Paper;
}

const bytes = (base64: string): Uint8Array => Uint8Array.from(atob(base64), (sign) => sign.charCodeAt(0));

/** Ed25519 without the browser's own, which is missing over plain HTTP and in older ones. */
function signatureHolds(publicKey: string, message: string, signature: string): boolean {
  hashes.sha512 = sha512;
  try {
    return verify(bytes(signature), new TextEncoder().encode(message), bytes(publicKey), { zip215: false });
  } catch {
    return false;
  }
}

async function textOf(data: Uint8Array<ArrayBuffer>): Promise<Result<string>> {
  const isPdf = new TextDecoder('latin1').decode(data.subarray(0, 5)) === '%PDF-';
  if (!isPdf) return { ok: true, value: new TextDecoder().decode(data) };
  const pdfjs = await import('pdfjs-dist');
  pdfjs.GlobalWorkerOptions.workerSrc = new URL('pdfjs-dist/build/pdf.worker.min.mjs', import.meta.url).toString();
  const document = await pdfjs.getDocument({ data: data.slice() }).promise;
  const attachments = (await document.getAttachments()) as Record<string, { filename: string; content: Uint8Array }> | null;
  await document.destroy();
  const found = Object.values(attachments ?? {}).find(({ filename }) => filename === 'record.json');
  return found === undefined ? bad('no-record', 'This PDF holds no record.') : { ok: true, value: new TextDecoder().decode(found.content) };
}

/** Checks a file in this browser. */
export async function checkHere(file: Blob): Promise<Result<OwnCheck>> {
  const text = await textOf(new Uint8Array(await file.arrayBuffer()));
  if (!text.ok) return text;
  let value: unknown;
  try {
    value = JSON.parse(text.value);
  } catch {
    return bad('no-json', 'The file is not JSON.');
  }
  const read = readRecord(value);
  if (!read.ok) return read;
  const record = read.value;
  const response = await fetch(`${addressOf('GET /api/signers')}?of=${encodeURIComponent(record.seal?.hash ?? '')}`);
  const signers = response.ok ? ((await response.json()) as readonly Signer[]) : [];
  return {
    ok: true,
    value: {
      state: checkSeal(record, signers, signatureHolds),
      record,
      ...(record.seal === undefined ? {} : { signer: fingerprint(record.seal.publicKey) }),
      paper: paperOf(record),
    },
  };
}
