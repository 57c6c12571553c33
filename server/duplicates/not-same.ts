import type { Row } from '@tallystick/core/changes';
import { supporterNumber } from '@tallystick/core/supporters';
import type { Sql } from '../platform/db.ts';
import { day, ref, table, text } from '../platform/tables.ts';
import type { MergeOf, RowOf } from '../platform/tables.ts';

/** Two records of which a person said that they are not the same; whichever of them is named first. */
export const NotSameTable = table(
  'not_same',
  {
    ...{ area: 'duplicates', owner: 'supporter_id', also: 'other_id', topics: ['record'], erasing: 'remove' },
    called: (row: Row) =>
      `That ${supporterNumber(Number(row['supporter_id']))} and ${supporterNumber(Number(row['other_id']))} are not the same`,
    eraseOthers: (sql, erased) =>
      sql.run('DELETE FROM not_same WHERE other_id IN (?)', [erased.map((one) => one.id)]).then(() => undefined),
    merging: { once: (row) => String(row['other_id']), else: 'goes' },
    mergeOthers: mergePairs,
    undo: 'rows',
  },
  { supporter_id: ref, other_id: ref, said_by: text(120), said_on: day },
);
type NotSameRecord = RowOf<typeof NotSameTable>;

/** Pairs with who goes become pairs with who stays: each once, and none with itself. */
async function mergePairs({ tx, gone, into }: MergeOf): Promise<void> {
  const rows = await tx.sql.rows<NotSameRecord>(
    // not_same_pair (supporter_id, other_id), not_same_other (other_id)
    'SELECT * FROM not_same WHERE supporter_id = ? OR other_id = ? OR other_id IN (?) ORDER BY id',
    [into, into, gone],
  );
  const others = new Set<number>();
  for (const row of rows) {
    const ends = [row.supporter_id, row.other_id].map((id) => (gone.includes(id) ? into : id));
    const other = ends.find((id) => id !== into);
    if (other === undefined || others.has(other)) await tx.removeAll(NotSameTable, [row.id]);
    else if (gone.includes(row.other_id)) await tx.rewrite(NotSameTable, [row.id], { other_id: into });
    if (other !== undefined) others.add(other);
  }
}

/** Every pair of which it was said that they are not the same. */
export const everyApart = async (sql: Sql): Promise<(readonly [number, number])[]> =>
  (await sql.rows<{ one: number; other: number }>('SELECT supporter_id AS one, other_id AS other FROM not_same')).map(
    ({ one, other }) => [one, other] as const,
  );

/** The pairs among some records of which it was said that they are not the same, and by whom. */
export const saidApart = (sql: Sql, ids: readonly number[]): Promise<{ one: number; other: number; by: string }[]> =>
  sql.rows(
    // not_same_pair (supporter_id, other_id)
    'SELECT supporter_id AS one, other_id AS other, said_by AS `by` FROM not_same WHERE supporter_id IN (?) AND other_id IN (?)',
    [ids, ids],
  );
