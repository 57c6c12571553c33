import { stateAt } from '@tallystick/core/gifts';
import type { GiftState } from '@tallystick/core/gifts';
import type { IsoDate } from '@tallystick/core/dates';
import type { Sql } from '../platform/db.ts';
import { asTheyWere, revisionOn, rowsAt } from '../platform/known.ts';
import type { Days } from '../platform/known.ts';
import { CorrectionTable, GiftSplitTable, GiftTable } from './gift.entity.ts';
import type { GiftRecord } from './gift.entity.ts';
import { byGift, correctionIn, stateIn } from './state.ts';
import type { CorrectionRow, SplitRow } from './state.ts';

/**
 * Gifts as they were known at the end of a day: those recorded by then, as they were recorded then, by their booking
 * days. What is typed, changed or corrected later makes no difference to it, whatever day it is dated.
 *
 * @param donors only gifts that are of these now, or that may have been of them then; all where null
 */
export async function giftsAsKnown(
  sql: Sql,
  day: IsoDate,
  days: Days,
  donors: readonly number[] | null,
): Promise<{ id: number; state: GiftState }[]> {
  const revision = await revisionOn(sql, day, days);
  const [gifts, splits, corrections] = await Promise.all(
    [GiftTable, GiftSplitTable, CorrectionTable].map((table) => rowsAt(sql, table, revision)),
  );
  if (!gifts || !splits || !corrections) return [];
  // A correction that was loaded with its gift is taken back by its booking day; those recorded since are not there yet.
  const booked = (
    await sql.rows<CorrectionRow>(
      // correction_booked (booked_on)
      'SELECT * FROM correction WHERE gift_id IN (SELECT gift_id FROM correction WHERE booked_on > ?) ORDER BY id',
      [day],
    )
  ).filter((row) => !corrections.has(row.id));
  const later = byGift(booked);
  const now = await sql.rows<GiftRecord>(
    // gift_booked (booked_on), or gift_facts (supporter_id)
    `SELECT * FROM gift WHERE booked_on <= ? AND (cents > 0 OR id IN (?)) ${donors ? 'AND (supporter_id IN (?) OR id IN (?))' : ''}`,
    [day, listed(later.keys()), ...(donors ? [listed(donors), listed(later.keys())] : [])],
  );
  const then = asTheyWere(now, gifts).filter((gift) => gift.booked_on <= day);
  const ofSplit = then.filter((gift) => gift.split === 1).map((gift) => gift.id);
  const parts = byGift(
    asTheyWere(await sql.rows<SplitRow>('SELECT * FROM gift_split WHERE gift_id IN (?)', [listed(ofSplit)]), splits),
  );
  return then.flatMap((gift) => {
    const own = [...(parts.get(gift.id) ?? [])].sort((a, b) => a.place - b.place);
    const made = (later.get(gift.id) ?? []).map((row) => ({ ...correctionIn(row), kind: row.kind }));
    const state = stateAt(stateIn(gift, own), gift.booked_on, made, day);
    return state === null ? [] : [{ id: gift.id, state }];
  });
}

/** Ids for `IN (?)`, which takes no empty list. */
const listed = (ids: Iterable<number>): number[] => [0, ...ids];
