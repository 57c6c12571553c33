import type { Sql } from '../platform/db.ts';
import type { PartOfRecord, RecordOf } from '../supporters/index.ts';

type Notch = NonNullable<PartOfRecord['timeline']>[number];

/** The gifts and soft credits that a record's stick shows, by day. */
export async function giftsOfRecord(sql: Sql, { household }: RecordOf): Promise<PartOfRecord> {
  const [gifts, credits] = await Promise.all([
    // gift_facts (supporter_id, date, …)
    sql.rows<Omit<Notch, 'kind'>>(
      'SELECT id, date, cents, acknowledged_on AS acknowledgedOn FROM gift WHERE supporter_id IN (?) AND cents > 0',
      [household],
    ),
    // soft_credit_supporter (supporter_id)
    sql.rows<Omit<Notch, 'kind' | 'acknowledgedOn'>>(
      `SELECT gift_id AS id, date, CAST(SUM(cents) AS SIGNED) AS cents FROM soft_credit WHERE supporter_id IN (?)
       GROUP BY gift_id, date`,
      [household],
    ),
  ]);
  const timeline: Notch[] = [
    ...gifts.map((gift) => ({ ...gift, kind: 'gift' as const })),
    ...credits.map((credit) => ({ ...credit, kind: 'credit' as const, acknowledgedOn: null })),
  ];
  return { timeline: timeline.sort((a, b) => (a.date === b.date ? a.id - b.id : a.date < b.date ? -1 : 1)) };
}
