import { giftNumber } from '@tallystick/core/gifts';
import { pledgeNumber } from '@tallystick/core/pledges';
import { guard } from '../platform/guards.ts';
import { InstallmentTable, PledgePaymentTable, PledgeTable, WriteOffTable } from './pledge.entity.ts';

const SETTLED = [
  { table: InstallmentTable, of: 'pledge_id' },
  { table: PledgePaymentTable, of: 'pledge_id' },
  { table: WriteOffTable, of: 'pledge_id' },
] as const;

guard({
  holds: 'No installment is settled for more than it is',
  code: 'overpaid',
  about: SETTLED,
  async breaches({ sql, among }) {
    const over = await sql.rows<{ subject: number; due: string }>(
      // installment_pledge, pledge_payment_pledge, write_off_pledge
      `SELECT i.pledge_id AS subject, i.due FROM installment i JOIN (
         SELECT installment_id, cents FROM pledge_payment WHERE ${among('pledge_id')}
         UNION ALL SELECT installment_id, cents FROM write_off WHERE ${among('pledge_id')}) x ON x.installment_id = i.id
       GROUP BY i.id HAVING SUM(x.cents) > MAX(i.cents)`,
    );
    return over.map(({ subject, due }) => ({
      subject,
      says: `The installment of ${pledgeNumber(subject)} due ${due} would be paid or written off for more than it is. Undo the later payment first.`,
    }));
  },
});

guard({
  holds: 'The installments of a pledge add up to it',
  code: 'installments',
  about: [
    { table: PledgeTable, of: 'id', columns: ['cents'] },
    { table: InstallmentTable, of: 'pledge_id' },
  ],
  async breaches({ sql, among }) {
    const off = await sql.rows<{ subject: number }>(
      `SELECT p.id AS subject FROM pledge p LEFT JOIN installment i ON i.pledge_id = p.id
       WHERE ${among('p.id')} GROUP BY p.id HAVING COALESCE(SUM(i.cents), 0) <> MAX(p.cents)`,
    );
    return off.map(({ subject }) => ({
      subject,
      says: `The installments of ${pledgeNumber(subject)} would not add up to what was pledged; it was rescheduled or raised since. Undo that first.`,
    }));
  },
});

guard({
  holds: 'Only what is promised is paid, and not before it is',
  code: 'not-promised',
  about: [
    { table: PledgePaymentTable, of: 'pledge_id' },
    { table: PledgeTable, of: 'id', columns: ['stage', 'pledged_on'], fresh: false },
  ],
  async breaches({ sql, among }) {
    const early = await sql.rows<{ subject: number; gift: number; stage: string }>(
      `SELECT p.id AS subject, x.gift_id AS gift, p.stage FROM pledge_payment x JOIN pledge p ON p.id = x.pledge_id
       JOIN gift g ON g.id = x.gift_id WHERE ${among('p.id')} AND (p.stage IN ('asked', 'declined') OR g.date < p.pledged_on)`,
    );
    return early.map(({ subject, gift, stage }) => ({
      subject,
      says:
        stage === 'asked' || stage === 'declined'
          ? `${giftNumber(gift)} pays ${pledgeNumber(subject)}, which would no longer be promised. Write the balance off instead.`
          : `${giftNumber(gift)}, which pays ${pledgeNumber(subject)}, would be dated before it. Correct one of the dates.`,
    }));
  },
});
