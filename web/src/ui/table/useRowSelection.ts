import { useEffect, useMemo, useState } from 'react';
import { useFormats } from '../organization.tsx';
import { showSelection } from '../selection.ts';

/** Which rows of a list are selected: those picked one by one, or the whole list but for some. */
export interface RowSelection {
  has: (id: number) => boolean;
  toggle: (id: number) => void;
  /** Selects everyone in the list, loaded or not, or lets go of all. */
  setAll: (on: boolean) => void;
  /** Selects or lets go of several. */
  set: (ids: readonly number[], on: boolean) => void;
  state: 'none' | 'some' | 'all';
}

interface Picked {
  everyone: boolean;
  /** Who is selected, or of everyone who is not. */
  ids: ReadonlySet<number>;
}
const NOBODY: Picked = { everyone: false, ids: new Set() };
const EVERYONE: Picked = { everyone: true, ids: new Set() };

/**
 * The selection of a list, shown in the tray with its number and sum. Rows that left the list (thanked, undone) leave
 * the selection with it. `whole` are the figures of the whole list where acts on all of it are offered; without
 * them the heading's box selects what is loaded. `begin` says whether a list opens with all of it selected.
 */
export function useRowSelection<T>(
  what: string,
  rows: readonly T[],
  idOf: (row: T) => number,
  /** What the tray adds up; null where rows come to nothing. */
  centsOf: ((row: T) => number) | null,
  { whole, begin = 'none' }: { whole?: { count: number; cents: number } | undefined; begin?: 'none' | 'all' } = {},
) {
  const { money } = useFormats();
  const [picked, setPicked] = useState<Picked>(begin === 'all' ? EVERYONE : NOBODY);
  const { everyone, ids } = picked;
  const chosen = useMemo(() => rows.filter((row) => ids.has(idOf(row)) !== everyone), [rows, ids, everyone, idOf]);
  const left = useMemo(() => rows.filter((row) => ids.has(idOf(row))), [rows, ids, idOf]);
  const sumOf = (list: readonly T[]): number => list.reduce((total, row) => total + (centsOf?.(row) ?? 0), 0);
  const count = everyone && whole ? whole.count - left.length : chosen.length;
  const sum = centsOf && money(everyone && whole ? whole.cents - sumOf(left) : sumOf(chosen));
  useEffect(() => {
    showSelection({ what, count, sum, clear: () => setPicked(NOBODY) });
  }, [what, count, sum]);
  useEffect(() => () => showSelection(null), []);

  const set = (changed: readonly number[], on: boolean): void =>
    setPicked((old) => {
      const next = new Set(old.ids);
      for (const id of changed) {
        if (on === old.everyone) next.delete(id);
        else next.add(id);
      }
      return { ...old, ids: next };
    });
  const selection: RowSelection = {
    has: (id) => ids.has(id) !== everyone,
    toggle: (id) => set([id], ids.has(id) === everyone),
    set,
    setAll: (on) => setPicked(on ? (whole ? EVERYONE : { everyone: false, ids: new Set(rows.map(idOf)) }) : NOBODY),
    state: count === 0 ? 'none' : count >= (whole?.count ?? rows.length) ? 'all' : 'some',
  };
  return { selection, chosen, count, everyone, except: everyone ? [...ids] : [], clear: () => setPicked(NOBODY) };
}
