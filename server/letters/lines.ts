import bidiFactory from 'bidi-js';
import LineBreaker from 'linebreak';
import { stretches } from './fonts.ts';
import type { Face } from './fonts.ts';

/** Text of one face; a link where it leads somewhere. */
export interface Span {
  text: string;
  face: Face;
  link?: string | null;
}
/** A part of a line, drawn by one font file: as it is written, left of what follows it in its line. */
export interface Piece {
  text: string;
  font: string;
  link: string | null;
}
export interface Line {
  pieces: Piece[];
  width: number;
}

const bidi = bidiFactory();
const RIGHT_TO_LEFT =
  /[\p{Script=Arabic}\p{Script=Hebrew}\p{Script=Syriac}\p{Script=Thaana}\p{Script=Nko}\u200f\u202b\u202e\u2067]/u;
/** What the font itself turns round when it shapes it: letters of such a script and the marks on them. */
const TURNED = /[\p{Script=Arabic}\p{Script=Hebrew}\p{Script=Syriac}\p{Script=Thaana}\p{Script=Nko}\p{M}\u200c\u200d]/u;
const segmenter = new Intl.Segmenter();

export const runsRightToLeft = (text: string): boolean => RIGHT_TO_LEFT.test(text);

/**
 * Lays text out in lines of at most `room`, each line's pieces in the order in which they stand on paper from left
 * to right (Unicode's bidirectional algorithm, UAX 9; breaks by UAX 14). `rightToLeft` says how its first letter
 * runs, and so from which side the whole is read. A word wider than the room stands on a line of its own.
 */
export function layOut(
  spans: readonly Span[],
  room: number,
  measure: (piece: Piece) => number,
): { lines: Line[]; rightToLeft: boolean } {
  const text = spans.map((span) => span.text).join('');
  const embedding = bidi.getEmbeddingLevels(text);
  const units = unitsOf(spans, embedding.levels);
  const lineOf = (start: number, end: number): Line => {
    const trimmed = start + text.slice(start, end).trimEnd().length;
    if (trimmed === start) return { pieces: [], width: 0 };
    const order = bidi.getReorderedIndices(text, embedding, start, trimmed - 1).slice(start, trimmed);
    const pieces = piecesOf(text, order, units, embedding.levels);
    return { pieces, width: pieces.reduce((sum, piece) => sum + measure(piece), 0) };
  };
  const lines: Line[] = [];
  const breaker = new LineBreaker(text);
  let [start, end] = [0, 0];
  for (let at = breaker.nextBreak(); at; at = breaker.nextBreak()) {
    if (end > start && lineOf(start, at.position).width > room) {
      lines.push(lineOf(start, end));
      start = end;
    }
    end = at.position;
    if (at.required && end < text.length) {
      lines.push(lineOf(start, end));
      start = end;
    }
  }
  if (end > start) lines.push(lineOf(start, end));
  return { lines, rightToLeft: (embedding.paragraphs[0]?.level ?? 0) % 2 === 1 };
}

/** As `layOut`, on one line: what has no room is left away, and an ellipsis says so. */
export function layOutOne(spans: readonly Span[], room: number, measure: (piece: Piece) => number): Line {
  const whole = (kept: readonly Span[]): Line => layOut(kept, Infinity, measure).lines[0] ?? { pieces: [], width: 0 };
  const text = spans
    .map((span) => span.text)
    .join('')
    .replaceAll('\n', ' ');
  const face = spans[0]?.face ?? 'sans';
  const line = whole(spans.map((span) => ({ ...span, text: span.text.replaceAll('\n', ' ') })));
  if (line.width <= room) return line;
  const signs = [...segmenter.segment(text)].map(({ segment }) => segment);
  let [fits, over] = [0, signs.length];
  let best = whole([{ text: '…', face }]);
  while (over - fits > 1) {
    const middle = (fits + over) >> 1;
    const cut = whole([{ text: `${signs.slice(0, middle).join('').trimEnd()}…`, face }]);
    if (cut.width <= room) [fits, best] = [middle, cut];
    else over = middle;
  }
  return best;
}

/** For each place in the text: which font draws it, and where that leads; the same object as long as both stay. */
function unitsOf(spans: readonly Span[], levels: Uint8Array): Omit<Piece, 'text'>[] {
  const units: Omit<Piece, 'text'>[] = [];
  for (const { text, face, link } of spans)
    for (const stretch of stretches(text, face)) {
      const unit = { font: stretch.font, link: link ?? null };
      for (let at = 0; at < stretch.text.length; at++) units.push(unit);
    }
  return units.slice(0, levels.length);
}

function piecesOf(
  text: string,
  order: readonly number[],
  units: readonly Omit<Piece, 'text'>[],
  levels: Uint8Array,
): Piece[] {
  const turned = (at: number): 'word' | 'sign' | 'forward' => {
    if ((levels[at] ?? 0) % 2 === 0) return 'forward';
    return TURNED.test(text.charAt(at)) ? 'word' : 'sign';
  };
  const pieces: Piece[] = [];
  for (let from = 0; from < order.length;) {
    const first = order[from] ?? 0;
    const kind = turned(first);
    let to = from + 1;
    while (to < order.length && turned(order[to] ?? 0) === kind && units[order[to] ?? 0] === units[first]) to++;
    const places = order.slice(from, to).sort((a, b) => a - b);
    const written = places.map((at) => text.charAt(at)).join('');
    const unit = units[first];
    if (unit) pieces.push({ ...unit, text: kind === 'sign' ? mirrored(written) : written });
    from = to;
  }
  return pieces;
}

/** Signs among words that run right to left, as they stand on paper: turned round, brackets facing the other way. */
const mirrored = (signs: string): string =>
  [...segmenter.segment(signs)]
    .map(({ segment }) => bidi.getMirroredCharacter(segment) ?? segment)
    .reverse()
    .join('');
