import { LISTED_NAMES } from '@tallystick/core/catalogue';
import { MEASURE_NAMES, PICK_NAMES, REACHED_NAMES, ROW_KIND_NAMES } from '@tallystick/core/segments';
import type { View as Known } from '@tallystick/core/segments';
import { z } from 'zod';
import { FILE_USES } from '@tallystick/core/wishes';
import { Credit, IsoDateText } from './common.ts';
import { Name, Wheres, Window } from './conditions.ts';

const List = z.enum(LISTED_NAMES);
const Measured = z.object({
  ...{ of: List, where: Wheres, measure: z.enum(MEASURE_NAMES), against: Window.optional() },
  after: z.object({ of: List, where: Wheres, days: z.number().int().min(0).max(40_000) }).optional(),
  ...{ credit: Credit.optional(), together: z.boolean().optional() },
});
/** What a column shows of a row. */
export const Shown = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('field'), field: Name }),
  Measured.extend({ kind: z.literal('measure'), plus: z.array(Measured).max(5).optional() }),
  z.object({ kind: z.literal('values'), of: List, where: Wheres, part: Name, pick: z.enum(PICK_NAMES) }),
  z.object({ kind: z.literal('part'), part: Name }),
  z.object({ kind: z.literal('reached'), part: z.enum(REACHED_NAMES) }),
]);
export type Shown = z.infer<typeof Shown>;
const ColumnId = z.string().min(1).max(40);
/** So wide a column is at least, and at most, in pixels. */
export const [NARROWEST, WIDEST] = [48, 1000];
const Column = z.object({
  ...{ id: ColumnId, title: z.string().trim().max(60), shows: Shown },
  width: z.number().int().min(NARROWEST).max(WIDEST),
});
/** What a table is for: whom it may reach, by what, for what, on which day (null: the day that it is made). */
export const Goes = z.object({
  ...{ for: z.enum(FILE_USES), purpose: z.enum(['appeal', 'news']), on: IsoDateText.nullable() },
  /** How a CSV writes days: as `2026-03-14`, or as the organization writes them. */
  days: z.enum(['plain', 'written']),
});
export type Goes = z.infer<typeof Goes>;
/** A table of what matches: one row for each of what, its columns, what sorts it, what puts it together. */
export const View = z
  .object({
    ...{ rows: z.enum(ROW_KIND_NAMES), where: Wheres, columns: z.array(Column).max(60) },
    sorts: z.array(z.object({ column: ColumnId, down: z.boolean() })).max(3),
    groupBy: ColumnId.nullable(),
    goes: Goes.optional(),
  })
  .refine(({ columns }) => new Set(columns.map(({ id }) => id)).size === columns.length, 'Two columns have one id.')
  .meta({ id: 'View' });
export type View = z.infer<typeof View>;
type None<Kind extends never> = Kind;
/** Does not compile while a view of the core has no form here. */
export type Forgotten = None<Exclude<Known['columns'][number]['shows']['kind'], Shown['kind']>>;
