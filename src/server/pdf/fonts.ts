import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { type Font, openSync } from 'fontkit';
import { LRUCache } from 'lru-cache';

/** The paper's own type and, for what it has no glyph for, full fonts behind it; then whatever fonts the installation adds. */

export const faces = ['text', 'bold', 'mono', 'strong-mono'] as const;
export type Face = (typeof faces)[number];

const own: Readonly<Record<Face, readonly [string, string]>> = {
  text: ['@expo-google-fonts/schibsted-grotesk/400Regular/SchibstedGrotesk_400Regular.ttf', 'DejaVuSans.ttf'],
  bold: ['@expo-google-fonts/schibsted-grotesk/700Bold/SchibstedGrotesk_700Bold.ttf', 'DejaVuSans-Bold.ttf'],
  mono: ['@expo-google-fonts/jetbrains-mono/400Regular/JetBrainsMono_400Regular.ttf', 'DejaVuSansMono.ttf'],
  'strong-mono': ['@expo-google-fonts/jetbrains-mono/600SemiBold/JetBrainsMono_600SemiBold.ttf', 'DejaVuSansMono-Bold.ttf'],
};

export interface FontFile {
  /** Name under which it is embedded. */
  readonly name: string;
  readonly font: Font;
}

export type FontChain = Readonly<Record<Face, readonly FontFile[]>>;

const kept = new Map<string, FontChain>();

type Glyphs = ReturnType<Font['layout']>;

/** Words remembered for each font: papers say much the same. */
const mostWords = 20_000;

/**
 * A font that remembers how it set a word, over all papers. Figures in columns need no ligatures: a mono font sets sign by sign.
 * What it hands out is a copy, since whoever takes it scales it in place.
 */
function remembering(font: Font, signBySign: boolean): Font {
  const words = new LRUCache<string, Glyphs>({ max: mostWords });
  const set = (text: string, features: readonly string[] | undefined): Glyphs => {
    if (!signBySign) return font.layout(text, features);
    const glyphs = font.glyphsForString(text);
    const positions = glyphs.map(({ advanceWidth }) => ({ xAdvance: advanceWidth, yAdvance: 0, xOffset: 0, yOffset: 0, advanceWidth }));
    return { glyphs, positions, advanceWidth: glyphs.reduce((sum, one) => sum + one.advanceWidth, 0) };
  };
  return Object.create(font, {
    layout: {
      value: (text: string, features?: readonly string[]): Glyphs => {
        const key = `${features?.join(' ') ?? ''}\n${text}`;
        let known = words.get(key);
        if (known === undefined) {
          const { glyphs, positions, advanceWidth } = set(text, features);
          known = { glyphs, positions: positions.map((one) => ({ ...one })), advanceWidth };
          words.set(key, known);
        }
        return { ...known, positions: known.positions.map((one) => ({ ...one })) };
      },
    },
  }) as Font;
}

/** Single fonts in a folder, by name; collections cannot be embedded one by one. */
function addedIn(folder: string): readonly string[] {
  if (folder === '' || !existsSync(folder)) return [];
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && /\.(ttf|otf)$/i.test(entry.name))
    .map((entry) => join(entry.parentPath, entry.name))
    .sort();
}

/**
 * Fonts of every face, the one to be tried first first.
 * @param root where the installed packages lie; @param added a folder of further fonts, for scripts that the shipped ones lack
 */
export function fontChain(root: string, added = process.env.VAST_FONTS ?? ''): FontChain {
  const key = `${root} ${added}`;
  const before = kept.get(key);
  if (before !== undefined) return before;
  const open = (name: string, file: string): FontFile => ({ name, font: remembering(openSync(file), name.includes('mono')) });
  const further = addedIn(added).map((file, index) => open(`added-${index}`, file));
  const chain = Object.fromEntries(
    faces.map((face) => {
      const [first, second] = own[face];
      return [
        face,
        [
          open(face, join(root, 'node_modules', first)),
          open(`${face}-full`, join(root, 'node_modules', 'dejavu-fonts-ttf', 'ttf', second)),
          ...(face === 'text' ? [] : [open(`${face}-wide`, join(root, 'node_modules', 'dejavu-fonts-ttf', 'ttf', 'DejaVuSans.ttf'))]),
          ...further,
        ],
      ];
    }),
  ) as unknown as FontChain;
  kept.set(key, chain);
  return chain;
}

export interface Run {
  readonly font: FontFile;
  readonly text: string;
}

/** What is set by whatever stands around it and needs no glyph. */
const invisible = /\p{Default_Ignorable_Code_Point}|\p{Cf}/u;

/** A text cut where another font must take over. What no font has stands as its number, so that nothing is dropped or boxed. */
export function runsOf(chain: readonly FontFile[], text: string): readonly Run[] {
  const runs: { font: FontFile; text: string }[] = [];
  for (const sign of text) {
    if (invisible.test(sign)) continue;
    const code = sign.codePointAt(0) ?? 0;
    const last = runs[runs.length - 1];
    // A space or a mark stays with what stands before it where that font has it.
    const font =
      last !== undefined && /[\s\p{M}]/u.test(sign) && last.font.font.hasGlyphForCodePoint(code)
        ? last.font
        : chain.find((one) => one.font.hasGlyphForCodePoint(code));
    const shown = font === undefined ? `(U+${code.toString(16).toUpperCase().padStart(4, '0')})` : sign;
    const by = font ?? chain[0];
    if (last?.font === by) last.text += shown;
    else runs.push({ font: by, text: shown });
  }
  return runs;
}

/** Signs that no font of the chain has, each once. */
export function missingSigns(chain: FontChain, texts: readonly string[]): readonly string[] {
  const missing = new Set<string>();
  for (const sign of new Set(texts.flatMap((text) => [...text]))) {
    if (/\s/u.test(sign) || invisible.test(sign)) continue;
    const code = sign.codePointAt(0) ?? 0;
    if (!chain.text.some(({ font }) => font.hasGlyphForCodePoint(code))) missing.add(sign);
  }
  return [...missing].sort();
}
