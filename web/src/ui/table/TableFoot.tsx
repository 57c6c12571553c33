import { classes } from '../classes.ts';
import type { Column } from './columns.ts';

/** The totals of a list, which stay in sight below it. */
export function FootRow<T>(props: { columns: readonly Column<T>[]; lead: number; stickyLeft: number }) {
  return (
    <tfoot role="rowgroup">
      <tr role="row">
        {props.lead > 0 && (
          <td
            role="gridcell"
            colSpan={props.lead}
            className="sticky bottom-0 left-0 z-20 border-t border-rule bg-paper"
          />
        )}
        {props.columns.map((column, place) => (
          <td
            key={column.id}
            role="gridcell"
            className={classes(
              'sticky bottom-0 z-10 h-8 truncate border-t border-rule bg-paper px-2 font-medium',
              column.align === 'right' && 'text-right',
              place === 0 && 'z-20',
              place === 0 && props.lead === 0 && 'pl-5',
            )}
            style={place === 0 ? { left: props.stickyLeft } : undefined}
          >
            {column.footer}
          </td>
        ))}
      </tr>
    </tfoot>
  );
}
