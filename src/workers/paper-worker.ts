import { type Paper, paperOf, receiptOf } from '@/core/papers';
import type { TestRecord } from '@/core/record';
import { paperPdf, receiptPdf } from '@/server/pdf';
import { giveWay } from './yielding';

giveWay();

/** What is wanted of a record: its pages or its strip, with pictures by the hash of the paper's copy, or what stands on them. */
export type PaperJob = { readonly record: TestRecord } & (
  | { readonly want: 'blocks' | 'roll' }
  | { readonly want: 'strip'; readonly root: string }
  | { readonly want: 'pages'; readonly pictures: readonly (readonly [string, Uint8Array])[]; readonly root: string }
);

/** Makes a paper in a thread of its own: a long one keeps nobody waiting but whoever asked for it. */
export default async (job: PaperJob): Promise<Uint8Array | Paper> => {
  switch (job.want) {
    case 'blocks':
      return paperOf(job.record);
    case 'roll':
      return receiptOf(job.record);
    case 'strip':
      return new Uint8Array(await receiptPdf(job.record, job.root));
    case 'pages': {
      const pictures = new Map(job.pictures.map(([hash, data]) => [hash, Buffer.from(data)]));
      return new Uint8Array(await paperPdf(job.record, pictures, job.root));
    }
  }
};
