import { randomUUID } from 'node:crypto';
import PDFDocument from 'pdfkit';
import type { Plan } from '@/core/planning';
import { recordFormat, recordVersion } from '@/core/record';
import { eventsFor } from '@/core/simulation/examples.fixture';

/* Files that are made to keep a checker busy for ever, or to fill its memory. */

/** A record of very many entries. */
function crowdedRecord(plan: Plan, entries = 60_000): string {
  const [first] = eventsFor(plan, 'sound');
  const events = Array.from({ length: entries }, (_, index) => ({
    ...first,
    type: 'note',
    text: `note ${index}`,
    id: `00000000-0000-4000-8000-${String(index).padStart(12, '0')}`,
    seq: index + 1,
  }));
  return recordOf(plan, events);
}

/** A record that nobody sealed. */
export const recordOf = (plan: Plan, events: readonly unknown[]): string =>
  JSON.stringify({
    format: recordFormat,
    version: recordVersion,
    tests: [{ attempts: [{ run: randomUUID(), number: 1, plan, events }] }],
  });

/** A record of very many entries, and 300 MB of nothing, each carried by a PDF as a certificate carries its own. */
export const attackFiles = (plan: Plan): Promise<readonly Buffer[]> =>
  Promise.all([pdfWith(Buffer.from(crowdedRecord(plan))), pdfWith(Buffer.alloc(300 * 1024 * 1024))]);

/** A signature that somebody sends; of no judgement that there is. */
export const anySignature = () => ({
  id: randomUUID(),
  role: 'customer',
  name: 'x',
  strokes: [[0, 0, 1, 1, 2, 2, 3, 3, 4, 4]],
  judgementHash: 'a'.repeat(64),
  signedAt: Date.now(),
});

/** A PDF that carries a record, as a certificate does. */
const pdfWith = (content: Buffer): Promise<Buffer> =>
  new Promise((resolve) => {
    const document = new PDFDocument();
    const parts: Buffer[] = [];
    document.on('data', (part) => parts.push(part));
    document.on('end', () => resolve(Buffer.concat(parts)));
    document.file(content, { name: 'record.json' });
    document.text('A certificate?');
    document.end();
  });
