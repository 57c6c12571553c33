import { isoDate, parseDate, weekdayOf } from '../dates/index.ts';
import type { IsoDate, ParsedDate } from '../dates/index.ts';
import { counted } from '../words/index.ts';

/** Which comes first of a day and a month that are both written as numbers. */
export type DateOrder = 'mdy' | 'dmy';

/** What a column of dates says of itself: its order, null where it leaves that open, and why, in words. */
export interface OrderFound {
  order: DateOrder | null;
  says: string | null;
}

const NUMBERS = /^(\d{1,2})(?:[/-]|\.\s?)(\d{1,2})(?:[/-]|\.\s?)(\d{4}|\d{2})(?!\d)/;
/** So many dates that could be either are decided by one that can only be one. */
const PER_WITNESS = 4;

/** How a date in numbers can be read: in one order, in either, or the same in both; null where it is none such. */
function ordersOf(text: string): DateOrder | 'either' | 'same' | null {
  const [, first, second] = NUMBERS.exec(text.trim()) ?? [];
  if (first === undefined) return null;
  const [a, b] = [Number(first), Number(second)];
  if (a === b) return 'same';
  if (a <= 12 && b <= 12) return 'either';
  if (a <= 12) return 'mdy';
  return b <= 12 ? 'dmy' : null;
}

/**
 * The order of a whole column, by those of its dates that can be read in one order only. It is left open, to be asked,
 * where none says, where they disagree, or where a few speak for many that could be either.
 */
export function dateOrderOf(cells: Iterable<string>): OrderFound {
  const many = { mdy: 0, dmy: 0, either: 0, same: 0 };
  const shown = { mdy: '', dmy: '', either: '', same: '' };
  let serial = '';
  for (const cell of cells) {
    if (serial === '' && serialDay(cell) !== null) serial = cell.trim();
    const order = ordersOf(cell);
    if (order === null) continue;
    many[order]++;
    shown[order] ||= cell.trim();
  }
  const { mdy, dmy, either } = many;
  if (serial !== '' && mdy + dmy + either === 0)
    return {
      order: 'mdy',
      says: `“${serial}” is taken for the day number of a spreadsheet, ${serialDay(serial) ?? ''}.`,
    };
  if (mdy > 0 && dmy > 0)
    return {
      order: null,
      says: `“${shown.mdy}” can only have the month first, “${shown.dmy}” only the day: the column holds both.`,
    };
  if (mdy + dmy === 0)
    return either === 0
      ? { order: 'mdy', says: null }
      : { order: null, says: `“${shown.either}” can be read two ways, and no date of the column says which.` };
  const order = mdy > 0 ? 'mdy' : 'dmy';
  const first = order === 'mdy' ? 'the month first' : 'the day first';
  if (either > (mdy + dmy) * PER_WITNESS)
    return {
      order: null,
      says: `Only ${mdy + dmy === 1 ? '' : `${mdy + dmy}, as `}“${shown[order]}” must have ${first}; ${counted(either, 'other date')} can be read two ways.`,
    };
  return { order, says: `“${shown[order]}” can only have ${first}, so all have.` };
}

/** A spreadsheet's day number, counted from the end of 1899; those of 1954 to 2064. */
const SERIAL = /^([2-5]\d{4})(?:[.,]\d+)?$/;
const SERIAL_START = Date.UTC(1899, 11, 30);
const DAY_MS = 86_400_000;

/** The day of a spreadsheet's day number; null for what is none. */
function serialDay(text: string): IsoDate | null {
  const number = SERIAL.exec(text.trim())?.[1];
  return number === undefined ? null : new Date(SERIAL_START + Number(number) * DAY_MS).toISOString().slice(0, 10);
}

/** A date whose year has two digits: `3/4/26` ends in it, and `2026-03-04` has one of four. */
export const TWO_DIGIT_YEAR = /^(?!.*\d{4}).*\D\d{2}$/;

/**
 * Reads a date of a file: all that `parseDate` reads, and a spreadsheet's day number. What can be read two ways is
 * refused while the order of the column is open. A year in two digits is of this century up to the next
 * year, else of the last.
 */
export function readFileDate(text: string, order: DateOrder | null, today: IsoDate): ParsedDate {
  const clean = text.trim();
  const orders = ordersOf(clean);
  if (orders === 'either' && order === null)
    return {
      ok: false,
      reason: `“${clean}” can be read two ways; say above whether the month or the day comes first.`,
    };
  if (order !== null && (orders === 'mdy' || orders === 'dmy') && orders !== order)
    return {
      ok: false,
      reason: `“${clean}” is no day where ${order === 'mdy' ? 'the month' : 'the day'} comes first, as in this column.`,
    };
  const serial = serialDay(clean);
  if (serial !== null) return { ok: true, date: serial };
  if (/^\d{4}$/.test(clean)) return { ok: false, reason: `“${clean}” is a year without a day.` };
  // Dots stand between days and months in either order, too.
  const slashed = orders === null ? clean : clean.replace(/^(\d{1,2})\.\s?(\d{1,2})\.\s?/, '$1/$2/');
  const read = parseDate(slashed, orders === 'dmy' ? 'dmy' : (order ?? 'mdy'));
  if (!read.ok)
    return read.reason.includes(slashed) ? { ok: false, reason: read.reason.replace(slashed, clean) } : read;
  const { date } = read;
  const named = /^(?:mon|tue|wed|thu|fri|sat|sun)/i.exec(clean)?.[0].toLowerCase();
  if (named !== undefined && !weekdayOf(date).toLowerCase().startsWith(named))
    return { ok: false, reason: `“${clean}” was a ${weekdayOf(date)}.` };
  const beyond = Number(date.slice(0, 4)) > Number(today.slice(0, 4)) + 1;
  const earlier = beyond && TWO_DIGIT_YEAR.test(clean) ? lessACentury(date) : null;
  return { ok: true, date: earlier ?? date };
}

const lessACentury = (date: IsoDate): IsoDate | null =>
  isoDate(Number(date.slice(0, 4)) - 100, Number(date.slice(5, 7)), Number(date.slice(8)));
