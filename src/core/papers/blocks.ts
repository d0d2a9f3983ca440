import type { TestVerdict } from '../course/phases';
import type { Figure } from '../limits';
import type { Drawing } from './drawing';

/** Version of the layout: raised when the same record would give other blocks. A record names the one that it was sealed with. */
export const layoutVersion = '1';

/** A column of a table: its title, its part of the width, and whether it holds figures. */
export interface Column {
  readonly title: string;
  readonly share: number;
  readonly figures?: true;
}

export interface Table {
  /** What the table is of, for whoever hears it. */
  readonly caption: string;
  readonly columns: readonly Column[];
  /** As many cells as there are columns; the first names its row. */
  readonly rows: readonly (readonly string[])[];
}

export interface PaperPhoto {
  /** SHA-256 of the paper's own copy; without it the picture is named and was never sent. */
  readonly copy?: string;
  readonly label: string;
  readonly taken: string;
}

/** One who signed, refused or was not there, and what stands under the line. */
export interface Signed {
  readonly role: string;
  /** Name and moment, or why there is no signature. */
  readonly said: string;
  readonly strokes: readonly (readonly number[])[];
}

/**
 * A part of a paper as data: what it says and what kind of thing it is, and nothing of where it stands. Every renderer takes all
 * of them; the compiler names one that is missing.
 */
export type Block =
  | { readonly kind: 'title'; readonly text: string; readonly under: string }
  /** `level` is how large it stands, `rank` its place among the headings: see `ranked`. */
  | { readonly kind: 'heading'; readonly level: 2 | 3; readonly rank: 2 | 3; readonly text: string }
  /** `lead` stands larger; `caution` and `stop` are marked beside as well as by colour. */
  | { readonly kind: 'say'; readonly text: string; readonly tone: 'lead' | 'plain' | 'quiet' | 'caution' | 'stop' }
  | { readonly kind: 'list'; readonly items: readonly string[] }
  | { readonly kind: 'verdict'; readonly verdict: TestVerdict; readonly title: string; readonly meaning: string }
  | { readonly kind: 'figures'; readonly figures: readonly Figure[] }
  | { readonly kind: 'drawing'; readonly drawing: Drawing; readonly says: string; readonly caption: string }
  | ({ readonly kind: 'table' } & Table)
  | { readonly kind: 'photographs'; readonly photographs: readonly PaperPhoto[] }
  | { readonly kind: 'signatures'; readonly signatures: readonly Signed[] }
  | { readonly kind: 'seal'; readonly address: string; readonly lines: readonly { readonly label: string; readonly value: string }[] }
  /** What follows begins a page. */
  | { readonly kind: 'page' };

export interface Paper {
  readonly layout: string;
  readonly language: 'en';
  readonly size: 'A4' | 'letter' | 'roll';
  readonly title: string;
  /** When it was issued, or the last thing in it was written, ms. */
  readonly at: number;
  /** The firm as it heads every page. */
  readonly firm: { readonly name: string; readonly lines: readonly string[]; readonly logo?: string };
  /** At the foot of every page: its number, or that it is a draft; and that it is simulated. */
  readonly foot: string;
  readonly blocks: readonly Block[];
}

export const say = (text: string, tone: Extract<Block, { kind: 'say' }>['tone'] = 'plain'): Block => ({ kind: 'say', text, tone });
export const heading = (level: 2 | 3, text: string): Block => ({ kind: 'heading', level, rank: level, text });

/** Headings in ranks that leave no step out, however large each stands: whoever hears the paper goes by them. */
export function ranked(blocks: readonly Block[]): readonly Block[] {
  const first = blocks.findIndex((block) => block.kind === 'heading' && block.level === 2);
  // What stands before the first large one belongs to the title itself.
  return blocks.map((block, index) => (block.kind === 'heading' && (first === -1 || index < first) ? { ...block, rank: 2 } : block));
}

/** @param share its part of the table's width, against the others */
export const column = (title: string, share: number, figures?: true): Column => ({
  title,
  share,
  ...(figures === undefined ? {} : { figures }),
});
/** A table, or nothing where it would be empty. */
export const table = (caption: string, columns: readonly Column[], rows: Table['rows']): readonly Block[] =>
  rows.length === 0 ? [] : [{ kind: 'table', caption, columns, rows }];

/** Every text of a block in the order in which it is read: what a check compares, and what must have its glyphs. */
export function textsOf(block: Block): readonly string[] {
  switch (block.kind) {
    case 'title':
      return [block.text, block.under];
    case 'heading':
    case 'say':
      return [block.text];
    case 'list':
      return block.items;
    case 'verdict':
      return [block.title, block.meaning];
    case 'figures':
      return block.figures.flatMap(({ label, value, unit, beside }) => [label, value, unit, beside ?? '']);
    case 'drawing':
      return [block.says, block.caption, ...block.drawing.marks.flatMap((mark) => (mark.do === 'text' ? [mark.text] : []))];
    case 'table':
      return [block.caption, ...block.columns.map(({ title }) => title), ...block.rows.flat()];
    case 'photographs':
      return block.photographs.flatMap(({ label, taken }) => [label, taken]);
    case 'signatures':
      return block.signatures.flatMap(({ role, said }) => [role, said]);
    case 'seal':
      return [block.address, ...block.lines.flatMap(({ label, value }) => [label, value])];
    case 'page':
      return [];
  }
}
