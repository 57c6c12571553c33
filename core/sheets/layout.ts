import { INTAKE_FIELDS } from '../intake/index.ts';
import type { IntakeColumn, IntakeField } from '../intake/index.ts';

/** Fields of the supporter and of the gift that a sheet may have, in the order they are offered. */
export const SHEET_FIELDS = [
  'wholeName',
  'organization',
  'email',
  'phone',
  'street',
  'city',
  'region',
  'postal',
  'tag',
  'amount',
  'date',
  'fund',
  'campaign',
  'appeal',
  'method',
  'cheque',
  'reference',
  'benefit',
  'fee',
  'note',
] as const satisfies readonly IntakeField[];
export type SheetField = IntakeColumn;

const HEADINGS: Partial<Record<IntakeField, string>> = {
  wholeName: 'Who',
  postal: 'ZIP',
  amount: 'Amount',
  date: 'Date',
  method: 'Paid by',
  cheque: 'Check',
  reference: 'Reference',
  benefit: 'Goods and services',
  fee: 'Fee',
  note: 'Note',
};

/** What a column of a sheet is called, short enough to stand over it; `own` are the custom fields. */
export const sheetHeading = (field: string, own: readonly { id: number; name: string }[]): string =>
  field in INTAKE_FIELDS
    ? (HEADINGS[field as IntakeField] ?? INTAKE_FIELDS[field as IntakeField].label)
    : (own.find((one) => `field:${one.id}` === field)?.name ?? field);

/** A column of a sheet. A hidden one is filled with its default in every row. */
export interface SheetColumn {
  field: SheetField;
  /** In pixels. */
  width: number;
  /** What an empty cell stands for. */
  byDefault: string;
  hidden: boolean;
  required: boolean;
}

export interface SheetLayout {
  columns: readonly SheetColumn[];
}

/**
 * Whether a column is about the supporter; those of known supporters are shown and not overwritten. A tag is only ever
 * added, so it counts with the gift.
 */
export const isAboutSupporter = (field: SheetField, ownOfSupporters: readonly number[] = []): boolean =>
  field in INTAKE_FIELDS
    ? field !== 'tag' && INTAKE_FIELDS[field as IntakeField].group !== 'Gift'
    : ownOfSupporters.includes(Number(field.slice('field:'.length)));

/** A row as it is typed. Without a `supporterId` the name cells make a new supporter. */
export interface SheetRow {
  /** Given by whoever types; stays the row's own. */
  key: string;
  supporterId: number | null;
  cells: Readonly<Record<string, string>>;
  /** Columns of a known supporter that are to be changed to what was typed. */
  change: readonly SheetField[];
}

export const MOST_ROWS = 10_000;

/** What is wrong with a layout, in words, or null. */
export function layoutFault(layout: SheetLayout): string | null {
  const fields = layout.columns.map((column) => column.field);
  if (new Set(fields).size < fields.length) return 'A column is in the layout twice.';
  if (!fields.includes('amount')) return 'A layout has the column “Amount”.';
  if (!fields.includes('wholeName') && !fields.includes('organization'))
    return 'A layout has a column for the name of a new supporter: “Who” or “Organization”.';
  const lost = layout.columns.find((column) => column.hidden && column.required && column.byDefault === '');
  if (lost) return `A required column cannot be hidden without a default.`;
  return null;
}

/** The value of a cell with the default of its column where nothing was typed. */
export const cellOf = (row: SheetRow, column: SheetColumn): string => {
  const typed = column.hidden ? '' : (row.cells[column.field] ?? '').trim();
  return typed === '' ? column.byDefault : typed;
};

/** A row on which nothing was typed; it is passed over. */
export const isEmptyRow = (row: SheetRow): boolean =>
  row.supporterId === null && Object.values(row.cells).every((cell) => cell.trim() === '');

/**
 * The cells of a block copied out of a spreadsheet: lines of cells between tabs, cells with line breaks or tabs
 * between quotes. An empty line at the end is none.
 */
export function readBlock(text: string): string[][] {
  const rows: string[][] = [[]];
  let cell = '';
  let quoted = false;
  const endCell = (): void => {
    rows.at(-1)?.push(cell);
    cell = '';
  };
  for (let at = 0; at < text.length; at++) {
    const letter = text[at] ?? '';
    if (quoted) {
      if (letter === '"' && text[at + 1] === '"') {
        cell += '"';
        at++;
      } else if (letter === '"') quoted = false;
      else cell += letter;
    } else if (letter === '"' && cell === '') quoted = true;
    else if (letter === '\t') endCell();
    else if (letter === '\n') {
      endCell();
      rows.push([]);
    } else if (letter !== '\r') cell += letter;
  }
  endCell();
  if (rows.length > 1 && rows.at(-1)?.join('') === '') rows.pop();
  return rows;
}
