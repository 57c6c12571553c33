import type { RowChange } from '@tallystick/core/changes';
import { formatDate } from '@tallystick/core/dates';
import { giftNumber } from '@tallystick/core/gifts';
import type { Sql } from '../platform/db.ts';
import { Problem } from '../platform/problem.ts';
import { formatsIn, lockClosedThrough } from '../settings/index.ts';

/** The columns of a gift that a deposit and the books were made of. */
const BOOKED = ['cents', 'booked_on', 'method', 'fund_id', 'split', 'batch_id'];
const MANY = 5000;

interface Booked {
  id: number;
  booked_on: string;
  batch_id: number | null;
}

/**
 * Refuses (409) to take back, or do again, what would change a deposit that was made or books that are closed. A
 * correction can be taken back: it has a day of its own in the books, and the slip has what was there before it.
 */
export async function refuseUndo(sql: Sql, rows: readonly RowChange[]): Promise<void> {
  const whole = (row: RowChange) => row.before ?? row.after ?? {};
  const corrections = rows.filter((row) => row.table === 'correction');
  const corrected = new Set(corrections.map((row) => Number(whole(row)['gift_id'])));
  const gifts = rows.filter(
    (row) => row.table === 'gift' && !corrected.has(row.id) && BOOKED.some((column) => column in whole(row)),
  );
  const splits = rows.filter((row) => row.table === 'gift_split' && !corrected.has(Number(whole(row)['gift_id'])));
  if (gifts.length + splits.length + corrections.length === 0) return;
  const closed = await lockClosedThrough(sql);
  const shut = (day: unknown): boolean => closed !== null && typeof day === 'string' && day <= closed;
  const formats = await formatsIn(sql);
  const refuseShut = (what: string): never => {
    throw new Problem(
      409,
      'books-closed',
      `${what} is in the books closed through ${formatDate(closed ?? '', formats)}, so this cannot be undone. Correct the gift instead: that is booked today.`,
    );
  };
  for (const row of corrections)
    if (shut(whole(row)['booked_on'])) refuseShut(`The correction of ${giftNumber(Number(whole(row)['gift_id']))}`);
  // What is there now, and what would be there again.
  const ids = [...new Set([...gifts.map((row) => row.id), ...splits.map((row) => Number(whole(row)['gift_id']))])];
  const booked: Booked[] = gifts.flatMap(({ id, after }) =>
    after && 'booked_on' in after
      ? [{ id, booked_on: String(after['booked_on']), batch_id: (after['batch_id'] as number | null) ?? null }]
      : [],
  );
  for (let at = 0; at < ids.length; at += MANY)
    booked.push(
      ...(await sql.rows<Booked>('SELECT id, booked_on, batch_id FROM gift WHERE id IN (?)', [
        ids.slice(at, at + MANY),
      ])),
    );
  const late = booked.find((gift) => shut(gift.booked_on));
  if (late) refuseShut(giftNumber(late.id));
  const batches = [0, ...new Set(booked.flatMap((gift) => gift.batch_id ?? []))];
  const [posted] = await sql.rows<{ id: number; deposit_id: number }>(
    `SELECT id, deposit_id FROM batch WHERE id IN (?) AND state = 'posted' LIMIT 1`,
    [batches],
  );
  const gift = booked.find((one) => one.batch_id === posted?.id);
  if (posted && gift)
    throw new Problem(
      409,
      'deposited',
      `${giftNumber(gift.id)} is in deposit D-${posted.deposit_id}, so this cannot be undone. Correct the gift instead, or undo the deposit first.`,
    );
}
