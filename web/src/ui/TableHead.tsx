import { useState } from 'react';
import type { PointerEvent, ReactNode } from 'react';
import { moved } from './columns.ts';
import type { Column, ColumnChoice } from './columns.ts';
import { classes } from './classes.ts';
import { dragEdge } from './dragEdge.ts';

/** The heading row: a click sorts, a drag moves a column, the right edge of a heading resizes it. */
export function HeadRow<T>(props: {
  columns: readonly Column<T>[];
  allIds: readonly string[];
  choice: ColumnChoice;
  onChoice: (next: (old: ColumnChoice) => ColumnChoice) => void;
  sort?: string | undefined;
  onSort?: ((sort: string) => void) | undefined;
  stickyLeft: number;
  lead: ReactNode;
}) {
  const [dragged, setDragged] = useState<string | null>(null);
  const order = [
    ...props.choice.order.filter((id) => props.allIds.includes(id)),
    ...props.allIds.filter((id) => !props.choice.order.includes(id)),
  ];

  const resize = (event: PointerEvent<HTMLElement>, column: Column<T>): void =>
    dragEdge(event, (by) =>
      props.onChoice((old) => ({ ...old, widths: { ...old.widths, [column.id]: Math.max(48, column.width + by) } })),
    );

  return (
    <thead>
      <tr>
        {props.lead}
        {props.columns.map((column, place) => {
          const by = props.sort?.replace(/^-/, '');
          const active = column.sort !== undefined && by === column.sort;
          const down = active && props.sort?.startsWith('-');
          const name = (
            <>
              {column.title}
              {active && <span aria-hidden>{down ? ' ↓' : ' ↑'}</span>}
            </>
          );
          return (
            <th
              key={column.id}
              scope="col"
              aria-sort={active ? (down ? 'descending' : 'ascending') : undefined}
              draggable
              onDragStart={() => setDragged(column.id)}
              onDragOver={(event) => event.preventDefault()}
              onDrop={() => {
                if (dragged && dragged !== column.id)
                  props.onChoice((old) => ({ ...old, order: moved(order, dragged, column.id) }));
                setDragged(null);
              }}
              className={classes(
                'sticky top-0 z-10 h-8 border-b border-rule bg-paper px-2 text-[12.5px] font-medium text-faded select-none',
                column.align === 'right' ? 'text-right' : 'text-left',
                place === 0 && 'z-20',
              )}
              style={place === 0 ? { left: props.stickyLeft } : undefined}
            >
              {column.sort && props.onSort ? (
                <button
                  type="button"
                  className="hover:text-ink"
                  onClick={() => props.onSort?.(active && !down ? `-${column.sort}` : `${column.sort}`)}
                >
                  {name}
                </button>
              ) : (
                name
              )}
              <span
                role="presentation"
                onPointerDown={(event) => resize(event, column)}
                className="absolute top-1 right-0 bottom-1 w-1.5 cursor-col-resize border-r border-rule hover:border-slate"
              />
            </th>
          );
        })}
      </tr>
    </thead>
  );
}
