import bidiFactory from 'bidi-js';
import { type Face, type FontChain, type Run, runsOf } from './fonts';

/** A text as it is set: its face, its size in points. */
export interface Look {
  readonly face: Face;
  readonly size: number;
}

/** A run of a line with where it begins, points from the line's left. */
export interface Placed extends Run {
  readonly x: number;
  readonly width: number;
  /** Written from right to left: its glyphs come shaped and turned. */
  readonly backward: boolean;
}

export interface Line {
  readonly runs: readonly Placed[];
  readonly width: number;
  readonly text: string;
}

const bidi = bidiFactory();
const strongBackward = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc]/;

/** Sets texts in lines: it knows the fonts, and remembers how wide a word is. */
export class Typesetter {
  private readonly widths = new Map<string, number>();
  constructor(private readonly chain: FontChain) {}

  /** As it is drawn: word by word, each with the space that follows it. */
  private runWidth({ font, text }: Run, size: number): number {
    let sum = 0;
    for (const word of text.match(/[^ ]* |[^ ]+$/g) ?? []) {
      const key = `${font.name}\n${word}`;
      let unit = this.widths.get(key);
      if (unit === undefined) {
        unit = font.font.layout(word).advanceWidth / font.font.unitsPerEm;
        this.widths.set(key, unit);
      }
      sum += unit;
    }
    return sum * size;
  }

  width(text: string, { face, size }: Look): number {
    return runsOf(this.chain[face], text).reduce((sum, run) => sum + this.runWidth(run, size), 0);
  }

  /** The text in lines of at most this width; a word that is longer is broken where it must be. */
  lines(text: string, look: Look, width: number): readonly Line[] {
    const found: Line[] = [];
    for (const paragraph of text.split('\n')) {
      let line = '';
      let wide = 0;
      const close = () => {
        found.push(this.placed(line, look));
        [line, wide] = ['', 0];
      };
      for (const word of paragraph.split(/ +/)) {
        for (const part of this.broken(word, look, width)) {
          if (line !== '' && wide + this.width(part, look) > width + 0.01) close();
          wide += this.width(`${part} `, look);
          line = line === '' ? part : `${line} ${part}`;
        }
      }
      close();
    }
    return found;
  }

  private broken(word: string, look: Look, width: number): readonly string[] {
    if (this.width(word, look) <= width) return [word];
    const parts: string[] = [];
    let part = '';
    for (const sign of word) {
      if (part !== '' && this.width(part + sign, look) > width) {
        parts.push(part);
        part = '';
      }
      part += sign;
    }
    return [...parts, part];
  }

  /** One line, its parts in the order in which they stand on the paper. */
  placed(text: string, { face, size }: Look): Line {
    const pieces: { text: string; backward: boolean }[] = [];
    if (strongBackward.test(text)) {
      const levels = bidi.getEmbeddingLevels(text, 'ltr');
      let at = 0;
      // Runs of one level; those that lie backward among others are turned as a whole.
      while (at < text.length) {
        const level = levels.levels[at];
        let end = at + 1;
        while (end < text.length && levels.levels[end] === level) end += 1;
        pieces.push({ text: text.slice(at, end), backward: level % 2 === 1 });
        at = end;
      }
    } else pieces.push({ text, backward: false });
    const runs: Placed[] = [];
    let x = 0;
    for (const piece of pieces) {
      const own = runsOf(this.chain[face], piece.text);
      for (const run of piece.backward ? [...own].reverse() : own) {
        const width = this.runWidth(run, size);
        runs.push({ ...run, x, width, backward: piece.backward });
        x += width;
      }
    }
    return { runs, width: x, text };
  }
}
