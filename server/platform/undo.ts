import { apply, blockedColumns, rowKey, staying } from '@tallystick/core/changes';
import type { Reference, Row, RowChange } from '@tallystick/core/changes';
import { counted } from '@tallystick/core/words';
import { chunks } from './db.ts';
import type { Sql } from './db.ts';
import { codeOf, Problem } from './problem.ts';
import { declaredTables, tableNamed } from './tables.ts';
import type { Transaction } from './transaction.ts';

/* Taking a change set back: whole, or but for what was changed since. */

/** How many rows went back, and what stays as it is now, in sentences. */
export interface TakenBack {
  rows: number;
  left: string[];
}

/**
 * Writes a change set turned round. Throws a 409 that names later change sets where some touched the same, unless what
 * they touched is to stay (`keepLater`).
 */
export async function takeBack(
  tx: Transaction,
  inverse: readonly RowChange[],
  revision: number,
  keepLater: boolean,
): Promise<TakenBack> {
  const { changes, left } = keepLater ? await whatGoes(tx, inverse, revision) : { changes: inverse, left: [] };
  for (const run of runsOf(changes)) await applyRun(tx, run, revision);
  return { rows: changes.length, left };
}

/** So many reasons are told one by one. */
const MOST_TOLD = 12;

/** As much of a change set turned round as nothing later touched, and what of it stays. */
async function whatGoes(
  tx: Transaction,
  inverse: readonly RowChange[],
  revision: number,
): Promise<{ changes: RowChange[]; left: string[] }> {
  const byTable = new Map<string, RowChange[]>();
  for (const change of inverse) {
    const same = byTable.get(change.table);
    if (same) same.push(change);
    else byTable.set(change.table, [change]);
  }
  const current = new Map<string, Row>();
  for (const [name, changes] of byTable)
    for (const slice of chunks(changes))
      for (const [id, row] of await tx.lockRows(
        tableNamed(name),
        slice.map((change) => change.id),
      ))
        current.set(rowKey(name, id), row);
  const touched = new Map<string, RowChange>();
  for (const { change, blocked } of stepped(inverse, current))
    if (blocked.length > 0 && tableNamed(change.table).rule.undo !== 'stays')
      touched.set(rowKey(change.table, change.id), change);
  const references = await referencesIn(tx.sql);
  const used = await usedElsewhere(tx.sql, inverse, references, new Set(touched.keys()));
  for (const change of used) touched.set(rowKey(change.table, change.id), change);
  const stays = staying(inverse, new Set(touched.keys()), references, goesWith);
  const going = inverse.filter(({ table, id }) => !stays.has(rowKey(table, id)));
  const changes = stepped(going, current).flatMap(({ change, blocked }): RowChange[] => {
    // What is gone already, or here again, is as it should be.
    if (blocked.includes('*')) return [];
    if (change.after === null || change.before === null) return [change];
    const columns = Object.keys(change.after).filter((column) => !blocked.includes(column));
    const only = (from: Row): Row => Object.fromEntries(columns.map((column) => [column, from[column] ?? null]));
    return columns.length === 0 ? [] : [{ ...change, before: only(change.before), after: only(change.after) }];
  });
  return { changes, left: await told(tx.sql, [...touched.values()], stays.size, revision) };
}

/** Each change with what of it later ones block, the rows being as the changes before it leave them. */
function stepped(changes: readonly RowChange[], current: ReadonlyMap<string, Row>) {
  const rows = new Map<string, Row | null>(current);
  return changes.map((change) => {
    const key = rowKey(change.table, change.id);
    const row = rows.get(key) ?? null;
    const blocked = blockedColumns(row, change);
    if (blocked.length === 0) rows.set(key, apply(row, change));
    return { change, blocked };
  });
}

/**
 * What is of a supporter alone goes with them, but for what was given: that is taken back though whoever gave stays. A
 * part of something of theirs (of a gift) goes with that. With what is nobody's (a tag, a batch) goes only what lies in
 * a batch that was gone on with.
 */
function goesWith({ child, column, parent }: Reference, touched: boolean): boolean {
  const { owner, also, topics } = tableNamed(child).rule;
  if (column === owner) return !also && !topics.includes('gifts');
  const into = tableNamed(parent).rule;
  return into.owner === 'supporter_id' || (touched && into.undo === 'unless-used');
}

/** Which columns of our tables refer to which. */
const referencesIn = async (sql: Sql): Promise<Reference[]> => {
  const declared = new Set(declaredTables().map(({ name }) => name));
  const rows = await sql.rows<Reference>(
    `SELECT TABLE_NAME AS child, COLUMN_NAME AS \`column\`, REFERENCED_TABLE_NAME AS parent
     FROM information_schema.KEY_COLUMN_USAGE WHERE TABLE_SCHEMA = DATABASE() AND REFERENCED_TABLE_NAME IS NOT NULL`,
  );
  return rows.filter(({ child, parent }) => declared.has(child) && declared.has(parent));
};

/** The added rows that others refer to by now, which the change set did not add and does not let go of. */
async function usedElsewhere(
  sql: Sql,
  inverse: readonly RowChange[],
  references: readonly Reference[],
  touched: ReadonlySet<string>,
): Promise<RowChange[]> {
  const added = new Map<string, Map<number, RowChange>>();
  const lets = new Map<string, RowChange>();
  for (const change of inverse) {
    const key = rowKey(change.table, change.id);
    if (change.after !== null) lets.set(key, change);
    else added.set(change.table, (added.get(change.table) ?? new Map<number, RowChange>()).set(change.id, change));
  }
  const used = new Set<RowChange>();
  for (const { child, column, parent } of references) {
    const rows = added.get(parent);
    if (!rows || tableNamed(parent).rule.undo !== 'rows') continue;
    for (const slice of chunks([...rows.keys()]))
      for (const { id, named } of await sql.rows<{ id: number; named: number }>(
        `SELECT id, ${column} AS named FROM ${child} WHERE ${column} IN (?)`,
        [slice],
      )) {
        const row = rows.get(named);
        const own = added.get(child)?.has(id) ?? false;
        const reset = lets.get(rowKey(child, id));
        const letsGo = reset?.after != null && column in reset.after && !touched.has(rowKey(child, id));
        if (row && !own && !letsGo) used.add(row);
      }
  }
  return [...used];
}

/** What stays, and by which later change sets. */
async function told(sql: Sql, touched: readonly RowChange[], stay: number, revision: number): Promise<string[]> {
  const supporters = new Set<number>();
  for (const { table, id, before } of touched) {
    const { owner } = tableNamed(table).rule;
    const supporter = owner === 'id' ? id : owner === null ? null : before?.[owner];
    if (typeof supporter === 'number') supporters.add(supporter);
  }
  const by = new Set<string>();
  for (const slice of chunks([...supporters]))
    for (const { summary, actor } of await sql.rows<{ summary: string; actor: string }>(
      // change_touch (revision, supporter_id)
      `SELECT DISTINCT s.revision, s.summary, s.actor FROM change_touch t JOIN change_set s USING (revision)
       WHERE t.supporter_id IN (?) AND t.revision > ? ORDER BY s.revision LIMIT 100`,
      [slice, revision],
    ))
      by.add(`“${summary}” (${actor})`);
  const reasons = [...by];
  if (touched.length === 0) return [];
  const more = reasons.length > MOST_TOLD ? ` and ${reasons.length - MOST_TOLD} more` : '';
  const since = reasons.length === 0 ? '' : `: ${reasons.slice(0, MOST_TOLD).join(', ')}${more}`;
  return [`${counted(Math.max(stay, touched.length), 'row')} that later changes touched, or depend on, stay${since}.`];
}

async function applyRun(tx: Transaction, run: RowChange[], revision: number): Promise<void> {
  const [first] = run;
  if (!first) return;
  const { before, after } = first;
  const table = tableNamed(first.table);
  if (table.rule.undo === 'stays') return;
  const current = await tx.lockRows(
    table,
    run.map((change) => change.id),
  );
  if (after === null && table.rule.undo === 'unless-used') return removeUnused(tx, run, current);
  const blocked = run.filter((change) => blockedColumns(current.get(change.id) ?? null, change).length > 0);
  if (blocked.length > 0) throw await inTheWay(tx.sql, blocked, revision);
  try {
    if (after === null)
      await tx.removeAll(
        table,
        run.map((change) => change.id),
      );
    else if (before === null)
      await tx.restoreAll(
        table,
        run.flatMap((change) => (change.after ? [change.after] : [])),
      );
    else for (const change of run) await tx.rewrite(table, [change.id], change.after ?? {});
  } catch (error) {
    if (codeOf(error) !== 'ER_ROW_IS_REFERENCED_2') throw error;
    const [, child = '', column = ''] = /`(\w+)`, CONSTRAINT `\w+` FOREIGN KEY \(`(\w+)`\)/.exec(String(error)) ?? [];
    throw await dependsOnIt(tx.sql, child, column, run);
  }
}

/** Names the latest change by which a row came to refer to one that should go. */
async function dependsOnIt(sql: Sql, child: string, column: string, run: readonly RowChange[]): Promise<Problem> {
  const declared = declaredTables().some(({ name }) => name === child) && /^\w+$/.test(column);
  const [later] = declared
    ? // change_row_row (table_name, row_id, revision)
      await sql.rows<{ summary: string; actor: string; revision: number }>(
        `SELECT s.revision, s.summary, s.actor FROM ${child} c JOIN change_row r ON r.table_name = ? AND r.row_id = c.id
         JOIN change_set s ON s.revision = r.revision WHERE c.${column} IN (?) ORDER BY r.revision DESC LIMIT 1`,
        [child, run.map((change) => change.id)],
      )
    : [];
  const what = later
    ? `“${later.summary}” (change ${later.revision}, by ${later.actor}) depends on it`
    : `a ${child.replace(/_/g, ' ') || 'row'} recorded later depends on it`;
  return new Problem(409, 'undo-blocked', `This cannot be undone: ${what}. Undo that first.`);
}

/** Removes rows that nothing else lies in by now. */
async function removeUnused(tx: Transaction, run: RowChange[], current: ReadonlyMap<number, Row>): Promise<void> {
  for (const change of run) {
    if (blockedColumns(current.get(change.id) ?? null, change).length > 0) continue;
    await tx.removeAll(tableNamed(change.table), [change.id]).catch((error: unknown) => {
      if (codeOf(error) !== 'ER_ROW_IS_REFERENCED_2') throw error;
    });
  }
}

async function inTheWay(sql: Sql, blocked: readonly RowChange[], revision: number): Promise<Problem> {
  const [first] = blocked;
  const later = await sql.rows<{ revision: number; summary: string; actor: string }>(
    // change_row_row (table_name, row_id, revision)
    `SELECT DISTINCT s.revision, s.summary, s.actor FROM change_row r JOIN change_set s USING (revision)
     WHERE r.table_name = ? AND r.row_id IN (?) AND r.revision > ? ORDER BY s.revision LIMIT 20`,
    [first?.table ?? '', blocked.slice(0, 500).map((change) => change.id), revision],
  );
  const named = later.map((set) => `“${set.summary}” (${set.actor})`).join(', ');
  return new Problem(
    409,
    'undo-blocked',
    `This cannot be undone, because later changes touched the same: ${named || 'a change that was not recorded'}. Undo those first.`,
    { details: { later } },
  );
}

/** Neighbours of the same table and the same kind of change, each row once, so that they are written together. */
function runsOf(changes: readonly RowChange[]): RowChange[][] {
  const runs: { kind: string; ids: Set<number>; changes: RowChange[] }[] = [];
  for (const change of changes) {
    const kind = `${change.table}${change.before === null}${change.after === null}`;
    const run = runs.at(-1);
    if (run && run.kind === kind && run.changes.length < 500 && !run.ids.has(change.id)) {
      run.ids.add(change.id);
      run.changes.push(change);
    } else runs.push({ kind, ids: new Set([change.id]), changes: [change] });
  }
  return runs.map((run) => run.changes);
}
