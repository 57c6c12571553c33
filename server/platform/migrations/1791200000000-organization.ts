import type { MigrationInterface, QueryRunner } from 'typeorm';

/* The organization sets itself up: its address of as many lines as it has, and who signs its letters. */

const STEPS = [
  `ALTER TABLE organization MODIFY town VARCHAR(300) NOT NULL`,
  `ALTER TABLE organization CHANGE town address VARCHAR(300) NOT NULL`,
  `ALTER TABLE organization ADD COLUMN signature VARCHAR(200) NOT NULL DEFAULT ''`,
];

export class Organization1791200000000 implements MigrationInterface {
  name = 'Organization1791200000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
