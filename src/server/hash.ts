import { createHash } from 'node:crypto';

/** SHA-256 of bytes, hex; by the machine's own, since pictures are large. Text is hashed by the core. */
export const sha256Of = (data: Uint8Array): string => createHash('sha256').update(data).digest('hex');
