import type { Row } from '@tallystick/core/changes';
import { day as asDay, money } from '@tallystick/core/history';
import type { Telling } from '@tallystick/core/history';
import { recurringNumber } from '@tallystick/core/recurring';
import { giftNumber } from '@tallystick/core/gifts';
import type { GiftPart, PaymentMethod } from '@tallystick/core/gifts';
import type { Frequency } from '@tallystick/core/schedule';
import { cents, day, flag, long, maybe, moneyOf, ref, table, text, whole } from '../platform/tables.ts';
import type { RowOf } from '../platform/tables.ts';
import { isFinal } from '../platform/changes.ts';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    charge: true;
    refund: true;
  }
}
isFinal('charge', 'a card was charged; refund the gift instead');
isFinal('refund', 'the money went back where it came from; record what comes in again as a gift of its own');

/** Where a charge stands. `asking`: the till was or may have been asked, and its answer is not known yet. */
export type ChargeState = 'due' | 'asking' | 'paid' | 'failed' | 'call' | 'skipped';

/** A fund that gets its weight out of the sum of weights. */
export type Share = Omit<GiftPart, 'cents'> & { weight: number };

const ofDonor = moneyOf('recurring');
/** The rule of what is part of a recurring gift. */
const ofRecurring = { ...ofDonor, merging: { with: 'recurring', by: 'recurring_id' } } as const;
const owner = { supporter_id: ref, recurring_id: ref };
const amountOf = (row: Row, telling: Telling): string => money(row['cents'] ?? null, telling);
const dayOf = (row: Row, column: string, telling: Telling): string => asDay(row[column] ?? null, telling);
const recurringOf = (row: Row): string => recurringNumber(Number(row['recurring_id']));

export const RecurringTable = table(
  'recurring',
  {
    ...{ ...ofDonor, erasing: { blank: { card: '', card_label: '', note: '' } } },
    called: (row) => `Recurring gift ${recurringNumber(Number(row['id']))}`,
  },
  {
    supporter_id: ref,
    start_on: day,
    every: text<Frequency>(10),
    last_day: flag,
    until_on: maybe(day).says('Until'),
    currency: text(3),
    method: text<PaymentMethod>(12),
    /** JSON of `Share[]`. */
    parts: long,
    card: text(60),
    card_label: text(60).says('Card'),
    note: text(1000).says('Note'),
  },
);
export type RecurringRecord = RowOf<typeof RecurringTable>;

export const RecurringAmountTable = table(
  'recurring_amount',
  {
    ...ofRecurring,
    called: (row, telling) => `${recurringOf(row)} at ${amountOf(row, telling)} from ${dayOf(row, 'from_on', telling)}`,
  },
  { ...owner, from_on: day, cents: cents.says('Recurring amount') },
);
export const RecurringPauseTable = table(
  'recurring_pause',
  { ...ofRecurring, called: (row, telling) => `Pause of ${recurringOf(row)} from ${dayOf(row, 'from_on', telling)}` },
  { ...owner, from_on: day, until_on: maybe(day).says('Paused until') },
);
export const ChargeTable = table(
  'charge',
  {
    ...ofRecurring,
    called: (row, telling) =>
      `Charge of ${amountOf(row, telling)} due ${dayOf(row, 'due', telling)} for ${recurringOf(row)}`,
  },
  {
    ...owner,
    due: day,
    cents,
    state: text<ChargeState>(10).says('Charge'),
    attempts: whole,
    next_on: maybe(day),
    till_id: text(60),
    reason: text(200).says('Reason'),
    gift_id: maybe(ref),
  },
);
export type ChargeRecord = RowOf<typeof ChargeTable>;

/** Where a refund through the till stands. `asking`: the till was or may have been asked, and its answer is not known yet. */
export type RefundState = 'asking' | 'done' | 'refused';

/** Committed as asked before the till is asked, each with a key of its own. */
export const RefundTable = table(
  'refund',
  {
    ...{ ...ofDonor, merging: { with: 'gift', by: 'gift_id' } },
    called: (row, telling) =>
      `Refund of ${amountOf(row, telling)} of ${giftNumber(Number(row['gift_id']))} through the till`,
  },
  {
    supporter_id: ref,
    gift_id: ref,
    charge_id: ref,
    cents,
    reason: text(300),
    state: text<RefundState>(8).says('Refund'),
    till_id: text(60),
    why: text(200).says('Refused because'),
  },
);
export type RefundRecord = RowOf<typeof RefundTable>;
