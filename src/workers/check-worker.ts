import type { Signer } from '@/core/record';
import { verifyFile } from '@/server/verify';
import { giveWay } from './yielding';

giveWay();

/** Checks a file in a thread of its own: however long it takes, nobody else waits, and it can be ended. */
export default ({ data, known, root }: { readonly data: Uint8Array; readonly known: readonly Signer[]; readonly root: string }) =>
  verifyFile(Buffer.from(data), known, root);
