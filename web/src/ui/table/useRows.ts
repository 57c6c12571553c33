import { useRef, useState } from 'react';
import type { KeyboardEvent, MouseEvent } from 'react';
import type { RowSelection } from './useRowSelection.ts';

export interface Rows {
  /** The place of the row that keys move, from 0. */
  cursor: number;
  onKey: (event: KeyboardEvent) => void;
  onClick: (event: MouseEvent, index: number) => void;
  onTick: (event: MouseEvent, index: number) => void;
  /** Puts the cursor on a row without anything else. */
  setCursor: (index: number) => void;
}

const A_PAGE = 20;

/**
 * Moves through the rows of a list by keys, and selects them: j, k and arrows by one, Page by twenty, Home and End to
 * the ends; Space selects, Shift with a key that moves or with a click selects a range, Ctrl+A the whole list; Enter
 * peeks, Shift+Enter opens a tab.
 */
export function useRows(props: {
  ids: readonly number[];
  begin: number;
  selection: RowSelection | undefined;
  /** A click on a row; Enter may do more. */
  onPeek: ((index: number) => void) | undefined;
  onEnter: (index: number) => void;
  onTab: ((index: number) => void) | undefined;
  /** Called when keys move to a row: it is brought into sight. */
  onMove: (index: number) => void;
}): Rows {
  const { ids, selection } = props;
  const [at, setAt] = useState(props.begin);
  const cursor = Math.max(0, Math.min(at, ids.length - 1));
  /** Where a range was begun and how far it goes; null while rows are picked one by one. */
  const range = useRef<{ from: number; to: number } | null>(null);

  const between = (a: number, b: number): number[] => ids.slice(Math.min(a, b), Math.max(a, b) + 1);
  const stretch = (to: number): void => {
    if (!selection) return;
    const old = range.current ?? { from: cursor, to: cursor };
    const now = new Set(between(old.from, to));
    selection.set(
      between(old.from, old.to).filter((id) => !now.has(id)),
      false,
    );
    selection.set([...now], true);
    range.current = { from: old.from, to };
  };
  const moveTo = (to: number, ranging = false): void => {
    const next = Math.max(0, Math.min(ids.length - 1, to));
    if (ranging) stretch(next);
    else range.current = null;
    setAt(next);
    props.onMove(next);
  };
  const pick = (index: number): void => {
    const id = ids[index];
    range.current = { from: index, to: index };
    if (id !== undefined) selection?.toggle(id);
  };
  const onKey = (event: KeyboardEvent): void => {
    if (event.altKey || (event.target as Element).closest('a, input, textarea, button')) return;
    const { key } = event;
    if (event.ctrlKey || event.metaKey) {
      if (key !== 'a' || !selection) return;
      event.preventDefault();
      selection.setAll(true);
      return;
    }
    const ways: Record<string, number> = {
      ...{ j: cursor + 1, k: cursor - 1, ArrowDown: cursor + 1, ArrowUp: cursor - 1 },
      ...{ PageDown: cursor + A_PAGE, PageUp: cursor - A_PAGE, Home: 0, End: ids.length - 1 },
    };
    const to = ways[key];
    if (to !== undefined) moveTo(to, event.shiftKey && selection !== undefined);
    else if (key === ' ') pick(cursor);
    else if (key === 'Enter') (event.shiftKey ? props.onTab : props.onEnter)?.(cursor);
    else return;
    event.preventDefault();
  };
  const onTick = (event: MouseEvent, index: number): void => {
    if (event.shiftKey && range.current) stretch(index);
    else pick(index);
    setAt(index);
  };
  const onClick = (event: MouseEvent, index: number): void => {
    if ((event.target as Element).closest('a, input, button, [role=menu], [role=listbox]')) return;
    if (event.shiftKey && selection) {
      event.preventDefault();
      stretch(index);
      setAt(index);
      return;
    }
    range.current = null;
    setAt(index);
    if (event.ctrlKey || event.metaKey || event.button === 1) props.onTab?.(index);
    else props.onPeek?.(index);
  };
  return { cursor, onKey, onClick, onTick, setCursor: setAt };
}
