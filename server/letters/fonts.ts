import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { create } from 'fontkit';
import type { Font } from 'fontkit';

const require = createRequire(import.meta.url);

/** A face of the letter: which font files may draw it, in the order they are asked. */
export type Face = 'serif' | 'serif-bold' | 'sans' | 'sans-bold' | 'sans-italic' | 'sans-bold-italic';

const packed = (family: string, weight: number, style = 'normal'): string[] =>
  ['latin', 'latin-ext', ...(family === 'source-serif-4' ? ['cyrillic', 'greek'] : ['vietnamese'])].map((subset) =>
    require.resolve(`@fontsource/${family}/files/${family}-${subset}-${weight}-${style}.woff`),
  );
const dejavu = (name: string): string => require.resolve(`dejavu-fonts-ttf/ttf/${name}.ttf`);

const FILES: Record<Face, string[]> = {
  serif: [...packed('source-serif-4', 400), dejavu('DejaVuSans')],
  'serif-bold': [...packed('source-serif-4', 600), dejavu('DejaVuSans-Bold')],
  sans: [...packed('public-sans', 400), dejavu('DejaVuSans')],
  'sans-bold': [...packed('public-sans', 700), dejavu('DejaVuSans-Bold')],
  'sans-italic': [...packed('public-sans', 400, 'italic'), dejavu('DejaVuSans-Oblique')],
  'sans-bold-italic': [...packed('public-sans', 700, 'italic'), dejavu('DejaVuSans-BoldOblique')],
};

interface Loaded {
  bytes: Buffer;
  font: Font;
}
const loaded = new Map<string, Loaded>();

function load(path: string): Loaded {
  let entry = loaded.get(path);
  if (!entry) {
    const bytes = readFileSync(path);
    entry = { bytes, font: create(bytes) };
    loaded.set(path, entry);
  }
  return entry;
}

/** The bytes of every font file, by the name it goes by in a PDF. */
export const fontBytes = (name: string): Buffer => load(name).bytes;

/**
 * Cuts a text into stretches that one font file can draw. A character that none has (an emoji) is drawn by the
 * last as its box, so that nobody's name loses a letter unseen.
 */
export function stretches(text: string, face: Face): { text: string; font: string }[] {
  const out: { text: string; font: string }[] = [];
  for (const character of text) {
    const code = character.codePointAt(0) ?? 32;
    const last = out.at(-1);
    const font = /\s/.test(character) && last ? last.font : fontFor(face, code);
    if (last && last.font === font) last.text += character;
    else out.push({ text: character, font });
  }
  return out;
}

const coverage = new Map<Face, Map<number, string>>();

function fontFor(face: Face, code: number): string {
  const known = coverage.get(face) ?? new Map<number, string>();
  coverage.set(face, known);
  let font = known.get(code);
  if (font === undefined) {
    const files = FILES[face];
    font = files.find((path) => load(path).font.hasGlyphForCodePoint(code)) ?? files.at(-1) ?? '';
    known.set(code, font);
  }
  return font;
}
