import { dayNumber, fiscalYearSpan } from '../dates/index.ts';
import type { Given } from './given.ts';

/** The first days of fiscal years by the month that they begin in, so that a day's year is looked up. */
const YEAR_TABLES = new Map<number, Int32Array>();
/** Every year that a date of ours may have. */
const [FIRST_YEAR, YEARS] = [1799, 402];
function yearTable(startMonth: number): Int32Array {
  const known = YEAR_TABLES.get(startMonth);
  if (known) return known;
  const made = Int32Array.from({ length: YEARS + 1 }, (_, year) =>
    dayNumber(fiscalYearSpan(FIRST_YEAR + year, startMonth).from),
  );
  YEAR_TABLES.set(startMonth, made);
  return made;
}

/** The place of a day's fiscal year in a table; days before and after it count to its ends. */
function yearPlace(begins: Int32Array, day: number): number {
  let place = Math.min(YEARS, Math.max(0, Math.floor((day - (begins[0] as number)) / 365.2425)));
  while (place < YEARS && day >= (begins[place + 1] as number)) place++;
  while (place > 0 && day < (begins[place] as number)) place--;
  return place;
}

const marks = new Uint8Array(YEARS + 2);
const seen: number[] = [];
/** How many fiscal years the gifts lie in, and the most of those that follow one another. */
export function yearsIn({ begin, end, days, fiscalYearStart }: Given): { number: number; run: number } {
  const table = yearTable(fiscalYearStart);
  for (let at = begin; at < end; at++) {
    const place = yearPlace(table, days[at] as number);
    if (marks[place] === 1) continue;
    marks[place] = 1;
    seen.push(place);
  }
  let run = 0;
  for (const place of seen) {
    if (marks[place - 1] === 1) continue;
    let length = 1;
    while (marks[place + length] === 1) length++;
    if (length > run) run = length;
  }
  const number = seen.length;
  for (const place of seen) marks[place] = 0;
  seen.length = 0;
  return { number, run };
}
