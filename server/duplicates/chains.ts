import type { RowChange, Value } from '@tallystick/core/changes';
import { beforeUndo } from '../platform/changes.ts';
import { tableNamed } from '../platform/tables.ts';
import { ledTo } from '../supporters/index.ts';

/* A into B, then B into C: undoing the first finds what it moved to B at C. */

/** The columns that name a supporter, whatever the table. */
const NAMES = new Set([
  'supporter_id',
  'other_id',
  'of_id',
  'notify_id',
  'donor_id',
  'merged_into',
  'household_id',
  'primary_id',
]);

beforeUndo('merge', async (tx, inverse) => {
  const stayed = new Set<number>();
  for (const { table, before } of inverse)
    if (table === 'supporter' && typeof before?.['merged_into'] === 'number') stayed.add(before['merged_into']);
  const led = await ledTo(tx.sql, [...stayed]);
  if (led.size === 0) return inverse;
  const byTable = new Map<string, number[]>();
  for (const { table, id, before } of inverse) if (before) byTable.set(table, [...(byTable.get(table) ?? []), id]);
  const now = new Map<string, Readonly<Record<string, Value>>>();
  for (const [table, ids] of byTable)
    for (const [id, row] of await tx.lockRows(tableNamed(table), ids)) now.set(`${table}:${id}`, row);
  return inverse.map((change): RowChange => {
    const row = now.get(`${change.table}:${change.id}`);
    if (!row || !change.before || !change.after) return change;
    const entries = Object.entries(change.before).map(([column, value]): [string, Value] => {
      const is = row[column] ?? null;
      return [column, NAMES.has(column) ? (led.get(Number(value)) === is ? is : value) : asNamed(value, is, led)];
    });
    return { ...change, before: Object.fromEntries(entries) };
  });
});

/** What a row holds now, where it differs from what it held only in whom it names within a text. */
function asNamed(held: Value, is: Value, led: ReadonlyMap<number, number>): Value {
  if (typeof held !== 'string' || typeof is !== 'string') return held;
  for (const [from, to] of led)
    if (held.replace(new RegExp(`^${from}(?=\\|)|(?<="supporterId":)${from}\\b`, 'g'), String(to)) === is) return is;
  return held;
}
