import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readRecord } from '../record';
import { type Block, type Drawing, heading, type Mark, paperOf, ranked, receiptOf, say } from './index';

/* The pictures of papers as marks: whatever was measured, nothing is drawn beside its sheet, over a neighbour, or by no number. */

const folder = join(import.meta.dirname, '../../../docs/examples');
const examples = readdirSync(folder).map((file) => {
  const read = readRecord(JSON.parse(readFileSync(join(folder, file), 'utf8')));
  if (!read.ok) throw new Error(read.problem.message);
  return [file.replace('.json', ''), read.value] as const;
});

const drawings = (blocks: readonly Block[]): readonly Drawing[] =>
  blocks.flatMap((block) => (block.kind === 'drawing' ? [block.drawing] : []));

/** Where the points of a mark lie; a text as wide as its signs at most are. */
function cornersOf(mark: Mark): readonly (readonly [number, number])[] {
  if (mark.do === 'line' || mark.do === 'area')
    return mark.points.flatMap((x, index) => (index % 2 === 0 ? [[x, mark.points[index + 1]] as const] : []));
  if (mark.do === 'dot')
    return [
      [mark.x - mark.radius, mark.y - mark.radius],
      [mark.x + mark.radius, mark.y + mark.radius],
    ];
  const width = mark.text.length * mark.size * 0.62;
  const left = mark.anchor === 'start' ? mark.x : mark.anchor === 'end' ? mark.x - width : mark.x - width / 2;
  return [
    [left, mark.y - mark.size],
    [left + width, mark.y],
  ];
}

describe.each(examples)('%s', (_, record) => {
  const found = [...drawings(paperOf(record).blocks), ...drawings(receiptOf(record).blocks)];

  test('has a picture, of numbers, within its sheet', () => {
    expect(found.length).toBeGreaterThan(0);
    for (const { width, height, marks } of found) {
      expect(marks.length).toBeGreaterThan(2);
      for (const mark of marks)
        for (const [x, y] of cornersOf(mark)) {
          expect([mark, Number.isFinite(x) && Number.isFinite(y)]).toEqual([mark, true]);
          // A letter is narrower than the widest: a little room is left for that.
          expect([mark, x >= -14 && x <= width + 14 && y >= -6 && y <= height + 6]).toEqual([mark, true]);
        }
    }
  });

  test('says in words what it shows, and no two texts lie on one another', () => {
    for (const block of paperOf(record).blocks) if (block.kind === 'drawing') expect(block.says.length).toBeGreaterThan(15);
    for (const { marks } of found) {
      const texts = marks.flatMap((mark) => (mark.do === 'text' ? [mark] : []));
      for (const [index, one] of texts.entries())
        for (const other of texts.slice(index + 1))
          expect([one.text, other.text, one.x === other.x && one.y === other.y && one.anchor === other.anchor]).toEqual([
            one.text,
            other.text,
            false,
          ]);
    }
  });
});

describe('ranks of headings', () => {
  const ranks = (...levels: readonly (2 | 3)[]) =>
    ranked([say('before'), ...levels.map((level) => heading(level, 'x'))]).flatMap((block) =>
      block.kind === 'heading' ? [block.rank] : [],
    );
  test.each([
    [
      [3, 3],
      [2, 2],
    ],
    [
      [2, 3, 3],
      [2, 3, 3],
    ],
    [
      [3, 2, 3],
      [2, 2, 3],
    ],
    [[], []],
  ] as const)('%j stand as %j', (levels, wanted) => expect(ranks(...levels)).toEqual(wanted));
  test('nothing else of a block is changed', () => {
    const blocks = [say('a'), heading(3, 'b'), heading(2, 'c')];
    expect(ranked(blocks).map((block) => ({ ...block, rank: undefined }))).toEqual(blocks.map((block) => ({ ...block, rank: undefined })));
  });
});
