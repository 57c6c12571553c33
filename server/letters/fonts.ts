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
const noto = (family: string, weight: Weight): string => {
  const file = `NotoSans${family}_${weight}.ttf`;
  return require.resolve(`@expo-google-fonts/noto-sans-${family.toLowerCase()}/${weight}/${file}`);
};

type Weight = '400Regular' | '700Bold';
/** Scripts that the faces lack, each with a font of its own. The two large ones (Han and kana, Hangul) are asked last. */
const SCRIPTS =
  'Arabic Hebrew Devanagari Bengali Gurmukhi Gujarati Tamil Telugu Kannada Malayalam Sinhala Thai Khmer Myanmar Ethiopic'.split(
    ' ',
  );
const others = (weight: Weight, rest: string): string[] => [
  ...SCRIPTS.map((script) => noto(script, weight)),
  dejavu(rest),
  noto('SC', weight),
  noto('KR', weight),
];

const REGULAR = others('400Regular', 'DejaVuSans');
const BOLD = others('700Bold', 'DejaVuSans-Bold');
const FILES: Record<Face, string[]> = {
  serif: [...packed('source-serif-4', 400), ...REGULAR],
  'serif-bold': [...packed('source-serif-4', 600), ...BOLD],
  sans: [...packed('public-sans', 400), ...REGULAR],
  'sans-bold': [...packed('public-sans', 700), ...BOLD],
  'sans-italic': [...packed('public-sans', 400, 'italic'), ...others('400Regular', 'DejaVuSans-Oblique')],
  'sans-bold-italic': [...packed('public-sans', 700, 'italic'), ...others('700Bold', 'DejaVuSans-BoldOblique')],
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

/** How far the letters of a face rise above the line on which they stand, as a share of the type's size. */
export function riseOf(face: Face): number {
  const { font } = load(FILES[face][0] ?? '');
  return font.ascent / font.unitsPerEm;
}

/** Cuts a text into stretches that one font file can draw. What none can draw (`undrawable`) goes to the last. */
export function stretches(text: string, face: Face): { text: string; font: string }[] {
  const out: { text: string; font: string }[] = [];
  for (const character of text) {
    const code = character.codePointAt(0) ?? 32;
    const last = out.at(-1);
    const font = STAYS.test(character) && last ? last.font : fontFor(face, code);
    if (last && last.font === font) last.text += character;
    else out.push({ text: character, font });
  }
  return out;
}

/** Fonts with a mark that stands on some letters only, at which fontkit 2.0 fails; it is then set at its usual place. */
const MARKS_FAIL = new Set(
  ['Gurmukhi', 'Telugu', 'Malayalam'].flatMap((script) => [noto(script, '400Regular'), noto(script, '700Bold')]),
);
/** The features of type that a font must do without. */
export const featuresOff = (font: string): Record<string, boolean> | undefined =>
  MARKS_FAIL.has(font) ? { abvm: false } : undefined;

/** What is seen only by what it does to its neighbours: a space, a mark, a joiner. It stays in their font. */
const STAYS = /[\s\p{M}\p{Default_Ignorable_Code_Point}]/u;
const PLAIN = /^[\t\n\r -~]*$/;
const UNSEEN = /[\s\p{Cc}\p{Default_Ignorable_Code_Point}]/u;

/** The characters of a text that no font of ours can draw (an emoji, a rare script), each once, as they come. */
export function undrawable(text: string): string[] {
  const found = new Set<string>();
  if (PLAIN.test(text)) return [];
  for (const character of text) {
    const code = character.codePointAt(0) ?? 32;
    if (!UNSEEN.test(character) && !load(fontFor('sans', code)).font.hasGlyphForCodePoint(code)) found.add(character);
  }
  return [...found];
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
