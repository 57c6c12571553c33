import type { MigrationInterface, QueryRunner } from 'typeorm';

/* Tries to sign in are counted in one step, browsers are known again, sessions end idle, and who looked is noted. */

const STEPS = [
  `DROP TABLE sign_in_failure`,
  `CREATE TABLE sign_in_try (subject VARCHAR(200) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY, since DATETIME(3) NOT NULL, many INT UNSIGNED NOT NULL)`,
  `CREATE TABLE known_browser (
     token_hash CHAR(64) NOT NULL PRIMARY KEY, user_id INT UNSIGNED NOT NULL, at DATETIME(3) NOT NULL,
     FOREIGN KEY (user_id) REFERENCES user (id) ON DELETE CASCADE)`,
  `ALTER TABLE session ADD COLUMN id INT UNSIGNED NOT NULL AUTO_INCREMENT UNIQUE FIRST, ADD COLUMN seen_at DATETIME(3) NULL,
     ADD COLUMN address VARCHAR(45) NOT NULL DEFAULT '', ADD COLUMN browser VARCHAR(200) NOT NULL DEFAULT ''`,
  `UPDATE session SET seen_at = created_at`,
  `ALTER TABLE session MODIFY COLUMN seen_at DATETIME(3) NOT NULL`,
  `CREATE TABLE access_log (
     id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, at DATETIME(3) NOT NULL, user_id INT UNSIGNED NULL, actor VARCHAR(120) NOT NULL,
     what VARCHAR(12) NOT NULL, address VARCHAR(45) NOT NULL, says VARCHAR(300) NOT NULL, KEY access_what (what, id))`,
  // What was noted stays as it was noted, whoever asks.
  `CREATE TRIGGER access_log_stays BEFORE UPDATE ON access_log FOR EACH ROW
     SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'The log of accesses is only added to.'`,
  `CREATE TRIGGER access_log_keeps BEFORE DELETE ON access_log FOR EACH ROW
     SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'The log of accesses is only added to.'`,
];

export class Sessions1791000000000 implements MigrationInterface {
  name = 'Sessions1791000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
