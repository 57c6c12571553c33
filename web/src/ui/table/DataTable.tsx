import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useEffectEvent, useId, useMemo, useRef } from 'react';
import type { MouseEvent, ReactNode } from 'react';
import { Tick } from '../checks.tsx';
import { classes } from '../classes.ts';
import { useStored } from '../useStored.ts';
import { linesOf, NO_CHOICE } from './columns.ts';
import type { ColumnChoice, GroupHeading } from './columns.ts';
import { ColumnsMenu } from './ColumnsMenu.tsx';
import { GroupRow } from './GroupRow.tsx';
import { usePlace } from './places.ts';
import { FootRow } from './TableFoot.tsx';
import { HeadRow } from './TableHead.tsx';
import { CHECK_WIDTH, NUMBER_WIDTH, ROW, TableRow } from './TableRow.tsx';
import { useColumns } from './useColumns.ts';
import type { Listed } from './useColumns.ts';
import { useRows } from './useRows.ts';
import type { RowSelection } from './useRowSelection.ts';

export interface DataTableProps<T> extends Listed<T> {
  label: string;
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
  /** In place of the menu of columns, where whoever uses the table has another way to choose them. */
  menu?: ReactNode;
  /** Beside the columns' button, at the right. */
  tools?: ReactNode;
  empty: ReactNode;
  loading?: boolean;
  /** As tall as its rows, among other things on a page, and without their numbers. */
  short?: boolean;
}

/** Rows drawn above and below those in sight. */
const OVERSCAN = 8;
const NO_GROUPS: readonly GroupHeading[] = [];

/**
 * A list as a table of fixed rows: virtual, with columns that can be resized, moved and hidden, a sticky heading and
 * first column, a footer with totals. It is one stop of Tab, and says which row it is on; see `useRows` for its keys.
 */
export function DataTable<T>(props: DataTableProps<T>) {
  const { idOf, columns, onMore, selection, groups = NO_GROUPS, onPeek, hrefOf, short = false } = props;
  const [stored, setStored] = useStored<ColumnChoice>(`columns:${props.name}`, NO_CHOICE);
  const [choice, setChoice] = props.choice && props.onChoice ? [props.choice, props.onChoice] : [stored, setStored];
  const { table, shown, rows } = useColumns(props, choice, setChoice);
  const lines = useMemo(() => linesOf(rows.length, groups), [rows.length, groups]);
  const ids = useMemo(() => rows.map(idOf), [rows, idOf]);
  const scroller = useRef<HTMLDivElement>(null);
  const base = useId();
  const rowElement = (id: number | undefined): string => `${base}-${id ?? ''}`;
  const { place, remember } = usePlace(props.name);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: OVERSCAN,
    // Rows are drawn with the next frame, and not in the midst of a turn of the wheel.
    useFlushSync: false,
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
  /** Where nothing is peeked at, Enter follows what the row leads to. */
  const follow = (index: number): void =>
    document.getElementById(rowElement(ids[index]))?.querySelector<HTMLElement>('a[href]')?.click();
  const { cursor, onKey, onClick, onTick, setCursor } = useRows({
    ids,
    begin: place?.cursor ?? 0,
    selection,
    onPeek: onPeek && peekAt,
    onEnter: onPeek ? peekAt : follow,
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
  useEffect(() => {
    // Of several short lists on a page, the one that was left is the one to come back to.
    if (!short || scroller.current?.contains(document.activeElement))
      remember({ cursor, offset: virtual.scrollOffset ?? 0 });
  });
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
  const showPeeked = useEffectEvent((openId: number) => {
    const ours = asked.current.indexOf(openId);
    if (ours >= 0) return void asked.current.splice(0, ours + 1);
    const index = ids.indexOf(openId);
    if (index >= 0 && index !== cursor) showRow(index);
  });
  useEffect(() => {
    if (props.openId != null) showPeeked(props.openId);
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
  const leadWidth = (short ? 0 : NUMBER_WIDTH) + (selection ? CHECK_WIDTH : 0);
  const lead = (short ? 0 : 1) + (selection ? 1 : 0);
  const hasFooter = shown.some((column) => column.footer !== undefined);
  const hasGrown = shown.find((column) => column.grow) ?? (short ? shown.at(-1) : undefined);
  const grown = hasGrown && choice.widths[hasGrown.id] === undefined ? hasGrown.id : null;
  const menu = props.menu ?? <ColumnsMenu columns={columns} choice={choice} onChoice={setChoice} />;

  return (
    <div className={classes('flex min-w-0 flex-col', !short && 'min-h-0 flex-1')}>
      {!short && (
        <div className="flex flex-wrap items-center gap-2 border-b border-rule px-5 py-1.5">
          {props.toolbar}
          <div className="ml-auto flex items-center gap-1">
            {props.tools}
            {menu}
          </div>
        </div>
      )}
      <div className={classes('relative flex flex-col', !short && 'min-h-0 flex-1')}>
        {short && rows.length > 0 && <div className="absolute top-0.5 right-1 z-30 bg-paper">{menu}</div>}
        <div
          ref={scroller}
          tabIndex={0}
          role={rows.length === 0 ? 'region' : 'grid'}
          aria-label={props.label}
          aria-description={`j and k move${selection ? ', Space selects' : ''}, Enter ${onPeek ? 'peeks' : 'opens'}`}
          {...(rows.length === 0
            ? {}
            : {
                'aria-rowcount': Number.isSafeInteger(props.total + 1) ? props.total + 1 : -1,
                'aria-multiselectable': selection !== undefined,
                'aria-activedescendant': rowElement(ids[cursor]),
              })}
          data-list={props.name}
          onKeyDown={onKey}
          className={classes(
            'group/list peer bg-sheet outline-none',
            short ? 'overflow-x-auto' : 'min-h-0 flex-1 overflow-auto',
          )}
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
              style={{
                tableLayout: 'fixed',
                ...(grown === null
                  ? { width: table.getTotalSize() + leadWidth }
                  : { width: '100%', minWidth: table.getTotalSize() + leadWidth }),
              }}
            >
              <colgroup>
                {selection && <col style={{ width: CHECK_WIDTH }} />}
                {!short && <col style={{ width: NUMBER_WIDTH }} />}
                {table.getVisibleLeafColumns().map((column) => (
                  <col key={column.id} style={column.id === grown ? undefined : { width: column.getSize() }} />
                ))}
              </colgroup>
              <HeadRow
                table={table}
                align={(id) => shown.find((column) => column.id === id)?.align}
                stickyLeft={leadWidth}
                short={short}
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
                    {!short && (
                      <th
                        role="columnheader"
                        scope="col"
                        className="sticky top-0 z-20 border-b border-rule bg-paper px-2 text-right text-[12px] font-normal text-faded"
                        style={{ left: selection ? CHECK_WIDTH : 0 }}
                      >
                        <span className="sr-only">Row</span>
                      </th>
                    )}
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
                    return <GroupRow key={`group ${line.group.key}`} group={line.group} columns={shown} lead={lead} />;
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
                      numbered={!short}
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
              {hasFooter && <FootRow columns={shown} lead={lead} stickyLeft={leadWidth} />}
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
