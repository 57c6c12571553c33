import type { DataSource } from 'typeorm';
import type { Value } from '@tallystick/core/changes';
import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { counted } from '@tallystick/core/words';
import type { Actor, Changes } from '../platform/changes.ts';
import { chunks, one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { Problem } from '../platform/problem.ts';
import { declaredTables, outsideTables } from '../platform/tables.ts';
import type { Erased } from '../platform/tables.ts';
import type { Transaction } from '../platform/transaction.ts';
import { SupporterTable } from './supporter.entity.ts';

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
       FROM supporter s LEFT JOIN gift g ON g.supporter_id = s.id WHERE s.state = 'trash'`,
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
      { kind: 'erase', summary: `Emptied the trash: ${counted(figures.records, 'record')}`, evenWithoutRows: true },
      async (tx) => {
        const ids = (
          await tx.sql.rows<{ id: number }>(`SELECT id FROM supporter WHERE state = 'trash' FOR UPDATE`)
        ).map((row) => row.id);
        if (ids.length !== records)
          throw new Problem(
            409,
            'changed',
            `The trash holds ${counted(ids.length, 'record')} now, not ${records}. Look again before you empty it.`,
            { details: { records: ids.length } },
          );
        for (const slice of chunks(ids)) await erase(tx, [...slice, ...(await mergedInto(tx.sql, slice))]);
        tx.touch(ids);
        return figures;
      },
    );
    return result;
  }
}

/** Who is erased, with the texts by which rows that have no number for them may name them. */
async function whoGoes(sql: Sql, ids: readonly number[]): Promise<Erased[]> {
  const [people, emails] = await Promise.all([
    sql.rows<NameParts & { id: number }>('SELECT * FROM supporter WHERE id IN (?)', [ids]),
    sql.rows<{ supporter_id: number; address: string }>(
      'SELECT supporter_id, address FROM email WHERE supporter_id IN (?)',
      [ids],
    ),
  ]);
  return people.map((row) => {
    const { id, first, last } = row;
    const own = emails.filter((email) => email.supporter_id === id).map((email) => email.address);
    const names = row.kind === 'person' ? [`${first} ${last}`, `${last}, ${first}`] : [];
    return { id, first, last, texts: [displayName(row), ...names, ...own] };
  });
}

/** Who was merged into some: what they were called goes with those. */
const mergedInto = async (sql: Sql, ids: readonly number[]): Promise<number[]> =>
  // supporter_merged (merged_into)
  (await sql.rows<{ id: number }>('SELECT id FROM supporter WHERE merged_into IN (?)', [ids])).map(({ id }) => id);

/** Erases by what each table says of it, itself declared; the records' own rows come last. */
async function erase(tx: Transaction, ids: readonly number[]): Promise<void> {
  const { sql } = tx;
  const erased = await whoGoes(sql, ids);
  await sql.run('UPDATE supporter SET household_id = NULL WHERE household_id IN (?)', [ids]);
  await sql.run('UPDATE supporter SET primary_id = NULL WHERE primary_id IN (?)', [ids]);
  await sql.run('UPDATE supporter SET merged_into = NULL WHERE merged_into IN (?)', [ids]);
  const owned = declaredTables().filter(({ rule }) => rule.owner === 'supporter_id');
  for (const { rule } of owned) await rule.eraseOthers?.(sql, erased);
  for (const one of outsideTables()) await one.erase?.(sql, erased);
  for (const { name, rule } of owned) {
    if (rule.erasing === 'remove') await sql.run(`DELETE FROM ${name} WHERE supporter_id IN (?)`, [ids]);
    else if (typeof rule.erasing === 'object') await blank(sql, name, 'supporter_id', rule.erasing.blank, ids);
  }
  // What history knew of the person goes with it; what it knows of the money stays.
  const money = declaredTables().flatMap(({ name, rule }) => (rule.erasing === 'keep' ? [name] : []));
  await sql.run('DELETE FROM change_row WHERE supporter_id IN (?) AND table_name NOT IN (?)', [ids, money]);
  // The bytes that no document names, nor one that was deleted and may come back by undo.
  await sql.run(
    `DELETE FROM file_content WHERE hash NOT IN (SELECT hash FROM document) AND hash NOT IN (
       SELECT JSON_VALUE(r.before_json, '$.hash') FROM change_row r
       WHERE r.table_name = 'document' AND JSON_VALUE(r.before_json, '$.hash') IS NOT NULL)`,
  );
  const held = owned
    .filter(({ rule }) => rule.erasing !== 'remove')
    .map(({ name }) => `EXISTS (SELECT 1 FROM ${name} x WHERE x.supporter_id = s.id)`);
  const kept = await sql.rows<{ id: number }>(`SELECT id FROM supporter s WHERE id IN (?) AND (${held.join(' OR ')})`, [
    ids,
  ]);
  const stay = new Set(kept.map((row) => row.id));
  const gone = ids.filter((id) => !stay.has(id));
  if (gone.length > 0) await sql.run('DELETE FROM supporter WHERE id IN (?)', [gone]);
  if (stay.size === 0) return;
  const { erasing } = SupporterTable.rule;
  if (typeof erasing === 'object') await blank(sql, 'supporter', 'id', erasing.blank, [...stay]);
  await sql.run(
    `UPDATE supporter SET state = 'erased', last = IF(kind = 'person', 'Removed supporter', ''),
     organization = IF(kind = 'person', '', 'Removed supporter'), version = version + 1 WHERE id IN (?)`,
    [[...stay]],
  );
}

async function blank(
  sql: Sql,
  table: string,
  owner: string,
  values: Readonly<Record<string, Value>>,
  ids: readonly number[],
): Promise<void> {
  const columns = Object.keys(values);
  if (columns.length === 0) return;
  await sql.run(`UPDATE ${table} SET ${columns.map((column) => `${column} = ?`).join(', ')} WHERE ${owner} IN (?)`, [
    ...columns.map((column) => values[column] ?? null),
    ids,
  ]);
}
