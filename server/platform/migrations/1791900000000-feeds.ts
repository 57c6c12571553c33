import type { MigrationInterface, QueryRunner } from 'typeorm';

/* Gifts come from outside sources by themselves. What came is kept by its number there, so that none is taken twice. */

const STEPS = [
  `CREATE TABLE feed (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, version INT NOT NULL DEFAULT 1,
    name VARCHAR(60) NOT NULL UNIQUE, recipe_id INT UNSIGNED NULL, often VARCHAR(10) NOT NULL, at_hour TINYINT NOT NULL,
    tells MEDIUMTEXT NOT NULL, tells_since DATE NULL)`,
  // How far each feed was read, the rows that it gathers, and those that wait for a person.
  `CREATE TABLE feed_place (feed_id INT UNSIGNED NOT NULL PRIMARY KEY, gifts VARCHAR(200) NOT NULL DEFAULT '',
    refunds VARCHAR(200) NOT NULL DEFAULT '', gathering_id INT UNSIGNED NULL, waiting_id INT UNSIGNED NULL,
    began_at DATETIME(3) NOT NULL, CONSTRAINT feed_place_of FOREIGN KEY (feed_id) REFERENCES feed (id))`,
  `CREATE TABLE feed_item (feed_id INT UNSIGNED NOT NULL, item VARCHAR(60) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL, cents BIGINT NOT NULL,
    now_cents BIGINT NULL, intake_id INT UNSIGNED NOT NULL, row_no INT NOT NULL, PRIMARY KEY (feed_id, item), KEY feed_item_intake (intake_id),
    CONSTRAINT feed_item_of FOREIGN KEY (feed_id) REFERENCES feed (id))`,
  `CREATE TABLE feed_refund (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, feed_id INT UNSIGNED NOT NULL, refund VARCHAR(60) NOT NULL, item VARCHAR(60) NOT NULL,
    cents BIGINT NOT NULL, reason VARCHAR(200) NOT NULL, state VARCHAR(8) NOT NULL, why VARCHAR(300) NOT NULL DEFAULT '',
    UNIQUE KEY feed_refund_once (feed_id, refund), CONSTRAINT feed_refund_of FOREIGN KEY (feed_id) REFERENCES feed (id))`,
  // What a source was told of gifts that did not come through it.
  `CREATE TABLE feed_told (feed_id INT UNSIGNED NOT NULL, campaign VARCHAR(60) NOT NULL, gift_id INT UNSIGNED NOT NULL,
    cents BIGINT NOT NULL, day DATE NOT NULL, PRIMARY KEY (feed_id, campaign, gift_id),
    CONSTRAINT feed_told_of FOREIGN KEY (feed_id) REFERENCES feed (id))`,
  `CREATE TABLE feed_run (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, feed_id INT UNSIGNED NOT NULL,
    job_id INT UNSIGNED NOT NULL UNIQUE, actor VARCHAR(120) NOT NULL, began_at DATETIME(3) NOT NULL,
    ended_at DATETIME(3) NULL, state VARCHAR(10) NOT NULL, message VARCHAR(500) NOT NULL DEFAULT '',
    came INT NOT NULL DEFAULT 0, came_cents BIGINT NOT NULL DEFAULT 0, again INT NOT NULL DEFAULT 0,
    brought INT NOT NULL DEFAULT 0, brought_cents BIGINT NOT NULL DEFAULT 0, aside INT NOT NULL DEFAULT 0,
    refunds INT NOT NULL DEFAULT 0, refund_cents BIGINT NOT NULL DEFAULT 0, told INT NOT NULL DEFAULT 0,
    KEY feed_run_of (feed_id, id), CONSTRAINT feed_run_feed FOREIGN KEY (feed_id) REFERENCES feed (id))`,
];

export class Feeds1791900000000 implements MigrationInterface {
  name = 'Feeds1791900000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
