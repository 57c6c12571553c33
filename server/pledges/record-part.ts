import { pledgeAt, pledgeNumber } from '@tallystick/core/pledges';
import type { Sql } from '../platform/db.ts';
import type { PartOfRecord, RecordOf } from '../supporters/index.ts';
import { booksOf } from './books.ts';

/** A supporter's pledges as notches that fill, and those of them that are late. */
export async function pledgesOfRecord(sql: Sql, { id, today }: RecordOf): Promise<PartOfRecord> {
  const pledges = await sql.rows<{ id: number; pledged_on: string }>(
    `SELECT id, pledged_on FROM pledge WHERE supporter_id = ? AND stage IN ('promised', 'claimed') ORDER BY pledged_on`, // pledge_supporter
    [id],
  );
  const books = await booksOf(sql, pledges);
  const standing = pledges.flatMap((pledge) => {
    const found = books.get(pledge.id);
    return found ? [{ id: pledge.id, date: pledge.pledged_on, at: pledgeAt(found, today) }] : [];
  });
  return {
    timeline: standing.map(({ id: pledge, date, at }) => ({
      ...{ id: pledge, date, kind: 'pledge' as const, cents: at.pledged, acknowledgedOn: null },
      ...{ paid: at.paid, writtenOff: at.writtenOff },
    })),
    overdue: standing.flatMap(({ id: pledge, at }) =>
      at.overdue > 0
        ? [{ pledgeId: pledge, number: pledgeNumber(pledge), cents: at.overdue, since: at.next?.due ?? today }]
        : [],
    ),
  };
}
