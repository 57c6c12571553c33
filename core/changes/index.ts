import type { Row, RowChange, Value } from './rows.ts';

export type { Row, RowChange, Value } from './rows.ts';

/** The columns that differ, or null when none does; `version` never counts. */
export function difference(before: Row, after: Row): { before: Row; after: Row } | null {
  const was: Record<string, Value> = {};
  const is: Record<string, Value> = {};
  for (const column of Object.keys(after)) {
    if (column === 'version' || before[column] === after[column]) continue;
    was[column] = before[column] ?? null;
    is[column] = after[column] ?? null;
  }
  return Object.keys(is).length === 0 ? null : { before: was, after: is };
}

/** The changes that take a change set back: each one turned round, last first. */
export function invert(changes: readonly RowChange[]): RowChange[] {
  return changes.map(({ table, id, before, after }) => ({ table, id, before: after, after: before })).reverse();
}

/** Applies one change to the row as it is now (null: there is none). The version is left as it is. */
export function apply(current: Row | null, change: RowChange): Row | null {
  if (change.after === null) return null;
  return change.before === null ? change.after : { ...current, ...change.after };
}

/**
 * The columns that keep `inverse` from being applied to the row as it is now, because something later changed
 * them; empty when it applies cleanly. `*` stands for the whole row: it is gone, or it exists again.
 */
export function blockedColumns(current: Row | null, inverse: RowChange): string[] {
  if (inverse.before === null) return current === null ? [] : ['*'];
  if (current === null) return ['*'];
  return Object.keys(inverse.before).filter(
    (column) => column !== 'version' && current[column] !== inverse.before?.[column],
  );
}

export { rowKey, staying } from './partly.ts';
export type { Reference } from './partly.ts';
export { threeWay } from './three-way.ts';
export type { Conflict } from './three-way.ts';
export { stepBack, stepForward } from './steps.ts';
export type { Step } from './steps.ts';
