import { counted } from '../words/index.ts';
import { dateOrderOf } from './dates.ts';
import type { DateOrder, OrderFound } from './dates.ts';
import type { IntakeColumn } from './fields.ts';

/** What a person must say of a file before anything of it is brought in. */
export interface IntakeQuestion {
  about: 'dates' | 'columns';
  says: string;
}

/** How a person wants a file to be read, as far as it bears on what is asked of them. */
export interface Answered {
  columns: readonly (IntakeColumn | null)[];
  /** Null: as the column says itself. */
  dateOrder: DateOrder | null;
  /** Whether columns without a place are left out knowingly. */
  leaveRest: boolean;
}

/** So many headings are named; the rest are counted. */
const NAMED = 5;

/** The order of the dates of a file: as a person chose, or as the column says. */
export function orderIn(rows: readonly (readonly string[])[], { columns, dateOrder }: Answered): OrderFound {
  if (dateOrder !== null) return { order: dateOrder, says: null };
  const at = columns.indexOf('date');
  return at < 0 ? { order: 'mdy', says: null } : dateOrderOf(rows.map((row) => row[at] ?? ''));
}

/** What is still open about a file: silence would be guessed at, and a guess would be written into the records. */
export function questionsOf(
  headings: readonly string[],
  rows: readonly (readonly string[])[],
  answered: Answered,
): IntakeQuestion[] {
  const { order, says } = orderIn(rows, answered);
  const left = headings.flatMap((heading, at) =>
    answered.columns[at] || !rows.some((row) => (row[at] ?? '').trim() !== '') ? [] : [heading || `column ${at + 1}`],
  );
  const questions: IntakeQuestion[] = [];
  if (order === null) questions.push({ about: 'dates', says: says ?? '' });
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
