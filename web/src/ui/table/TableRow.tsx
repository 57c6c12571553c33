import { memo } from 'react';
import type { MouseEvent } from 'react';
import { Tick } from '../checks.tsx';
import { classes } from '../classes.ts';
import type { Column } from './columns.ts';

export const ROW = 32;
export const NUMBER_WIDTH = 52;
export const CHECK_WIDTH = 34;

interface RowProps<T> {
  row: T;
  id: number;
  /** The id of its element, by which the list says which row it is on. */
  elementId: string;
  index: number;
  columns: readonly Column<T>[];
  isCursor: boolean;
  isOpen: boolean;
  isSelected: boolean | null;
  onTick: (event: MouseEvent, index: number) => void;
  onClick: (event: MouseEvent, index: number) => void;
}

/** One row of a list: its box, its number, its cells; the first cells stay while the rest scrolls. */
function Row<T>(props: RowProps<T>) {
  const { row, id, index, isCursor, isSelected } = props;
  const shade = isSelected || props.isOpen ? 'bg-chosen' : isCursor ? 'bg-hover' : 'bg-sheet';
  const lead = isSelected === null ? 0 : CHECK_WIDTH;
  return (
    <tr
      role="row"
      id={props.elementId}
      data-row={id}
      aria-rowindex={index + 2}
      aria-selected={isSelected ?? props.isOpen}
      className={classes('group cursor-pointer', isCursor && 'forced-colors:outline-2')}
      onClick={(event) => props.onClick(event, index)}
      onAuxClick={(event) => event.button === 1 && props.onClick(event, index)}
    >
      {isSelected !== null && (
        <td role="gridcell" className={classes('sticky left-0 z-10 border-b border-rule text-center', shade)}>
          <Tick
            tabIndex={-1}
            aria-label={`Select row ${index + 1}`}
            checked={isSelected}
            onClick={(event) => props.onTick(event, index)}
          />
        </td>
      )}
      <td
        role="gridcell"
        className={classes(
          'sticky z-10 border-b border-rule px-2 text-right text-[12px] text-faded',
          shade,
          isCursor && 'shadow-[inset_3px_0_0_var(--slate)]',
        )}
        style={{ left: lead, height: ROW }}
      >
        {index + 1}
      </td>
      {props.columns.map((column, place) => (
        <td
          key={column.id}
          role={place === 0 ? 'rowheader' : 'gridcell'}
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

/** Drawn anew only when something of its own changed, so that moving through a list draws two rows. */
export const TableRow = memo(Row) as typeof Row;
