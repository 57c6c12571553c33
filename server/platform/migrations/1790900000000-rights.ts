import type { MigrationInterface, QueryRunner } from 'typeorm';

/* Programs are users of their own; what is someone's own names them; a change set says who may undo it. */

const STEPS = [
  `ALTER TABLE user ADD COLUMN kind VARCHAR(8) NOT NULL DEFAULT 'person'`,
  `INSERT INTO user (email, name, role, password_hash, active, kind)
   SELECT CONCAT('token:', id), name, role, '', revoked = 0, 'program' FROM api_token`,
  `ALTER TABLE api_token ADD COLUMN user_id INT UNSIGNED NULL, ADD FOREIGN KEY (user_id) REFERENCES user (id)`,
  `UPDATE api_token t JOIN user u ON u.email = CONCAT('token:', t.id) SET t.user_id = u.id`,
  `ALTER TABLE change_set ADD COLUMN least VARCHAR(8) NOT NULL DEFAULT 'officer'`,
  `UPDATE change_set s SET s.least = 'admin' WHERE EXISTS (
     SELECT 1 FROM change_row r WHERE r.revision = s.revision AND r.table_name IN ('organization', 'custom_field', 'account'))`,
  `ALTER TABLE job ADD COLUMN least VARCHAR(8) NULL`,
  `ALTER TABLE saved_view ADD COLUMN owner_id INT UNSIGNED NULL`,
  `ALTER TABLE note ADD COLUMN author_id INT UNSIGNED NULL`,
  `ALTER TABLE task ADD COLUMN maker_id INT UNSIGNED NULL`,
  // Of two people of one name neither is taken for the author.
  `UPDATE saved_view v JOIN (SELECT name, MIN(id) AS id FROM user WHERE kind = 'person' GROUP BY name HAVING COUNT(*) = 1) u
   ON u.name = v.author SET v.owner_id = u.id`,
  `UPDATE note n JOIN (SELECT name, MIN(id) AS id FROM user WHERE kind = 'person' GROUP BY name HAVING COUNT(*) = 1) u
   ON u.name = n.author SET n.author_id = u.id`,
];

export class Rights1790900000000 implements MigrationInterface {
  name = 'Rights1790900000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
