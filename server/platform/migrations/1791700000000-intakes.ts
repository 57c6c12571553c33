import type { MigrationInterface, QueryRunner } from 'typeorm';

/* Intakes are of several formats, keep what was odd about the file and what came of it, and may be read by a recipe. */

const STEPS = [
  `ALTER TABLE intake ADD COLUMN format VARCHAR(12) NOT NULL DEFAULT 'text', ADD COLUMN remarks MEDIUMTEXT NULL`,
  `UPDATE intake SET remarks = '[]'`,
  // A first row that may hold headings is counted as one of the rows.
  `UPDATE intake SET row_total = row_total + 1 WHERE headings = '[]'`,
  `ALTER TABLE intake MODIFY remarks MEDIUMTEXT NOT NULL`,
  `CREATE TABLE intake_recipe (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, version INT NOT NULL DEFAULT 1,
    name VARCHAR(80) NOT NULL UNIQUE, actor VARCHAR(120) NOT NULL, recipe MEDIUMTEXT NOT NULL)`,
  `ALTER TABLE intake ADD COLUMN recipe_id INT UNSIGNED NULL, ADD COLUMN report VARCHAR(1000) NULL`,
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
