import type { MigrationInterface, QueryRunner } from 'typeorm';
import { giftSums } from '@tallystick/core/ledger';

/* What is booked besides gifts, and the fees of processors. */

const REF = 'INT UNSIGNED';
const STEPS = [
  `ALTER TABLE account ADD COLUMN what VARCHAR(10) NOT NULL DEFAULT 'gift' AFTER version, ADD KEY account_fund (fund_id)`,
  'ALTER TABLE account DROP KEY account_for, ADD UNIQUE KEY account_for (what, fund_id, method)',
  'ALTER TABLE gift ADD COLUMN fee_cents BIGINT NOT NULL DEFAULT 0 AFTER benefit',
  `CREATE TABLE journal (
     id ${REF} NOT NULL AUTO_INCREMENT PRIMARY KEY, version ${REF} NOT NULL DEFAULT 1, what VARCHAR(12) NOT NULL,
     gift_id ${REF} NULL, pledge_id ${REF} NULL, fund_id ${REF} NOT NULL, method VARCHAR(12) NULL, booked_on DATE NOT NULL,
     cents BIGINT NOT NULL, KEY journal_booked (booked_on), KEY journal_gift (gift_id), KEY journal_pledge (pledge_id),
     FOREIGN KEY (fund_id) REFERENCES fund (id))`,
  `INSERT INTO journal (what, pledge_id, fund_id, booked_on, cents)
   SELECT 'pledged', id, fund_id, pledged_on, cents FROM pledge WHERE stage IN ('promised', 'claimed')`,
  `INSERT INTO journal (what, pledge_id, fund_id, booked_on, cents)
   SELECT 'paid', p.id, p.fund_id, g.booked_on, SUM(x.cents) FROM pledge_payment x JOIN pledge p ON p.id = x.pledge_id
   JOIN gift g ON g.id = x.gift_id WHERE p.stage IN ('promised', 'claimed') GROUP BY p.id, p.fund_id, g.booked_on`,
  `INSERT INTO journal (what, pledge_id, fund_id, booked_on, cents)
   SELECT 'written_off', p.id, p.fund_id, x.date, SUM(x.cents) FROM write_off x JOIN pledge p ON p.id = x.pledge_id
   WHERE p.stage IN ('promised', 'claimed') GROUP BY p.id, p.fund_id, x.date`,
];

export class Journal1790600000000 implements MigrationInterface {
  name = 'Journal1790600000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
    type Sold = {
      id: number;
      cents: number;
      fund: number;
      supporter: number;
      date: string;
      on: string;
      came: number;
      fee: number;
    };
    const sold: Sold[] = await runner.query(
      `SELECT id, cents, fund_id AS fund, supporter_id AS supporter, date, JSON_VALUE(details, '$.soldOn') AS \`on\`,
         JSON_VALUE(details, '$.proceedsCents') AS came, COALESCE(JSON_VALUE(details, '$.feeCents'), 0) AS fee
       FROM gift WHERE method = 'stock' AND cents > 0 AND JSON_VALUE(details, '$.soldOn') IS NOT NULL
         AND JSON_VALUE(details, '$.proceedsCents') IS NOT NULL`,
    );
    for (const gift of sold) {
      const parts: { cents: number; fund: number }[] = await runner.query(
        'SELECT cents, fund_id AS fund FROM gift_split WHERE gift_id = ? ORDER BY place',
        [gift.id],
      );
      const whole = [{ cents: gift.cents, fund: gift.fund }];
      const state = {
        ...{ supporterId: gift.supporter, cents: Number(gift.cents), date: gift.date, method: 'stock' as const },
        parts: (parts.length > 0 ? parts : whole).map((part) => ({
          ...{ cents: Number(part.cents), fundId: part.fund, campaignId: null, appealId: null },
        })),
      };
      const soldFor = Number(gift.came) - Number(gift.fee);
      for (const one of giftSums({ state, fundId: gift.fund, isVoid: false, soldFor, fee: 0 }))
        if (one.cents !== 0)
          await runner.query('INSERT INTO journal (what, gift_id, fund_id, booked_on, cents) VALUES (?, ?, ?, ?, ?)', [
            ...[one.what, gift.id, one.fundId, gift.on, one.cents],
          ]);
    }
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
