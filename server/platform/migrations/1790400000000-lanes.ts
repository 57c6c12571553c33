import type { MigrationInterface, QueryRunner } from 'typeorm';

const STEPS = [
  // A job that a schedule began, by the schedule and its hour: never two for one.
  `ALTER TABLE job ADD COLUMN once_key VARCHAR(120) NULL, ADD UNIQUE KEY job_once (once_key),
   DROP KEY job_next, ADD KEY job_next (kind, state, run_after)`,
  `CREATE TABLE schedule (name VARCHAR(60) NOT NULL PRIMARY KEY, next_at DATETIME(3) NOT NULL)`,
  // What was sent in one go, whatever kind it is of, and what each message of it is about.
  `ALTER TABLE delivery ADD COLUMN source_kind VARCHAR(20) NOT NULL DEFAULT '' AFTER supporter_id,
   ADD COLUMN source_id INT UNSIGNED NOT NULL DEFAULT 0 AFTER source_kind`,
  `UPDATE delivery SET source_kind = IF(mailing_id IS NULL, 'receipt', 'mailing'), source_id = COALESCE(mailing_id, issue_run_id, 0)`,
  `ALTER TABLE delivery ADD KEY delivery_source (source_kind, source_id, state, id)`,
  `ALTER TABLE delivery DROP FOREIGN KEY delivery_ibfk_2, DROP FOREIGN KEY delivery_ibfk_4`,
  `ALTER TABLE delivery DROP KEY delivery_mailing, DROP KEY delivery_run, DROP COLUMN mailing_id, DROP COLUMN issue_run_id`,
];

export class Lanes1790400000000 implements MigrationInterface {
  name = 'Lanes1790400000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
