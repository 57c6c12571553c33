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
  if (props.rows.length === 0) return <p className="px-5 py-2 text-faded">None yet.</p>;
  return <DataTable {...props} short idOf={idOf} total={props.total ?? props.rows.length} empty={null} />;
}
