import { getCoreRowModel, getSortedRowModel, useReactTable } from '@tanstack/react-table';
import type { ColumnDef, Row, Updater } from '@tanstack/react-table';
import { useMemo } from 'react';
import { useStored } from '../useStored.ts';
import { isShown, orderOf, readSort, writeSort } from './columns.ts';
import type { Column, ColumnChoice, SortBy } from './columns.ts';

/** The rows of a list, its columns, and its order. */
export interface Listed<T> {
  /** Names the list; its columns are remembered under it. */
  name: string;
  columns: readonly Column<T>[];
  rows: readonly T[];
  idOf: (row: T) => number;
  /** Rows in the whole list, which may be more than are loaded. */
  total: number;
  sort?: string;
  /** Asked to sort the whole list anew; without it a list that is all here is sorted here. */
  onSort?: (sort: string) => void;
}

const updated = <S>(updater: Updater<S>, old: S): S =>
  typeof updater === 'function' ? (updater as (old: S) => S)(old) : updater;

/** Words as people sort them: capitals and accents aside, numbers in them as numbers. */
const words = new Intl.Collator(undefined, { numeric: true, sensitivity: 'base' });
function inOrder<T>(a: Row<T>, b: Row<T>, id: string): number {
  const [x, y] = [a.getValue<string | number>(id), b.getValue<string | number>(id)];
  return typeof x === 'number' && typeof y === 'number' ? x - y : words.compare(String(x), String(y));
}
const present = <V>(value: V | '' | null | undefined): V | undefined =>
  value === '' || value == null ? undefined : value;
/** So many columns at once sort a list. */
const SEVERAL = 3;

/**
 * The columns of a list as chosen, and its rows in order: TanStack's table keeps sizes, order, what is hidden, what is
 * pinned and what sorts. A list that the server sorts is left as it comes; one that is all here is sorted here.
 */
export function useColumns<T>(
  props: Listed<T>,
  choice: ColumnChoice,
  setChoice: (next: (old: ColumnChoice) => ColumnChoice) => void,
) {
  const { name, columns, rows, idOf, total, sort = '', onSort } = props;
  const [kept, setKept] = useStored<{ by: SortBy[] }>(`order:${name}`, { by: [] });
  const isHere = onSort === undefined && rows.length >= total;
  const defs = useMemo(
    () =>
      columns.map(({ by, ...column }): ColumnDef<T> => ({
        id: column.id,
        header: choice.names[column.id] || column.title,
        size: column.width,
        minSize: 48,
        accessorFn: (row) => (by ? present(by(row)) : undefined),
        sortUndefined: 'last',
        sortingFn: inOrder,
        enableSorting: isHere ? by !== undefined : column.sort !== undefined && onSort !== undefined,
      })),
    [columns, choice.names, onSort, isHere],
  );
  const order = orderOf(columns, choice);
  const hidden = new Set(columns.filter((column) => !isShown(column, choice)).map(({ id }) => id));
  const sorting = isHere
    ? kept.by.filter(({ id }) => columns.some((column) => column.id === id && column.by))
    : readSort(columns, sort);
  const table = useReactTable<T>({
    data: rows as T[],
    columns: defs,
    getRowId: (row) => String(idOf(row)),
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    manualSorting: !isHere,
    maxMultiSortColCount: SEVERAL,
    manualPagination: true,
    columnResizeMode: 'onChange',
    state: {
      columnOrder: order,
      columnVisibility: Object.fromEntries([...hidden].map((id) => [id, false])),
      columnSizing: choice.widths,
      columnPinning: { left: order.filter((id) => !hidden.has(id)).slice(0, 1) },
      sorting,
    },
    onColumnOrderChange: (next) => setChoice((old) => ({ ...old, order: updated(next, orderOf(columns, old)) })),
    onColumnSizingChange: (next) => setChoice((old) => ({ ...old, widths: updated(next, old.widths) })),
    onSortingChange: (next) => {
      const by = updated(next, sorting);
      if (isHere) setKept({ by });
      else onSort?.(writeSort(columns, by));
    },
  });
  const shownIds = table.getVisibleLeafColumns().map((column) => column.id);
  const key = shownIds.join(' ');
  const shown = useMemo(
    () => key.split(' ').flatMap((id) => columns.find((column) => column.id === id) ?? []),
    [key, columns],
  );
  const sorted = isHere && sorting.length > 0 ? table.getSortedRowModel() : null;
  const inTurn = useMemo(() => (sorted ? sorted.rows.map((row) => row.original) : rows), [sorted, rows]);
  return { table, shown, rows: inTurn };
}
