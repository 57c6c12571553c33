import { getCoreRowModel, useReactTable } from '@tanstack/react-table';
import type { ColumnDef, Updater } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useEffectEvent, useId, useMemo, useRef } from 'react';
import type { MouseEvent, ReactNode } from 'react';
import { Tick } from '../checks.tsx';
import { classes } from '../classes.ts';
import { useStored } from '../useStored.ts';
import { firstChoice, linesOf, orderOf } from './columns.ts';
import type { Column, ColumnChoice, GroupHeading } from './columns.ts';
import { ColumnsMenu } from './ColumnsMenu.tsx';
import { usePlace } from './places.ts';
import { HeadRow } from './TableHead.tsx';
import { CHECK_WIDTH, NUMBER_WIDTH, ROW, TableRow } from './TableRow.tsx';
import { useRows } from './useRows.ts';
import type { RowSelection } from './useRowSelection.ts';

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
  selection?: RowSelection;
  /** The groups of a grouped list, in order; their rows follow each other. */
  groups?: readonly GroupHeading[];
  /** Columns kept by whoever uses the table, for saved views; without them this browser remembers them. */
  choice?: ColumnChoice;
  onChoice?: (next: (old: ColumnChoice) => ColumnChoice) => void;
  toolbar?: ReactNode;
  /** Beside the columns' button, at the right. */
  tools?: ReactNode;
  empty: ReactNode;
  loading?: boolean;
}

const NO_GROUPS: readonly GroupHeading[] = [];
const updated = <S,>(updater: Updater<S>, old: S): S =>
  typeof updater === 'function' ? (updater as (old: S) => S)(old) : updater;

/** The columns of a list as chosen: TanStack's table keeps sizes, order, what is hidden, what is pinned and sorted. */
function useColumns<T>(
  { columns, rows, idOf, sort, onSort }: DataTableProps<T>,
  choice: ColumnChoice,
  setChoice: (next: (old: ColumnChoice) => ColumnChoice) => void,
) {
  const defs = useMemo(
    () =>
      columns.map((column): ColumnDef<T> => ({
        id: column.id,
        header: choice.names[column.id] || column.title,
        size: column.width,
        minSize: 48,
        accessorFn: () => null,
        enableSorting: column.sort !== undefined && onSort !== undefined,
      })),
    [columns, choice.names, onSort],
  );
  const order = orderOf(columns, choice);
  const sorted = columns.find((column) => column.sort !== undefined && column.sort === sort?.replace(/^-/, ''));
  const sorting = sorted ? [{ id: sorted.id, desc: sort?.startsWith('-') === true }] : [];
  const table = useReactTable<T>({
    data: rows as T[],
    columns: defs,
    getRowId: (row) => String(idOf(row)),
    getCoreRowModel: getCoreRowModel(),
    manualSorting: true,
    manualPagination: true,
    columnResizeMode: 'onChange',
    state: {
      columnOrder: order,
      columnVisibility: Object.fromEntries(choice.hidden.map((id) => [id, false])),
      columnSizing: choice.widths,
      columnPinning: { left: order.filter((id) => !choice.hidden.includes(id)).slice(0, 1) },
      sorting,
    },
    onColumnOrderChange: (next) => setChoice((old) => ({ ...old, order: updated(next, orderOf(columns, old)) })),
    onColumnSizingChange: (next) => setChoice((old) => ({ ...old, widths: updated(next, old.widths) })),
    onSortingChange: (next) => {
      const [first] = updated(next, sorting);
      const by = columns.find((column) => column.id === first?.id)?.sort;
      if (first && by !== undefined) onSort?.(`${first.desc ? '-' : ''}${by}`);
    },
  });
  const shownIds = table.getVisibleLeafColumns().map((column) => column.id);
  const key = shownIds.join(' ');
  const shown = useMemo(
    () => key.split(' ').flatMap((id) => columns.find((column) => column.id === id) ?? []),
    [key, columns],
  );
  return { table, shown };
}

/**
 * A list as a table of fixed rows: virtual, with columns that can be resized, moved and hidden, a sticky heading and
 * first column, a footer with totals. It is one stop of Tab, and says which row it is on; see `useRows` for its keys.
 */
export function DataTable<T>(props: DataTableProps<T>) {
  const { rows, idOf, columns, onMore, selection, groups = NO_GROUPS, onPeek, hrefOf } = props;
  const [stored, setStored] = useStored<ColumnChoice>(`columns:${props.name}`, firstChoice(columns));
  const [choice, setChoice] = props.choice && props.onChoice ? [props.choice, props.onChoice] : [stored, setStored];
  const { table, shown } = useColumns(props, choice, setChoice);
  const lines = useMemo(() => linesOf(rows.length, groups), [rows.length, groups]);
  const ids = useMemo(() => rows.map(idOf), [rows, idOf]);
  const scroller = useRef<HTMLDivElement>(null);
  const base = useId();
  const { place, remember } = usePlace(props.name);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
    initialOffset: place?.offset ?? 0,
    // The heading and the footer stay in sight; a row is not in sight beneath them.
    scrollMargin: ROW,
    scrollPaddingStart: ROW,
    scrollPaddingEnd: ROW,
  });
  const items = virtual.getVirtualItems();
  const lastShown = items.at(-1)?.index ?? 0;
  const bringUp = (index: number): void =>
    virtual.scrollToIndex(lines.findIndex((line) => line.kind === 'row' && line.index === index));
  /** Which peeks were asked for here and are not open yet; keys are quicker than the address. */
  const asked = useRef<number[]>([]);
  const peekAt = (index: number): void => {
    const row = rows[index];
    if (row === undefined) return;
    asked.current.push(idOf(row));
    onPeek?.(row);
  };
  const { cursor, onKey, onClick, onTick, setCursor } = useRows({
    ids,
    begin: place?.cursor ?? 0,
    selection,
    onPeek: onPeek && peekAt,
    onTab:
      hrefOf &&
      ((index) => {
        const row = rows[index];
        if (row !== undefined) window.open(hrefOf(row), '_blank');
      }),
    onMove: (index) => {
      bringUp(index);
      if (props.openId != null) peekAt(index);
    },
  });
  useEffect(() => remember({ cursor, offset: virtual.scrollOffset ?? 0 }));
  useEffect(() => {
    if (place) scroller.current?.focus({ preventScroll: true });
  }, [place]);

  useEffect(() => {
    if (rows.length > 0 && rows.length < props.total && lastShown > lines.length - 30) onMore?.();
  }, [lastShown, rows.length, lines.length, props.total, onMore]);

  // The peek may step to another record by itself; the list then shows that row.
  const showRow = (index: number): void => {
    setCursor(index);
    bringUp(index);
  };
  const follow = useEffectEvent((openId: number) => {
    const ours = asked.current.indexOf(openId);
    if (ours >= 0) return void asked.current.splice(0, ours + 1);
    const index = ids.indexOf(openId);
    if (index >= 0 && index !== cursor) showRow(index);
  });
  useEffect(() => {
    if (props.openId != null) follow(props.openId);
  }, [props.openId]);

  // Rows keep the same handlers, so that they are drawn anew only for what is theirs.
  const handlers = useRef({ onClick, onTick });
  useEffect(() => {
    handlers.current = { onClick, onTick };
  });
  const rowClick = useCallback((event: MouseEvent, index: number) => handlers.current.onClick(event, index), []);
  const rowTick = useCallback((event: MouseEvent, index: number) => handlers.current.onTick(event, index), []);

  const before = (items[0]?.start ?? ROW) - ROW;
  const after = virtual.getTotalSize() + ROW - (items.at(-1)?.end ?? ROW);
  const leadWidth = NUMBER_WIDTH + (selection ? CHECK_WIDTH : 0);
  const hasFooter = shown.some((column) => column.footer !== undefined);
  const rowElement = (id: number | undefined): string => `${base}-${id ?? ''}`;

  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-2 border-b border-rule px-5 py-1.5">
        {props.toolbar}
        <div className="ml-auto flex items-center gap-1">
          {props.tools}
          <ColumnsMenu columns={columns} choice={choice} onChoice={setChoice} />
        </div>
      </div>
      <div className="relative flex min-h-0 flex-1 flex-col">
        <div
          ref={scroller}
          tabIndex={0}
          role={rows.length === 0 ? 'region' : 'grid'}
          aria-label={props.label}
          aria-description="j and k move, Space selects, Enter peeks"
          {...(rows.length === 0
            ? {}
            : {
                'aria-rowcount': props.total + 1,
                'aria-multiselectable': selection !== undefined,
                'aria-activedescendant': rowElement(ids[cursor]),
              })}
          data-list={props.name}
          onKeyDown={onKey}
          className="peer min-h-0 flex-1 overflow-auto bg-sheet outline-none"
        >
          {rows.length === 0 ? (
            props.loading ? (
              <p className="px-5 py-3 text-faded">Reading …</p>
            ) : (
              props.empty
            )
          ) : (
            <table
              role="presentation"
              className="border-separate border-spacing-0"
              style={{ tableLayout: 'fixed', width: table.getTotalSize() + leadWidth }}
            >
              <colgroup>
                {selection && <col style={{ width: CHECK_WIDTH }} />}
                <col style={{ width: NUMBER_WIDTH }} />
                {table.getVisibleLeafColumns().map((column) => (
                  <col key={column.id} style={{ width: column.getSize() }} />
                ))}
              </colgroup>
              <HeadRow
                table={table}
                align={(id) => shown.find((column) => column.id === id)?.align}
                stickyLeft={leadWidth}
                lead={
                  <>
                    {selection && (
                      <th role="columnheader" className="sticky top-0 left-0 z-20 border-b border-rule bg-paper">
                        <Tick
                          aria-label="Select the whole list"
                          checked={selection.state === 'some' ? 'indeterminate' : selection.state === 'all'}
                          onChange={selection.setAll}
                        />
                      </th>
                    )}
                    <th
                      role="columnheader"
                      scope="col"
                      className="sticky top-0 z-20 border-b border-rule bg-paper px-2 text-right text-[12px] font-normal text-faded"
                      style={{ left: selection ? CHECK_WIDTH : 0 }}
                    >
                      <span className="sr-only">Row</span>
                    </th>
                  </>
                }
              />
              <tbody role="rowgroup">
                {before > 0 && (
                  <tr aria-hidden>
                    <td style={{ height: before }} />
                  </tr>
                )}
                {items.map((item) => {
                  const line = lines[item.index];
                  if (line?.kind === 'group')
                    return <GroupRow key={`group ${line.group.key}`} group={line.group} span={shown.length + 2} />;
                  const row = line ? rows[line.index] : undefined;
                  if (row === undefined || line === undefined) return null;
                  const id = idOf(row);
                  return (
                    <TableRow
                      key={id}
                      row={row}
                      id={id}
                      elementId={rowElement(id)}
                      index={line.index}
                      columns={shown}
                      isCursor={line.index === cursor}
                      isOpen={props.openId === id}
                      isSelected={selection ? selection.has(id) : null}
                      onTick={rowTick}
                      onClick={rowClick}
                    />
                  );
                })}
                {after > 0 && (
                  <tr aria-hidden>
                    <td style={{ height: after }} />
                  </tr>
                )}
              </tbody>
              {hasFooter && (
                <tfoot role="rowgroup">
                  <tr role="row">
                    <td
                      role="gridcell"
                      colSpan={selection ? 2 : 1}
                      className="sticky bottom-0 left-0 z-20 border-t border-rule bg-paper"
                    />
                    {shown.map((column, place) => (
                      <td
                        key={column.id}
                        role="gridcell"
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
        {/* The mark of the focus lies over the cells that stay, which would cover an outline of the list itself. */}
        <span
          aria-hidden
          className="pointer-events-none absolute inset-0 z-30 hidden outline-2 -outline-offset-2 outline-slate peer-focus-visible:block"
        />
      </div>
    </div>
  );
}

function GroupRow({ group, span }: { group: GroupHeading; span: number }) {
  return (
    <tr role="row" data-group={group.key}>
      <th
        role="rowheader"
        scope="rowgroup"
        colSpan={span}
        className="border-b border-rule bg-paper px-3 text-left font-normal"
        style={{ height: ROW }}
      >
        <span className="sticky left-3">
          <strong className="font-medium">{group.title}</strong>{' '}
          <span className="text-faded">
            {group.count.toLocaleString()}, {group.sum}
          </span>
        </span>
      </th>
    </tr>
  );
}
