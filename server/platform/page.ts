import { decodeCursor, encodeCursor } from './cursor.ts';
import type { Ended } from './cursor.ts';
import { one } from './db.ts';
import type { Param, Sql } from './db.ts';

/** One of the columns that a list is sorted by; `as` is its name in the rows. The last of them is unique. */
export interface Key {
  sql: string;
  as: string;
  down?: boolean;
}

/** Which page is asked for. */
export interface Asked {
  limit: number;
  cursor?: string | undefined;
}

/** A list of any length: what it selects, with a WHERE of its own, and its order. */
interface List {
  select: string;
  params?: readonly Param[];
  order: readonly [Key, ...Key[]];
}

/**
 * A page of a list with where the next one begins and how long the whole is. The cursor holds what the page ended with,
 * so that rows may come and go between pages.
 */
export async function pageOf<R>(
  sql: Sql,
  { select, params = [], order }: List,
  asked: Asked,
): Promise<{ items: R[]; next: string | null; total: number }> {
  const rest = past(order, asked.cursor);
  const [rows, whole] = await Promise.all([
    sql.rows<R & Record<string, string | number>>(`${select} AND ${rest.sql} ORDER BY ${inOrder(order)} LIMIT ?`, [
      ...params,
      ...rest.params,
      asked.limit + 1,
    ]),
    one<{ many: number }>(sql, `SELECT COUNT(*) AS many FROM (${select}) x`, params),
  ]);
  return { ...paged(rows, order, asked.limit), total: whole?.many ?? 0 };
}

export const inOrder = (order: readonly Key[]): string =>
  order.map((key) => `${key.sql}${key.down ? ' DESC' : ''}`).join(', ');

/** The rows of a page of which one more than its limit was read, with where the next page begins. */
export function paged<R>(
  rows: readonly R[],
  order: readonly Key[],
  limit: number,
): { items: R[]; next: string | null } {
  const items = rows.slice(0, limit);
  const last = items.at(-1) as Record<string, string | number> | undefined;
  return { items, next: rows.length > limit && last ? encodeCursor(order.map((key) => last[key.as] ?? '')) : null };
}

/** The condition that rows come after where a page ended. */
export function past(order: readonly Key[], cursor: string | undefined): { sql: string; params: Param[] } {
  const after = decodeCursor(cursor, order.length);
  return after === null ? { sql: 'TRUE', params: [] } : beyond(order, after);
}

/** What comes after some values of the keys, in their order. */
function beyond(order: readonly Key[], after: Ended): { sql: string; params: Param[] } {
  const params: Param[] = [];
  const ways = order.map((key, at) => {
    const same = order.slice(0, at).map((before, place) => {
      params.push(after[place] ?? '');
      return `${before.sql} = ?`;
    });
    params.push(after[at] ?? '');
    return [...same, `${key.sql} ${key.down ? '<' : '>'} ?`].join(' AND ');
  });
  return { sql: `(${ways.map((way) => `(${way})`).join(' OR ')})`, params };
}
