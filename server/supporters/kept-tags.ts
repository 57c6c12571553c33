import type { Actor } from '../platform/actor.ts';
import type { Changes } from '../platform/changes.ts';
import { isFinal } from '../platform/changes.ts';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Transaction } from '../platform/transaction.ts';
import { counted } from '@tallystick/core/words';
import { SupporterTagTable, TagTable } from './supporter.entity.ts';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    /** A tag that a segment keeps was put on or taken off. */
    standing: true;
  }
}
isFinal('standing', 'a segment keeps the tag; take it off the segment instead');

/** Who puts on and takes off what segments keep. */
const KEEPER: Actor = { userId: null, name: 'Standing tags' };
/** The source of a tag that a segment put on, and may take off again. */
const BY_SEGMENT = 'segment';

/** What would have to be done for exactly those who are wanted to have a tag; whoever has it by hand keeps it. */
export interface TagDifference {
  /** Supporters who are to have it. */
  put: number[];
  /** The rows of those who no longer are. */
  take: number[];
  /** How many of those who are wanted have it by other ways, and keep it whatever becomes of the segment. */
  otherwise: number;
}

/** Compares who has a tag with who is wanted; those in the trash are left as they are. */
export async function tagDifference(sql: Sql, tagId: number, wanted: ReadonlySet<number>): Promise<TagDifference> {
  // supporter_tag_tag (tag_id)
  const rows = await sql.rows<{ id: number; supporter_id: number; source: string; active: number }>(
    `SELECT x.id, x.supporter_id, x.source, s.state = 'active' AS active FROM supporter_tag x
     JOIN supporter s ON s.id = x.supporter_id WHERE x.tag_id = ?`,
    [tagId],
  );
  const has = new Set(rows.map((row) => row.supporter_id));
  const take = rows.filter((row) => row.source === BY_SEGMENT && row.active === 1 && !wanted.has(row.supporter_id));
  return {
    put: [...wanted].filter((id) => !has.has(id)),
    take: take.map(({ id }) => id),
    otherwise: rows.filter((row) => row.source !== BY_SEGMENT && wanted.has(row.supporter_id)).length,
  };
}

/**
 * Has exactly those who are wanted have a tag, as one change set; nothing is written where they do, or where the tag is
 * not kept any more, which `still` answers once nobody can change it. Answers whether anything was written.
 */
export async function keepTag(
  changes: Changes,
  sql: Sql,
  tag: { id: number; name: string },
  wanted: ReadonlySet<number>,
  still: (sql: Sql) => Promise<boolean>,
): Promise<boolean> {
  const { put, take } = await tagDifference(sql, tag.id, wanted);
  if (put.length === 0 && take.length === 0) return false;
  const words = { on: 0, off: 0 };
  const summary = (): string =>
    `Kept the tag ${tag.name}: put on ${counted(words.on, 'supporter')}, taken off ${words.off.toLocaleString('en-US')}`;
  const { revision } = await changes.write(KEEPER, { kind: 'standing', summary }, async (tx) => {
    // Whoever keeps the same tag at the same time waits, and then finds it kept.
    if (!(await tx.lock(TagTable, [tag.id])).has(tag.id) || !(await still(tx.sql))) return;
    const now = await tagDifference(tx.sql, tag.id, wanted);
    // Whoever went to the trash meanwhile is passed over, and what was made a tag by hand meanwhile stays.
    const present = await locked(tx, 'supporter', `state = 'active'`, now.put);
    const mine = await locked(tx, 'supporter_tag', `source = '${BY_SEGMENT}'`, now.take);
    await tx.insertAll(
      SupporterTagTable,
      present.map((id) => ({ supporter_id: id, tag_id: tag.id, source: BY_SEGMENT })),
    );
    await tx.removeAll(SupporterTagTable, mine);
    [words.on, words.off] = [present.length, mine.length];
  });
  return revision !== null;
}

/** Of some rows those that are still as they should be, locked. */
async function locked(tx: Transaction, table: string, where: string, ids: readonly number[]): Promise<number[]> {
  const found: number[] = [];
  for (const slice of chunks(ids)) {
    const rows = await tx.sql.rows<{ id: number }>(`SELECT id FROM ${table} WHERE id IN (?) AND ${where} FOR UPDATE`, [
      slice,
    ]);
    for (const { id } of rows) found.push(id);
  }
  return found;
}

/** Takes a tag off all who have it by a segment, since none keeps it any more. */
export async function letGoOfTag(tx: Transaction, tagId: number): Promise<void> {
  // Whoever keeps it at the same time ends first, or finds that it is kept no more.
  await tx.lock(TagTable, [tagId]);
  const rows = await tx.sql.rows<{ id: number }>(
    'SELECT id FROM supporter_tag WHERE tag_id = ? AND source = ? FOR UPDATE',
    [tagId, BY_SEGMENT],
  );
  await tx.removeAll(
    SupporterTagTable,
    rows.map(({ id }) => id),
  );
}

/** Makes a tag that segments put on some a tag by hand, which stays; answers for how many. */
export async function ownTag(tx: Transaction, tagId: number, ids: readonly number[]): Promise<number> {
  const mine: number[] = [];
  for (const slice of chunks(ids)) {
    const rows = await tx.sql.rows<{ id: number }>(
      'SELECT id FROM supporter_tag WHERE tag_id = ? AND source = ? AND supporter_id IN (?) FOR UPDATE',
      [tagId, BY_SEGMENT, slice],
    );
    mine.push(...rows.map(({ id }) => id));
  }
  await tx.updateAll(SupporterTagTable, mine, { source: 'hand' });
  return mine.length;
}

export const isKept = (source: unknown): boolean => source === BY_SEGMENT;

/** The id of the tag of a name; null where there is none. */
export async function tagNamed(sql: Sql, name: string): Promise<number | null> {
  return (await sql.rows<{ id: number }>('SELECT id FROM tag WHERE name = ?', [name]))[0]?.id ?? null;
}

/** The names of tags by their ids; those that are gone are left out. */
export async function tagNames(sql: Sql, ids: readonly number[]): Promise<Map<number, string>> {
  if (ids.length === 0) return new Map();
  const rows = await sql.rows<{ id: number; name: string }>('SELECT id, name FROM tag WHERE id IN (?)', [ids]);
  return new Map(rows.map(({ id, name }) => [id, name]));
}
