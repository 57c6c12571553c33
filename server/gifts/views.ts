import { chunks, eachChunk } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { FUNDS } from '../settings/index.ts';

/* What other areas ask of gifts. */

/**
 * What a receipt says of the gift `g`, as one text: of two such texts one can tell whether a receipt is still true. A
 * sale of stock is not in it, since that may be noted later.
 */
export const SAYS = `CONCAT_WS('|', g.supporter_id, g.cents, g.date, g.method, g.benefit_cents, g.benefit,
  COALESCE(IF(JSON_VALUE(g.details, '$.kind') = 'stock',
    CONCAT_WS('|', JSON_VALUE(g.details, '$.symbol'), JSON_VALUE(g.details, '$.shares'), JSON_VALUE(g.details, '$.meanPrice')),
    JSON_VALUE(g.details, '$.description')), ''),
  IF(g.split = 1, (SELECT GROUP_CONCAT(CONCAT(x.fund_id, ':', x.cents) ORDER BY x.place) FROM gift_split x WHERE x.gift_id = g.id),
    g.fund_id))`;

/** The last gift of a supporter, to be joined as `g`; gift_facts (supporter_id, date, …). */
export const lastGiftOf = (supporter: string): string =>
  `gift g ON g.id = (SELECT x.id FROM gift x WHERE x.supporter_id = ${supporter} ORDER BY x.date DESC, x.id DESC LIMIT 1)`;

/** What of a list of references, as JSON, gifts have. */
export const BY_REFERENCE = `SELECT g.id, g.reference
  FROM JSON_TABLE(?, '$[*]' COLUMNS(asked VARCHAR(60) COLLATE utf8mb4_unicode_520_ci PATH '$')) these
  STRAIGHT_JOIN gift g ON g.reference = these.asked`;
const LONGEST_REFERENCE = 60;

/** The gifts that have one of the outside references: each reference as it is kept, with the gift's id. */
export async function giftsByReference(
  sql: Sql,
  references: readonly string[],
): Promise<{ id: number; reference: string }[]> {
  // By the database's letters two that were asked for may be one.
  const found = new Map<number, { id: number; reference: string }>();
  await eachChunk(
    // A longer one is nowhere, and would be cut off.
    references.filter(({ length }) => length <= LONGEST_REFERENCE),
    5_000,
    // gift_reference (reference): each is looked up once. For a plain list the database first guesses how many gifts each
    // has, which takes longer; and for one of a thousand it reads every gift, since most have none.
    (slice) => sql.rows<{ id: number; reference: string }>(BY_REFERENCE, [JSON.stringify(slice)]),
    (rows) => rows.forEach((row) => found.set(row.id, row)),
  );
  return [...found.values()];
}

/** What was given to a fund since a day and is still kept: of each gift its part to that fund. */
export async function givenTo(
  sql: Sql,
  fundId: number,
  since: string,
): Promise<{ id: number; reference: string; cents: number; date: string }[]> {
  const rows = await sql.rows<{ id: number; reference: string; cents: number; date: string }>(
    `SELECT g.id, g.reference, g.cents, g.date FROM gift g WHERE g.fund_id = ? AND g.date >= ? AND g.split = 0 AND g.cents > 0
     UNION ALL SELECT g.id, g.reference, SUM(x.cents), g.date FROM gift_split x JOIN gift g ON g.id = x.gift_id
     WHERE x.fund_id = ? AND g.date >= ? AND g.split = 1 AND x.cents > 0 GROUP BY g.id ORDER BY id`, // gift_fund (fund_id, date, …)
    [fundId, since, fundId, since],
  );
  return rows.map((row) => ({ ...row, cents: Number(row.cents) }));
}

/** What each of the supporters gave, as it is kept now; who gave nothing is missing. */
export const givenBy = async (
  sql: Sql,
  ids: readonly number[],
): Promise<Map<number, { gifts: number; cents: number; firstOn: string; lastOn: string }>> =>
  new Map(
    (
      await sql.rows<{ id: number; gifts: number; cents: number; firstOn: string; lastOn: string }>(
        // gift_facts (supporter_id, date, ...)
        `SELECT supporter_id AS id, COUNT(*) AS gifts, SUM(cents) AS cents, MIN(date) AS firstOn, MAX(date) AS lastOn
         FROM gift WHERE supporter_id IN (?) AND cents > 0 GROUP BY supporter_id`,
        [ids],
      )
    ).map(({ id, gifts, cents, firstOn, lastOn }) => [id, { gifts, cents: Number(cents), firstOn, lastOn }]),
  );

/** The numbers of the checks by which supporters gave, each with whose. */
export async function chequesOf(
  sql: Sql,
  supporterIds: readonly number[],
): Promise<{ supporterId: number; cheque: string }[]> {
  const found: { supporterId: number; cheque: string }[] = [];
  for (const slice of chunks(supporterIds))
    found.push(
      ...(await sql.rows<{ supporterId: number; cheque: string }>(
        `SELECT supporter_id AS supporterId, cheque FROM gift WHERE supporter_id IN (?) AND method = 'cheque' AND cheque <> '' AND cents > 0`,
        [slice],
      )),
    );
  return found;
}

/** What a receipt of each gift would say of it now. */
export async function saysOf(sql: Sql, giftIds: readonly number[]): Promise<Map<number, string>> {
  const found = new Map<number, string>();
  for (const slice of chunks(giftIds))
    for (const row of await sql.rows<{ id: number; says: string }>(
      `SELECT g.id, ${SAYS} AS says FROM gift g WHERE g.id IN (?)`,
      [slice],
    ))
      found.set(row.id, row.says);
  return found;
}

/** What of a split gift went to a fund. */
export interface FundPart {
  fund: string;
  cents: number;
}

/** How much of each of some split gifts went to which fund, in the order of its parts; parts to one fund are one. */
export async function fundPartsOf(sql: Sql, giftIds: readonly number[]): Promise<Map<number, FundPart[]>> {
  const found = new Map<number, FundPart[]>();
  for (const slice of chunks(giftIds))
    for (const { id, fund, cents } of await sql.rows<FundPart & { id: number }>(
      `SELECT x.gift_id AS id, f.name AS fund, SUM(x.cents) AS cents FROM gift_split x JOIN ${FUNDS} f ON f.id = x.fund_id
       WHERE x.gift_id IN (?) GROUP BY x.gift_id, f.id ORDER BY x.gift_id, MIN(x.place)`, // gift_split_gift
      [slice],
    ))
      found.set(id, [...(found.get(id) ?? []), { fund, cents: Number(cents) }]);
  return found;
}

/** What the goods are worth that each of the supporters gave, in cents; who gave none is not in it. */
export async function goodsOf(sql: Sql, supporterIds: readonly number[]): Promise<Map<number, number>> {
  const found = new Map<number, number>();
  for (const slice of chunks(supporterIds))
    // gift_facts (supporter_id, …)
    for (const row of await sql.rows<{ id: number; cents: number }>(
      `SELECT supporter_id AS id, CAST(SUM(cents) AS INT) AS cents FROM gift WHERE supporter_id IN (?) AND method = 'in_kind' GROUP BY supporter_id`,
      [slice],
    ))
      found.set(row.id, Number(row.cents));
  return found;
}
