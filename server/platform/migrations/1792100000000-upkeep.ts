import type { MigrationInterface, QueryRunner } from 'typeorm';

/* What makes records unclean: what a person said is right as it is, and how much there was on each day. */

const STEPS = [
  `CREATE TABLE muted_finding (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, version INT NOT NULL DEFAULT 1,
    supporter_id INT UNSIGNED NOT NULL, finding VARCHAR(20) NOT NULL, said_by VARCHAR(120) NOT NULL, said_on DATE NOT NULL,
    UNIQUE KEY muted_finding_of (supporter_id, finding), KEY muted_finding_kind (finding),
    CONSTRAINT muted_finding_supporter FOREIGN KEY (supporter_id) REFERENCES supporter (id))`,
  `CREATE TABLE finding_count (day DATE NOT NULL, finding VARCHAR(20) NOT NULL, many INT UNSIGNED NOT NULL,
    PRIMARY KEY (finding, day))`,
  'ALTER TABLE known_as ADD KEY known_as_name (called)',
];

export class Upkeep1792100000000 implements MigrationInterface {
  name = 'Upkeep1792100000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
