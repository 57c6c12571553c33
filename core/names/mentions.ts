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

/** What stands where somebody was named who is erased. */
const REMOVED = 'a removed supporter';
/** A text shorter than this is no name that could be told from a word. */
const SHORTEST = 4;

/**
 * Takes people out of running text: each of their texts, where it stands as a whole and however its capitals are, makes
 * room for `REMOVED`. What is left is the same function for any text; it gives the text itself back where nobody is
 * named.
 */
export function without(people: readonly Mentioned[]): (text: string) => string {
  const texts = [...new Set(people.flatMap((one) => one.texts))].filter((text) => text.length >= SHORTEST);
  if (texts.length === 0) return (text) => text;
  // The longest first, so that a title is not left standing before a name.
  const sorted = texts.sort((a, b) => b.length - a.length).map((text) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'));
  const named = new RegExp(`(?<![\\p{L}\\p{N}])(?:${sorted.join('|')})(?![\\p{L}\\p{N}])`, 'giu');
  return (text) => text.replace(named, REMOVED);
}
