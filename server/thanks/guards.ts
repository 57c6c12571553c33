import { giftNumber } from '@tallystick/core/gifts';
import { guard } from '../platform/guards.ts';
import { ReceiptTable } from './receipts.ts';

guard({
  holds: 'A gift has one valid receipt at most',
  code: 'settled',
  about: [{ table: ReceiptTable, of: 'gift_id' }],
  async breaches({ sql, among }) {
    const twice = await sql.rows<{ subject: number; numbers: string }>(
      `SELECT gift_id AS subject, GROUP_CONCAT(number ORDER BY id SEPARATOR ' and ') AS numbers FROM receipt
       WHERE ${among('gift_id')} AND voided_on IS NULL GROUP BY gift_id HAVING COUNT(*) > 1`,
    );
    return twice.map(({ subject, numbers }) => ({
      subject,
      says: `${giftNumber(subject)} would have two valid receipts, ${numbers}. Void one of them first.`,
    }));
  },
});
