import { CORRECTIONS, giftNumber, PAYMENT_METHODS } from '@tallystick/core/gifts';
import type { CorrectionKind, CreditKind, GiftState } from '@tallystick/core/gifts';
import { formatDate } from '@tallystick/core/dates';
import { formatMoney } from '@tallystick/core/money';
import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { pledgeNumber } from '@tallystick/core/pledges';
import { instant } from '../platform/clock.ts';
import { one } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { notFound } from '../platform/problem.ts';
import { settledBecause } from './correct.ts';
import type { TributeRecord } from './gift.entity.ts';
import { giftView, SELECT_GIFTS } from './list-sql.ts';
import type { JoinedGift } from './list-sql.ts';
import type { Formats } from '@tallystick/core/money';
import { fieldsIn, formatsIn, APPEALS, CAMPAIGNS, FUNDS } from '../settings/index.ts';
import { kept, typedField } from '@tallystick/core/fields';
import { supporterNumber } from '@tallystick/core/supporters';
import { GiftTable } from './gift.entity.ts';
import { PEOPLE, nameColumns, namesOf } from '../supporters/index.ts';
import { changesOf } from '../platform/changes.ts';

const NAME = nameColumns('s');

/** One gift with all that hangs on it. */
export async function wholeGift(sql: Sql, id: number) {
  const row = await one<JoinedGift>(sql, `${SELECT_GIFTS} WHERE g.id = ?`, [id]);
  if (!row) throw notFound(`Gift ${giftNumber(id)}`);
  const [split, credits, tribute, pays, matchedBy, matches, corrections, history, settled, batch] = await Promise.all([
    sql.rows<{
      cents: number;
      fundId: number;
      campaignId: number | null;
      appealId: number | null;
      fund: string;
      campaign: string;
      appeal: string;
    }>(
      `SELECT x.cents, x.fund_id AS fundId, x.campaign_id AS campaignId, x.appeal_id AS appealId, f.name AS fund,
       COALESCE(c.name, '') AS campaign, COALESCE(a.name, '') AS appeal FROM gift_split x JOIN ${FUNDS} f ON f.id = x.fund_id
       LEFT JOIN ${CAMPAIGNS} c ON c.id = x.campaign_id LEFT JOIN ${APPEALS} a ON a.id = x.appeal_id WHERE x.gift_id = ? ORDER BY x.place`,
      [id],
    ),
    sql.rows<NameParts & { supporterId: number; credit: CreditKind; cents: number }>(
      `SELECT x.supporter_id AS supporterId, x.kind AS credit, SUM(x.cents) AS cents, ${NAME} FROM soft_credit x
       JOIN ${PEOPLE} s ON s.id = x.supporter_id WHERE x.gift_id = ? GROUP BY x.supporter_id, x.kind ORDER BY MIN(x.id)`,
      [id],
    ),
    one<TributeRecord>(sql, 'SELECT * FROM tribute WHERE gift_id = ?', [id]),
    sql.rows<{ pledgeId: number; due: string; cents: number }>(
      `SELECT p.pledge_id AS pledgeId, i.due, p.cents FROM pledge_payment p JOIN installment i ON i.id = p.installment_id
       WHERE p.gift_id = ? ORDER BY i.due`,
      [id],
    ),
    one<NameParts & { id: number; supporterId: number; cents: number; paid: number | null }>(
      sql,
      `SELECT p.id, p.supporter_id AS supporterId, p.cents, ${NAME}, (SELECT SUM(x.cents) FROM pledge_payment x WHERE x.pledge_id = p.id) AS paid
       FROM pledge p JOIN ${PEOPLE} s ON s.id = p.supporter_id WHERE p.for_gift_id = ?`,
      [id],
    ),
    one<NameParts & { id: number; supporterId: number; cents: number }>(
      sql,
      `SELECT g.id, g.supporter_id AS supporterId, g.cents, ${NAME} FROM pledge_payment x JOIN pledge p ON p.id = x.pledge_id
       JOIN gift g ON g.id = p.for_gift_id JOIN ${PEOPLE} s ON s.id = g.supporter_id WHERE x.gift_id = ? LIMIT 1`,
      [id],
    ),
    sql.rows<{
      id: number;
      kind: CorrectionKind;
      bookedOn: string;
      reason: string;
      actor: string;
      was: string;
      became: string;
    }>(
      'SELECT id, kind, booked_on AS bookedOn, reason, actor, was, became FROM correction WHERE gift_id = ? ORDER BY id',
      [id],
    ),
    changesOf(sql, GiftTable, id),
    settledBecause(sql, row),
    row.batch_id === null
      ? null
      : one<{ name: string; deposit_id: number | null }>(sql, 'SELECT name, deposit_id FROM batch WHERE id = ?', [
          row.batch_id,
        ]),
  ]);
  const gift = giftView(row);
  const [formats, own] = await Promise.all([formatsIn(sql), fieldsIn(sql, 'gift')]);
  const nameOf = async (someone: number | null): Promise<string> => {
    if (someone === null) return '';
    const [found] = await namesOf(sql, [someone]);
    return found ? displayName(found) : '';
  };
  const { cents, fundId, campaignId, appealId, campaign, appeal } = gift;
  const words = await wordsFor(
    sql,
    corrections.flatMap(({ was, became }) => [stateOf(was), stateOf(became)]),
  );
  return {
    ...gift,
    parts: split.length > 0 ? split : [{ cents, fundId, campaignId, appealId, fund: row.fund, campaign, appeal }],
    credits: credits.map((one) => ({
      supporterId: one.supporterId,
      name: displayName(one),
      kind: one.credit,
      cents: Number(one.cents),
    })),
    tribute: tribute
      ? {
          kind: tribute.kind,
          name: tribute.name,
          ofId: tribute.of_id,
          notifyId: tribute.notify_id,
          notify: tribute.notify,
          withAmount: tribute.with_amount === 1,
          ofName: await nameOf(tribute.of_id),
          notifyName: await nameOf(tribute.notify_id),
        }
      : null,
    pays: pays.map((one) => ({ ...one, number: pledgeNumber(one.pledgeId) })),
    matchedBy: matchedBy
      ? {
          pledgeId: matchedBy.id,
          number: pledgeNumber(matchedBy.id),
          supporter: { id: matchedBy.supporterId, name: displayName(matchedBy) },
          cents: matchedBy.cents,
          paid: Number(matchedBy.paid ?? 0),
        }
      : null,
    matches: matches
      ? {
          giftId: matches.id,
          number: giftNumber(matches.id),
          supporter: { id: matches.supporterId, name: displayName(matches) },
          cents: matches.cents,
        }
      : null,
    corrections: corrections.map(({ actor, was, became, ...one }) => ({
      ...one,
      by: actor,
      says: [
        CORRECTIONS[one.kind].word,
        ...differences(stateOf(was), stateOf(became), { ...formats, currency: row.currency }, words),
      ],
    })),
    history: history.map((one) => ({ ...one, at: instant(one.at) })),
    settled,
    batch: batch?.name ?? '',
    deposited: (batch?.deposit_id ?? null) !== null,
    typedFields: Object.fromEntries(
      own.map((field) => [field.id, typedField(field, gift.fields[field.id] ?? kept(''))]),
    ),
  };
}

const stateOf = (json: string): GiftState => {
  const state: GiftState = JSON.parse(json);
  return state;
};

/** What people call the donors and places that the states of a gift name. */
async function wordsFor(sql: Sql, states: readonly GiftState[]) {
  if (states.length === 0) return { donor: supporterNumber, places: () => '' };
  const parts = states.flatMap((state) => state.parts);
  const named = async (codes: string, ids: readonly (number | null)[]) =>
    new Map(
      (
        await sql.rows<{ id: number; name: string }>(`SELECT c.id, c.name FROM ${codes} c WHERE c.id IN (?)`, [
          [0, ...ids.flatMap((id) => id ?? [])],
        ])
      ).map((row) => [row.id, row.name]),
    );
  const [people, funds, campaigns, appeals] = await Promise.all([
    namesOf(
      sql,
      states.map((state) => state.supporterId),
    ),
    named(
      FUNDS,
      parts.map((part) => part.fundId),
    ),
    named(
      CAMPAIGNS,
      parts.map((part) => part.campaignId),
    ),
    named(
      APPEALS,
      parts.map((part) => part.appealId),
    ),
  ]);
  const donors = new Map(people.map((row) => [row.id, displayName(row)]));
  return {
    donor: (id: number): string => donors.get(id) ?? supporterNumber(id),
    places: (state: GiftState): string =>
      state.parts
        .map(({ fundId, campaignId, appealId }) =>
          [funds.get(fundId), campaigns.get(campaignId ?? 0), appeals.get(appealId ?? 0)].filter(Boolean).join(', '),
        )
        .join(' + '),
  };
}

/** What differs between two states of a gift's money, as sentences. */
function differences(
  was: GiftState,
  became: GiftState,
  formats: Formats,
  words: Awaited<ReturnType<typeof wordsFor>>,
): string[] {
  const money = (cents: number): string => formatMoney(cents, formats);
  const says: string[] = [];
  const differ = (what: string, before: string, after: string): void => {
    if (before !== after) says.push(`${what} from ${before} to ${after}`);
  };
  differ('amount', money(was.cents), money(became.cents));
  differ('date', formatDate(was.date, formats), formatDate(became.date, formats));
  if (was.supporterId !== became.supporterId)
    says.push(`donor from ${words.donor(was.supporterId)} to ${words.donor(became.supporterId)}`);
  differ('payment method', PAYMENT_METHODS[was.method], PAYMENT_METHODS[became.method]);
  if (was.benefit && became.benefit) {
    differ('goods and services', money(was.benefit.cents), money(became.benefit.cents));
    differ('what was got for it', `“${was.benefit.what}”`, `“${became.benefit.what}”`);
  }
  if (became.parts.length > 0) differ('it went', words.places(was), words.places(became));
  return says;
}
