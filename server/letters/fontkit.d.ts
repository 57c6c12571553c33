declare module 'fontkit' {
  export interface Font {
    hasGlyphForCodePoint(code: number): boolean;
  }
  export function create(bytes: Buffer): Font;
}
