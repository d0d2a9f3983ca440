import QRCode from 'qrcode';
import type { TestVerdict } from '@/core/course';
import { type Block, type Drawing, type PaperPhoto, type Signed, type Table, tones } from '@/core/papers';
import { verdictShapes } from '@/core/record';
import type { Look } from './lines';
import type { Element, Piece, Sheet } from './sheet';

/** Pictures by the hash of the copy that a paper carries. */
export type PaperPictures = ReadonlyMap<string, Buffer>;

type Of<K extends Block['kind']> = Extract<Block, { kind: K }>;
type Draw<K extends Block['kind']> = (sheet: Sheet, block: Of<K>, pictures: PaperPictures) => void;

const gap = (sheet: Sheet, points: number): void => {
  if (sheet.y > sheet.metrics.top + 0.5) sheet.y += sheet.at(points);
};

/** How each kind of block is drawn; the compiler misses none. */
const draws: { readonly [K in Block['kind']]: Draw<K> } = {
  page: (sheet) => sheet.newPage(),
  title: (sheet, { text, under }) => {
    sheet.flow('H1', sheet.pieces(text, sheet.look('bold', 17)));
    sheet.flow('P', sheet.pieces(under, sheet.look('mono', 8.5), { tone: 'quiet' }));
    gap(sheet, 8);
  },
  heading: (sheet, { level, rank, text }) => {
    const look = sheet.look('bold', level === 2 ? 13 : 10.5);
    gap(sheet, level === 2 ? 14 : 8);
    // Not left alone at a page's end.
    sheet.room(sheet.leading(look) + sheet.at(40));
    sheet.flow(`H${rank}`, sheet.pieces(text, look));
    gap(sheet, 2);
  },
  say: (sheet, { text, tone }) => {
    const size = tone === 'lead' ? 12 : tone === 'quiet' ? 9 : 10;
    const marked = tone === 'caution' || tone === 'stop';
    const look = sheet.look(tone === 'stop' ? 'bold' : 'text', size);
    const inset = marked ? sheet.at(10) : 0;
    const pieces = sheet
      .pieces(text, look, {
        x: sheet.left + inset,
        width: sheet.wide - inset,
        tone: tone === 'quiet' ? 'quiet' : marked ? tone : 'ink',
      })
      .map(
        ({ height, draw }): Piece => ({
          height,
          draw: (y) => {
            if (marked) sheet.area([sheet.left, y, sheet.left + 3, y, sheet.left + 3, y + height, sheet.left, y + height], tone);
            draw(y);
          },
        }),
      );
    sheet.flow('P', pieces);
    gap(sheet, tone === 'lead' ? 8 : 3);
  },
  list: (sheet, { items }) => {
    const whole = sheet.element('L');
    const look = sheet.look('text', 10);
    for (const text of items) {
      const item = sheet.element('LI', {}, whole);
      const inset = sheet.at(11);
      const lines = sheet.pieces(text, look, { x: sheet.left + inset, width: sheet.wide - inset });
      const pieces = lines.map(
        ({ height, draw }, index): Piece => ({
          height,
          draw: (y) => {
            const side = sheet.at(3.4);
            const top = y + height * 0.36;
            if (index === 0)
              sheet.area(
                [sheet.left + 1, top, sheet.left + 1 + side, top, sheet.left + 1 + side, top + side, sheet.left + 1, top + side],
                'ink',
              );
            draw(y);
          },
        }),
      );
      sheet.flow('LBody', pieces, item);
      item.end();
    }
    whole.end();
    gap(sheet, 3);
  },
  verdict: (sheet, { verdict, title, meaning }) => {
    const narrow = sheet.wide < 200;
    const size = sheet.at(narrow ? 26 : 34);
    const inset = size + sheet.at(narrow ? 9 : 14);
    const head = sheet.pieces(title, sheet.look('bold', narrow ? 17 : 23), { x: sheet.left + inset, width: sheet.wide - inset });
    const under = sheet.pieces(meaning, sheet.look('text', 11), { x: sheet.left + inset, width: sheet.wide - inset });
    gap(sheet, 4);
    sheet.room([...head, ...under].reduce((sum, { height }) => sum + height, 0));
    const top = sheet.y;
    sheet.aside(() => mark(sheet, verdict, sheet.left + 2, top + sheet.at(4), size));
    sheet.flow('P', head);
    sheet.flow('P', under);
    sheet.y = Math.max(sheet.y, top + size + sheet.at(8));
    gap(sheet, 6);
  },
  figures: (sheet, { figures }) => figuresGrid(sheet, figures),
  drawing: (sheet, { drawing, says, caption }) => {
    const times = Math.min(1, sheet.wide / drawing.width);
    const look = sheet.look('text', 8.5);
    const lines = sheet.pieces(caption, look, { tone: 'quiet' });
    gap(sheet, 6);
    sheet.room(drawing.height * times + lines.length * sheet.leading(look));
    const figure = sheet.element('Figure', { alt: says });
    sheet.into(figure, 'Figure', () => {
      drawn(sheet, drawing, sheet.left, sheet.y, times);
      sheet.y += drawing.height * times + sheet.at(3);
    });
    figure.end();
    sheet.flow('Caption', lines);
    gap(sheet, 4);
  },
  table: (sheet, block) => tableRows(sheet, block),
  photographs: (sheet, { photographs }, pictures) => photoGrid(sheet, photographs, pictures),
  signatures: (sheet, { signatures }) => signatureLines(sheet, signatures),
  seal: (sheet, block) => sealBox(sheet, block),
};

export function drawBlock(sheet: Sheet, block: Block, pictures: PaperPictures): void {
  (draws[block.kind] as Draw<Block['kind']>)(sheet, block, pictures);
}

/** The verdict's mark, so that the word never depends on colour. */
function mark(sheet: Sheet, verdict: TestVerdict, x: number, y: number, size: number): void {
  const { path, drawn: how } = verdictShapes[verdict];
  const { pages } = sheet;
  pages
    .save()
    .translate(x, y)
    .scale(size / 24)
    .path(path);
  if (how === 'filled') pages.fill(tones.ink);
  else pages.lineWidth(2).stroke(tones.ink);
  pages.restore();
}

function figuresGrid(sheet: Sheet, figures: Of<'figures'>['figures']): void {
  const columns = Math.max(1, Math.min(figures.length === 5 ? 5 : 4, figures.length, Math.floor(sheet.wide / sheet.at(94))));
  const width = sheet.wide / columns;
  const inner = width - sheet.at(8);
  const [label, value, unit, beside] = [
    sheet.look('text', 9),
    sheet.look('strong-mono', 19),
    sheet.look('mono', 10),
    sheet.look('text', 8.5),
  ];
  const list = sheet.element('L');
  gap(sheet, 4);
  for (let from = 0; from < figures.length; from += columns) {
    const row = figures.slice(from, from + columns).map((figure) => ({
      figure,
      above: sheet.type.lines(figure.label, label, inner),
      below: figure.beside === undefined ? [] : sheet.type.lines(figure.beside, beside, inner),
    }));
    const above = Math.max(...row.map((one) => one.above.length)) * sheet.leading(label);
    const height = above + sheet.leading(value) + Math.max(...row.map((one) => one.below.length)) * sheet.leading(beside) + sheet.at(6);
    sheet.room(height);
    const top = sheet.y;
    sheet.aside(() => sheet.line([sheet.left, top, sheet.left + sheet.wide, top], 'faint', 0.8));
    for (const [index, { figure, above: over, below }] of row.entries()) {
      const x = sheet.left + index * width;
      const item = sheet.element('LI', {}, list);
      const body = sheet.element('LBody', {}, item);
      sheet.into(body, 'LBody', () => {
        let y = top + sheet.at(3);
        for (const line of over) {
          sheet.setLine(line, label, x, y, 'quiet');
          y += sheet.leading(label);
        }
        y = top + sheet.at(3) + above;
        // A figure too wide for its place is set smaller, never cut.
        const unitWide = figure.unit === '' ? 0 : sheet.type.width(` ${figure.unit}`, unit);
        const wide = sheet.type.width(figure.value, value);
        const fits = Math.min(1, (inner - unitWide) / wide);
        const own: Look = { ...value, size: value.size * fits };
        const line = sheet.type.placed(figure.value, own);
        sheet.setLine(line, own, x, y + (value.size - own.size), 'ink');
        if (figure.unit !== '')
          sheet.setLine(sheet.type.placed(` ${figure.unit}`, unit), unit, x + line.width, y + value.size - unit.size, 'ink');
        y += sheet.leading(value);
        for (const one of below) {
          sheet.setLine(one, beside, x, y, 'quiet');
          y += sheet.leading(beside);
        }
      });
      body.end();
      item.end();
    }
    sheet.y = top + height;
  }
  list.end();
  gap(sheet, 4);
}

/** A drawing at a place of the sheet. */
export function drawn(sheet: Sheet, { marks }: Drawing, left: number, top: number, times: number): void {
  const at = (points: readonly number[]) => points.map((value, index) => (index % 2 === 0 ? left : top) + value * times);
  for (const one of marks) {
    switch (one.do) {
      case 'line':
        sheet.line(at(one.points), one.tone, one.width, one.dashed === true);
        break;
      case 'area':
        sheet.area(at(one.points), one.tone, one.opacity);
        break;
      case 'dot':
        sheet.pages.circle(left + one.x * times, top + one.y * times, one.radius);
        if (one.hollow === true) sheet.pages.lineWidth(1.2).stroke(tones[one.tone]);
        else sheet.pages.fill(tones[one.tone]);
        break;
      case 'text': {
        const face = one.figures === true ? (one.strong === true ? 'strong-mono' : 'mono') : one.strong === true ? 'bold' : 'text';
        const look: Look = { face, size: one.size * Math.max(times, 0.8) };
        const line = sheet.type.placed(one.text, look);
        const back = one.anchor === 'end' ? line.width : one.anchor === 'middle' ? line.width / 2 : 0;
        sheet.setLine(line, look, left + one.x * times - back, top + one.y * times - look.size, one.tone);
        break;
      }
    }
  }
}

/** A real table: its head stands again on every page, and a row longer than a page goes on on the next. */
function tableRows(sheet: Sheet, { caption, columns, rows }: Table): void {
  const whole = columns.reduce((sum, { share }) => sum + share, 0);
  const pad = sheet.at(6);
  const widths = columns.map(({ share }) => (share / whole) * sheet.wide);
  const lefts = widths.map((_, index) => sheet.left + widths.slice(0, index).reduce((sum, width) => sum + width, 0));
  const head = sheet.look('bold', 8.5);
  const looks = columns.map(({ figures }): Look => sheet.look(figures === true ? 'mono' : 'text', figures === true ? 8.2 : 8.8));
  const leading = sheet.leading(looks[0]);
  const titles = columns.map(({ title }, index) => sheet.type.lines(title, head, widths[index] - pad));
  const headHeight = Math.max(...titles.map((lines) => lines.length)) * sheet.leading(head) + sheet.at(5);
  gap(sheet, 4);
  sheet.room(headHeight + leading * 2);
  const element = sheet.element('Table', { title: caption });
  const setTitles = (draw: (index: number, set: () => void) => void) => {
    const top = sheet.y;
    for (const [index, lines] of titles.entries())
      draw(index, () => {
        for (const [place, line] of lines.entries()) sheet.setLine(line, head, lefts[index], top + place * sheet.leading(head), 'quiet');
      });
    sheet.y = top + headHeight;
  };
  const underline = () =>
    sheet.aside(() => sheet.line([sheet.left, sheet.y - sheet.at(2), sheet.left + sheet.wide, sheet.y - sheet.at(2)], 'quiet', 0.8));
  const first = sheet.element('TR', {}, element);
  setTitles((_, set) => {
    const cell = sheet.element('TH', {}, first);
    sheet.into(cell, 'TH', set);
    cell.end();
  });
  first.end();
  underline();
  for (const row of rows) {
    const cells = row.map((text, index) => sheet.type.lines(text, looks[index], widths[index] - pad));
    const most = Math.max(...cells.map((lines) => lines.length));
    const tr = sheet.element('TR', {}, element);
    const made: Element[] = cells.map(() => sheet.element('TD', {}, tr));
    let from = 0;
    while (from < most) {
      const left = Math.floor((sheet.bottom - sheet.y - sheet.at(4)) / leading);
      // A short row is never torn; a long one goes on where it fills at least three lines.
      if (left < Math.min(most - from, most <= 12 ? most : 3) && sheet.y > sheet.metrics.top + headHeight + 1) {
        sheet.newPage();
        sheet.aside(() => setTitles((_, set) => set()));
        underline();
        continue;
      }
      const to = Math.min(most, from + Math.max(1, left));
      const top = sheet.y + sheet.at(1.5);
      for (const [index, lines] of cells.entries())
        sheet.into(made[index], 'TD', () => {
          for (const [place, line] of lines.slice(from, to).entries())
            sheet.setLine(line, looks[index], lefts[index], top + place * leading, 'ink');
        });
      sheet.y = top + (to - from) * leading + sheet.at(2);
      from = to;
    }
    for (const cell of made) cell.end();
    tr.end();
    sheet.aside(() => sheet.line([sheet.left, sheet.y, sheet.left + sheet.wide, sheet.y], 'faint', 0.5));
  }
  element.end();
  gap(sheet, 6);
}

function photoGrid(sheet: Sheet, photographs: readonly PaperPhoto[], pictures: PaperPictures): void {
  const columns = Math.max(1, Math.floor(sheet.wide / sheet.at(150)));
  const width = sheet.wide / columns;
  const box = { width: width - sheet.at(10), height: (width - sheet.at(10)) * 0.75 };
  const [label, when] = [sheet.look('text', 8.5), sheet.look('mono', 7)];
  for (let from = 0; from < photographs.length; from += columns) {
    const row = photographs.slice(from, from + columns).map((one) => ({
      ...one,
      words: sheet.type.lines(one.label, label, box.width),
      taken: sheet.type.lines(one.taken, when, box.width),
    }));
    const words = Math.max(...row.map((one) => one.words.length * sheet.leading(label) + one.taken.length * sheet.leading(when)));
    const height = box.height + words + sheet.at(12);
    sheet.room(height);
    const top = sheet.y;
    for (const [index, { copy, words: lines, taken, label: alt }] of row.entries()) {
      const x = sheet.left + index * width;
      const picture = copy === undefined ? undefined : pictures.get(copy);
      const figure = sheet.element('Figure', { alt });
      sheet.into(figure, 'Figure', () => {
        if (picture === undefined) {
          sheet.line([x, top, x + box.width, top, x + box.width, top + box.height, x, top + box.height, x, top], 'quiet', 0.8, true);
          sheet.setLine(sheet.type.placed('not here', label), label, x + sheet.at(8), top + sheet.at(8), 'quiet');
        } else sheet.pages.image(picture, x, top, { fit: [box.width, box.height] });
      });
      figure.end();
      const caption = sheet.element('Caption');
      sheet.into(caption, 'Caption', () => {
        let y = top + box.height + sheet.at(3);
        for (const line of lines) {
          sheet.setLine(line, label, x, y, 'ink');
          y += sheet.leading(label);
        }
        for (const line of taken) {
          sheet.setLine(line, when, x, y, 'quiet');
          y += sheet.leading(when);
        }
      });
      caption.end();
    }
    sheet.y = top + height;
  }
}

function signatureLines(sheet: Sheet, signatures: readonly Signed[]): void {
  const columns = Math.max(1, Math.min(3, signatures.length, Math.floor(sheet.wide / sheet.at(150))));
  const width = sheet.wide / columns;
  const inner = width - sheet.at(14);
  const look = sheet.look('text', 8.8);
  const row = signatures.map((one) => ({ ...one, lines: sheet.type.lines(`${one.role}: ${one.said}`, look, inner) }));
  for (let from = 0; from < row.length; from += columns) {
    const those = row.slice(from, from + columns);
    const tall = sheet.at(54);
    const height = tall + Math.max(...those.map(({ lines }) => lines.length)) * sheet.leading(look) + sheet.at(10);
    sheet.room(height);
    const top = sheet.y;
    for (const [index, { strokes, lines, role, said }] of those.entries()) {
      const x = sheet.left + index * width;
      if (strokes.length > 0) {
        const figure = sheet.element('Figure', { alt: `Signature: ${role}, ${said}` });
        sheet.into(figure, 'Figure', () => signed(sheet, strokes, x, top, inner, tall));
        figure.end();
      }
      sheet.aside(() => sheet.line([x, top + tall, x + inner, top + tall], 'quiet', 0.7));
      const text = sheet.element('P');
      sheet.into(text, 'P', () => {
        for (const [place, line] of lines.entries())
          sheet.setLine(line, look, x, top + tall + sheet.at(3) + place * sheet.leading(look), 'ink');
      });
      text.end();
    }
    sheet.y = top + height;
  }
}

/** Strokes, made as large as their place allows. */
function signed(sheet: Sheet, strokes: Signed['strokes'], left: number, top: number, width: number, height: number): void {
  const all = strokes.flat();
  const xs = all.filter((_, index) => index % 2 === 0);
  const ys = all.filter((_, index) => index % 2 === 1);
  const [x0, y0] = [Math.min(...xs), Math.min(...ys)];
  const times = Math.min(width / Math.max(1, Math.max(...xs) - x0), (height - 4) / Math.max(1, Math.max(...ys) - y0), 0.024);
  for (const stroke of strokes)
    sheet.line(
      stroke.map((value, index) => (index % 2 === 0 ? left + (value - x0) * times : top + 2 + (value - y0) * times)),
      'ink',
      1.1,
    );
}

function sealBox(sheet: Sheet, { address, lines }: Of<'seal'>): void {
  const side = sheet.at(88);
  const code = QRCode.create(address, { errorCorrectionLevel: 'M' });
  const cell = side / code.modules.size;
  const inset = side + sheet.at(14);
  const narrow = sheet.wide - inset < sheet.at(140);
  const look = sheet.look('mono', 7.5);
  const place = narrow ? { x: sheet.left, width: sheet.wide } : { x: sheet.left + inset, width: sheet.wide - inset };
  const texts = [address, ...lines.map(({ label, value }) => `${label}  ${value}`)].flatMap((text) =>
    sheet.pieces(text, look, { ...place, tone: 'quiet' }),
  );
  gap(sheet, 4);
  sheet.room(narrow ? side + texts.length * sheet.leading(look) : side);
  const top = sheet.y;
  const figure = sheet.element('Figure', { alt: `Code that opens ${address}` });
  sheet.into(figure, 'Figure', () => {
    sheet.pages.fillColor('#000000');
    for (let row = 0; row < code.modules.size; row += 1)
      for (let column = 0; column < code.modules.size; column += 1)
        if (code.modules.get(row, column)) sheet.pages.rect(sheet.left + column * cell, top + row * cell, cell + 0.05, cell + 0.05);
    sheet.pages.fill();
  });
  figure.end();
  if (narrow) sheet.y = top + side + sheet.at(4);
  sheet.flow('P', texts);
  sheet.y = Math.max(sheet.y, top + side + sheet.at(4));
}
