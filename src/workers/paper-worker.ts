import type { TestRecord } from '@/core/record';
import { certificatePdf } from '@/server/certificate-pdf';
import { giveWay } from './yielding';

giveWay();

/** Typesets a certificate in a thread of its own: a long one keeps nobody waiting but whoever asked for it. */
export default async ({ record, root }: { readonly record: TestRecord; readonly root: string }): Promise<Uint8Array> =>
  new Uint8Array(await certificatePdf(record, root));
