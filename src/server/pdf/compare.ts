import { createHash } from 'node:crypto';
import { layoutVersion } from '@/core/papers';
import type { TestRecord } from '@/core/record';
import { sha256Of } from '../hash';
import { type PaperPictures, paperPdf } from './index';

/** What a PDF's pages are beside those that its record gives. */
export interface PagesChecked {
  readonly state: 'as sealed' | 'altered' | 'earlier layout';
  /** Where they differ, in a few words; the first of them. */
  readonly differs?: string;
}

/** Every JPEG that stands in a PDF, by its hash: programs that write a file anew keep them as they are. */
export function picturesIn(data: Buffer): PaperPictures {
  const found = new Map<string, Buffer>();
  let at = data.indexOf('stream');
  while (at >= 0) {
    const begin = at + 6 + (data[at + 6] === 0x0d ? 2 : 1);
    if (data[begin] === 0xff && data[begin + 1] === 0xd8) {
      const end = data.indexOf('endstream', begin);
      if (end < 0) break;
      // A JPEG ends with its own mark; what follows is the file's line end.
      const last = data.lastIndexOf(Buffer.from([0xff, 0xd9]), end);
      if (last > begin) {
        const picture = data.subarray(begin, last + 2);
        found.set(sha256Of(picture), picture);
      }
      at = data.indexOf('stream', end + 9);
    } else at = data.indexOf('stream', begin);
  }
  return found;
}

/**
 * Whether a PDF's pages are what its record gives: made again by the layout that the record names, and compared; where the file was
 * written anew by another program, mark by mark.
 */
export async function checkPages(data: Buffer, record: TestRecord, root: string = process.cwd()): Promise<PagesChecked> {
  if (record.certificate !== undefined && record.certificate.layout !== layoutVersion) return { state: 'earlier layout' };
  const made = await paperPdf(record, picturesIn(data), root);
  if (made.equals(data)) return { state: 'as sealed' };
  const [theirs, ours] = [await marksOf(data), await marksOf(made)];
  if (theirs.length !== ours.length) return { state: 'altered', differs: `${theirs.length} pages, where the record gives ${ours.length}` };
  for (const [index, page] of ours.entries()) {
    const other = theirs[index];
    const line = page.words.findIndex((word, place) => word !== other.words[place]);
    if (line >= 0 || other.words.length !== page.words.length)
      return {
        state: 'altered',
        differs: `page ${index + 1} says “${(other.words[line < 0 ? page.words.length : line] ?? 'nothing').slice(0, 80)}” where the record gives “${(page.words[line < 0 ? page.words.length : line] ?? 'nothing').slice(0, 80)}”`,
      };
    if (page.marks !== other.marks) return { state: 'altered', differs: `page ${index + 1} is drawn otherwise` };
  }
  return { state: 'as sealed' };
}

interface Marks {
  readonly words: readonly string[];
  /** Hash of everything that is drawn, in order. */
  readonly marks: string;
}

/** Names that a reader gives to fonts and pictures tell nothing of what is drawn. */
const named = /^(g_d\d+_|d\d+_|img_|mask_)/;

const plain = (value: unknown): unknown => {
  if (typeof value === 'string') return named.test(value) ? 'named' : value;
  if (typeof value === 'number') return Math.round(value * 1000) / 1000;
  if (ArrayBuffer.isView(value)) return Array.from(value as Float32Array, (one) => Math.round(one * 1000) / 1000);
  if (Array.isArray(value)) return value.map(plain);
  if (typeof value === 'object' && value !== null) {
    // A glyph: what it stands for and how wide it is; its number depends on how the font was cut.
    if ('unicode' in value && 'width' in value)
      return [(value as { unicode: string }).unicode, Math.round((value as { width: number }).width)];
    return Object.entries(value)
      .filter(([key]) => key !== 'mcid')
      .map(([key, one]) => [key, plain(one)]);
  }
  return typeof value === 'function' ? 'function' : (value ?? null);
};

async function marksOf(data: Buffer): Promise<readonly Marks[]> {
  const { getDocument, OPS } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const document = await getDocument({ data: new Uint8Array(data), useSystemFonts: false, verbosity: 0 }).promise;
  const found: Marks[] = [];
  for (let number = 1; number <= document.numPages; number += 1) {
    const page = await document.getPage(number);
    const { items } = await page.getTextContent();
    const words = items.flatMap((item) => ('str' in item && item.str.trim() !== '' ? [item.str.trim()] : []));
    const { fnArray, argsArray } = await page.getOperatorList();
    const hash = createHash('sha256');
    for (const [index, fn] of fnArray.entries()) {
      // Which words belong together for a reading machine changes nothing of what is seen.
      if (fn === OPS.beginMarkedContent || fn === OPS.beginMarkedContentProps || fn === OPS.endMarkedContent || fn === OPS.dependency)
        continue;
      const args = (argsArray[index] ?? []) as readonly unknown[];
      hash.update(`${fn} ${JSON.stringify(plain(args))}\n`);
      if (fn === OPS.paintImageXObject) hash.update(await pixelsOf(page, String(args[0])));
    }
    found.push({ words, marks: hash.digest('hex') });
    page.cleanup();
  }
  await document.destroy();
  return found;
}

/** Hash of a picture as it is shown. */
async function pixelsOf(page: { readonly objs: unknown; readonly commonObjs: unknown }, name: string): Promise<string> {
  const store = (name.startsWith('g_') ? page.commonObjs : page.objs) as { get(id: string, done: (value: unknown) => void): void };
  const shown = (await new Promise<unknown>((resolve) => store.get(name, resolve))) as { data?: Uint8Array } | null;
  return shown?.data === undefined ? 'no pixels' : sha256Of(shown.data);
}
