import { CORRECTIONS, CREDIT_KINDS } from '@tallystick/core/gifts';
import { TOTAL_BY } from '@tallystick/core/totals';
import { z } from 'zod';
import { Window } from './segments.ts';
import { endpoint } from './endpoint.ts';
import {
  Cents,
  Credit,
  GiftCents,
  Id,
  IdParams,
  IsoDateText,
  Method,
  Paging,
  Sum,
  Written,
  keysOf,
  pageOf,
  KeptValue,
  TypedFields,
  TypedValue,
  sortedBy,
} from './common.ts';

/** A part of a gift. The parts of a gift add up to it. */
export const GiftPart = z.object({
  cents: GiftCents,
  fundId: Id,
  campaignId: Id.nullable().default(null),
  appealId: Id.nullable().default(null),
});
const Decimal = z
  .string()
  .trim()
  .regex(/^\d{1,12}(\.\d{1,6})?$/, 'Write a number with at most six decimals, such as 12.5.');
export const GiftDetails = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('stock'),
    symbol: z.string().trim().toUpperCase().min(1, 'Which stock is it?').max(12),
    shares: Decimal,
    meanPrice: Decimal,
    feeCents: Cents.default(0),
    soldOn: IsoDateText.nullable().default(null),
    proceedsCents: Cents.nullable().default(null),
  }),
  z.object({
    kind: z.literal('in_kind'),
    description: z.string().trim().min(1, 'Say what was given.').max(500),
    estimateBy: z.enum(['donor', 'us']).default('donor'),
  }),
]);
export const CreditDraft = z.object({ supporterId: Id, kind: keysOf(CREDIT_KINDS), cents: GiftCents });
export const TributeDraft = z.object({
  kind: z.enum(['honour', 'memory']),
  name: z.string().trim().max(120).default(''),
  /** The record of whom it honours, and of whom to notify, where they have one. */
  ofId: Id.nullable().default(null),
  notifyId: Id.nullable().default(null),
  /** Name and address to notify by hand. */
  notify: z.string().trim().max(300).default(''),
  withAmount: z.boolean().default(false),
});
/** The pledge that a gift pays; without chosen installments the oldest open ones. */
export const PaysPledge = z.object({
  pledgeId: Id,
  installments: z.array(Id).max(600).default([]),
  /** What becomes of more than is open: refused, kept as a gift beyond the pledge, or added to the pledge. */
  over: z.enum(['ask', 'beyond', 'raise']).default('ask'),
  /** Said where the pledge is somebody else's: a fund pays what its adviser promised. */
  byOther: z.boolean().default(false),
});

const Designation = { fundId: Id, campaignId: Id.nullable().default(null), appealId: Id.nullable().default(null) };
export const GiftDraft = z.object({
  supporterId: Id,
  cents: GiftCents,
  date: IsoDateText,
  ...Designation,
  /** Where the gift is split: two parts or more, which take the place of fund, campaign and appeal. */
  parts: z.array(GiftPart).max(50).default([]),
  sourceId: Id.nullable().default(null),
  method: Method.default('cheque'),
  cheque: z.string().trim().max(30).default(''),
  note: z.string().trim().max(1000).default(''),
  /** Fair value of the goods and services received for the gift, and what they were. */
  benefitCents: Cents.default(0),
  benefit: z.string().trim().max(200).default(''),
  /** What the processor keeps of the gift; the rest is what comes to the bank. */
  feeCents: Cents.default(0),
  details: GiftDetails.nullable().default(null),
  credits: z.array(CreditDraft).max(50).default([]),
  tribute: TributeDraft.nullable().default(null),
  pays: PaysPledge.nullable().default(null),
  /** The recurring gift that it is a payment of, where that is not charged by the till. */
  recurringId: Id.nullable().default(null),
  /** The employer expected to match the gift, and with how much. */
  match: z.object({ supporterId: Id, cents: GiftCents }).nullable().default(null),
  /** True once a person has seen that the donor already has a gift by this check number. */
  sameChequeSeen: z.boolean().default(false),
  /** Values of custom fields of gifts by the field's id, as typed. */
  fields: TypedFields.default({}),
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
  /** Its name; the names of all where the gift is split. */
  fund: z.string(),
  campaignId: Id.nullable(),
  campaign: z.string(),
  appealId: Id.nullable(),
  appeal: z.string(),
  split: z.boolean(),
  sourceId: Id.nullable(),
  source: z.string(),
  method: Method,
  cheque: z.string(),
  reference: z.string(),
  note: z.string(),
  benefitCents: z.number(),
  benefit: z.string(),
  /** What the processor kept of it. */
  feeCents: z.number(),
  details: GiftDetails.nullable(),
  /** What the donor may deduct. */
  deductibleCents: z.number(),
  state: z.enum(['kept', 'refunded', 'void', 'returned']),
  bookedOn: z.string(),
  batchId: Id.nullable(),
  recurringId: Id.nullable(),
  /** Values of custom fields by the field's id, as they are kept. */
  fields: z.record(z.string(), KeptValue),
  acknowledgedOn: z.string().nullable(),
  receiptId: Id.nullable(),
  receiptNumber: z.string().nullable(),
  /** What a correction left to be done with the receipt. */
  receiptNeeds: z.enum(['', 'void', 'reissue']),
});
export type Gift = z.infer<typeof Gift>;

const Named = z.object({ id: Id, name: z.string() });
export const GiftWhole = Gift.extend({
  /** Values of custom fields by the field's id, as one would type them. */
  typedFields: z.record(z.string(), TypedValue),
  parts: z.array(GiftPart.extend({ cents: z.number(), fund: z.string(), campaign: z.string(), appeal: z.string() })),
  credits: z.array(z.object({ supporterId: Id, name: z.string(), kind: keysOf(CREDIT_KINDS), cents: z.number() })),
  tribute: TributeDraft.extend({ ofName: z.string(), notifyName: z.string() }).nullable(),
  /** The installments that it pays. */
  pays: z.array(z.object({ pledgeId: Id, number: z.string(), due: z.string(), cents: z.number() })),
  /** The employer's promise to match it; or the gift of an employee that it matches. */
  matchedBy: z
    .object({ pledgeId: Id, number: z.string(), supporter: Named, cents: z.number(), paid: z.number() })
    .nullable(),
  matches: z.object({ giftId: Id, number: z.string(), supporter: Named, cents: z.number() }).nullable(),
  corrections: z.array(
    z.object({
      id: Id,
      kind: keysOf(CORRECTIONS),
      bookedOn: z.string(),
      reason: z.string(),
      by: z.string(),
      says: z.array(z.string()),
    }),
  ),
  history: z.array(z.object({ revision: z.number(), at: z.string(), by: z.string(), summary: z.string() })),
  /** Why it cannot simply be edited any more, or empty. */
  settled: z.string(),
  batch: z.string(),
  /** What the till is being asked to give back of it, and has not answered yet. */
  refundingCents: z.number(),
  /** Whether its batch is in a deposit. */
  deposited: z.boolean(),
});
export type GiftWhole = z.infer<typeof GiftWhole>;

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
  sourceId: Id.optional(),
  batchId: Id.optional(),
  recurringId: Id.optional(),
  state: z.enum(['kept', 'refunded', 'void', 'returned']).optional(),
  kind: z.enum(['split', 'credited', 'tribute', 'benefit', 'pledge', 'match', 'corrected', 'receipt']).optional(),
  atLeast: z.coerce.number().int().optional(),
  atMost: z.coerce.number().int().optional(),
});
export const listGifts = endpoint({
  id: 'listGifts',
  area,
  method: 'get',
  path: '/gifts',
  right: 'gifts.see',
  summary: 'Gifts with the sum over the whole list.',
  query: Paging.extend(GiftFilter.shape).extend({ sort: sortedBy(['date', 'amount'], '-date') }),
  response: pageOf(Gift).extend({ sum: Sum }),
});
export const exportGifts = endpoint({
  id: 'exportGifts',
  area,
  method: 'get',
  path: '/gifts/export.csv',
  right: 'gifts.see',
  logs: 'export',
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
  right: 'gifts.see',
  summary: 'One gift, with its parts, credits, installments, corrections and history.',
  params: IdParams,
  response: GiftWhole,
});
export const facetGifts = endpoint({
  id: 'facetGifts',
  area,
  method: 'get',
  path: '/gifts/facets',
  right: 'gifts.see',
  summary: 'How the gifts that a filter shows fall to funds, campaigns, appeals and payment methods.',
  query: GiftFilter,
  response: z.object({
    facets: z.array(
      z.object({
        by: z.enum(['fund', 'campaign', 'appeal', 'method']),
        items: z.array(z.object({ key: z.string(), name: z.string(), count: z.number(), cents: z.number() })),
      }),
    ),
  }),
});
export const recordGift = endpoint({
  id: 'recordGift',
  area,
  method: 'post',
  path: '/gifts',
  right: 'gifts.add',
  summary: 'Record a gift. Send an Idempotency-Key so that a repeated request records it once.',
  body: GiftDraft,
  response: Written.extend({ id: Id, number: z.string() }),
});
export const editGift = endpoint({
  id: 'editGift',
  area,
  method: 'put',
  path: '/gifts/:id',
  right: 'gifts.change',
  summary:
    'Change a gift. Once it is receipted, deposited or in a closed period its money is corrected instead (409 settled); credits, tribute, sale of stock, source code, check number, note and own fields can still change.',
  params: IdParams,
  body: GiftDraft.omit({ pays: true, match: true, recurringId: true }).extend({ version: z.number() }),
  response: Written,
});
export const noteGift = endpoint({
  id: 'noteGift',
  area,
  method: 'put',
  path: '/gifts/:id/note',
  right: 'gifts.change',
  summary: 'Change the note on a gift, also on one that was refunded, voided or returned.',
  params: IdParams,
  body: GiftDraft.pick({ note: true }).extend({ version: z.number() }),
  response: Written,
});
export const correctGift = endpoint({
  id: 'correctGift',
  area,
  method: 'post',
  path: '/gifts/:id/corrections',
  right: 'gifts.money',
  summary: 'Adjust, refund (in part), void a gift, or note a returned check; what it was is kept.',
  params: IdParams,
  body: z.discriminatedUnion('kind', [
    z.object({
      kind: z.literal('adjust'),
      version: z.number(),
      reason: z.string().trim().min(1, 'Say why.').max(300),
      supporterId: Id,
      cents: GiftCents,
      date: IsoDateText,
      method: Method,
      parts: z.array(GiftPart).min(1).max(50),
      /** What the donor got for it and its fair value; as it was where left out. */
      benefit: z.object({ cents: Cents, what: z.string().trim().max(200) }).optional(),
    }),
    z.object({
      kind: z.enum(['refund', 'void', 'returned']),
      version: z.number(),
      reason: z.string().trim().min(1, 'Say why.').max(300),
      /** For a refund in part. */
      cents: GiftCents.optional(),
    }),
  ]),
  response: Written.extend({ receiptNeeds: z.enum(['', 'void', 'reissue']) }),
});
export const putToPledge = endpoint({
  id: 'putToPledge',
  area,
  method: 'post',
  path: '/gifts/:id/pledge',
  right: 'gifts.change',
  summary: 'Have a gift that is recorded already pay a pledge, with what of it pays none yet.',
  params: IdParams,
  body: PaysPledge,
  response: Written.extend({ cents: z.number() }),
});
export const takeOffPledge = endpoint({
  id: 'takeOffPledge',
  area,
  method: 'post',
  path: '/gifts/:id/pledge/off',
  right: 'gifts.change',
  summary: 'Take what a gift pays off a pledge again; its installments are open as before.',
  params: IdParams,
  body: z.object({ pledgeId: Id }),
  response: Written.extend({ cents: z.number() }),
});
export const moveToBatch = endpoint({
  id: 'moveToBatch',
  area,
  method: 'post',
  path: '/gifts/:id/batch',
  right: 'gifts.change',
  summary: 'Move a gift that is not deposited yet to another batch that waits, or to a new one.',
  params: IdParams,
  body: z.object({
    version: z.number(),
    /** A new batch of the name given where it is null. */
    batchId: Id.nullable(),
    name: z.string().trim().max(120).default(''),
  }),
  response: Written.extend({ batchId: Id }),
});
export const giftHints = endpoint({
  id: 'giftHints',
  area,
  method: 'get',
  path: '/gifts/hints',
  right: 'gifts.add',
  summary:
    'What a gift of a supporter may have to do with: open pledges, who may be credited, an employer who may match.',
  query: z.object({ supporterId: Id }),
  response: z.object({
    pledges: z.array(
      z.object({
        id: Id,
        number: z.string(),
        fundId: Id,
        campaignId: Id.nullable(),
        appealId: Id.nullable(),
        fund: z.string(),
        balance: z.number(),
        installments: z.array(z.object({ id: Id, due: z.string(), open: z.number() })),
      }),
    ),
    people: z.array(z.object({ id: Id, name: z.string(), as: z.enum(['spouse', 'household', 'adviser', 'employer']) })),
    recurring: z.array(z.object({ id: Id, number: z.string(), due: z.string().nullable(), cents: z.number() })),
  }),
});
export const giftTotals = endpoint({
  id: 'giftTotals',
  area,
  method: 'post',
  asks: true,
  path: '/gifts/totals',
  right: 'gifts.see',
  summary:
    'Giving added up by fund, campaign, appeal, method, year or month, of everyone, a supporter, a household or a segment; as known today, or as it was known on a day.',
  body: z.object({
    window: Window,
    fundId: Id.nullable().default(null),
    campaignId: Id.nullable().default(null),
    appealId: Id.nullable().default(null),
    method: Method.nullable().default(null),
    credit: Credit.default('legal'),
    by: keysOf(TOTAL_BY).default('nothing'),
    supporterId: Id.nullable().default(null),
    household: z.boolean().default(false),
    segmentId: Id.nullable().default(null),
    /** As recorded by the end of this day, by booking days; only for legal donors. */
    asOf: IsoDateText.nullable().default(null),
  }),
  response: z.object({
    rows: z.array(
      z.object({ key: z.string(), name: z.string(), cents: z.number(), gifts: z.number(), donors: z.number() }),
    ),
    total: z.object({ cents: z.number(), gifts: z.number(), donors: z.number() }),
  }),
});
export const yearsGiven = endpoint({
  id: 'yearsGiven',
  area,
  method: 'post',
  asks: true,
  path: '/gifts/years',
  right: 'gifts.see',
  summary:
    'What each of some supporters gave in each of the last five fiscal years, and how much of it waits for thanks.',
  body: z.object({ supporterIds: z.array(Id).max(1000) }),
  response: z.object({
    items: z.array(
      z.object({ supporterId: Id, year: z.number(), cents: z.number(), gifts: z.number(), unthanked: z.number() }),
    ),
  }),
});
