import { parseDate } from '../dates/index.ts';
import { normalEmail } from '../names/index.ts';
import { counted } from '../words/index.ts';
import { dateOrderOf } from './dates.ts';
import type { DateOrder, OrderFound } from './dates.ts';
import type { ToldReading } from './encodings.ts';
import type { IntakeColumn } from './fields.ts';
import { usedIn } from './made.ts';
import type { MadeColumn } from './made.ts';

/** What a person must say of a file before anything of it is brought in. */
export interface IntakeQuestion {
  about: 'headings' | 'encoding' | 'dates' | 'columns' | 'source' | 'totals';
  says: string;
}

/** How a person wants a file to be read, as far as it bears on what is asked of them. */
export interface Answered {
  columns: readonly (IntakeColumn | null)[];
  /** Columns made of those of the file; they stand last. */
  made?: readonly MadeColumn[];
  /** Null: as the column says itself. */
  dateOrder: DateOrder | null;
  /** Whether columns without a place are left out knowingly. */
  leaveRest: boolean;
  /** Where the file comes from; empty where nobody said. */
  source?: string;
  /** Whether the first row holds headings; null while that is open, and it counts as one of the others. */
  headed: boolean | null;
  /** The encoding that a person chose, or that was sure; null while it is open, or where none is to be chosen. */
  encoding: string | null;
  /** The encodings that the file may be in, the likeliest first. */
  readings: readonly ToldReading[];
}

/** What stands over the reasons in a file of rows that were left out, so that it comes back without a question. */
export const WHY_LEFT_OUT = 'Why it was left out';

/** So many headings are named; the rest are counted. */
const NAMED = 5;

/** The order of the dates of a file: as a person chose, or as its columns say. */
export function orderIn(
  rows: readonly (readonly string[])[],
  { columns, dateOrder }: Pick<Answered, 'columns' | 'dateOrder'>,
): OrderFound {
  if (dateOrder !== null) return { order: dateOrder, says: null };
  const places = columns.flatMap((column, at) => (column !== null && isDay(column) ? [at] : []));
  if (places.length === 0) return { order: 'mdy', says: null };
  // A birthday may lack its year.
  return dateOrderOf(
    rows.flatMap((row) => places.map((at) => (row[at] ?? '').replace(/^\s*(\d{1,2}[/-]\d{1,2})\s*$/, '$1/2000'))),
  );
}

/** Whether a place holds days, which are read by the order of all of them. */
export const isDay = (column: IntakeColumn): boolean => DAYS.test(column);
const DAYS = /^(?:date(?::\d)?|birthday|deceasedOn|movedOn|calledOn|pledgedOn|pledgeFirst|recursFrom)$/;

/** Whether a first row holds what no heading is: an e-mail address, a day or an amount. */
export const looksLikeRow = (first: readonly string[]): boolean =>
  first.some(
    (cell) =>
      normalEmail(cell) !== null ||
      parseDate(cell).ok ||
      (/^\p{Sc}?\s*\d+([.,]\d+)*\s*\p{Sc}?$/u.test(cell.trim()) && !A_YEAR.test(cell.trim())),
  );

/** Columns of sums by year are headed so. */
const A_YEAR = /^(?:19|20)\d{2}$/;

/** What is still open about a file: silence would be guessed at, and a guess would be written into the records. */
export function questionsOf(
  headings: readonly string[],
  rows: readonly (readonly string[])[],
  answered: Answered,
): IntakeQuestion[] {
  const { order, says } = orderIn(rows, answered);
  const { made = [] } = answered;
  const used = usedIn(made, answered.columns, headings.length - made.length);
  const left = headings.flatMap((heading, at) =>
    answered.columns[at] ||
    used.has(at) ||
    heading === WHY_LEFT_OUT ||
    !rows.some((row) => (row[at] ?? '').trim() !== '')
      ? []
      : [heading || `column ${at + 1}`],
  );
  const questions: IntakeQuestion[] = [];
  if (answered.headed === null) {
    const shown = (rows[0] ?? []).slice(0, NAMED).map((cell) => `“${cell}”`);
    questions.push({ about: 'headings', says: `Its first row looks like one of the others: ${shown.join(', ')}.` });
  }
  if (answered.encoding === null && answered.readings.length > 1) {
    const [first, second] = answered.readings.map(({ words }) => `“${words[0] ?? ''}”`);
    questions.push({
      about: 'encoding',
      says: `Its letters may be ${first} or ${second}, and nothing in it tells which.`,
    });
  }
  if (order === null) questions.push({ about: 'dates', says: says ?? '' });
  if (answered.columns.includes('outside') && !answered.source)
    questions.push({ about: 'source', says: 'Numbers elsewhere are kept by where they come from.' });
  if (left.length > 0 && !answered.leaveRest) {
    const more = left.length > NAMED ? ` and ${left.length - NAMED} more` : '';
    const named = left.slice(0, NAMED).map((heading) => `“${heading}”`);
    questions.push({
      about: 'columns',
      says: `${counted(left.length, 'column holds', 'columns hold')} something and ${left.length === 1 ? 'has' : 'have'} no place: ${named.join(', ')}${more}.`,
    });
  }
  return questions;
}

/** What is asked where a file does not come to what it should, by count or by amount; nothing where it does. */
export function totalsAsked(
  expects: { gifts: number | null; cents: number | null },
  found: { gifts: number; cents: number },
  money: (cents: number) => string,
): IntakeQuestion[] {
  const differs = (['gifts', 'cents'] as const).some((what) => expects[what] !== null && expects[what] !== found[what]);
  if (!differs) return [];
  const should = [
    ...(expects.gifts === null ? [] : [counted(expects.gifts, 'gift')]),
    ...(expects.cents === null ? [] : [money(expects.cents)]),
  ];
  const would = `${counted(found.gifts, 'gift')} of ${money(found.cents)}`;
  return [
    { about: 'totals', says: `It should come to ${should.join(' of ')}, and what would be brought in is ${would}.` },
  ];
}
