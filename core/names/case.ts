import { bare, MAC_STEMS, PARTICLES, SUFFIXES, TITLES, WRITTEN_LARGE } from './words.ts';

/** Whether a text says nothing by its capitals, because all or none of its letters are one. */
export const needsCase = (text: string): boolean =>
  /\p{L}{2}/u.test(text) && (text === text.toUpperCase() || text === text.toLowerCase()) && /\p{Lu}|\p{Ll}/u.test(text);

export const isParticle = (word: string): boolean =>
  PARTICLES.has(bare(word)) || /^(?:d|l|dell|dall|'t|'n)['’]/iu.test(word);

const isInitial = (word: string): boolean => /^\p{L}\.?$/u.test(word);

/**
 * A name in capitals or small letters as names are written: `MCDONALD-O'NEILL` becomes `McDonald-O'Neill`, `DE LA
 * CRUZ` becomes `de la Cruz`. After `Mac` a capital follows in names known for it; `Mackey` and `Machado` stay whole.
 */
export function properCase(text: string): string {
  const words = text.split(' ');
  return words
    .map((word, at) => {
      const alone = words.length === 1 || isInitial(word);
      if (/^[ds]\/o$|^a\/[lp]$/i.test(word)) return word.toLowerCase();
      if (
        isParticle(word) &&
        PARTICLES.has(bare(word)) &&
        !WRITTEN_LARGE.has(bare(word)) &&
        !alone &&
        at < words.length - 1
      )
        return word.toLowerCase();
      return cased(word);
    })
    .join(' ');
}

const cased = (word: string): string =>
  word
    .toLowerCase()
    .replace(/(^|[-‐'’.])(\p{L})/gu, (_all, before: string, letter: string) => before + letter.toUpperCase())
    .replace(/(^|[-‐'’])Mc(\p{L})/gu, (_all, before: string, letter: string) => `${before}Mc${letter.toUpperCase()}`)
    .replace(/(^|[-‐'’])Mac(\p{L}+)/gu, (all, before: string, stem: string) =>
      MAC_STEMS.has(stem) ? `${before}Mac${stem[0]?.toUpperCase() ?? ''}${stem.slice(1)}` : all,
    )
    .replace(
      /^([DLT])(['’])(\p{L})/u,
      (_all, first: string, sign: string, letter: string) => `${first}${sign}${letter}`,
    )
    .replace(/^Al-(\p{L})/u, 'al-$1')
    .replace(/(['’])S$/u, '$1s');

/** A title or suffix in the letters that it is written with, and the points that it came with. */
export function casedTitle(word: string): string {
  const written = [...(TITLES.get(bare(word)) ?? SUFFIXES.get(bare(word)) ?? cased(word))].filter((sign) =>
    /\p{L}|\p{N}/u.test(sign),
  );
  if (/\d/.test(word) && !TITLES.has(bare(word))) return word.toUpperCase();
  return [...word].map((sign) => (/\p{L}|\p{N}/u.test(sign) ? (written.shift() ?? sign) : sign)).join('');
}
