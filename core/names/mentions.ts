import { fold } from './text.ts';

/** Who is looked for in a row of cells: the texts that are theirs alone, and the parts of a person's name. */
export interface Mentioned {
  /** Names as written and e-mail addresses. */
  texts: readonly string[];
  first: string;
  last: string;
}

/**
 * Whether a row of a file or sheet names someone: a cell is one of their texts, or two cells are their first and
 * last name. Case, accents and outer spaces do not count. A part of a cell is no mention, nor is a last name alone.
 */
export function mentions(cells: Iterable<string>, who: Mentioned): boolean {
  const has = new Set([...cells].map((cell) => fold(cell.trim())).filter(Boolean));
  const [first, last] = [fold(who.first), fold(who.last)];
  return (
    who.texts.some((text) => has.has(fold(text))) || (first !== '' && last !== '' && has.has(first) && has.has(last))
  );
}
