import type { MigrationInterface, QueryRunner } from 'typeorm';

/* Intakes are of several formats, and keep what was odd about the file. */

const STEPS = [
  `ALTER TABLE intake ADD COLUMN format VARCHAR(12) NOT NULL DEFAULT 'text', ADD COLUMN remarks MEDIUMTEXT NULL`,
  `UPDATE intake SET remarks = '[]'`,
  // A first row that may hold headings is counted as one of the rows.
  `UPDATE intake SET row_total = row_total + 1 WHERE headings = '[]'`,
  `ALTER TABLE intake MODIFY remarks MEDIUMTEXT NOT NULL`,
];

export class Intakes1791700000000 implements MigrationInterface {
  name = 'Intakes1791700000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
