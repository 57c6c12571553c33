import { addDays, addMonths, isoDate, parseDate } from './calendar.ts';
import type { IsoDate, ParsedDate } from './calendar.ts';

export type DateOrder = 'mdy' | 'dmy';

/** Whether a locale writes the month or the day first: `mdy` for `en-US`, `dmy` for `en-GB`. */
export function orderOf(locale: string): DateOrder {
  const parts = new Intl.DateTimeFormat(locale).formatToParts(new Date(Date.UTC(2026, 2, 14)));
  const at = (type: string): number => parts.findIndex((part) => part.type === type);
  return at('month') < at('day') ? 'mdy' : 'dmy';
}

const UNITS: Readonly<Record<string, (from: IsoDate, by: number) => IsoDate>> = {
  d: addDays,
  w: (from, by) => addDays(from, 7 * by),
  m: addMonths,
  y: (from, by) => addMonths(from, 12 * by),
};
const NAMED: Readonly<Record<string, (today: IsoDate) => IsoDate>> = {
  today: (today) => today,
  t: (today) => today,
  yesterday: (today) => addDays(today, -1),
  tomorrow: (today) => addDays(today, 1),
  eom: (today) => addMonths(today, 0, 31),
  bom: (today) => `${today.slice(0, 8)}01`,
  eoy: (today) => `${today.slice(0, 4)}-12-31`,
  boy: (today) => `${today.slice(0, 4)}-01-01`,
};

/**
 * Reads a date as people type it in a form: all that `parseDate` reads, and `today`, `yesterday`, `tomorrow`, `+30` and
 * `-7` days, `+2w`, `+3m`, `-1y`, the end and beginning of this month and year (`eom`, `bom`, `eoy`, `boy`), and a day
 * without its year (`3/14`, `mar 14`, `14.3.`), which is then the one nearest to today.
 */
export function typedDate(text: string, today: IsoDate, order: DateOrder = 'mdy'): ParsedDate {
  const clean = text.trim().toLowerCase();
  const named = NAMED[clean];
  if (named) return { ok: true, date: named(today) };
  const moved = /^([+-])\s*(\d{1,4})\s*([dwmy]?)$/.exec(clean);
  if (moved) {
    const by = Number(moved[2]) * (moved[1] === '-' ? -1 : 1);
    return parseDate((UNITS[moved[3] || 'd'] ?? addDays)(today, by));
  }
  return nearest(clean, today, order) ?? parseDate(text, order);
}

const LEAP_YEAR = 2024;

/** A day without its year, in the year that brings it closest to today; null for any other text. */
function nearest(text: string, today: IsoDate, order: DateOrder): ParsedDate | null {
  const numbers = /^(\d{1,2})(?:[/-](\d{1,2})|\.(\d{1,2})\.?)$/.exec(text);
  const worded = /^(?:\d{1,2}\.?\s*[a-z]{3,9}|[a-z]{3,9}\.?\s*\d{1,2}(?:st|nd|rd|th)?)$/.test(text);
  if (!numbers && !worded) return null;
  const dayFirst = numbers?.[3] !== undefined || order === 'dmy';
  const [first, second] = [Number(numbers?.[1]), Number(numbers?.[2] ?? numbers?.[3])];
  const [month, day] = dayFirst ? [second, first] : [first, second];
  const thisYear = Number(today.slice(0, 4));
  const spaced = text.replace(/^(\d{1,2}\.?)(?=[a-z])/, '$1 ').replace(/^([a-z]+\.?)(?=\d)/, '$1 ');
  const inYear = (year: number): IsoDate | null => {
    if (numbers) return isoDate(year, month, day);
    const read = parseDate(`${spaced} ${year}`);
    return read.ok ? read.date : null;
  };
  const dates = [thisYear - 1, thisYear, thisYear + 1].map(inYear).filter((date) => date !== null);
  const far = (date: IsoDate): number => Math.abs(Date.parse(date) - Date.parse(today));
  const [best] = dates.toSorted((a, b) => far(a) - far(b));
  if (best !== undefined) return { ok: true, date: best };
  if (inYear(LEAP_YEAR) === null) return null;
  return { ok: false, reason: `“${text}” is not a day of these years; write the year with it.` };
}
