import { type Paper, paperOf } from '@/core/papers';
import type { TestRecord } from '@/core/record';
import { paperPdf } from '@/server/pdf';
import { giveWay } from './yielding';

giveWay();

/** What is wanted of a record: its pages, with pictures by the hash of the paper's copy, or what stands on them. */
export type PaperJob = { readonly record: TestRecord } & (
  | { readonly want: 'blocks' }
  | { readonly want: 'pages'; readonly pictures: readonly (readonly [string, Uint8Array])[]; readonly root: string }
);

/** Makes a paper in a thread of its own: a long one keeps nobody waiting but whoever asked for it. */
export default async (job: PaperJob): Promise<Uint8Array | Paper> =>
  job.want === 'blocks'
    ? paperOf(job.record)
    : new Uint8Array(await paperPdf(job.record, new Map(job.pictures.map(([hash, data]) => [hash, Buffer.from(data)])), job.root));
