import { isBirthday } from '@tallystick/core/dates';
import { isSeasonDay } from '@tallystick/core/contact';
import { FORMS, normalEmail } from '@tallystick/core/names';
import type { Form } from '@tallystick/core/names';
import { WISH_NAMES } from '@tallystick/core/wishes';
import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import {
  Cell,
  Id,
  IdParams,
  IsoDateText,
  Paging,
  pageOf,
  Written,
  TypedFields,
  TypedValue,
  sortedBy,
} from './common.ts';
import { TOPICS } from '@tallystick/core/history';
import { KIND_NAMES, ORGANIZATION_KINDS } from '@tallystick/core/supporters';

const Name = (max = 120) => z.string().trim().max(max, `At most ${max} characters.`).default('');
const Label = z.string().trim().min(1).max(40).default('home');
const MaybeDate = IsoDateText.nullable().default(null);
const SeasonDay = z
  .string()
  .refine(isSeasonDay, 'This is not a day of the year; write it as 11-01.')
  .nullable()
  .default(null);

/** What every way to reach a supporter has; `id` is absent for one not yet stored. */
const way = {
  id: Id.optional(),
  label: Label,
  preferred: z.boolean().default(false),
  validFrom: MaybeDate,
  validTo: MaybeDate,
  /** Since when nothing arrives there, and why. */
  badOn: MaybeDate,
  badReason: Name(60),
};
const EMAIL_FAULT = 'This is not an e-mail address.';
export const EmailDraft = z.object({
  ...way,
  address: z
    .string()
    .trim()
    .max(254)
    .refine((address) => normalEmail(address) !== null, EMAIL_FAULT)
    .transform((address) => normalEmail(address) ?? address),
});
export const PhoneDraft = z.object({
  ...way,
  number: z.string().trim().min(3, 'A telephone number has at least 3 digits.').max(40),
});
export const AddressDraft = z
  .object({
    ...way,
    street: Name(200),
    city: Name(100),
    region: Name(60),
    postal: Name(20),
    country: Name(60),
    seasonFrom: SeasonDay,
    seasonTo: SeasonDay,
  })
  .refine((address) => (address.seasonFrom === null) === (address.seasonTo === null), {
    path: ['seasonTo'],
    message: 'A season has a first and a last day.',
  });
export const WishDraft = z.object({
  kind: z.enum(WISH_NAMES),
  /** Since when, today where it is left out. */
  since: MaybeDate,
  source: Name(120),
  /** Of `deceased` the day of death, where it is known. */
  happenedOn: MaybeDate,
});
/** Someone in a household: a supporter already here, or a full name to be split and added. */
export const MemberDraft = z.object({
  id: Id.nullable().default(null),
  name: Name(200),
  primary: z.boolean().default(false),
});

const draftShape = {
  kind: z.enum(KIND_NAMES).default('person'),
  prefix: Name(30),
  first: Name(),
  middle: Name(),
  last: Name(),
  suffix: Name(30),
  nickname: Name(),
  formerLast: Name(),
  organization: Name(),
  orgKind: z.enum(['', ...ORGANIZATION_KINDS]).default(''),
  birthday: z
    .string()
    .max(10)
    .refine(
      (text) => text === '' || isBirthday(text),
      'This is not a birthday; write 1961-03-14, or --03-14 without the year.',
    )
    .default(''),
  emails: z.array(EmailDraft).max(100).default([]),
  phones: z.array(PhoneDraft).max(100).default([]),
  addresses: z.array(AddressDraft).max(100).default([]),
  tags: z.array(z.string().trim().min(1).max(60)).max(100).default([]),
  /** What is left out of the following stays as it is. */
  wishes: z.array(WishDraft).max(WISH_NAMES.length).optional(),
  /** Texts put in the place of what the rules say; an empty one goes back to the rules. */
  addressing: z.partialRecord(z.enum(Object.keys(FORMS) as [Form, ...Form[]]), z.string().trim().max(200)).optional(),
  /** Values of custom fields by the field's id, as typed; empty takes a value away. */
  fields: TypedFields.optional(),
  householdId: Id.nullable().optional(),
  members: z.array(MemberDraft).max(30).optional(),
};
export const SupporterDraft = z.object(draftShape).superRefine((draft, context) => {
  if (draft.kind === 'person' && draft.first === '' && draft.last === '')
    context.addIssue({ code: 'custom', path: ['last'], message: 'A person has a first or a last name.' });
  if (draft.kind !== 'person' && draft.organization === '')
    context.addIssue({ code: 'custom', path: ['organization'], message: 'The name is missing.' });
});
export type SupporterDraft = z.infer<typeof SupporterDraft>;
export type SupporterDraftInput = z.input<typeof SupporterDraft>;

const GivingFigures = z.object({
  lifetime: z.number(),
  thisYear: z.number(),
  lastYear: z.number(),
  count: z.number(),
  largest: z.number(),
  average: z.number(),
  first: z.string().nullable(),
  last: z.string().nullable(),
  bestYear: z.object({ year: z.number(), cents: z.number() }).nullable(),
});
/** A supporter's giving in cents and dates. `household` adds up everyone who shares the home, each gift once. */
export const Giving = GivingFigures.extend({
  household: GivingFigures,
  /** Soft credits: what they are recognised for, each cent once. */
  recognised: z.number(),
});
export type Giving = z.infer<typeof Giving>;

export const TimelineEntry = z.object({
  id: Id,
  kind: z.enum(['gift', 'credit', 'pledge']),
  date: z.string(),
  cents: z.number(),
  acknowledgedOn: z.string().nullable(),
  /** Of a pledge: how much of it is paid, and written off. */
  paid: z.number().optional(),
  writtenOff: z.number().optional(),
});
const Wish = z.enum(WISH_NAMES);

const wayShown = {
  id: Id,
  label: z.string(),
  preferred: z.boolean(),
  validFrom: z.string().nullable(),
  validTo: z.string().nullable(),
  badOn: z.string().nullable(),
  badReason: z.string(),
};
const Addressed = z.object({
  text: z.string(),
  byHand: z.boolean(),
  /** The name changed since the text was written by hand. */
  stale: z.boolean(),
  /** What the rules say. */
  rule: z.string(),
});
export const Someone = z.object({ id: Id, number: z.string(), name: z.string() });
export type Someone = z.infer<typeof Someone>;

export const Supporter = z.object({
  id: Id,
  number: z.string(),
  name: z.string(),
  version: z.number(),
  kind: z.enum(KIND_NAMES),
  prefix: z.string(),
  first: z.string(),
  middle: z.string(),
  last: z.string(),
  suffix: z.string(),
  nickname: z.string(),
  formerLast: z.string(),
  organization: z.string(),
  orgKind: z.enum(['', ...ORGANIZATION_KINDS]),
  birthday: z.string(),
  trashed: z.boolean(),
  addressing: z.object({
    addresseeFormal: Addressed,
    addresseeInformal: Addressed,
    salutationFormal: Addressed,
    salutationInformal: Addressed,
  }),
  wishes: z.array(
    z.object({ kind: Wish, since: z.string(), source: z.string(), by: z.string(), happenedOn: z.string().nullable() }),
  ),
  /** Mailboxes of theirs whose owner asked for no e-mail but receipts; lifted only by an act of its own. */
  refusals: z.array(z.object({ id: Id, address: z.string(), since: z.string(), source: z.string() })),
  emails: z.array(z.object({ ...wayShown, address: z.string() })),
  phones: z.array(z.object({ ...wayShown, number: z.string() })),
  addresses: z.array(
    z.object({
      ...wayShown,
      street: z.string(),
      city: z.string(),
      region: z.string(),
      postal: z.string(),
      country: z.string(),
      seasonFrom: z.string().nullable(),
      seasonTo: z.string().nullable(),
    }),
  ),
  /** How to reach them today: the lines of a letter, an e-mail, a telephone; empty or null where there is none. */
  reach: z.object({
    addressId: Id.nullable(),
    lines: z.array(z.string()),
    email: z.string().nullable(),
    phone: z.string().nullable(),
    /** True where nobody is left to be reached: who has died, and a household in which nobody lives any more. */
    deceased: z.boolean(),
  }),
  tags: z.array(z.object({ id: Id, name: z.string(), source: z.string() })),
  groups: z.array(z.object({ id: Id, name: z.string() })),
  /** Their numbers where files come from. */
  elsewhere: z.array(z.object({ number: z.string(), source: z.string() })),
  /** Values of custom fields, as one would type them and as they are read. */
  fields: z.array(z.object({ fieldId: Id, typed: TypedValue, shown: z.string() })),
  household: Someone.extend({ primary: z.boolean() }).nullable(),
  members: z.array(Someone.extend({ primary: z.boolean(), lifetime: z.number() })),
  /** What waits to be done with them. */
  pending: z.object({
    unthanked: z.number(),
    tasks: z.array(z.object({ id: Id, title: z.string(), due: z.string() })),
    /** Pledges with an installment that is late. */
    overdue: z.array(z.object({ pledgeId: Id, number: z.string(), cents: z.number(), since: z.string() })),
    /** Recurring gifts whose charge failed. */
    failing: z.array(z.object({ recurringId: Id, number: z.string(), reason: z.string() })),
  }),
  giving: Giving,
  timeline: z.array(TimelineEntry),
});
export type Supporter = z.infer<typeof Supporter>;

/** The draft that leaves a record as it is: what an edit begins from. */
export function draftOf(record: Supporter): SupporterDraft {
  const { addressing, fields, household, tags, wishes, members } = record;
  const byHand = Object.entries(addressing).flatMap(([form, { text, byHand: own }]) =>
    own ? [[form, text] as const] : [],
  );
  return SupporterDraft.parse({
    ...record,
    tags: tags.map((tag) => tag.name),
    wishes: wishes.map(({ kind, since, source, happenedOn }) => ({ kind, since, source, happenedOn })),
    addressing: Object.fromEntries(byHand),
    fields: Object.fromEntries(fields.map((field) => [field.fieldId, field.typed])),
    householdId: household?.id ?? null,
    members: record.kind === 'household' ? members.map(({ id, primary }) => ({ id, name: '', primary })) : [],
  });
}

export const SupporterRow = z.object({
  id: Id,
  number: z.string(),
  name: z.string(),
  kind: z.enum(KIND_NAMES),
  email: z.string().nullable(),
  phone: z.string().nullable(),
  street: z.string(),
  city: z.string(),
  region: z.string(),
  postal: z.string(),
  country: z.string(),
  wishes: z.array(Wish),
  tags: z.array(z.string()),
  giving: Giving,
  /** What the columns that were asked for show, in their order. */
  cells: z.array(Cell),
});
export type SupporterRow = z.infer<typeof SupporterRow>;

const area = 'supporters';
/** Who a list shows; the same words choose whom an act on a whole list is about. */
export const ListFilter = z.object({
  q: z.string().max(200).optional(),
  kind: z.enum(KIND_NAMES).optional(),
  segment: Id.optional(),
  tag: Id.optional(),
  group: Id.optional(),
  trashed: z.enum(['yes', 'no']).default('no'),
});
export type ListFilter = z.infer<typeof ListFilter>;
const SORTS = 'name number town state kind lifetime thisYear lastYear count largest average first last household'.split(
  ' ',
);
/** A field of the catalogue as a column. */
const FIELD = 'field:[\\w:-]+';
const GivenSums = z.object({ lifetime: z.number(), thisYear: z.number(), lastYear: z.number(), count: z.number() });
export const listSupporters = endpoint({
  id: 'listSupporters',
  area,
  method: 'get',
  path: '/supporters',
  right: 'supporters.see',
  summary:
    'Supporters, found by words of their names in any order, number, e-mail, street or last digits of a telephone; where few are found, by sound and with slips forgiven. Sorted by up to three columns (`state,-lifetime`) and grouped by one; `columns` adds fields of the catalogue, as `field:birthday`, custom fields as `field:12`.',
  query: Paging.extend({
    ...ListFilter.shape,
    sort: sortedBy([...SORTS, FIELD], 'name'),
    groupBy: z
      .string()
      .regex(new RegExp(`^(kind|state|town|lastYear|${FIELD})$`), 'There is no such column to group by.')
      .optional(),
    columns: z
      .string()
      .regex(new RegExp(`^${FIELD}(,${FIELD}){0,59}$`), 'There is no such column.')
      .optional(),
  }),
  response: pageOf(SupporterRow).extend({
    sum: GivenSums,
    /** Where the page begins, from 0. */
    at: z.number(),
    /** How many of the total are only like what was typed. */
    alike: z.number(),
    groups: z.array(z.object({ key: z.string(), count: z.number(), sum: GivenSums })),
  }),
});
export const getSupporter = endpoint({
  id: 'getSupporter',
  area,
  method: 'get',
  path: '/supporters/:id',
  right: 'supporters.see',
  summary: 'One supporter with contact details, giving, the timeline of gifts, and what is to be done.',
  params: IdParams,
  response: Supporter,
});
export const createSupporter = endpoint({
  id: 'createSupporter',
  area,
  method: 'post',
  path: '/supporters',
  right: 'supporters.add',
  summary: 'Add a supporter.',
  body: SupporterDraft,
  response: Written.extend({ id: Id }),
});
export const updateSupporter = endpoint({
  id: 'updateSupporter',
  area,
  method: 'put',
  path: '/supporters/:id',
  right: 'supporters.change',
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
  right: 'supporters.see',
  summary: 'Everything that happened to a record, newest first, in words.',
  params: IdParams,
  query: Paging.extend({ about: z.enum(TOPICS).optional(), by: z.string().max(120).optional() }),
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
  right: 'supporters.see',
  summary: 'What was sent to a supporter, newest first.',
  params: IdParams,
  query: Paging,
  response: pageOf(
    z.object({
      id: Id,
      at: z.string(),
      channel: z.enum(['email', 'print']),
      subject: z.string(),
      state: z.string(),
      detail: z.string(),
      address: z.string(),
      /** What it was sent with: a mailing, or an issue of receipts, by number. */
      sourceKind: z.string(),
      sourceId: z.number(),
      receiptId: z.number().nullable(),
      /** When it was first seen to be opened. */
      openedAt: z.string().nullable(),
    }),
  ),
});

export const liftRefusal = endpoint({
  id: 'liftRefusal',
  area: 'supporters',
  method: 'post',
  path: '/refusals/:id/lift',
  right: 'supporters.change',
  summary: 'Ends a mailbox’s refusal of e-mail on all records with it, for a reason that is kept.',
  params: IdParams,
  body: z.object({ reason: z.string().trim().min(1, 'Say why.').max(300) }),
  response: Written,
});
