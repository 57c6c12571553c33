import { DataTable } from './DataTable.tsx';
import type { DataTableProps } from './DataTable.tsx';

const idOf = (row: { id: number }): number => row.id;

/**
 * A list among other things on a page: as tall as its rows, and as wide as there is room. It is sorted here once all
 * of it is here; `total` says how many rows there are, where those shown may be fewer.
 */
export function ShortTable<T extends { id: number }>(
  props: Pick<DataTableProps<T>, 'name' | 'label' | 'columns' | 'rows' | 'selection'> & { total?: number },
) {
  return <DataTable {...props} short idOf={idOf} total={props.total ?? props.rows.length} empty={null} />;
}
