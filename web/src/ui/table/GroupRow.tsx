import type { Column, GroupHeading } from './columns.ts';
import { ROW } from './TableRow.tsx';

const CELL = 'border-b border-rule bg-paper';

/** The heading of a group: what its rows share and how many they are, and under the columns what they come to. */
export function GroupRow<T>(props: { group: GroupHeading; columns: readonly Column<T>[]; lead: number }) {
  const { group, columns } = props;
  const first = columns.findIndex((column, place) => place > 0 && column.id in group.subtotals);
  const named = first < 0 ? columns.length : first;
  return (
    <tr role="row" data-group={group.key}>
      <th
        role="rowheader"
        scope="rowgroup"
        colSpan={props.lead + named}
        className={`${CELL} px-3 text-left font-normal`}
        style={{ height: ROW }}
      >
        <span className="sticky left-3">
          <strong className="font-medium">{group.title}</strong>{' '}
          <span className="text-faded">{group.count.toLocaleString()}</span>
        </span>
      </th>
      {columns.slice(named).map((column) => (
        <td key={column.id} role="gridcell" className={`${CELL} truncate px-2 text-right font-medium`}>
          {group.subtotals[column.id]}
        </td>
      ))}
    </tr>
  );
}
