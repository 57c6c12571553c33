import type { MigrationInterface, QueryRunner } from 'typeorm';

const ID = 'id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY';
const VERSION = 'version INT UNSIGNED NOT NULL DEFAULT 1';
const REF = 'INT UNSIGNED';
const TEXT = (length: number) => `VARCHAR(${length}) NOT NULL DEFAULT ''`;
const OWNER = `supporter_id ${REF} NOT NULL`;
const OWNED = 'FOREIGN KEY (supporter_id) REFERENCES supporter (id)';
const TO = (column: string, table: string) => `FOREIGN KEY (${column}) REFERENCES ${table} (id)`;
const PLACES = `fund_id ${REF} NOT NULL, campaign_id ${REF} NULL, appeal_id ${REF} NULL`;
const PLACED = [TO('fund_id', 'fund'), TO('campaign_id', 'campaign'), TO('appeal_id', 'appeal')].join(', ');
const SCHEDULE = `start_on DATE NULL, every ${TEXT(10)}, last_day TINYINT NOT NULL DEFAULT 0`;

/** Gifts in full: kinds, parts, credits, corrections; pledges and recurring gifts; sheets, batches, deposits, accounts. */
const STEPS = [
  ...['fund', 'campaign', 'appeal'].map(
    (table) =>
      `ALTER TABLE ${table} ADD COLUMN starts_on DATE NULL, ADD COLUMN ends_on DATE NULL, ADD COLUMN goal_cents BIGINT NULL`,
  ),
  `CREATE TABLE source_code (
    ${ID}, ${VERSION}, code VARCHAR(30) NOT NULL UNIQUE, name VARCHAR(120) NOT NULL, closed TINYINT NOT NULL DEFAULT 0,
    appeal_id ${REF} NULL, starts_on DATE NULL, ends_on DATE NULL, goal_cents BIGINT NULL, ${TO('appeal_id', 'appeal')})`,
  `CREATE TABLE deposit (
    ${ID}, ${VERSION}, date DATE NOT NULL, name VARCHAR(120) NOT NULL, actor VARCHAR(120) NOT NULL) AUTO_INCREMENT = 101`,
  `CREATE TABLE batch (
    ${ID}, ${VERSION}, name VARCHAR(190) NOT NULL, source VARCHAR(10) NOT NULL, opened_on DATE NOT NULL, state VARCHAR(10) NOT NULL,
    expected_count INT NULL, expected_cents BIGINT NULL, reason ${TEXT(300)}, deposit_id ${REF} NULL,
    KEY batch_open (source, opened_on, state), ${TO('deposit_id', 'deposit')}) AUTO_INCREMENT = 501`,
  `ALTER TABLE gift ADD COLUMN state VARCHAR(10) NOT NULL DEFAULT 'kept', ADD COLUMN split TINYINT NOT NULL DEFAULT 0,
    ADD COLUMN booked_on DATE NULL, ADD COLUMN source_code_id ${REF} NULL, ADD COLUMN benefit_cents BIGINT NOT NULL DEFAULT 0,
    ADD COLUMN benefit ${TEXT(200)}, ADD COLUMN details TEXT NULL, ADD COLUMN batch_id ${REF} NULL, ADD COLUMN recurring_id ${REF} NULL,
    ADD KEY gift_batch (batch_id), ADD ${TO('batch_id', 'batch')}, ADD ${TO('source_code_id', 'source_code')},
    ADD KEY gift_booked (booked_on), DROP KEY gift_facts,
    ADD KEY gift_facts (supporter_id, date, cents, fund_id, campaign_id, appeal_id, split, method)`,
  `UPDATE gift SET booked_on = date`,
  `ALTER TABLE gift MODIFY COLUMN booked_on DATE NOT NULL`,
  `ALTER TABLE receipt ADD COLUMN voided_on DATE NULL, ADD COLUMN void_reason ${TEXT(300)}, ADD KEY receipt_of_gift (gift_id),
    DROP KEY receipt_gift`,
  `ALTER TABLE gift ADD COLUMN receipt_needs ${TEXT(8)}`,
  `CREATE TABLE gift_split (
    ${ID}, ${VERSION}, ${OWNER}, gift_id ${REF} NOT NULL, place TINYINT NOT NULL, cents BIGINT NOT NULL, ${PLACES},
    UNIQUE KEY gift_split_place (gift_id, place), ${OWNED}, ${TO('gift_id', 'gift')}, ${PLACED})`,
  `CREATE TABLE soft_credit (
    ${ID}, ${VERSION}, ${OWNER}, gift_id ${REF} NOT NULL, kind VARCHAR(10) NOT NULL, place TINYINT NOT NULL, cents BIGINT NOT NULL,
    of_cents BIGINT NOT NULL, date DATE NOT NULL, donor_id ${REF} NOT NULL, method VARCHAR(12) NOT NULL, ${PLACES},
    KEY soft_credit_supporter (supporter_id), UNIQUE KEY soft_credit_one (gift_id, supporter_id, kind, place), ${OWNED},
    ${TO('gift_id', 'gift')}, ${PLACED})`,
  `CREATE TABLE tribute (
    ${ID}, ${VERSION}, ${OWNER}, gift_id ${REF} NOT NULL, kind VARCHAR(10) NOT NULL, name VARCHAR(120) NOT NULL, of_id ${REF} NULL,
    notify_id ${REF} NULL, notify ${TEXT(300)}, with_amount TINYINT NOT NULL DEFAULT 0, UNIQUE KEY tribute_gift (gift_id), ${OWNED},
    ${TO('gift_id', 'gift')}, ${TO('of_id', 'supporter')}, ${TO('notify_id', 'supporter')})`,
  `CREATE TABLE correction (
    ${ID}, ${VERSION}, ${OWNER}, gift_id ${REF} NOT NULL, kind VARCHAR(10) NOT NULL, booked_on DATE NOT NULL, reason VARCHAR(300) NOT NULL,
    actor VARCHAR(120) NOT NULL, was TEXT NOT NULL, became TEXT NOT NULL, till_refund VARCHAR(60) NULL UNIQUE, KEY correction_gift (gift_id, id), KEY correction_booked (booked_on),
    ${OWNED}, ${TO('gift_id', 'gift')})`,
  `CREATE TABLE pledge (
    ${ID}, ${VERSION}, ${OWNER}, kind VARCHAR(8) NOT NULL, stage VARCHAR(10) NOT NULL, cents BIGINT NOT NULL, currency CHAR(3) NOT NULL,
    pledged_on DATE NOT NULL, ${PLACES}, ${SCHEDULE}, note ${TEXT(1000)}, applied_on DATE NULL, asked_cents BIGINT NULL,
    claimed_on DATE NULL, for_gift_id ${REF} NULL, KEY pledge_supporter (supporter_id), ${OWNED}, ${PLACED},
    ${TO('for_gift_id', 'gift')}) AUTO_INCREMENT = 301`,
  `CREATE TABLE installment (
    ${ID}, ${VERSION}, ${OWNER}, pledge_id ${REF} NOT NULL, due DATE NOT NULL, cents BIGINT NOT NULL,
    KEY installment_pledge (pledge_id, due), KEY installment_due (due), ${OWNED}, ${TO('pledge_id', 'pledge')})`,
  `CREATE TABLE pledge_payment (
    ${ID}, ${VERSION}, ${OWNER}, pledge_id ${REF} NOT NULL, installment_id ${REF} NOT NULL, gift_id ${REF} NOT NULL, cents BIGINT NOT NULL,
    KEY pledge_payment_pledge (pledge_id), KEY pledge_payment_gift (gift_id), ${OWNED}, ${TO('pledge_id', 'pledge')},
    ${TO('installment_id', 'installment')}, ${TO('gift_id', 'gift')})`,
  `CREATE TABLE write_off (
    ${ID}, ${VERSION}, ${OWNER}, pledge_id ${REF} NOT NULL, installment_id ${REF} NOT NULL, date DATE NOT NULL, cents BIGINT NOT NULL,
    reason VARCHAR(300) NOT NULL, KEY write_off_pledge (pledge_id), ${OWNED}, ${TO('pledge_id', 'pledge')},
    ${TO('installment_id', 'installment')})`,
  `ALTER TABLE task ADD COLUMN pledge_id ${REF} NULL, ADD ${TO('pledge_id', 'pledge')}`,
  `CREATE TABLE recurring (
    ${ID}, ${VERSION}, ${OWNER}, ${SCHEDULE}, until_on DATE NULL, currency CHAR(3) NOT NULL, method VARCHAR(12) NOT NULL, parts TEXT NOT NULL,
    card ${TEXT(60)}, card_label ${TEXT(60)}, note ${TEXT(1000)}, KEY recurring_supporter (supporter_id), ${OWNED}) AUTO_INCREMENT = 71`,
  `CREATE TABLE recurring_amount (
    ${ID}, ${VERSION}, ${OWNER}, recurring_id ${REF} NOT NULL, from_on DATE NOT NULL, cents BIGINT NOT NULL,
    UNIQUE KEY recurring_amount_from (recurring_id, from_on), ${OWNED}, ${TO('recurring_id', 'recurring')})`,
  `CREATE TABLE recurring_pause (
    ${ID}, ${VERSION}, ${OWNER}, recurring_id ${REF} NOT NULL, from_on DATE NOT NULL, until_on DATE NULL,
    KEY recurring_pause_of (recurring_id), ${OWNED}, ${TO('recurring_id', 'recurring')})`,
  `CREATE TABLE charge (
    ${ID}, ${VERSION}, ${OWNER}, recurring_id ${REF} NOT NULL, due DATE NOT NULL, cents BIGINT NOT NULL, state VARCHAR(10) NOT NULL,
    attempts INT NOT NULL DEFAULT 0, next_on DATE NULL, till_id ${TEXT(60)}, reason ${TEXT(200)}, gift_id ${REF} NULL,
    UNIQUE KEY charge_due (recurring_id, due), KEY charge_next (state, next_on), KEY charge_till (till_id), ${OWNED},
    ${TO('recurring_id', 'recurring')}, ${TO('gift_id', 'gift')})`,
  `ALTER TABLE gift ADD ${TO('recurring_id', 'recurring')}`,
  `CREATE TABLE sheet_layout (${ID}, ${VERSION}, name VARCHAR(80) NOT NULL UNIQUE, columns TEXT NOT NULL)`,
  `CREATE TABLE sheet (
    ${ID}, ${VERSION}, name VARCHAR(120) NOT NULL, owner_id ${REF} NULL, owner VARCHAR(120) NOT NULL, opened_on DATE NOT NULL,
    columns TEXT NOT NULL, state VARCHAR(8) NOT NULL, expected_count INT NULL, expected_cents BIGINT NULL, batch_id ${REF} NULL,
    KEY sheet_state (state, id), ${TO('batch_id', 'batch')}, ${TO('owner_id', 'user')})`,
  `CREATE TABLE sheet_row (
    sheet_id ${REF} NOT NULL, row_key CHAR(36) NOT NULL, place INT NOT NULL, content TEXT NOT NULL, PRIMARY KEY (sheet_id, row_key),
    KEY sheet_row_place (sheet_id, place), FOREIGN KEY (sheet_id) REFERENCES sheet (id) ON DELETE CASCADE)`,
  `CREATE TABLE account (
    ${ID}, ${VERSION}, fund_id ${REF} NULL, method VARCHAR(12) NULL, debit ${TEXT(40)}, credit ${TEXT(40)},
    UNIQUE KEY account_for (fund_id, method), ${TO('fund_id', 'fund')})`,
  `ALTER TABLE organization ADD COLUMN closed_through DATE NULL`,
];

export class Giving1790200000000 implements MigrationInterface {
  name = 'Giving1790200000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
  }

  /** Data is never taken back by a migration: restore a dump from before it. */
  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
