declare module 'fontkit' {
  export function openSync(file: string): { hasGlyphForCodePoint(code: number): boolean };
}
