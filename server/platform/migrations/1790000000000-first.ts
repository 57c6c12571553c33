import type { MigrationInterface, QueryRunner } from 'typeorm';

const ID = 'id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY';
const VERSION = 'version INT UNSIGNED NOT NULL DEFAULT 1';
const REF = 'INT UNSIGNED';

/** Statements in the order of their references. Contact tables hang on `supporter` and never outlive it. */
const TABLES = [
  `CREATE TABLE counter (name VARCHAR(40) NOT NULL PRIMARY KEY, value BIGINT NOT NULL)`,
  `INSERT INTO counter VALUES ('revision', 0)`,
  `CREATE TABLE organization (
    id TINYINT NOT NULL PRIMARY KEY, name VARCHAR(120) NOT NULL, town VARCHAR(120) NOT NULL, tax_id VARCHAR(30) NOT NULL,
    currency CHAR(3) NOT NULL, locale VARCHAR(20) NOT NULL, time_zone VARCHAR(60) NOT NULL,
    fiscal_year_start TINYINT NOT NULL, mail_from VARCHAR(190) NOT NULL, secret VARCHAR(64) NOT NULL)`,
  `CREATE TABLE user (
    ${ID}, email VARCHAR(190) NOT NULL UNIQUE, name VARCHAR(120) NOT NULL, role VARCHAR(20) NOT NULL,
    password_hash VARCHAR(200) NOT NULL, active TINYINT NOT NULL DEFAULT 1)`,
  `CREATE TABLE session (
    token_hash CHAR(64) NOT NULL PRIMARY KEY, user_id ${REF} NOT NULL, created_at DATETIME(3) NOT NULL,
    expires_at DATETIME(3) NOT NULL, FOREIGN KEY (user_id) REFERENCES user (id) ON DELETE CASCADE)`,
  `CREATE TABLE api_token (
    ${ID}, name VARCHAR(120) NOT NULL, role VARCHAR(20) NOT NULL, token_hash CHAR(64) NOT NULL UNIQUE,
    created_at DATETIME(3) NOT NULL, last_used_at DATETIME(3) NULL, revoked TINYINT NOT NULL DEFAULT 0)`,
  `CREATE TABLE sign_in_failure (
    ${ID}, subject VARCHAR(190) NOT NULL, at DATETIME(3) NOT NULL, KEY sign_in_failure_subject (subject, at))`,
  `CREATE TABLE change_set (
    revision BIGINT NOT NULL PRIMARY KEY, at DATETIME(3) NOT NULL, user_id ${REF} NULL, actor VARCHAR(120) NOT NULL,
    kind VARCHAR(20) NOT NULL, summary VARCHAR(300) NOT NULL, row_count INT NOT NULL, undoes BIGINT NULL,
    undone_by BIGINT NULL, idem_key VARCHAR(190) NULL UNIQUE, idem_hash CHAR(64) NULL, result MEDIUMTEXT NULL,
    KEY change_set_user (user_id, revision))`,
  `CREATE TABLE change_row (
    revision BIGINT NOT NULL, seq INT NOT NULL, table_name VARCHAR(40) NOT NULL, row_id ${REF} NOT NULL,
    supporter_id ${REF} NULL, before_json MEDIUMTEXT NULL, after_json MEDIUMTEXT NULL, PRIMARY KEY (revision, seq),
    KEY change_row_row (table_name, row_id, revision), KEY change_row_supporter (supporter_id, revision))`,
  `CREATE TABLE change_touch (
    revision BIGINT NOT NULL, supporter_id ${REF} NOT NULL, PRIMARY KEY (revision, supporter_id))`,
  `CREATE TABLE job (
    ${ID}, kind VARCHAR(40) NOT NULL, title VARCHAR(200) NOT NULL, payload MEDIUMTEXT NOT NULL, state VARCHAR(12) NOT NULL,
    done INT NOT NULL DEFAULT 0, total INT NOT NULL DEFAULT 0, message VARCHAR(500) NOT NULL DEFAULT '',
    link VARCHAR(200) NULL, attempts INT NOT NULL DEFAULT 0, run_after DATETIME(3) NOT NULL, heartbeat_at DATETIME(3) NULL,
    worker VARCHAR(60) NULL, cancel_asked TINYINT NOT NULL DEFAULT 0, created_by ${REF} NULL, actor VARCHAR(120) NOT NULL,
    created_at DATETIME(3) NOT NULL, finished_at DATETIME(3) NULL, tick BIGINT NOT NULL DEFAULT 0,
    KEY job_next (state, run_after))`,
  `CREATE TABLE supporter (
    ${ID}, ${VERSION}, kind VARCHAR(12) NOT NULL, prefix VARCHAR(30) NOT NULL DEFAULT '', first VARCHAR(120) NOT NULL DEFAULT '',
    middle VARCHAR(120) NOT NULL DEFAULT '', last VARCHAR(120) NOT NULL DEFAULT '', suffix VARCHAR(30) NOT NULL DEFAULT '',
    organization VARCHAR(120) NOT NULL DEFAULT '', sort_name VARCHAR(190) NOT NULL,
    no_email TINYINT NOT NULL DEFAULT 0, deceased TINYINT NOT NULL DEFAULT 0, trashed TINYINT NOT NULL DEFAULT 0,
    KEY supporter_name (trashed, sort_name, id), KEY supporter_kind (trashed, kind, sort_name, id)) AUTO_INCREMENT = 10001`,
  `CREATE TABLE email (
    ${ID}, ${VERSION}, supporter_id ${REF} NOT NULL, address VARCHAR(254) NOT NULL, label VARCHAR(40) NOT NULL,
    preferred TINYINT NOT NULL, bounced_on DATE NULL, KEY email_supporter (supporter_id), KEY email_address (address),
    FOREIGN KEY (supporter_id) REFERENCES supporter (id))`,
  `CREATE TABLE phone (
    ${ID}, ${VERSION}, supporter_id ${REF} NOT NULL, number VARCHAR(40) NOT NULL, label VARCHAR(40) NOT NULL,
    preferred TINYINT NOT NULL, KEY phone_supporter (supporter_id), FOREIGN KEY (supporter_id) REFERENCES supporter (id))`,
  `CREATE TABLE address (
    ${ID}, ${VERSION}, supporter_id ${REF} NOT NULL, street VARCHAR(200) NOT NULL, city VARCHAR(100) NOT NULL,
    region VARCHAR(60) NOT NULL, postal VARCHAR(20) NOT NULL, country VARCHAR(60) NOT NULL, label VARCHAR(40) NOT NULL,
    preferred TINYINT NOT NULL, KEY address_facts (supporter_id, preferred, region),
    FOREIGN KEY (supporter_id) REFERENCES supporter (id))`,
  `CREATE TABLE tag (${ID}, ${VERSION}, name VARCHAR(60) NOT NULL UNIQUE)`,
  `CREATE TABLE supporter_tag (
    ${ID}, ${VERSION}, supporter_id ${REF} NOT NULL, tag_id ${REF} NOT NULL, source VARCHAR(20) NOT NULL,
    UNIQUE KEY supporter_tag_pair (supporter_id, tag_id), KEY supporter_tag_tag (tag_id),
    FOREIGN KEY (supporter_id) REFERENCES supporter (id), FOREIGN KEY (tag_id) REFERENCES tag (id))`,
  ...['fund', 'campaign'].map(
    (table) => `CREATE TABLE ${table} (
    ${ID}, ${VERSION}, code VARCHAR(30) NOT NULL UNIQUE, name VARCHAR(120) NOT NULL, closed TINYINT NOT NULL DEFAULT 0)`,
  ),
  `CREATE TABLE appeal (
    ${ID}, ${VERSION}, code VARCHAR(30) NOT NULL UNIQUE, name VARCHAR(120) NOT NULL, closed TINYINT NOT NULL DEFAULT 0,
    campaign_id ${REF} NULL, FOREIGN KEY (campaign_id) REFERENCES campaign (id))`,
  `CREATE TABLE intake (
    ${ID}, ${VERSION}, name VARCHAR(190) NOT NULL, at DATETIME(3) NOT NULL, actor VARCHAR(120) NOT NULL,
    state VARCHAR(12) NOT NULL, encoding VARCHAR(40) NOT NULL, separator_char CHAR(1) NOT NULL, headings MEDIUMTEXT NOT NULL,
    row_total INT NOT NULL, setting TEXT NOT NULL)`,
  `CREATE TABLE intake_row (
    intake_id ${REF} NOT NULL, row_no INT NOT NULL, cells MEDIUMTEXT NOT NULL, PRIMARY KEY (intake_id, row_no),
    FOREIGN KEY (intake_id) REFERENCES intake (id) ON DELETE CASCADE)`,
  `CREATE TABLE gift (
    ${ID}, ${VERSION}, supporter_id ${REF} NOT NULL, cents BIGINT NOT NULL, currency CHAR(3) NOT NULL, date DATE NOT NULL,
    fund_id ${REF} NOT NULL, campaign_id ${REF} NULL, appeal_id ${REF} NULL, method VARCHAR(12) NOT NULL,
    cheque VARCHAR(30) NOT NULL DEFAULT '', reference VARCHAR(60) NOT NULL DEFAULT '', note VARCHAR(1000) NOT NULL DEFAULT '',
    acknowledged_on DATE NULL, intake_id ${REF} NULL,
    KEY gift_facts (supporter_id, date, cents, fund_id, campaign_id, appeal_id), KEY gift_date (date, id), KEY gift_cents (cents, id),
    KEY gift_unthanked (acknowledged_on, date, id), KEY gift_reference (reference), KEY gift_fund (fund_id, date, supporter_id, cents),
    FOREIGN KEY (supporter_id) REFERENCES supporter (id), FOREIGN KEY (fund_id) REFERENCES fund (id),
    FOREIGN KEY (campaign_id) REFERENCES campaign (id), FOREIGN KEY (appeal_id) REFERENCES appeal (id)) AUTO_INCREMENT = 20001`,
  `CREATE TABLE segment (${ID}, ${VERSION}, name VARCHAR(120) NOT NULL, conditions TEXT NOT NULL)`,
  `CREATE TABLE letter (${ID}, ${VERSION}, name VARCHAR(120) NOT NULL, subject VARCHAR(200) NOT NULL, body MEDIUMTEXT NOT NULL)`,
  `CREATE TABLE mailing (
    ${ID}, ${VERSION}, name VARCHAR(120) NOT NULL, subject VARCHAR(200) NOT NULL, body MEDIUMTEXT NOT NULL, segment_id ${REF} NULL,
    appeal_id ${REF} NULL, state VARCHAR(12) NOT NULL, FOREIGN KEY (segment_id) REFERENCES segment (id),
    FOREIGN KEY (appeal_id) REFERENCES appeal (id))`,
  `CREATE TABLE issue_run (
    ${ID}, ${VERSION}, letter_id ${REF} NOT NULL, at DATETIME(3) NOT NULL, actor VARCHAR(120) NOT NULL,
    FOREIGN KEY (letter_id) REFERENCES letter (id))`,
  `CREATE TABLE receipt_series (year SMALLINT NOT NULL PRIMARY KEY, last INT NOT NULL)`,
  `CREATE TABLE receipt (
    ${ID}, ${VERSION}, year SMALLINT NOT NULL, sequence INT NOT NULL, number VARCHAR(20) NOT NULL UNIQUE, gift_id ${REF} NOT NULL,
    supporter_id ${REF} NOT NULL, issue_run_id ${REF} NULL, issued_on DATE NOT NULL, content MEDIUMTEXT NOT NULL,
    UNIQUE KEY receipt_series_place (year, sequence), UNIQUE KEY receipt_gift (gift_id), KEY receipt_run (issue_run_id),
    FOREIGN KEY (gift_id) REFERENCES gift (id), FOREIGN KEY (supporter_id) REFERENCES supporter (id),
    FOREIGN KEY (issue_run_id) REFERENCES issue_run (id))`,
  `CREATE TABLE delivery (
    ${ID}, ${VERSION}, supporter_id ${REF} NOT NULL, mailing_id ${REF} NULL, receipt_id ${REF} NULL, issue_run_id ${REF} NULL,
    channel VARCHAR(8) NOT NULL, address VARCHAR(254) NOT NULL, subject VARCHAR(200) NOT NULL, state VARCHAR(12) NOT NULL,
    detail VARCHAR(500) NOT NULL DEFAULT '', at DATETIME(3) NOT NULL, KEY delivery_supporter (supporter_id, at),
    KEY delivery_mailing (mailing_id, state, id), KEY delivery_run (issue_run_id, state, id), UNIQUE KEY delivery_receipt (receipt_id),
    FOREIGN KEY (supporter_id) REFERENCES supporter (id), FOREIGN KEY (mailing_id) REFERENCES mailing (id),
    FOREIGN KEY (receipt_id) REFERENCES receipt (id), FOREIGN KEY (issue_run_id) REFERENCES issue_run (id))`,
];

const NAMES = TABLES.flatMap((sql) => /^CREATE TABLE (\w+)/.exec(sql)?.[1] ?? []);

export class First1790000000000 implements MigrationInterface {
  name = 'First1790000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of TABLES) await runner.query(sql);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const name of NAMES.toReversed()) await runner.query(`DROP TABLE ${name}`);
  }
}
