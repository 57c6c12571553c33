import type { MigrationInterface, QueryRunner } from 'typeorm';

/* What is kept as JSON has room for all that may be asked to be kept. */

const ROOM: [table: string, column: string, rest?: string][] = [
  ['intake', 'setting'],
  ['segment', 'conditions'],
  ['custom_field', 'choices'],
  ['saved_view', 'setting'],
  ['recurring', 'parts'],
  ['sheet_layout', 'columns'],
  ['sheet', 'columns'],
  ['sheet_row', 'content'],
  ['organization', 'addressing', 'NULL'],
];

export class Lengths1790800000000 implements MigrationInterface {
  name = 'Lengths1790800000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const [table, column, rest = 'NOT NULL'] of ROOM)
      await runner.query(`ALTER TABLE ${table} MODIFY COLUMN ${column} MEDIUMTEXT ${rest}`);
    // A key is what was sent, letter by letter.
    await runner.query(`ALTER TABLE change_set MODIFY COLUMN idem_key VARCHAR(190) COLLATE utf8mb4_bin NULL`);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
