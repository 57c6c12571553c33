import type { Header, Table } from '@tanstack/react-table';
import { useState } from 'react';
import type { KeyboardEvent, ReactNode } from 'react';
import { classes } from '../classes.ts';
import { moved, stepped } from './columns.ts';

const STEP = 16;

/**
 * The heading row: a click sorts, with Shift after what sorts already; a drag moves a column, the right edge of a
 * heading resizes it. By keyboard, on a heading: Ctrl with an arrow moves the column, Shift with an arrow makes it
 * narrower or wider.
 */
export function HeadRow<T>(props: {
  table: Table<T>;
  align: (id: string) => 'right' | undefined;
  lead: ReactNode;
  stickyLeft: number;
  short: boolean;
}) {
  const { table, short } = props;
  const { sorting } = table.getState();
  const bare = short && props.stickyLeft === 0;
  const [dragged, setDragged] = useState<string | null>(null);
  const order = table.getState().columnOrder;
  const hidden = Object.keys(table.getState().columnVisibility);
  const onKey = (event: KeyboardEvent, { column }: Header<T, unknown>): void => {
    const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : null;
    if (by === null || !(event.ctrlKey || event.shiftKey)) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.ctrlKey) table.setColumnOrder(stepped(order, hidden, column.id, by));
    else table.setColumnSizing((old) => ({ ...old, [column.id]: Math.max(48, column.getSize() + by * STEP) }));
  };
  return (
    <thead role="rowgroup">
      <tr role="row" aria-rowindex={1}>
        {props.lead}
        {table.getFlatHeaders().map((header, place) => {
          const { column } = header;
          const sorted = column.getIsSorted();
          const title = String(column.columnDef.header);
          const name = (
            <>
              {title === '' ? <span className="sr-only">Acts</span> : <span className="truncate">{title}</span>}
              {sorted && (
                <span aria-hidden className="shrink-0 whitespace-pre">
                  {sorted === 'desc' ? ' ↓' : ' ↑'}
                  {sorting.length > 1 && column.getSortIndex() + 1}
                </span>
              )}
            </>
          );
          const sort = (event: { shiftKey: boolean }): void =>
            event.shiftKey && sorted === 'desc' && sorting.length > 1
              ? column.clearSorting()
              : column.toggleSorting(sorted === 'asc', event.shiftKey);
          return (
            <th
              key={header.id}
              role="columnheader"
              scope="col"
              aria-sort={sorted ? (sorted === 'desc' ? 'descending' : 'ascending') : undefined}
              draggable
              onKeyDown={(event) => onKey(event, header)}
              onDragStart={() => setDragged(column.id)}
              onDragOver={(event) => event.preventDefault()}
              onDrop={() => {
                if (dragged && dragged !== column.id) table.setColumnOrder(moved(order, dragged, column.id));
                setDragged(null);
              }}
              className={classes(
                'sticky top-0 z-10 h-8 border-b border-rule bg-paper px-2 text-[12.5px] font-medium text-faded select-none',
                props.align(column.id) === 'right' ? 'text-right' : 'text-left',
                place === 0 && 'z-20',
                place === 0 && bare && 'pl-5',
                short && place === table.getVisibleLeafColumns().length - 1 && 'pr-9',
              )}
              style={place === 0 ? { left: props.stickyLeft } : undefined}
            >
              {column.getCanSort() ? (
                <button
                  type="button"
                  className={classes(
                    'inline-flex h-7 w-full min-w-6 items-center hover:text-ink',
                    props.align(column.id) === 'right' && 'justify-end',
                  )}
                  onClick={sort}
                >
                  {name}
                </button>
              ) : (
                name
              )}
              <span
                role="presentation"
                draggable
                onDragStart={(event) => {
                  event.preventDefault();
                  event.stopPropagation();
                }}
                onMouseDown={header.getResizeHandler()}
                onTouchStart={header.getResizeHandler()}
                className="absolute top-1 right-0 bottom-1 w-1.5 cursor-col-resize border-r border-rule hover:border-slate"
              />
            </th>
          );
        })}
      </tr>
    </thead>
  );
}
