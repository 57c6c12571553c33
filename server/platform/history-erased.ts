import type { Row } from '@tallystick/core/changes';
import type { Sql } from './db.ts';
import { eraseText } from './erase-text.ts';
import { declaredTables, outside } from './tables.ts';

/* What history keeps of those who are erased. */

const SUMMARIES_AT_ONCE = 20_000;
// Whoever is erased is named in what was done to them, and in what was done about them.
outside('change_set', 'history itself', async (sql, erased) => {
  for (let last = 0; ;) {
    const rows = await sql.rows<{ revision: number; summary: string }>(
      'SELECT revision, summary FROM change_set WHERE revision > ? ORDER BY revision LIMIT ?',
      [last, SUMMARIES_AT_ONCE],
    );
    await eraseText(sql, erased, 'change_set', ['revision'], ['summary'], rows);
    last = rows.at(-1)?.revision ?? 0;
    if (rows.length < SUMMARIES_AT_ONCE) return;
  }
});
outside(
  'change_row',
  'history itself; what it knows of the erased goes by what their tables say',
  async (sql, erased) => {
    // What stays of the erased, as their gifts; and what was written about others, who may have been named with them.
    const rows = await sql.rows<Record<string, unknown>>(
      `SELECT revision, seq, before_json, after_json FROM change_row WHERE supporter_id IN (?) OR table_name IN ('note', 'task')`,
      [erased.map(({ id }) => id)],
    );
    await eraseText(sql, erased, 'change_row', ['revision', 'seq'], ['before_json', 'after_json'], rows);
    for (const { name, rule } of declaredTables()) if (rule.forgets) await forget(sql, name, rule.forgets);
  },
);

/** Has history keep of the rows of a table only what it keeps once anybody was erased. */
async function forget(sql: Sql, table: string, forgets: (row: Row) => Row): Promise<void> {
  const rows = await sql.rows<{ revision: number; seq: number; before_json: string | null; after_json: string | null }>(
    'SELECT revision, seq, before_json, after_json FROM change_row WHERE table_name = ?',
    [table],
  );
  const kept = (text: string | null): string | null => {
    const row: Row | null = JSON.parse(text ?? 'null');
    return row && JSON.stringify(forgets(row));
  };
  for (const { revision, seq, before_json: before, after_json: after } of rows)
    if (kept(before) !== before || kept(after) !== after)
      await sql.run('UPDATE change_row SET before_json = ?, after_json = ? WHERE revision = ? AND seq = ?', [
        ...[kept(before), kept(after), revision, seq],
      ]);
}
outside('change_touch', 'history itself');
outside('counter', 'the last revision, raised under its own lock');
