import type { MouseEvent } from 'react';
import { Tick } from './checks.tsx';
import { classes } from './classes.ts';
import type { Column } from './columns.ts';

export const ROW = 32;
export const NUMBER_WIDTH = 52;
export const CHECK_WIDTH = 34;

/** One row of a list: its box, its number, its cells; the first cells stay while the rest scrolls. */
export function TableRow<T>(props: {
  row: T;
  id: number;
  index: number;
  columns: readonly Column<T>[];
  isCursor: boolean;
  isOpen: boolean;
  isSelected: boolean | null;
  onToggle: () => void;
  onClick: (event: MouseEvent) => void;
}) {
  const { row, id, index, isCursor, isSelected } = props;
  const shade = isSelected || props.isOpen ? 'bg-chosen' : isCursor ? 'bg-hover' : 'bg-sheet';
  const lead = isSelected === null ? 0 : CHECK_WIDTH;
  return (
    <tr
      data-row={id}
      aria-rowindex={index + 1}
      aria-selected={isSelected ?? props.isOpen}
      className="group cursor-pointer"
      onClick={props.onClick}
      onAuxClick={(event) => event.button === 1 && props.onClick(event)}
    >
      {isSelected !== null && (
        <td className={classes('sticky left-0 z-10 border-b border-rule text-center', shade)}>
          <Tick tabIndex={-1} aria-label={`Select row ${index + 1}`} checked={isSelected} onChange={props.onToggle} />
        </td>
      )}
      <td
        className={classes('sticky z-10 border-b border-rule px-2 text-right text-[12px] text-faded', shade)}
        style={{ left: lead, height: ROW }}
      >
        {isCursor ? <span className="text-slate">›</span> : null} {index + 1}
      </td>
      {props.columns.map((column, place) => (
        <td
          key={column.id}
          className={classes(
            'truncate border-b border-rule px-2 group-hover:bg-hover',
            column.align === 'right' && 'text-right',
            place === 0 && 'sticky z-10',
            shade,
          )}
          style={place === 0 ? { left: lead + NUMBER_WIDTH } : undefined}
        >
          {column.cell(row)}
        </td>
      ))}
    </tr>
  );
}
