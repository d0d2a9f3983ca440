import { sha256Bytes } from '@/core/exact';

/** SHA-256 of bytes as hex; by the browser where it may (not over plain HTTP), else by our own. */
export async function hashBytes(data: ArrayBuffer): Promise<string> {
  if (globalThis.crypto?.subtle === undefined) return sha256Bytes(new Uint8Array(data));
  const digest = await crypto.subtle.digest('SHA-256', data);
  return Array.from(new Uint8Array(digest), (byte) => byte.toString(16).padStart(2, '0')).join('');
}
