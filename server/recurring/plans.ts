import type { RecurringPlan } from '@tallystick/core/recurring';
import type { Sql } from '../platform/db.ts';
import { ChargeTable, RecurringAmountTable, RecurringTable } from './recurring.entity.ts';
import type { RecurringRecord } from './recurring.entity.ts';
import type { IsoDate } from '@tallystick/core/dates';
import type { Frequency } from '@tallystick/core/schedule';
import type { Transaction } from '../platform/transaction.ts';
import type { z } from 'zod';
import type { RecurringDraft as Draft } from '@tallystick/contract/pledges';

type RecurringDraft = z.infer<typeof Draft>;

/** The plans of recurring gifts by their id: amounts from a day on and pauses from their own tables. */
export async function plansOf(sql: Sql, rows: readonly RecurringRecord[]): Promise<Map<number, RecurringPlan>> {
  const ids = [0, ...rows.map((row) => row.id)];
  const [amounts, pauses] = await Promise.all([
    // recurring_amount_from (recurring_id, from_on), recurring_pause_of (recurring_id)
    sql.rows<{ recurring_id: number; from: string; cents: number }>(
      'SELECT recurring_id, from_on AS `from`, cents FROM recurring_amount WHERE recurring_id IN (?) ORDER BY from_on',
      [ids],
    ),
    sql.rows<{ recurring_id: number; from: string; until: string | null }>(
      'SELECT recurring_id, from_on AS `from`, until_on AS until FROM recurring_pause WHERE recurring_id IN (?) ORDER BY from_on',
      [ids],
    ),
  ]);
  return new Map(
    rows.map((row) => [
      row.id,
      {
        schedule: { start: row.start_on, every: row.every, lastDay: row.last_day === 1 },
        until: row.until_on,
        amounts: amounts.filter((one) => one.recurring_id === row.id),
        pauses: pauses.filter((one) => one.recurring_id === row.id),
      },
    ]),
  );
}

/** Stores a recurring gift with its first amount; answers its id. */
export async function storeRecurring(tx: Transaction, draft: RecurringDraft, currency: string): Promise<number> {
  const owner = { supporter_id: draft.supporterId };
  const id = await tx.insert(RecurringTable, {
    ...owner,
    start_on: draft.schedule.start,
    every: draft.schedule.every,
    last_day: draft.schedule.lastDay ? 1 : 0,
    until_on: draft.until,
    currency,
    method: draft.method,
    parts: JSON.stringify(draft.parts),
    card: draft.card,
    card_label: draft.cardLabel,
    note: draft.note,
  });
  const amount = { recurring_id: id, from_on: draft.schedule.start, cents: draft.cents };
  await tx.insert(RecurringAmountTable, { ...owner, ...amount });
  return id;
}

/**
 * Ends a recurring gift on a day, unless it ended before, and gives up the charges that were still to be tried; answers
 * how many those were. One that the till is being asked for is not among them.
 */
export async function endRecurring(tx: Transaction, id: number, on: IsoDate): Promise<{ givenUp: number }> {
  const row = (await tx.lock(RecurringTable, [id])).get(id);
  if (row && (row.until_on === null || row.until_on > on)) await tx.update(RecurringTable, id, { until_on: on });
  const open = await tx.sql.rows<{ id: number }>(
    // charge_due (recurring_id, due)
    `SELECT id FROM charge WHERE recurring_id = ? AND state IN ('due', 'failed', 'call') FOR UPDATE`,
    [id],
  );
  await tx.updateAll(
    ChargeTable,
    open.map((charge) => charge.id),
    { state: 'skipped', next_on: null },
  );
  return { givenUp: open.length };
}

/** The recurring gifts of supporters that go on on a day. */
export async function recurringOf(sql: Sql, supporterIds: readonly number[], today: IsoDate) {
  if (supporterIds.length === 0) return [];
  return sql.rows<{ id: number; supporter_id: number; every: Frequency; currency: string; cents: number }>(
    // recurring_amount_from (recurring_id, from_on)
    `SELECT r.id, r.supporter_id, r.every, r.currency, COALESCE((SELECT a.cents FROM recurring_amount a
       WHERE a.recurring_id = r.id ORDER BY a.from_on <= ? DESC, a.from_on DESC LIMIT 1), 0) AS cents
     FROM recurring r WHERE r.supporter_id IN (?) AND (r.until_on IS NULL OR r.until_on >= ?) ORDER BY r.id`,
    [today, supporterIds, today],
  );
}
