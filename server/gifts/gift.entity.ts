import { eraseFrom } from '../platform/erase-text.ts';
import type { Row } from '@tallystick/core/changes';
import { PAYMENT_METHODS, giftNumber } from '@tallystick/core/gifts';
import type { CorrectionKind, CreditKind, PaymentMethod } from '@tallystick/core/gifts';
import { day as asDay, money, named, word } from '@tallystick/core/history';
import type { Telling } from '@tallystick/core/history';
import { cents, day, flag, long, maybe, moneyOf, ref, renames, setUp, table, text, whole } from '../platform/tables.ts';
import type { RowOf } from '../platform/tables.ts';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    gift: true;
  }
}

const ofDonor = moneyOf('gifts');
/** The rule of what is part of a gift. */
const ofGift = { ...ofDonor, merging: { with: 'gift', by: 'gift_id' } } as const;
const places = {
  fund_id: ref.says('Fund', named('fund')),
  campaign_id: maybe(ref).says('Campaign', named('campaign')),
  appeal_id: maybe(ref).says('Appeal', named('appeal')),
};
const giftOf = (row: Row): string => giftNumber(Number(row['gift_id']));
const amountOf = (row: Row, telling: Telling): string => money(row['cents'] ?? null, telling);
const fundOf = (row: Row, telling: Telling): string => named('fund')(row['fund_id'] ?? null, telling);

export const GiftTable = table(
  'gift',
  {
    ...ofDonor,
    called: (row, telling) =>
      `Gift ${giftNumber(Number(row['id']))} of ${amountOf(row, telling)} to ${fundOf(row, telling)} on ${asDay(row['date'] ?? null, telling)}`,
    before: (id) => `Gift ${giftNumber(id)}: `,
    eraseOthers: eraseFrom('gift', 'note', true),
  },
  {
    supporter_id: ref,
    cents: cents.says('Amount'),
    currency: text(3),
    date: day.says('Date'),
    ...places,
    source_code_id: maybe(ref),
    /** 1 where its parts are in `gift_split`; fund, campaign and appeal are then those of the first. */
    split: flag,
    method: text<PaymentMethod>(12).says('Payment method', word(PAYMENT_METHODS)),
    cheque: text(30).says('Check number'),
    reference: text(60),
    note: text(1000).says('Note'),
    benefit_cents: cents.says('Goods and services'),
    benefit: text(200),
    /** What the processor kept of it. */
    fee_cents: cents.says('Processor fee'),
    /** JSON of what stock or goods it was. */
    details: maybe(long),
    state: text<'kept' | 'refunded' | 'void' | 'returned'>(10).says('State'),
    /** The day that it stands in the books. */
    booked_on: day,
    batch_id: maybe(ref),
    recurring_id: maybe(ref),
    acknowledged_on: maybe(day).says('Acknowledged'),
    receipt_needs: text<'' | 'void' | 'reissue'>(8).says('The receipt needs'),
    intake_id: maybe(ref),
  },
);
export type GiftRecord = RowOf<typeof GiftTable>;

const placed = { supporter_id: ref, gift_id: ref, place: flag, ...places };
export const GiftSplitTable = table(
  'gift_split',
  {
    ...ofGift,
    called: (row, telling) => `Part of ${giftOf(row)}: ${amountOf(row, telling)} to ${fundOf(row, telling)}`,
  },
  { ...placed, cents },
);

/** A soft credit has a row for each part of the gift that it falls to; date, donor and method are those of the gift. */
export const SoftCreditTable = table(
  'soft_credit',
  {
    ...ofDonor,
    called: (row, telling) => `Soft credit of ${amountOf(row, telling)} for ${giftOf(row)}`,
    // Two credits of one part are one then, of no more than the part; and nobody is credited for what they gave.
    merging: {
      once: (row) => [row['gift_id'], row['kind'], row['place']].join('|'),
      else: 'goes',
      both: (kept, other) => ({
        cents: Math.min(Number(kept['of_cents']), Number(kept['cents']) + Number(other['cents'])),
      }),
    },
    async mergeOthers(merge) {
      await renames('soft_credit', 'donor_id')(merge);
      const own = await merge.tx.sql.rows<{ id: number }>(
        'SELECT id FROM soft_credit WHERE supporter_id = ? AND donor_id = ?',
        [merge.into, merge.into],
      );
      await merge.tx.removeAll(
        SoftCreditTable,
        own.map(({ id }) => id),
      );
    },
  },
  {
    ...placed,
    kind: text<CreditKind>(10),
    cents: cents.says('Soft credit'),
    of_cents: cents,
    date: day,
    donor_id: ref,
    method: text<PaymentMethod>(12),
  },
);
export type CreditRecord = RowOf<typeof SoftCreditTable>;

export const TributeTable = table(
  'tribute',
  {
    ...{ ...ofGift, also: 'of_id', erasing: { blank: {} } },
    mergeOthers: renames('tribute', 'of_id', 'notify_id'),
    called: (row, telling) =>
      `Tribute in ${row['kind'] === 'memory' ? 'memory' : 'honor'} of ${String(row['name']) || named('supporter')(row['of_id'] ?? null, telling)}`,
    // Whoever was honoured, or was to be notified, is not named any more; the tribute itself is the donor's.
    async eraseOthers(sql, erased) {
      const ids = erased.map((one) => one.id);
      await sql.run('UPDATE tribute SET of_id = NULL WHERE of_id IN (?)', [ids]);
      await sql.run(`UPDATE tribute SET notify_id = NULL, notify = '' WHERE notify_id IN (?)`, [ids]);
    },
  },
  {
    supporter_id: ref,
    gift_id: ref,
    kind: text<'honour' | 'memory'>(10),
    name: text(120).says('Tribute to'),
    of_id: maybe(ref),
    notify_id: maybe(ref),
    notify: text(300).says('To notify'),
    with_amount: flag.says('Notified with the amount'),
  },
);
export type TributeRecord = RowOf<typeof TributeTable>;

export const CorrectionTable = table(
  'correction',
  {
    ...ofDonor,
    called: (row) => `Correction of ${giftOf(row)} (${String(row['reason'])})`,
    eraseOthers: eraseFrom('correction', 'reason', true),
    // What the gift was and became names its donor too, in corrections of what is somebody else's now as well.
    async mergeOthers({ tx, gone, into }) {
      const rows = await tx.sql.rows<{ id: number; was: string; became: string }>(
        `SELECT id, was, became FROM correction
         WHERE JSON_VALUE(was, '$.supporterId') IN (?) OR JSON_VALUE(became, '$.supporterId') IN (?)`,
        [gone, gone],
      );
      const named = (json: string): string => {
        const state: { supporterId: number } = JSON.parse(json);
        return gone.includes(state.supporterId) ? JSON.stringify({ ...state, supporterId: into }) : json;
      };
      for (const { id, was, became } of rows)
        await tx.rewrite(CorrectionTable, [id], { was: named(was), became: named(became) });
    },
  },
  {
    supporter_id: ref,
    gift_id: ref,
    kind: text<CorrectionKind>(10),
    booked_on: day,
    reason: text(300),
    actor: text(120),
    /** JSON of the gift's money before and after. */
    was: long,
    became: long,
    /** The till's own number of the refund, where the money went back through it. */
    till_refund: maybe(text(60)),
    /** The deposit that the gift was in by then: its slip still says what was taken to the bank. */
    deposit_id: maybe(ref),
  },
);

/** Undoing the gift that began a batch leaves the batch to the gifts that came into it later. */
export const BatchTable = table(
  'batch',
  { ...setUp('gifts', 'Batch'), undo: 'unless-used' },
  {
    name: text(190),
    source: text(10),
    opened_on: day,
    state: text(10),
    expected_count: maybe(whole),
    expected_cents: maybe(cents),
    reason: text(300),
    deposit_id: maybe(ref),
    balanced_count: maybe(whole),
    balanced_cents: maybe(cents),
    /** What it held then, method by method, as `sumsText` writes it. */
    balanced_sums: text(500),
  },
);
