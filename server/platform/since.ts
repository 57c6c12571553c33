import { one } from './db.ts';
import type { Sql } from './db.ts';

/** When, and by what kind of change set, each column of rows was last written. */
export async function lastWritten(
  sql: Sql,
  { name }: { name: string },
  ids: readonly number[],
): Promise<Map<number, Map<string, { at: string; kind: string }>>> {
  const found = new Map<number, Map<string, { at: string; kind: string }>>();
  // change_row_row (table_name, row_id, revision)
  for (const { id, at, kind, after } of await sql.rows<{ id: number; at: string; kind: string; after: string }>(
    `SELECT r.row_id AS id, s.at, s.kind, r.after_json AS after FROM change_row r JOIN change_set s USING (revision)
     WHERE r.table_name = ? AND r.row_id IN (?) AND r.after_json IS NOT NULL ORDER BY r.revision, r.seq`,
    [name, ids],
  )) {
    const columns = found.get(id) ?? new Map<string, { at: string; kind: string }>();
    for (const column of Object.keys(JSON.parse(after) as object)) columns.set(column, { at, kind });
    found.set(id, columns);
  }
  return found;
}

/** Whether anything but one row was written after a revision: what was found out before may not hold any more. */
export async function elseWritten(sql: Sql, after: number, table: string, id: number): Promise<boolean> {
  const found = await one<{ revision: number }>(
    sql,
    // change_row (revision, seq), change_touch (revision)
    `SELECT revision FROM change_row WHERE revision > ? AND NOT (table_name = ? AND row_id = ?)
     UNION ALL SELECT revision FROM change_touch WHERE revision > ? LIMIT 1`,
    [after, table, id, after],
  );
  return found !== null;
}
