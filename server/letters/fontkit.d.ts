declare module 'fontkit' {
  export interface Font {
    /** In units of the font, of which an em has `unitsPerEm`. */
    readonly ascent: number;
    readonly unitsPerEm: number;
    hasGlyphForCodePoint(code: number): boolean;
  }
  export function create(bytes: Buffer): Font;
}
