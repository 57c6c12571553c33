import { TZDate } from '@date-fns/tz';
import {
  addDays as daysOn,
  addMonths as monthsOn,
  formatISO,
  getDay,
  getDaysInMonth,
  isExists,
  parseISO,
  setDate,
  startOfMonth,
} from 'date-fns';

/** A calendar date `YYYY-MM-DD` without a zone. */
export type IsoDate = string;
/** Days since 1970-01-01; the form dates take in facts. */
export type DayNumber = number;

export type ParsedDate = { ok: true; date: IsoDate } | { ok: false; reason: string };

const DAY_MS = 86_400_000;
const MONTHS = [
  ...['january', 'february', 'march', 'april', 'may', 'june'],
  ...['july', 'august', 'september', 'october', 'november', 'december'],
];

export function daysInMonth(year: number, month: number): number {
  return getDaysInMonth(new Date(year, month - 1));
}

/** `isoDate(2026, 2, 30)` is null: there is no such day. Years from 1000 to 9999. */
export function isoDate(year: number, month: number, day: number): IsoDate | null {
  if (!(year >= 1000 && year <= 9999 && month >= 1 && month <= 12)) return null;
  if (!isExists(year, month - 1, day)) return null;
  return `${year}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
}

export function isIsoDate(text: string): boolean {
  const parts = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text);
  return parts !== null && isoDate(Number(parts[1]), Number(parts[2]), Number(parts[3])) !== null;
}

/** Whether a day is one that an organisation, its people and its plans can have: in the years from 1800 to 2199. */
export const isPlausible = (date: IsoDate): boolean => date >= '1800' && date < '2200';

/**
 * Reads a date as people and files write it: ISO, `2026/3/14`, `20260314`, `3/14/2026`, `14.03.2026` (dots are always
 * day first), `14 Mar 2026`, `14-Mar-26`, `March 14, 2026`; of an instant its date as it is written, of `Sat, 14 March
 * 2026` all but the day of the week. `order` settles slashes and dashes.
 */
export function parseDate(text: string, order: 'mdy' | 'dmy' = 'mdy'): ParsedDate {
  const clean = text.trim();
  if (clean === '') return { ok: false, reason: 'The date is missing.' };
  const built = datePartsOf(clean, order);
  if (built === null) return { ok: false, reason: `“${clean}” is not a date; write it as 2026-03-14.` };
  const date = isoDate(...built);
  if (date === null) return { ok: false, reason: `“${clean}” is not a day in the calendar.` };
  if (!isPlausible(date)) return { ok: false, reason: `“${clean}” is not in the years from 1800 to 2199.` };
  return { ok: true, date };
}

const CLOCK =
  /(?:[T,]|\s)\s*\d{1,2}:\d{2}(?::\d{2}(?:[.,]\d+)?)?\s*(?:[AaPp]\.?[Mm]\.?)?\s*(?:Z|UTC|GMT|[+-]\d{2}:?\d{2})?$/;
const WEEKDAY = /^(?:mon|tues?|wed(?:nes)?|thu(?:rs?)?|fri|sat(?:ur)?|sun)(?:day)?\.?,?\s+/i;

const monthOf = (word: string): number =>
  MONTHS.findIndex((month) => month.startsWith(word.toLowerCase().replace(/^sept$/, 'sep'))) + 1;
const yearOf = (digits: string): number => (digits.length === 2 ? 2000 : 0) + Number(digits);

function datePartsOf(text: string, order: 'mdy' | 'dmy'): [number, number, number] | null {
  const day = text.replace(CLOCK, '').replace(WEEKDAY, '');
  const yearFirst = /^(\d{4})([-/.])(\d{1,2})\2(\d{1,2})$|^(\d{4})(\d{2})(\d{2})$/.exec(day);
  if (yearFirst) {
    const [, year, , month, on, bareYear, bareMonth, bareDay] = yearFirst;
    return [Number(year ?? bareYear), Number(month ?? bareMonth), Number(on ?? bareDay)];
  }
  const dotted = /^(\d{1,2})\.\s?(\d{1,2})\.\s?(\d{4}|\d{2})$/.exec(day);
  if (dotted) return [yearOf(dotted[3] ?? ''), Number(dotted[2]), Number(dotted[1])];
  const slashed = /^(\d{1,2})([/-])(\d{1,2})\2(\d{4}|\d{2})$/.exec(day);
  if (slashed) {
    const [first, second] = [Number(slashed[1]), Number(slashed[3])];
    const year = yearOf(slashed[4] ?? '');
    return order === 'mdy' ? [year, first, second] : [year, second, first];
  }
  const worded =
    /^(\d{1,2})(?:st|nd|rd|th)?\.?[\s-]*(?:of\s)?([a-z]{3,9})\.?,?[\s-]*(\d{4}|\d{2})$/i.exec(day) ??
    /^(?<month>[a-z]{3,9})\.?[\s-]*(?<day>\d{1,2})(?:st|nd|rd|th)?(?:,\s*|[\s-]+)(?<year>\d{4}|\d{2})$/i.exec(day);
  if (!worded) return null;
  const { groups } = worded;
  const [on, month, year] = groups ? [groups['day'], groups['month'], groups['year']] : worded.slice(1);
  return [yearOf(year ?? ''), monthOf(month ?? ''), Number(on)];
}

/** Days since 1970-01-01 of a valid date; negative before. */
export function dayNumber(date: IsoDate): DayNumber {
  return Date.UTC(Number(date.slice(0, 4)), Number(date.slice(5, 7)) - 1, Number(date.slice(8, 10))) / DAY_MS;
}

export function dateOfDay(day: DayNumber): IsoDate {
  return new Date(day * DAY_MS).toISOString().slice(0, 10);
}

/** A calendar date as date-fns has it, at midnight here, and back: what is computed with it never leaves the day. */
const here = (date: IsoDate): Date => parseISO(date);
const dateHere = (date: Date): IsoDate => formatISO(date, { representation: 'date' });

export const addDays = (date: IsoDate, days: number): IsoDate => dateHere(daysOn(here(date), days));

/**
 * A date some months on, on the `day` of the month wanted (31 for the last), or the last day where the month is
 * shorter: `addMonths('2026-01-31', 1, 31)` is `2026-02-28`.
 */
export function addMonths(date: IsoDate, months: number, day = Number(date.slice(8, 10))): IsoDate {
  const month = monthsOn(startOfMonth(here(date)), months);
  return dateHere(setDate(month, Math.min(day, getDaysInMonth(month))));
}

/** The name of the day of the week. */
export const weekdayOf = (date: IsoDate): string => WEEKDAYS[getDay(here(date))] ?? '';
const WEEKDAYS = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'];

/** The calendar date of an instant in a time zone such as `America/Los_Angeles`. */
export function dateInZone(instant: Date, timeZone: string): IsoDate {
  return formatISO(new TZDate(instant, timeZone), { representation: 'date' });
}

/** The hour of an instant in a time zone, 0 to 23. */
export const hourInZone = (instant: Date, timeZone: string): number => new TZDate(instant, timeZone).getHours();

/** The instant at which a day is over in a time zone. */
export function endOfDay(date: IsoDate, timeZone: string): Date {
  const [year = 0, month = 1, day = 1] = date.split('-').map(Number);
  return new Date(new TZDate(year, month - 1, day + 1, timeZone).getTime());
}

/** The fiscal year that a date falls in, named by the calendar year in which it ends. */
export function fiscalYearOf(date: IsoDate, startMonth: number): number {
  const year = Number(date.slice(0, 4));
  return startMonth > 1 && Number(date.slice(5, 7)) >= startMonth ? year + 1 : year;
}

/** The fiscal year of a day number. */
export function fiscalYearOfDay(day: DayNumber, startMonth: number): number {
  const date = new Date(day * DAY_MS);
  return startMonth > 1 && date.getUTCMonth() + 1 >= startMonth ? date.getUTCFullYear() + 1 : date.getUTCFullYear();
}

/** First and last date of a fiscal year. */
export function fiscalYearSpan(fiscalYear: number, startMonth: number): { from: IsoDate; to: IsoDate } {
  const startYear = startMonth > 1 ? fiscalYear - 1 : fiscalYear;
  const from = `${startYear}-${String(startMonth).padStart(2, '0')}-01`;
  return { from, to: addDays(addMonths(from, 12), -1) };
}

/** The same as day numbers; figures ask for it gift by gift. */
export function fiscalYearDays(fiscalYear: number, startMonth: number): { from: DayNumber; to: DayNumber } {
  const startYear = startMonth > 1 ? fiscalYear - 1 : fiscalYear;
  const first = (year: number): DayNumber => Date.UTC(year, startMonth - 1, 1) / DAY_MS;
  return { from: first(startYear), to: first(startYear + 1) - 1 };
}

/** `2026-03-14` in `en-US` as `3/14/2026`. */
export function formatDate(
  date: IsoDate,
  { locale }: { locale: string },
  style: 'short' | 'medium' | 'long' = 'medium',
): string {
  const options: Intl.DateTimeFormatOptions =
    style === 'short'
      ? { year: 'numeric', month: 'numeric', day: 'numeric' }
      : { year: 'numeric', month: style === 'long' ? 'long' : 'short', day: 'numeric' };
  const key = `${locale} ${style}`;
  let format = formatters.get(key);
  if (format === undefined) {
    format = new Intl.DateTimeFormat(locale, { ...options, timeZone: 'UTC' });
    formatters.set(key, format);
  }
  return format.format(new Date(`${date}T00:00:00Z`));
}
/** Making a formatter takes a thousand times as long as using it, and lists write a date in each row. */
const formatters = new Map<string, Intl.DateTimeFormat>();

/** A birthday as it is kept: `1961-03-14`, or `--03-14` where the year is not known (ISO 8601, vCard 4). */
export function isBirthday(text: string): boolean {
  const yearless = /^--(\d{2}-\d{2})$/.exec(text);
  // Any leap year will do: 29 February is a birthday.
  return yearless ? isIsoDate(`2000-${yearless[1] ?? ''}`) : isIsoDate(text);
}

/** Reads a birthday as people type it, with or without the year: `3/14`, `March 14`, `14.03.`, or a whole date. */
export function parseBirthday(text: string, order: 'mdy' | 'dmy' = 'mdy'): string | null {
  const clean = text.trim();
  if (isBirthday(clean)) return clean;
  const whole = parseDate(clean, order);
  if (whole.ok) return whole.date;
  // A leap year stands in for the missing one.
  for (const attempt of [`${clean}/2000`, `${clean}, 2000`, `${clean} 2000`, `${clean}2000`]) {
    const parsed = parseDate(attempt, order);
    if (parsed.ok) return `--${parsed.date.slice(5)}`;
  }
  return null;
}

/** The next day the birthday is kept, today included; 29 February is kept on the 28th in other years. */
export function nextBirthday(birthday: string, today: IsoDate): IsoDate {
  const [month, day] = [Number(birthday.slice(-5, -3)), Number(birthday.slice(-2))];
  const kept = (year: number): IsoDate =>
    `${year}-${String(month).padStart(2, '0')}-${String(Math.min(day, daysInMonth(year, month))).padStart(2, '0')}`;
  const year = Number(today.slice(0, 4));
  return kept(year) >= today ? kept(year) : kept(year + 1);
}
