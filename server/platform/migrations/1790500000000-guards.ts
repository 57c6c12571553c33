import type { MigrationInterface, QueryRunner } from 'typeorm';

/* What the guards hold rows against. The texts are made here as they were when this was written. */

const SAYS = `CONCAT_WS('|', g.supporter_id, g.cents, g.date, g.method, g.benefit_cents, g.benefit,
  COALESCE(IF(JSON_VALUE(g.details, '$.kind') = 'stock',
    CONCAT_WS('|', JSON_VALUE(g.details, '$.symbol'), JSON_VALUE(g.details, '$.shares'), JSON_VALUE(g.details, '$.meanPrice')),
    JSON_VALUE(g.details, '$.description')), ''),
  IF(g.split = 1, (SELECT GROUP_CONCAT(CONCAT(x.fund_id, ':', x.cents) ORDER BY x.place) FROM gift_split x WHERE x.gift_id = g.id),
    g.fund_id))`;
const METHOD = `COALESCE(JSON_VALUE(c.was, '$.method'), g.method)`;
const CENTS = `CAST(COALESCE(JSON_VALUE(c.was, '$.cents'), g.cents) AS SIGNED)`;

const STEPS = [
  `UPDATE gift SET details = JSON_OBJECT('kind', 'in_kind', 'description', IF(note = '', 'Goods or services', note), 'estimateBy', 'us')
   WHERE method = 'in_kind' AND details IS NULL`,
  `ALTER TABLE receipt ADD COLUMN says MEDIUMTEXT NULL COLLATE utf8mb4_bin`,
  // A receipt that needs another already is held against nothing.
  `UPDATE receipt r JOIN gift g ON g.id = r.gift_id SET r.says = IF(g.receipt_needs = '' AND r.voided_on IS NULL, ${SAYS}, '')`,
  `ALTER TABLE receipt MODIFY COLUMN says MEDIUMTEXT NOT NULL COLLATE utf8mb4_bin`,
  `ALTER TABLE organization ADD COLUMN closed_sums MEDIUMTEXT NULL`,
  `ALTER TABLE batch ADD COLUMN balanced_sums VARCHAR(500) NOT NULL DEFAULT ''`,
  `CREATE TABLE refund (
     id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, version INT UNSIGNED NOT NULL DEFAULT 1, supporter_id INT UNSIGNED NOT NULL,
     gift_id INT UNSIGNED NOT NULL, charge_id INT UNSIGNED NOT NULL, cents BIGINT NOT NULL, reason VARCHAR(300) NOT NULL DEFAULT '',
     state VARCHAR(8) NOT NULL, till_id VARCHAR(60) NOT NULL DEFAULT '', why VARCHAR(200) NOT NULL DEFAULT '',
     KEY refund_gift (gift_id, state), KEY refund_charge (charge_id), KEY refund_supporter (supporter_id),
     FOREIGN KEY (supporter_id) REFERENCES supporter (id), FOREIGN KEY (gift_id) REFERENCES gift (id),
     FOREIGN KEY (charge_id) REFERENCES charge (id))`,
  `ALTER TABLE deposit ADD COLUMN sums VARCHAR(500) NOT NULL DEFAULT ''`,
  `UPDATE deposit d JOIN (
     SELECT m.deposit_id, GROUP_CONCAT(CONCAT(m.method, ' ', m.count, ' ', m.cents) ORDER BY m.method SEPARATOR ', ') AS sums
     FROM (SELECT b.deposit_id, ${METHOD} AS method, COUNT(*) AS count, SUM(${CENTS}) AS cents
       FROM gift g JOIN batch b ON b.id = g.batch_id
       LEFT JOIN correction c ON c.id = (SELECT MIN(x.id) FROM correction x WHERE x.gift_id = g.id AND x.deposit_id = b.deposit_id)
       WHERE b.deposit_id IS NOT NULL AND ${CENTS} > 0 GROUP BY 1, 2) m
     GROUP BY m.deposit_id) s ON s.deposit_id = d.id
   SET d.sums = s.sums`,
];

export class Guards1790500000000 implements MigrationInterface {
  name = 'Guards1790500000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
