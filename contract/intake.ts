import {
  isIntakeColumn,
  LOOKED_UP_BY,
  MATCH_FIELDS,
  MOST_MADE,
  POLICIES,
  POLICY_PARTS,
  USUAL_MATCHING,
} from '@tallystick/core/intake';
import type { IntakeColumn } from '@tallystick/core/intake';
import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Cents, Id, IdParams, keysOf, pageOf, Paging, Written } from './common.ts';

/** A field of ours, or a custom field as `field:12`. */
export const Field = z.custom<IntakeColumn>(
  (value) => typeof value === 'string' && isIntakeColumn(value),
  'There is no such field.',
);
/** A file has so many columns at most. */
export const MOST_COLUMNS = 200;
/** So many rows are decided one by one at most. */
export const MOST_PICKS = 20_000;
/** So many values of a column are translated, and so long they are, at most. */
export const MOST_VALUES = 2_000;
const LONGEST_VALUE = 1_000;
const Translations = z
  .record(z.string().max(LONGEST_VALUE), z.string().max(LONGEST_VALUE))
  .refine((all) => Object.keys(all).length <= MOST_VALUES, `At most ${MOST_VALUES} values of a column are translated.`);
/** What is done to the cells of a column before they are read. */
export const ColumnCare = z.object({
  /** The label of an e-mail, telephone or address. */
  label: z.string().max(40).optional(),
  /** Whether what is all in capitals, or all in small letters, is written as names are. */
  names: z.boolean().optional(),
  /** What a value stands for; the empty text stands for nothing. */
  translate: Translations.optional(),
  /** What an empty cell stands for. */
  otherwise: z.string().max(LONGEST_VALUE).optional(),
});
const PolicyName = z.enum(POLICIES);
/** What becomes of the record of somebody who is here, by the part of it; `all` where a part has none of its own. */
export const IntakePolicies = z.object({
  all: PolicyName,
  ...Object.fromEntries(POLICY_PARTS.map((part) => [part, PolicyName.optional()])),
} as { all: typeof PolicyName } & { [P in (typeof POLICY_PARTS)[number]]: z.ZodOptional<typeof PolicyName> });
/** How rows that have no number find their supporters: by what must agree, or by how alike they are. */
export const IntakeMatching = z
  .object({
    fields: z.array(keysOf(MATCH_FIELDS)).max(Object.keys(MATCH_FIELDS).length),
    sure: z.number().int().min(0).max(100),
    perhaps: z.number().int().min(0).max(100),
  })
  .refine(({ sure, perhaps }) => perhaps <= sure, 'What is asked about cannot be more alike than what is sure.')
  .refine(
    ({ fields }) => fields.length === 0 || fields.some((field) => LOOKED_UP_BY.includes(field)),
    'A last name, an organization or an e-mail must be among what has to agree.',
  );
/** What stands between the parts of a column, and which part is meant; null: several columns joined. */
const Making = {
  sign: z.string().max(10),
  part: z.union([z.number().int().min(-9).max(9), z.literal('rest')]).nullable(),
};
/** A column made of others by their places, those of the file or made before it. */
const Made = z.object({
  name: z.string().trim().min(1).max(80),
  from: z
    .array(
      z
        .number()
        .int()
        .min(0)
        .max(MOST_COLUMNS + MOST_MADE),
    )
    .min(1)
    .max(10),
  ...Making,
});
export const IntakeSetting = z.object({
  /** Where the columns of the file go, and after them those that are made. */
  columns: z.array(Field.nullable()).max(MOST_COLUMNS + MOST_MADE),
  made: z.array(Made).max(MOST_MADE).default([]),
  decimal: z.enum(['.', ',']),
  /** Null: as the column itself says. */
  dateOrder: z.enum(['mdy', 'dmy']).nullable(),
  fundId: Id,
  /** Whether the first row holds headings; null while that is open. */
  headed: z.boolean().nullable().default(true),
  /** The encoding that its letters are read in, one of its readings; null while that is open, or where it has none. */
  encoding: z.string().max(40).nullable().default(null),
  /** The first row of the table, counted from 1; what stands above it is left out. 0 where the format says the headings. */
  startRow: z.number().int().min(0).max(1_000_000).default(1),
  /** By the place of the column in the file, counted from 0. */
  care: z
    .record(z.string().max(3).regex(/^\d+$/), ColumnCare)
    .refine((all) => Object.keys(all).length <= MOST_COLUMNS, `At most ${MOST_COLUMNS} columns.`)
    .default({}),
  /** What is the same for all rows and stands in no column, by its place. */
  same: z
    .record(z.string().max(40), z.string().max(LONGEST_VALUE))
    .refine((all) => Object.keys(all).length <= 60, 'At most 60 values are the same for all rows.')
    .refine((all) => Object.keys(all).every(isIntakeColumn), 'There is no such field.')
    .default({}),
  /** Where the file comes from: their numbers there, and whom a person chose for its rows, are known by it. */
  source: z.string().trim().max(60).default(''),
  policies: IntakePolicies.default({ all: 'fill' }),
  matching: IntakeMatching.default({ ...USUAL_MATCHING, fields: [] }),
  /** Whether rows of those who are here are brought in, and rows of those who are not. */
  known: z.enum(['use', 'skip']).default('use'),
  strangers: z.enum(['add', 'skip']).default('add'),
  /** What cells of the file were changed to, by row and column: `12:3`. */
  edits: z
    .record(
      z
        .string()
        .max(12)
        .regex(/^\d+:\d+$/),
      z.string().max(LONGEST_VALUE),
    )
    .refine((edits) => Object.keys(edits).length <= MOST_PICKS, `At most ${MOST_PICKS} cells are changed one by one.`)
    .default({}),
  /** What the file should come to, as whoever sent it says; null where that is not looked at. */
  expects: z
    .object({ gifts: z.number().int().min(0).max(1_000_000).nullable(), cents: Cents.nullable() })
    .default({ gifts: null, cents: null }),
  /** Columns without a place are left out knowingly. */
  leaveRest: z.boolean().default(false),
  /** What a person chose for rows, by their place in the file: a supporter by number, somebody new, or to leave it out. */
  picks: z
    .record(z.string().max(7).regex(/^\d+$/), z.union([Id, z.enum(['new', 'skip'])]))
    .refine((picks) => Object.keys(picks).length <= MOST_PICKS, `At most ${MOST_PICKS} rows are decided one by one.`)
    .default({}),
});
export type IntakeSetting = z.infer<typeof IntakeSetting>;
const {
  columns: _columns,
  made: _made,
  care: _care,
  picks: _picks,
  edits: _edits,
  expects: _expects,
  ...shared
} = IntakeSetting.shape;
const { startRow: _startRow, headed: _headed, encoding: _encoding, ...ofRecipe } = shared;
const RecipeColumn = z.object({
  heading: z.string().max(LONGEST_VALUE),
  to: Field.nullable(),
  care: ColumnCare.default({}),
});
/** How files from one source are read: where columns go by what stands over them, and what is decided for all rows. */
export const IntakeRecipe = z.object({
  ...ofRecipe,
  columns: z.array(RecipeColumn).min(1).max(MOST_COLUMNS),
  /** Columns made of others, by what stands over those. */
  made: z
    .array(RecipeColumn.extend({ from: z.array(z.string().max(LONGEST_VALUE)).min(1).max(10), ...Making }))
    .max(MOST_MADE)
    .default([]),
});
/** A recipe that is brought: what is not known of it was written by a newer version, and is never passed over. */
export const GivenRecipe = z.strictObject({
  ...IntakeRecipe.shape,
  columns: z
    .array(z.strictObject({ ...RecipeColumn.shape, care: ColumnCare.strict().default({}) }))
    .min(1)
    .max(MOST_COLUMNS),
});
export const KeptRecipe = z.object({
  id: Id,
  version: z.number(),
  name: z.string(),
  by: z.string(),
  recipe: IntakeRecipe,
});
export const Intake = z.object({
  id: Id,
  version: z.number(),
  name: z.string(),
  at: z.string(),
  by: z.string(),
  state: z.enum(['open', 'posted']),
  /** What its letters are read in as things stand. */
  encoding: z.string(),
  separator: z.string(),
  format: z.enum(['text', 'workbook', 'cards', 'objects']),
  headings: z.array(z.string()),
  rows: z.number(),
  setting: IntakeSetting,
  /** The recipe that it is read by, or that knows most of its columns; with what the file has otherwise. */
  recipe: z
    .object({
      ...{ id: Id, name: z.string(), used: z.boolean() },
      ...{ fresh: z.array(z.string()), missing: z.array(z.string()) },
    })
    .nullable(),
  /** What was written when it was brought in, in words; null before. */
  report: z.string().nullable(),
  revision: z.number().nullable(),
});
export type Intake = z.infer<typeof Intake>;
export const VERDICTS = ['new', 'known', 'bad', 'undecided', 'already', 'skipped'] as const;
const Said = z.object({
  ...{ field: Field.nullable(), value: z.string(), reason: z.string() },
  /** What the cell would be better written as. */
  better: z.string().optional(),
});
export const IntakeRow = z.object({
  row: z.number(),
  cells: z.array(z.string()),
  verdict: z.enum(VERDICTS),
  says: z.string(),
  supporterId: z.number().nullable(),
  /** Whom the row may belong to and why: of an undecided one all, of a new one who has its very name. */
  candidates: z.array(z.object({ id: z.number(), name: z.string(), reasons: z.array(z.string()) })),
  problems: z.array(Said),
  /** What deserves a look, though the row is brought in. */
  warnings: z.array(Said),
  /** What cells are read as after their clean-up, where that is something else, by the place of the column. */
  read: z.record(z.string(), z.string()),
  /**
   * What the row says otherwise than the record of its supporter; `kept` where ours stays, `conflict` where a list that
   * comes back was changed and ours was too.
   */
  changes: z.array(
    z.object({ field: Field, before: z.string(), after: z.string(), kept: z.boolean(), conflict: z.boolean() }),
  ),
});
export type IntakeRow = z.infer<typeof IntakeRow>;
export const IntakeCounts = z.object({
  new: z.number(),
  known: z.number(),
  bad: z.number(),
  undecided: z.number(),
  already: z.number(),
  skipped: z.number(),
  /** Rows that are brought in and deserve a look before. */
  look: z.number(),
  /** Rows that change a record, and rows of which something is not taken because ours is kept. */
  changes: z.number(),
  differs: z.number(),
  newSupporters: z.number(),
  gifts: z.number(),
  cents: z.number(),
});
const area = 'intake';
export const listIntakes = endpoint({
  id: 'listIntakes',
  area,
  method: 'get',
  path: '/intakes',
  right: 'intakes.see',
  summary: 'Intakes, newest first.',
  query: Paging,
  response: pageOf(Intake),
});
export const uploadIntake = endpoint({
  id: 'uploadIntake',
  area,
  method: 'post',
  path: '/intakes',
  right: 'intakes.add',
  consumes: 'application/octet-stream',
  summary:
    'Bring a file (its bytes as the body, 50 MB at most): delimited text, an XLSX workbook, vCards, or a JSON object a line. Of a workbook with several sheets the wanted one is named; without that the answer is 409 with their names.',
  query: z.object({ name: z.string().min(1).max(190), sheet: z.string().max(190).optional() }),
  response: Intake,
});
export const getIntake = endpoint({
  id: 'getIntake',
  area,
  method: 'get',
  path: '/intakes/:id',
  right: 'intakes.see',
  summary: 'One intake.',
  params: IdParams,
  response: Intake,
});
export const changeIntake = endpoint({
  id: 'changeIntake',
  area,
  method: 'put',
  path: '/intakes/:id',
  right: 'intakes.change',
  summary: 'Change where columns go and how they are read.',
  params: IdParams,
  body: z.object({
    version: z.number().int(),
    setting: IntakeSetting,
    /** The recipe that the setting was made by, if it was. */
    recipeId: Id.optional(),
  }),
  response: Written,
});
export const previewIntake = endpoint({
  id: 'previewIntake',
  area,
  method: 'get',
  path: '/intakes/:id/rows',
  right: 'intakes.see',
  summary: 'What would become of each row, with the counts over all.',
  params: IdParams,
  query: Paging.extend({ verdict: z.enum([...VERDICTS, 'look', 'changes', 'differs']).optional() }),
  response: z.object({
    items: z.array(IntakeRow),
    next: z.string().nullable(),
    total: z.number(),
    counts: IntakeCounts,
    /** What must be said before anything is brought in. */
    questions: z.array(
      z.object({ about: z.enum(['headings', 'encoding', 'dates', 'columns', 'source', 'totals']), says: z.string() }),
    ),
    /** What is odd about the file, in words. */
    remarks: z.array(z.string()),
    /** The encodings that it may be in, each with words that tell it from the others. */
    readings: z.array(z.object({ encoding: z.string(), words: z.array(z.string()) })),
    /** The order of dates in numbers as the column says itself, and why. */
    dates: z.object({ order: z.enum(['mdy', 'dmy']).nullable(), says: z.string().nullable() }),
  }),
});
export const besideIntake = endpoint({
  id: 'besideIntake',
  area,
  method: 'get',
  path: '/intakes/:id/rows/:row/beside/:supporterId',
  right: 'intakes.see',
  summary: 'A row of a file beside a supporter whose it may be: what each says of name, e-mail, telephone and address.',
  params: z.object({ id: Id, row: z.coerce.number().int().min(1), supporterId: Id }),
  response: z.object({
    ...{ id: Id, number: z.string(), name: z.string() },
    parts: z.array(z.object({ part: z.string(), file: z.string(), ours: z.string(), agrees: z.boolean().nullable() })),
  }),
});
export const intakeColumns = endpoint({
  id: 'intakeColumns',
  area,
  method: 'get',
  path: '/intakes/:id/columns',
  right: 'intakes.see',
  summary:
    'What each column of the file holds: samples, how many cells are filled and differ, and its values where they are few.',
  params: IdParams,
  response: z.object({
    items: z.array(
      z.object({
        heading: z.string(),
        filled: z.number(),
        distinct: z.number(),
        samples: z.array(z.string()),
        /** Each value with how many rows have it, and why it cannot be read where that is so; those first. */
        values: z.array(z.object({ value: z.string(), many: z.number(), reason: z.string().nullable() })),
        /** Whether there are more values than are listed. */
        more: z.boolean(),
        /** Where it would go by what it holds. */
        likely: Field.nullable(),
      }),
    ),
  }),
});
export const badRowsCsv = endpoint({
  id: 'badRowsCsv',
  area,
  method: 'get',
  path: '/intakes/:id/left-out.csv',
  right: 'intakes.see',
  logs: 'export',
  produces: 'text/csv',
  summary: 'The rows that are not brought in, as they were, with row, field and reason.',
  params: IdParams,
  response: z.string(),
});
export const postIntake = endpoint({
  id: 'postIntake',
  area,
  method: 'post',
  path: '/intakes/:id/post',
  right: 'intakes.money',
  summary: 'Bring the good rows in, all in one change set, as a job.',
  params: IdParams,
  response: z.object({ jobId: Id }),
});
export const rehearseIntake = endpoint({
  id: 'rehearseIntake',
  area,
  method: 'post',
  path: '/intakes/:id/rehearse',
  right: 'intakes.money',
  summary: 'Bring the good rows in as a job and take all of it back at once: the report says what would be written.',
  params: IdParams,
  response: z.object({ jobId: Id }),
});
export const listRecipes = endpoint({
  id: 'listRecipes',
  area,
  method: 'get',
  path: '/intake-recipes',
  right: 'intakes.see',
  summary: 'How files of each known source are read.',
  response: z.object({ items: z.array(KeptRecipe) }),
});
export const saveRecipe = endpoint({
  id: 'saveRecipe',
  area,
  method: 'post',
  path: '/intake-recipes',
  right: 'intakes.change',
  summary:
    'Keep how files are read, by a name; one of that name is replaced. Files with the same columns are read by it.',
  body: z.object({ name: z.string().trim().min(1).max(80), recipe: GivenRecipe }),
  response: Written.extend({ id: Id }),
});
export const deleteRecipe = endpoint({
  id: 'deleteRecipe',
  area,
  method: 'delete',
  path: '/intake-recipes/:id',
  right: 'intakes.change',
  summary: 'Delete a recipe; files that were read by it stay as they are.',
  params: IdParams,
  response: Written,
});
export const deleteIntake = endpoint({
  id: 'deleteIntake',
  area,
  method: 'delete',
  path: '/intakes/:id',
  right: 'intakes.delete',
  summary: 'Throw an uploaded file away that is not brought in.',
  params: IdParams,
  response: Written,
});
