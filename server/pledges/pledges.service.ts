import type { DataSource } from 'typeorm';
import { addDays, dayNumber } from '@tallystick/core/dates';
import { giftNumber } from '@tallystick/core/gifts';
import { byKeys, readSorts } from '@tallystick/core/lists';
import type { SortKey } from '@tallystick/core/lists';
import { displayName, fold } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { pledgeAt, pledgeNumber } from '@tallystick/core/pledges';
import type { PledgeStage, PledgeStanding } from '@tallystick/core/pledges';
import { describeSchedule } from '@tallystick/core/schedule';
import type { Row } from '@tallystick/core/changes';
import { one, sqlOn } from '../platform/db.ts';
import type { Param, Sql } from '../platform/db.ts';
import { revisionOn, rowsAt } from '../platform/known.ts';
import { notFound } from '../platform/problem.ts';
import { APPEALS, CAMPAIGNS, FUNDS } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { ALWAYS, booksOf } from './books.ts';
import type { PledgeRecord } from './pledge.entity.ts';
import { PEOPLE, nameColumns } from '../supporters/index.ts';
import { PledgeTable } from './pledge.entity.ts';

type Joined = PledgeRecord &
  Omit<NameParts, 'kind'> & { who: NameParts['kind']; fund: string; campaign: string | null; appeal: string | null };
const SELECT = `SELECT p.*, ${nameColumns('s', 'who')}, f.name AS fund,
  c.name AS campaign, a.name AS appeal FROM pledge p JOIN ${PEOPLE} s ON s.id = p.supporter_id JOIN ${FUNDS} f ON f.id = p.fund_id
  LEFT JOIN ${CAMPAIGNS} c ON c.id = p.campaign_id LEFT JOIN ${APPEALS} a ON a.id = p.appeal_id`;

export interface PledgeQuery {
  supporterId?: number | undefined;
  kind?: string | undefined;
  fundId?: number | undefined;
  campaignId?: number | undefined;
  show: 'open' | 'overdue' | 'due' | 'paid' | 'all';
  at?: string | undefined;
  sort: string;
  limit: number;
  cursor?: string | undefined;
}

const SOON_DAYS = 30;

const isPromised = ({ stage }: PledgeRecord): boolean => stage === 'promised' || stage === 'claimed';

/** Pledges, grants and matches: what is promised, and what became of it. */
export class Pledges {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly settings: Settings,
  ) {
    this.sql = sqlOn(source);
  }

  /**
   * How pledges stand on a day. On a day that is over they stand as they were recorded by its end: what was typed,
   * rescheduled or moved on since makes no difference to it.
   */
  private async standing(given: readonly Joined[], at: string): Promise<{ row: Joined; standing: PledgeStanding }[]> {
    const days = await this.settings.days();
    const revision = at < days.today ? await revisionOn(this.sql, at, days) : null;
    const then = revision === null ? null : await rowsAt(this.sql, PledgeTable, revision);
    const rows = given.map((row): Joined => {
      const was = then?.get(row.id);
      return was ? { ...row, ...pledgeThen(was) } : row;
    });
    const books = await booksOf(this.sql, rows, revision);
    return rows.flatMap((row) => {
      const found = books.get(row.id);
      if (!found) return [];
      // Nobody knew of it yet.
      if (then?.get(row.id) === null) return [{ row, standing: pledgeAt({ ...found, pledgedOn: ALWAYS }, at) }];
      const standing = pledgeAt(found, at);
      // Nobody is late with what is not promised.
      return [{ row, standing: isPromised(row) ? standing : { ...standing, overdue: 0, next: null } }];
    });
  }

  /** Pledges as they stood at a date. A charity has hundreds of them, so they are all worked out for each question. */
  async list(query: PledgeQuery) {
    const at = query.at ?? (await this.settings.calendar()).today;
    const where = [`s.state <> 'erased'`];
    const params: Param[] = [];
    const add = (sql: string, value: Param | undefined): void => {
      if (value === undefined) return;
      where.push(sql);
      params.push(value);
    };
    add('p.supporter_id = ?', query.supporterId);
    add('p.kind = ?', query.kind);
    add('p.fund_id = ?', query.fundId);
    add('p.campaign_id = ?', query.campaignId);
    const rows = await this.sql.rows<Joined>(`${SELECT} WHERE ${where.join(' AND ')}`, params);
    const soon = addDays(at, SOON_DAYS);
    const shown = (await this.standing(rows, at)).filter(({ row, standing }) => {
      // It was not made by then, or nobody had recorded it.
      if (standing.installments.length === 0) return false;
      const promised = isPromised(row);
      switch (query.show) {
        case 'open':
          return promised && standing.balance > 0;
        case 'overdue':
          return promised && standing.overdue > 0;
        case 'due':
          return promised && standing.next !== null && standing.next.due >= at && standing.next.due <= soon;
        case 'paid':
          return standing.balance === 0;
        case 'all':
          return true;
      }
    });
    shown.sort(
      byKeys(
        readSorts(query.sort).flatMap(({ by, down }) => (KEYS[by] ? [{ keyOf: KEYS[by], down }] : [])),
        (a, b) => a.row.id - b.row.id,
      ),
    );
    const from = Number(query.cursor ?? 0) || 0;
    const page = shown.slice(from, from + query.limit);
    const sum = (of: (standing: PledgeStanding) => number): number =>
      shown.reduce((total, { row, standing }) => total + (isPromised(row) ? of(standing) : 0), 0);
    return {
      items: page.map(({ row, standing }) => rowView(row, standing)),
      next: from + page.length < shown.length ? String(from + page.length) : null,
      total: shown.length,
      at,
      sum: {
        pledged: sum((one) => one.pledged),
        paid: sum((one) => one.paid),
        writtenOff: sum((one) => one.writtenOff),
        balance: sum((one) => one.balance),
        overdue: sum((one) => one.overdue),
      },
    };
  }

  /** Installments that are overdue or fall due within `days`. */
  async reminders(days: number) {
    const { today } = await this.settings.calendar();
    const until = addDays(today, days);
    const rows = await this.sql.rows<Joined>(
      // installment_due (due)
      `${SELECT} WHERE s.state = 'active' AND p.stage IN ('promised', 'claimed')
       AND p.id IN (SELECT pledge_id FROM installment WHERE due <= ?)`,
      [until],
    );
    const items = (await this.standing(rows, today)).flatMap(({ row, standing }) =>
      standing.installments
        .filter((one) => one.open > 0 && one.due <= until)
        .map((one) => ({
          pledgeId: row.id,
          number: pledgeNumber(row.id),
          supporterId: row.supporter_id,
          supporterName: nameOf(row),
          due: one.due,
          open: one.open,
          daysLate: Math.max(0, dayNumber(today) - dayNumber(one.due)),
        })),
    );
    items.sort((a, b) => (a.due < b.due ? -1 : a.due > b.due ? 1 : a.pledgeId - b.pledgeId));
    const cents = (list: typeof items): number => list.reduce((sum, item) => sum + item.open, 0);
    return {
      items,
      sum: { count: items.length, cents: cents(items), overdueCents: cents(items.filter((item) => item.daysLate > 0)) },
    };
  }

  async get(id: number, at?: string) {
    const row = await one<Joined>(this.sql, `${SELECT} WHERE p.id = ?`, [id]);
    if (!row) throw notFound(`Pledge ${pledgeNumber(id)}`);
    const date = at ?? (await this.settings.calendar()).today;
    const [whole] = await this.standing([row], date);
    if (!whole) throw notFound(`Pledge ${pledgeNumber(id)}`);
    const [payments, writeOffs, reports, forGift] = await Promise.all([
      this.sql.rows<{ giftId: number; date: string; cents: number; of: number; installmentId: number }>(
        `SELECT p.gift_id AS giftId, g.date, p.cents, g.cents AS \`of\`, p.installment_id AS installmentId
         FROM pledge_payment p JOIN gift g ON g.id = p.gift_id WHERE p.pledge_id = ? ORDER BY g.date, p.id`,
        [id],
      ),
      this.sql.rows<{ id: number; date: string; cents: number; reason: string; due: string }>(
        `SELECT w.id, w.date, w.cents, w.reason, i.due FROM write_off w JOIN installment i ON i.id = w.installment_id
         WHERE w.pledge_id = ? ORDER BY w.date, w.id`,
        [id],
      ),
      this.sql.rows<{ id: number; title: string; due: string; doneOn: string | null }>(
        'SELECT id, title, due, done_on AS doneOn FROM task WHERE pledge_id = ? ORDER BY due, id',
        [id],
      ),
      row.for_gift_id === null
        ? null
        : one<NameParts & { id: number; supporterId: number; cents: number }>(
            this.sql,
            `SELECT g.id, g.supporter_id AS supporterId, g.cents, ${nameColumns('s')}
             FROM gift g JOIN ${PEOPLE} s ON s.id = g.supporter_id WHERE g.id = ?`,
            [row.for_gift_id],
          ),
    ]);
    const schedule =
      row.start_on !== null && row.every !== ''
        ? describeSchedule({ start: row.start_on, every: row.every, lastDay: row.last_day === 1 })
        : 'by rows of its own';
    return {
      ...rowView(row, whole.standing),
      note: row.note,
      appliedOn: row.applied_on,
      askedCents: row.asked_cents,
      claimedOn: row.claimed_on,
      schedule: whole.standing.installments.length === 1 ? 'at once' : schedule,
      installments: whole.standing.installments,
      payments: payments.map((payment) => ({ ...payment, number: giftNumber(payment.giftId) })),
      writeOffs,
      reports,
      forGift: forGift
        ? {
            id: forGift.id,
            number: giftNumber(forGift.id),
            supporterId: forGift.supporterId,
            supporterName: displayName(forGift),
            cents: forGift.cents,
          }
        : null,
    };
  }
}

/** What a pledge was before: what was promised and how it stood; its names stay those of today. */
const pledgeThen = (was: Row): Pick<PledgeRecord, 'stage' | 'cents' | 'pledged_on'> => ({
  stage: was['stage'] as PledgeStage,
  cents: Number(was['cents']),
  pledged_on: String(was['pledged_on']),
});

/** What pledges are sorted by; what has none comes last. */
const KEYS: Record<string, (one: { row: Joined; standing: PledgeStanding }) => SortKey> = {
  next: ({ standing }) => standing.next?.due ?? '',
  name: ({ row }) => fold(nameOf(row)),
  kind: ({ row }) => row.kind,
  date: ({ row }) => row.pledged_on,
  pledged: ({ standing }) => standing.pledged,
  paid: ({ standing }) => standing.paid,
  balance: ({ standing }) => standing.balance,
  overdue: ({ standing }) => standing.overdue,
  fund: ({ row }) => fold(row.fund),
};

const nameOf = (row: Joined): string => displayName({ ...row, kind: row.who });

function rowView(row: Joined, { installments: _installments, ...standing }: PledgeStanding) {
  return {
    id: row.id,
    number: pledgeNumber(row.id),
    version: row.version,
    supporterId: row.supporter_id,
    supporterName: nameOf(row),
    kind: row.kind,
    stage: row.stage,
    pledgedOn: row.pledged_on,
    fundId: row.fund_id,
    fund: row.fund,
    campaignId: row.campaign_id,
    campaign: row.campaign ?? '',
    appealId: row.appeal_id,
    appeal: row.appeal ?? '',
    standing,
  };
}
