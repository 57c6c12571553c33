import type { DataSource } from 'typeorm';
import type { Actor, Changes } from '../platform/changes.ts';
import { chunks, one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';

/** Tables of what is personal about a supporter, in the order in which they can be deleted. */
const PERSONAL = [
  'email',
  'phone',
  'address',
  'wish',
  'supporter_tag',
  'supporter_field',
  'group_member',
  'note_person',
  'task',
  'document',
] as const;

/** What stays of someone erased: the money, and what was promised. */
const MONEY = [
  'gift',
  'gift_split',
  'soft_credit',
  'correction',
  'pledge',
  'installment',
  'pledge_payment',
  'write_off',
  'receipt',
];

/** What is in the trash, and emptying it. Records that gave keep their gifts in every total for ever. */
export class Trash {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
  ) {
    this.sql = sqlOn(source);
  }

  async figures() {
    const row = await one<{ records: number; withGifts: number; gifts: number; cents: number }>(
      this.sql,
      `SELECT COUNT(DISTINCT s.id) AS records, COUNT(DISTINCT g.supporter_id) AS withGifts, COUNT(g.id) AS gifts, COALESCE(SUM(g.cents), 0) AS cents
       FROM supporter s LEFT JOIN gift g ON g.supporter_id = s.id WHERE s.trashed = 1`,
    );
    return row ?? { records: 0, withGifts: 0, gifts: 0, cents: 0 };
  }

  /**
   * Erases the personal details of everyone in the trash, with their history, for good. Whoever gave, or was sent
   * something, stays as a nameless record that holds the gifts; others are gone. `records` is how many were shown.
   */
  async empty(actor: Actor, records: number) {
    const figures = await this.figures();
    const { result } = await this.changes.write(
      actor,
      { kind: 'erase', summary: `Emptied the trash: ${figures.records} records`, evenWithoutRows: true },
      async (tx) => {
        const ids = (await tx.sql.rows<{ id: number }>('SELECT id FROM supporter WHERE trashed = 1 FOR UPDATE')).map(
          (row) => row.id,
        );
        if (ids.length !== records)
          throw new Problem(
            409,
            'changed',
            `There are ${ids.length} records in the trash now, not ${records}. Look again before you empty it.`,
            { details: { records: ids.length } },
          );
        for (const slice of chunks(ids)) await erase(tx, slice);
        tx.touch(ids);
        return figures;
      },
    );
    return result;
  }
}

async function erase(tx: Transaction, ids: readonly number[]): Promise<void> {
  const { sql } = tx;
  await sql.run('UPDATE supporter SET household_id = NULL WHERE household_id IN (?)', [ids]);
  await sql.run('UPDATE supporter SET primary_id = NULL WHERE primary_id IN (?)', [ids]);
  await sql.run('DELETE FROM relation WHERE supporter_id IN (?) OR other_id IN (?)', [ids, ids]);
  await sql.run('DELETE p FROM note_person p JOIN note n ON n.id = p.note_id WHERE n.supporter_id IN (?)', [ids]);
  await sql.run('DELETE FROM note WHERE supporter_id IN (?)', [ids]);
  for (const table of PERSONAL) await sql.run(`DELETE FROM ${table} WHERE supporter_id IN (?)`, [ids]);
  // Whoever was honoured, or was to be notified, is not named any more; the tribute itself is the donor's.
  await sql.run('UPDATE tribute SET of_id = NULL WHERE of_id IN (?)', [ids]);
  await sql.run(`UPDATE tribute SET notify_id = NULL, notify = '' WHERE notify_id IN (?)`, [ids]);
  await sql.run(`UPDATE recurring SET card = '', card_label = '', note = '' WHERE supporter_id IN (?)`, [ids]);
  await sql.run('DELETE FROM file_content WHERE hash NOT IN (SELECT hash FROM document)');
  // What history knew of the person goes with it; what it knows of the money stays.
  await sql.run(
    `DELETE FROM change_row WHERE supporter_id IN (?) AND table_name NOT IN (${MONEY.map((name) => `'${name}'`).join(', ')})`,
    [ids],
  );
  await sql.run(`UPDATE delivery SET address = '', detail = '' WHERE supporter_id IN (?)`, [ids]);
  const kept = await sql.rows<{ id: number }>(
    `SELECT id FROM supporter s WHERE id IN (?) AND (EXISTS (SELECT 1 FROM gift g WHERE g.supporter_id = s.id)
     OR EXISTS (SELECT 1 FROM soft_credit c WHERE c.supporter_id = s.id) OR EXISTS (SELECT 1 FROM pledge p WHERE p.supporter_id = s.id)
     OR EXISTS (SELECT 1 FROM recurring c WHERE c.supporter_id = s.id) OR EXISTS (SELECT 1 FROM correction c WHERE c.supporter_id = s.id)
     OR EXISTS (SELECT 1 FROM delivery d WHERE d.supporter_id = s.id) OR EXISTS (SELECT 1 FROM receipt r WHERE r.supporter_id = s.id))`,
    [ids],
  );
  const stay = new Set(kept.map((row) => row.id));
  const gone = ids.filter((id) => !stay.has(id));
  if (gone.length > 0) await sql.run('DELETE FROM supporter WHERE id IN (?)', [gone]);
  if (stay.size > 0)
    await sql.run(
      `UPDATE supporter SET trashed = 2, prefix = '', first = '', middle = '', suffix = '', nickname = '', former_last = '', birthday = '',
       addressing = NULL, household_id = NULL, primary_id = NULL, last = IF(kind = 'person', 'Removed supporter', ''),
       organization = IF(kind = 'person', '', 'Removed supporter'), sort_name = '', version = version + 1 WHERE id IN (?)`,
      [[...stay]],
    );
}
