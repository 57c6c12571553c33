import { giftNumber } from '@tallystick/core/gifts';
import { giftSums, pledgeSums, toBook } from '@tallystick/core/ledger';
import type { Sum } from '@tallystick/core/ledger';
import { pledgeNumber } from '@tallystick/core/pledges';
import { BatchTable, bookedOf, GiftTable } from '../gifts/index.ts';
import type { Sql } from '../platform/db.ts';
import { guard } from '../platform/guards.ts';
import type { Breach } from '../platform/guards.ts';
import { PledgePaymentTable, PledgeTable, pledgeTotals, WriteOffTable } from '../pledges/index.ts';
import { closedBooks, closedThrough } from '../settings/index.ts';
import { depositSums } from './as-deposited.ts';
import { sumsThrough } from './bookings.ts';
import { booked, JournalTable } from './journal.ts';

guard({
  holds: 'A deposit that was made is what it was then',
  code: 'deposited',
  about: [
    { table: BatchTable, of: 'id', columns: ['state', 'deposit_id'], fresh: false },
    { table: GiftTable, of: 'batch_id', columns: ['cents', 'method', 'batch_id'] },
  ],
  async breaches({ sql, among, touched }) {
    const batches = await sql.rows<{ id: number; deposit_id: number }>(
      `SELECT id, deposit_id FROM batch WHERE ${among('id')} AND deposit_id IS NOT NULL`,
    );
    if (batches.length === 0) return [];
    const sums = await depositSums(sql, [...new Set(batches.map((batch) => batch.deposit_id))]);
    return sums.flatMap(({ id, kept, now }): Breach[] => {
      // Of one made before this was kept, nothing is known.
      if (kept === '' || kept === now) return [];
      const own = batches.filter((batch) => batch.deposit_id === id);
      const [gift] = own.flatMap((batch) => touched(GiftTable, 'batch_id').get(batch.id) ?? []);
      const which = gift ? giftNumber(Number((gift.before ?? gift.after)?.['id'])) : 'A gift';
      return [
        {
          subject: id,
          says: `${which} is in deposit D-${id}, whose slip says what was taken to the bank. Correct the gift instead, or undo the deposit first.`,
        },
      ];
    });
  },
});

// No change set is held against this: what it writes is compared with what was there, which is far less.
guard({
  holds: 'The closed books come to what they came to when they were closed',
  code: 'books-closed',
  about: [],
  async breaches({ sql }) {
    const kept = await closedBooks(sql);
    if (!kept?.through || kept.sums === null) return [];
    const now = await sumsThrough(sql, kept.through);
    return now === kept.sums
      ? []
      : [
          {
            subject: 1,
            says: `The books closed through ${kept.through} came to ${kept.sums} by fund, and come to ${now} now.`,
          },
        ];
  },
});

guard({
  holds: 'The journal comes to what is pledged, paid and written off',
  code: 'journal',
  about: [
    { table: PledgeTable, of: 'id', columns: ['stage', 'cents', 'fund_id'] },
    { table: PledgePaymentTable, of: 'pledge_id' },
    { table: WriteOffTable, of: 'pledge_id' },
    { table: JournalTable, of: 'pledge_id' },
  ],
  async breaches({ sql, subjects }) {
    const found = await booked(sql, 'pledge_id', subjects);
    const totals = new Map((await pledgeTotals(sql, subjects)).map((pledge) => [pledge.id, pledge]));
    return differing(new Set([...found.keys(), ...totals.keys()]), pledgeNumber, (id) => {
      const pledge = totals.get(id);
      return toBook(pledge ? pledgeSums(pledge) : [], found.get(id) ?? []);
    });
  },
});

guard({
  holds: 'The journal comes to the sales of stock and the fees of processors',
  code: 'journal',
  about: [{ table: JournalTable, of: 'gift_id' }],
  async breaches({ sql, subjects }) {
    const asked = subjects ?? (await suspects(sql));
    const found = await booked(sql, 'gift_id', asked);
    const gifts = new Map((await bookedOf(sql, asked)).map((gift) => [gift.id, gift]));
    return differing(new Set([...found.keys(), ...gifts.keys()]), giftNumber, (id) => {
      const gift = gifts.get(id);
      return toBook(gift ? giftSums(gift) : [], found.get(id) ?? []);
    });
  },
});

/** Of all gifts, those of which the fees in the journal do not come to the fee, or that are stock, to be looked at. */
const suspects = async (sql: Sql): Promise<number[]> =>
  (
    await sql.rows<{ id: number }>(
      `SELECT g.id FROM gift g LEFT JOIN (SELECT gift_id, SUM(cents) AS cents FROM journal WHERE what = 'fee' GROUP BY gift_id) j
         ON j.gift_id = g.id WHERE IF(g.state = 'void', 0, g.fee_cents) <> COALESCE(j.cents, 0) OR g.method = 'stock'
       UNION SELECT gift_id FROM journal j WHERE gift_id IS NOT NULL AND NOT EXISTS (SELECT 1 FROM gift g WHERE g.id = j.gift_id)`,
    )
  ).map((row) => row.id);

const differing = (
  ids: Iterable<number>,
  numberOf: (id: number) => string,
  missing: (id: number) => readonly Sum[],
): Breach[] =>
  [...ids].flatMap((id) =>
    missing(id).length === 0 ? [] : [{ subject: id, says: `The journal does not come to what ${numberOf(id)} is.` }],
  );

guard({
  holds: 'The journal is only added to, and not on a closed day',
  code: 'books-closed',
  about: [{ table: JournalTable, of: 'id' }],
  async breaches({ sql, subjects, touched }) {
    if (subjects === null) return [];
    const closed = await closedThrough(sql);
    return [...touched(JournalTable)].flatMap(([id, [touch]]): Breach[] =>
      touch?.before === null && (closed === null || String(touch.after?.['booked_on']) > closed)
        ? []
        : [{ subject: id, says: 'A booking stands, and a closed day gets no other.' }],
    );
  },
});
