import type { MigrationInterface, QueryRunner } from 'typeorm';

/* Supporters have numbers where files come from, kept by that. */

const STEPS = [
  `CREATE TABLE known_as (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, version INT NOT NULL DEFAULT 1,
    supporter_id INT UNSIGNED NOT NULL, source VARCHAR(60) NOT NULL, called VARCHAR(190) NOT NULL,
    KEY known_as_supporter (supporter_id), KEY known_as_called (source, called),
    CONSTRAINT known_as_of FOREIGN KEY (supporter_id) REFERENCES supporter (id))`,
];

export class KnownAs1791800000000 implements MigrationInterface {
  name = 'KnownAs1791800000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
