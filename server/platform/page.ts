import { badCursor } from './cursor.ts';
import { one } from './db.ts';
import type { Param, Sql } from './db.ts';

/** One of the columns that a list is sorted by; `as` is its name in the rows. The last of them is unique. */
interface Key {
  sql: string;
  as: string;
  down?: true;
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
  const after = asked.cursor === undefined ? null : read(asked.cursor, order.length);
  const beyond = after === null ? { sql: 'TRUE', params: [] } : past(order, after);
  const sorted = order.map((key) => `${key.sql}${key.down ? ' DESC' : ''}`).join(', ');
  const [rows, whole] = await Promise.all([
    sql.rows<R & Record<string, string | number>>(`${select} AND ${beyond.sql} ORDER BY ${sorted} LIMIT ?`, [
      ...params,
      ...beyond.params,
      asked.limit + 1,
    ]),
    one<{ many: number }>(sql, `SELECT COUNT(*) AS many FROM (${select}) x`, params),
  ]);
  const items = rows.slice(0, asked.limit);
  const last = items.at(-1);
  const ended = last && order.map((key) => last[key.as] ?? '');
  return {
    items,
    next: rows.length > asked.limit && ended ? Buffer.from(JSON.stringify(ended)).toString('base64url') : null,
    total: whole?.many ?? 0,
  };
}

/** What comes after some values of the keys, in their order. */
function past(order: readonly Key[], after: readonly (string | number)[]): { sql: string; params: Param[] } {
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

function read(cursor: string, length: number): (string | number)[] {
  try {
    const values: unknown = JSON.parse(Buffer.from(cursor, 'base64url').toString());
    if (Array.isArray(values) && values.length === length)
      return values.map((value: unknown) => {
        if (typeof value !== 'string' && typeof value !== 'number') throw badCursor();
        return value;
      });
  } catch {
    // falls through to the refusal
  }
  throw badCursor();
}
