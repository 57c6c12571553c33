import type { MigrationInterface, QueryRunner } from 'typeorm';

/*
 * E-mails say when they were first opened. Windows of days are kept by name. A task may carry a segment and what is
 * made of it.
 */

const STEPS = [
  `ALTER TABLE delivery ADD COLUMN opened_at DATETIME(3) NULL, ADD COLUMN untold TINYINT UNSIGNED NOT NULL DEFAULT 0,
    ADD KEY delivery_untold (untold, id)`,
  `CREATE TABLE kept_window (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, version INT UNSIGNED NOT NULL DEFAULT 1,
    name VARCHAR(60) NOT NULL, days TEXT NOT NULL, KEY kept_window_name (name))`,
  // What a task carries may be deleted; the task stays and says so.
  `ALTER TABLE task ADD COLUMN segment_id INT UNSIGNED NULL, ADD COLUMN act VARCHAR(20) NOT NULL DEFAULT ''`,
];

export class Carried1791500000000 implements MigrationInterface {
  name = 'Carried1791500000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
