import { oneLine } from '../names/index.ts';
import type { IntakeColumn } from './fields.ts';

/** What a row holds for a field, on one line; empty where it has no such column. */
export function cellsAt(
  columns: readonly (IntakeColumn | null)[],
  cells: readonly string[],
): (field: IntakeColumn) => string {
  return (field) => {
    const index = columns.indexOf(field);
    // The apostrophe that keeps a spreadsheet from taking a text for a formula is no part of the text.
    return index < 0 ? '' : oneLine(cells[index] ?? '').replace(/^'(?=[=+\-@])/, '');
  };
}

/** The parts of a cell that holds several: with semicolons or bars between, or else commas. */
export function severalIn(cell: string): string[] {
  const sign = /[;|]/.test(cell) ? /[;|]/ : /,/;
  return [...new Set(cell.split(sign).map((part) => part.trim()))].filter(Boolean);
}

/** The lines of a street. */
export const streetOf = (part: (field: 'street' | 'unit') => string): string =>
  [part('street'), part('unit')].filter(Boolean).join('\n').slice(0, 200);
