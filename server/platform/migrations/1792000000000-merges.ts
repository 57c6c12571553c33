import type { MigrationInterface, QueryRunner } from 'typeorm';

/* Records that are one are merged: whoever goes keeps a row whose number leads to who stays. Who is not the same is kept. */

const STEPS = [
  `ALTER TABLE supporter MODIFY state ENUM('active', 'trash', 'erased', 'merged') NOT NULL DEFAULT 'active',
    ADD COLUMN merged_into INT UNSIGNED NULL, ADD KEY supporter_merged (merged_into),
    ADD CONSTRAINT supporter_merged_into FOREIGN KEY (merged_into) REFERENCES supporter (id)`,
  `CREATE TABLE not_same (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, version INT NOT NULL DEFAULT 1,
    supporter_id INT UNSIGNED NOT NULL, other_id INT UNSIGNED NOT NULL, said_by VARCHAR(120) NOT NULL, said_on DATE NOT NULL,
    UNIQUE KEY not_same_pair (supporter_id, other_id), KEY not_same_other (other_id),
    CONSTRAINT not_same_of FOREIGN KEY (supporter_id) REFERENCES supporter (id),
    CONSTRAINT not_same_to FOREIGN KEY (other_id) REFERENCES supporter (id))`,
];

export class Merges1792000000000 implements MigrationInterface {
  name = 'Merges1792000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
