import { REASONS, RULE_FIELDS, RULE_HOWS } from '@tallystick/core/duplicates';
import type { RuleField } from '@tallystick/core/duplicates';
import { z } from 'zod';
import { Cents, Id, keysOf, tableOf } from './common.ts';
import { endpoint } from './endpoint.ts';

const area = 'duplicates';

/** So many records are merged at once. */
export const MOST_MERGED = 50;

/** Whose value of a field is kept, by the field's key; what is not named is as it is proposed. */
const Choices = tableOf(Id, 500, 40);
/** What is written in place of what any of them has, by the key of a field that says `typed`. */
const Typed = tableOf(z.string().trim().max(120), 40, 40);

export const Figures = z.object({
  gifts: z.number(),
  cents: z.number(),
  firstOn: z.string().nullable(),
  lastOn: z.string().nullable(),
});
export type Figures = z.infer<typeof Figures>;
/** Of who gave nothing. */
export const NO_GIFTS: Figures = { gifts: 0, cents: 0, firstOn: null, lastOn: null };

const Merged = z.object({ id: Id, number: z.string(), name: z.string(), version: z.number(), given: Figures });

/** A field of which the records may say different things. */
const Field = z.object({
  key: z.string(),
  label: z.string(),
  /** What each record has, in the order of the records; empty where it has nothing. */
  sides: z.array(z.object({ id: Id, shown: z.string() })),
  /** True where two records have different values; of others there is nothing to choose. */
  differs: z.boolean(),
  /** The record whose value is kept: as it was chosen, else as proposed. */
  from: Id,
  proposed: Id,
  /** Why it is proposed, as `it is the newest`; empty where nothing has to be chosen. */
  why: z.string(),
  /** True where the values of all are kept together. */
  together: z.boolean(),
  /** What is written in their place; null where nothing is, absent where nothing can be. */
  typed: z.string().nullable().optional(),
});

/** What comes to the record that stays. */
const Carried = z.object({
  /** As `3 gifts`. */
  says: z.string(),
  many: z.number(),
});

export const Comparison = z.object({
  /** The one that stays, and why it is proposed. */
  into: Id,
  why: z.string(),
  kind: z.string(),
  records: z.array(Merged),
  /** Those that differ first. */
  fields: z.array(Field),
  carried: z.array(Carried),
  /** What a person should think of before, as sentences. */
  doubts: z.array(z.string()),
  result: z.object({ name: z.string(), wishes: z.array(z.string()), given: Figures }),
});
export type Comparison = z.infer<typeof Comparison>;

const Two = 'Choose two records or more.';
export const compareRecords = endpoint({
  id: 'compareRecords',
  area,
  method: 'post',
  asks: true,
  path: '/duplicates/compare',
  right: 'duplicates.change',
  summary:
    'Records that may be one, field by field, and what merging them would make, worked out by merging them and taking it back; nothing is written.',
  body: z.object({
    ids: z.array(Id).min(2, Two).max(MOST_MERGED, `At most ${MOST_MERGED} records are merged at once.`),
    /** Which stays; as proposed where it is left out. */
    into: Id.nullable().default(null),
    choices: Choices.default({}),
    typed: Typed.default({}),
  }),
  response: Comparison,
});

export const mergeRecords = endpoint({
  id: 'mergeRecords',
  area,
  method: 'post',
  path: '/duplicates/merge',
  right: 'duplicates.change',
  summary:
    'Merge records into one of them, as one change set that can be undone at any time. Their numbers lead to it from then on. A record that was changed since it was looked at is refused (409).',
  body: z.object({
    into: Id,
    records: z
      .array(z.object({ id: Id, version: z.number().int() }))
      .min(2, Two)
      .max(MOST_MERGED, `At most ${MOST_MERGED} records are merged at once.`),
    choices: Choices.default({}),
    typed: Typed.default({}),
  }),
  response: z.object({ revision: z.number().nullable(), id: Id }),
});

const RulePart = z.object({
  field: z.enum(Object.keys(RULE_FIELDS) as [RuleField, ...RuleField[]]),
  how: z.enum(RULE_HOWS).default('exactly'),
  /** With `letters`: in how many first letters. */
  letters: z.number().int().min(1).max(10).default(3),
});
/** By likeness, or by what must agree. */
export const GroupsAsked = z.object({
  rule: z.array(RulePart).min(1, 'Choose what must agree.').max(9).nullable().default(null),
  /** Only groups of which two agree in this. */
  reason: keysOf(REASONS).nullable().default(null),
  size: z.enum(['any', 'two', 'more']).default('any'),
  /** Only groups whose records gave so much together, in cents. */
  least: Cents.default(0),
  order: z.enum(['surest', 'money', 'largest']).default('surest'),
  from: z.number().int().min(0).max(1_000_000).default(0),
  limit: z.number().int().min(1).max(100).default(30),
});
export type GroupsAsked = z.input<typeof GroupsAsked>;

const Member = z.object({
  id: Id,
  number: z.string(),
  name: z.string(),
  email: z.string(),
  phone: z.string(),
  address: z.string(),
  given: Figures,
});
export const AlikeGroup = z.object({
  members: z.array(Member),
  /** 0 to 100: of its least likely link. */
  chance: z.number(),
  /** Why, in words, of the surest two; what differs stands last. */
  reasons: z.array(z.string()),
  cents: z.number(),
});
export type AlikeGroup = z.infer<typeof AlikeGroup>;
export const listAlike = endpoint({
  id: 'listAlike',
  area,
  method: 'post',
  asks: true,
  path: '/duplicates/groups',
  right: 'duplicates.see',
  summary:
    'Groups of records that look alike, or that agree in what is chosen, without those that were said to be different. Looking alike is told of as far as it was looked for.',
  body: GroupsAsked,
  response: z.object({
    /** How many records were looked at of how many; null where nobody looked yet. */
    progress: z.object({ done: z.number(), of: z.number() }).nullable(),
    total: z.number(),
    records: z.number(),
    /** How many groups by rule are left out, since more than fifty records agree. */
    tooLarge: z.number(),
    items: z.array(AlikeGroup),
  }),
});

export const lookForAlike = endpoint({
  id: 'lookForAlike',
  area,
  method: 'post',
  path: '/duplicates/search',
  right: 'duplicates.change',
  summary: 'Look through all records for those that look alike; a job, which can be stopped and goes on where it was.',
  response: z.object({ jobId: Id }),
});

export const sayNotSame = endpoint({
  id: 'sayNotSame',
  area,
  method: 'post',
  path: '/duplicates/not-same',
  right: 'duplicates.change',
  summary: 'Say that none of these records is another of them: they are not proposed as one again, until it is undone.',
  body: z.object({ ids: z.array(Id).min(2, Two).max(20) }),
  response: z.object({ revision: z.number().nullable() }),
});

export const mergeSure = endpoint({
  id: 'mergeSure',
  area,
  method: 'post',
  path: '/duplicates/merge-sure',
  right: 'duplicates.change',
  summary:
    'Merge every group that is likely enough and against which nothing speaks, as proposed, each as a change set of its own; a job. A rehearsal does the same and keeps nothing.',
  body: z.object({ least: z.number().min(90).max(100).default(99), rehearsed: z.boolean().default(true) }),
  response: z.object({ jobId: Id }),
});
export const undoMerged = endpoint({
  id: 'undoMerged',
  area,
  method: 'post',
  path: '/duplicates/merge-sure/:id/undo',
  right: 'duplicates.change',
  summary: 'Take back all that a job merged, by its number; a job. What cannot be taken back stays, and is told.',
  params: z.object({ id: Id }),
  response: z.object({ jobId: Id }),
});
