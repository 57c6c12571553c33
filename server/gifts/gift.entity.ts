import type { CorrectionKind, CreditKind, PaymentMethod } from '@tallystick/core/gifts';
import { cents, day, flag, long, maybe, ref, table, text, whole } from '../platform/tables.ts';

export interface GiftRecord {
  id: number;
  version: number;
  supporter_id: number;
  cents: number;
  currency: string;
  date: string;
  fund_id: number;
  campaign_id: number | null;
  appeal_id: number | null;
  source_code_id: number | null;
  /** 1 where its parts are in `gift_split`; fund, campaign and appeal are then those of the first. */
  split: number;
  method: PaymentMethod;
  cheque: string;
  reference: string;
  note: string;
  benefit_cents: number;
  benefit: string;
  /** JSON of what stock or goods it was. */
  details: string | null;
  state: 'kept' | 'refunded' | 'void' | 'returned';
  /** The day that it stands in the books. */
  booked_on: string;
  batch_id: number | null;
  recurring_id: number | null;
  acknowledged_on: string | null;
  receipt_needs: '' | 'void' | 'reissue';
  intake_id: number | null;
}

const owned = { supporter: 'supporter_id' } as const;
const places = { fund_id: ref, campaign_id: maybe(ref), appeal_id: maybe(ref) };

export const GiftFieldTable = table<{
  id: number;
  version: number;
  supporter_id: number;
  gift_id: number;
  field_id: number;
  value: string;
}>('gift_field', owned, { supporter_id: ref, gift_id: ref, field_id: ref, value: text(1000) });

export const GiftTable = table<GiftRecord>('gift', owned, {
  supporter_id: ref,
  cents,
  currency: text(3),
  date: day,
  ...places,
  source_code_id: maybe(ref),
  split: flag,
  method: text(12),
  cheque: text(30),
  reference: text(60),
  note: text(1000),
  benefit_cents: cents,
  benefit: text(200),
  details: maybe(long),
  state: text(10),
  booked_on: day,
  batch_id: maybe(ref),
  recurring_id: maybe(ref),
  acknowledged_on: maybe(day),
  receipt_needs: text(8),
  intake_id: maybe(ref),
});

interface Placed {
  id: number;
  version: number;
  supporter_id: number;
  gift_id: number;
  place: number;
  cents: number;
  fund_id: number;
  campaign_id: number | null;
  appeal_id: number | null;
}
export const GiftSplitTable = table<Placed>('gift_split', owned, {
  supporter_id: ref,
  gift_id: ref,
  place: flag,
  cents,
  ...places,
});

/** A soft credit has a row for each part of the gift that it falls to; date, donor and method are those of the gift. */
export interface CreditRecord extends Placed {
  kind: CreditKind;
  of_cents: number;
  date: string;
  donor_id: number;
  method: PaymentMethod;
}
export const SoftCreditTable = table<CreditRecord>('soft_credit', owned, {
  supporter_id: ref,
  gift_id: ref,
  kind: text(10),
  place: flag,
  cents,
  of_cents: cents,
  date: day,
  donor_id: ref,
  method: text(12),
  ...places,
});

export interface TributeRecord {
  id: number;
  version: number;
  supporter_id: number;
  gift_id: number;
  kind: 'honour' | 'memory';
  name: string;
  of_id: number | null;
  notify_id: number | null;
  notify: string;
  with_amount: number;
}
export const TributeTable = table<TributeRecord>(
  'tribute',
  { ...owned, also: 'of_id' },
  {
    supporter_id: ref,
    gift_id: ref,
    kind: text(10),
    name: text(120),
    of_id: maybe(ref),
    notify_id: maybe(ref),
    notify: text(300),
    with_amount: flag,
  },
);

export interface CorrectionRecord {
  id: number;
  version: number;
  supporter_id: number;
  gift_id: number;
  kind: CorrectionKind;
  booked_on: string;
  reason: string;
  actor: string;
  /** JSON of the gift's money before and after. */
  was: string;
  became: string;
  /** The till's own number of the refund, where the money went back through it. */
  till_refund: string | null;
  /** The deposit that the gift was in by then: its slip still says what was taken to the bank. */
  deposit_id: number | null;
}
export const CorrectionTable = table<CorrectionRecord>('correction', owned, {
  supporter_id: ref,
  gift_id: ref,
  kind: text(10),
  booked_on: day,
  reason: text(300),
  actor: text(120),
  was: long,
  became: long,
  till_refund: maybe(text(60)),
  deposit_id: maybe(ref),
});

export const BatchTable = table<{
  id: number;
  version: number;
  name: string;
  source: string;
  opened_on: string;
  state: string;
  expected_count: number | null;
  expected_cents: number | null;
  reason: string;
  deposit_id: number | null;
  balanced_count: number | null;
  balanced_cents: number | null;
}>(
  'batch',
  { holdsOthers: true },
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
  },
);
