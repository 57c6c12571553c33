import { giftNumber } from '@tallystick/core/gifts';
import { BatchTable, GiftTable } from '../gifts/index.ts';
import { guard } from '../platform/guards.ts';
import type { Breach } from '../platform/guards.ts';
import { closedBooks } from '../settings/index.ts';
import { depositSums } from './as-deposited.ts';
import { sumsThrough } from './bookings.ts';

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
