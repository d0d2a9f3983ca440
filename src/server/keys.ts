import {
  createCipheriv,
  createDecipheriv,
  createPrivateKey,
  createPublicKey,
  generateKeyPairSync,
  randomBytes,
  randomUUID,
  sign,
  verify,
} from 'node:crypto';
import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import { fingerprint, type Signer } from '@/core/record';
import { type Transaction, withFirm, withoutFirm } from '@/db/connection';
import { firm, sealKey } from '@/db/schema';
import { nowDate } from './clock';
import { setting } from './environment';

/** Ed25519 keys. The raw public key is 32 bytes; these prefixes are its and the private key's DER wrapping (RFC 8410). */
const publicPrefix = Buffer.from('302a300506032b6570032100', 'hex');

function outerKey(): Buffer {
  const key = Buffer.from(setting('VAST_SEAL_SECRET'), 'base64');
  if (key.length !== 32) throw new Error('VAST_SEAL_SECRET must be the base64 of 32 bytes (docs/operations.md).');
  return key;
}

function lock(secret: Buffer): string {
  const nonce = randomBytes(12);
  const cipher = createCipheriv('aes-256-gcm', outerKey(), nonce);
  const body = Buffer.concat([cipher.update(secret), cipher.final()]);
  return Buffer.concat([nonce, cipher.getAuthTag(), body]).toString('base64');
}

function unlock(text: string): Buffer {
  const data = Buffer.from(text, 'base64');
  const decipher = createDecipheriv('aes-256-gcm', outerKey(), data.subarray(0, 12));
  decipher.setAuthTag(data.subarray(12, 28));
  return Buffer.concat([decipher.update(data.subarray(28)), decipher.final()]);
}

/**
 * Makes the firm's sealing key; an older one is retired but still known, so that old seals stay genuine. At any moment there is one
 * live key at most: rotations wait for each other at the firm's row, and the database takes no second.
 */
export const rotateKey = (firmId: string): Promise<string> =>
  withFirm(firmId, async (tx) => {
    await tx.select({ id: firm.id }).from(firm).where(eq(firm.id, firmId)).for('update');
    const pair = generateKeyPairSync('ed25519');
    const publicKey = pair.publicKey.export({ type: 'spki', format: 'der' }).subarray(publicPrefix.length).toString('base64');
    const id = randomUUID();
    await tx.update(sealKey).set({ retiredAt: nowDate() }).where(isNull(sealKey.retiredAt));
    await tx
      .insert(sealKey)
      .values({ id, firmId, publicKey, privateKey: lock(pair.privateKey.export({ type: 'pkcs8', format: 'der' })), createdAt: nowDate() });
    return id;
  });

/**
 * Takes one key out of trust, and out of use if it is the live one: seals made with it are then shown as such, and no other's.
 * Answers whether the firm has such a key.
 */
export const revokeKey = (firmId: string, keyId: string): Promise<boolean> =>
  withFirm(firmId, async (tx) => {
    await tx.select({ id: firm.id }).from(firm).where(eq(firm.id, firmId)).for('update');
    const [key] = await tx.select().from(sealKey).where(eq(sealKey.id, keyId));
    if (key === undefined) return false;
    if (key.revokedAt === null)
      await tx
        .update(sealKey)
        .set({ revokedAt: nowDate(), ...(key.retiredAt === null ? { retiredAt: nowDate() } : {}) })
        .where(eq(sealKey.id, keyId));
    return true;
  });

/** A firm's keys, the newest first; no private part. */
export const listKeys = (firmId: string) =>
  withFirm(firmId, (tx) =>
    tx
      .select({
        id: sealKey.id,
        publicKey: sealKey.publicKey,
        createdAt: sealKey.createdAt,
        retiredAt: sealKey.retiredAt,
        revokedAt: sealKey.revokedAt,
      })
      .from(sealKey)
      .orderBy(desc(sealKey.createdAt)),
  );

export interface Signing {
  readonly keyId: string;
  readonly publicKey: string;
  readonly sign: (message: string) => string;
}

/** The private key; undefined where the secret at hand is not the one that it was locked with. */
function opening(text: string): Buffer | undefined {
  try {
    return unlock(text);
  } catch {
    return undefined;
  }
}

/** The live key, ready to sign; undefined where there is none, it was revoked, or the seal secret is another. */
export async function signing(tx: Transaction): Promise<Signing | undefined> {
  const [key] = await tx
    .select()
    .from(sealKey)
    .where(and(isNull(sealKey.retiredAt), isNull(sealKey.revokedAt)))
    .limit(1);
  if (key === undefined) return undefined;
  const opened = opening(key.privateKey);
  if (opened === undefined) return undefined;
  const secret = createPrivateKey({ key: opened, type: 'pkcs8', format: 'der' });
  return { keyId: key.id, publicKey: key.publicKey, sign: (message) => sign(null, Buffer.from(message), secret).toString('base64') };
}

/** Base64 has spare bits at its end: only the one proper spelling of some bytes is taken, or a seal could be respelt. */
const properly = (text: string): Buffer | undefined => {
  const data = Buffer.from(text, 'base64');
  return data.toString('base64') === text ? data : undefined;
};

/** Ed25519 check over a text; both base64, the public key raw. */
export function verifySignature(publicKey: string, message: string, signature: string): boolean {
  const [raw, signed] = [properly(publicKey), properly(signature)];
  if (raw === undefined || signed === undefined) return false;
  try {
    const key = createPublicKey({ key: Buffer.concat([publicPrefix, raw]), type: 'spki', format: 'der' });
    return verify(null, Buffer.from(message), key, signed);
  } catch {
    return false;
  }
}

/**
 * All signers of this installation, for checking anyone's file.
 * @param ofPaper hash of the paper in hand: a key that came in with a firm's data from elsewhere counts for the papers that came with it
 */
export const knownSigners = (ofPaper = ''): Promise<readonly Signer[]> =>
  withoutFirm(async (tx) => {
    const found = await tx.execute<{ public_key: string; revoked: boolean }>(
      sql`select public_key, revoked from known_signers(${ofPaper})`,
    );
    return found.rows.map(({ public_key, revoked }) => ({ fingerprint: fingerprint(public_key), revoked }));
  });
