import type { MigrationInterface, QueryRunner } from 'typeorm';

const STEPS = [
  `ALTER TABLE supporter ADD COLUMN state ENUM('active', 'trash', 'erased') NOT NULL DEFAULT 'active' AFTER trashed`,
  `UPDATE supporter SET state = ELT(trashed + 1, 'active', 'trash', 'erased') WHERE trashed > 0`,
  `ALTER TABLE supporter DROP KEY supporter_name, DROP KEY supporter_kind, DROP COLUMN trashed,
   ADD KEY supporter_name (state, sort_name, id), ADD KEY supporter_kind (state, kind, sort_name, id)`,
  // What history knows can still be undone, in the words that the column has now.
  ...[
    ['0', 'active'],
    ['1', 'trash'],
  ].flatMap(([was, is]) =>
    ['before_json', 'after_json'].map(
      (column) =>
        `UPDATE change_row SET ${column} = REPLACE(${column}, '"trashed":${was}', '"state":"${is}"') WHERE table_name = 'supporter'`,
    ),
  ),
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
