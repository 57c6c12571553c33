import { z } from 'zod';
import { Id, tableOf } from './common.ts';
import { endpoint } from './endpoint.ts';

const area = 'duplicates';

/** So many records are merged at once. */
export const MOST_MERGED = 50;

/** Whose value of a field is kept, by the field's key; what is not named is as it is proposed. */
const Choices = tableOf(Id, 500, 40);

export const Figures = z.object({
  gifts: z.number(),
  cents: z.number(),
  firstOn: z.string().nullable(),
  lastOn: z.string().nullable(),
});
export type Figures = z.infer<typeof Figures>;

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
  }),
  response: z.object({ revision: z.number().nullable(), id: Id }),
});
