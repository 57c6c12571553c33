import type { GiftPart, PaymentMethod } from '@tallystick/core/gifts';
import type { Frequency } from '@tallystick/core/schedule';
import { cents, day, flag, long, maybe, ref, table, text, whole } from '../platform/tables.ts';

/** Where a charge stands. `asking`: the till was or may have been asked, and its answer is not known yet. */
export type ChargeState = 'due' | 'asking' | 'paid' | 'failed' | 'call' | 'skipped';

interface Owned {
  id: number;
  version: number;
  supporter_id: number;
}
export interface RecurringRecord extends Owned {
  start_on: string;
  every: Frequency;
  last_day: number;
  until_on: string | null;
  currency: string;
  method: PaymentMethod;
  /** JSON of `Share[]`. */
  parts: string;
  card: string;
  card_label: string;
  note: string;
}
/** A fund that gets its weight out of the sum of weights. */
export type Share = Omit<GiftPart, 'cents'> & { weight: number };

export interface ChargeRecord extends Owned {
  recurring_id: number;
  due: string;
  cents: number;
  state: ChargeState;
  attempts: number;
  next_on: string | null;
  till_id: string;
  reason: string;
  gift_id: number | null;
}

const owned = { supporter: 'supporter_id' } as const;
const owner = { supporter_id: ref, recurring_id: ref };

export const RecurringTable = table<RecurringRecord>('recurring', owned, {
  supporter_id: ref,
  start_on: day,
  every: text(10),
  last_day: flag,
  until_on: maybe(day),
  currency: text(3),
  method: text(12),
  parts: long,
  card: text(60),
  card_label: text(60),
  note: text(1000),
});
export const RecurringAmountTable = table<Owned & { recurring_id: number; from_on: string; cents: number }>(
  'recurring_amount',
  owned,
  { ...owner, from_on: day, cents },
);
export const RecurringPauseTable = table<Owned & { recurring_id: number; from_on: string; until_on: string | null }>(
  'recurring_pause',
  owned,
  { ...owner, from_on: day, until_on: maybe(day) },
);
export const ChargeTable = table<ChargeRecord>('charge', owned, {
  ...owner,
  due: day,
  cents,
  state: text(10),
  attempts: whole,
  next_on: maybe(day),
  till_id: text(60),
  reason: text(200),
  gift_id: maybe(ref),
});
