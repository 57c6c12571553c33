import { endOfDay } from '@tallystick/core/dates';
import type { IsoDate } from '@tallystick/core/dates';
import type { Row } from '@tallystick/core/changes';
import { stampOf } from './clock.ts';
import { chunks, one } from './db.ts';
import type { Sql } from './db.ts';

/*
 * What was known on a day is what was recorded by its end, in the organization's zone: rows as the change sets since
 * then found them. Data that were loaded whole were there always, and go by their own dates.
 */

/** The days of an organization: what today is, and in which zone a day ends. */
export interface Days {
  today: IsoDate;
  timeZone: string;
}

/** The last revision of a day: 0 where nothing was recorded by then, and above all of them for today and later. */
export async function revisionOn(sql: Sql, day: IsoDate, { today, timeZone }: Days): Promise<number> {
  if (day >= today) return Number.MAX_SAFE_INTEGER;
  const last = await one<{ revision: number }>(
    sql, // the newest come first, so that few are read for a day not long ago
    'SELECT revision FROM change_set WHERE at < ? ORDER BY revision DESC LIMIT 1',
    [stampOf(endOfDay(day, timeZone))],
  );
  return last?.revision ?? 0;
}

/** A row's past while the change sets are read back: what it is now (`null`: nothing), and what differed then. */
interface Past {
  row: Row | null | 'as it is';
  differed: Row;
}

/**
 * The rows of a table that were touched after a revision, as they were at it, by their ids; null where one was not
 * there. All of them, or those of some ids, or of some supporters.
 */
export async function rowsAt(
  sql: Sql,
  table: { readonly name: string },
  revision: number,
  only: { ids: readonly number[] } | { of: readonly number[] } | null = null,
): Promise<Map<number, Row | null>> {
  const past = new Map<number, Past>();
  const [column, some] = only === null ? ['', []] : 'ids' in only ? ['row_id', only.ids] : ['supporter_id', only.of];
  if (only !== null && some.length === 0) return new Map();
  const changes = await sql.rows<{ row_id: number; before_json: string | null; gone: number }>(
    // change_row_row (table_name, row_id, revision), change_row_supporter (supporter_id, revision), or the primary key
    `SELECT row_id, before_json, after_json IS NULL AS gone FROM change_row
     WHERE revision > ? AND table_name = ? ${only ? `AND ${column} IN (?)` : ''}
       AND revision NOT IN (SELECT revision FROM change_set WHERE kind = 'load') ORDER BY revision DESC, seq DESC`,
    [revision, table.name, ...(only ? [some] : [])],
  );
  for (const { row_id: id, before_json: json, gone } of changes) {
    const before: Row | null = json === null ? null : JSON.parse(json);
    const { row, differed } = past.get(id) ?? { row: 'as it is' as const, differed: {} };
    if (before === null || gone === 1) past.set(id, { row: before, differed: {} });
    else past.set(id, { row, differed: { ...differed, ...before } });
  }
  const still = [...past].flatMap(([id, { row }]) => (row === 'as it is' ? [id] : []));
  const now = new Map<number, Row>();
  for (const some of chunks(still, 5000))
    for (const row of await sql.rows<Row & { id: number }>(`SELECT * FROM ${table.name} WHERE id IN (?)`, [some]))
      now.set(row.id, row);
  return new Map(
    [...past].map(([id, { row, differed }]) => {
      const base = row === 'as it is' ? (now.get(id) ?? null) : row;
      return [id, base === null ? null : { ...base, ...differed }];
    }),
  );
}

/** Rows as they were, from those that are there now and those that were touched since. */
export const asTheyWere = <R extends { id: number }>(
  now: readonly R[],
  touched: ReadonlyMap<number, Row | null>,
): R[] => [
  ...now.filter((row) => !touched.has(row.id)),
  ...[...touched.values()].flatMap((row) => (row === null ? [] : [row as unknown as R])),
];
