import { canonical } from '../exact/canonical';
import { sha256 } from '../exact/hash';
import type { Seal, TestRecord } from './record';

export const noSealBefore = '0'.repeat(64);

/** What a seal covers: the canonical record without its seal. */
export const recordHash = ({ seal: _, ...body }: TestRecord): string => sha256(canonical(body));

/** The text that is signed. */
export const sealMessage = ({ hash, keyId, previous, sealedAt }: Pick<Seal, 'hash' | 'keyId' | 'previous' | 'sealedAt'>): string =>
  canonical({ hash, keyId, previous, sealedAt });

/** Name of a public key that people can compare. */
export const fingerprint = (publicKey: string): string =>
  sha256(publicKey)
    .slice(0, 32)
    .replace(/(.{4})(?!$)/g, '$1 ');

export type SealState = 'not sealed' | 'altered' | 'intact, signer unknown' | 'genuine' | 'key revoked';

export interface Signer {
  readonly fingerprint: string;
  readonly revoked: boolean;
}

/**
 * Checks a seal. Signature checking is handed in, because the core has no cryptography of its own.
 * @param verify whether `signature` over `message` was made by `publicKey` (both base64)
 * @param known signers whose fingerprints are trusted
 */
export function checkSeal(
  record: TestRecord,
  known: readonly Signer[],
  verify: (publicKey: string, message: string, signature: string) => boolean,
): SealState {
  const { seal } = record;
  if (seal === undefined) return 'not sealed';
  let hash: string;
  try {
    hash = recordHash(record);
  } catch {
    return 'altered';
  }
  if (hash !== seal.hash || !verify(seal.publicKey, sealMessage(seal), seal.signature)) return 'altered';
  const signer = known.find((one) => one.fingerprint === fingerprint(seal.publicKey));
  if (signer === undefined) return 'intact, signer unknown';
  return signer.revoked ? 'key revoked' : 'genuine';
}
