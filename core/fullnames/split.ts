import {
  AFTER_TITLES,
  bare,
  BEFORE_TITLES,
  DOUBTFUL,
  NUMBERED_RANK,
  ROLES,
  SUFFIXES,
  TITLES,
  casedTitle,
  needsCase,
  properCase,
} from '../names/index.ts';
import { isGiven } from './known.ts';
import { givenParts, placed, placedByScript } from './place.ts';
import type { Placed } from './place.ts';

/** One person's name as it was split; parts that are absent are empty strings. */
export interface SplitName {
  prefix: string;
  first: string;
  middle: string;
  last: string;
  suffix: string;
  nickname: string;
  /** The last name borne before, of `née Hall`. */
  formerLast: string;
}

/** A name that was split, with what was left out of it (`c/o Jo Park`) and why it may be split wrongly. */
export interface ReadName extends SplitName {
  aside: string;
  unsure: string | null;
}

const NOBODY: SplitName = { prefix: '', first: '', middle: '', last: '', suffix: '', nickname: '', formerLast: '' };
const TOO_LONG = 300;

export const oneSpace = (text: string): string => text.normalize('NFC').replace(/\s+/g, ' ').trim();

/**
 * Splits a full name as people and files write it: `Dr. Ana-María de la Cruz-Smith, Jr.`, `SMITH, JOHN Q`,
 * `William "Bill" O'Neill`, `李小龍`. Names all in capitals or all in small letters are written as names are. A single
 * word is a first name, or a last name after a prefix. Where a first and a last name leave words between them, those are
 * middle names, but for two last names of Spanish or Portuguese.
 */
export function splitName(text: string): ReadName {
  const apart = setApart(oneSpace(text.slice(0, TOO_LONG)).replace(/^["“]([^"”]+)["”]$/u, '$1'));
  const script = placedByScript(apart.plain);
  const split: Parts = script ? { ...script, prefix: '', suffix: '' } : latinName(apart.plain);
  const cased = needsCase(apart.plain) ? recased(split) : split;
  const prefix = [cased.prefix, apart.title].filter(Boolean).join(' ');
  const suffix = [cased.suffix, writtenSuffixes(apart.suffixes)].filter(Boolean).join(', ');
  const { unsure = null } = split;
  return {
    ...NOBODY,
    ...cased,
    prefix,
    suffix,
    nickname: apart.nickname,
    formerLast: apart.formerLast,
    aside: [apart.aside, split.aside].filter(Boolean).join('; '),
    unsure,
  };
}

interface Apart {
  plain: string;
  title: string;
  suffixes: string[];
  nickname: string;
  formerLast: string;
  aside: string;
}

/** What brackets hold that nobody is called. */
const A_REMARK =
  /\b(?:board|staff|volunteer|trustee|member|spouse|wife|husband|guest|donor|chair|owner|vendor|vip|minor|business|home|work|anonymous|new|old|dup|duplicate|widow(?:er)?|parent|mother|father|friend)\b|\d/i;
/** Whether what stands in brackets is a remark: by its words, or since it is several that are no first names. */
const isRemark = (text: string): boolean =>
  A_REMARK.test(text) || (text.includes(' ') && !text.split(' ').every((word) => isGiven(word)));

/** Takes off what stands beside a name: the way to whom, a former name, what the bearer is called, words in brackets. */
function setApart(text: string): Apart {
  const apart: Apart = { plain: text, title: '', suffixes: [], nickname: '', formerLast: '', aside: '' };
  const take = (pattern: RegExp, keep: (found: RegExpExecArray) => void): void => {
    const found = pattern.exec(apart.plain);
    if (!found) return;
    const plain = oneSpace(`${apart.plain.slice(0, found.index)} ${apart.plain.slice(found.index + found[0].length)}`);
    apart.plain = plain
      .replace(/ ,/g, ',')
      .replace(/^[,;]\s*|[,;]$/g, '')
      .trim();
    keep(found);
  };
  const aside = (said: string): void => void (apart.aside = [apart.aside, said.trim()].filter(Boolean).join('; '));
  take(/^(?:attn|attention|att|z\. ?hd|zu händen|a la atención de)\b\.?:?\s*/iu, () => {});
  take(/^(?:c\/o|℅|care of)\b:?\s*/iu, () => {});
  take(/[,;(–-]?\s*(?:\bc\/o|℅|\bcare of|\battn\b|\battention\b)[:.]?\s*.+$/iu, ([all]) =>
    aside(all.replace(/^[,;(–-]\s*|\)$/g, '')),
  );
  take(/^the late\s+/i, () => aside('the late'));
  take(/\s*\((?:deceased|dec\.?|dcsd\.?|†|she\/her|he\/him|they\/them)\)|\s*†/iu, ([all]) =>
    aside(all.replace(/[()]/g, '')),
  );
  // 'USA (Ret.)': the service that one retired from.
  take(
    /[,\s]+((?:U\.?S\.?(?:A\.?F?|N|M\.?C|C\.?G)\.?|US (?:Army|Navy|Air Force|Marine Corps|Coast Guard)))[,\s]*\(?(ret|rtd|retired)\.?\)?/iu,
    ([, service = '']) => {
      apart.suffixes.push(service, 'Ret.');
    },
  );
  take(/[,\s]*\((?:ret|rtd|retired)\.?\)/iu, () => apart.suffixes.push('Ret.'));
  take(
    /[,(]?\s*(?:\b(?:née|nee|né|born|formerly|fka|f\/k\/a|geb\.|geborene|nata|z domu)\s+)([^,()]+)\)?/iu,
    ([, name = '']) => {
      const words = name.trim().split(' ');
      // 'Ada née Lark Finch': the last name that she has now comes after it.
      if (words.length > 1 && !apart.plain.includes(' ')) apart.plain = `${apart.plain} ${words.pop() ?? ''}`.trim();
      apart.formerLast = words.length > 1 ? splitName(words.join(' ')).last : (words[0] ?? '');
    },
  );
  take(
    /[,(]?\s*\b(?:aka|a\.k\.a\.|a\/k\/a|also known as|called|goes by)\s+["“]?([^,()"”]+)["”]?\)?/iu,
    ([, name = '']) => {
      apart.nickname = name.trim();
    },
  );
  take(
    /["“”„«]([^"“”„«»]+)["“”»]|[(（[]([^)）\]]+)[)）\]]|(?<=^|\s)['‘]([^'’]+)['’](?=[\s,]|$)/u,
    ({ index, input, 0: { length }, 1: quoted, 2: bracketed, 3: single }) => {
      const inside = (quoted ?? bracketed ?? single ?? '').trim();
      if (inside.split(/[ ,]+/).every((word) => SUFFIXES.has(bare(word))))
        apart.suffixes.push(...inside.split(/[ ,]+/));
      else if (inside.split(' ').every((word) => TITLES.has(bare(word)))) apart.title = inside;
      // 'Finch (Lark), Ada': beside a last name stands another.
      else if (
        /^\S+\s*$/.test(input.slice(0, index)) &&
        /^\s*,\s*\p{L}/u.test(input.slice(index + length)) &&
        !isGiven(inside)
      )
        apart.formerLast ||= inside;
      else if (bracketed !== undefined && isRemark(inside)) aside(inside);
      else apart.nickname ||= inside;
    },
  );
  if (apart.nickname !== '' && needsCase(apart.nickname) && needsCase(text))
    apart.nickname = properCase(apart.nickname);
  if (apart.formerLast !== '' && needsCase(apart.formerLast)) apart.formerLast = properCase(apart.formerLast);
  return apart;
}

type Parts = Placed & Pick<SplitName, 'prefix' | 'suffix'> & { aside?: string };

function latinName(text: string): Parts {
  const { words, suffix, turned, titles, aside } = inOrder(text);
  const prefix = [...takeTitles(words, turned === '' ? 1 : 0), ...titles];
  const cardinal = words.findIndex((word, at) => at > 0 && at < words.length - 1 && bare(word) === 'cardinal');
  if (cardinal > 0) prefix.push(...words.splice(cardinal, 1));
  const parts =
    turned !== ''
      ? { last: turned, ...givenParts(words) }
      : placed(words, prefix.join(' '), suffix !== '' && !/^[IVX]+$/.test(suffix));
  return { prefix: prefix.join(' '), suffix, ...parts, aside };
}

const isTitle = (word: string): boolean => TITLES.has(bare(word)) || NUMBERED_RANK.test(bare(word));

/** Takes the titles off the start of `words`, leaving at least `least` of them. */
function takeTitles(words: string[], least: number): string[] {
  const taken: string[] = [];
  while (words.length > least) {
    const [word = '', next = ''] = words;
    const name = bare(word);
    const more = taken.length > 0 && AFTER_TITLES.has(name) && (words.length > least + 1 || least === 0);
    const leads = BEFORE_TITLES.has(name) && words.length > 2 && (isTitle(next) || leadsTitle(words));
    const numbered = taken.length > 0 && /^\d(?:st|nd|rd)?$/i.test(word);
    if (!isTitle(word) && !more && !leads && !numbered) break;
    // 'Ms' and the like after a name that is done, and ranks of two letters that are initials.
    if (NUMBERED_RANK.test(name) && !TITLES.has(name) && !/\d/.test(word)) break;
    taken.push(word);
    words.shift();
    if (taken.length > 6) break;
  }
  // What is left must be a name: 'Bishop' alone, and 'Rev. Judge', are people too.
  if (words.length === 0 && taken.length > 0 && least > 0) words.unshift(taken.pop() ?? '');
  return taken;
}

/** `His Most Rev. …`: words that open a title and lead to one. */
function leadsTitle(words: readonly string[]): boolean {
  const at = words.findIndex((word) => !BEFORE_TITLES.has(bare(word)) && !AFTER_TITLES.has(bare(word)));
  return at > 0 && at < words.length - 1 && isTitle(words[at] ?? '');
}

interface Ordered {
  words: string[];
  suffix: string;
  /** The last name of `Last, First`. */
  turned: string;
  /** Titles that stand after the name. */
  titles: string[];
  /** What the bearer is to a gift or an account. */
  aside: string;
}

/** The words in the order first to last, the suffixes apart. */
function inOrder(text: string): Ordered {
  const shouted = needsCase(text);
  const [head = '', ...rest] = text
    .split(/[,，、]/u)
    .map((segment) => segment.trim())
    .filter(Boolean);
  const names = head.split(' ');
  const own = trailingSuffixes(names, rest.length > 0 ? 1 : 2, shouted);
  const whole = isWhole(names);
  const [suffixes, titles, given, roles]: [string[], string[], string[], string[]] = [[], [], [], []];
  for (const segment of rest) {
    const words = segment.split(' ');
    const joined = words.join('');
    if (words.every((word) => isSuffix(word, whole || given.length > 0, shouted))) suffixes.push(...words);
    else if (words.length > 1 && SUFFIXES.has(bare(joined))) suffixes.push(joined);
    else if ((whole || given.length > 0) && words.every((word) => ROLES.has(bare(word)) || word === '&'))
      roles.push(segment);
    else if (words.every(isTitle) && (whole || given.length > 0 || rest.length > 1)) titles.push(...words);
    else given.push(...words);
  }
  const trailing = given.length > 0 ? trailingSuffixes(given, 1, shouted) : [];
  const ordered = { suffix: writtenSuffixes([...own, ...trailing, ...suffixes]), aside: roles.join('; ') };
  if (given.length > 0) return { ...ordered, words: given, turned: names.join(' '), titles };
  // 'Whitfield, MD' leaves one word, and that is a last name.
  if (names.length === 1 && suffixes.length > 0) return { ...ordered, words: [], turned: head, titles };
  return { ...ordered, words: names, turned: '', titles };
}

/** Whether a text is written last name first: `Smith, John`. */
export const isTurned = (text: string): boolean =>
  text.includes(',') && inOrder(text).turned !== '' && !/^[^,]+,\s*$/.test(text);

/** Whether words are a whole name, so that what comes after a comma is none: a title and a name, or a first and a last. */
function isWhole(words: readonly string[]): boolean {
  const names = [...words];
  const titled = takeTitles(names, 1).length > 0;
  if (names.length < 2) return false;
  return titled || isGiven(names[0] ?? '') || names.some((word, at) => at > 0 && /^\p{L}\.?$/u.test(word));
}

/** Whether a word after a comma stands after a name: known as that, or written as letters that name none. */
function isSuffix(word: string, whole: boolean, shouted: boolean): boolean {
  const name = bare(word);
  if (SUFFIXES.has(name)) return !DOUBTFUL.has(name) || whole || word.includes('.');
  if (shouted || !whole) return false;
  const letters = word.replace(/[.()]/g, '');
  return (
    /^[\p{Lu}\d/&-]{2,9}$/u.test(letters) ||
    (/^(?:\p{Lu}\p{Ll}{0,2}){2,4}$/u.test(letters) && /\p{Lu}$|D$|S$/u.test(letters) && !isGiven(letters))
  );
}

/** Takes suffixes off the end of `words`, leaving at least `least` of them. */
function trailingSuffixes(words: string[], least: number, shouted: boolean): string[] {
  const taken: string[] = [];
  for (
    let word = words.at(-1);
    word !== undefined && words.length > (/^[IVX]{2,4}$/.test(word) ? 1 : least);
    word = words.at(-1)
  ) {
    const name = bare(word);
    if (
      ['third', 'second', 'fourth', '2nd', '3rd', '4th'].includes(name) &&
      bare(words.at(-2) ?? '') === 'the' &&
      words.length > least + 1
    ) {
      taken.unshift({ second: 'II', third: 'III', fourth: 'IV' }[name] ?? word);
      words.splice(-2);
      continue;
    }
    if (word === 'I' && words.length > 2 && !shouted) {
      taken.unshift(words.pop() ?? '');
      continue;
    }
    if (!SUFFIXES.has(name)) break;
    const marked = word.includes('.') || (word.length > 1 && word === word.toUpperCase() && !shouted);
    if (DOUBTFUL.has(name) && !(marked || (name === 'v' && words.length > 2 && word === 'V'))) break;
    if (name === 'v' && word.includes('.')) break;
    taken.unshift(word);
    words.pop();
  }
  return taken;
}

export const writtenSuffixes = (suffixes: readonly string[]): string =>
  suffixes.map((suffix) => SUFFIXES.get(bare(suffix)) ?? suffix.replace(/[()]/g, '')).join(', ');

function recased(name: Parts): Parts {
  return {
    ...name,
    prefix: name.prefix
      .split(' ')
      .map((word) => (word === '' ? '' : casedTitle(word)))
      .join(' '),
    first: properCase(name.first),
    middle: properCase(name.middle),
    last: properCase(name.last),
  };
}
