import type { Row } from '@tallystick/core/changes';
import { Problem } from '../platform/problem.ts';
import { declaredTables } from '../platform/tables.ts';
import type { AnyTable, MergeOf } from '../platform/tables.ts';
import type { Transaction } from '../platform/transaction.ts';

/* What hangs on a supporter goes to another by what each table declares of merges; no table is named here. */

type Owned = Row & { id: number; supporter_id: number };

/** What a merge moved. */
export interface Moved {
  /** How many rows of each table came to who stays. */
  rows: Map<string, number>;
  /** Rows that stay with who goes, or went, with the row of who stays that says the same; by `table:id`. */
  same: Map<string, number>;
}

const ownedTables = () => declaredTables().filter(({ rule }) => rule.owner === 'supporter_id');

/** Locks all that some supporters have, so that what it comes to stays so until the change set ends. */
export async function lockHeld(tx: Transaction, ids: readonly number[]): Promise<void> {
  for (const { name } of ownedTables())
    await tx.sql.rows(`SELECT id FROM ${name} WHERE supporter_id IN (?) ORDER BY id FOR UPDATE`, [ids]);
}

/** Moves all that the ones who go have. What is part of something that moves follows by itself; see `parts.ts`. */
export async function moveAll(tx: Transaction, gone: readonly number[], into: number): Promise<Moved> {
  const moved: Moved = { rows: new Map(), same: new Map() };
  const before = await held(tx, [into, ...gone]);
  for (const table of ownedTables()) {
    const { merging } = table.rule;
    // A database index on the owner serves each of these.
    const rows = await tx.sql.rows<Owned>(
      `SELECT * FROM ${table.name} WHERE supporter_id IN (?) ORDER BY supporter_id, id`,
      [[into, ...gone]],
    );
    const others = rows.filter((row) => row.supporter_id !== into);
    if (others.length === 0 || merging === 'nobody' || merging === 'record') continue;
    if (merging === 'move') {
      await tx.rewrite(table, idsOf(others), { supporter_id: into });
      moved.rows.set(table.name, others.length);
    } else if ('once' in merging)
      await moveOnce(
        tx,
        table,
        merging,
        { kept: rows.filter((row) => row.supporter_id === into), others, into },
        moved,
      );
  }
  const merge: MergeOf = { tx, gone, into };
  for (const { rule } of declaredTables()) await rule.mergeOthers?.(merge);
  const after = await held(tx, [into]);
  for (const [what, sum] of before)
    if (after.get(what) !== sum)
      throw new Problem(500, 'merge-lost', `A merge would have changed the sum of ${what}. Nothing was saved.`);
  return moved;
}

async function moveOnce(
  tx: Transaction,
  table: AnyTable,
  { once, else: otherwise, both }: Extract<AnyTable['rule']['merging'], { once: unknown }>,
  { kept, others, into }: { kept: readonly Owned[]; others: readonly Owned[]; into: number },
  moved: Moved,
): Promise<void> {
  const has = new Map(kept.map((row) => [once(row), row]));
  const goes: number[] = [];
  for (const row of others) {
    const key = once(row);
    const same = has.get(key);
    if (!same) {
      has.set(key, row);
      goes.push(row.id);
      continue;
    }
    moved.same.set(`${table.name}:${row.id}`, same.id);
    const patch = both?.(same, row) ?? {};
    if (Object.keys(patch).length > 0) await tx.rewrite(table, [same.id], patch);
    has.set(key, { ...same, ...patch } as Owned);
    if (otherwise === 'goes') await tx.removeAll(table, [row.id]);
  }
  await tx.rewrite(table, goes, { supporter_id: into });
  moved.rows.set(table.name, goes.length);
}

/** How many rows some supporters have of each table whose rows move as they are, and what those come to. */
async function held(tx: Transaction, ids: readonly number[]): Promise<Map<string, string>> {
  const sums = new Map<string, string>();
  for (const { name, rule, options } of ownedTables()) {
    if (rule.merging !== 'move') continue;
    // Ties of the ones who are merged to each other end with them.
    const money = 'cents' in options.columns ? 'COALESCE(SUM(cents), 0)' : '0';
    const [row] = await tx.sql.rows<{ sum: string }>(
      `SELECT CONCAT(COUNT(*), ' rows, ', ${money}) AS sum FROM ${name} WHERE supporter_id IN (?)`,
      [ids],
    );
    if (rule.also === undefined) sums.set(name.replace(/_/g, ' '), row?.sum ?? '');
  }
  return sums;
}

const idsOf = (rows: readonly { id: number }[]): number[] => rows.map(({ id }) => id);
