import { INTAKE_FIELDS } from '@tallystick/core/intake';
import type { IntakeColumn } from '@tallystick/core/intake';
import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Id, IdParams, pageOf, Paging, Written } from './common.ts';

const names = Object.keys(INTAKE_FIELDS);
/** A field of ours, or a custom field as `field:12`. */
export const Field = z.custom<IntakeColumn>(
  (value) => typeof value === 'string' && (names.includes(value) || /^field:\d+$/.test(value)),
  'There is no such field.',
);
/** A file has so many columns at most. */
export const MOST_COLUMNS = 200;
/** So many rows are decided one by one at most. */
export const MOST_PICKS = 20_000;
export const IntakeSetting = z.object({
  columns: z.array(Field.nullable()).max(MOST_COLUMNS),
  decimal: z.enum(['.', ',']),
  /** Null: as the column itself says. */
  dateOrder: z.enum(['mdy', 'dmy']).nullable(),
  fundId: Id,
  /** Whether the first row holds headings; null while that is open. */
  headed: z.boolean().nullable().default(true),
  /** The encoding that its letters are read in, one of its readings; null while that is open, or where it has none. */
  encoding: z.string().max(40).nullable().default(null),
  /** Columns without a place are left out knowingly. */
  leaveRest: z.boolean().default(false),
  /** What a person chose for rows, by their place in the file: a supporter by number, somebody new, or to leave it out. */
  picks: z
    .record(z.string().max(7).regex(/^\d+$/), z.union([Id, z.enum(['new', 'skip'])]))
    .refine((picks) => Object.keys(picks).length <= MOST_PICKS, `At most ${MOST_PICKS} rows are decided one by one.`)
    .default({}),
});
export type IntakeSetting = z.infer<typeof IntakeSetting>;
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
  headings: z.array(z.string()),
  rows: z.number(),
  setting: IntakeSetting,
  revision: z.number().nullable(),
});
export type Intake = z.infer<typeof Intake>;
export const VERDICTS = ['new', 'known', 'bad', 'undecided', 'already', 'skipped'] as const;
const Said = z.object({ field: Field.nullable(), value: z.string(), reason: z.string() });
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
  summary: 'Bring a CSV file (its bytes as the body, 50 MB at most). Encoding and separator are found out.',
  query: z.object({ name: z.string().min(1).max(190) }),
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
  body: z.object({ version: z.number().int(), setting: IntakeSetting }),
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
  query: Paging.extend({ verdict: z.enum([...VERDICTS, 'look']).optional() }),
  response: z.object({
    items: z.array(IntakeRow),
    next: z.string().nullable(),
    total: z.number(),
    counts: IntakeCounts,
    /** What must be said before anything is brought in. */
    questions: z.array(z.object({ about: z.enum(['headings', 'encoding', 'dates', 'columns']), says: z.string() })),
    /** The encodings that it may be in, each with words that tell it from the others. */
    readings: z.array(z.object({ encoding: z.string(), words: z.array(z.string()) })),
    /** The order of dates in numbers as the column says itself, and why. */
    dates: z.object({ order: z.enum(['mdy', 'dmy']).nullable(), says: z.string().nullable() }),
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
