import type { PledgeKind, PledgeStage } from '@tallystick/core/pledges';
import type { Frequency } from '@tallystick/core/schedule';
import { cents, day, flag, maybe, ref, table, text } from '../platform/tables.ts';

export interface PledgeRecord {
  id: number;
  version: number;
  supporter_id: number;
  kind: PledgeKind;
  stage: PledgeStage;
  cents: number;
  currency: string;
  pledged_on: string;
  fund_id: number;
  campaign_id: number | null;
  appeal_id: number | null;
  /** How the installments were laid out, null and empty where they were given one by one. */
  start_on: string | null;
  every: Frequency | '';
  last_day: number;
  note: string;
  applied_on: string | null;
  asked_cents: number | null;
  claimed_on: string | null;
  for_gift_id: number | null;
}

const owned = { supporter: 'supporter_id' } as const;
const owner = { supporter_id: ref, pledge_id: ref };

export const PledgeTable = table<PledgeRecord>('pledge', owned, {
  supporter_id: ref,
  kind: text(8),
  stage: text(10),
  cents,
  currency: text(3),
  pledged_on: day,
  fund_id: ref,
  campaign_id: maybe(ref),
  appeal_id: maybe(ref),
  start_on: maybe(day),
  every: text(10),
  last_day: flag,
  note: text(1000),
  applied_on: maybe(day),
  asked_cents: maybe(cents),
  claimed_on: maybe(day),
  for_gift_id: maybe(ref),
});

interface Owned {
  id: number;
  version: number;
  supporter_id: number;
  pledge_id: number;
}
export interface InstallmentRecord extends Owned {
  due: string;
  cents: number;
}
export const InstallmentTable = table<InstallmentRecord>('installment', owned, { ...owner, due: day, cents });

export const PledgePaymentTable = table<Owned & { installment_id: number; gift_id: number; cents: number }>(
  'pledge_payment',
  owned,
  { ...owner, installment_id: ref, gift_id: ref, cents },
);

export const WriteOffTable = table<Owned & { installment_id: number; date: string; cents: number; reason: string }>(
  'write_off',
  owned,
  { ...owner, installment_id: ref, date: day, cents, reason: text(300) },
);
