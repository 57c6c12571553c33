import { PLEDGE_KINDS, PLEDGE_STAGES } from '@tallystick/core/pledges';
import { FREQUENCIES } from '@tallystick/core/schedule';
import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Cents, GiftCents, Id, IdParams, IsoDateText, Paging, Written, keysOf, pageOf, sortedBy } from './common.ts';

const area = 'pledges';
export const Schedule = z.object({
  start: IsoDateText,
  every: keysOf(FREQUENCIES),
  lastDay: z.boolean().default(false),
});
const DraftInstallment = z.object({ due: IsoDateText, cents: GiftCents });
export const PledgePlan = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('count'), schedule: Schedule, count: z.number().int().min(1).max(600) }),
  z.object({ kind: z.literal('each'), schedule: Schedule, each: GiftCents }),
  z.object({ kind: z.literal('rows'), rows: z.array(DraftInstallment).min(1).max(600) }),
]);

export const PledgeDraft = z.object({
  supporterId: Id,
  kind: keysOf(PLEDGE_KINDS).default('pledge'),
  stage: keysOf(PLEDGE_STAGES).default('promised'),
  cents: GiftCents,
  pledgedOn: IsoDateText,
  fundId: Id,
  campaignId: Id.nullable().default(null),
  appealId: Id.nullable().default(null),
  plan: PledgePlan,
  note: z.string().trim().max(1000).default(''),
  /** Of a grant: when it was applied for, for how much, and when reports are due. */
  appliedOn: IsoDateText.nullable().default(null),
  askedCents: Cents.nullable().default(null),
  reports: z
    .array(z.object({ due: IsoDateText, title: z.string().trim().min(1).max(150) }))
    .max(50)
    .default([]),
  /** Of a match: the employee's gift. */
  forGiftId: Id.nullable().default(null),
});
export type PledgeDraft = z.infer<typeof PledgeDraft>;

const Standing = z.object({
  pledged: z.number(),
  paid: z.number(),
  writtenOff: z.number(),
  balance: z.number(),
  overdue: z.number(),
  next: z.object({ due: z.string(), cents: z.number() }).nullable(),
});
export const PledgeRow = z.object({
  id: Id,
  number: z.string(),
  version: z.number(),
  supporterId: Id,
  supporterName: z.string(),
  kind: keysOf(PLEDGE_KINDS),
  stage: keysOf(PLEDGE_STAGES),
  pledgedOn: z.string(),
  fundId: Id,
  fund: z.string(),
  campaignId: Id.nullable(),
  campaign: z.string(),
  appealId: Id.nullable(),
  appeal: z.string(),
  standing: Standing,
});
export type PledgeRow = z.infer<typeof PledgeRow>;
export const Pledge = PledgeRow.extend({
  note: z.string(),
  appliedOn: z.string().nullable(),
  askedCents: z.number().nullable(),
  claimedOn: z.string().nullable(),
  schedule: z.string(),
  installments: z.array(
    z.object({
      id: Id,
      due: z.string(),
      cents: z.number(),
      paid: z.number(),
      writtenOff: z.number(),
      open: z.number(),
      state: z.enum(['paid', 'written off', 'overdue', 'due', 'to come']),
    }),
  ),
  payments: z.array(
    z.object({
      giftId: Id,
      number: z.string(),
      date: z.string(),
      cents: z.number(),
      of: z.number(),
      installmentId: Id,
    }),
  ),
  writeOffs: z.array(z.object({ id: Id, date: z.string(), cents: z.number(), reason: z.string(), due: z.string() })),
  reports: z.array(z.object({ id: Id, title: z.string(), due: z.string(), doneOn: z.string().nullable() })),
  forGift: z
    .object({ id: Id, number: z.string(), supporterId: Id, supporterName: z.string(), cents: z.number() })
    .nullable(),
});
export type Pledge = z.infer<typeof Pledge>;

export const PledgeFilter = z.object({
  supporterId: Id.optional(),
  kind: keysOf(PLEDGE_KINDS).optional(),
  fundId: Id.optional(),
  campaignId: Id.optional(),
  /** `due`: within the next 30 days; `open`: with a balance. */
  show: z.enum(['open', 'overdue', 'due', 'paid', 'all']).default('all'),
  /** The day on which they stood so, as recorded by its end; today where it is left out. */
  at: IsoDateText.optional(),
});
export const listPledges = endpoint({
  id: 'listPledges',
  area,
  method: 'get',
  path: '/pledges',
  right: 'pledges.see',
  summary:
    'Pledges, grants and matches with what is paid, written off, open and overdue at a date; sums over the whole list.',
  query: Paging.extend(PledgeFilter.shape).extend({
    sort: sortedBy(['next', 'name', 'kind', 'date', 'pledged', 'paid', 'balance', 'overdue', 'fund'], 'next'),
  }),
  response: pageOf(PledgeRow).extend({ sum: Standing.omit({ next: true }), at: z.string() }),
});
export const listReminders = endpoint({
  id: 'listReminders',
  area,
  method: 'get',
  path: '/pledges/reminders',
  right: 'pledges.see',
  summary: 'Installments that are overdue or fall due within some days: whom to remind, and of how much.',
  query: z.object({ days: z.coerce.number().int().min(0).max(366).default(30) }),
  response: z.object({
    items: z.array(
      z.object({
        pledgeId: Id,
        number: z.string(),
        supporterId: Id,
        supporterName: z.string(),
        due: z.string(),
        open: z.number(),
        daysLate: z.number(),
      }),
    ),
    sum: z.object({ count: z.number(), cents: z.number(), overdueCents: z.number() }),
  }),
});
export const getPledge = endpoint({
  id: 'getPledge',
  area,
  method: 'get',
  path: '/pledges/:id',
  right: 'pledges.see',
  summary: 'One pledge with every installment as it stands at a date.',
  params: IdParams,
  query: z.object({ at: IsoDateText.optional() }),
  response: Pledge,
});
export const previewPlan = endpoint({
  id: 'previewPlan',
  area,
  method: 'post',
  asks: true,
  path: '/pledges/preview',
  right: 'pledges.add',
  summary: 'The installments that a plan makes of an amount; nothing is written.',
  body: z.object({ cents: GiftCents, plan: PledgePlan }),
  response: z.object({ rows: z.array(z.object({ due: z.string(), cents: z.number() })) }),
});
export const makePledge = endpoint({
  id: 'makePledge',
  area,
  method: 'post',
  path: '/pledges',
  right: 'pledges.add',
  summary: 'Record a pledge, a grant or an expected match with its installments.',
  body: PledgeDraft,
  response: Written.extend({ id: Id, number: z.string() }),
});
export const changePledge = endpoint({
  id: 'changePledge',
  area,
  method: 'put',
  path: '/pledges/:id',
  right: 'pledges.money',
  summary:
    'Change a pledge, or raise or lower it: more goes onto its last open installment, less comes off the last ones, unless what is left is laid out anew.',
  params: IdParams,
  body: PledgeDraft.pick({
    cents: true,
    pledgedOn: true,
    fundId: true,
    campaignId: true,
    appealId: true,
    note: true,
  }).extend({
    version: z.number(),
    /** How what is open is to be paid; the installments stay, but for the difference, where it is null. */
    plan: PledgePlan.nullable().default(null),
  }),
  response: Written,
});
export const reschedulePledge = endpoint({
  id: 'reschedulePledge',
  area,
  method: 'post',
  path: '/pledges/:id/reschedule',
  right: 'pledges.money',
  summary: 'Lay what is left of a pledge out anew; what was paid or written off stays.',
  params: IdParams,
  body: z.object({ version: z.number(), plan: PledgePlan }),
  response: Written,
});
export const writeOffPledge = endpoint({
  id: 'writeOffPledge',
  area,
  method: 'post',
  path: '/pledges/:id/write-off',
  right: 'pledges.money',
  summary: 'Write the balance or a part of it off, the last installments first unless one is chosen.',
  params: IdParams,
  body: z.object({
    version: z.number(),
    /** The whole balance where it is null. */
    cents: GiftCents.nullable().default(null),
    installmentId: Id.nullable().default(null),
    date: IsoDateText,
    reason: z.string().trim().min(1, 'Say why it is written off.').max(300),
  }),
  response: Written,
});
export const writeOffPledges = endpoint({
  id: 'writeOffPledges',
  area,
  method: 'post',
  path: '/pledges/write-off',
  right: 'pledges.money',
  summary:
    'Write off all that is open of many pledges, as one change set; those of which nothing is open are passed over.',
  body: z.object({
    ids: z.array(Id).min(1, 'No pledge is selected.').max(5000),
    date: IsoDateText,
    reason: z.string().trim().min(1, 'Say why they are written off.').max(300),
  }),
  response: Written.extend({ changed: z.number() }),
});
export const stagePledge = endpoint({
  id: 'stagePledge',
  area,
  method: 'post',
  path: '/pledges/:id/stage',
  right: 'pledges.change',
  summary: 'Move a grant or a match on: awarded (with the amount), claimed, declined.',
  params: IdParams,
  body: z.object({
    version: z.number(),
    stage: keysOf(PLEDGE_STAGES),
    on: IsoDateText,
    /** Of an award that differs from what was asked. */
    cents: GiftCents.optional(),
    plan: PledgePlan.optional(),
  }),
  response: Written,
});

const RecurringPart = z.object({
  weight: z.number().int().positive(),
  fundId: Id,
  campaignId: Id.nullable().default(null),
  appealId: Id.nullable().default(null),
});
export const RecurringDraft = z.object({
  supporterId: Id,
  cents: GiftCents,
  schedule: Schedule,
  until: IsoDateText.nullable().default(null),
  method: z.enum(['card', 'bank', 'cheque', 'cash', 'other']).default('card'),
  /** Funds by shares: each gets its weight out of the sum of weights. */
  parts: z.array(RecurringPart).min(1).max(20),
  /** The till's token for the card, and what a person may see of it. Card numbers never come here. */
  card: z.string().trim().max(60).default(''),
  cardLabel: z.string().trim().max(60).default(''),
  note: z.string().trim().max(1000).default(''),
});
export const RecurringRow = z.object({
  id: Id,
  number: z.string(),
  version: z.number(),
  supporterId: Id,
  supporterName: z.string(),
  cents: z.number(),
  schedule: z.string(),
  start: z.string(),
  until: z.string().nullable(),
  method: z.string(),
  card: z.string(),
  cardLabel: z.string(),
  fund: z.string(),
  state: z.enum(['active', 'paused', 'ended', 'failing', 'to call']),
  next: z.object({ due: z.string(), cents: z.number() }).nullable(),
  /** What the failure was, of one that fails. */
  reason: z.string(),
  yearCents: z.number(),
});
export type RecurringRow = z.infer<typeof RecurringRow>;
export const Recurring = RecurringRow.extend({
  note: z.string(),
  parts: z.array(RecurringPart.extend({ fund: z.string() })),
  amounts: z.array(z.object({ id: Id, from: z.string(), cents: z.number() })),
  pauses: z.array(z.object({ id: Id, from: z.string(), until: z.string().nullable() })),
  expected: z.array(z.object({ due: z.string(), cents: z.number() })),
  charges: z.array(
    z.object({
      id: Id,
      due: z.string(),
      cents: z.number(),
      state: z.string(),
      attempts: z.number(),
      nextOn: z.string().nullable(),
      reason: z.string(),
      giftId: Id.nullable(),
    }),
  ),
});
export type Recurring = z.infer<typeof Recurring>;
export const listRecurring = endpoint({
  id: 'listRecurring',
  area,
  method: 'get',
  path: '/recurring',
  right: 'recurring.see',
  summary: 'Recurring gifts with their next date, those that fail first, and what the next twelve months should bring.',
  query: z.object({
    supporterId: Id.optional(),
    show: z.enum(['all', 'active', 'failing', 'due', 'ended']).default('all'),
  }),
  response: z.object({
    items: z.array(RecurringRow),
    months: z.array(z.object({ month: z.string(), cents: z.number(), gifts: z.number() })),
    sum: z.object({ count: z.number(), yearCents: z.number() }),
  }),
});
export const getRecurring = endpoint({
  id: 'getRecurring',
  area,
  method: 'get',
  path: '/recurring/:id',
  right: 'recurring.see',
  summary: 'One recurring gift: amounts, pauses, charges, and what is expected in the next twelve months.',
  params: IdParams,
  response: Recurring,
});
export const makeRecurring = endpoint({
  id: 'makeRecurring',
  area,
  method: 'post',
  path: '/recurring',
  right: 'recurring.add',
  summary: 'Record a recurring gift. Nothing is a gift until money comes.',
  body: RecurringDraft,
  response: Written.extend({ id: Id, number: z.string() }),
});
export const changeRecurring = endpoint({
  id: 'changeRecurring',
  area,
  method: 'post',
  path: '/recurring/:id',
  right: 'recurring.change',
  summary: 'Change the amount from a day on, pause, go on, end, or take another card.',
  params: IdParams,
  body: z.discriminatedUnion('change', [
    z.object({ change: z.literal('amount'), version: z.number(), from: IsoDateText, cents: GiftCents }),
    z.object({ change: z.literal('pause'), version: z.number(), from: IsoDateText, until: IsoDateText.nullable() }),
    z.object({ change: z.literal('resume'), version: z.number(), on: IsoDateText }),
    z.object({ change: z.literal('end'), version: z.number(), on: IsoDateText }),
    z.object({
      change: z.literal('card'),
      version: z.number(),
      card: z.string().trim().min(1).max(60),
      cardLabel: z.string().trim().max(60),
    }),
  ]),
  response: Written,
});
export const chargeDue = endpoint({
  id: 'chargeDue',
  area,
  method: 'post',
  path: '/recurring/charge',
  right: 'recurring.money',
  summary:
    'Charge through the till what is due by today, and try again what is to be tried. It also runs by itself each morning.',
  response: z.object({ jobId: Id, due: z.number() }),
});
export const retryCharge = endpoint({
  id: 'retryCharge',
  area,
  method: 'post',
  path: '/charges/:id/retry',
  right: 'recurring.money',
  summary: 'Ask again for a charge that failed, now.',
  params: IdParams,
  response: z.object({ jobId: Id }),
});
export const skipCharge = endpoint({
  id: 'skipCharge',
  area,
  method: 'post',
  path: '/charges/:id/skip',
  right: 'recurring.money',
  summary: 'Give a charge that failed up; nothing is asked for that date any more.',
  params: IdParams,
  response: Written,
});
export const cardEvent = endpoint({
  id: 'cardEvent',
  area,
  method: 'post',
  path: '/card-processor/events',
  right: 'public',
  summary:
    'What the till reports of its own accord, signed in the header Till-Signature; the same event twice does nothing twice.',
  consumes: 'application/json',
  signed: true,
  response: z.object({ ok: z.boolean() }),
});
