import { useEffect, useState } from 'react';
import { useFormats } from './organization.tsx';
import { showSelection } from './selection.ts';

/**
 * Which rows of a list are selected, shown in the tray with their number and sum. Rows that left the list (thanked,
 * undone) leave the selection with it.
 */
export function useRowSelection<T>(
  what: string,
  rows: readonly T[],
  idOf: (row: T) => number,
  centsOf: (row: T) => number,
) {
  const { money } = useFormats();
  const [selected, setSelected] = useState<ReadonlySet<number>>(new Set());
  const chosen = rows.filter((row) => selected.has(idOf(row)));
  const sum = money(chosen.reduce((total, row) => total + centsOf(row), 0));
  const count = chosen.length;
  useEffect(() => {
    showSelection({ what, count, sum, clear: () => setSelected(new Set()) });
  }, [what, count, sum]);
  useEffect(() => () => showSelection(null), []);
  return { selected, setSelected, chosen };
}
