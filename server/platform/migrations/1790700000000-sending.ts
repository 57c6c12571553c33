import type { MigrationInterface, QueryRunner } from 'typeorm';

/* Who is sending a message, how often it was tried, and when it is tried again. */

const STEPS = [
  `ALTER TABLE delivery ADD COLUMN taken_by VARCHAR(30) NOT NULL DEFAULT '', ADD COLUMN tries INT UNSIGNED NOT NULL DEFAULT 0,
   ADD COLUMN due_at DATETIME(3) NULL, ADD KEY delivery_open (state, source_kind, source_id)`,
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
