import type { GiftPart, GiftState, PaymentMethod } from '@tallystick/core/gifts';
import type { Booking } from '@tallystick/core/ledger';
import type { Sql } from '../platform/db.ts';

/** Gifts as they were first booked, and for each correction what it took back and what it put in its place. */
export async function bookedIn(sql: Sql, from: string, to: string): Promise<Booking[]> {
  type Booked = GiftPart & { date: string; method: PaymentMethod };
  const [plain, split, first, corrections] = await Promise.all([
    // gift_booked (booked_on); days, funds and methods are added up by the database
    sql.rows<{ date: string; fundId: number; method: PaymentMethod; cents: number }>(
      `SELECT g.booked_on AS date, g.fund_id AS fundId, g.method, SUM(g.cents) AS cents FROM gift g
       WHERE g.booked_on BETWEEN ? AND ? AND g.split = 0 AND NOT EXISTS (SELECT 1 FROM correction c WHERE c.gift_id = g.id)
       GROUP BY 1, 2, 3`,
      [from, to],
    ),
    sql.rows<Booked>(
      `SELECT g.booked_on AS date, g.method, x.cents, x.fund_id AS fundId, x.campaign_id AS campaignId, x.appeal_id AS appealId
       FROM gift g JOIN gift_split x ON x.gift_id = g.id WHERE g.booked_on BETWEEN ? AND ? AND g.split = 1
       AND NOT EXISTS (SELECT 1 FROM correction c WHERE c.gift_id = g.id)`,
      [from, to],
    ),
    sql.rows<{ date: string; was: string }>(
      `SELECT g.booked_on AS date, c.was FROM gift g JOIN correction c ON c.id = (SELECT MIN(x.id) FROM correction x WHERE x.gift_id = g.id)
       WHERE g.booked_on BETWEEN ? AND ?`,
      [from, to],
    ),
    // correction_booked (booked_on)
    sql.rows<{ date: string; was: string; became: string }>(
      'SELECT booked_on AS date, was, became FROM correction WHERE booked_on BETWEEN ? AND ?',
      [from, to],
    ),
  ]);
  const of = (date: string, json: string, sign: 1 | -1): Booking[] => {
    const state: GiftState = JSON.parse(json);
    return state.parts.map((part) => ({ date, fundId: part.fundId, method: state.method, cents: sign * part.cents }));
  };
  return [
    ...plain.map((row) => ({ ...row, cents: Number(row.cents) })),
    ...split,
    ...first.flatMap((row) => of(row.date, row.was, 1)),
    ...corrections.flatMap((row) => [...of(row.date, row.was, -1), ...of(row.date, row.became, 1)]),
  ];
}

const EVER = '0001-01-01';

/** What each fund came to in the books through a day: JSON of pairs of fund and cents, in the order of the funds. */
export async function sumsThrough(sql: Sql, day: string): Promise<string> {
  const sums = new Map<number, number>();
  for (const { fundId, cents } of await bookedIn(sql, EVER, day)) sums.set(fundId, (sums.get(fundId) ?? 0) + cents);
  return JSON.stringify([...sums].filter(([, cents]) => cents !== 0).sort(([a], [b]) => a - b));
}
