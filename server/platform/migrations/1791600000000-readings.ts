import type { MigrationInterface, QueryRunner } from 'typeorm';

/* A file that is no Unicode is kept as its bytes are, with the encodings that it may be in. */

const STEPS = [`ALTER TABLE intake ADD COLUMN readings MEDIUMTEXT NULL`];

export class Readings1791600000000 implements MigrationInterface {
  name = 'Readings1791600000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
