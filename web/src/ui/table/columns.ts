import type { ReactNode } from 'react';

/** A column of a list. `value` is what the cell shows; numbers and money are right-aligned. */
export interface Column<T> {
  id: string;
  title: string;
  width: number;
  align?: 'right';
  cell: (row: T) => ReactNode;
  footer?: ReactNode;
  /** The sort that a click on the heading asks for; absent where the list cannot be sorted by it. */
  sort?: string;
  hidden?: boolean;
}

/** What a person made of a list's columns; columns not named keep their own place, width and name. */
export interface ColumnChoice {
  order: string[];
  hidden: string[];
  widths: Record<string, number>;
  names: Record<string, string>;
}
export const NO_CHOICE: ColumnChoice = { order: [], hidden: [], widths: {}, names: {} };

/** The choice that a list begins with: all of its columns but those that begin hidden. */
export const firstChoice = <T>(columns: readonly Column<T>[]): ColumnChoice => ({
  ...NO_CHOICE,
  hidden: columns.filter((column) => column.hidden).map((column) => column.id),
});

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

/** A stretch of a grouped list, with the words for what its rows share and for their sum. */
export interface GroupHeading {
  key: string;
  title: string;
  count: number;
  sum: string;
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
