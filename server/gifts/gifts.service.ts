import type { DataSource } from 'typeorm';
import { showField } from '@tallystick/core/fields';
import { giftNumber, supporterNumber } from '@tallystick/core/gifts';
import { formatMoney } from '@tallystick/core/money';
import { displayName } from '@tallystick/core/names';
import type { SupporterKind } from '@tallystick/core/names';
import type { Gift, GiftDraft } from '@tallystick/contract/gifts';
import type { Actor, Changes, Reason } from '../platform/changes.ts';
import { decodeCursor, encodeCursor } from '../platform/cursor.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Param, Sql } from '../platform/db.ts';
import { notFound, Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import { fieldsIn, readFields, syncFields } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import type { GiftRecord } from './gift.entity.ts';

export interface GiftQuery {
  supporterId?: number | undefined;
  householdId?: number | undefined;
  fundId?: number | undefined;
  campaignId?: number | undefined;
  appealId?: number | undefined;
  method?: string | undefined;
  from?: string | undefined;
  to?: string | undefined;
  thanked?: 'yes' | 'no' | undefined;
  ids?: readonly number[] | undefined;
  limit: number;
  cursor?: string | undefined;
  sort: 'date' | '-date' | 'amount' | '-amount';
}

interface Joined extends GiftRecord {
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
  receipt_id: number | null;
  receipt_number: string | null;
  own: string | null;
}

const SELECT = `SELECT g.*, s.kind, s.prefix, s.first, s.middle, s.last, s.suffix, s.organization, f.name AS fund, c.name AS campaign,
  a.name AS appeal, r.id AS receipt_id, r.number AS receipt_number,
  (SELECT CONCAT(JSON_OBJECTAGG(v.field_id, v.value), '') FROM gift_field v WHERE v.gift_id = g.id) AS own
  FROM gift g JOIN supporter s ON s.id = g.supporter_id JOIN fund f ON f.id = g.fund_id
  LEFT JOIN campaign c ON c.id = g.campaign_id LEFT JOIN appeal a ON a.id = g.appeal_id LEFT JOIN receipt r ON r.gift_id = g.id`;

const EXPORT_HEADINGS =
  'Number,Supporter,Name,Date,Amount,Currency,Fund,Campaign,Appeal,Paid by,Check,Reference,Note,Thanked,Receipt'.split(
    ',',
  );

export class Gifts {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {
    this.sql = sqlOn(source);
  }

  async get(id: number): Promise<Gift> {
    const row = await one<Joined>(this.sql, `${SELECT} WHERE g.id = ?`, [id]);
    if (!row) throw notFound(`Gift ${giftNumber(id)}`);
    return giftView(row);
  }

  /** Every gift that a filter shows, as the rows of a file; amounts as `1234.50`. */
  async exported(query: Omit<GiftQuery, 'limit' | 'sort'>): Promise<{ headings: string[]; rows: (string | null)[][] }> {
    const [fields, { currency, locale }] = await Promise.all([
      fieldsIn(this.sql, 'gift'),
      this.settings.organization(),
    ]);
    const rows: (string | null)[][] = [];
    let cursor: string | undefined;
    do {
      const page = await this.list({ ...query, sort: 'date', limit: 1000, ...(cursor ? { cursor } : {}) });
      for (const gift of page.items)
        rows.push([
          ...[
            gift.number,
            supporterNumber(gift.supporterId),
            gift.supporterName,
            gift.date,
            (gift.cents / 100).toFixed(2),
          ],
          ...[
            gift.currency,
            gift.fund,
            gift.campaign,
            gift.appeal,
            gift.method,
            gift.cheque,
            gift.reference,
            gift.note,
          ],
          ...[gift.acknowledgedOn, gift.receiptNumber],
          ...fields.map((field) => showField(field, gift.fields[field.id] ?? '', currency, locale)),
        ]);
      cursor = page.next ?? undefined;
    } while (cursor !== undefined);
    return { headings: [...EXPORT_HEADINGS, ...fields.map((field) => field.name)], rows };
  }

  /** A household with everyone in it: their ids are asked for first, since MariaDB would read every gift otherwise. */
  private async home(householdId: number | undefined): Promise<number[] | undefined> {
    if (householdId === undefined) return undefined;
    // supporter_household (household_id)
    const rows = await this.sql.rows<{ id: number }>('SELECT id FROM supporter WHERE household_id = ?', [householdId]);
    return [householdId, ...rows.map((row) => row.id)];
  }

  /** A page of gifts with the number and sum of the whole list. */
  async list(query: GiftQuery) {
    const { where, params } = conditionsOf(query, await this.home(query.householdId));
    const column = query.sort.endsWith('date') ? 'date' : 'cents';
    const down = query.sort.startsWith('-');
    const filter = where.length > 0 ? `WHERE ${where.join(' AND ')}` : '';
    const sum = await one<{ many: number; total: number | null }>(
      this.sql,
      `SELECT COUNT(*) AS many, SUM(g.cents) AS total FROM gift g ${filter}`,
      params,
    );
    const after = decodeCursor(query.cursor);
    if (after) {
      where.push(`(g.${column}, g.id) ${down ? '<' : '>'} (?, ?)`);
      params.push(column === 'date' ? after.value : Number(after.value), after.id);
    }
    const direction = down ? 'DESC' : 'ASC';
    // gift_date (date, id), gift_cents (cents, id), gift_unthanked (acknowledged_on, date, id) or gift_facts
    const rows = await this.sql.rows<Joined>(
      `${SELECT} ${where.length > 0 ? `WHERE ${where.join(' AND ')}` : ''} ORDER BY g.${column} ${direction}, g.id ${direction} LIMIT ?`,
      [...params, query.limit + 1],
    );
    const page = rows.slice(0, query.limit);
    const last = page.at(-1);
    const count = sum?.many ?? 0;
    return {
      items: page.map(giftView),
      next: rows.length > query.limit && last ? encodeCursor({ value: String(last[column]), id: last.id }) : null,
      total: count,
      sum: { count, cents: Number(sum?.total ?? 0) },
    };
  }

  /** Records a one-time gift. A closed fund, campaign or appeal, or a supporter in the trash, is refused with the field. */
  async record(actor: Actor, draft: GiftDraft, key: Reason['key']) {
    const organization = await this.settings.organization();
    const { today } = await this.settings.calendar();
    if (draft.date > today)
      throw fieldProblem('date', 'The date is in the future; a gift is recorded when it has come in.');
    const summary = `Recorded ${formatMoney(draft.cents, organization.currency, organization.locale)} from ${supporterNumber(draft.supporterId)}`;
    return this.changes.write(actor, { kind: 'gift', summary, key: key ?? null }, async (tx) => {
      await this.mayTake(tx, draft);
      const { supporterId, fundId, campaignId, appealId, fields, ...rest } = draft;
      const own = readFields(await fieldsIn(tx.sql, 'gift'), fields);
      const id = await tx.insert('gift', {
        ...rest,
        supporter_id: supporterId,
        fund_id: fundId,
        campaign_id: campaignId,
        appeal_id: appealId,
        currency: organization.currency,
        reference: '',
        acknowledged_on: null,
        intake_id: null,
      });
      await syncFields(tx, 'gift', { supporter_id: supporterId, gift_id: id }, own);
      return { id, number: giftNumber(id) };
    });
  }

  private async mayTake(tx: Transaction, draft: GiftDraft): Promise<void> {
    const supporter = (await tx.lock('supporter', [draft.supporterId])).get(draft.supporterId);
    if (!supporter) throw fieldProblem('supporterId', 'There is no such supporter.');
    if (supporter['trashed'] !== 0)
      throw fieldProblem('supporterId', 'This supporter is in the trash; restore the record first.');
    const chosen = { fund: draft.fundId, campaign: draft.campaignId, appeal: draft.appealId };
    for (const [table, id] of Object.entries(chosen)) {
      if (id === null) continue;
      const row = await one<{ name: string; closed: number }>(
        tx.sql,
        `SELECT name, closed FROM ${table} WHERE id = ?`,
        [id],
      );
      if (!row) throw fieldProblem(`${table}Id`, `There is no such ${table}.`);
      if (row.closed === 1)
        throw fieldProblem(`${table}Id`, `The ${table} “${row.name}” is closed; choose an open one.`);
    }
  }
}

const fieldProblem = (field: string, message: string): Problem =>
  new Problem(400, 'invalid', message, { fields: { [field]: message } });

function conditionsOf(query: GiftQuery, home?: readonly number[]): { where: string[]; params: Param[] } {
  const where: string[] = [];
  const params: Param[] = [];
  const add = (sql: string, value: Param | undefined): void => {
    if (value === undefined) return;
    where.push(sql);
    params.push(value);
  };
  add('g.supporter_id = ?', query.supporterId);
  add('g.supporter_id IN (?)', home);
  add('g.fund_id = ?', query.fundId);
  add('g.campaign_id = ?', query.campaignId);
  add('g.appeal_id = ?', query.appealId);
  add('g.method = ?', query.method);
  add('g.date >= ?', query.from);
  add('g.date <= ?', query.to);
  add('g.id IN (?)', query.ids);
  if (query.thanked) where.push(`g.acknowledged_on IS ${query.thanked === 'no' ? '' : 'NOT '}NULL`);
  return { where, params };
}

function giftView(row: Joined): Gift {
  const fields: Record<string, string> = row.own === null ? {} : JSON.parse(row.own);
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
    fund: row.fund,
    campaignId: row.campaign_id,
    campaign: row.campaign ?? '',
    appealId: row.appeal_id,
    appeal: row.appeal ?? '',
    method: row.method,
    cheque: row.cheque,
    reference: row.reference,
    note: row.note,
    fields,
    acknowledgedOn: row.acknowledged_on,
    receiptId: row.receipt_id,
    receiptNumber: row.receipt_number,
  };
}
