import { one } from './db.ts';
import type { Sql } from './db.ts';

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
