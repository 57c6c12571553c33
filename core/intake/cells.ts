import { oneLine } from '../names/index.ts';
import { fieldIn } from './fields.ts';
import type { IntakeColumn, IntakeField } from './fields.ts';
import { LONGEST_NOTHING, LOOKED_AT, nothingIn } from './misplaced.ts';

/** Where the columns of a file go, looked up once for all of its rows. */
export interface Plan {
  /** The first place of each column. */
  at: ReadonlyMap<IntakeColumn, number>;
  /** The columns of each field in their order, with the how manieth each is. */
  of: ReadonlyMap<IntakeField, readonly (readonly [IntakeColumn, number])[]>;
  /** The same in their order. */
  places: readonly (readonly [IntakeColumn, number])[];
  /** Custom fields. */
  own: readonly IntakeColumn[];
  /** The columns whose texts are kept up to some length, with that. */
  limits: readonly (readonly [column: IntakeColumn, place: number, longest: number])[];
  /** The how manieth addresses have columns, and which. */
  addresses: readonly (readonly [nth: number, columns: readonly IntakeColumn[]])[];
  /** What says in a column that there is nothing. */
  nothing: ReadonlyMap<IntakeColumn, RegExp>;
  /** The columns that may. */
  mayBeNothing: readonly IntakeColumn[];
  /** The columns whose texts may be out of place. */
  looked: readonly (readonly [IntakeField, IntakeColumn])[];
}

/** How long the text of a field is at most. */
const LONGEST: Partial<Record<IntakeField, number>> = {
  ...{ outside: 120, phone: 40, street: 200, city: 100, region: 60, postal: 20, country: 60, employer: 120 },
  ...{ jobTitle: 80, household: 120, remark: 5_000, reference: 60, cheque: 30, note: 1_000 },
};

/** What says where an address is; a country alone does not. */
export const ADDRESS_PARTS = ['street', 'city', 'region', 'postal'] as const;

const plans = new WeakMap<readonly (IntakeColumn | null)[], Plan>();

export function planOf(columns: readonly (IntakeColumn | null)[]): Plan {
  const known = plans.get(columns);
  if (known) return known;
  const at = new Map<IntakeColumn, number>();
  const of = new Map<IntakeField, [IntakeColumn, number][]>();
  for (const [index, column] of columns.entries()) {
    if (column === null || at.has(column)) continue;
    at.set(column, index);
    const found = fieldIn(column);
    if (found) of.set(found.field, [...(of.get(found.field) ?? []), [column, found.nth]]);
  }
  const limits = [...of].flatMap(([field, all]) => {
    const longest = LONGEST[field];
    return longest === undefined ? [] : all.map(([column]) => [column, at.get(column) ?? 0, longest] as const);
  });
  const parts = ADDRESS_PARTS.flatMap((part) => of.get(part) ?? []);
  const addresses = [1, 2, 3].flatMap((nth) => {
    const columns = parts.flatMap(([column, one]) => (one === nth ? [column] : []));
    return columns.length === 0 ? [] : [[nth, columns] as const];
  });
  // What comes back of a list that was made here is ours, whatever it says.
  const ours = at.has('asOf');
  const nothing = new Map<IntakeColumn, RegExp>();
  for (const [field, all] of of) {
    const says = ours ? undefined : nothingIn(field);
    if (says) for (const [column] of all) nothing.set(column, says);
  }
  const looked = ours
    ? []
    : LOOKED_AT.flatMap((field) => (of.get(field) ?? []).map(([column]) => [field, column] as const));
  const mayBeNothing = [...nothing.keys()];
  const plan = {
    nothing,
    mayBeNothing,
    looked,
    addresses,
    places: [...at],
    at,
    of,
    own: [...at.keys()].filter((column) => fieldIn(column) === null),
    limits,
  };
  plans.set(columns, plan);
  return plan;
}

type CellOf = (field: IntakeColumn) => string;

/** What stands in cells that want a closer look: a formula begins so, or letters came to harm. Most rows have none. */
const ODD = /[#=?]|[^ -~]/;
export function isOdd(cells: readonly string[]): boolean {
  for (let at = 0; at < cells.length; at++) if (ODD.test(cells[at] ?? '')) return true;
  return false;
}

/** The row that was asked about last: one reader after another asks for its cells, and each for most of them often. */
let last: { columns: readonly (IntakeColumn | null)[]; cells: readonly string[]; at: CellOf } | null = null;

/**
 * What a row holds for a field, on one line; empty where it has no such column. Each cell is read once, so that
 * the cells of a row stay what they are.
 */
export function cellsAt(columns: readonly (IntakeColumn | null)[], cells: readonly string[]): CellOf {
  if (last?.cells === cells && last.columns === columns) return last.at;
  const plan = planOf(columns);
  const { at: places } = plan;
  const read: string[] = [];
  const at = (field: IntakeColumn): string => {
    const index = places.get(field);
    if (index === undefined) return '';
    return (read[index] ??= lineOf(plan, cells, field, cells[index] ?? ''));
  };
  last = { columns, cells, at };
  return at;
}

function lineOf(plan: Plan, cells: readonly string[], field: IntakeColumn, cell: string): string {
  if (cell === '') return '';
  const line = oneLine(cell);
  if (isNothing(plan, cells, field, line)) return '';
  // The apostrophe that keeps a spreadsheet from taking a text for a formula is no part of the text.
  return line.startsWith("'") ? line.replace(/^'(?=[=+\-@])/, '') : line;
}

/** What names the person that a firm stands beside. */
const NAMES = ['wholeName', 'first', 'last'] as const;

/** Whether a text of a column says that there is nothing: of a firm only beside a person, since it is who gives otherwise. */
function isNothing({ at, nothing }: Plan, cells: readonly string[], column: IntakeColumn, text: string): boolean {
  if (text.length > LONGEST_NOTHING || !nothing.get(column)?.test(text)) return false;
  return column !== 'organization' || NAMES.some((name) => (cells[at.get(name) ?? cells.length] ?? '').trim() !== '');
}

/** What is told of cells that are read as if they were empty. */
export function takenForNothing(
  columns: readonly (IntakeColumn | null)[],
  cells: readonly string[],
): { field: IntakeColumn; value: string; reason: string }[] {
  const plan = planOf(columns);
  const at = cellsAt(columns, cells);
  return eachOf(plan.mayBeNothing, (field) => {
    const value = cells[plan.at.get(field) ?? cells.length] ?? '';
    if (value === '' || at(field) !== '') return null;
    const line = oneLine(value);
    return line === '' ? null : { field, value, reason: `“${line}” is taken for nothing.` };
  });
}

/** The parts of a cell that holds several: with semicolons or bars between, or else commas. */
export function severalIn(cell: string): string[] {
  if (!/[;|,]/.test(cell)) return cell.trim() === '' ? [] : [cell.trim()];
  const sign = /[;|]/.test(cell) ? /[;|]/ : /,/;
  return [...new Set(cell.split(sign).map((part) => part.trim()))].filter(Boolean);
}

const NOTHING: readonly never[] = Object.freeze([]);

/** No rows of anything. Rows say nothing of most of what they could, and share one list, which is never written to. */
export const noneOf = <T>(): T[] => NOTHING as readonly T[] as T[];

/** What is made of each, without what is null. */
export function eachOf<A, B>(all: readonly A[], make: (one: A) => B | null): B[] {
  let found: B[] | null = null;
  for (let at = 0; at < all.length; at++) {
    const one = all[at] as A;
    const made = make(one);
    if (made === null) continue;
    if (found === null) found = [made];
    else found.push(made);
  }
  return found ?? noneOf();
}

/** The lines of a street. */
export const streetOf = (part: (field: 'street' | 'unit') => string): string =>
  [part('street'), part('unit')].filter(Boolean).join('\n').slice(0, 200);
