import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Id, IdParams, Paging, pageOf, Written } from './common.ts';

export const SUPPORTER_KINDS = ['person', 'household', 'organization'] as const;
const Name = (max = 120) => z.string().trim().max(max, `At most ${max} characters.`).default('');
const Label = z.string().trim().max(40).default('home');

/** A way to reach a supporter; `id` is absent for one not yet stored. */
export const EmailDraft = z.object({
  id: Id.optional(),
  address: z.string().trim().toLowerCase().max(254).email('This is not an e-mail address.'),
  label: Label,
  preferred: z.boolean().default(false),
});
export const PhoneDraft = z.object({
  id: Id.optional(),
  number: z.string().trim().min(3, 'A telephone number has at least 3 digits.').max(40),
  label: Label,
  preferred: z.boolean().default(false),
});
export const AddressDraft = z.object({
  id: Id.optional(),
  street: Name(200),
  city: Name(100),
  region: Name(60),
  postal: Name(20),
  country: Name(60),
  label: Label,
  preferred: z.boolean().default(false),
});

export const SupporterDraft = z
  .object({
    kind: z.enum(SUPPORTER_KINDS).default('person'),
    prefix: Name(30),
    first: Name(),
    middle: Name(),
    last: Name(),
    suffix: Name(30),
    organization: Name(),
    noEmail: z.boolean().default(false),
    deceased: z.boolean().default(false),
    emails: z.array(EmailDraft).max(20).default([]),
    phones: z.array(PhoneDraft).max(20).default([]),
    addresses: z.array(AddressDraft).max(20).default([]),
    tags: z.array(z.string().trim().min(1).max(60)).max(100).default([]),
  })
  .superRefine((draft, context) => {
    if (draft.kind === 'person' && draft.first === '' && draft.last === '')
      context.addIssue({ code: 'custom', path: ['last'], message: 'A person has a first or a last name.' });
    if (draft.kind !== 'person' && draft.organization === '')
      context.addIssue({ code: 'custom', path: ['organization'], message: 'The name is missing.' });
  });
export type SupporterDraft = z.infer<typeof SupporterDraft>;
export type SupporterDraftInput = z.input<typeof SupporterDraft>;

/** A supporter's giving in cents and dates. */
export const Giving = z.object({
  lifetime: z.number(),
  thisYear: z.number(),
  lastYear: z.number(),
  count: z.number(),
  largest: z.number(),
  first: z.string().nullable(),
  last: z.string().nullable(),
});
export type Giving = z.infer<typeof Giving>;

export const TallyGift = z.object({ id: Id, date: z.string(), cents: z.number(), answeredOn: z.string().nullable() });

export const Supporter = z.object({
  id: Id,
  number: z.string(),
  name: z.string(),
  version: z.number(),
  kind: z.enum(SUPPORTER_KINDS),
  prefix: z.string(),
  first: z.string(),
  middle: z.string(),
  last: z.string(),
  suffix: z.string(),
  organization: z.string(),
  noEmail: z.boolean(),
  deceased: z.boolean(),
  trashed: z.boolean(),
  emails: z.array(
    z.object({
      id: Id,
      address: z.string(),
      label: z.string(),
      preferred: z.boolean(),
      bouncedOn: z.string().nullable(),
    }),
  ),
  phones: z.array(z.object({ id: Id, number: z.string(), label: z.string(), preferred: z.boolean() })),
  addresses: z.array(
    z.object({
      id: Id,
      street: z.string(),
      city: z.string(),
      region: z.string(),
      postal: z.string(),
      country: z.string(),
      label: z.string(),
      preferred: z.boolean(),
    }),
  ),
  tags: z.array(z.string()),
  giving: Giving,
  tally: z.array(TallyGift),
});
export type Supporter = z.infer<typeof Supporter>;

export const SupporterRow = z.object({
  id: Id,
  number: z.string(),
  name: z.string(),
  kind: z.enum(SUPPORTER_KINDS),
  email: z.string().nullable(),
  phone: z.string().nullable(),
  city: z.string(),
  region: z.string(),
  noEmail: z.boolean(),
  deceased: z.boolean(),
  giving: Giving,
});
export type SupporterRow = z.infer<typeof SupporterRow>;

const area = 'supporters';
export const listSupporters = endpoint({
  id: 'listSupporters',
  area,
  method: 'get',
  path: '/supporters',
  role: 'read',
  summary: 'Supporters, found by the beginnings of name words, number, e-mail or last digits of a telephone number.',
  query: Paging.extend({
    q: z.string().max(200).optional(),
    kind: z.enum(SUPPORTER_KINDS).optional(),
    sort: z.enum(['name', '-name', 'number', '-number']).default('name'),
  }),
  response: pageOf(SupporterRow),
});
export const getSupporter = endpoint({
  id: 'getSupporter',
  area,
  method: 'get',
  path: '/supporters/:id',
  role: 'read',
  summary: 'One supporter with contact details, giving and tally.',
  params: IdParams,
  response: Supporter,
});
export const createSupporter = endpoint({
  id: 'createSupporter',
  area,
  method: 'post',
  path: '/supporters',
  role: 'entry',
  summary: 'Add a supporter.',
  body: SupporterDraft,
  response: Written.extend({ id: Id }),
});
export const updateSupporter = endpoint({
  id: 'updateSupporter',
  area,
  method: 'put',
  path: '/supporters/:id',
  role: 'officer',
  summary:
    'Change a supporter. `version` is the one it was read at; a stale one is refused (409) with what changed since.',
  params: IdParams,
  body: z.object({ version: z.number().int(), draft: SupporterDraft }),
  response: Written,
});
export const listSupporterHistory = endpoint({
  id: 'listSupporterHistory',
  area,
  method: 'get',
  path: '/supporters/:id/history',
  role: 'read',
  summary: 'Everything that happened to a record, newest first, in words.',
  params: IdParams,
  query: Paging,
  response: z.object({
    items: z.array(
      z.object({
        revision: z.number(),
        at: z.string(),
        by: z.string(),
        kind: z.string(),
        summary: z.string(),
        lines: z.array(z.string()),
        undoneBy: z.number().nullable(),
        undoable: z.boolean(),
      }),
    ),
    next: z.string().nullable(),
  }),
});
export const listSupporterDeliveries = endpoint({
  id: 'listSupporterDeliveries',
  area,
  method: 'get',
  path: '/supporters/:id/correspondence',
  role: 'read',
  summary: 'What was sent to a supporter, newest first.',
  params: IdParams,
  response: z.object({
    items: z.array(
      z.object({
        id: Id,
        at: z.string(),
        channel: z.enum(['email', 'print']),
        subject: z.string(),
        state: z.string(),
        detail: z.string(),
        address: z.string(),
        mailingId: z.number().nullable(),
        receiptId: z.number().nullable(),
      }),
    ),
  }),
});
