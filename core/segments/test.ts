import type { Reading, Type } from '../catalogue/index.ts';
import {
  addDays,
  dateOfDay,
  dayNumber,
  describeWindow,
  formatDate,
  isGone,
  isIsoDate,
  spanOf,
} from '../dates/index.ts';
import type { Calendar, DaySpan, Window } from '../dates/index.ts';
import { NO_DAY } from '../facts/index.ts';
import { manyOf } from '../fields/index.ts';
import { formatMoney } from '../money/index.ts';
import type { Formats } from '../money/index.ts';
import { fold, sounds, wordsOf } from '../names/index.ts';
import { counted } from '../words/index.ts';

/**
 * What is asked of a value. Of several values given, one is enough. Texts are compared without regard to capitals and
 * accents; bounds are in cents or plain numbers, both ends included, null for an open end. An empty value passes
 * `empty` alone.
 */
export type Test =
  | { is: 'filled' }
  | { is: 'empty' }
  | { is: 'any-of' | 'contains' | 'begins' | 'sounds'; values: readonly string[] }
  | { is: 'between'; atLeast: number | null; atMost: number | null }
  | { is: 'in'; window: Window };

/** The tests that a type of value can be put to, the first the one that is offered. */
export const TESTS: { [T in Type['is']]: readonly Test['is'][] } = {
  text: ['any-of', 'contains', 'begins', 'sounds', 'filled', 'empty'],
  one: ['any-of', 'filled', 'empty'],
  many: ['any-of', 'filled', 'empty'],
  ref: ['any-of', 'filled', 'empty'],
  number: ['between', 'filled', 'empty'],
  money: ['between', 'filled', 'empty'],
  date: ['in', 'filled', 'empty'],
  birthday: ['in', 'filled', 'empty'],
  yesno: ['any-of'],
};

/** Whether a test of a part is one of which nothing was chosen yet, so that any row will do. */
export const isOpen = (test: Test): boolean => 'values' in test && test.values.length === 0;

/** Whether a test asks about a window that is not kept any more, which nobody meets, turned round or not. */
export const asksGone = (test: Test, calendar: Calendar): boolean => test.is === 'in' && isGone(test.window, calendar);

/** Whether the value in a place passes a test; made once, then asked of many places. */
export function testOf(type: Type, reading: Reading, test: Test, calendar: Calendar): (place: number) => boolean {
  if ('words' in reading) {
    const { words, values } = reading.words;
    const passes = textTest(type, test);
    // Each word is put to the test once, however many have it.
    const ok = Uint8Array.from(words.words, (word) => (passes(word) ? 1 : 0));
    return (place) => ok[values[place] as number] === 1;
  }
  if ('text' in reading) {
    const passes = textTest(type, test);
    const { text } = reading;
    return (place) => passes(text(place));
  }
  if ('kept' in reading) {
    const { kept } = reading;
    const passes = keptTest(type, test, calendar);
    if (test.is === 'empty') return (place) => kept(place).every((value) => value === '');
    return (place) => kept(place).some(passes);
  }
  const { number, codes } = reading;
  const passes = numberTest(type, test, calendar, codes);
  return (place) => passes(number(place));
}

/** A test of codes: which of them pass, and whether those beyond do; 1 where they pass. */
export interface CodeTest {
  values: ArrayLike<number>;
  ok: Uint8Array;
  beyond: 0 | 1;
}

/**
 * The same as a table of codes, where the values are codes that stand in a column: words, references, one of a fixed
 * list, yes and no. Null where they are not. `not` turns it round.
 */
export function codeTestOf(
  type: Type,
  reading: Reading,
  test: Test,
  calendar: Calendar,
  not: boolean,
): CodeTest | null {
  const so = (passes: boolean): 0 | 1 => (passes === not ? 0 : 1);
  if ('words' in reading) {
    const { words, values } = reading.words;
    const passes = textTest(type, test);
    return { values, ok: Uint8Array.from(words.words, (word) => so(passes(word))), beyond: so(false) };
  }
  if (!('column' in reading) || reading.column === undefined) return null;
  if (type.is === 'birthday') {
    const passes = numberTest(type, test, calendar);
    const ok = Uint8Array.from({ length: BIRTHDAYS }, (_, birthday) => so(passes(birthday)));
    return { values: reading.column, ok, beyond: so(false) };
  }
  if (!['ref', 'one', 'yesno'].includes(type.is)) return null;
  // Beyond the codes that are named only these are answered alike.
  if (!['any-of', 'filled', 'empty'].includes(test.is)) return null;
  const { codes, column } = reading;
  const passes = numberTest(type, test, calendar, codes);
  const named = test.is === 'any-of' && !codes ? test.values.map(Number).filter((id) => id < MOST_CODES) : [];
  if (test.is === 'any-of' && !codes && named.length < test.values.length) return null;
  const most = Math.max(1, (codes?.length ?? 0) - 1, ...named);
  const ok = Uint8Array.from({ length: most + 1 }, (_, code) => so(passes(code)));
  return { values: column, ok, beyond: so(passes(most + 1)) };
}
/** Ids above are not tabled. */
const MOST_CODES = 1_000_000;

/** Whether the code in a place passes. */
export const codePasses = ({ values, ok, beyond }: CodeTest, place: number): boolean => {
  const code = values[place] as number;
  return (code < ok.length ? ok[code] : beyond) !== 0;
};

/** A test that all pass who do not pass the other. */
export const turned = ({ values, ok, beyond }: CodeTest): CodeTest => ({
  ...{ values, ok: ok.map((passes) => 1 - passes), beyond: beyond === 0 ? 1 : 0 },
});

/** Who of so many, or of a few of them, passes. */
export function sifted({ values, ok, beyond }: CodeTest, size: number, few?: Uint32Array): Uint32Array {
  const out = new Uint32Array(few?.length ?? size);
  const known = ok.length;
  let many = 0;
  for (let at = 0; at < out.length; at++) {
    const place = few === undefined ? at : (few[at] as number);
    const code = values[place] as number;
    if ((code < known ? ok[code] : beyond) !== 0) out[many++] = place;
  }
  return out.subarray(0, many);
}

/** Whether a figure passes a test; NaN, which is no value, passes none but "empty". */
export function figureTest(type: Type, test: Test, calendar: Calendar): (value: number) => boolean {
  const passes = numberTest(type, test, calendar);
  return test.is === 'empty' ? passes : (value) => !Number.isNaN(value) && passes(value);
}

function textTest(type: Type, test: Test): (value: string) => boolean {
  switch (test.is) {
    case 'filled':
      return (value) => value !== '';
    case 'empty':
      return (value) => value === '';
    case 'any-of': {
      const wanted = new Set(type.is === 'text' ? test.values.map(fold) : test.values);
      return (value) => value !== '' && wanted.has(type.is === 'text' ? fold(value) : value);
    }
    case 'contains': {
      const wanted = test.values.map(fold).filter(Boolean);
      return (value) => {
        const text = fold(value);
        return wanted.some((part) => text.includes(part));
      };
    }
    case 'begins': {
      const wanted = test.values.map(fold).filter(Boolean);
      return (value) => {
        const text = fold(value);
        return wanted.some((part) => text.startsWith(part));
      };
    }
    case 'sounds': {
      const wanted = new Set(test.values.flatMap((value) => wordsOf(value).flatMap(sounds)));
      return (value) => wordsOf(value).some((word) => sounds(word).some((sound) => wanted.has(sound)));
    }
    case 'between':
    case 'in':
      return () => false;
  }
}

/** A value of a field that the organization made, in the form that it is kept in. */
function keptTest(type: Type, test: Test, calendar: Calendar): (value: string) => boolean {
  switch (type.is) {
    case 'many': {
      if (test.is !== 'any-of') return textTest(type, test);
      return (value) => manyOf(value).some((one) => test.values.includes(one));
    }
    case 'number':
    case 'money': {
      const passes = numberTest(type, test, calendar);
      return (value) => passes(value === '' ? NaN : Number(value));
    }
    case 'date': {
      const passes = numberTest(type, test, calendar);
      return (value) => passes(isIsoDate(value) ? dayNumber(value) : NO_DAY);
    }
    default:
      return textTest(type, test);
  }
}

const isEmpty = (type: Type, value: number): boolean =>
  Number.isNaN(value) ||
  (type.is === 'date' ? value === NO_DAY : (type.is === 'ref' || type.is === 'birthday') && value === 0);

function numberTest(type: Type, test: Test, calendar: Calendar, codes?: readonly string[]): (value: number) => boolean {
  switch (test.is) {
    case 'filled':
      return (value) => !isEmpty(type, value);
    case 'empty':
      return (value) => isEmpty(type, value);
    case 'any-of': {
      const [first, ...others] = test.values.map((value) => (codes ? codes.indexOf(value) : Number(value)));
      if (first === undefined) return () => false;
      const empty = type.is === 'ref' ? 0 : NaN;
      if (others.length === 0) return (value) => value === first && value !== empty;
      const wanted = new Set([first, ...others]);
      wanted.delete(empty);
      return (value) => wanted.has(value);
    }
    case 'between': {
      const [low, high] = [test.atLeast ?? -Infinity, test.atMost ?? Infinity];
      return (value) => value >= low && value <= high;
    }
    case 'in': {
      const span = spanOf(test.window, calendar);
      if (type.is === 'birthday') {
        const kept = birthdaysIn(span);
        return (value) => value !== 0 && (kept === null || kept[value] === 1);
      }
      const { from, to } = span;
      return (value) => value !== NO_DAY && value >= from && value <= to;
    }
    case 'contains':
    case 'begins':
    case 'sounds':
      return () => false;
  }
}

/** Birthdays are below. */
const BIRTHDAYS = 13 * 32;

/**
 * The birthdays (month * 32 + day) that are kept on the days of a span, whatever its year; null where all are.
 * 29 February is kept on the 28th in other years.
 */
function birthdaysIn({ from, to }: DaySpan): Uint8Array | null {
  if (to - from >= 365) return null;
  const kept = new Uint8Array(BIRTHDAYS);
  const place = (date: string): number => Number(date.slice(5, 7)) * 32 + Number(date.slice(8));
  for (let day = from; day <= to; day++) {
    const date = dateOfDay(day);
    kept[place(date)] = 1;
    if (date.endsWith('02-28') && addDays(date, 1).endsWith('03-01')) kept[2 * 32 + 29] = 1;
  }
  return kept;
}

/** What words about a test need. */
export interface Telling {
  calendar: Calendar;
  formats: Formats;
  nameOf: (to: Extract<Type, { is: 'ref' }>['to'], id: number) => string;
}

/** A value of a type as it is written: `$500.00`, `3/14/2026`, `Dark Ground`. */
export function showValue(type: Type, value: string | number, { formats, nameOf }: Telling): string {
  switch (type.is) {
    case 'money':
      return formatMoney(Number(value), formats);
    case 'number':
      return type.unit === undefined ? String(value) : counted(Number(value), type.unit);
    case 'date':
      return formatDate(typeof value === 'number' ? dateOfDay(value) : value, formats);
    case 'ref':
      return nameOf(type.to, Number(value));
    case 'one':
    case 'many':
      return type.options[String(value)] ?? String(value);
    case 'yesno':
      return value === 1 || value === '1' ? type.yes : type.no;
    case 'birthday': {
      const number = Number(value);
      return formatDate(
        `2000-${String(number >> 5).padStart(2, '0')}-${String(number & 31).padStart(2, '0')}`,
        formats,
      ).replace(/[^\d]*2000[^\d]*/, '');
    }
    case 'text':
      return String(value);
  }
}

/** The values in a place as they are written; empty where there is none. */
export function showAt(type: Type, reading: Reading, place: number, telling: Telling): string {
  if ('words' in reading) return shown(type, reading.words.at(place), telling);
  if ('text' in reading) return reading.text(place);
  if ('kept' in reading)
    return reading
      .kept(place)
      .flatMap((value) => (type.is === 'many' ? manyOf(value) : [value]))
      .map((value) => shown(type, value, telling))
      .join(', ');
  const value = reading.number(place);
  if (isEmpty(type, value)) return '';
  return showValue(type, reading.codes?.[value] ?? value, telling);
}
const shown = (type: Type, value: string, telling: Telling): string =>
  value === '' ? '' : showValue(type, value, telling);

/** `is at least $500.00`, `does not contain “x”`: what is asked, after the name of what is asked about. */
export function describeTest(type: Type, test: Test, telling: Telling, not = false): string {
  const show = (value: string | number): string => showValue(type, value, telling);
  const quoted = (values: readonly string[]): string => values.map((value) => `“${value}”`).join(' or ') || 'nothing';
  const is = not ? 'is not' : 'is';
  switch (test.is) {
    case 'filled':
      return not ? 'is empty' : 'is filled in';
    case 'empty':
      return not ? 'is filled in' : 'is empty';
    case 'any-of':
      return `${is} ${anyWords(type, test.values, telling)}`;
    case 'contains':
      return `${not ? 'does not contain' : 'contains'} ${quoted(test.values)}`;
    case 'begins':
      return `${not ? 'does not begin' : 'begins'} with ${quoted(test.values)}`;
    case 'sounds':
      return `${not ? 'does not sound' : 'sounds'} like ${quoted(test.values)}`;
    case 'between':
      return `${is} ${betweenWords(test.atLeast, test.atMost, show) || 'anything'}`;
    case 'in':
      return `${is} ${describeWindow(test.window, telling.calendar, telling.formats)}`;
  }
}

/** `Dark Ground or Telescope Van`. */
export const anyWords = (type: Type, values: readonly string[], telling: Telling): string =>
  values.map((value) => showValue(type, value, telling)).join(' or ') || 'nothing';

/** `at least $5.00 and at most $10.00`, `exactly 3`; empty where neither bounds. */
export function betweenWords(least: number | null, most: number | null, show: (value: number) => string): string {
  if (least !== null && least === most) return `exactly ${show(least)}`;
  return [least === null ? '' : `at least ${show(least)}`, most === null ? '' : `at most ${show(most)}`]
    .filter(Boolean)
    .join(' and ');
}

const UPSIDE_DOWN = 'the least is more than the most';
const ENDS_FIRST = 'it ends before it begins';

/** Why no value can pass a test, in words, or null. */
export function faultOf(test: Test): string | null {
  if (test.is === 'between') return above(test.atLeast, test.atMost) ? UPSIDE_DOWN : null;
  if (test.is === 'in') return isBackwards(test.window) ? ENDS_FIRST : null;
  return null;
}

export const isBackwards = (window: Window): boolean => window.kind === 'between' && above(window.from, window.to);

/** Whether a lower bound lies above an upper one. */
export const above = <T extends number | string>(low: T | null, high: T | null): boolean =>
  low !== null && high !== null && low > high;
