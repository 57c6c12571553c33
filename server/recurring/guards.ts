import { giftNumber } from '@tallystick/core/gifts';
import { GiftTable } from '../gifts/index.ts';
import { guard } from '../platform/guards.ts';
import { RefundTable } from './recurring.entity.ts';

guard({
  holds: 'A gift stays as it is while the till is being asked to refund it',
  code: 'refund-asked',
  about: [{ table: GiftTable, of: 'id', columns: ['cents', 'state', 'supporter_id', 'method', 'date'], fresh: false }],
  async breaches({ sql, among, subjects }) {
    // A refund may be under way at any time; what must not be is a change beside it.
    if (subjects === null) return [];
    const asking = await sql.rows<{ subject: number }>(
      `SELECT gift_id AS subject FROM refund WHERE ${among('gift_id')} AND state = 'asking'`, // refund_gift
    );
    return asking.map(({ subject }) => ({
      subject,
      says: `The till is being asked for a refund of ${giftNumber(subject)}, and has not answered yet; wait for that.`,
    }));
  },
});

guard({
  holds: 'A gift is refunded in the books by what the till refunded of it',
  code: 'refund-asked',
  about: [{ table: RefundTable, of: 'id' }],
  async breaches({ sql, among }) {
    const unnoted = await sql.rows<{ subject: number; gift: number }>(
      `SELECT r.id AS subject, r.gift_id AS gift FROM refund r WHERE ${among('r.id')} AND r.state = 'done'
       AND NOT EXISTS (SELECT 1 FROM correction c WHERE c.gift_id = r.gift_id AND c.till_refund = r.till_id)`,
    );
    return unnoted.map(({ subject, gift }) => ({
      subject,
      says: `The till refunded some of ${giftNumber(gift)}, which the books do not say.`,
    }));
  },
});
