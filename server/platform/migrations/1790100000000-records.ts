import type { MigrationInterface, QueryRunner } from 'typeorm';

const ID = 'id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY';
const VERSION = 'version INT UNSIGNED NOT NULL DEFAULT 1';
const REF = 'INT UNSIGNED';
const TEXT = (length: number) => `VARCHAR(${length}) NOT NULL DEFAULT ''`;
const OWNER = `supporter_id ${REF} NOT NULL`;
const OWNED = 'FOREIGN KEY (supporter_id) REFERENCES supporter (id)';

const VALIDITY = `ADD COLUMN valid_from DATE NULL, ADD COLUMN valid_to DATE NULL, ADD COLUMN bad_reason ${TEXT(60)}`;

/** Records in full: names and how to address them, ways with dates, wishes, households, ties, notes, fields, views. */
const STEPS = [
  `ALTER TABLE supporter ADD COLUMN nickname ${TEXT(120)}, ADD COLUMN former_last ${TEXT(120)}, ADD COLUMN org_kind ${TEXT(20)},
    ADD COLUMN birthday ${TEXT(10)}, ADD COLUMN addressing TEXT NULL, ADD COLUMN household_id ${REF} NULL,
    ADD COLUMN primary_id ${REF} NULL, ADD KEY supporter_household (household_id),
    ADD FOREIGN KEY (household_id) REFERENCES supporter (id), ADD FOREIGN KEY (primary_id) REFERENCES supporter (id)`,
  `CREATE TABLE wish (
    ${ID}, ${VERSION}, ${OWNER}, kind VARCHAR(20) NOT NULL, since DATE NOT NULL, source ${TEXT(120)}, set_by VARCHAR(120) NOT NULL,
    happened_on DATE NULL, UNIQUE KEY wish_pair (supporter_id, kind), ${OWNED})`,
  ...['no_email', 'deceased'].map(
    (wish) => `INSERT INTO wish (supporter_id, kind, since, source, set_by)
    SELECT id, '${wish}', CURRENT_DATE, 'as it was before', 'Tallystick' FROM supporter WHERE ${wish} = 1`,
  ),
  `ALTER TABLE supporter DROP COLUMN no_email, DROP COLUMN deceased`,
  `ALTER TABLE email CHANGE COLUMN bounced_on bad_on DATE NULL, ${VALIDITY}`,
  `ALTER TABLE phone ADD COLUMN bad_on DATE NULL, ${VALIDITY}`,
  `ALTER TABLE address ADD COLUMN bad_on DATE NULL, ${VALIDITY}, ADD COLUMN season_from CHAR(5) NULL, ADD COLUMN season_to CHAR(5) NULL,
    DROP KEY address_facts, ADD KEY address_facts (supporter_id, preferred, region, city)`,
  `ALTER TABLE organization ADD COLUMN ${VERSION}, ADD COLUMN addressing TEXT NULL, ADD COLUMN country CHAR(2) NOT NULL DEFAULT 'US'`,
  `ALTER TABLE change_row ADD COLUMN other_id ${REF} NULL, ADD KEY change_row_other (other_id, revision)`,
  `CREATE TABLE relation_kind (
    ${ID}, ${VERSION}, name VARCHAR(60) NOT NULL, back VARCHAR(60) NOT NULL, from_kinds ${TEXT(60)}, to_kinds ${TEXT(60)},
    lineal TINYINT NOT NULL DEFAULT 0, code VARCHAR(20) NULL UNIQUE, UNIQUE KEY relation_kind_names (name, back))`,
  `INSERT INTO relation_kind (name, back, from_kinds, to_kinds, lineal, code) VALUES
    ('contact', 'organization', 'person', 'organization', 0, 'contact'), ('spouse', 'spouse', 'person', 'person', 0, 'spouse'),
    ('parent', 'child', 'person', 'person', 1, NULL), ('sibling', 'sibling', 'person', 'person', 0, NULL),
    ('employer', 'employee', 'organization', 'person', 0, 'employer'), ('adviser', 'fund', 'person', 'organization', 0, 'adviser'),
    ('volunteer', 'place volunteered for', 'person', 'organization', 0, NULL),
    ('board member', 'board', 'person', 'organization', 0, NULL), ('friend', 'friend', '', '', 0, NULL)`,
  `CREATE TABLE relation (
    ${ID}, ${VERSION}, ${OWNER}, other_id ${REF} NOT NULL, kind_id ${REF} NOT NULL, role ${TEXT(80)}, note ${TEXT(500)},
    since DATE NULL, until DATE NULL, KEY relation_from (supporter_id), KEY relation_to (other_id), ${OWNED},
    FOREIGN KEY (other_id) REFERENCES supporter (id), FOREIGN KEY (kind_id) REFERENCES relation_kind (id))`,
  `CREATE TABLE people_group (${ID}, ${VERSION}, name VARCHAR(80) NOT NULL UNIQUE, about ${TEXT(500)})`,
  `CREATE TABLE group_member (
    ${ID}, ${VERSION}, ${OWNER}, group_id ${REF} NOT NULL, UNIQUE KEY group_member_pair (supporter_id, group_id),
    KEY group_member_group (group_id), ${OWNED}, FOREIGN KEY (group_id) REFERENCES people_group (id))`,
  `CREATE TABLE note (
    ${ID}, ${VERSION}, ${OWNER}, kind VARCHAR(12) NOT NULL, date DATE NOT NULL, body MEDIUMTEXT NOT NULL, pinned TINYINT NOT NULL,
    author VARCHAR(120) NOT NULL, KEY note_supporter (supporter_id, pinned, date), ${OWNED})`,
  `CREATE TABLE note_person (
    ${ID}, ${VERSION}, ${OWNER}, note_id ${REF} NOT NULL, UNIQUE KEY note_person_pair (supporter_id, note_id),
    KEY note_person_note (note_id), ${OWNED})`,
  `CREATE TABLE task (
    ${ID}, ${VERSION}, supporter_id ${REF} NULL, title VARCHAR(200) NOT NULL, due DATE NOT NULL, owner_id ${REF} NULL,
    repeats VARCHAR(12) NOT NULL, repeat_day TINYINT NOT NULL, done_on DATE NULL, done_by ${TEXT(120)},
    KEY task_supporter (supporter_id, done_on, due), KEY task_owner (done_on, owner_id, due), ${OWNED},
    FOREIGN KEY (owner_id) REFERENCES user (id))`,
  `CREATE TABLE file_content (hash CHAR(64) NOT NULL PRIMARY KEY, bytes LONGBLOB NOT NULL)`,
  `CREATE TABLE document (
    ${ID}, ${VERSION}, ${OWNER}, name VARCHAR(190) NOT NULL, type VARCHAR(100) NOT NULL, size INT NOT NULL, hash CHAR(64) NOT NULL,
    added_on DATE NOT NULL, author VARCHAR(120) NOT NULL, KEY document_supporter (supporter_id), ${OWNED},
    FOREIGN KEY (hash) REFERENCES file_content (hash))`,
  `CREATE TABLE custom_field (
    ${ID}, ${VERSION}, about VARCHAR(10) NOT NULL, name VARCHAR(80) NOT NULL, kind VARCHAR(8) NOT NULL, choices TEXT NOT NULL,
    place INT NOT NULL, UNIQUE KEY custom_field_name (about, name))`,
  `CREATE TABLE supporter_field (
    ${ID}, ${VERSION}, ${OWNER}, field_id ${REF} NOT NULL, value VARCHAR(1000) NOT NULL,
    UNIQUE KEY supporter_field_pair (supporter_id, field_id), KEY supporter_field_field (field_id), ${OWNED},
    FOREIGN KEY (field_id) REFERENCES custom_field (id))`,
  `CREATE TABLE gift_field (
    ${ID}, ${VERSION}, ${OWNER}, gift_id ${REF} NOT NULL, field_id ${REF} NOT NULL, value VARCHAR(1000) NOT NULL,
    UNIQUE KEY gift_field_pair (gift_id, field_id), KEY gift_field_field (field_id), ${OWNED},
    FOREIGN KEY (gift_id) REFERENCES gift (id), FOREIGN KEY (field_id) REFERENCES custom_field (id))`,
  `CREATE TABLE saved_view (
    ${ID}, ${VERSION}, list VARCHAR(30) NOT NULL, name VARCHAR(80) NOT NULL, setting TEXT NOT NULL, author VARCHAR(120) NOT NULL,
    UNIQUE KEY saved_view_name (list, name))`,
  `ALTER TABLE gift ADD KEY gift_cheque (cheque)`,
];

export class Records1790100000000 implements MigrationInterface {
  name = 'Records1790100000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  /** Data is never taken back by a migration: restore a dump from before it. */
  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
