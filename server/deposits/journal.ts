import type { Row } from '@tallystick/core/changes';
import type { GiftDetails, PaymentMethod } from '@tallystick/core/gifts';
import { giftSums, pledgeSums, toBook } from '@tallystick/core/ledger';
import type { Entry, EntryKind, Sum } from '@tallystick/core/ledger';
import { bookedOf, bookedOnOf, bookingDay, booksMore, GiftSplitTable, GiftTable } from '../gifts/index.ts';
import type { Clock } from '../platform/clock.ts';
import { consequence } from '../platform/consequences.ts';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Touch } from '../platform/guards.ts';
import { cents, day, maybe, ref, setUp, table, text } from '../platform/tables.ts';
import type { Transaction } from '../platform/transaction.ts';
import { paymentsBy, PledgePaymentTable, PledgeTable, pledgeTotals, WriteOffTable } from '../pledges/index.ts';
import { closedThrough, todayIn } from '../settings/index.ts';

/*
 * The journal: what is booked besides gifts. It follows of itself from pledges, payments, write-offs and gifts, and is
 * only added to: what changes, or is undone, is booked as the difference, on its own day where that is new and else
 * today, and never on a day that is closed.
 */

export const JournalTable = table(
  'journal',
  { ...setUp('deposits', 'Booking'), undo: 'stays' },
  {
    what: text<EntryKind>(12),
    gift_id: maybe(ref),
    pledge_id: maybe(ref),
    fund_id: ref,
    method: maybe(text<PaymentMethod>(12)),
    booked_on: day,
    cents,
  },
);

/** What was booked from one day to another, days, funds and kinds added up. */
export const entriesIn = async (sql: Sql, from: string, to: string): Promise<Entry[]> =>
  (
    await sql.rows<Entry>(
      // journal_booked (booked_on)
      `SELECT booked_on AS date, what, fund_id AS fundId, method, SUM(cents) AS cents FROM journal
       WHERE booked_on BETWEEN ? AND ? GROUP BY 1, 2, 3, 4 HAVING SUM(cents) <> 0`,
      [from, to],
    )
  ).map((row) => ({ ...row, cents: Number(row.cents) }));

type Of = 'gift_id' | 'pledge_id';

/** What stands in the journal of some pledges or gifts, by the id; of all where the ids are null. */
export async function booked(sql: Sql, of: Of, ids: readonly number[] | null): Promise<Map<number, Sum[]>> {
  const found = new Map<number, Sum[]>();
  for (const some of ids ? chunks(ids) : [null])
    for (const { id, ...sum } of await sql.rows<Sum & { id: number }>(
      // journal_pledge, journal_gift
      `SELECT ${of} AS id, what, fund_id AS fundId, method, SUM(cents) AS cents FROM journal
       WHERE ${some ? `${of} IN (?)` : `${of} IS NOT NULL`} GROUP BY 1, 2, 3, 4`,
      some ? [some] : [],
    ))
      found.set(id, [...(found.get(id) ?? []), { ...sum, cents: Number(sum.cents) }]);
  return found;
}

/** What a pledge or gift should come to in the journal, and what of it is new, on a day of its own. */
interface Subject {
  id: number;
  wanted: readonly Sum[];
  fresh: (had: readonly Sum[]) => readonly Entry[];
}

/** Adds what is missing in the journal of some subjects: what is new on its own day, the rest today. */
async function book(tx: Transaction, of: Of, subjects: readonly Subject[], clock: Clock): Promise<void> {
  const found = await booked(
    tx.sql,
    of,
    subjects.map((subject) => subject.id),
  );
  const missing = subjects.flatMap(({ id, wanted, fresh }) => {
    const had = found.get(id) ?? [];
    const sums = toBook(wanted, had);
    return sums.length === 0 ? [] : [{ id, sums, own: fresh(had) }];
  });
  if (missing.length === 0) return;
  const { today, booking } = await daysIn(tx, clock);
  const rows = missing.flatMap(({ id, sums, own }) => {
    const rest = toBook(sums, own).map((sum) => ({ ...sum, date: today }));
    return [...own, ...rest].flatMap((entry) => (entry.cents === 0 ? [] : [rowOf(of, id, entry, booking(entry.date))]));
  });
  await tx.insertAll(JournalTable, rows);
}

/** Today, and the day on which something of a day is booked. */
async function daysIn(tx: Transaction, clock: Clock) {
  const closed = await closedThrough(tx.sql);
  const today = await todayIn(tx.sql, clock);
  return { today, booking: (date: string): string => bookingDay(date, today, closed) };
}

const rowOf = (of: Of, id: number, { what, fundId, method, cents: amount }: Sum, bookedOn: string) => ({
  ...{ what, gift_id: null, pledge_id: null, [of]: id, fund_id: fundId, method, booked_on: bookedOn, cents: amount },
});

/** The rows of a pledge that a change set added. */
const added = (touched: ReadonlyMap<number, readonly Touch[]>, id: number): Row[] =>
  (touched.get(id) ?? []).flatMap(({ before, after }) => (before === null && after !== null ? [after] : []));

consequence({
  follows: 'What is pledged, paid on pledges and written off is booked',
  from: [
    { table: PledgeTable, of: 'id', columns: ['stage', 'cents', 'fund_id'] },
    { table: PledgePaymentTable, of: 'pledge_id' },
    { table: WriteOffTable, of: 'pledge_id' },
  ],
  async write(tx, ids, touched, clock) {
    const totals = new Map((await pledgeTotals(tx.sql, ids)).map((pledge) => [pledge.id, pledge]));
    const paid = new Map(ids.map((id) => [id, added(touched(PledgePaymentTable, 'pledge_id'), id)]));
    const days = await bookedOnOf(
      tx.sql,
      [...paid.values()].flat().map((row) => Number(row['gift_id'])),
    );
    const subjects = ids.map((id): Subject => {
      const pledge = totals.get(id);
      if (!pledge?.promised) return { id, wanted: [], fresh: () => [] };
      const entry = (what: EntryKind, date: string, amount: number): Entry => ({
        ...{ what, date, fundId: pledge.fundId, method: null, cents: amount },
      });
      return {
        id,
        wanted: pledgeSums(pledge),
        fresh: (had) => [
          ...(had.some((sum) => sum.cents !== 0) ? [] : [entry('pledged', pledge.pledgedOn, pledge.pledged)]),
          ...(paid.get(id) ?? []).map((row) =>
            entry('paid', days.get(Number(row['gift_id'])) ?? pledge.pledgedOn, Number(row['cents'])),
          ),
          ...added(touched(WriteOffTable, 'pledge_id'), id).map((row) =>
            entry('written_off', String(row['date']), Number(row['cents'])),
          ),
        ],
      };
    });
    await book(tx, 'pledge_id', subjects, clock);
  },
});

/** Has what is booked of a pledge or gift on an open day follow that to another day. */
async function move(
  tx: Transaction,
  of: Of,
  moved: readonly { id: number; from: string; to: string; what: readonly EntryKind[] }[],
  clock: Clock,
): Promise<void> {
  const other = moved.filter(({ from, to }) => from !== to);
  if (other.length === 0) return;
  const { booking } = await daysIn(tx, clock);
  for (const { id, from, to, what } of other) {
    if (booking(from) !== from) continue;
    const there = await tx.sql.rows<Sum>(
      `SELECT what, fund_id AS fundId, method, SUM(cents) AS cents FROM journal
       WHERE ${of} = ? AND booked_on = ? AND what IN (?) GROUP BY 1, 2, 3 HAVING SUM(cents) <> 0`,
      [id, from, what],
    );
    const rows = there.flatMap((sum) => {
      const amount = Number(sum.cents);
      return [rowOf(of, id, { ...sum, cents: -amount }, from), rowOf(of, id, { ...sum, cents: amount }, booking(to))];
    });
    await tx.insertAll(JournalTable, rows);
  }
}

consequence({
  follows: 'A pledge is booked on the day of its promise',
  from: [{ table: PledgeTable, of: 'id', columns: ['pledged_on'], fresh: false }],
  write: (tx, ids, touched, clock) =>
    move(
      tx,
      'pledge_id',
      ids.flatMap((id) => {
        const [own] = touched(PledgeTable).get(id) ?? [];
        const [from, to] = [own?.before?.['pledged_on'], own?.after?.['pledged_on']];
        return from && to ? [{ id, from: String(from), to: String(to), what: ['pledged'] as const }] : [];
      }),
      clock,
    ),
});

consequence({
  follows: 'A fee is booked on the day of its gift, and a sale on its own',
  from: [{ table: GiftTable, of: 'id', columns: ['booked_on', 'details'], fresh: false }],
  write: (tx, ids, touched, clock) =>
    move(
      tx,
      'gift_id',
      ids.flatMap((id) => {
        const [own] = touched(GiftTable).get(id) ?? [];
        if (!own?.before || !own.after || !booksMore(own.before)) return [];
        const days = [own.before, own.after].map((row) => ({ fee: String(row['booked_on']), sale: soldOn(row) }));
        const [was, is] = days;
        return [
          ...(was && is ? [{ id, from: was.fee, to: is.fee, what: ['fee'] as const }] : []),
          ...(was?.sale && is?.sale ? [{ id, from: was.sale, to: is.sale, what: ['sold', 'gain'] as const }] : []),
        ];
      }),
      clock,
    ),
});

/** The day on which the stock of a gift was sold, by its row. */
function soldOn(row: Row): string | null {
  const details: GiftDetails | null = row['details'] === null ? null : JSON.parse(String(row['details']));
  return details?.kind === 'stock' ? details.soldOn : null;
}

consequence({
  follows: 'A payment on a pledge is booked on the day of its gift',
  from: [{ table: GiftTable, of: 'id', columns: ['booked_on'], fresh: false }],
  async write(tx, ids, touched, clock) {
    const payments = await paymentsBy(tx.sql, ids);
    if (payments.length === 0) return;
    const { booking } = await daysIn(tx, clock);
    const fresh = touched(PledgePaymentTable);
    const rows = payments.flatMap(({ id, giftId, pledgeId, fundId, cents: amount }) => {
      const [gift] = touched(GiftTable).get(giftId) ?? [];
      // One that was added with the change is on the new day already.
      if (!gift?.before || !gift.after || fresh.has(id)) return [];
      const days = [booking(String(gift.before['booked_on'])), booking(String(gift.after['booked_on']))];
      const entry = (sign: 1 | -1): Sum => ({ what: 'paid', fundId, method: null, cents: sign * amount });
      return days[0] === days[1]
        ? []
        : [
            rowOf('pledge_id', pledgeId, entry(-1), days[0] ?? ''),
            rowOf('pledge_id', pledgeId, entry(1), days[1] ?? ''),
          ];
    });
    await tx.insertAll(JournalTable, rows);
  },
});

consequence({
  follows: 'The sale of stock and the fee of a processor are booked',
  from: [
    { table: GiftTable, of: 'id', columns: ['cents', 'method', 'details', 'fee_cents', 'fund_id', 'split', 'state'] },
    { table: GiftSplitTable, of: 'gift_id' },
  ],
  async write(tx, all, touched, clock) {
    const written = touched(GiftTable);
    // A gift of which the parts alone were written may be one as well.
    const ids = all.filter((id) =>
      (written.get(id) ?? [EITHER]).some((own) => booksMore(own.before) || booksMore(own.after)),
    );
    if (ids.length === 0) return;
    const gifts = new Map((await bookedOf(tx.sql, ids)).map((gift) => [gift.id, gift]));
    const subjects = ids.map((id): Subject => {
      const gift = gifts.get(id);
      if (!gift) return { id, wanted: [], fresh: () => [] };
      const wanted = giftSums(gift);
      return {
        id,
        wanted,
        fresh: (had) =>
          wanted.flatMap((sum): Entry[] => {
            if (had.some((known) => known.what === sum.what && known.cents !== 0)) return [];
            return [{ ...sum, date: (sum.what === 'fee' ? null : gift.soldOn) ?? gift.bookedOn }];
          }),
      };
    });
    await book(tx, 'gift_id', subjects, clock);
  },
});
/** Stands for a gift that was not written itself. */
const EITHER: Touch = { before: { method: 'stock' }, after: null };
