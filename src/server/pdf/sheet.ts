import PDFDocument from 'pdfkit';
import { type Tone, tones } from '@/core/papers';
import type { FontChain } from './fonts';
import { type Line, type Look, Typesetter } from './lines';

/** Metrics of a kind of sheet, points. */
export interface Metrics {
  readonly width: number;
  readonly height: number;
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
  /** Everything is set so much larger or smaller. */
  readonly times: number;
}

type Pages = InstanceType<typeof PDFDocument>;
export type Element = InstanceType<typeof PDFDocument> extends { struct(...args: never[]): infer E } ? E : never;
type ElementOptions = { readonly title?: string; readonly alt?: string; readonly actual?: string };

/** What is drawn in one go and never torn apart: its height, and how. */
export interface Piece {
  readonly height: number;
  readonly draw: (y: number) => void;
}

/** Pages with a pen on them: sets lines, draws shapes, keeps the reading order, and begins a page where no room is left. */
export class Sheet {
  readonly pages: Pages;
  readonly type: Typesetter;
  readonly left: number;
  readonly wide: number;
  y: number;
  private readonly root: Element;
  private readonly done: Promise<Buffer>;

  constructor(
    readonly metrics: Metrics,
    private readonly chain: FontChain,
    about: { readonly title: string; readonly author: string; readonly language: string; readonly at: Date },
  ) {
    const { width, height, left, right, top } = metrics;
    this.pages = new PDFDocument({
      size: [width, height],
      margins: { top, bottom: 0, left, right },
      bufferPages: true,
      pdfVersion: '1.7',
      tagged: true,
      lang: about.language,
      displayTitle: true,
      subset: 'PDF/UA',
      info: { Title: about.title, Author: about.author, CreationDate: about.at, ModDate: about.at },
    } as unknown as ConstructorParameters<typeof PDFDocument>[0]);
    const chunks: Buffer[] = [];
    this.pages.on('data', (chunk: Buffer) => chunks.push(chunk));
    this.done = new Promise((resolve, reject) => {
      this.pages.on('end', () => resolve(Buffer.concat(chunks)));
      this.pages.on('error', reject);
    });
    for (const face of Object.values(chain)) for (const { name, font } of face) this.pages.registerFont(name, font as never);
    this.type = new Typesetter(chain);
    this.left = left;
    this.wide = width - left - right;
    this.y = top;
    this.root = this.pages.struct('Document', { title: about.title });
    this.pages.addStructure(this.root);
  }

  /** Points at the size of this kind of sheet. */
  at(points: number): number {
    return points * this.metrics.times;
  }

  look(face: Look['face'], points: number): Look {
    return { face, size: this.at(points) };
  }

  /** Height of a line of this look. */
  leading({ size }: Look): number {
    return size * 1.36;
  }

  get bottom(): number {
    return this.metrics.height - this.metrics.bottom;
  }

  /** Begins a page, unless this one is still empty. */
  newPage(): void {
    if (this.y <= this.metrics.top + 0.5) return;
    this.pages.addPage();
    this.y = this.metrics.top;
  }

  /** Room for so much, on this page or the next. */
  room(height: number): void {
    if (this.y + height > this.bottom && this.y > this.metrics.top + 0.5) this.newPage();
  }

  /** An element of the reading order under another, the whole paper's where none is named. */
  element(type: string, options: ElementOptions = {}, under: Element = this.root): Element {
    const made = this.pages.struct(type, options as never);
    under.add(made);
    return made;
  }

  /** Draws into an element, on the page that is open. */
  into(element: Element, type: string, draw: () => void, options: ElementOptions = {}): void {
    const content = this.pages.markStructureContent(type, options as never);
    draw();
    this.pages.endMarkedContent();
    element.add(content);
  }

  /** Draws what is no part of what is read: rules, page numbers. */
  aside(draw: () => void): void {
    this.pages.markContent('Artifact', { type: 'Layout' } as never);
    draw();
    this.pages.endMarkedContent();
  }

  /** Pieces below one another, over as many pages as they take. */
  flow(type: string, pieces: readonly Piece[], under?: Element, options: ElementOptions = {}): void {
    const element = this.element(type, options, under);
    let index = 0;
    while (index < pieces.length) {
      this.room(pieces[index].height);
      const from = index;
      let until = this.y;
      while (index < pieces.length && (index === from || until + pieces[index].height <= this.bottom)) {
        until += pieces[index].height;
        index += 1;
      }
      this.into(element, type, () => {
        for (const { height, draw } of pieces.slice(from, index)) {
          draw(this.y);
          this.y += height;
        }
      });
    }
    element.end();
  }

  /** The pieces of a text: its lines. */
  pieces(text: string, look: Look, { x = this.left, width = this.wide, tone = 'ink' as Tone } = {}): readonly Piece[] {
    const height = this.leading(look);
    return this.type.lines(text, look, width).map((line) => ({ height, draw: (y: number) => this.setLine(line, look, x, y, tone) }));
  }

  setLine(line: Line, { size }: Look, x: number, y: number, tone: Tone): void {
    this.pages.fillColor(tones[tone]);
    const last = line.runs.length - 1;
    for (const [index, run] of line.runs.entries()) {
      if (run.text === '') continue;
      this.pages.font(run.font.name).fontSize(size);
      // Every font on one baseline, whatever room it asks for above it.
      const ascent = (run.font.font.ascent / run.font.font.unitsPerEm) * size;
      // Whoever hears it hears words apart: a line ends with the space that it was broken at.
      this.pages.text(index === last ? `${run.text} ` : run.text, x + run.x, y + size * 1.0 - ascent + size * 0.06, {
        lineBreak: false,
        ...(run.backward ? { features: ['init', 'medi', 'fina', 'isol', 'liga', 'rlig', 'calt'] as never } : {}),
      });
    }
  }

  line(points: readonly number[], tone: Tone, width: number, dashed = false): void {
    const { pages } = this;
    if (dashed) pages.dash(3, { space: 2 });
    pages.lineWidth(width).lineJoin('round').strokeColor(tones[tone]);
    for (let index = 0; index + 1 < points.length; index += 2) {
      if (index === 0) pages.moveTo(points[0], points[1]);
      else pages.lineTo(points[index], points[index + 1]);
    }
    pages.stroke();
    if (dashed) pages.undash();
  }

  area(points: readonly number[], tone: Tone, opacity = 1): void {
    const corners: [number, number][] = [];
    for (let index = 0; index + 1 < points.length; index += 2) corners.push([points[index], points[index + 1]]);
    this.pages
      .fillOpacity(opacity)
      .polygon(...(corners as unknown as number[][]))
      .fill(tones[tone])
      .fillOpacity(1);
  }

  /** Ends the paper. @param attached the record, at the paper's own moment */
  async end(attached: { readonly data: Buffer; readonly at: Date } | undefined): Promise<Buffer> {
    if (attached !== undefined)
      this.pages.file(attached.data, {
        name: 'record.json',
        type: 'application/json',
        description: 'The open record of this test',
        creationDate: attached.at,
        modifiedDate: attached.at,
        relationship: 'Source',
      } as Parameters<Pages['file']>[1]);
    this.root.end();
    this.pages.end();
    return this.done;
  }

  get fonts(): FontChain {
    return this.chain;
  }
}
