import { canonical } from '@/core/exact';
import { type Paper, paperOf, receiptOf } from '@/core/papers';
import type { TestRecord } from '@/core/record';
import { drawBlock, type PaperPictures } from './blocks';
import { fontChain, missingSigns } from './fonts';
import { type Metrics, Sheet } from './sheet';

export type { PaperPictures } from './blocks';

const sheets: Readonly<Record<Paper['size'], Metrics>> = {
  // As long as what stands on it: see `receiptPdf`.
  roll: { width: 164.41, height: 14_000, left: 14.2, right: 14.2, top: 12, bottom: 12, times: 0.78 },
  A4: { width: 595.28, height: 841.89, left: 56, right: 56.28, top: 50, bottom: 50, times: 1 },
  letter: { width: 612, height: 792, left: 60, right: 60, top: 46, bottom: 46, times: 1 },
};

/** The PDF of a record, with the record attached. The same record and pictures give the same bytes. @param root where the packages lie */
export async function paperPdf(record: TestRecord, pictures: PaperPictures = new Map(), root: string = process.cwd()): Promise<Buffer> {
  const paper = paperOf(record);
  const at = new Date(paper.at);
  const sheet = new Sheet(sheets[paper.size], fontChain(root), {
    title: paper.title,
    author: paper.firm.name,
    language: paper.language,
    at,
  });
  masthead(sheet, paper, pictures);
  for (const block of paper.blocks) drawBlock(sheet, block, pictures);
  feet(sheet, paper);
  return sheet.end({ data: Buffer.from(canonical(record)), at });
}

/** The PDF of a receipt strip of 58 mm, one page as long as what stands on it. */
export async function receiptPdf(record: TestRecord, root: string = process.cwd()): Promise<Buffer> {
  const paper = receiptOf(record);
  const at = new Date(paper.at);
  const set = (metrics: Metrics) => {
    const sheet = new Sheet(metrics, fontChain(root), { title: paper.title, author: paper.firm.name, language: paper.language, at });
    masthead(sheet, paper, new Map());
    for (const block of paper.blocks) drawBlock(sheet, block, new Map());
    return sheet;
  };
  // Set once to learn its length, and once more on a page of that length.
  const first = set(sheets.roll);
  const height = first.y + sheets.roll.bottom;
  await first.end(undefined);
  return set({ ...sheets.roll, height: Math.ceil(height) + 1 }).end(undefined);
}

/** Signs of a record that no font here has: said before it is sealed. */
export const missingIn = (record: TestRecord, root: string = process.cwd()): readonly string[] =>
  // Whatever stands on the paper and is not the catalogue's own was typed by somebody and is in the record.
  missingSigns(fontChain(root), JSON.stringify(record).match(/\P{ASCII}+/gu) ?? []);

function masthead(sheet: Sheet, { firm }: Paper, pictures: PaperPictures): void {
  const logo = firm.logo === undefined ? undefined : pictures.get(firm.logo);
  const top = sheet.y;
  const place = logo === undefined ? 0 : 62;
  if (logo !== undefined) {
    const figure = sheet.element('Figure', { alt: `Logo of ${firm.name}` });
    sheet.into(figure, 'Figure', () => sheet.pages.image(logo, sheet.left, top, { fit: [52, 40] }));
    figure.end();
  }
  const at = { x: sheet.left + place, width: sheet.wide - place };
  if (firm.name !== '') sheet.flow('P', sheet.pieces(firm.name, sheet.look('bold', 10.5), at));
  for (const text of firm.lines) sheet.flow('P', sheet.pieces(text, sheet.look('text', 8.5), { ...at, tone: 'quiet' }));
  sheet.y = Math.max(sheet.y, top + (logo === undefined ? 0 : 44)) + 12;
}

function feet(sheet: Sheet, { firm, foot }: Paper): void {
  const { start, count } = sheet.pages.bufferedPageRange();
  const look = sheet.look('text', 8);
  for (let page = start; page < start + count; page += 1) {
    sheet.pages.switchToPage(page);
    const text = `${firm.name === '' ? '' : `${firm.name}   `}${foot}   page ${page - start + 1} of ${count}`;
    const line = sheet.type.placed(text, look);
    sheet.aside(() => sheet.setLine(line, look, sheet.left + sheet.wide - line.width, sheet.metrics.height - 34, 'quiet'));
  }
}
