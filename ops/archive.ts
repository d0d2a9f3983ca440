import { type ChildProcess, spawn } from 'node:child_process';
import { createCipheriv, createDecipheriv, randomBytes, scryptSync, timingSafeEqual } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { open, stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';

/**
 * The file of a backup: a line that says what it is, salt, check of the passphrase, nonce, then a tar archive under AES-256-GCM,
 * and its tag. The key is made of the passphrase by scrypt.
 */
const title = Buffer.from('Vast Stone backup 1\n');
const headLength = title.length + 16 + 16 + 12;
const tagLength = 16;

const keyOf = (passphrase: string, salt: Buffer): { readonly key: Buffer; readonly check: Buffer } => {
  const made = scryptSync(passphrase, salt, 48, { N: 32_768, r: 8, p: 1, maxmem: 64 * 1024 * 1024 });
  return { key: made.subarray(0, 32), check: made.subarray(32) };
};

const ended = (child: ChildProcess, what: string): Promise<void> =>
  new Promise((resolve, reject) =>
    child.once('close', (code) => (code === 0 ? resolve() : reject(new Error(`${what} ended with ${code}`)))),
  );

/** Packs a directory into an encrypted file. */
export async function pack(directory: string, file: string, passphrase: string): Promise<void> {
  const salt = randomBytes(16);
  const nonce = randomBytes(12);
  const { key, check } = keyOf(passphrase, salt);
  const cipher = createCipheriv('aes-256-gcm', key, nonce);
  const tar = spawn('tar', ['-C', directory, '-cf', '-', '.'], { stdio: ['ignore', 'pipe', 'inherit'] });
  const out = createWriteStream(file, { flags: 'wx', mode: 0o600 });
  out.write(Buffer.concat([title, salt, check, nonce]));
  await Promise.all([pipeline(tar.stdout, cipher, out, { end: false }), ended(tar, 'tar')]);
  await new Promise<void>((resolve, reject) => out.end(cipher.getAuthTag(), () => resolve()).once('error', reject));
  const kept = await open(file, 'r');
  await kept.sync();
  await kept.close();
}

/** Unpacks it again; throws with plain words where it is no backup, the passphrase is another, or it was changed or cut short. */
export async function unpack(file: string, directory: string, passphrase: string): Promise<void> {
  const { size } = await stat(file);
  const head = Buffer.alloc(headLength);
  const tag = Buffer.alloc(tagLength);
  const opened = await open(file, 'r');
  await opened.read(head, 0, headLength, 0);
  await opened.read(tag, 0, tagLength, Math.max(0, size - tagLength));
  await opened.close();
  if (!head.subarray(0, title.length).equals(title)) throw new Error(`${file} is no backup of Vast Stone.`);
  const [salt, check, nonce] = [head.subarray(20, 36), head.subarray(36, 52), head.subarray(52)];
  const { key, check: own } = keyOf(passphrase, salt);
  if (!timingSafeEqual(check, own)) throw new Error('The passphrase is not the one that this backup was made with.');
  const decipher = createDecipheriv('aes-256-gcm', key, nonce);
  decipher.setAuthTag(tag);
  const tar = spawn('tar', ['-C', directory, '-xf', '-', '--no-same-owner'], { stdio: ['pipe', 'inherit', 'ignore'] });
  const unpacked = ended(tar, 'tar');
  try {
    await pipeline(createReadStream(file, { start: headLength, end: size - tagLength - 1 }), decipher, tar.stdin);
    await unpacked;
  } catch {
    await unpacked.catch(() => undefined);
    throw new Error(`${file} was changed or cut short: it cannot be trusted. Use another backup.`);
  }
}
