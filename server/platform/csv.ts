import { stringify } from 'csv-stringify/sync';

type Cell = string | number | null;

/** A cell that a spreadsheet would take for a formula is made text; plain numbers stay as they are. */
export function harmless(cell: Cell): Cell {
  if (typeof cell !== 'string' || !/^[=+\-@\t\r]/.test(cell) || /^[-+]?[\d.,]+$/.test(cell)) return cell;
  return `'${cell}`;
}

/** CSV with a heading row and a byte-order mark, as spreadsheets read it. */
export function csv(headings: readonly string[], rows: Iterable<readonly Cell[]>): string {
  const lines = [headings.map(harmless), ...[...rows].map((row) => row.map(harmless))];
  return `\uFEFF${stringify(lines, { record_delimiter: '\r\n' })}`;
}
