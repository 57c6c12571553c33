import { bare, EITHER_NAMED, FIRST_NAMED, NOBLE, isParticle, needsCase, properCase } from '../names/index.ts';
import {
  familySigns,
  isFromHongKong,
  isGiven,
  isIberianLast,
  isJapaneseLast,
  isLast,
  isVietnameseLast,
} from './known.ts';

/** Where the words of a name go, titles and suffixes being off; and why that may be wrong. */
export interface Placed {
  first: string;
  middle: string;
  last: string;
  unsure?: string | null;
}

const FAMILY_FIRST = 'it may be written family name first';
const isInitial = (word: string): boolean => /^\p{L}\.?$/u.test(word);
/** `E` and `Y` written large or with a point are initials, written small they join last names. */
const isLoneInitial = (word: string): boolean =>
  isInitial(word) &&
  (word.includes('.') || word === word.toUpperCase()) &&
  word.toUpperCase() !== 'Ó' &&
  !/\p{Lo}/u.test(word);
const opens = (word: string | undefined): boolean => word !== undefined && isParticle(word) && !isLoneInitial(word);

/** A name in a script that is written family name first; null for any other. */
export function placedByScript(text: string): Placed | null {
  const honour = /\s*(?:様|さん|先生|殿|氏|씨|님|女士|小姐)$/u.exec(text);
  const name = honour && honour.index > 0 ? text.slice(0, honour.index) : text;
  // Foreign names are written first name first, with a point between.
  const [foreign = '', ...others] = name.split(/[·・‧•]/u);
  if (others.length > 0 && /^[\p{Script=Han}\p{Script=Katakana}ー]+$/u.test(foreign))
    return { first: foreign, middle: others.slice(0, -1).join(' '), last: others.at(-1) ?? '' };
  if (!/^[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}ー々\s]+$/u.test(name)) return null;
  const [last = '', ...given] = name.split(' ');
  if (given.length > 0) return { last, first: given.join(' '), middle: '' };
  const all = [...last];
  if (all.length < 2 || (honour && isJapaneseLast(last))) return { last, first: '', middle: '' };
  const { signs, sure } = familySigns(last);
  return {
    ...{ last: all.slice(0, signs).join(''), first: all.slice(signs).join(''), middle: '' },
    unsure: sure ? null : 'where the family name ends cannot be told',
  };
}

/** The first and the middle names of words that hold no last name. */
export function givenParts(words: readonly string[], count = firstWords(words)): { first: string; middle: string } {
  return { first: words.slice(0, count).join(' '), middle: words.slice(count).join(' ') };
}

/** How many words the first name has: `Abdul Rahman`, `Abd al-Rahman` and `La Toya` are one. */
function firstWords(words: readonly string[]): number {
  const [first = '', second = ''] = words;
  const father = /^(?:abd|abdul|abdel|abu|abou|umm|عبد|أبو|ابو|أم)-?$/iu.test(first) && second !== '';
  const twoParts =
    /^(?:La|Le|De|Da|Du)$/.test(first) && /^\p{Lu}\p{Ll}/u.test(second) && words.length > 2 && !isParticle(second);
  return father || twoParts ? 2 : Math.min(1, words.length);
}

/** Places the words of a name in the order that they stand, after the titles `title` and before a suffix. */
export function placed(words: readonly string[], title: string, hasSuffix: boolean): Placed {
  const script = placedByScript(words.join(' '));
  if (script) return script;
  const [only = ''] = words;
  if (words.length < 2) return onlyWord(only, title, hasSuffix);
  const turned = familyFirst(words);
  if (turned) return turned;
  const last = words.length - 1;
  // 'de la Cruz', 'Mr. Van Buren': a last name alone.
  const bareLast =
    words.slice(0, last).every(opens) &&
    (title !== '' || (!isGiven(only) && /^(?:\p{Ll}|De|Del|Di|Da|Du|Dos|Van|Von|La|Le|St|San|Santa)/u.test(only)));
  if (bareLast && !(title !== '' && isGiven(only) && !/^(?:van|von|de|la|le|st|san|santa)/i.test(only)))
    return { first: '', middle: '', last: words.join(' ') };
  const religious = ['sister', 'sr', 'brother', 'br', 'mother'].includes(bare(title)) && words.length === 2;
  if (religious && words.every((word) => isGiven(word) && !isLast(word)))
    return { first: words.join(' '), middle: '', last: '' };
  const least = Math.min(firstWords(words), last);
  const from = lastFrom(words, least);
  return { ...givenParts(words.slice(0, from), least), last: words.slice(from).join(' ') };
}

function onlyWord(only: string, title: string, hasSuffix: boolean): Placed {
  const asLast = { first: '', middle: '', last: only };
  const asFirst = { first: only, middle: '', last: '' };
  if (title === '') {
    if (hasSuffix) return asLast;
    return isLast(only) && !isGiven(only)
      ? { ...asLast, unsure: 'a single word may be a first or a last name' }
      : asFirst;
  }
  const name = bare(title.split(' ').at(-1) ?? '');
  if (FIRST_NAMED.has(name)) return asFirst;
  return EITHER_NAMED.has(name) && isGiven(only) && !isLast(only) ? asFirst : asLast;
}

/** Where the last name begins in words of which the first `least` are no part of it. */
function lastFrom(words: readonly string[], least: number): number {
  let from = words.length - 1;
  const at = (place: number): string => words[place] ?? '';
  const takeParticles = (): void => {
    // 'John Ben Smith': Ben is a name between two others.
    while (from > least && opens(at(from - 1)) && !(at(from - 1) === 'Ben' && isGiven(at(0)) && isLast(at(from))))
      from--;
  };
  if (/^(?:neto|filho|sobrinho|júnior)$/iu.test(at(from)) && from > least + 1) from--;
  takeParticles();
  // 'Ramón y Cajal': what joins two last names has one before it too.
  if (from > least && ['y', 'e', 'i'].includes(at(from))) {
    from--;
    takeParticles();
  }
  if (from > least && NOBLE.has(bare(at(from - 1))) && isParticle(at(from))) from--;
  return withFirstOfTwo(words, from, least);
}

/** Where two last names of Spanish or Portuguese begin, such as `García` of `Gabriel García Márquez`. */
function withFirstOfTwo(words: readonly string[], from: number, least: number): number {
  const before = words[from - 1] ?? '';
  const isSecond = isIberianLast(words.at(-1) ?? '') || isParticle(words[from] ?? '');
  if (from <= least || !isIberianLast(before) || !isSecond) return from;
  let start = from - 1;
  while (start > least && opens(words[start - 1])) start--;
  return start;
}

/** Names that are written with the family name first; null for all others. */
function familyFirst(words: readonly string[]): Placed | null {
  const [family = '', ...given] = words;
  const [end, others] = [words.at(-1) ?? '', given.join(' ')];
  const turned = (unsure: string | null = null): Placed => ({ ...givenParts(given), last: properCase(family), unsure });
  // 'YAMADA Taro': one name in capitals is the family's.
  const loud = /^\p{Lu}[\p{Lu}'’-]{2,}$/u.test(family) && /^\p{Lu}\p{Ll}/u.test(others);
  if (loud && !needsCase(words.join(' '))) return turned();
  // 'Smith J.': an initial after a last name.
  if (words.length === 2 && isInitial(end) && isLast(family) && !isGiven(family)) return turned();
  // 'Kim Min-jun': a given name of two, the second written small.
  if (
    words.length === 2 &&
    /^\p{Lu}\p{Ll}+-\p{Ll}+$/u.test(end) &&
    /^\p{Lu}\p{Ll}{0,4}$/u.test(family) &&
    !isGiven(end)
  )
    return turned();
  // 'Nguyễn Văn An'
  if (words.length > 2 && isVietnameseLast(family) && !isVietnameseLast(end)) {
    const marked =
      /[\u0300-\u0323\u031b]/.test(words.join(' ').normalize('NFD')) || /^(?:van|thi)$/i.test(given[0] ?? '');
    if (marked) return { last: family, middle: given.slice(0, -1).join(' '), first: end };
  }
  // 'Wong Kar Wai'
  if (
    words.length === 3 &&
    isFromHongKong(family) &&
    !isGiven(family) &&
    given.every((word) => !isGiven(word) && !isLast(word))
  )
    return { last: family, first: others, middle: '', unsure: FAMILY_FIRST };
  // 'Петров Иван Иванович': a father's name stands last only after the first name.
  if (words.length === 3 && /(?:ович|евич|овна|евна|ична)$/iu.test(end)) return turned();
  return null;
}
