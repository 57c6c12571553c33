import type { RecurringPlan } from '@tallystick/core/recurring';
import type { Sql } from '../platform/db.ts';
import type { RecurringRecord } from './recurring.entity.ts';

/** The plans of recurring gifts by their id: amounts from a day on and pauses from their own tables. */
export async function plansOf(sql: Sql, rows: readonly RecurringRecord[]): Promise<Map<number, RecurringPlan>> {
  const ids = [0, ...rows.map((row) => row.id)];
  const [amounts, pauses] = await Promise.all([
    // recurring_amount_from (recurring_id, from_on), recurring_pause_of (recurring_id)
    sql.rows<{ recurring_id: number; from: string; cents: number }>(
      'SELECT recurring_id, from_on AS `from`, cents FROM recurring_amount WHERE recurring_id IN (?) ORDER BY from_on',
      [ids],
    ),
    sql.rows<{ recurring_id: number; from: string; until: string | null }>(
      'SELECT recurring_id, from_on AS `from`, until_on AS until FROM recurring_pause WHERE recurring_id IN (?) ORDER BY from_on',
      [ids],
    ),
  ]);
  return new Map(
    rows.map((row) => [
      row.id,
      {
        schedule: { start: row.start_on, every: row.every, lastDay: row.last_day === 1 },
        until: row.until_on,
        amounts: amounts.filter((one) => one.recurring_id === row.id),
        pauses: pauses.filter((one) => one.recurring_id === row.id),
      },
    ]),
  );
}
