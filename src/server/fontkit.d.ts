declare module 'fontkit' {
  export interface Font {
    readonly unitsPerEm: number;
    readonly ascent: number;
    readonly descent: number;
    hasGlyphForCodePoint(code: number): boolean;
    layout(
      text: string,
      features?: readonly string[],
    ): {
      readonly glyphs: readonly { readonly advanceWidth: number }[];
      readonly positions: readonly Readonly<Record<'xAdvance' | 'yAdvance' | 'xOffset' | 'yOffset' | 'advanceWidth', number>>[];
      readonly advanceWidth: number;
    };
    glyphsForString(text: string): readonly { readonly advanceWidth: number }[];
  }
  export function openSync(file: string): Font;
}
declare module 'bidi-js' {
  interface Bidi {
    getEmbeddingLevels(text: string, direction?: 'ltr' | 'rtl'): { readonly levels: Uint8Array };
    getReorderSegments(text: string, levels: { readonly levels: Uint8Array }): readonly (readonly [number, number])[];
  }
  export default function bidiFactory(): Bidi;
}
