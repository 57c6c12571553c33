import { useCallback, useEffect, useRef, useState } from 'react';
import type { ClipboardEvent, KeyboardEvent, RefObject } from 'react';
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
import { found as foundIn } from '../ui/choice/options.ts';
import { useFoundSupporters } from '../ui/useFoundSupporters.ts';
import { newKey } from './useSheet.ts';
import type { Person, RowRemarks, TypedName } from './useSheet.ts';

export interface GridProps {
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
/** As many names as the line below the grid has room for. */
const MOST_NAMES = 8;

export interface At {
  row: number;
  column: number;
}

/**
 * Moves in the grid of a sheet by keys and types in its cells: one text box stands in the cell that is worked on. Tab
 * goes along the cells and out at the ends; Escape, while nothing is typed, leaves them, so that Tab goes on to what
 * stands before and after the grid.
 */
export function useGrid(props: GridProps, columns: readonly SheetColumn[], showRow: RefObject<(row: number) => void>) {
  const { rows, people, own, remarks, readOnly } = props;
  const [at, setAt] = useState<At>({ row: 0, column: 0 });
  const [end, setEnd] = useState<At | null>(null);
  /** What is being typed; null while one moves from cell to cell. */
  const [typing, setTyping] = useState<string | null>(null);
  /** The place in the list that the arrows chose; null is whoever what was typed means. */
  const [found, setFound] = useState<number | null>(null);
  /** True once Escape left the cells: Tab then goes past them. */
  const [left, setLeft] = useState(false);
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
  const row = rows[at.row];
  const column = columns[at.column];
  const finding = at.column === 0 && typing !== null;
  const search = useFoundSupporters(typing ?? '', 7, finding);
  const offered = finding ? search.rows : [];
  const marked = found ?? meant(typing ?? '', offered);
  /** In a column of names to choose from: those that have what was typed, of which the arrows mark one. */
  const names =
    finding || typing === null || !column
      ? []
      : foundIn(
          props.choicesOf(column.field).map((name) => ({ value: name, label: name })),
          typing,
        )
          .slice(0, MOST_NAMES)
          .map(({ label }) => label);
  const block: Block = {
    top: Math.min(at.row, end?.row ?? at.row),
    bottom: Math.max(at.row, end?.row ?? at.row),
    left: Math.min(at.column, end?.column ?? at.column),
    right: Math.max(at.column, end?.column ?? at.column),
  };

  useEffect(() => {
    showRow.current(at.row);
    input.current?.focus({ preventScroll: true });
    box.current
      ?.querySelector(`[data-cell="${at.row}:${at.column}"]`)
      ?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [at, showRow]);

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
      setFound(null);
      return put((one) => withCell(one, column.field, names[found ?? -1] ?? typing.trim(), own));
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
      const place = at.row * columns.length + at.column;
      if (event.shiftKey ? place === 0 : place === rows.length * columns.length - 1) return commit();
      stop();
      return moveAfter(() => along(event.shiftKey ? -1 : 1));
    }
    if (event.key === 'Escape' && typing === null) {
      stop();
      if (end !== null) return setEnd(null);
      setLeft(true);
      return box.current?.focus({ preventScroll: true });
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
        setFound(null);
      } else if (finding && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
        stop();
        // One past the last is “someone new”.
        setFound(Math.max(0, Math.min(offered.length, marked + (event.key === 'ArrowDown' ? 1 : -1))));
      } else if (names.length > 0 && /^Arrow(Up|Down)$/.test(event.key)) {
        stop();
        const next = (found ?? -1) + (event.key === 'ArrowDown' ? 1 : -1);
        setFound(next < 0 ? null : Math.min(names.length - 1, next));
      } else if (!finding && /^Arrow(Up|Down)$/.test(event.key)) {
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

  return {
    ...{ box, hold, at, block, isBlock: end !== null, row, column, typing, finding, search, offered, marked, locked },
    ...{ left, shownIn, saidOf, onKey, onPaste, onCopy, commit, take, names, chosen: found },
    /** Takes a name that is offered. */
    takeName(name: string): void {
      setTyping(null);
      setFound(null);
      if (column) put((one) => withCell(one, column.field, name, own));
    },
    /** Goes to a cell, or with Shift spans a block to it. */
    press(next: At, extend: boolean): void {
      moveAfter(() => {
        if (extend) return setEnd(next);
        setEnd(null);
        setAt(next);
      });
    },
    type(text: string): void {
      setTyping(text);
      setFound(null);
    },
    begin: setTyping,
    /** Says whom the row means. */
    mean: (id: number): void =>
      put((old) => withSupporter(old, id, { field: fields[0] ?? 'wholeName', text: '' }, own)),
    /** The cells are worked on again. */
    enter: (): void => setLeft(false),
    /** Keys on the grid itself, once its cells were left. */
    onBoxKey(event: KeyboardEvent): void {
      if (!left || event.target !== box.current || !/^(Enter|Arrow.*)$/.test(event.key)) return;
      event.preventDefault();
      setLeft(false);
      input.current?.focus();
    },
    goTo: (next: At): void => {
      setEnd(null);
      setLeft(false);
      setAt({ ...next });
    },
  };
}
export type GridState = ReturnType<typeof useGrid>;
