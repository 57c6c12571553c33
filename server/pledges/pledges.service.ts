import type { DataSource } from 'typeorm';
import { addDays, dayNumber } from '@tallystick/core/dates';
import { giftNumber } from '@tallystick/core/gifts';
import { formatMoney } from '@tallystick/core/money';
import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { PLEDGE_KINDS, pledgeAt, pledgeNumber, remaining, resized } from '@tallystick/core/pledges';
import type { PledgePlan, PledgeStage, PledgeStanding } from '@tallystick/core/pledges';
import { describeSchedule } from '@tallystick/core/schedule';
import type { Schedule } from '@tallystick/core/schedule';
import type { Row } from '@tallystick/core/changes';
import type { PledgeDraft } from '@tallystick/contract/pledges';
import type { Actor, Changes, Reason } from '../platform/changes.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Param, Sql } from '../platform/db.ts';
import { revisionOn, rowsAt } from '../platform/known.ts';
import { notFound, Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import { refuseClosed, formatsIn, APPEALS, CAMPAIGNS, FUNDS } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { ALWAYS, booksOf, lockPledge, planned } from './books.ts';
import type { PledgeRecord } from './pledge.entity.ts';
import { requireActive, TaskTable, PEOPLE, nameColumns } from '../supporters/index.ts';
import { InstallmentTable, PledgeTable, WriteOffTable } from './pledge.entity.ts';
import { supporterNumber } from '@tallystick/core/supporters';

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
  sort: 'next' | 'name' | '-balance' | '-overdue' | '-date';
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
    private readonly changes: Changes,
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
    shown.sort(ORDERS[query.sort]);
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

  async make(actor: Actor, draft: PledgeDraft, key: Reason['key'] = null) {
    const formats = await this.settings.formats();
    const summary = `Recorded a ${PLEDGE_KINDS[draft.kind].toLowerCase()} of ${formatMoney(draft.cents, formats)} by ${supporterNumber(draft.supporterId)}`;
    return this.changes.write(actor, { kind: 'gift', summary, key: key ?? null }, async (tx) => {
      await requireActive(tx, draft.supporterId);
      await refuseClosed(tx, { fund: draft.fundId, campaign: draft.campaignId, appeal: draft.appealId });
      const id = await makePledge(tx, draft, formats.currency);
      return { id, number: pledgeNumber(id) };
    });
  }

  /** Changes what was promised, to what, and how much; what was paid or written off of it stays. */
  async change(
    actor: Actor,
    id: number,
    asked: Pick<PledgeDraft, 'cents' | 'pledgedOn' | 'fundId' | 'campaignId' | 'appealId' | 'note'> & {
      version: number;
      plan: PledgePlan | null;
    },
  ) {
    const { today } = await this.settings.calendar();
    const formats = await this.settings.formats();
    let did = 'Changed';
    const summary = () => `${did} ${pledgeNumber(id)}`;
    return this.changes.write(actor, { kind: 'gift', summary }, async (tx) => {
      await tx.expect(PledgeTable, id, asked.version, `Pledge ${pledgeNumber(id)}`);
      const pledge = await lockPledge(tx, id);
      const other = (column: 'fund_id' | 'campaign_id' | 'appeal_id', to: number | null) =>
        to === pledge[column] ? null : to;
      await refuseClosed(tx, {
        fund: other('fund_id', asked.fundId),
        campaign: other('campaign_id', asked.campaignId),
        appeal: other('appeal_id', asked.appealId),
      });
      const standing = await now(tx, pledge);
      const made = resized(standing, asked.cents, today);
      const settled = standing.paid + standing.writtenOff;
      if (!made) {
        const message = `${formatMoney(settled, { ...formats, currency: pledge.currency })} of it was paid or written off; a pledge is that much at least.`;
        throw new Problem(400, 'invalid', message, { fields: { cents: message } });
      }
      const money = (cents: number): string => formatMoney(cents, { ...formats, currency: pledge.currency });
      if (asked.cents !== pledge.cents)
        did = `${asked.cents > pledge.cents ? 'Raised' : 'Lowered'} from ${money(pledge.cents)} to ${money(asked.cents)}:`;
      if (asked.plan && asked.cents > settled)
        await this.layOut(tx, pledge, standing, asked.cents - settled, asked.plan);
      else {
        for (const { id: part, cents } of made.change) await tx.update(InstallmentTable, part, { cents });
        await tx.removeAll(InstallmentTable, made.drop);
        await insertInstallments(tx, pledge, made.add);
      }
      await tx.update(PledgeTable, id, {
        cents: asked.cents,
        pledged_on: asked.pledgedOn,
        fund_id: asked.fundId,
        campaign_id: asked.campaignId,
        appeal_id: asked.appealId,
        note: asked.note,
      });
    });
  }

  /** Lays what is open of a pledge out anew, or another amount in its place. */
  private async layOut(
    tx: Transaction,
    pledge: PledgeRecord,
    standing: PledgeStanding,
    cents: number,
    plan: PledgePlan,
  ) {
    const { keep, drop } = remaining(standing);
    const rows = planned(cents, plan);
    for (const part of keep) await tx.update(InstallmentTable, part.id, { cents: part.cents });
    await tx.removeAll(InstallmentTable, drop);
    await insertInstallments(tx, pledge, rows);
    await tx.update(PledgeTable, pledge.id, scheduleRow(plan));
  }

  /** Lays what is left out anew. */
  reschedule(actor: Actor, id: number, version: number, plan: PledgePlan) {
    const summary = `Rescheduled what is left of ${pledgeNumber(id)}`;
    return this.changes.write(actor, { kind: 'gift', summary }, async (tx) => {
      await tx.expect(PledgeTable, id, version, `Pledge ${pledgeNumber(id)}`);
      const pledge = await lockPledge(tx, id);
      const standing = await now(tx, pledge);
      if (standing.balance === 0) throw new Problem(409, 'nothing-left', 'Nothing of this pledge is open any more.');
      await this.layOut(tx, pledge, standing, standing.balance, plan);
    });
  }

  /** Writes off a part or the whole balance, from the last installment back, or of the one chosen. */
  async writeOff(
    actor: Actor,
    id: number,
    asked: { version: number; cents: number | null; installmentId: number | null; date: string; reason: string },
  ) {
    const { today } = await this.settings.calendar();
    let written = '';
    const summary = () => `Wrote ${written} of ${pledgeNumber(id)} off: ${asked.reason}`;
    return this.changes.write(actor, { kind: 'gift', summary }, async (tx) => {
      await tx.expect(PledgeTable, id, asked.version, `Pledge ${pledgeNumber(id)}`);
      const pledge = await lockPledge(tx, id);
      const { installments, balance } = await now(tx, pledge);
      const open = installments.filter(
        (part) => part.open > 0 && (asked.installmentId === null || part.id === asked.installmentId),
      );
      const most = open.reduce((sum, part) => sum + part.open, 0);
      const cents = asked.cents ?? most;
      const formats = { ...(await formatsIn(tx.sql)), currency: pledge.currency };
      written = formatMoney(cents, formats);
      const fault = (field: string, message: string): Problem =>
        new Problem(400, 'invalid', message, { fields: { [field]: message } });
      if (balance === 0 || most === 0) throw fault('cents', 'Nothing is open there to write off.');
      if (cents > most)
        throw fault('cents', `Only ${formatMoney(most, formats)} is open; write off that much at most.`);
      if (asked.date < pledge.pledged_on) throw fault('date', 'The date is before the pledge.');
      if (asked.date > today) throw fault('date', 'The date is in the future; write it off when it is given up.');
      let left = cents;
      for (const part of open.toReversed()) {
        const some = Math.min(left, part.open);
        if (some === 0) break;
        left -= some;
        await tx.insert(WriteOffTable, {
          supporter_id: pledge.supporter_id,
          pledge_id: id,
          installment_id: part.id,
          date: asked.date,
          cents: some,
          reason: asked.reason,
        });
      }
    });
  }

  /** Moves a grant or a match on. An award may differ from what was asked, and be laid out anew. */
  async stage(
    actor: Actor,
    id: number,
    asked: {
      version: number;
      stage: PledgeStage;
      on: string;
      cents?: number | undefined;
      plan?: PledgePlan | undefined;
    },
  ) {
    const { today } = await this.settings.calendar();
    if (asked.on > today)
      throw new Problem(400, 'invalid', 'The date is in the future.', {
        fields: { on: 'Note it on the day that it happens.' },
      });
    const summary = `${pledgeNumber(id)}: ${asked.stage}`;
    return this.changes.write(actor, { kind: 'gift', summary }, async (tx) => {
      await tx.expect(PledgeTable, id, asked.version, `Pledge ${pledgeNumber(id)}`);
      const pledge = await lockPledge(tx, id);
      const standing = await now(tx, pledge);
      if (asked.stage === 'declined' && standing.paid > 0)
        throw new Problem(409, 'paid', 'Part of it was paid; write the balance off instead.');
      const cents = asked.cents ?? pledge.cents;
      if (asked.plan || cents !== pledge.cents) {
        if (standing.paid + standing.writtenOff > 0)
          throw new Problem(409, 'paid', 'Part of it was paid or written off; reschedule what is left instead.');
        const due = standing.installments[0]?.due ?? asked.on;
        const plan: PledgePlan = asked.plan ?? { kind: 'rows', rows: [{ due, cents }] };
        const rows = planned(cents, plan);
        await tx.removeAll(
          InstallmentTable,
          standing.installments.map((part) => part.id),
        );
        await insertInstallments(tx, pledge, rows);
        await tx.update(PledgeTable, id, { cents, ...scheduleRow(plan) });
      }
      const first = pledge.stage === 'asked' && asked.stage === 'promised';
      await tx.update(PledgeTable, id, {
        stage: asked.stage,
        ...(first ? { pledged_on: asked.on } : {}),
        ...(asked.stage === 'claimed' ? { claimed_on: asked.on } : {}),
      });
    });
  }
}

/** What a pledge was before: what was promised and how it stood; its names stay those of today. */
const pledgeThen = (was: Row): Pick<PledgeRecord, 'stage' | 'cents' | 'pledged_on'> => ({
  stage: was['stage'] as PledgeStage,
  cents: Number(was['cents']),
  pledged_on: String(was['pledged_on']),
});

const now = async (tx: Transaction, pledge: PledgeRecord): Promise<PledgeStanding> => {
  const books = (await booksOf(tx.sql, [pledge])).get(pledge.id);
  return pledgeAt(books ?? { pledgedOn: pledge.pledged_on, installments: [], payments: [], writeOffs: [] }, ALWAYS);
};

const ORDERS: Record<
  PledgeQuery['sort'],
  (a: { row: Joined; standing: PledgeStanding }, b: { row: Joined; standing: PledgeStanding }) => number
> = {
  next: (a, b) => text(a.standing.next?.due ?? '9999', b.standing.next?.due ?? '9999') || a.row.id - b.row.id,
  name: (a, b) => text(nameOf(a.row).toLowerCase(), nameOf(b.row).toLowerCase()) || a.row.id - b.row.id,
  '-balance': (a, b) => b.standing.balance - a.standing.balance || a.row.id - b.row.id,
  '-overdue': (a, b) => b.standing.overdue - a.standing.overdue || a.row.id - b.row.id,
  '-date': (a, b) => text(b.row.pledged_on, a.row.pledged_on) || b.row.id - a.row.id,
};
const text = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

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

function scheduleRow(plan: PledgePlan): Pick<PledgeRecord, 'start_on' | 'every' | 'last_day'> {
  const schedule: Schedule | null = plan.kind === 'rows' ? null : plan.schedule;
  return { start_on: schedule?.start ?? null, every: schedule?.every ?? '', last_day: schedule?.lastDay ? 1 : 0 };
}

const insertInstallments = (
  tx: Transaction,
  pledge: { id: number; supporter_id: number },
  rows: readonly { due: string; cents: number }[],
): Promise<number[]> =>
  tx.insertAll(
    InstallmentTable,
    rows.map((row) => ({ supporter_id: pledge.supporter_id, pledge_id: pledge.id, due: row.due, cents: row.cents })),
  );

/** Stores a pledge with its installments, and the reports of a grant as tasks. */
export async function makePledge(
  tx: Transaction,
  draft: Omit<PledgeDraft, 'reports'> & { reports?: PledgeDraft['reports'] },
  currency: string,
): Promise<number> {
  const rows = planned(draft.cents, draft.plan);
  const id = await tx.insert(PledgeTable, {
    supporter_id: draft.supporterId,
    kind: draft.kind,
    stage: draft.stage,
    cents: draft.cents,
    currency,
    pledged_on: draft.pledgedOn,
    fund_id: draft.fundId,
    campaign_id: draft.campaignId,
    appeal_id: draft.appealId,
    ...scheduleRow(draft.plan),
    note: draft.note,
    applied_on: draft.appliedOn,
    asked_cents: draft.askedCents,
    claimed_on: null,
    for_gift_id: draft.forGiftId,
  });
  await insertInstallments(tx, { id, supporter_id: draft.supporterId }, rows);
  await tx.insertAll(
    TaskTable,
    (draft.reports ?? []).map((report) => ({
      supporter_id: draft.supporterId,
      title: report.title,
      due: report.due,
      owner_id: null,
      repeats: 'never',
      repeat_day: Number(report.due.slice(8, 10)),
      done_on: null,
      done_by: '',
      pledge_id: id,
    })),
  );
  return id;
}
