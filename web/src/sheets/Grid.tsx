import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { ClipboardEvent, KeyboardEvent } from 'react';
import {
  copied,
  filledDown,
  isAboutSupporter,
  isEmptyRow,
  meant,
  pasted,
  readBlock,
  withCell,
  withSupporter,
} from '@tallystick/core/sheets';
import type { Block, SheetColumn, SheetRow } from '@tallystick/core/sheets';
import { classes } from '../ui/classes.ts';
import { dragEdge } from '../ui/dragEdge.ts';
import { StateWord } from '../ui/controls.tsx';
import { useFoundSupporters } from '../ui/useFoundSupporters.ts';
import { CellNote } from './CellNote.tsx';
import { newKey } from './useSheet.ts';
import type { Person, RowRemarks, TypedName } from './useSheet.ts';

const ROW = 30;
const NUMBERS = 44;
const STATES = 124;

interface Props {
  rows: readonly SheetRow[];
  columns: readonly SheetColumn[];
  headingOf: (field: string) => string;
  people: ReadonlyMap<number, Person>;
  own: readonly number[];
  /** What the last check said, by the key of the row. */
  remarks: ReadonlyMap<string, RowRemarks>;
  /** Names to choose from in a column, if it has any. */
  choicesOf: (field: string) => readonly string[];
  readOnly: boolean;
  /** Ctrl+Enter. */
  onPost: () => void;
  onChange: (work: (old: readonly SheetRow[]) => readonly SheetRow[]) => void;
  /** A column's edge was dragged to another width. */
  onWidth: (field: string, width: number) => void;
  /** A name that was left before it was known whom it means. */
  onLookup: (key: string, name: TypedName, found: Promise<number | null>) => void;
}
interface At {
  row: number;
  column: number;
}

/** A grid that never needs the mouse. One text box stands in the cell that is being worked on. */
export function Grid(props: Props) {
  const { rows, people, own, remarks, readOnly } = props;
  /** The column whose edge is being dragged, as wide as it is by now. */
  const [dragged, setDragged] = useState<{ field: string; width: number } | null>(null);
  const columns = props.columns.map((one) => (one.field === dragged?.field ? { ...one, width: dragged.width } : one));
  const [at, setAt] = useState<At>({ row: 0, column: 0 });
  const [end, setEnd] = useState<At | null>(null);
  /** What is being typed; null while one moves from cell to cell. */
  const [typing, setTyping] = useState<string | null>(null);
  /** The place in the list that the arrows chose; null is whoever what was typed means. */
  const [found, setFound] = useState<number | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const input = useRef<HTMLInputElement>(null);
  /** The text box takes the focus where it appears, unless the person is at work outside the grid. */
  const hold = useCallback((element: HTMLInputElement | null) => {
    input.current = element;
    const active = document.activeElement;
    const free = active === null || active.matches('body, main') || box.current?.contains(active) === true;
    if (free) element?.focus({ preventScroll: true });
  }, []);
  const fields = columns.map((column) => column.field);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const row = rows[at.row];
  const column = columns[at.column];
  const finding = at.column === 0 && typing !== null;
  const search = useFoundSupporters(typing ?? '', 7, finding);
  const offered = finding ? search.rows : [];
  const marked = found ?? meant(typing ?? '', offered);
  const block: Block = {
    top: Math.min(at.row, end?.row ?? at.row),
    bottom: Math.max(at.row, end?.row ?? at.row),
    left: Math.min(at.column, end?.column ?? at.column),
    right: Math.max(at.column, end?.column ?? at.column),
  };

  useEffect(() => {
    virtual.scrollToIndex(at.row);
    input.current?.focus({ preventScroll: true });
    box.current
      ?.querySelector(`[data-cell="${at.row}:${at.column}"]`)
      ?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [at, virtual]);

  const shownIn = (one: SheetRow, field: string): { text: string; faded: boolean } => {
    const typed = one.cells[field] ?? '';
    const known = one.supporterId === null ? undefined : people.get(one.supporterId);
    if (field === fields[0] && one.supporterId !== null)
      return { text: known ? known.name : `S-${one.supporterId}`, faded: false };
    if (typed !== '') return { text: typed, faded: false };
    if (known && isAboutSupporter(field as SheetColumn['field'], own))
      return { text: known.cells[field] ?? '', faded: true };
    const byDefault = columns.find((other) => other.field === field)?.byDefault ?? '';
    return { text: isEmptyRow(one) ? '' : byDefault, faded: true };
  };
  /**
   * What the check says of a row as it stands: nothing while it waits to be checked again, and of a new row that is
   * still being typed nothing about what is empty yet.
   */
  const saidOf = (one: SheetRow, place: number): RowRemarks | undefined => {
    const said = remarks.get(one.key);
    if (!said || said.of !== one) return undefined;
    if (place !== at.row || place < rows.length - 2) return said;
    return {
      ...said,
      problems: said.problems.filter(({ field }) => field === null || shownIn(one, field).text !== ''),
    };
  };
  /** What is about someone known is shown; it is typed over only after F2 asks for a change. */
  const locked =
    row !== undefined &&
    row.supporterId !== null &&
    at.column > 0 &&
    column !== undefined &&
    isAboutSupporter(column.field, own);

  const change = (work: (old: readonly SheetRow[]) => readonly SheetRow[]): void => {
    // The empty row at the end is made real by the first thing typed in it.
    props.onChange((old) =>
      work(row && !old.some((one) => one.key === row.key) ? [...old, ...rows.slice(old.length)] : old),
    );
  };
  const put = (work: (one: SheetRow) => SheetRow): void =>
    change((old) => old.map((one) => (one.key === row?.key ? work(one) : one)));

  const move = (down: number, right: number, extend = false): void => {
    const from = extend ? (end ?? at) : at;
    const next = {
      row: Math.max(0, Math.min(rows.length - 1, from.row + down)),
      column: Math.max(0, Math.min(columns.length - 1, from.column + right)),
    };
    if (extend) return setEnd(next);
    setEnd(null);
    setAt(next);
  };
  const along = (step: 1 | -1): void => {
    setEnd(null);
    setAt((old) => {
      const place = old.row * columns.length + old.column + step;
      const last = rows.length * columns.length - 1;
      const next = Math.max(0, Math.min(last, place));
      return { row: Math.floor(next / columns.length), column: next % columns.length };
    });
  };
  const take = (person: { id: number } | undefined): void => {
    const text = (typing ?? '').trim();
    setTyping(null);
    setFound(null);
    const name = { field: fields[0] ?? ('wholeName' as const), text };
    put((one) => withSupporter(one, person?.id ?? null, name, own));
  };
  /** Keeps what was typed; in the cell of names, that is whoever is marked in the list. */
  const commit = (): void => {
    if (typing === null || !row || !column) return;
    if (at.column > 0) {
      setTyping(null);
      return put((one) => withCell(one, column.field, typing.trim(), own));
    }
    const text = typing.trim();
    if (text === '') return take(undefined);
    if (search.fresh) return take(offered[found ?? meant(text, offered)]);
    // Typing never waits for the network: the name stands as it is typed until the answer says whom it means.
    take(undefined);
    const name = { field: fields[0] ?? ('wholeName' as const), text };
    props.onLookup(
      row.key,
      name,
      search.certain().then((list) => list[found ?? meant(text, list)]?.id ?? null),
    );
  };
  const moveAfter = (go: () => void): void => {
    commit();
    go();
  };

  const onKey = (event: KeyboardEvent<HTMLInputElement>): void => {
    const ctrl = event.ctrlKey || event.metaKey;
    const stop = (): void => event.preventDefault();
    if (event.key === 'Tab') {
      stop();
      return moveAfter(() => along(event.shiftKey ? -1 : 1));
    }
    if (event.key === 'Enter') {
      stop();
      if (ctrl) {
        commit();
        return props.onPost();
      }
      return moveAfter(() => {
        setEnd(null);
        setAt({ row: Math.min(rows.length - 1, at.row + 1), column: 0 });
      });
    }
    if (typing !== null) {
      if (event.key === 'Escape') {
        stop();
        setTyping(null);
      } else if (finding && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
        stop();
        // One past the last is “someone new”.
        setFound(Math.max(0, Math.min(offered.length, marked + (event.key === 'ArrowDown' ? 1 : -1))));
      } else if (!finding && props.choicesOf(column?.field ?? '').length === 0 && /^Arrow(Up|Down)$/.test(event.key)) {
        stop();
        moveAfter(() => move(event.key === 'ArrowDown' ? 1 : -1, 0));
      }
      return;
    }
    const arrows: Record<string, [number, number]> = {
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      PageDown: [15, 0],
      PageUp: [-15, 0],
    };
    const arrow = arrows[event.key];
    if (arrow) {
      stop();
      return move(arrow[0], arrow[1], event.shiftKey);
    }
    if (event.key === 'Home' || event.key === 'End') {
      stop();
      const to = event.key === 'Home' ? 0 : columns.length - 1;
      return setAt({ row: ctrl ? (to === 0 ? 0 : rows.length - 1) : at.row, column: to });
    }
    if (readOnly) return;
    if (ctrl && event.key.toLowerCase() === 'd') {
      stop();
      return change((old) => filledDown(old, fields, block, newKey, own));
    }
    if (event.key === 'F2') {
      stop();
      return setTyping(at.column === 0 ? '' : (row && shownIn(row, column?.field ?? '').text) || '');
    }
    if (event.key === 'Delete' || event.key === 'Backspace') {
      stop();
      return change((old) =>
        old.map((one, place) => {
          if (place < block.top || place > block.bottom) return one;
          let next = one;
          for (let index = block.left; index <= block.right; index++) {
            const field = fields[index];
            if (field === undefined) continue;
            next = index === 0 ? withSupporter(next, null, { field, text: '' }, own) : withCell(next, field, '', own);
          }
          return next;
        }),
      );
    }
    if (event.key.length === 1 && !ctrl && !event.altKey) {
      stop();
      if (locked) return;
      setFound(null);
      setTyping(event.key);
    }
  };
  const onPaste = (event: ClipboardEvent): void => {
    if (readOnly || typing !== null) return;
    event.preventDefault();
    const lines = readBlock(event.clipboardData.getData('text/plain'));
    change((old) => pasted(old, fields, at, lines, newKey, own));
  };
  const onCopy = (event: ClipboardEvent): void => {
    if (typing !== null) return;
    event.preventDefault();
    const lines = rows
      .slice(block.top, block.bottom + 1)
      .map((one) => fields.slice(block.left, block.right + 1).map((field) => shownIn(one, field).text));
    event.clipboardData.setData('text/plain', copied(lines));
  };

  const width = NUMBERS + STATES + columns.reduce((sum, one) => sum + one.width, 0);
  const cellAt = (place: number, index: number): string => {
    const inBlock = place >= block.top && place <= block.bottom && index >= block.left && index <= block.right;
    return inBlock && end !== null ? 'bg-chosen' : '';
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div
        ref={box}
        role="grid"
        aria-label="Rows of the sheet"
        aria-rowcount={rows.length}
        className="min-h-0 flex-1 overflow-auto bg-sheet"
        onMouseDown={(event) => event.target === box.current && input.current?.focus()}
      >
        <div
          role="row"
          className="sticky top-0 z-20 flex border-b border-rule bg-paper text-[12.5px] font-medium text-faded"
          style={{ width }}
        >
          <span
            role="columnheader"
            className="sticky left-0 z-10 shrink-0 bg-paper py-1 pl-12"
            style={{ width: NUMBERS + STATES }}
          >
            State
          </span>
          {columns.map((one) => (
            <span
              key={one.field}
              role="columnheader"
              className="relative shrink-0 truncate border-l border-rule px-2 py-1"
              style={{ width: one.width }}
            >
              {props.headingOf(one.field)}
              {one.required && <span title="required"> *</span>}
              {!readOnly && (
                <span
                  role="presentation"
                  className="absolute inset-y-0 right-0 w-1.5 cursor-col-resize hover:bg-slate"
                  onPointerDown={(event) => {
                    const widthBy = (by: number): number => Math.max(40, Math.min(600, one.width + by));
                    dragEdge(
                      event,
                      (by) => setDragged({ field: one.field, width: widthBy(by) }),
                      (by) => by !== 0 && props.onWidth(one.field, widthBy(by)),
                    );
                  }}
                />
              )}
            </span>
          ))}
        </div>
        <div className="relative" style={{ height: virtual.getTotalSize(), width }}>
          {virtual.getVirtualItems().map((item) => {
            const one = rows[item.index];
            if (!one) return null;
            const said = saidOf(one, item.index);
            const empty = isEmptyRow(one);
            return (
              <div
                key={one.key}
                role="row"
                aria-rowindex={item.index + 1}
                data-row={item.index}
                className="absolute flex border-b border-rule"
                style={{ top: item.start, height: ROW, width }}
              >
                <span
                  className="sticky left-0 z-10 flex shrink-0 gap-2 border-r border-rule bg-paper pt-1 text-[13px]"
                  style={{ width: NUMBERS + STATES }}
                >
                  <span
                    className="shrink-0 text-right text-[12.5px] text-faded tabular-nums"
                    style={{ width: NUMBERS - 8 }}
                  >
                    {item.index + 1}
                  </span>
                  {empty || !said ? null : said.problems.length > 0 ? (
                    <StateWord tone="wrong">
                      {said.problems.length === 1 ? '1 wrong' : `${said.problems.length} wrong`}
                    </StateWord>
                  ) : said.warnings.length > 0 || said.alike.length > 0 ? (
                    <StateWord tone="look">{said.alike.length > 0 ? 'looks known' : 'look again'}</StateWord>
                  ) : (
                    <StateWord tone="settled">{said.status === 'known' ? 'known' : 'new'}</StateWord>
                  )}
                </span>
                {columns.map((cell, index) => {
                  const here = item.index === at.row && index === at.column;
                  const { text, faded } = shownIn(one, cell.field);
                  const wrong = !empty && said?.problems.some((remark) => remark.field === cell.field);
                  const look = !empty && said?.warnings.some((remark) => remark.field === cell.field);
                  const right = cell.field === 'amount' || cell.field === 'benefit';
                  const changed = one.supporterId !== null && one.change.includes(cell.field);
                  return (
                    <div
                      key={cell.field}
                      role="gridcell"
                      aria-invalid={wrong === true}
                      data-cell={`${item.index}:${index}`}
                      className={classes(
                        'relative shrink-0 truncate border-l border-rule px-2 pt-1',
                        faded && 'text-faded',
                        right && 'text-right tabular-nums',
                        index === 0 && 'font-serif text-[15px]',
                        wrong && 'shadow-[inset_0_-2px_0_var(--madder)]',
                        (look || changed) && 'bg-straw text-straw-ink',
                        cellAt(item.index, index),
                      )}
                      style={{ width: cell.width }}
                      onMouseDown={(event) => {
                        if (here && typing !== null) return;
                        event.preventDefault();
                        const next = { row: item.index, column: index };
                        moveAfter(() => {
                          if (event.shiftKey) return setEnd(next);
                          setEnd(null);
                          setAt(next);
                        });
                        if (event.detail === 2 && !readOnly) setTyping(index === 0 ? '' : text);
                      }}
                    >
                      {wrong && <span className="sr-only">wrong: </span>}
                      {text}
                      {here && (
                        <input
                          ref={hold}
                          aria-label={`${props.headingOf(cell.field)}, row ${item.index + 1}`}
                          list={
                            typing !== null && index > 0 && props.choicesOf(cell.field).length > 0
                              ? `choices-${cell.field}`
                              : undefined
                          }
                          className={classes(
                            'absolute inset-0 px-2 outline-2 -outline-offset-2 outline-(--slate)',
                            typing === null
                              ? 'cursor-default bg-transparent text-transparent caret-transparent'
                              : 'bg-sheet text-ink',
                            right && 'text-right',
                          )}
                          readOnly={typing === null}
                          autoComplete="off"
                          role={index === 0 ? 'combobox' : undefined}
                          aria-expanded={index === 0 ? finding && offered.length > 0 : undefined}
                          aria-controls={index === 0 ? 'sheet-found' : undefined}
                          value={typing ?? text}
                          onChange={(event) => {
                            setTyping(event.target.value);
                            setFound(null);
                          }}
                          onKeyDown={onKey}
                          onPaste={onPaste}
                          onCopy={onCopy}
                          onBlur={commit}
                        />
                      )}
                    </div>
                  );
                })}
              </div>
            );
          })}
        </div>
      </div>
      {columns.map((one) => {
        const list = props.choicesOf(one.field);
        return (
          list.length > 0 && (
            <datalist key={one.field} id={`choices-${one.field}`}>
              {list.map((name) => (
                <option key={name} value={name} />
              ))}
            </datalist>
          )
        );
      })}
      <CellNote
        row={row}
        field={column?.field ?? ''}
        said={row && saidOf(row, at.row)}
        finding={finding ? { typed: typing, offered, marked, fresh: search.fresh } : null}
        locked={locked}
        first={at.column === 0}
        headingOf={props.headingOf}
        known={row?.supporterId == null ? undefined : people.get(row.supporterId)}
        onTake={take}
        onMean={(id) => put((old) => withSupporter(old, id, { field: fields[0] ?? 'wholeName', text: '' }, own))}
      />
    </div>
  );
}
