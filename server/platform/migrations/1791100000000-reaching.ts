import type { MigrationInterface, QueryRunner } from 'typeorm';

/* Gifts of one amount are found newest first without sorting all; a refusal of e-mail belongs to the mailbox. */

const STEPS = [
  `ALTER TABLE gift ADD KEY gift_amount (cents, date, id)`,
  `CREATE TABLE refusal (
     id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, version INT UNSIGNED NOT NULL DEFAULT 1, supporter_id INT UNSIGNED NOT NULL,
     address VARCHAR(254) NOT NULL, mailbox CHAR(64) NOT NULL, since DATE NOT NULL,
     source VARCHAR(120) NOT NULL, lifted_on DATE NULL, lifted_by VARCHAR(120) NOT NULL, lifted_why VARCHAR(300) NOT NULL,
     KEY refusal_supporter (supporter_id), KEY refusal_mailbox (mailbox, lifted_on))`,
  // Who asked by link before refused the mailboxes of the record; the wish made way for that.
  `INSERT INTO refusal (supporter_id, address, mailbox, since, source, lifted_by, lifted_why)
     SELECT MIN(w.supporter_id), LOWER(e.address), SHA2(LOWER(e.address), 256), MIN(w.since), 'unsubscribe link', '', ''
     FROM wish w JOIN email e ON e.supporter_id = w.supporter_id AND (e.valid_to IS NULL OR e.valid_to >= w.since)
     WHERE w.kind = 'no_email' AND w.source = 'unsubscribe link' GROUP BY LOWER(e.address)`,
  `DELETE w FROM wish w JOIN email e ON e.supporter_id = w.supporter_id AND (e.valid_to IS NULL OR e.valid_to >= w.since)
     WHERE w.kind = 'no_email' AND w.source = 'unsubscribe link'`,
];

export class Reaching1791100000000 implements MigrationInterface {
  name = 'Reaching1791100000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
