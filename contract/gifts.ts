import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import type { PaymentMethod } from '@tallystick/core/gifts';
import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { GiftCents, Id, IdParams, IsoDateText, Paging, Sum, Written, pageOf } from './common.ts';

export const Method = z.enum(Object.keys(PAYMENT_METHODS) as [PaymentMethod, ...PaymentMethod[]]);

export const GiftDraft = z.object({
  supporterId: Id,
  cents: GiftCents,
  date: IsoDateText,
  fundId: Id,
  campaignId: Id.nullable().default(null),
  appealId: Id.nullable().default(null),
  method: Method.default('cheque'),
  cheque: z.string().trim().max(30).default(''),
  note: z.string().trim().max(1000).default(''),
  /** Values of custom fields of gifts by the field's id, as typed. */
  fields: z.record(z.string(), z.string().max(2000)).default({}),
});
export type GiftDraft = z.infer<typeof GiftDraft>;

export const Gift = z.object({
  id: Id,
  number: z.string(),
  version: z.number(),
  supporterId: Id,
  supporterName: z.string(),
  cents: z.number(),
  currency: z.string(),
  date: z.string(),
  fundId: Id,
  fund: z.string(),
  campaignId: Id.nullable(),
  campaign: z.string(),
  appealId: Id.nullable(),
  appeal: z.string(),
  method: Method,
  cheque: z.string(),
  reference: z.string(),
  note: z.string(),
  /** Values of custom fields by the field's id, as they are kept. */
  fields: z.record(z.string(), z.string()),
  acknowledgedOn: z.string().nullable(),
  receiptId: Id.nullable(),
  receiptNumber: z.string().nullable(),
});
export type Gift = z.infer<typeof Gift>;

const area = 'gifts';
export const GiftFilter = z.object({
  supporterId: Id.optional(),
  /** Gifts of a household and of everyone in it. */
  householdId: Id.optional(),
  fundId: Id.optional(),
  campaignId: Id.optional(),
  appealId: Id.optional(),
  method: Method.optional(),
  from: IsoDateText.optional(),
  to: IsoDateText.optional(),
  thanked: z.enum(['yes', 'no']).optional(),
});
export const listGifts = endpoint({
  id: 'listGifts',
  area,
  method: 'get',
  path: '/gifts',
  role: 'read',
  summary: 'Gifts with the sum over the whole list.',
  query: Paging.extend(GiftFilter.shape).extend({
    sort: z.enum(['date', '-date', 'amount', '-amount']).default('-date'),
  }),
  response: pageOf(Gift).extend({ sum: Sum }),
});
export const exportGifts = endpoint({
  id: 'exportGifts',
  area,
  method: 'get',
  path: '/gifts/export.csv',
  role: 'read',
  produces: 'text/csv',
  summary: 'The gifts that a filter shows as CSV (UTF-8 with mark), custom fields included.',
  query: GiftFilter,
  response: z.string(),
});
export const getGift = endpoint({
  id: 'getGift',
  area,
  method: 'get',
  path: '/gifts/:id',
  role: 'read',
  summary: 'One gift.',
  params: IdParams,
  response: Gift,
});
export const recordGift = endpoint({
  id: 'recordGift',
  area,
  method: 'post',
  path: '/gifts',
  role: 'entry',
  summary: 'Record a one-time gift. Send an Idempotency-Key so that a repeated request records it once.',
  body: GiftDraft,
  response: Written.extend({ id: Id, number: z.string() }),
});
