import { sortName } from '@tallystick/core/names';
import { supporterNumber } from '@tallystick/core/supporters';
import { guard } from '../platform/guards.ts';
import type { Breach } from '../platform/guards.ts';
import { declaredTables } from '../platform/tables.ts';
import type { Transaction } from '../platform/transaction.ts';
import { mendPrimary } from './households.ts';
import { WAYS } from './record.ts';
import { SupporterTable } from './supporter.entity.ts';
import type { SupporterRecord } from './supporter.entity.ts';

/* The rows of records that are merged: who stays, and who leads there from then on. What hangs on them moves elsewhere. */

/** Gives who stays the columns that were decided on, and has the others lead there; answers the merged row. */
export async function mergeRows(
  tx: Transaction,
  stays: SupporterRecord,
  gone: readonly SupporterRecord[],
  patch: Partial<SupporterRecord>,
): Promise<SupporterRecord> {
  const merged = { ...stays, ...patch };
  const ids = gone.map(({ id }) => id);
  await moveMembers(tx, stays, gone);
  // Who stays takes the place of who goes in their home. supporter has no index on its primary; homes are few.
  const homes = [...new Set(gone.flatMap((row) => row.household_id ?? []))];
  for (const home of (await tx.lock(SupporterTable, homes)).values())
    if (ids.includes(home.primary_id ?? 0) && home.id === merged.household_id)
      await tx.update(SupporterTable, home.id, { primary_id: stays.id });
  await tx.updateAll(SupporterTable, ids, {
    ...{ state: 'merged', merged_into: stays.id, household_id: null, primary_id: null },
  });
  // Who was merged into one of them before is led to who stays; supporter_merged (merged_into)
  const before = await tx.sql.rows<{ id: number }>('SELECT id FROM supporter WHERE merged_into IN (?)', [ids]);
  await tx.updateAll(
    SupporterTable,
    before.map(({ id }) => id).filter((id) => !ids.includes(id)),
    { merged_into: stays.id },
  );
  await tx.update(SupporterTable, stays.id, { ...patch, sort_name: sortName(merged) });
  for (const home of new Set([...gone, stays].flatMap((row) => row.household_id ?? []))) await mendPrimary(tx, home);
  if (stays.kind === 'household') await mendPrimary(tx, stays.id);
  return merged;
}

/** Who lives in a household that goes lives in the one that stays. */
async function moveMembers(tx: Transaction, stays: SupporterRecord, gone: readonly SupporterRecord[]): Promise<void> {
  // supporter_household (household_id)
  const members = await tx.sql.rows<{ id: number }>('SELECT id FROM supporter WHERE household_id IN (?)', [
    gone.map(({ id }) => id),
  ]);
  await tx.updateAll(
    SupporterTable,
    members.map(({ id }) => id),
    { household_id: stays.id },
  );
  const primary = gone.find((row) => row.primary_id !== null)?.primary_id ?? null;
  if (stays.kind === 'household' && stays.primary_id === null)
    await tx.update(SupporterTable, stays.id, { primary_id: primary });
}

/** Of each kind of way that somebody has, one is preferred: the one that was chosen, else as it was. */
export async function preferWays(
  tx: Transaction,
  id: number,
  chosen: (key: keyof typeof WAYS) => number | null,
): Promise<void> {
  for (const [key, table] of Object.entries(WAYS) as [keyof typeof WAYS, (typeof WAYS)[keyof typeof WAYS]][]) {
    const rows = await tx.sql.rows<{ id: number; preferred: number }>(
      `SELECT id, preferred FROM ${key} WHERE supporter_id = ? ORDER BY id`,
      [id],
    );
    const best = chosen(key) ?? rows.find((row) => row.preferred === 1)?.id ?? rows[0]?.id;
    for (const row of rows)
      if ((row.preferred === 1) !== (row.id === best))
        await tx.rewrite(table, [row.id], { preferred: row.id === best ? 1 : 0 });
  }
}

guard({
  holds: 'A number that was merged into another leads to a record that is kept, and to nobody else',
  code: 'merged',
  about: [{ table: SupporterTable, of: 'id', columns: ['state', 'merged_into'], fresh: false }],
  async breaches({ sql, among }) {
    // supporter_merged (merged_into)
    const odd = await sql.rows<{ subject: number }>(
      `SELECT s.id AS subject FROM supporter s WHERE ${among('s.id')} AND (s.state = 'merged') <> (s.merged_into IS NOT NULL)
       UNION SELECT k.id FROM supporter s JOIN supporter k ON k.id = s.merged_into WHERE ${among('k.id')} AND k.state = 'merged'
       UNION SELECT s.id FROM supporter s JOIN supporter k ON k.id = s.merged_into WHERE ${among('s.id')} AND k.state = 'merged'`,
    );
    return odd.map(({ subject }) => ({
      subject,
      says: `${supporterNumber(subject)} was merged with others since. Undo those merges first.`,
    }));
  },
});

guard({
  holds: 'Who was merged into another has nothing that belongs to that one',
  code: 'merged',
  about: [{ table: SupporterTable, of: 'id', columns: ['state'], fresh: false }],
  async breaches({ sql, among }) {
    const found: Breach[] = [];
    for (const { name, rule } of declaredTables()) {
      if (rule.merging !== 'move') continue;
      // Every owner has an index.
      const left = await sql.rows<{ subject: number }>(
        `SELECT DISTINCT s.id AS subject FROM supporter s JOIN ${name} x ON x.supporter_id = s.id
         WHERE ${among('s.id')} AND s.state = 'merged'`,
      );
      for (const { subject } of left)
        found.push({
          subject,
          says: `${supporterNumber(subject)} got more since (${name.replace(/_/g, ' ')}). Merge it again, as it is now.`,
        });
    }
    return found;
  },
});
