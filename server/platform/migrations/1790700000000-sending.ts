import type { MigrationInterface, QueryRunner } from 'typeorm';

/* Who is sending a message, how often it was tried, and when it is tried again. */

const STEPS = [
  `ALTER TABLE delivery ADD COLUMN taken_by VARCHAR(30) NOT NULL DEFAULT '', ADD COLUMN tries INT UNSIGNED NOT NULL DEFAULT 0,
   ADD COLUMN due_at DATETIME(3) NULL, ADD KEY delivery_open (state, source_kind, source_id)`,
  // Each issue of receipts has a place of its own, by which its work is found: what was stopped stays stopped.
  `UPDATE job SET link = CONCAT('/thanks/issued?run=', JSON_VALUE(payload, '$.id'))
   WHERE kind = 'send' AND JSON_VALUE(payload, '$.kind') = 'receipt'`,
];

export class Sending1790700000000 implements MigrationInterface {
  name = 'Sending1790700000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
