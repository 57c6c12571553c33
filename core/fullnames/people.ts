import { casedTitle, needsCase } from '../names/index.ts';
import { isGiven, isLast } from './known.ts';
import { AFTER_TITLES, bare, BEFORE_TITLES, FIRST_NAMED, JOINS, PLURAL_TITLES, TITLES } from '../names/index.ts';
import { isTurned, oneSpace, splitName } from './split.ts';
import type { ReadName } from './split.ts';

/** Joins that also stand inside a last name: `Ramón y Cajal`. */
const INNER_JOINS = new Set(['y', 'e', 'i', 'en']);
/** First names that often have a second one with them: `Mary Ann and John Smith`. */
const OPENS_TWO = new Set(
  'mary john anna ana jean jose maria juan luis peggy betty bobby billy jim sarah norma martha rose carol barbara terry hans karl laura'.split(
    ' ',
  ),
);
const COMPANY =
  /^(?:(?:his|her|their)\s+)?(?:family|wife|husband|spouse|partner|guest|children|kids|familie|familia|famille)$/i;

const isTitleWord = (word: string): boolean =>
  [TITLES, BEFORE_TITLES, AFTER_TITLES, PLURAL_TITLES].some((words) => words.has(bare(word))) &&
  !SUFFIX_ONLY.has(bare(word));
const SUFFIX_ONLY = new Set(['ii', 'iii']);
const words = (text: string): string[] => text.split(' ').filter(Boolean);
/** The words of a text that are names, without the titles before them. */
const names = (text: string): string[] => {
  const all = words(text);
  while (all.length > 0 && isTitleWord(all[0] ?? '')) all.shift();
  return all;
};
const person = (name: ReadName, over: Partial<ReadName> = {}): ReadName => ({ ...name, ...over });

/**
 * Splits the names of one or more people written together: `Mr. and Mrs. John Smith`, `John & Jane Smith`, `SMITH, JOHN
 * AND JANE`, `Dr. Ana Cruz and Mr. Lee Park`, `Drs. Smith`. A last name said once is everyone's.
 */
export function splitPeople(text: string): ReadName[] {
  const clean = oneSpace(text.slice(0, 300))
    .replace(/(?<=\p{L}{2})\s*([/+&])\s*(?=\p{L}{2})/gu, ' $1 ')
    .replace(/\band\s*\/\s*or\b/gi, 'or')
    .replace(/^eheleute\s+/i, '')
    .replace(/^the\s+(?=(?:drs|revs|profs|misses|messrs)\b)/i, '');
  if (/;/.test(clean)) {
    const parts = clean
      .split(';')
      .map((part) => part.trim())
      .filter(Boolean);
    if (parts.length > 1) return parts.flatMap(splitPeople);
  }
  const listed = clean.split(/,\s*/);
  if (listed.length > 1 && listed.every(isWholePerson)) return listed.flatMap(splitPeople);
  // 'M.' is a title beside 'Mme', and an initial else.
  const sir = /^m\.?(?=\s.*\bet\s+(?:mme|mlle|madame)\b)/i.exec(clean)?.[0];
  if (sir !== undefined) {
    const [first, ...others] = splitPeople(clean.replace(sir, 'Monsieur'));
    return first ? [{ ...first, prefix: first.prefix.replace('Monsieur', 'M.') }, ...others] : [];
  }
  const all = words(clean);
  const plural = PLURAL_TITLES.get(bare(all[0] ?? ''));
  const join = joinIn(all);
  if (join < 0) {
    if (plural === undefined || all.length < 2 || bare(all[0] ?? '') === 'mm') return [splitName(clean)];
    const one = splitName(`${plural} ${all.slice(1).join(' ')}`);
    return [one, { ...one, first: '', middle: '', nickname: '' }];
  }
  const left = all.slice(0, join).join(' ').replace(/,$/, '');
  const right = all.slice(join + 1).join(' ');
  if (plural !== undefined) return withOneTitle(plural, words(left).slice(1).join(' '), right);
  if (COMPANY.test(right)) return [person(splitName(left), { aside: `and ${right}` })];
  const several = left.split(/,\s*/);
  // 'Tom, Mary and Ann Hale'
  if (several.length > 1 && several.every((one) => isGiven(one) && !isLast(one)) && names(right).length > 1) {
    const end = splitPeople(right);
    return [...several.map((one) => person(splitName(one), { first: one, last: end[0]?.last ?? '' })), ...end];
  }
  if (isTurned(left)) {
    const [last = '', ...given] = left.split(',');
    if (right.includes(',') && isTurned(right)) return [splitName(left), ...splitPeople(right)];
    return splitPeople(`${given.join(',').trim()} and ${right} ${last}`);
  }
  // 'Mr. and Mrs. John Smith': the first name is the first person's; 'Mr. and Mrs. John and Jane Smith' names both.
  if (names(left).length === 0) return titledPair(left, right);
  return namedPair(left, right);
}

/** A title and a name, or a first and a last name. */
const isWholePerson = (text: string): boolean => {
  const own = names(text);
  return (
    own.length > 0 &&
    (own.length < words(text).length ||
      (own.length > 1 && isGiven(own[0] ?? '') && !isTurned(text) && joinIn(words(text)) < 0))
  );
};

/** Where two people are joined, or -1. */
function joinIn(all: readonly string[]): number {
  const shouted = needsCase(all.join(' '));
  return all.findIndex((word, at) => {
    if (at === 0 || at === all.length - 1) return false;
    const plain = word.toLowerCase();
    if (!JOINS.some((join) => join === plain)) return false;
    if (!INNER_JOINS.has(plain)) return true;
    if (word !== plain && !shouted) return false;
    const [left, right] = [all.slice(0, at), all.slice(at + 1)];
    const [before, after] = [names(left.join(' ')), names(right.join(' '))];
    if (before.length === 0 || after.length < right.length) return true;
    if (after.length === 1) return before.length === 1 && isGiven(before[0] ?? '') && isGiven(after[0] ?? '');
    return before.length === 1 || isGiven(after[0] ?? '');
  });
}

/** `Drs. John and Mary Smith`, and `Messrs. Smith and Jones`, where single words are last names. */
function withOneTitle(title: string, left: string, right: string): ReadName[] {
  if (words(left).length === 1 && words(right).length === 1)
    return [left, right].map((last) => splitName(`${title} ${last}`));
  return namedPair(left, right).map((one) => ({ ...one, prefix: one.prefix || title }));
}

function titledPair(left: string, right: string): ReadName[] {
  const titled = words(right);
  const count = titled.length - names(right).length;
  const rest = titled.slice(count).join(' ');
  const spouse = titled.slice(0, count).join(' ');
  if (count > 0 && joinIn(words(rest)) > 0) {
    const [first, second, ...more] = splitPeople(rest);
    if (first && second) return [{ ...first, prefix: left }, { ...second, prefix: spouse }, ...more];
  }
  const alone = names(right).length === 1;
  const read = splitName(right);
  // 'Dr. and Mrs. Hale': one name is the last name of both.
  const second = alone ? person(read, { first: '', last: read.last || read.first }) : read;
  const title = (text: string): string => (needsCase(right) ? words(text).map(casedTitle).join(' ') : text);
  const prefix = title(left.replace(/\s*\(ret\.?\)/i, ''));
  const suffix = !/\(ret\.?\)/i.test(left) ? second.suffix : [second.suffix, 'Ret.'].filter(Boolean).join(', ');
  const first = rest === '' ? splitName(`${left} ${right}`) : second;
  return [
    person(first, { prefix, suffix }),
    person(second, { first: '', middle: '', suffix: '', nickname: '', formerLast: '', aside: '', last: first.last }),
  ];
}

function namedPair(left: string, right: string): ReadName[] {
  const [first, ...others] = [splitName(left), ...splitPeople(right)];
  const second = others[0];
  if (!first || !second) return [splitName(left)];
  const [before, after] = [names(left.split(',')[0] ?? ''), names(right.split(',')[0] ?? '')];
  // 'John Smith and Mrs.'
  if (after.length === 0) return [first, person(second, { prefix: right, first: '', last: first.last })];
  // 'John Smith and Jane': what is said after a whole name is a first name.
  if (after.length === 1 && before.length > 1 && second.prefix === '') {
    const [one = '', two = ''] = before;
    // 'Hale Robert & Susan': of two, the one that is no last name is a first name.
    const turned = before.length === 2 && isGiven(two) && !isLast(two) && !isGiven(one);
    const known = turned ? person(first, { first: first.last, last: first.first }) : first;
    return [known, person(second, { first: second.first || second.last, last: known.last })];
  }
  if (after.length === 1 && before.length === 1 && second.prefix === '' && first.prefix === '') {
    const given = isGiven(before[0] ?? '') && isGiven(after[0] ?? '');
    const unsure = 'two single words may be first names, last names or a firm';
    const one = (name: string): Partial<ReadName> =>
      given ? { first: name, last: '', unsure } : { first: '', last: name, unsure };
    return [person(first, one(before[0] ?? '')), person(second, one(after[0] ?? '')), ...others.slice(1)];
  }
  return [person(first, sharing(first, before, second)), ...others];
}

/** What of a first person's name is to be read otherwise, since the last name may be said with the second only. */
function sharing(first: ReadName, before: readonly string[], second: ReadName): Partial<ReadName> {
  const [one = '', two = ''] = before;
  if (before.length === 1) {
    const asLast =
      second.first === ''
        ? !FIRST_NAMED.has(bare(first.prefix)) && first.prefix !== ''
        : isLast(one) && !isGiven(one) && first.prefix !== '';
    return asLast ? { first: '', last: one } : { first: properOf(first, one), last: second.last };
  }
  const initials = before.slice(1).every((word) => /^\p{L}\.?$/u.test(word));
  const twoGiven =
    before.length === 2 &&
    OPENS_TWO.has(one.toLowerCase()) &&
    isGiven(two) &&
    !isLast(two) &&
    first.last !== second.last;
  if (!initials && !twoGiven) return {};
  return {
    ...(twoGiven
      ? { first: `${first.first} ${first.last}` }
      : { middle: [first.middle, first.last].filter(Boolean).join(' ') }),
    last: second.last,
    unsure: twoGiven ? `“${two}” may be a last name` : first.unsure,
  };
}

/** A single word as it was read, first or last. */
const properOf = (name: ReadName, word: string): string => name.first || name.last || word;
