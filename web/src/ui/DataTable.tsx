import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { KeyboardEvent, MouseEvent, ReactNode } from 'react';
import { chosenColumns, firstChoice, linesOf } from './columns.ts';
import type { Column, ColumnChoice, GroupHeading } from './columns.ts';
import { ColumnsMenu } from './ColumnsMenu.tsx';
import { Tick } from './checks.tsx';
import { classes } from './classes.ts';
import { HeadRow } from './TableHead.tsx';
import { CHECK_WIDTH, NUMBER_WIDTH, ROW, TableRow } from './TableRow.tsx';
import type { RowSelection } from './useRowSelection.ts';
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
  selection?: RowSelection;
  /** The groups of a grouped list, in order; their rows follow each other. */
  groups?: readonly GroupHeading[];
  /** Columns kept by whoever uses the table, for saved views; without them this browser remembers them. */
  choice?: ColumnChoice;
  onChoice?: (next: (old: ColumnChoice) => ColumnChoice) => void;
  toolbar?: ReactNode;
  empty: ReactNode;
  loading?: boolean;
}

const NO_GROUPS: readonly GroupHeading[] = [];

/**
 * A list as a table of fixed rows: virtual, with columns that can be resized, dragged and hidden, a sticky
 * heading and first column, a footer with totals, and movement by keyboard.
 */
export function DataTable<T>(props: DataTableProps<T>) {
  const { rows, idOf, columns, onMore, selection, groups = NO_GROUPS } = props;
  const [stored, setStored] = useStored<ColumnChoice>(`columns:${props.name}`, firstChoice(columns));
  const [choice, setChoice] = props.choice && props.onChoice ? [props.choice, props.onChoice] : [stored, setStored];
  const shown = chosenColumns(columns, choice);
  const lines = useMemo(() => linesOf(rows.length, groups), [rows.length, groups]);
  const scroller = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState(0);
  const cursor = Math.max(0, Math.min(at, rows.length - 1));
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const lastShown = items.at(-1)?.index ?? 0;

  useEffect(() => {
    if (rows.length > 0 && rows.length < props.total && lastShown > lines.length - 30) onMore?.();
  }, [lastShown, rows.length, lines.length, props.total, onMore]);

  const move = (to: number): void => {
    const next = Math.max(0, Math.min(rows.length - 1, to));
    setAt(next);
    virtual.scrollToIndex(lines.findIndex((line) => line.kind === 'row' && line.index === next));
    const row = rows[next];
    if (row !== undefined && props.openId != null) props.onPeek?.(row);
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
      ' ': () => row !== undefined && selection?.toggle(idOf(row)),
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
  const width = shown.reduce((sum, column) => sum + column.width, NUMBER_WIDTH + (selection ? CHECK_WIDTH : 0));
  const leadWidth = NUMBER_WIDTH + (selection ? CHECK_WIDTH : 0);
  const hasFooter = shown.some((column) => column.footer !== undefined);

  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-2 border-b border-rule px-5 py-1.5">
        {props.toolbar}
        <div className="ml-auto">
          <ColumnsMenu columns={columns} choice={choice} onChoice={setChoice} />
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
              {selection && <col style={{ width: CHECK_WIDTH }} />}
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
                  {selection && (
                    <th className="sticky left-0 z-20 border-b border-rule bg-paper">
                      <Tick
                        aria-label="Select the whole list"
                        checked={selection.state === 'some' ? 'indeterminate' : selection.state === 'all'}
                        onChange={selection.setAll}
                      />
                    </th>
                  )}
                  <th
                    scope="col"
                    className="sticky z-20 border-b border-rule bg-paper px-2 text-right text-[12px] font-normal text-faded"
                    style={{ left: selection ? CHECK_WIDTH : 0 }}
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
                    index={line.index}
                    columns={shown}
                    isCursor={line.index === cursor}
                    isOpen={props.openId === id}
                    isSelected={selection ? selection.has(id) : null}
                    onToggle={() => selection?.toggle(id)}
                    onClick={(event) => onRowClick(event, row, line.index)}
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
              <tfoot>
                <tr>
                  <td
                    colSpan={selection ? 2 : 1}
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

function GroupRow({ group, span }: { group: GroupHeading; span: number }) {
  return (
    <tr data-group={group.key}>
      <th
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
