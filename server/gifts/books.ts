import { addDays } from '@tallystick/core/dates';
import type { IsoDate } from '@tallystick/core/dates';
import { one } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Transaction } from '../platform/transaction.ts';
import { BatchTable } from './gift.entity.ts';
import { lockRevision } from '../platform/changes.ts';

/** The day that something stands in the books: its own, or the first open one after that, today at the latest. */
export function bookingDay(date: IsoDate, today: IsoDate, closed: IsoDate | null): IsoDate {
  if (closed === null || date > closed) return date;
  return today > closed ? today : addDays(closed, 1);
}

/** `bookingDay` for many gifts of one posting. */
export const bookingDays =
  (today: IsoDate, closed: IsoDate | null) =>
  (date: IsoDate): IsoDate =>
    bookingDay(date, today, closed);

export type BatchSource = 'hand' | 'sheet' | 'intake' | 'portal' | 'till';

/** The batches begun last, as many as anybody looks through. */
export const newestBatches = (sql: Sql): Promise<{ id: number; name: string }[]> =>
  sql.rows('SELECT id, name FROM batch ORDER BY id DESC LIMIT 500');

/** The open batch that gifts of a source land in on a day, begun where there is none. */
export async function openBatch(tx: Transaction, source: BatchSource, today: IsoDate, name: string): Promise<number> {
  // batch_open (source, opened_on, state); the organization's row is locked so that two do not begin the same.
  const open = () =>
    one<{ id: number }>(
      tx.sql,
      `SELECT id FROM batch WHERE source = ? AND opened_on = ? AND state = 'open' AND name = ? ORDER BY id LIMIT 1`,
      [source, today, name],
    );
  const found = await open();
  if (found) return found.id;
  await lockRevision(tx.sql);
  const again = await open();
  return again ? again.id : newBatch(tx, source, today, name);
}

/** A batch of its own: of a sheet, which was balanced before it was posted, an intake or a charging of recurring gifts. */
export const newBatch = (
  tx: Transaction,
  source: BatchSource,
  today: IsoDate,
  name: string,
  balanced: {
    expected: { count: number | null; cents: number | null };
    holds: { count: number; cents: number };
    reason: string;
  } | null = null,
): Promise<number> =>
  tx.insert(BatchTable, {
    name,
    source,
    opened_on: today,
    state: balanced ? 'balanced' : 'open',
    expected_count: balanced?.expected.count ?? null,
    expected_cents: balanced?.expected.cents ?? null,
    balanced_count: balanced?.holds.count ?? null,
    balanced_cents: balanced?.holds.cents ?? null,
    balanced_sums: '',
    reason: balanced?.reason ?? '',
    deposit_id: null,
  });
