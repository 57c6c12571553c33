import type { RowChange } from './rows.ts';

/** That a column of one table holds the id of a row of another. */
export interface Reference {
  child: string;
  column: string;
  parent: string;
}

/** A row by its table and id. */
export const rowKey = (table: string, id: number): string => `${table} ${id}`;

/**
 * Of a change set that is taken back, the rows it added that have to stay when some of them do: what those refer to, and
 * what goes with them. `inverse` is the set turned round, so that what it added stands in `before`; `goesWith` says of a
 * row that refers to one that stays whether it stays too, where that is one of the `first` or only stays for others.
 * Answers the keys of all rows that stay.
 */
export function staying(
  inverse: readonly RowChange[],
  first: ReadonlySet<string>,
  references: readonly Reference[],
  goesWith: (reference: Reference, first: boolean) => boolean,
): Set<string> {
  const added = new Map(
    inverse.flatMap((change) => (change.after === null ? [[rowKey(change.table, change.id), change] as const] : [])),
  );
  const children = new Map<string, string[]>();
  for (const [key, { table, before }] of added)
    for (const one of references) {
      const to = one.child === table ? before?.[one.column] : null;
      if (typeof to !== 'number') continue;
      const parent = rowKey(one.parent, to);
      if (!goesWith(one, first.has(parent))) continue;
      const same = children.get(parent);
      if (same) same.push(key);
      else children.set(parent, [key]);
    }
  const stays = new Set<string>();
  const open = [...first];
  for (let key = open.pop(); key !== undefined; key = open.pop()) {
    const change = added.get(key);
    if (!change || stays.has(key)) continue;
    stays.add(key);
    open.push(...(children.get(key) ?? []));
    for (const { child, column, parent } of references) {
      const to = child === change.table ? change.before?.[column] : null;
      if (typeof to === 'number') open.push(rowKey(parent, to));
    }
  }
  return stays;
}
