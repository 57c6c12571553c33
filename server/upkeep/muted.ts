import { FINDINGS } from '@tallystick/core/upkeep';
import type { Finding } from '@tallystick/core/upkeep';
import type { Sql } from '../platform/db.ts';
import { day, ref, table, text } from '../platform/tables.ts';

/** A finding that a person said is right as it is for a record; it is not told of there any more. */
export const MutedTable = table(
  'muted_finding',
  {
    ...{ area: 'upkeep', owner: 'supporter_id', topics: ['record'], erasing: 'remove', undo: 'rows' },
    merging: { once: (row) => String(row['finding']), else: 'stays' },
    called: ({ finding }) => `That “${FINDINGS[finding as Finding]?.label ?? String(finding)}” is right as it is`,
  },
  { supporter_id: ref, finding: text<Finding>(20), said_by: text(120), said_on: day },
);

/** For whom each finding is not told of. */
export async function everyMuted(sql: Sql): Promise<Map<Finding, Set<number>>> {
  const rows = await sql.rows<{ finding: Finding; id: number }>(
    'SELECT finding, supporter_id AS id FROM muted_finding',
  );
  const found = new Map<Finding, Set<number>>();
  for (const { finding, id } of rows) found.set(finding, (found.get(finding) ?? new Set()).add(id));
  return found;
}

/** The rows that say so of some records. */
export const mutedRows = (sql: Sql, finding: Finding, ids: readonly number[]) =>
  sql.rows<{ id: number; supporter_id: number }>(
    // muted_finding_of (supporter_id, finding)
    'SELECT id, supporter_id FROM muted_finding WHERE finding = ? AND supporter_id IN (?) FOR UPDATE',
    [finding, ids],
  );
