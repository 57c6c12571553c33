import { memo } from 'react';
import type { MouseEvent } from 'react';
import { RowTick } from '../checks.tsx';
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
  /** Whether its number stands before it. */
  numbered: boolean;
  isCursor: boolean;
  isOpen: boolean;
  isSelected: boolean | null;
  onTick: (event: MouseEvent, index: number) => void;
  onClick: (event: MouseEvent, index: number) => void;
}

/** How the row is marked that keys are on; in a short list, of which a page may have several, only while keys go there. */
const MARKS = {
  always: ['bg-hover', 'shadow-[inset_3px_0_0_var(--slate)]'],
  focused: ['bg-sheet group-focus-within/list:bg-hover', 'group-focus-within/list:shadow-[inset_3px_0_0_var(--slate)]'],
} as const;

/* Rows are drawn by the dozen in a frame: their class names are put together without looking for what contradicts. */

/** One row of a list: its box, its number, its cells; the first cells stay while the rest scrolls. */
function Row<T>(props: RowProps<T>) {
  const { row, id, index, isCursor, isSelected, numbered } = props;
  const [hover, inset] = numbered ? MARKS.always : MARKS.focused;
  const shade = isSelected || props.isOpen ? 'bg-chosen' : isCursor ? hover : 'bg-sheet';
  const lead = isSelected === null ? 0 : CHECK_WIDTH;
  const mark = isCursor ? inset : '';
  return (
    <tr
      role="row"
      id={props.elementId}
      data-row={id}
      aria-rowindex={index + 2}
      aria-selected={isSelected ?? props.isOpen}
      data-cursor={isCursor ? '' : undefined}
      className="group cursor-pointer"
      onClick={(event) => props.onClick(event, index)}
      onAuxClick={(event) => event.button === 1 && props.onClick(event, index)}
    >
      {isSelected !== null && (
        <td role="gridcell" className={`sticky left-0 z-10 border-b border-rule text-center ${shade}`}>
          <RowTick
            label={`Select row ${index + 1}`}
            checked={isSelected}
            onClick={(event) => props.onTick(event, index)}
          />
        </td>
      )}
      {numbered && (
        <td
          role="gridcell"
          className={`sticky z-10 border-b border-rule px-2 text-right text-[12px] text-faded ${shade} ${mark}`}
          style={{ left: lead, height: ROW }}
        >
          {index + 1}
        </td>
      )}
      {props.columns.map((column, place) => {
        const shown = column.cell(row);
        return (
          <td
            key={column.id}
            role={place === 0 ? 'rowheader' : 'gridcell'}
            title={typeof shown === 'string' && shown.length > 12 ? shown : undefined}
            className={`truncate border-b border-rule group-hover:bg-hover ${place === 0 ? (numbered || lead > 0 ? 'sticky z-10 px-2' : 'sticky z-10 pr-2 pl-5') : 'px-2'} ${column.align === 'right' ? 'text-right' : ''} ${shade} ${place === 0 && !numbered ? mark : ''}`}
            style={place === 0 ? { left: lead + (numbered ? NUMBER_WIDTH : 0), height: ROW } : undefined}
          >
            {shown}
          </td>
        );
      })}
    </tr>
  );
}

/** Drawn anew only when something of its own changed, so that moving through a list draws two rows. */
export const TableRow = memo(Row) as typeof Row;
