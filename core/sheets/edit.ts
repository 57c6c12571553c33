import { fold } from '../names/index.ts';
import { isAboutSupporter } from './layout.ts';
import type { SheetField, SheetRow } from './layout.ts';
import { supporterIdOf } from '../supporters/index.ts';

/** Makes the keys of new rows; passed in, so that nothing here is left to chance. */
export type NewKey = () => string;

/** Where a block of cells begins and ends, both included: rows and columns from 0. */
export interface Block {
  top: number;
  left: number;
  bottom: number;
  right: number;
}

export const blankRow = (key: string): SheetRow => ({ key, supporterId: null, cells: {}, change: [] });

/**
 * A row after something was typed in a cell. What is about a known supporter becomes a change that is asked for;
 * emptying it takes the change back. `own` are the custom fields of supporters.
 */
export function withCell(row: SheetRow, field: SheetField, text: string, own: readonly number[] = []): SheetRow {
  const { [field]: _old, ...others } = row.cells;
  const cells = text === '' ? others : { ...others, [field]: text };
  if (row.supporterId === null || !isAboutSupporter(field, own)) return { ...row, cells };
  const change = row.change.filter((one) => one !== field);
  return { ...row, cells, change: text === '' ? change : [...change, field] };
}

/** A row for a supporter who is known, or (null) for someone new; what was typed about the supporter before goes. */
export function withSupporter(
  row: SheetRow,
  supporterId: number | null,
  name: { field: SheetField; text: string },
  own: readonly number[] = [],
): SheetRow {
  const cells = Object.fromEntries(
    Object.entries(row.cells).filter(([field]) =>
      supporterId === null ? field !== name.field : !isAboutSupporter(field as SheetField, own),
    ),
  );
  if (supporterId === null && name.text !== '') cells[name.field] = name.text;
  return { ...row, supporterId, cells, change: [] };
}

/**
 * A row after a typed name turned out to mean someone known. It stays as it is where the name was typed over
 * meanwhile, or something about the supporter was typed that a known one's record would hide.
 */
export function withFound(
  row: SheetRow,
  supporterId: number,
  name: { field: SheetField; text: string },
  own: readonly number[] = [],
): SheetRow {
  const asTyped = row.supporterId === null && row.cells[name.field] === name.text;
  const more = Object.entries(row.cells).some(
    ([field, text]) => field !== name.field && text !== '' && isAboutSupporter(field as SheetField, own),
  );
  return asTyped && !more ? withSupporter(row, supporterId, name, own) : row;
}

function grown(rows: readonly SheetRow[], to: number, newKey: NewKey): SheetRow[] {
  return [...rows, ...Array.from({ length: Math.max(0, to - rows.length) }, () => blankRow(newKey()))];
}

/**
 * Rows after a block was pasted with its corner at a cell; cells to the right of the last column are left out. In
 * the column of names a supporter's number (`S-10482`) names the supporter.
 */
export function pasted(
  rows: readonly SheetRow[],
  fields: readonly SheetField[],
  at: { row: number; column: number },
  block: readonly (readonly string[])[],
  newKey: NewKey,
  own: readonly number[] = [],
): SheetRow[] {
  const next = grown(rows, at.row + block.length, newKey);
  block.forEach((line, down) => {
    line.forEach((text, right) => {
      const field = fields[at.column + right];
      const row = next[at.row + down];
      if (field === undefined || !row) return;
      const isName = at.column + right === 0;
      const known = isName && /^\s*s-\d+\s*$/i.test(text) ? supporterIdOf(text) : null;
      next[at.row + down] = isName
        ? withSupporter(row, known, { field, text: text.trim() }, own)
        : withCell(row, field, text.trim(), own);
    });
  });
  return next;
}

/** Rows after the top line of a block was repeated down it; of a block of one line, the line above it. */
export function filledDown(
  rows: readonly SheetRow[],
  fields: readonly SheetField[],
  block: Block,
  newKey: NewKey,
  own: readonly number[] = [],
): SheetRow[] {
  const single = block.top === block.bottom;
  const source = rows[single ? block.top - 1 : block.top];
  if (!source) return [...rows];
  const next = grown(rows, block.bottom + 1, newKey);
  for (let place = single ? block.top : block.top + 1; place <= block.bottom; place++)
    for (let column = block.left; column <= block.right; column++) {
      const field = fields[column];
      const row = next[place];
      if (field === undefined || !row) continue;
      const text = source.cells[field] ?? '';
      next[place] =
        column === 0 ? withSupporter(row, source.supporterId, { field, text }, own) : withCell(row, field, text, own);
    }
  return next;
}

/**
 * Which of those found is meant by what was typed: the first whose name has every typed word as the beginning of one
 * of its own, or any where digits were typed (a number, the end of a telephone). Only alike is not meant: then it is
 * the place after the last, which stands for someone new.
 */
export function meant(text: string, found: readonly { name: string; number: string }[]): number {
  const digits = /^\s*(s-)?[\d\s().+-]+$/i.test(text);
  const words = fold(text).split(/\s+/).filter(Boolean);
  const place = found.findIndex(({ name }) => {
    const own = fold(name).split(/[\s,]+/);
    return digits || words.every((word) => own.some((one) => one.startsWith(word)));
  });
  return place < 0 ? found.length : place;
}

/** The cells of a block as a spreadsheet takes them: lines of cells between tabs. */
export const copied = (cells: readonly (readonly string[])[]): string =>
  cells
    .map((line) => line.map((cell) => (/[\t\n"]/.test(cell) ? `"${cell.replace(/"/g, '""')}"` : cell)).join('\t'))
    .join('\n');
