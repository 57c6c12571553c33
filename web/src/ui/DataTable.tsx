import { useVirtualizer } from '@tanstack/react-virtual';
import { Columns3 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { KeyboardEvent, MouseEvent, ReactNode } from 'react';
import { chosenColumns } from './columns.ts';
import type { Column, ColumnChoice } from './columns.ts';
import { classes } from './classes.ts';
import { IconButton } from './controls.tsx';
import { CheckMenu } from './overlays.tsx';
import { HeadRow } from './TableHead.tsx';
import { useStored } from './useStored.ts';

export interface DataTableProps<T> {
  /** Names the list; its columns are remembered under it. */
  name: string;
  label: string;
  columns: readonly Column<T>[];
  rows: readonly T[];
  idOf: (row: T) => number;
  /** Rows in the whole list, which may be more than are loaded. */
  total: number;
  sort?: string;
  onSort?: (sort: string) => void;
  /** Asked when the end of the loaded rows comes near. */
  onMore?: () => void;
  /** The row shown in the peek. */
  openId?: number | null;
  onPeek?: (row: T) => void;
  hrefOf?: (row: T) => string;
  selected?: ReadonlySet<number>;
  onSelect?: (ids: ReadonlySet<number>) => void;
  toolbar?: ReactNode;
  empty: ReactNode;
  loading?: boolean;
}

const ROW = 32;
const NUMBER_WIDTH = 52;
const CHECK_WIDTH = 34;
const NO_CHOICE: ColumnChoice = { order: [], hidden: [], widths: {} };

/**
 * A list as a table of fixed rows: virtual, with columns that can be resized, dragged and hidden, a sticky
 * heading and first column, a footer with totals, and movement by keyboard.
 */
export function DataTable<T>(props: DataTableProps<T>) {
  const { rows, idOf, columns, onMore, selected, onSelect } = props;
  const [choice, setChoice] = useStored<ColumnChoice>(`columns:${props.name}`, {
    ...NO_CHOICE,
    hidden: columns.filter((column) => column.hidden).map((column) => column.id),
  });
  const shown = chosenColumns(columns, choice);
  const scroller = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState(0);
  const cursor = Math.max(0, Math.min(at, rows.length - 1));
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const lastShown = items.at(-1)?.index ?? 0;

  useEffect(() => {
    if (rows.length > 0 && rows.length < props.total && lastShown > rows.length - 30) onMore?.();
  }, [lastShown, rows.length, props.total, onMore]);

  const move = (to: number): void => {
    const next = Math.max(0, Math.min(rows.length - 1, to));
    setAt(next);
    virtual.scrollToIndex(next);
    const row = rows[next];
    if (row !== undefined && props.openId != null) props.onPeek?.(row);
  };
  const toggle = (id: number): void => {
    if (!selected || !onSelect) return;
    const next = new Set(selected);
    if (!next.delete(id)) next.add(id);
    onSelect(next);
  };
  const onKey = (event: KeyboardEvent): void => {
    if (event.ctrlKey || event.metaKey || event.altKey || (event.target as Element).closest('input, select, button'))
      return;
    const row = rows[cursor];
    const actions: Record<string, () => void> = {
      j: () => move(cursor + 1),
      ArrowDown: () => move(cursor + 1),
      k: () => move(cursor - 1),
      ArrowUp: () => move(cursor - 1),
      PageDown: () => move(cursor + 20),
      PageUp: () => move(cursor - 20),
      Home: () => move(0),
      End: () => move(rows.length - 1),
      ' ': () => row !== undefined && toggle(idOf(row)),
      Enter: () => {
        if (row === undefined) return;
        if (event.shiftKey && props.hrefOf) window.open(props.hrefOf(row), '_blank');
        else props.onPeek?.(row);
      },
    };
    const action = actions[event.key];
    if (!action) return;
    event.preventDefault();
    action();
  };
  const onRowClick = (event: MouseEvent, row: T, index: number): void => {
    if ((event.target as Element).closest('a, input, button')) return;
    setAt(index);
    if ((event.ctrlKey || event.metaKey || event.button === 1) && props.hrefOf)
      window.open(props.hrefOf(row), '_blank');
    else props.onPeek?.(row);
  };

  const before = items[0]?.start ?? 0;
  const after = virtual.getTotalSize() - (items.at(-1)?.end ?? 0);
  const width = shown.reduce((sum, column) => sum + column.width, NUMBER_WIDTH + (selected ? CHECK_WIDTH : 0));
  const leadWidth = NUMBER_WIDTH + (selected ? CHECK_WIDTH : 0);
  const hasFooter = shown.some((column) => column.footer !== undefined);

  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div className="flex items-center gap-2 border-b border-rule px-5 py-1.5">
        {props.toolbar}
        <div className="ml-auto">
          <CheckMenu
            label="Columns"
            trigger={
              <IconButton label="Choose columns">
                <Columns3 size={16} />
              </IconButton>
            }
            items={columns
              .slice(1)
              .map((column) => ({
                label: column.title,
                checked: !choice.hidden.includes(column.id),
                onChange: (checked) =>
                  setChoice((old) => ({
                    ...old,
                    hidden: checked ? old.hidden.filter((id) => id !== column.id) : [...old.hidden, column.id],
                  })),
              }))}
          />
        </div>
      </div>
      <div
        ref={scroller}
        tabIndex={0}
        role="region"
        aria-label={`${props.label}; j and k move, Enter peeks`}
        data-list={props.name}
        onKeyDown={onKey}
        className="min-h-0 flex-1 overflow-auto bg-sheet focus-visible:outline-offset-[-2px]"
      >
        {rows.length === 0 ? (
          props.loading ? (
            <p className="px-5 py-3 text-faded">Reading …</p>
          ) : (
            props.empty
          )
        ) : (
          <table
            aria-label={props.label}
            aria-rowcount={props.total}
            className="border-separate border-spacing-0"
            style={{ tableLayout: 'fixed', width }}
          >
            <colgroup>
              {selected && <col style={{ width: CHECK_WIDTH }} />}
              <col style={{ width: NUMBER_WIDTH }} />
              {shown.map((column) => (
                <col key={column.id} style={{ width: column.width }} />
              ))}
            </colgroup>
            <HeadRow
              columns={shown}
              allIds={columns.map((column) => column.id)}
              choice={choice}
              onChoice={setChoice}
              sort={props.sort}
              onSort={props.onSort}
              stickyLeft={leadWidth}
              lead={
                <>
                  {selected && (
                    <th className="sticky left-0 z-20 border-b border-rule bg-paper">
                      <input
                        type="checkbox"
                        aria-label="Select all loaded rows"
                        className="size-4 accent-(--slate)"
                        checked={rows.length > 0 && selected.size >= rows.length}
                        onChange={(event) => onSelect?.(new Set(event.target.checked ? rows.map(idOf) : []))}
                      />
                    </th>
                  )}
                  <th
                    scope="col"
                    className="sticky z-20 border-b border-rule bg-paper px-2 text-right text-[12px] font-normal text-faded"
                    style={{ left: selected ? CHECK_WIDTH : 0 }}
                  >
                    <span className="sr-only">Row</span>
                  </th>
                </>
              }
            />
            <tbody>
              {before > 0 && (
                <tr aria-hidden>
                  <td style={{ height: before }} />
                </tr>
              )}
              {items.map((item) => {
                const row = rows[item.index];
                if (row === undefined) return null;
                const id = idOf(row);
                const isOpen = props.openId === id;
                const shade =
                  selected?.has(id) || isOpen ? 'bg-chosen' : item.index === cursor ? 'bg-hover' : 'bg-sheet';
                return (
                  <tr
                    key={id}
                    data-row={id}
                    aria-rowindex={item.index + 1}
                    aria-selected={selected ? selected.has(id) : isOpen}
                    className="group cursor-pointer"
                    onClick={(event) => onRowClick(event, row, item.index)}
                    onAuxClick={(event) => event.button === 1 && onRowClick(event, row, item.index)}
                  >
                    {selected && (
                      <td className={classes('sticky left-0 z-10 border-b border-rule text-center', shade)}>
                        <input
                          type="checkbox"
                          tabIndex={-1}
                          aria-label={`Select row ${item.index + 1}`}
                          className="size-4 accent-(--slate)"
                          checked={selected.has(id)}
                          onChange={() => toggle(id)}
                        />
                      </td>
                    )}
                    <td
                      className={classes(
                        'sticky z-10 border-b border-rule px-2 text-right text-[12px] text-faded',
                        shade,
                      )}
                      style={{ left: selected ? CHECK_WIDTH : 0, height: ROW }}
                    >
                      {item.index === cursor ? <span className="text-slate">›</span> : null} {item.index + 1}
                    </td>
                    {shown.map((column, place) => (
                      <td
                        key={column.id}
                        className={classes(
                          'truncate border-b border-rule px-2 group-hover:bg-hover',
                          column.align === 'right' && 'text-right',
                          place === 0 && 'sticky z-10',
                          shade,
                        )}
                        style={place === 0 ? { left: leadWidth } : undefined}
                      >
                        {column.cell(row)}
                      </td>
                    ))}
                  </tr>
                );
              })}
              {after > 0 && (
                <tr aria-hidden>
                  <td style={{ height: after }} />
                </tr>
              )}
            </tbody>
            {hasFooter && (
              <tfoot>
                <tr>
                  <td
                    colSpan={selected ? 2 : 1}
                    className="sticky bottom-0 left-0 z-20 border-t border-rule bg-paper"
                  />
                  {shown.map((column, place) => (
                    <td
                      key={column.id}
                      className={classes(
                        'sticky bottom-0 z-10 h-8 truncate border-t border-rule bg-paper px-2 font-medium',
                        column.align === 'right' && 'text-right',
                        place === 0 && 'z-20',
                      )}
                      style={place === 0 ? { left: leadWidth } : undefined}
                    >
                      {column.footer}
                    </td>
                  ))}
                </tr>
              </tfoot>
            )}
          </table>
        )}
      </div>
    </div>
  );
}
