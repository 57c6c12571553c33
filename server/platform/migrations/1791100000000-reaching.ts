import { countryCode, placeKept, regionCode } from '@tallystick/core/regions';
import type { MigrationInterface, QueryRunner } from 'typeorm';

/* Gifts of one amount are found newest first without sorting all; a refusal of e-mail belongs to the mailbox;
   states and countries are kept as codes. */

const STEPS = [
  `ALTER TABLE gift ADD KEY gift_amount (cents, date, id)`,
  `CREATE TABLE refusal (
     id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, version INT UNSIGNED NOT NULL DEFAULT 1, supporter_id INT UNSIGNED NOT NULL,
     address VARCHAR(254) NOT NULL, mailbox CHAR(64) NOT NULL, since DATE NOT NULL,
     source VARCHAR(120) NOT NULL, lifted_on DATE NULL, lifted_by VARCHAR(120) NOT NULL, lifted_why VARCHAR(300) NOT NULL,
     KEY refusal_supporter (supporter_id), KEY refusal_mailbox (mailbox, lifted_on))`,
  // Who asked by link before refused the mailboxes of the record; the wish made way for that.
  `INSERT INTO refusal (supporter_id, address, mailbox, since, source, lifted_by, lifted_why)
     SELECT MIN(w.supporter_id), LOWER(e.address), SHA2(LOWER(e.address), 256), MIN(w.since), 'unsubscribe link', '', ''
     FROM wish w JOIN email e ON e.supporter_id = w.supporter_id AND (e.valid_to IS NULL OR e.valid_to >= w.since)
     WHERE w.kind = 'no_email' AND w.source = 'unsubscribe link' GROUP BY LOWER(e.address)`,
  `DELETE w FROM wish w JOIN email e ON e.supporter_id = w.supporter_id AND (e.valid_to IS NULL OR e.valid_to >= w.since)
     WHERE w.kind = 'no_email' AND w.source = 'unsubscribe link'`,
];

/** Writes states and countries as codes, in addresses and in segments; says on the console (standard error) what it could not read. */
async function codes(runner: QueryRunner): Promise<void> {
  const [organization] = (await runner.query('SELECT country FROM organization LIMIT 1')) as { country: string }[];
  const home = organization?.country || 'US';
  const places = (await runner.query(
    `SELECT MIN(id) AS id, region, country, COUNT(*) AS many FROM address WHERE region <> '' OR country <> ''
     GROUP BY CAST(region AS BINARY), CAST(country AS BINARY), region, country`,
  )) as { region: string; country: string; many: number }[];
  const unread: string[] = [];
  for (const { many, region, country } of places) {
    const kept = placeKept({ region, country }, home);
    const nation = countryCode(kept.country, home);
    if (nation === null || (kept.region !== '' && regionCode(kept.region, nation) === null))
      unread.push(`${[region, country].filter(Boolean).join(', ')} (${many})`);
    if (kept.region !== region || kept.country !== country)
      await runner.query(
        'UPDATE address SET region = ?, country = ? WHERE CAST(region AS BINARY) = CAST(? AS BINARY) AND CAST(country AS BINARY) = CAST(? AS BINARY)',
        [kept.region, kept.country, region, country],
      );
  }
  if (unread.length > 0)
    console.warn(
      `States and countries that are kept as they were written, since no code is known for them: ${unread.slice(0, 50).join('; ')}`,
    );
  const segments = (await runner.query('SELECT id, conditions FROM segment')) as { id: number; conditions: string }[];
  for (const { id, conditions } of segments) {
    const next = conditions.replace(/"regions":(\[[^\]]*\])/g, (_all, list: string) => {
      const read = JSON.parse(list) as unknown[];
      const regions = read.map((one) => (typeof one === 'string' ? (regionCode(one, home) ?? one) : one));
      return `"regions":${JSON.stringify([...new Set(regions)])}`;
    });
    if (next !== conditions) await runner.query('UPDATE segment SET conditions = ? WHERE id = ?', [next, id]);
  }
}

export class Reaching1791100000000 implements MigrationInterface {
  name = 'Reaching1791100000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
    await codes(runner);
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
