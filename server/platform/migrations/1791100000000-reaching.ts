import type { MigrationInterface, QueryRunner } from 'typeorm';

/* Gifts of one amount are found newest first without sorting all of them. */

const STEPS = [`ALTER TABLE gift ADD KEY gift_amount (cents, date, id)`];

export class Reaching1791100000000 implements MigrationInterface {
  name = 'Reaching1791100000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
