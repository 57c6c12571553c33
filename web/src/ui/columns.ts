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

/** What a person made of a list's columns; columns not named keep their own place and width. */
export interface ColumnChoice {
  order: string[];
  hidden: string[];
  widths: Record<string, number>;
}

/** The columns as chosen: in the chosen order, new ones at their own place, without the hidden ones. */
export function chosenColumns<T>(columns: readonly Column<T>[], choice: ColumnChoice): Column<T>[] {
  const place = (column: Column<T>, index: number): number => {
    const chosen = choice.order.indexOf(column.id);
    return chosen < 0 ? index : chosen;
  };
  return columns
    .map((column, index) => ({ column, at: place(column, index) }))
    .sort((a, b) => a.at - b.at)
    .filter(({ column }) => !choice.hidden.includes(column.id))
    .map(({ column }) => ({ ...column, width: choice.widths[column.id] ?? column.width }));
}

/** The order after dragging one column before another. */
export function moved(ids: readonly string[], from: string, to: string): string[] {
  const rest = ids.filter((id) => id !== from);
  const at = ids.indexOf(to);
  const end = ids.indexOf(from) < at ? at : rest.indexOf(to);
  return [...rest.slice(0, end), from, ...rest.slice(end)];
}
