import { fold, needsCase, oneLine, properCase } from '../names/index.ts';
import { fieldIn } from './fields.ts';
import type { IntakeColumn, IntakeField } from './fields.ts';
import { isCutOff } from './made.ts';
import { labelIn } from './suggest.ts';

/** What is done to the cells of a column before they are read, and what way it is. */
export interface Care {
  /** The label of an e-mail, telephone or address. */
  label?: string | undefined;
  /** Whether what is all in capitals, or all in small letters, is written as names are. */
  names?: boolean | undefined;
  /** What a value stands for, by the value; the empty text stands for nothing. */
  translate?: Readonly<Record<string, string>> | undefined;
  /** What an empty cell stands for. */
  otherwise?: string | undefined;
}

/** By the place of the column in the file. */
export type Cares = Readonly<Record<string, Care>>;

/** Values are the same for a translation whatever their letters are like and whatever spaces stand around them. */
export const valueKey = (cell: string): string => fold(oneLine(cell));

/** Words that are written in capitals though names are not: those without a vowel, known ones, and what has a digit. */
const CAPITALS = /^(?:[bcdfghjklmnpqrstvwxz]{3,5}|ibm|usa|[ns][ew])$|\d/iu;
const asNames = (text: string): string =>
  needsCase(text)
    ? properCase(text)
        .split(' ')
        .map((word, at) => (CAPITALS.test(word) ? (text.split(' ')[at] ?? word).toUpperCase() : word))
        .join(' ')
    : text;

/** What one cell is read as: translated, then written as names are, then what empty ones stand for. */
export function caredFor(cell: string, care: Care, table = tableOf(care)): string {
  const clean = oneLine(cell);
  const translated = table?.get(valueKey(clean)) ?? clean;
  const written = care.names ? asNames(translated) : translated;
  return written === '' ? (care.otherwise ?? '') : written;
}

const tableOf = ({ translate }: Care): Map<string, string> | null =>
  translate && Object.keys(translate).length > 0
    ? new Map(Object.entries(translate).map(([value, stands]) => [valueKey(value), stands]))
    : null;

/**
 * How rows of a file become what is read of them: each cell with the care of its column, and after the columns of the
 * file what is the same for all rows.
 */
export function carer(
  cares: Cares,
  columns: readonly (IntakeColumn | null)[],
  same: Readonly<Partial<Record<IntakeColumn, string>>>,
): { columns: (IntakeColumn | null)[]; cells: (cells: string[]) => string[] } {
  const tables = Object.entries(cares).map(([at, care]) => ({ at: Number(at), care, table: tableOf(care) }));
  // A column of the file goes before what is the same for all.
  const constants = (Object.entries(same) as [IntakeColumn, string][]).filter(([column]) => !columns.includes(column));
  const width = columns.length;
  return {
    columns: [...columns, ...constants.map(([column]) => column)],
    cells(cells) {
      // Most rows need no care: they stay what they are.
      let read = cells;
      for (const { at, care, table } of tables) {
        if (at >= width) continue;
        const clean = caredFor(cells[at] ?? '', care, table);
        if (clean === (cells[at] ?? '')) continue;
        if (read === cells) read = [...cells];
        read[at] = clean;
      }
      // A row that is too long, or was cut off, stays so, and is still refused for that.
      if (constants.length > 0 && cells.length <= width && !isCutOff(columns, cells)) {
        if (read === cells) read = [...cells];
        while (read.length < width) read.push('');
        read.push(...constants.map(([, value]) => value));
      }
      return read;
    },
  };
}

/** The places whose cells are written as names are where most of a column is in capitals. */
const NAMES: readonly IntakeField[] = [
  ...(['first', 'middle', 'last', 'organization', 'street', 'city', 'employer', 'spouse', 'second'] as const),
];
const WAYS: readonly IntakeField[] = ['email', 'phone', 'street'];

/**
 * The care that columns are likely to need: the label that a heading gives a way, or the format does (by place), and
 * names that say nothing by their capitals.
 */
export function caresFor(
  headings: readonly string[],
  columns: readonly (IntakeColumn | null)[],
  rows: readonly (readonly string[])[],
  labels: Readonly<Record<string, string>> = {},
): Record<string, Care> {
  const cares: Record<string, Care> = {};
  for (const [at, column] of columns.entries()) {
    const field = column === null ? null : (fieldIn(column)?.field ?? null);
    if (column === null || field === null) continue;
    const label = WAYS.includes(field) ? (labels[column] ?? labelIn(headings[at] ?? '')) : null;
    const filled = NAMES.includes(field)
      ? rows.map((row) => row[at] ?? '').filter((cell) => /\p{L}{2}/u.test(cell))
      : [];
    const shouts = filled.length > 0 && filled.filter(needsCase).length > filled.length / 2;
    if (label !== null || shouts)
      cares[String(at)] = { ...(label === null ? {} : { label }), ...(shouts ? { names: true } : {}) };
  }
  return cares;
}
