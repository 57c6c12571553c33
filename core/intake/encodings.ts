/** The letters of a file as one encoding reads them. */
export interface Reading {
  encoding: string;
  /** How likely it is beforehand, from 0 to 1. */
  likely: number;
  text: string;
}

/** An encoding that a file may be in, with the words that tell it from others. */
export interface ToldReading {
  encoding: string;
  words: string[];
}

const WORD = /[^\s,;|"<>()]*\P{ASCII}[^\s,;|"<>()]*/gu;
const MOST_WORDS = 200;
const SHOWN_WORDS = 4;
/** What is less likely by less than this may be so all the same. */
const DOUBT = 0.4;

const NO_TEXT = /[\uFFFD\u0080-\u009f\p{Co}\p{Cn}]/u;
const SCRIPTS = [
  /\p{Script=Latin}/u,
  /\p{Script=Cyrillic}/u,
  /\p{Script=Greek}/u,
  /\p{Script=Hebrew}|\p{Script=Arabic}/u,
  /\p{Script=Han}|\p{Script=Hiragana}|\p{Script=Katakana}/u,
  /\p{Script=Hangul}/u,
];
/** Signs that stand in texts between and beside words. */
const BETWEEN = /[‘’“”–—…«»°º·€£¢§©®™½¼¾¿¡、。・「」\u00a0]/u;
const ELISION = /^\p{L}{1,2}’\p{L}|\p{L}’(?:s|t|re|ll|ve|d|m)$/iu;
const QUOTED = /^[“‘«].*[”’»]$/u;
const COMMON = /[áàâäãåæçéèêëíìîïñóòôöõøœúùûüýßąćęłńśźżčďěňřšťůžőűđğışțăÉÁÅÄÖÜÇÑØÆŠŽČŁŚÓÍÚ]/u;

/** How much a word looks like one that people write: above zero for a likely one. */
function likelihood(word: string): number {
  if (NO_TEXT.test(word)) return -5;
  const letters = word.replace(/[^\p{L}\p{M}]/gu, '');
  const odd = [...word].filter((sign) => sign > '\u007f' && !/[\p{L}\p{M}]/u.test(sign));
  if (odd.some((sign) => !BETWEEN.test(sign))) return -3;
  if (letters === '') return 3;
  if (/^\P{ASCII}$/u.test(word)) return 0;
  if (ELISION.test(word) || QUOTED.test(word)) return 4;
  if (odd.length > 0 && /\p{L}[^\p{L}\p{M}\p{ASCII}]\p{L}/u.test(word)) return 0;
  if (SCRIPTS.filter((script) => script.test(letters)).length > 1) return -3;
  // A capital amid a word, next to a letter that no plain alphabet has.
  if ((letters.match(/\p{Ll}\p{Lu}/gu) ?? []).some((pair) => /\P{ASCII}/u.test(pair))) return -2;
  if (!SCRIPTS[0]?.test(letters)) return 3;
  return (COMMON.test(letters) ? 3 : 2) - (isHardToSay(letters) ? 0.7 : 0);
}

const VOWEL = /^[aeiouyæøœı]/i;
const isVowel = (letter: string): boolean => VOWEL.test(letter.normalize('NFD'));
/** Letters that no language has before a vowel. */
const NEVER_BEFORE_VOWEL = /[ńă](?=\p{L})/giu;
const SAME_IN_A_ROW = 3;

/** Whether a letter beyond plain ones stands where it can hardly be said: in a row of vowels, or of consonants. */
function isHardToSay(word: string): boolean {
  for (const { index } of word.matchAll(NEVER_BEFORE_VOWEL)) if (isVowel(word[index + 1] ?? '')) return true;
  const kinds = [...word].map(isVowel);
  return [...word].some((letter, at) => {
    // Two vowels beside ã or õ are one sound: João, Simões.
    if (letter <= '\u007f' || /[ãõ]/i.test(letter)) return false;
    let [from, to] = [at, at];
    while (from > 0 && kinds[from - 1] === kinds[at]) from--;
    while (to < kinds.length - 1 && kinds[to + 1] === kinds[at]) to++;
    return to - from + 1 >= SAME_IN_A_ROW;
  });
}

const wordsOf = (text: string): string[] => [...new Set(text.match(WORD) ?? [])].slice(0, MOST_WORDS);

/**
 * Encodings in the order of how likely a text reads right in them. `sure` where none of the others reads other words
 * nearly as likely. Those that read the same words as a likelier one are left out.
 */
export function rankReadings(readings: readonly Reading[]): { encodings: string[]; sure: boolean } {
  const scored = readings.map(({ encoding, likely, text }) => {
    const words = wordsOf(text);
    const sum = words.reduce((total, word) => total + likelihood(word), 0);
    return { encoding, words: words.join('\n'), score: (words.length === 0 ? 0 : sum / words.length) + likely };
  });
  const ranked = scored.toSorted((a, b) => b.score - a.score);
  const distinct = ranked.filter(({ words }, at) => ranked.findIndex((other) => other.words === words) === at);
  const [first, second] = distinct;
  return {
    encodings: distinct.filter(({ score }) => score > 0 || score === first?.score).map(({ encoding }) => encoding),
    sure: first !== undefined && first.score > 0 && (second === undefined || first.score - second.score >= DOUBT),
  };
}

/** A few words of each reading that not all of them have; of all the same, any. */
export function toldApart(readings: readonly { encoding: string; text: string }[]): ToldReading[] {
  const all = readings.map(({ encoding, text }) => ({ encoding, words: wordsOf(text) }));
  const isTelling = (word: string): boolean => all.filter(({ words }) => words.includes(word)).length < all.length;
  return all.map(({ encoding, words }) => {
    const telling = words.filter(isTelling);
    return { encoding, words: (telling.length > 0 ? telling : words).slice(0, SHOWN_WORDS) };
  });
}
