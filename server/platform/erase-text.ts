import { without } from '@tallystick/core/names';
import { chunks } from './db.ts';
import type { Sql } from './db.ts';
import type { EraseOthers, Erased } from './tables.ts';

/** Takes the erased out of some columns of rows that are read by `select`, which gives their keys and those columns. */
export async function eraseText(
  sql: Sql,
  erased: readonly Erased[],
  table: string,
  keys: readonly string[],
  columns: readonly string[],
  rows: readonly Readonly<Record<string, unknown>>[],
): Promise<void> {
  const clean = without(erased);
  for (const row of rows)
    for (const column of columns) {
      const text = row[column];
      if (typeof text !== 'string') continue;
      const cleaned = clean(text);
      if (cleaned !== text)
        await sql.run(`UPDATE ${table} SET ${column} = ? WHERE ${keys.map((key) => `${key} = ?`).join(' AND ')}`, [
          cleaned,
          ...keys.map((key) => Number(row[key])),
        ]);
    }
}

/** Takes the erased out of a column of free text, in all rows of a table or (`own`) in those that are theirs. */
export const eraseFrom =
  (table: string, column: string, own = false): EraseOthers =>
  async (sql, erased) => {
    for (const people of chunks(erased)) {
      const rows = await sql.rows<Record<string, unknown>>(
        `SELECT id, ${column} FROM ${table} WHERE ${column} <> '' ${own ? 'AND supporter_id IN (?)' : ''}`,
        own ? [people.map(({ id }) => id)] : [],
      );
      await eraseText(sql, people, table, ['id'], [column], rows);
    }
  };

/** Several ways of taking the erased out, one after the other. */
export const eraseAll =
  (...ways: readonly EraseOthers[]): EraseOthers =>
  async (sql, erased) => {
    for (const way of ways) await way(sql, erased);
  };
