import { WISH_NAMES } from '@tallystick/core/wishes';
import { MEASURE_NAMES } from '@tallystick/core/segments';
import type { Condition as Known } from '@tallystick/core/segments';
import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Credit, Id, IdParams, IsoDateText, Method, Paging, Written, pageOf } from './common.ts';
import { SupporterRow } from './supporters.ts';
import { KIND_NAMES } from '@tallystick/core/supporters';

const Unit = z.enum(['day', 'week', 'month', 'year']);
/** Whole spans back from the one that today lies in; below zero those to come. */
const Ago = z.number().int().min(-200).max(600);
export const Window = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('ever') }),
  z.object({ kind: z.literal('between'), from: IsoDateText, to: IsoDateText }),
  z.object({ kind: z.literal('fiscal-year'), ago: z.number().int().min(0).max(50) }),
  z.object({ kind: z.literal('last-days'), days: z.number().int().min(1).max(40_000) }),
  z.object({ kind: z.literal('since'), from: IsoDateText }),
  z.object({ kind: z.literal('until'), to: IsoDateText }),
  z.object({ kind: z.literal('last'), many: z.number().int().min(1).max(2_000), unit: Unit }),
  z.object({ kind: z.literal('next'), many: z.number().int().min(1).max(2_000), unit: Unit }),
  z.object({ kind: z.literal('month'), ago: Ago }),
  z.object({ kind: z.literal('quarter'), ago: Ago }),
  z.object({ kind: z.literal('year'), ago: Ago }),
  z.object({ kind: z.literal('fiscal-quarter'), ago: Ago }),
  z.object({ kind: z.literal('to-date'), of: z.enum(['year', 'fiscal-year']), ago: z.number().int().min(0).max(50) }),
]);
const not = z.boolean().optional();
const Bound = z.number().int().min(0).nullable();
const FieldTest = z.discriminatedUnion('is', [
  z.object({ is: z.literal('filled') }),
  z.object({ is: z.literal('any-of'), values: z.array(z.string().max(200)).max(200) }),
  z.object({ is: z.literal('contains'), text: z.string().max(200) }),
  z.object({ is: z.literal('between'), atLeast: z.number().nullable(), atMost: z.number().nullable() }),
  z.object({ is: z.literal('dates'), from: IsoDateText.nullable(), to: IsoDateText.nullable() }),
]);
const GiftsAsked = {
  fund: z.number().int().nullable(),
  campaign: z.number().int().nullable().optional(),
  appeal: z.number().int().nullable().optional(),
  method: Method.nullable().optional(),
  window: Window,
};
export const Condition = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('region'), regions: z.array(z.string().max(60)).max(100), not }),
  z.object({ kind: z.literal('tag'), tag: z.number().int(), not }),
  z.object({ kind: z.literal('gave'), ...GiftsAsked, not }),
  z.object({ kind: z.literal('total'), ...GiftsAsked, credit: Credit.optional(), atLeast: Bound, atMost: Bound, not }),
  z.object({
    kind: z.literal('gifts'),
    ...GiftsAsked,
    measure: z.enum(MEASURE_NAMES),
    cents: z.object({ atLeast: Bound, atMost: Bound }).optional(),
    against: Window.optional(),
    atLeast: z.number().int().nullable().optional(),
    atMost: z.number().int().nullable().optional(),
    within: Window.nullable().optional(),
    not,
  }),
  z.object({ kind: z.literal('last-gift'), from: IsoDateText.nullable(), to: IsoDateText.nullable(), not }),
  z.object({ kind: z.literal('kind'), kinds: z.array(z.enum(KIND_NAMES)).max(3), not }),
  z.object({ kind: z.literal('wish'), wish: z.enum(WISH_NAMES), not }),
  z.object({ kind: z.literal('in-group'), group: z.number().int(), not }),
  z.object({ kind: z.literal('gift-field'), field: z.number().int(), test: FieldTest, not }),
  z.object({ kind: z.literal('field'), field: z.number().int(), test: FieldTest, not }),
]);
export type Condition = z.infer<typeof Condition>;
type None<Kind extends never> = Kind;
/** Does not compile while a kind of condition has no shape here. */
export type Forgotten = None<Exclude<Known['kind'], Condition['kind']>>;
const MOST_CONDITIONS = 60;
const DEEPEST_GROUP = 10;
export interface Group {
  kind: 'group';
  join: 'all' | 'any';
  parts: (Condition | Group)[];
}
const Inner: z.ZodType<Group> = z
  .object({
    kind: z.literal('group'),
    join: z.enum(['all', 'any']),
    get parts(): z.ZodType<(Condition | Group)[]> {
      return z.array(z.union([Condition, Inner])).max(50);
    },
  })
  .meta({ id: 'Group' });
const holds = (group: Group): number =>
  group.parts.reduce((sum, part) => sum + 1 + ('parts' in part ? holds(part) : 0), 0);
const depth = (group: Group): number =>
  1 + Math.max(0, ...group.parts.map((part) => ('parts' in part ? depth(part) : 0)));
/** What a segment asks: so many conditions at most, and groups within groups only so deep. */
export const Group: z.ZodType<Group> = Inner.refine(
  (group) => holds(group) <= MOST_CONDITIONS,
  `A segment asks ${MOST_CONDITIONS} conditions at most.`,
).refine((group) => depth(group) <= DEEPEST_GROUP, `Groups lie within groups ${DEEPEST_GROUP} deep at most.`);

export const Segment = z.object({
  id: Id,
  version: z.number(),
  name: z.string(),
  conditions: Group,
  count: z.number(),
});
export type Segment = z.infer<typeof Segment>;
const Draft = z.object({ name: z.string().trim().min(1, 'The name is missing.').max(120), conditions: Group });
const area = 'segments';
export const listSegments = endpoint({
  id: 'listSegments',
  area,
  method: 'get',
  path: '/segments',
  right: 'segments.see',
  summary: 'All segments with their counts as of now.',
  response: z.object({ items: z.array(Segment) }),
});
export const getSegment = endpoint({
  id: 'getSegment',
  area,
  method: 'get',
  path: '/segments/:id',
  right: 'segments.see',
  summary: 'One segment.',
  params: IdParams,
  response: Segment,
});
export const createSegment = endpoint({
  id: 'createSegment',
  area,
  method: 'post',
  path: '/segments',
  right: 'segments.add',
  summary: 'Save a segment.',
  body: Draft,
  response: Written.extend({ id: Id }),
});
export const updateSegment = endpoint({
  id: 'updateSegment',
  area,
  method: 'put',
  path: '/segments/:id',
  right: 'segments.change',
  summary: 'Change a segment.',
  params: IdParams,
  body: Draft.extend({ version: z.number().int() }),
  response: Written,
});
export const deleteSegment = endpoint({
  id: 'deleteSegment',
  area,
  method: 'delete',
  path: '/segments/:id',
  right: 'segments.delete',
  summary: 'Delete a segment that no e-mail goes to.',
  params: IdParams,
  response: Written,
});
export const countSegment = endpoint({
  id: 'countSegment',
  area,
  method: 'post',
  asks: true,
  path: '/segments/count',
  right: 'segments.see',
  summary: 'How many match, for the whole and for each part by itself, with the sentence for each condition.',
  body: z.object({ conditions: Group }),
  response: z.object({
    count: z.number(),
    of: z.number(),
    parts: z.array(z.number()),
    /** How many each part alone leaves out where all must hold, or alone lets in where any will do. */
    alone: z.array(z.number()),
    sentences: z.array(z.string()),
    milliseconds: z.number(),
  }),
});
export const previewSegment = endpoint({
  id: 'previewSegment',
  area,
  method: 'post',
  asks: true,
  path: '/segments/preview',
  right: 'segments.see',
  summary: 'The supporters that match, by number.',
  body: Paging.extend({ conditions: Group }),
  response: pageOf(SupporterRow),
});
export const explainSegment = endpoint({
  id: 'explainSegment',
  area,
  method: 'post',
  asks: true,
  path: '/segments/explain',
  right: 'segments.see',
  summary: 'Why one supporter is or is not in.',
  body: z.object({ conditions: Group, supporterId: Id }),
  response: z.object({
    matches: z.boolean(),
    lines: z.array(z.object({ depth: z.number(), sentence: z.string(), saw: z.string(), matches: z.boolean() })),
  }),
});
export const exportSegment = endpoint({
  id: 'exportSegment',
  area,
  method: 'get',
  path: '/segments/:id/export.csv',
  right: 'segments.see',
  logs: 'export',
  produces: 'text/csv',
  summary: 'The segment as CSV (UTF-8 with mark), with addresses and giving.',
  params: IdParams,
  response: z.string(),
});
