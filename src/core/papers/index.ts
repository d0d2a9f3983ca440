/** A record as a document: blocks that say what stands on the paper, and nothing of how it is drawn. */
export * from './blocks';
export { paperOf } from './document';
export { type Drawing, type Mark, type Tone, tones } from './drawing';
export { receiptOf } from './receipt';
export * from './times';
