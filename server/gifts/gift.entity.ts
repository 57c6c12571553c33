import type { PaymentMethod } from '@tallystick/core/gifts';
import { cents, day, maybe, ref, table, text } from '../platform/tables.ts';

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
  method: PaymentMethod;
  cheque: string;
  reference: string;
  note: string;
  acknowledged_on: string | null;
  intake_id: number | null;
}

export const GiftFieldTable = table<{
  id: number;
  version: number;
  supporter_id: number;
  gift_id: number;
  field_id: number;
  value: string;
}>('gift_field', { supporter: 'supporter_id' }, { supporter_id: ref, gift_id: ref, field_id: ref, value: text(1000) });

export const GiftTable = table<GiftRecord>(
  'gift',
  { supporter: 'supporter_id' },
  {
    supporter_id: ref,
    cents,
    currency: text(3),
    date: day,
    fund_id: ref,
    campaign_id: maybe(ref),
    appeal_id: maybe(ref),
    method: text(12),
    cheque: text(30),
    reference: text(60),
    note: text(1000),
    acknowledged_on: maybe(day),
    intake_id: maybe(ref),
  },
);
