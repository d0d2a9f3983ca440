import { sha256 as digest } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';

/**
 * SHA-256 of a text's UTF-8 bytes, as lower-case hex. Synchronous, because a plan must be hashed at once and also where the
 * browser offers no crypto (plain HTTP in a plant room).
 */
export const sha256 = (text: string): string => sha256Bytes(utf8ToBytes(text));

/** As `sha256`, of bytes. */
export const sha256Bytes = (bytes: Uint8Array): string => bytesToHex(digest(bytes));
