import { recurringNumber } from '@tallystick/core/recurring';
import type { Sql } from '../platform/db.ts';
import type { PartOfRecord, RecordOf } from '../supporters/index.ts';

/** A supporter's recurring gifts whose charge failed. */
export async function failingOfRecord(sql: Sql, { id }: RecordOf): Promise<PartOfRecord> {
  // charge has an index on supporter_id
  const failing = await sql.rows<{ recurringId: number; reason: string }>(
    `SELECT DISTINCT recurring_id AS recurringId, reason FROM charge WHERE supporter_id = ? AND state IN ('failed', 'call')`,
    [id],
  );
  return { failing: failing.map((one) => ({ ...one, number: recurringNumber(one.recurringId) })) };
}
