import { deductible, giftNumber } from '@tallystick/core/gifts';
import type { GiftDetails } from '@tallystick/core/gifts';
import { displayName } from '@tallystick/core/names';
import type { Gift } from '@tallystick/contract/gifts';
import type { Param } from '../platform/db.ts';
import type { GiftRecord } from './gift.entity.ts';
import type { Kept } from '@tallystick/core/fields';
import type { SupporterKind } from '@tallystick/core/supporters';
import { PEOPLE, nameColumns } from '../supporters/index.ts';
import { APPEALS, CAMPAIGNS, FUNDS, SOURCES } from '../settings/index.ts';

/** What a list of gifts may be narrowed by, as the contract has it. */
export interface GiftNarrowing {
  supporterId?: number | undefined;
  householdId?: number | undefined;
  fundId?: number | undefined;
  campaignId?: number | undefined;
  appealId?: number | undefined;
  sourceId?: number | undefined;
  batchId?: number | undefined;
  recurringId?: number | undefined;
  method?: string | undefined;
  state?: string | undefined;
  kind?: string | undefined;
  from?: string | undefined;
  to?: string | undefined;
  atLeast?: number | undefined;
  atMost?: number | undefined;
  thanked?: 'yes' | 'no' | undefined;
  ids?: readonly number[] | undefined;
}

export interface JoinedGift extends GiftRecord {
  kind: SupporterKind;
  prefix: string;
  first: string;
  middle: string;
  last: string;
  suffix: string;
  organization: string;
  fund: string;
  campaign: string | null;
  appeal: string | null;
  source: string | null;
  receipt_id: number | null;
  receipt_number: string | null;
  own: string | null;
  funds: string | null;
}

// receipt_of_gift (gift_id), gift_split_place (gift_id, place), gift_field_pair (gift_id, field_id)
export const SELECT_GIFTS = `SELECT g.*, ${nameColumns('s')}, f.name AS fund, c.name AS campaign,
  a.name AS appeal, o.code AS source, r.id AS receipt_id, r.number AS receipt_number,
  IF(EXISTS (SELECT 1 FROM gift_field), (SELECT CONCAT(JSON_OBJECTAGG(v.field_id, v.value), '') FROM gift_field v
    WHERE v.gift_id = g.id), NULL) AS own,
  IF(g.split, (SELECT GROUP_CONCAT(DISTINCT p.name ORDER BY x.place SEPARATOR ' + ') FROM gift_split x JOIN ${FUNDS} p ON p.id = x.fund_id
    WHERE x.gift_id = g.id), NULL) AS funds
  FROM gift g JOIN ${PEOPLE} s ON s.id = g.supporter_id JOIN ${FUNDS} f ON f.id = g.fund_id
  LEFT JOIN ${CAMPAIGNS} c ON c.id = g.campaign_id LEFT JOIN ${APPEALS} a ON a.id = g.appeal_id LEFT JOIN ${SOURCES} o ON o.id = g.source_code_id
  LEFT JOIN receipt r ON r.gift_id = g.id AND r.voided_on IS NULL`;

const KINDS: Record<string, string> = {
  split: 'g.split = 1',
  credited: 'EXISTS (SELECT 1 FROM soft_credit x WHERE x.gift_id = g.id)',
  tribute: 'EXISTS (SELECT 1 FROM tribute x WHERE x.gift_id = g.id)',
  benefit: 'g.benefit_cents > 0',
  pledge: 'EXISTS (SELECT 1 FROM pledge_payment x WHERE x.gift_id = g.id)',
  // The employee's gift, and the employer's that matches it.
  match: `(EXISTS (SELECT 1 FROM pledge x WHERE x.for_gift_id = g.id) OR EXISTS (SELECT 1 FROM pledge_payment x
    JOIN pledge p ON p.id = x.pledge_id WHERE x.gift_id = g.id AND p.kind = 'match'))`,
  corrected: 'EXISTS (SELECT 1 FROM correction x WHERE x.gift_id = g.id)',
  receipt: `g.receipt_needs <> ''`,
};

/** What a narrowing asks of the place of one part: its conditions on an alias, and their values. */
export function placesOf(query: GiftNarrowing): { on: (alias: string) => string; params: number[] } {
  const asked = Object.entries({
    fund_id: query.fundId,
    campaign_id: query.campaignId,
    appeal_id: query.appealId,
  }).flatMap(([column, value]) => (value === undefined ? [] : [{ column, value }]));
  return {
    on: (alias) => asked.map(({ column }) => `${alias}.${column} = ?`).join(' AND ') || '1',
    params: asked.map(({ value }) => value),
  };
}

/** The conditions on `gift g` that a narrowing stands for. A split gift is found by any one of its parts. */
export function conditionsOf(query: GiftNarrowing, home?: readonly number[]): { where: string[]; params: Param[] } {
  const where: string[] = [];
  const params: Param[] = [];
  const add = (sql: string, value: Param | undefined): void => {
    if (value === undefined) return;
    where.push(sql);
    for (const _mark of sql.matchAll(/\?/g)) params.push(value);
  };
  add('g.supporter_id = ?', query.supporterId);
  add('g.supporter_id IN (?)', home);
  const places = placesOf(query);
  if (places.params.length > 0) {
    where.push(
      `((g.split = 0 AND ${places.on('g')}) OR (g.split = 1 AND EXISTS (SELECT 1 FROM gift_split x WHERE x.gift_id = g.id AND ${places.on('x')})))`,
    );
    params.push(...places.params, ...places.params);
  }
  add('g.source_code_id = ?', query.sourceId);
  add('g.batch_id = ?', query.batchId);
  add('g.recurring_id = ?', query.recurringId);
  add('g.method = ?', query.method);
  add('g.state = ?', query.state);
  add('g.date >= ?', query.from);
  add('g.date <= ?', query.to);
  add('g.cents >= ?', query.atLeast);
  add('g.cents <= ?', query.atMost);
  add('g.id IN (?)', query.ids);
  if (query.kind !== undefined && KINDS[query.kind]) where.push(KINDS[query.kind] ?? '');
  if (query.thanked) where.push(`g.acknowledged_on IS ${query.thanked === 'no' ? '' : 'NOT '}NULL`);
  // What was voided or went back is nothing to thank for.
  if (query.thanked === 'no') where.push('g.cents > 0');
  return { where, params };
}

export function giftView(row: JoinedGift): Gift {
  const fields: Record<string, Kept> = row.own === null ? {} : JSON.parse(row.own);
  const details: GiftDetails | null = row.details === null ? null : JSON.parse(row.details);
  return {
    id: row.id,
    number: giftNumber(row.id),
    version: row.version,
    supporterId: row.supporter_id,
    supporterName: displayName(row),
    cents: row.cents,
    currency: row.currency,
    date: row.date,
    fundId: row.fund_id,
    fund: row.funds ?? row.fund,
    campaignId: row.campaign_id,
    campaign: row.campaign ?? '',
    appealId: row.appeal_id,
    appeal: row.appeal ?? '',
    split: row.split === 1,
    sourceId: row.source_code_id,
    source: row.source ?? '',
    method: row.method,
    cheque: row.cheque,
    reference: row.reference,
    note: row.note,
    benefitCents: row.benefit_cents,
    benefit: row.benefit,
    feeCents: row.fee_cents,
    details,
    deductibleCents: deductible(row.cents, row.benefit_cents),
    state: row.state,
    bookedOn: row.booked_on,
    batchId: row.batch_id,
    recurringId: row.recurring_id,
    fields,
    acknowledgedOn: row.acknowledged_on,
    receiptId: row.receipt_id,
    receiptNumber: row.receipt_number,
    receiptNeeds: row.receipt_needs,
  };
}
