import type { DataSource } from 'typeorm';
import { addDays, addMonths } from '@tallystick/core/dates';
import { placedTwice } from '@tallystick/core/gifts';
import { formatMoney } from '@tallystick/core/money';
import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { amountOn, expected, isPaused, recurringNumber } from '@tallystick/core/recurring';
import type { RecurringPlan } from '@tallystick/core/recurring';
import { describeSchedule } from '@tallystick/core/schedule';
import type { BodyOf } from '@tallystick/contract/endpoint';
import type { changeRecurring, makeRecurring } from '@tallystick/contract/pledges';
import type { Actor, Changes } from '../platform/changes.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { refuseClosed } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { plansOf, storeRecurring } from './plans.ts';
import type { ChargeRecord, RecurringRecord, Share } from './recurring.entity.ts';
import { requireActive, PEOPLE, nameColumns } from '../supporters/index.ts';
import { ChargeTable, RecurringAmountTable, RecurringPauseTable, RecurringTable } from './recurring.entity.ts';
import { supporterNumber } from '@tallystick/core/supporters';

type Draft = BodyOf<typeof makeRecurring>;
type Change = BodyOf<typeof changeRecurring>;
type Joined = RecurringRecord &
  Omit<NameParts, 'kind'> & { who: NameParts['kind']; last_gift: string | null; last_due: string | null };

const SELECT = `SELECT r.*, ${nameColumns('s', 'who')},
  (SELECT MAX(g.date) FROM gift g WHERE g.recurring_id = r.id) AS last_gift,
  (SELECT MAX(c.due) FROM charge c WHERE c.recurring_id = r.id) AS last_due
  FROM recurring r JOIN ${PEOPLE} s ON s.id = r.supporter_id`;

/** Recurring gifts: what is expected, and whether it comes. */
export class Recurring {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {
    this.sql = sqlOn(source);
  }

  private async views(rows: readonly Joined[]) {
    const { today } = await this.settings.calendar();
    const ids = [0, ...rows.map((row) => row.id)];
    const [plans, failing, { funds }] = await Promise.all([
      plansOf(this.sql, rows),
      this.sql.rows<ChargeRecord>(`SELECT * FROM charge WHERE recurring_id IN (?) AND state IN ('failed', 'call')`, [
        ids,
      ]),
      this.settings.choices(),
    ]);
    const year = addDays(addMonths(today, 12), -1);
    return rows.flatMap((row) => {
      const plan = plans.get(row.id);
      if (!plan) return [];
      const own = failing.filter((charge) => charge.recurring_id === row.id);
      const shares: Share[] = JSON.parse(row.parts);
      const ahead = expected(plan, today, year);
      const next = expected(plan, after(row), addMonths(today, 24))[0] ?? null;
      const nameOf = (fundId: number): string => funds.find((fund) => fund.id === fundId)?.name ?? '';
      return [
        {
          plan,
          ahead,
          shares: shares.map((share) => ({ ...share, fund: nameOf(share.fundId) })),
          row: {
            id: row.id,
            number: recurringNumber(row.id),
            version: row.version,
            supporterId: row.supporter_id,
            supporterName: displayName({ ...row, kind: row.who }),
            cents: amountOn(plan, today),
            schedule: describeSchedule(plan.schedule),
            start: row.start_on,
            until: row.until_on,
            method: row.method,
            card: row.card,
            cardLabel: row.card_label,
            fund: shares.map((share) => nameOf(share.fundId)).join(' + '),
            state: stateOf(plan, own, today),
            next,
            reason: own.at(-1)?.reason ?? '',
            yearCents: sum(ahead),
          },
        },
      ];
    });
  }

  /** Recurring gifts, those that need a person first; with what the next twelve months should bring. */
  async list(query: { supporterId?: number | undefined; show: 'all' | 'active' | 'failing' | 'due' | 'ended' }) {
    const { today } = await this.settings.calendar();
    const rows = await this.sql.rows<Joined>(
      `${SELECT} WHERE s.state = 'active' ${query.supporterId === undefined ? '' : 'AND r.supporter_id = ?'} ORDER BY r.id`,
      query.supporterId === undefined ? [] : [query.supporterId],
    );
    const shown = (await this.views(rows)).filter(({ row: { state, next } }) => {
      const failing = state === 'failing' || state === 'to call';
      switch (query.show) {
        case 'all':
          return true;
        case 'active':
          return state === 'active' || failing;
        case 'failing':
          return failing;
        case 'due':
          return state !== 'ended' && next !== null && next.due <= addDays(today, 7);
        case 'ended':
          return state === 'ended';
      }
    });
    const rank = { 'to call': 0, failing: 1, active: 2, paused: 3, ended: 4 };
    shown.sort(
      (a, b) =>
        rank[a.row.state] - rank[b.row.state] ||
        ((a.row.next?.due ?? '9') < (b.row.next?.due ?? '9') ? -1 : 1) ||
        a.row.id - b.row.id,
    );
    const months = new Map<string, { month: string; cents: number; gifts: number }>();
    for (let ahead = 0; ahead < 12; ahead++) {
      const month = addMonths(`${today.slice(0, 7)}-01`, ahead).slice(0, 7);
      months.set(month, { month, cents: 0, gifts: 0 });
    }
    for (const { due, cents } of shown.flatMap((one) => one.ahead)) {
      const month = months.get(due.slice(0, 7)) ?? { month: due.slice(0, 7), cents: 0, gifts: 0 };
      months.set(month.month, { ...month, cents: month.cents + cents, gifts: month.gifts + 1 });
    }
    return {
      items: shown.map((one) => one.row),
      months: [...months.values()],
      sum: { count: shown.length, yearCents: shown.reduce((total, one) => total + one.row.yearCents, 0) },
    };
  }

  async get(id: number) {
    const row = await one<Joined>(this.sql, `${SELECT} WHERE r.id = ?`, [id]);
    const [whole] = row ? await this.views([row]) : [];
    if (!row || !whole) throw notFound(`Recurring gift ${recurringNumber(id)}`);
    const list = <T>(sql: string): Promise<T[]> => this.sql.rows<T>(sql, [id]);
    return {
      ...whole.row,
      note: row.note,
      parts: whole.shares,
      amounts: await list<{ id: number; from: string; cents: number }>(
        'SELECT id, from_on AS `from`, cents FROM recurring_amount WHERE recurring_id = ? ORDER BY from_on',
      ),
      pauses: await list<{ id: number; from: string; until: string | null }>(
        'SELECT id, from_on AS `from`, until_on AS until FROM recurring_pause WHERE recurring_id = ? ORDER BY from_on',
      ),
      expected: whole.ahead,
      charges: (await list<ChargeRecord>('SELECT * FROM charge WHERE recurring_id = ? ORDER BY due DESC, id DESC')).map(
        (charge) => ({
          id: charge.id,
          due: charge.due,
          cents: charge.cents,
          state: charge.state,
          attempts: charge.attempts,
          nextOn: charge.next_on,
          reason: charge.reason,
          giftId: charge.gift_id,
        }),
      ),
    };
  }

  async make(actor: Actor, draft: Draft, key: { key: string; body: unknown } | null) {
    const [formats, { today }] = await Promise.all([this.settings.formats(), this.settings.calendar()]);
    if (draft.method === 'card' && draft.card === '')
      throw fault('card', 'Take the card at the till first; its token goes here.');
    if (draft.method === 'card' && draft.schedule.start < today)
      throw fault('schedule.start', 'The first charge can be today at the earliest.');
    if (draft.until !== null && draft.until < draft.schedule.start)
      throw fault('until', 'It would end before it begins.');
    const twice = placedTwice(draft.parts);
    if (twice !== null) throw fault('parts', twice);
    const summary = `Recorded a recurring gift of ${formatMoney(draft.cents, formats)} ${describeSchedule(draft.schedule)} by ${supporterNumber(draft.supporterId)}`;
    return this.changes.write(actor, { kind: 'gift', summary, key }, async (tx) => {
      await requireActive(tx, draft.supporterId);
      for (const part of draft.parts)
        await refuseClosed(tx, { fund: part.fundId, campaign: part.campaignId, appeal: part.appealId });
      const id = await storeRecurring(tx, draft, formats.currency);
      return { id, number: recurringNumber(id) };
    });
  }

  /** Changes what is to come; what was charged stays as it was. */
  change(actor: Actor, id: number, asked: Change) {
    const name = recurringNumber(id);
    const summary = `${name}: ${WORDS[asked.change]}`;
    return this.changes.write(actor, { kind: 'gift', summary }, async (tx) => {
      const row = (await tx.expect(RecurringTable, id, asked.version, name)) as unknown as RecurringRecord;
      const { today } = await this.settings.calendar();
      const owner = { supporter_id: row.supporter_id, recurring_id: id };
      switch (asked.change) {
        case 'amount': {
          const had = await one<{ id: number }>(
            tx.sql,
            'SELECT id FROM recurring_amount WHERE recurring_id = ? AND from_on = ?',
            [id, asked.from],
          );
          if (had) await tx.update(RecurringAmountTable, had.id, { cents: asked.cents });
          else await tx.insert(RecurringAmountTable, { ...owner, from_on: asked.from, cents: asked.cents });
          return;
        }
        case 'pause':
          if (asked.until !== null && asked.until < asked.from)
            throw fault('until', 'The pause would end before it begins.');
          await tx.insert(RecurringPauseTable, { ...owner, from_on: asked.from, until_on: asked.until });
          return;
        case 'resume': {
          const open = await tx.sql.rows<{ id: number; from_on: string }>(
            'SELECT id, from_on FROM recurring_pause WHERE recurring_id = ? AND (until_on IS NULL OR until_on >= ?)',
            [id, asked.on],
          );
          if (open.length === 0) throw fault('on', 'It is not paused on that day.');
          for (const pause of open)
            if (pause.from_on >= asked.on) await tx.removeAll(RecurringPauseTable, [pause.id]);
            else await tx.update(RecurringPauseTable, pause.id, { until_on: addDays(asked.on, -1) });
          return;
        }
        case 'end':
          await tx.update(RecurringTable, id, { until_on: asked.on });
          return;
        case 'card': {
          await tx.update(RecurringTable, id, { card: asked.card, card_label: asked.cardLabel });
          const failed = await tx.sql.rows<{ id: number }>(
            `SELECT id FROM charge WHERE recurring_id = ? AND state IN ('failed', 'call')`,
            [id],
          );
          await tx.updateAll(
            ChargeTable,
            failed.map((charge) => charge.id),
            { state: 'due', next_on: today },
          );
        }
      }
    });
  }
}

const WORDS: Record<Change['change'], string> = {
  amount: 'changed the amount',
  pause: 'paused',
  resume: 'goes on',
  end: 'set its end',
  card: 'took another card',
};

/** The day from which the next gift is looked for: after the last charge made, or the last gift that came by hand. */
function after(row: Joined): string {
  const last = row.method === 'card' ? row.last_due : row.last_gift;
  return last === null || last < row.start_on ? row.start_on : addDays(last, 1);
}

function stateOf(plan: RecurringPlan, failing: readonly ChargeRecord[], today: string) {
  if (failing.some((charge) => charge.state === 'call')) return 'to call' as const;
  if (failing.length > 0) return 'failing' as const;
  if (plan.until !== null && plan.until < today) return 'ended' as const;
  return isPaused(plan, today) ? ('paused' as const) : ('active' as const);
}

const sum = (gifts: readonly { cents: number }[]): number => gifts.reduce((total, gift) => total + gift.cents, 0);
const fault = (field: string, message: string): Problem =>
  new Problem(400, 'invalid', message, { fields: { [field]: message } });
