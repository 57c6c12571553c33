import type { MigrationInterface, QueryRunner } from 'typeorm';

/*
 * A segment says how it is shown, and which tag those have who match; each user may look at it in their own way. When
 * it was last used is noted, favourites stand in their own order, and what is wanted again is pinned to Today.
 */

const STEPS = [
  `ALTER TABLE segment ADD COLUMN view MEDIUMTEXT NOT NULL DEFAULT '', ADD COLUMN tag_id INT UNSIGNED NULL`,
  `CREATE TABLE segment_view (user_id INT UNSIGNED NOT NULL, segment_id INT UNSIGNED NOT NULL, view MEDIUMTEXT NOT NULL,
    PRIMARY KEY (user_id, segment_id), FOREIGN KEY (segment_id) REFERENCES segment (id) ON DELETE CASCADE,
    FOREIGN KEY (user_id) REFERENCES user (id) ON DELETE CASCADE)`,
  `CREATE TABLE segment_use (segment_id INT UNSIGNED NOT NULL PRIMARY KEY, used_on DATE NOT NULL,
    FOREIGN KEY (segment_id) REFERENCES segment (id) ON DELETE CASCADE)`,
  `ALTER TABLE segment_favourite ADD COLUMN place INT UNSIGNED NOT NULL DEFAULT 0`,
  `CREATE TABLE pin (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, user_id INT UNSIGNED NOT NULL,
    segment_id INT UNSIGNED NOT NULL, act VARCHAR(20) NOT NULL, section VARCHAR(60) NOT NULL, place INT UNSIGNED NOT NULL,
    UNIQUE KEY pin_once (user_id, segment_id, act), KEY pin_segment (segment_id),
    FOREIGN KEY (segment_id) REFERENCES segment (id) ON DELETE CASCADE,
    FOREIGN KEY (user_id) REFERENCES user (id) ON DELETE CASCADE)`,
];

export class Views1791400000000 implements MigrationInterface {
  name = 'Views1791400000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
