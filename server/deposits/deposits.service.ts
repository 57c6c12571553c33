import type { DataSource } from 'typeorm';
import { addDays, formatDate } from '@tallystick/core/dates';
import { giftNumber, isBanked, PAYMENT_METHODS } from '@tallystick/core/gifts';
import type { PaymentMethod } from '@tallystick/core/gifts';
import { formatMoney } from '@tallystick/core/money';
import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { controlDifference } from '@tallystick/core/sheets';
import { counted } from '@tallystick/core/words';
import { tablePdf } from '../letters/index.ts';
import { AS_DEPOSITED, CENTS, depositSums, METHOD } from './as-deposited.ts';
import type { BatchSource } from '../gifts/index.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { sqlOn } from '../platform/db.ts';
import { pageOf } from '../platform/page.ts';
import type { Asked } from '../platform/page.ts';
import type { Sql } from '../platform/db.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { day, table, text, setUp } from '../platform/tables.ts';
import type { Settings } from '../settings/index.ts';
import { BatchTable } from '../gifts/index.ts';
import type { RowOf } from '../platform/tables.ts';
import { PEOPLE, nameColumns } from '../supporters/index.ts';

export const DepositTable = table('deposit', setUp('deposits', 'Deposit'), {
  date: day,
  name: text(120),
  actor: text(120),
  /** What its gifts came to when it was made, method by method; see `depositSums`. */
  sums: text(500),
});
type DepositRecord = RowOf<typeof DepositTable>;

interface BatchRow {
  id: number;
  version: number;
  name: string;
  source: BatchSource;
  opened_on: string;
  state: 'open' | 'balanced' | 'posted';
  expected_count: number | null;
  expected_cents: number | null;
  reason: string;
  deposit_id: number | null;
  balanced_count: number | null;
  balanced_cents: number | null;
  balanced_sums: string;
}
interface MethodSum {
  method: PaymentMethod;
  count: number;
  cents: number;
  /** What processors kept of it. */
  feeCents: number;
}

export const batchNumber = (id: number): string => `B-${id}`;
export const depositNumber = (id: number): string => `D-${id}`;
/** A slip is written on Friday for Monday, not for next year. */
const DAYS_AHEAD = 7;

/** Batches that gifts land in, and the deposits that gather them. */
export class Deposits {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {
    this.sql = sqlOn(source);
  }

  private async sumsOf(ids: readonly number[], sql: Sql = this.sql): Promise<Map<number, MethodSum[]>> {
    const sums = new Map<number, MethodSum[]>();
    if (ids.length === 0) return sums;
    // gift_batch (batch_id), correction_gift (gift_id, id); what was taken back before it was deposited is not in it
    const rows = await sql.rows<MethodSum & { batch_id: number }>(
      `SELECT g.batch_id, ${METHOD} AS method, COUNT(*) AS count, SUM(${CENTS}) AS cents, SUM(g.fee_cents) AS feeCents
       ${AS_DEPOSITED} WHERE g.batch_id IN (?) AND ${CENTS} > 0 GROUP BY 1, 2 ORDER BY 1, 2`,
      [ids],
    );
    for (const { batch_id, ...sum } of rows)
      sums.set(batch_id, [
        ...(sums.get(batch_id) ?? []),
        { ...sum, cents: Number(sum.cents), feeCents: Number(sum.feeCents) },
      ]);
    return sums;
  }

  /** Batches with gifts in a state, open ones first, then the newest. One of which nothing is left is not shown. */
  async batches(state: 'waiting' | 'open' | 'balanced' | 'posted', asked: Asked) {
    const page = await pageOf<BatchRow>(
      this.sql,
      {
        // batch_state (state, id), gift_batch (batch_id)
        select: `SELECT o.*, FIELD(o.state, 'open', 'balanced', 'posted') AS place FROM batch o
          WHERE o.state IN (?) AND EXISTS (SELECT 1 ${AS_DEPOSITED} WHERE g.batch_id = o.id AND ${CENTS} > 0)`,
        params: [state === 'waiting' ? ['open', 'balanced'] : [state]],
        order: [
          { sql: `FIELD(o.state, 'open', 'balanced', 'posted')`, as: 'place' },
          { sql: 'o.id', as: 'id', down: true },
        ],
      },
      asked,
    );
    const sums = await this.sumsOf(page.items.map((row) => row.id));
    const items = page.items.map((row) => {
      const byMethod = sums.get(row.id) ?? [];
      return {
        id: row.id,
        number: batchNumber(row.id),
        version: row.version,
        name: row.name,
        source: row.source,
        openedOn: row.opened_on,
        state: row.state,
        expectedCount: row.expected_count,
        expectedCents: row.expected_cents,
        reason: row.reason,
        depositId: row.deposit_id,
        changed: changedSince(row, byMethod),
        ...totalOf(byMethod),
        byMethod,
      };
    });
    return { ...page, items };
  }

  /** Marks a batch balanced against its control totals (a difference needs a reason), or opens it again. */
  balance(
    actor: Actor,
    id: number,
    asked: {
      version: number;
      open: boolean;
      expectedCount: number | null;
      expectedCents: number | null;
      reason: string;
    },
  ) {
    const summary = `${asked.open ? 'Opened' : 'Balanced'} ${batchNumber(id)}`;
    return this.changes.write(actor, { kind: 'edit', summary }, async (tx) => {
      const batch = await tx.expect(BatchTable, id, asked.version, `Batch ${batchNumber(id)}`);
      if (batch['state'] === 'posted')
        throw new Problem(409, 'posted', `${batchNumber(id)} was deposited; undo the deposit first.`);
      if (asked.open) {
        await tx.update(BatchTable, id, { state: 'open' });
        return;
      }
      const held = (await this.sumsOf([id], tx.sql)).get(id) ?? [];
      const total = totalOf(held);
      const control = { count: asked.expectedCount, cents: asked.expectedCents };
      const difference = controlDifference(control, total);
      if (!difference.balanced && asked.reason === '')
        throw new Problem(409, 'not-balanced', 'The batch differs from its control totals. Say why, or correct it.', {
          fields: { reason: 'Say why it differs.' },
          details: difference,
        });
      await tx.update(BatchTable, id, {
        state: 'balanced',
        expected_count: control.count,
        expected_cents: control.cents,
        balanced_count: total.count,
        balanced_cents: total.cents,
        balanced_sums: sumsText(held),
        reason: asked.reason,
      });
    });
  }

  /** A page of deposits, newest first. */
  async list(asked: Asked) {
    const newest = {
      select: 'SELECT * FROM deposit WHERE TRUE',
      order: [{ sql: 'id', as: 'id', down: true }],
    } as const;
    const page = await pageOf<DepositRecord>(this.sql, newest, asked);
    return { ...page, items: await this.views(page.items) };
  }

  private async views(deposits: readonly DepositRecord[]) {
    const batches = await this.sql.rows<{ id: number; name: string; deposit_id: number }>(
      'SELECT id, name, deposit_id FROM batch WHERE deposit_id IN (?) ORDER BY id',
      [[0, ...deposits.map((deposit) => deposit.id)]],
    );
    const sums = await this.sumsOf(batches.map((batch) => batch.id));
    return deposits.map((deposit) => {
      const own = batches.filter((batch) => batch.deposit_id === deposit.id);
      const byMethod = joined(own.flatMap((batch) => sums.get(batch.id) ?? []));
      return {
        id: deposit.id,
        number: depositNumber(deposit.id),
        version: deposit.version,
        name: deposit.name,
        date: deposit.date,
        by: deposit.actor,
        batches: own.map(({ id, name }) => ({ id, name, number: batchNumber(id) })),
        ...totalOf(byMethod),
        ...toBank(byMethod),
        byMethod,
      };
    });
  }

  /** Gathers balanced batches; each can be in one deposit only. */
  async make(actor: Actor, asked: { name: string; date: string; batchIds: readonly number[] }) {
    const { today } = await this.settings.calendar();
    if (asked.date > addDays(today, DAYS_AHEAD))
      throw new Problem(400, 'invalid', 'The date is too far ahead.', {
        fields: { date: `A deposit is dated ${DAYS_AHEAD} days ahead at most.` },
      });
    const summary = `Deposited ${counted(asked.batchIds.length, 'batch', 'batches')}: ${asked.name}`;
    return this.changes.write(actor, { kind: 'edit', summary }, async (tx) => {
      const batches = await tx.lock(BatchTable, asked.batchIds);
      const sums = await this.sumsOf(asked.batchIds, tx.sql);
      for (const id of asked.batchIds) {
        const batch = batches.get(id);
        if (!batch) throw notFound(`Batch ${batchNumber(id)}`);
        if (batch['state'] !== 'balanced')
          throw new Problem(
            409,
            'not-balanced',
            `${batchNumber(id)} is ${batch['state'] === 'posted' ? 'in a deposit already' : 'not balanced yet'}.`,
          );
        if (changedSince(batch as unknown as BatchRow, sums.get(id) ?? []))
          throw new Problem(
            409,
            'changed-since',
            `${batchNumber(id)} is not what it was when it was balanced: a gift in it was changed, corrected or undone. Balance it again.`,
          );
      }
      const id = await tx.insert(DepositTable, { name: asked.name, date: asked.date, actor: actor.name, sums: '' });
      await tx.updateAll(BatchTable, asked.batchIds, { state: 'posted', deposit_id: id });
      const [made] = await depositSums(tx.sql, [id]);
      await tx.update(DepositTable, id, { sums: made?.now ?? '' });
      return { id };
    });
  }

  /** The slip: its gifts one by one, the sum of each payment method, and what of it goes to the bank. */
  async slip(id: number): Promise<{ name: string; pdf: Buffer }> {
    const [deposit] = await this.views(await this.sql.rows<DepositRecord>('SELECT * FROM deposit WHERE id = ?', [id]));
    if (!deposit) throw notFound(`Deposit ${depositNumber(id)}`);
    const { name: organization, ...formats } = await this.settings.organization();
    const gifts = await this.sql.rows<NameParts & { id: number; method: PaymentMethod; cheque: string; cents: number }>(
      `SELECT g.id, ${METHOD} AS method, g.cheque, ${CENTS} AS cents,
       ${nameColumns('s')}
       ${AS_DEPOSITED} JOIN ${PEOPLE} s ON s.id = g.supporter_id
       WHERE g.batch_id IN (?) AND ${CENTS} > 0 ORDER BY 2, g.id`,
      [[0, ...deposit.batches.map((batch) => batch.id)]],
    );
    const money = (cents: number): string => formatMoney(cents, formats);
    const pdf = await tablePdf({
      title: `Deposit ${deposit.number}: ${deposit.name}`,
      facts: [
        organization,
        `${formatDate(deposit.date, formats)}, made by ${deposit.by}`,
        `Batches: ${deposit.batches.map((batch) => `${batch.number} ${batch.name}`).join(', ')}`,
      ],
      columns: [
        { heading: 'Payment method', share: 22 },
        { heading: 'Check', share: 16 },
        { heading: 'From', share: 40 },
        { heading: 'Gift', share: 14 },
        { heading: 'Amount', share: 20, right: true },
      ],
      rows: gifts.map((gift) => [
        PAYMENT_METHODS[gift.method],
        gift.cheque,
        displayName(gift),
        giftNumber(gift.id),
        money(gift.cents),
      ]),
      sums: [
        ...deposit.byMethod.map((sum) => [PAYMENT_METHODS[sum.method], '', many(sum.count), '', money(sum.cents)]),
        ...(deposit.bankCents === deposit.cents ? [] : [['In all', '', many(deposit.count), '', money(deposit.cents)]]),
        ...(deposit.feeCents === 0 ? [] : [['Kept by processors', '', '', '', money(-deposit.feeCents)]]),
        ['To the bank', '', '', '', money(deposit.bankCents)],
      ],
    });
    return { name: `deposit-${deposit.number}`, pdf };
  }
}

const many = (gifts: number): string => counted(gifts, 'gift');

/** Whether a balanced batch holds something else than when it was balanced. */
function changedSince(batch: BatchRow, held: readonly MethodSum[]): boolean {
  if (batch.state !== 'balanced' || batch.balanced_cents === null) return false;
  const holds = totalOf(held);
  return (
    batch.balanced_count !== holds.count ||
    Number(batch.balanced_cents) !== holds.cents ||
    // A check that became cash leaves the sum as it was.
    (batch.balanced_sums !== '' && batch.balanced_sums !== sumsText(held))
  );
}

const sumsText = (held: readonly MethodSum[]): string =>
  held
    .map(({ method, count, cents }) => `${method} ${count} ${cents}`)
    .sort()
    .join(', ');

/** What of a deposit goes to the bank: money, less what processors kept of it. */
function toBank(byMethod: readonly MethodSum[]): { feeCents: number; bankCents: number } {
  const feeCents = byMethod.reduce((total, sum) => total + sum.feeCents, 0);
  return { feeCents, bankCents: totalOf(byMethod.filter((sum) => isBanked(sum.method))).cents - feeCents };
}

const totalOf = (sums: readonly MethodSum[]): { count: number; cents: number } => ({
  count: sums.reduce((total, sum) => total + sum.count, 0),
  cents: sums.reduce((total, sum) => total + sum.cents, 0),
});

function joined(sums: readonly MethodSum[]): MethodSum[] {
  const methods = [...new Set(sums.map((sum) => sum.method))];
  return methods.map((method) => {
    const own = sums.filter((sum) => sum.method === method);
    return { method, ...totalOf(own), feeCents: own.reduce((total, sum) => total + sum.feeCents, 0) };
  });
}
