import { pipeline } from 'node:stream/promises';
import { stringify } from 'csv-stringify/sync';
import type { Response } from 'express';
import { typedMoney } from '@tallystick/core/money';
import type { CellType } from '@tallystick/core/segments';
import { chunks } from './db.ts';
import { othersTurn } from './turns.ts';

type Cell = string | number | null;

/**
 * How a formula may begin, also behind signs that are not seen and in the wide forms that some spreadsheets take for
 * the plain ones.
 */
const FORMULA = /^[\p{C}\p{Z}\p{Default_Ignorable_Code_Point}]*[=+\-@\uFF1D\uFF0B\uFF0D\uFF20]|^[\t\r\n]/u;

/** A cell that a spreadsheet would take for a formula is made text; plain numbers stay as they are. */
export function harmless(cell: Cell): Cell {
  if (typeof cell !== 'string' || !FORMULA.test(cell) || /^[-+]?[\d.,]+$/.test(cell)) return cell;
  return `'${cell}`;
}

/** So many rows are written before others get their turn. */
const AT_ONCE = 1_000;
/** Rows some at a time, as they come. */
type Pages = Iterable<readonly (readonly Cell[])[]> | AsyncIterable<readonly (readonly Cell[])[]>;

/** CSV with a heading row and a byte-order mark, as spreadsheets read it, piece by piece. */
async function* csvParts(headings: readonly string[], pages: Pages): AsyncGenerator<string> {
  // A line break of either kind within a cell is no end of its row.
  const lines = (rows: readonly (readonly Cell[])[]): string =>
    stringify(
      rows.map((row) => row.map(harmless)),
      { record_delimiter: '\r\n', quoted_match: /[\r\n]/ },
    );
  let head = `\uFEFF${lines([headings])}`;
  for await (const rows of pages)
    for (const some of chunks(rows, AT_ONCE)) {
      yield head + lines(some);
      head = '';
      await othersTurn();
    }
  if (head !== '') yield head;
}

/** The same as one text. */
export async function csv(headings: readonly string[], rows: readonly (readonly Cell[])[]): Promise<string> {
  let text = '';
  for await (const part of csvParts(headings, [rows])) text += part;
  return text;
}

/** Sends rows as a CSV file while they come; one that fails on the way is cut off, so that nobody takes it for whole. */
export async function sendCsv(
  response: Response,
  name: string,
  headings: readonly string[],
  pages: Pages,
): Promise<undefined> {
  const parts = csvParts(headings, pages);
  // What fails before anything is sent is told in words.
  const first = await parts.next();
  response.attachment(name).type('text/csv; charset=utf-8');
  await pipeline(async function* () {
    if (!first.done) yield first.value;
    yield* parts;
  }, response);
  return undefined;
}

/** How the cells of a column are meant: money is in cents, a day is `2026-03-14`. */
export type CellKind = 'text' | 'count' | 'money' | 'day';
/** What cells of a table's column are in a file. */
export const CELL_KINDS: Readonly<Record<CellType, CellKind>> = {
  ...{ text: 'text', money: 'money', number: 'count', date: 'day' },
};
/** A table on its way into a file, its cells in the type of their field. */
export interface TableFile {
  columns: { heading: string; kind: CellKind }[];
  rows: Cell[][];
}

/**
 * A table that is to be changed and brought back: after all others stands at which change it was made, so that what
 * comes back is told from what was changed here meanwhile. The revision is to be asked for before the rows are read.
 */
export const toComeBack = ({ columns, rows }: TableFile, revision: number): TableFile => ({
  columns: [...columns, { heading: 'As of change', kind: 'count' }],
  rows: rows.map((row) => [...row, revision]),
});

/** A table as CSV, amounts as `1234.50`. */
export const csvOf = ({ columns, rows }: TableFile): Promise<string> =>
  csv(
    columns.map(({ heading }) => heading),
    rows.map((row) =>
      row.map((cell, at) => (columns[at]?.kind === 'money' && typeof cell === 'number' ? typedMoney(cell) : cell)),
    ),
  );
