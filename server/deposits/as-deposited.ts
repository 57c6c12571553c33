import type { Sql } from '../platform/db.ts';

/** A gift of a batch as `g`, `b` its batch; `c` is the first correction since it was deposited, which has what it was then. */
export const AS_DEPOSITED = `FROM gift g JOIN batch b ON b.id = g.batch_id
  LEFT JOIN correction c ON c.id = (SELECT MIN(x.id) FROM correction x WHERE x.gift_id = g.id AND x.deposit_id = b.deposit_id)`;
export const METHOD = `COALESCE(JSON_VALUE(c.was, '$.method'), g.method)`;
export const CENTS = `CAST(COALESCE(JSON_VALUE(c.was, '$.cents'), g.cents) AS SIGNED)`;

/**
 * Deposits with what was kept of each when it was made and what its gifts come to now, both as one text: method, number
 * and cents, method by method.
 */
export const depositSums = (sql: Sql, ids: readonly number[]): Promise<{ id: number; kept: string; now: string }[]> =>
  sql.rows(
    // gift_batch (batch_id), correction_gift (gift_id, id)
    `SELECT d.id, d.sums AS kept,
       COALESCE(GROUP_CONCAT(CONCAT(m.method, ' ', m.count, ' ', m.cents) ORDER BY m.method SEPARATOR ', '), '') AS now
     FROM deposit d LEFT JOIN (SELECT b.deposit_id, ${METHOD} AS method, COUNT(*) AS count, SUM(${CENTS}) AS cents ${AS_DEPOSITED}
       WHERE b.deposit_id IN (?) AND ${CENTS} > 0 GROUP BY 1, 2) m ON m.deposit_id = d.id
     WHERE d.id IN (?) GROUP BY d.id`,
    [ids, ids],
  );
