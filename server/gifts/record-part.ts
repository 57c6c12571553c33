import type { Sql } from '../platform/db.ts';
import type { PartOfRecord, RecordOf } from '../supporters/index.ts';

/** The gifts and soft credits that a record's stick shows. */
export async function giftsOfRecord(sql: Sql, { household }: RecordOf): Promise<PartOfRecord> {
  // gift_facts (supporter_id, date, …), soft_credit_supporter (supporter_id)
  const timeline = await sql.rows<NonNullable<PartOfRecord['timeline']>[number]>(
    `SELECT g.id, 'gift' AS kind, g.date, g.cents, g.acknowledged_on AS acknowledgedOn, 0 AS paid, 0 AS writtenOff
     FROM gift g WHERE g.supporter_id IN (?) AND g.cents > 0
     UNION ALL SELECT x.gift_id, 'credit', x.date, CAST(SUM(x.cents) AS SIGNED), NULL, 0, 0
     FROM soft_credit x WHERE x.supporter_id IN (?) GROUP BY x.gift_id, x.date ORDER BY date, id`,
    [household, household],
  );
  return { timeline };
}
