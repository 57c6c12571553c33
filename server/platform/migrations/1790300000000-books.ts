import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What a batch held when it was balanced, and the deposit that a gift was in when it was corrected. */
const STEPS = [
  'ALTER TABLE batch ADD COLUMN balanced_count INT NULL, ADD COLUMN balanced_cents BIGINT NULL, ADD KEY batch_state (state, id)',
  'ALTER TABLE correction ADD COLUMN deposit_id INT UNSIGNED NULL',
  `UPDATE correction c JOIN gift g ON g.id = c.gift_id JOIN batch b ON b.id = g.batch_id SET c.deposit_id = b.deposit_id`,
];

export class Books1790300000000 implements MigrationInterface {
  name = 'Books1790300000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  /** Data is never taken back by a migration: restore a dump from before it. */
  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
