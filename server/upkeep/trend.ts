import { addDays } from '@tallystick/core/dates';
import type { IsoDate } from '@tallystick/core/dates';
import type { Finding } from '@tallystick/core/upkeep';
import type { Sql } from '../platform/db.ts';
import { outside } from '../platform/tables.ts';

outside('finding_count', 'how much was unclean on each day; numbers alone, which follow from the records');

/** So many days back it is told of. */
const DAYS_BACK = 92;

/** How many there were of each finding on the days when somebody looked, or the night did, the oldest first. */
export async function trendOf(sql: Sql, today: IsoDate): Promise<Map<Finding, { day: string; count: number }[]>> {
  const rows = await sql.rows<{ day: string; finding: Finding; count: number }>(
    'SELECT day, finding, many AS count FROM finding_count WHERE day > ? AND day <= ? ORDER BY day',
    [addDays(today, -DAYS_BACK), today],
  );
  const found = new Map<Finding, { day: string; count: number }[]>();
  for (const { day, finding, count } of rows) found.set(finding, [...(found.get(finding) ?? []), { day, count }]);
  return found;
}

/** Keeps what there is of each finding today; the last count of a day stands. */
export async function keepCounts(sql: Sql, today: IsoDate, counts: ReadonlyMap<Finding, number>): Promise<void> {
  const rows = [...counts];
  await sql.run(
    `INSERT INTO finding_count (day, finding, many) VALUES ${rows.map(() => '(?, ?, ?)').join(', ')}
     ON DUPLICATE KEY UPDATE many = VALUES(many)`,
    rows.flatMap(([finding, many]) => [today, finding, many]),
  );
}
