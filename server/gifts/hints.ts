import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { pledgeAt, pledgeNumber } from '@tallystick/core/pledges';
import { recurringNumber } from '@tallystick/core/recurring';
import type { Sql } from '../platform/db.ts';
import { ALWAYS, booksOf } from '../pledges/index.ts';
import { PEOPLE, nameColumns } from '../supporters/index.ts';
import { FUNDS } from '../settings/index.ts';

type Related = NameParts & { id: number; as: 'spouse' | 'household' | 'adviser' | 'employer' };

/** What a gift of a supporter may have to do with. */
export async function giftHints(sql: Sql, supporterId: number, today: string) {
  const [pledges, people, recurring] = await Promise.all([
    sql.rows<{
      id: number;
      pledged_on: string;
      fund_id: number;
      campaign_id: number | null;
      appeal_id: number | null;
      fund: string;
    }>(
      `SELECT p.id, p.pledged_on, p.fund_id, p.campaign_id, p.appeal_id, f.name AS fund FROM pledge p JOIN ${FUNDS} f ON f.id = p.fund_id
       WHERE p.supporter_id = ? AND p.stage IN ('promised', 'claimed') ORDER BY p.id`, // pledge_supporter
      [supporterId],
    ),
    // relation_from (supporter_id), relation_to (other_id); whoever advises the fund is on the first side of the tie
    sql.rows<Related>(
      `SELECT x.as_what AS \`as\`, s.id, ${nameColumns('s')} FROM (
         SELECT IF(r.supporter_id = ?, r.other_id, r.supporter_id) AS id, k.code AS as_what FROM relation r
           JOIN relation_kind k ON k.id = r.kind_id WHERE (r.until IS NULL OR r.until > ?)
           AND ((k.code = 'spouse' AND (r.supporter_id = ? OR r.other_id = ?)) OR (k.code IN ('adviser', 'employer') AND r.other_id = ?))
         UNION SELECT household_id, 'household' FROM ${PEOPLE} h WHERE id = ? AND household_id IS NOT NULL) x
       JOIN ${PEOPLE} s ON s.id = x.id WHERE s.state = 'active' ORDER BY 1, s.id LIMIT 20`,
      [supporterId, today, supporterId, supporterId, supporterId, supporterId],
    ),
    sql.rows<{ id: number; cents: number }>(
      `SELECT r.id, (SELECT a.cents FROM recurring_amount a WHERE a.recurring_id = r.id ORDER BY a.from_on DESC LIMIT 1) AS cents
       FROM recurring r WHERE r.supporter_id = ? AND r.method <> 'card' AND (r.until_on IS NULL OR r.until_on >= ?)`,
      [supporterId, today],
    ),
  ]);
  const books = await booksOf(sql, pledges);
  return {
    pledges: pledges.flatMap((pledge) => {
      const found = books.get(pledge.id);
      if (!found) return [];
      const { balance, installments } = pledgeAt(found, ALWAYS);
      if (balance === 0) return [];
      return [
        {
          id: pledge.id,
          number: pledgeNumber(pledge.id),
          fundId: pledge.fund_id,
          campaignId: pledge.campaign_id,
          appealId: pledge.appeal_id,
          fund: pledge.fund,
          balance,
          installments: installments.filter((one) => one.open > 0).map(({ id, due, open }) => ({ id, due, open })),
        },
      ];
    }),
    people: people.map((one) => ({ id: one.id, as: one.as, name: displayName(one) })),
    recurring: recurring.map((one) => ({ ...one, number: recurringNumber(one.id), due: null })),
  };
}
