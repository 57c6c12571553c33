import type { ReactNode } from 'react';

/** A column of a list. `value` is what the cell shows; numbers and money are right-aligned. */
export interface Column<T> {
  id: string;
  title: string;
  width: number;
  align?: 'right';
  cell: (row: T) => ReactNode;
  footer?: ReactNode;
  /** What the server sorts by when the heading is clicked; absent where it cannot sort by this. */
  sort?: string;
  /** What a list that is all here is sorted by in the browser; without a value last. */
  by?: (row: T) => string | number | null | undefined;
  /** Takes the room that the others leave, until someone gives it a width. */
  grow?: boolean;
  hidden?: boolean;
}

/** One column that a list is sorted by; the first counts most. */
export interface SortBy {
  id: string;
  desc: boolean;
}

/** A sort as addresses and the server write it, `state,-lifetime`, as columns; what no column sorts by is left out. */
export const readSort = <T>(columns: readonly Column<T>[], sort: string): SortBy[] =>
  sort.split(',').flatMap((part) => {
    const column = columns.find((one) => one.sort !== undefined && one.sort === part.replace(/^-/, ''));
    return column ? [{ id: column.id, desc: part.startsWith('-') }] : [];
  });
export const writeSort = <T>(columns: readonly Column<T>[], sorts: readonly SortBy[]): string =>
  sorts
    .flatMap(({ id, desc }) => {
      const key = columns.find((column) => column.id === id)?.sort;
      return key === undefined ? [] : [`${desc ? '-' : ''}${key}`];
    })
    .join(',');

/** What a person made of a list's columns; columns not named keep their own place, width and name. */
export interface ColumnChoice {
  order: string[];
  hidden: string[];
  /** Of the columns that begin hidden those that are shown. */
  shown: string[];
  widths: Record<string, number>;
  names: Record<string, string>;
}
export const NO_CHOICE: ColumnChoice = { order: [], hidden: [], shown: [], widths: {}, names: {} };

/** Whether a column is shown; one that is newer than the choice is as it begins. */
export const isShown = <T>({ id, hidden }: Column<T>, choice: ColumnChoice): boolean =>
  hidden ? choice.shown.includes(id) : !choice.hidden.includes(id);

/** The choice once a column is shown, or no longer. */
export function withShown<T>({ id, hidden = false }: Column<T>, on: boolean, choice: ColumnChoice): ColumnChoice {
  const put = (ids: readonly string[], inside: boolean): string[] => [
    ...ids.filter((one) => one !== id),
    ...(inside ? [id] : []),
  ];
  return { ...choice, hidden: put(choice.hidden, !on && !hidden), shown: put(choice.shown, on && hidden) };
}

/** The ids of all columns in the chosen order; one that is newer than the choice stands at its own place. */
export function orderOf<T>(columns: readonly Column<T>[], choice: ColumnChoice): string[] {
  const place = (id: string, index: number): number => {
    const chosen = choice.order.indexOf(id);
    return chosen < 0 ? index : chosen;
  };
  return columns
    .map(({ id }, index) => ({ id, at: place(id, index) }))
    .sort((a, b) => a.at - b.at)
    .map(({ id }) => id);
}

/** The order after a column changes places with its neighbour: -1 to the left, 1 to the right, among those shown. */
export function stepped(order: readonly string[], hidden: readonly string[], id: string, by: -1 | 1): string[] {
  const shown = order.filter((one) => !hidden.includes(one));
  const neighbour = shown[shown.indexOf(id) + by];
  return neighbour === undefined || !shown.includes(id) ? [...order] : moved(order, id, neighbour);
}

/** The order after dragging one column before another. */
export function moved(ids: readonly string[], from: string, to: string): string[] {
  const rest = ids.filter((id) => id !== from);
  const at = ids.indexOf(to);
  const end = ids.indexOf(from) < at ? at : rest.indexOf(to);
  return [...rest.slice(0, end), from, ...rest.slice(end)];
}

/** A stretch of a grouped list: what its rows share, how many they are, and what they come to, by column. */
export interface GroupHeading {
  key: string;
  title: string;
  count: number;
  subtotals: Readonly<Record<string, string>>;
}

/** What a list shows line by line: rows by their place, and before the first of each group its heading. */
export type Line = { kind: 'row'; index: number } | { kind: 'group'; group: GroupHeading };

/** Puts the headings of groups before the rows that are loaded of them. */
export function linesOf(rows: number, groups: readonly GroupHeading[]): Line[] {
  const lines: Line[] = [];
  let index = 0;
  for (const group of groups) {
    if (index >= rows) break;
    lines.push({ kind: 'group', group });
    for (let inside = 0; inside < group.count && index < rows; inside++) lines.push({ kind: 'row', index: index++ });
  }
  while (index < rows) lines.push({ kind: 'row', index: index++ });
  return lines;
}

/** A column of figures at the right; a row without one stays empty. */
export const figures = <T>(
  id: string,
  title: string,
  width: number,
  of: (row: T) => number | null | undefined,
  show: (value: number) => string,
): Column<T> => ({
  ...{ id, title, width, align: 'right', by: of },
  cell: (row) => {
    const value = of(row);
    return value == null ? '' : show(value);
  },
});

/** A column of words. */
export const wordsOf = <T>(id: string, title: string, width: number, of: (row: T) => string): Column<T> => ({
  ...{ id, title, width, by: of, cell: of },
});
