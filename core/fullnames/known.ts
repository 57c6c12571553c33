import {
  de,
  en,
  en_GH,
  en_HK,
  en_IN,
  en_NG,
  es,
  es_MX,
  fr,
  it,
  ja,
  nl,
  pl,
  pt_BR,
  pt_PT,
  sv,
  tr,
  vi,
  yo_NG,
  zh_CN,
  zh_TW,
} from '@faker-js/faker';
import type { LocaleDefinition } from '@faker-js/faker';
import { fold } from '../names/index.ts';

/**
 * Names that are known as first names or as last names. The lists are those of @faker-js/faker, which gathers them from
 * open data, language by language. They settle only what a text leaves open: no name is refused for not being known.
 */
const words = (lists: unknown): string[] =>
  Array.isArray(lists)
    ? lists.filter((word): word is string => typeof word === 'string')
    : lists !== null && typeof lists === 'object'
      ? Object.values(lists).flatMap(words)
      : [];

const namesIn = (kind: 'first_name' | 'last_name', locales: readonly LocaleDefinition[]): Set<string> =>
  new Set(locales.flatMap((locale) => words(locale.person?.[kind]).map(fold)).filter((name) => !name.includes('%')));

const once = <T>(make: () => T): (() => T) => {
  let made: T | undefined;
  return () => (made ??= make());
};

const LATIN = [en, en_IN, en_NG, en_GH, de, es, es_MX, fr, it, nl, pl, pt_BR, pt_PT, sv, tr, yo_NG];
const given = once(() => namesIn('first_name', LATIN));
const last = once(() => namesIn('last_name', [...LATIN, en_HK]));
const iberianGiven = once(() => namesIn('first_name', [es, es_MX, pt_BR, pt_PT]));
const iberianLast = once(() => namesIn('last_name', [es, es_MX, pt_BR, pt_PT]));
const vietnamese = once(() => namesIn('last_name', [vi]));
const chinese = once(() => namesIn('last_name', [zh_CN, zh_TW]));
const japanese = once(() => namesIn('last_name', [ja]));

export const isGiven = (word: string): boolean => given().has(fold(word));
export const isLast = (word: string): boolean => last().has(fold(word));
/** Known as a last name of Spanish or Portuguese, and not as a first name there. */
export const isIberianLast = (word: string): boolean =>
  iberianLast().has(fold(word)) && !iberianGiven().has(fold(word));
const hongKong = once(() => namesIn('last_name', [en_HK]));
export const isFromHongKong = (word: string): boolean => hongKong().has(fold(word));
export const isJapaneseLast = (word: string): boolean => japanese().has(word);
export const isVietnameseLast = (word: string): boolean => vietnamese().has(fold(word));

/** Family names of two signs that the lists lack. */
const LONG_CHINESE = new Set(
  '歐陽 欧阳 司馬 司马 上官 諸葛 诸葛 司徒 慕容 皇甫 令狐 東方 东方 公孫 公孙 尉遲 夏侯 端木 獨孤 南宮'.split(' '),
);
const LONG_KOREAN = new Set('남궁 황보 제갈 사공 선우 서문 독고 동방'.split(' '));

/** How many signs of a name written without a space are the family name, and whether that is certain. */
export function familySigns(text: string): { signs: number; sure: boolean } {
  const signs = [...text];
  const start = (length: number): string => signs.slice(0, length).join('');
  if (/^\p{Script=Hangul}+$/u.test(text))
    return LONG_KOREAN.has(start(2)) && signs.length > 2
      ? { signs: 2, sure: true }
      : { signs: 1, sure: signs.length < 5 };
  const kana = /[\p{Script=Hiragana}\p{Script=Katakana}]/u.exec(text);
  const ofJapan = [3, 2, 1].find((length) => signs.length > length && japanese().has(start(length)));
  if (kana) return { signs: ofJapan ?? Math.max(1, Math.min(2, signs.length - 1)), sure: ofJapan !== undefined };
  if (signs.length > 2 && LONG_CHINESE.has(start(2))) return { signs: 2, sure: true };
  const ofChina = chinese().has(start(1));
  if (signs.length <= 3 && ofChina) return { signs: 1, sure: ofJapan === undefined || ofJapan === 1 };
  if (ofJapan !== undefined) return { signs: ofJapan, sure: true };
  return signs.length === 4 ? { signs: 2, sure: false } : { signs: 1, sure: false };
}
