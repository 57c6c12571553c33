import { LISTED_NAMES } from '@tallystick/core/catalogue';
import { MEASURE_NAMES } from '@tallystick/core/segments';
import type { Condition as Known } from '@tallystick/core/segments';
import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Credit, Id, IdParams, IsoDateText, Paging, Written, pageOf } from './common.ts';
import { SupporterRow } from './supporters.ts';

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
const turnable = { not: z.boolean().optional(), off: z.boolean().optional() };
const Bound = z.number().nullable();
const Values = z.array(z.string().max(200)).max(500);
/** What is asked of a value; which tests a type of value can be put to, the catalogue says. */
const Test = z.union([
  z.object({ is: z.enum(['filled', 'empty']) }),
  z.object({ is: z.enum(['any-of', 'contains', 'begins', 'sounds']), values: Values }),
  z.object({ is: z.literal('between'), atLeast: Bound, atMost: Bound }),
  z.object({ is: z.literal('in'), window: Window }),
]);
const Name = z.string().max(60);
const Where = z.object({ part: Name, test: Test, not: z.boolean().optional() });
const Wheres = z.array(Where).max(20);
export const Condition = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('field'), field: Name, test: Test, ...turnable }),
  z.object({
    ...{ kind: z.literal('rows'), of: z.enum(LISTED_NAMES), where: Wheres, measure: z.enum(MEASURE_NAMES), test: Test },
    after: z.object({ of: z.enum(LISTED_NAMES), where: Wheres, days: z.number().int().min(0).max(40_000) }).optional(),
    ...{ against: Window.optional(), credit: Credit.optional(), together: z.boolean().optional(), ...turnable },
  }),
  z.object({
    ...{ kind: z.literal('related'), by: z.enum(['tie', 'household']), where: Wheres, ...turnable },
    get match(): z.ZodType<Group> {
      return Inner;
    },
  }),
  z.object({ kind: z.literal('people'), list: z.number().int(), ...turnable }),
  z.object({ kind: z.literal('segment'), segment: z.number().int(), ...turnable }),
]);
export type Condition = z.infer<typeof Condition>;
type None<Kind extends never> = Kind;
/** Does not compile while a shape of condition has no form here. */
export type Forgotten = None<Exclude<Known['kind'], Condition['kind']>>;
const MOST_CONDITIONS = 60;
const DEEPEST_GROUP = 10;
export interface Group {
  kind: 'group';
  join: 'all' | 'any' | 'none';
  parts: (Condition | Group)[];
  off?: boolean | undefined;
}
const Inner: z.ZodType<Group> = z
  .object({
    kind: z.literal('group'),
    join: z.enum(['all', 'any', 'none']),
    get parts(): z.ZodType<(Condition | Group)[]> {
      return z.array(z.union([Condition, Inner])).max(50);
    },
    off: z.boolean().optional(),
  })
  .meta({ id: 'Group' });
/** The groups right within a part: of a group those in it, of a condition about somebody related theirs. */
const groupsIn = (part: Condition | Group): Group[] =>
  part.kind === 'group'
    ? part.parts.flatMap((one) => (one.kind === 'group' ? [one] : groupsIn(one)))
    : part.kind === 'related'
      ? [part.match]
      : [];
const holds = (group: Group): number => group.parts.length + groupsIn(group).reduce((sum, one) => sum + holds(one), 0);
const depth = (group: Group): number => 1 + Math.max(0, ...groupsIn(group).map(depth));
/** What a segment asks: so many conditions at most, and groups within groups only so deep. */
export const Group: z.ZodType<Group> = Inner.refine(
  (group) => holds(group) <= MOST_CONDITIONS,
  `A segment asks ${MOST_CONDITIONS} conditions at most.`,
).refine((group) => depth(group) <= DEEPEST_GROUP, `Groups lie within groups ${DEEPEST_GROUP} deep at most.`);

/** What is asked: the conditions, and whose giving counts where they do not say. */
export const Asked = z.object({ conditions: Group, credit: Credit.default('legal') });
export type Asked = z.infer<typeof Asked>;
const ABOUT = { note: z.string().trim().max(1000), folder: z.string().trim().max(80) };
export const Segment = z.object({
  ...{ id: Id, version: z.number(), name: z.string(), conditions: Group, credit: Credit, ...ABOUT },
  ...{ ownerId: z.number().nullable(), shared: z.boolean(), count: z.number() },
  /** What it counted when it was last looked at on an earlier day. */
  before: z.object({ day: z.string(), count: z.number() }).nullable(),
  /** Whether the one who asks has it among their favourites. */
  favourite: z.boolean(),
});
export type Segment = z.infer<typeof Segment>;
const Draft = Asked.extend({
  name: z.string().trim().min(1, 'The name is missing.').max(120),
  note: ABOUT.note.default(''),
  folder: ABOUT.folder.default(''),
  /** Whether everyone sees it, or its owner alone. */
  shared: z.boolean().default(true),
});
export type Draft = z.infer<typeof Draft>;
const area = 'segments';

/** A list of people that was pasted, or a segment as it was on a day; it never changes. */
export const PeopleList = z.object({
  ...{ id: Id, name: z.string(), madeOn: z.string(), maker: z.string() },
  /** How many are on it. */
  many: z.number(),
});
export type PeopleList = z.infer<typeof PeopleList>;
/** What became of the lines that were pasted. */
export const PastedReport = z.object({
  ...{ lines: z.number(), doubled: z.number(), unknownTotal: z.number(), ambiguousTotal: z.number() },
  unknown: z.array(z.string()),
  ambiguous: z.array(z.object({ line: z.string(), ids: z.array(Id) })),
});
export const listPeopleLists = endpoint({
  id: 'listPeopleLists',
  area,
  method: 'get',
  path: '/people-lists',
  right: 'segments.see',
  summary: 'Lists of people that conditions may name, the newest first.',
  response: z.object({ items: z.array(PeopleList) }),
});
export const getPeopleList = endpoint({
  id: 'getPeopleList',
  area,
  method: 'get',
  path: '/people-lists/:id',
  right: 'segments.see',
  summary: 'A list of people, with the pasted lines that nobody, or several, answer to.',
  params: IdParams,
  response: PeopleList.extend({ report: PastedReport.nullable() }),
});
export const pastePeople = endpoint({
  id: 'pastePeople',
  area,
  method: 'post',
  path: '/people-lists',
  right: 'segments.add',
  consumes: 'text/plain',
  summary: 'Make a list of people of pasted lines (the body as text, 40 MB at most): numbers, e-mails or names.',
  query: z.object({ name: z.string().trim().min(1).max(120) }),
  response: PeopleList.extend({ report: PastedReport }),
});
export const freezeSegment = endpoint({
  id: 'freezeSegment',
  area,
  method: 'post',
  path: '/people-lists/frozen',
  right: 'segments.add',
  summary: 'Make a list of those who match now.',
  body: Asked.extend({ name: z.string().trim().min(1).max(120) }),
  response: PeopleList,
});
const Some = z.object({ count: z.number(), people: z.array(z.object({ id: Id, name: z.string() })) });
/** One side of a comparison: those who match now, or a list as it was frozen. */
const Side = z.union([z.object({ segment: Id }), z.object({ list: Id })]);
export type Side = z.infer<typeof Side>;
export const comparePeople = endpoint({
  id: 'comparePeople',
  area,
  method: 'post',
  asks: true,
  path: '/people-lists/compare',
  right: 'segments.see',
  summary: 'Who is in one and not in the other, and who is in both: how many, and the first hundred of each.',
  body: z.object({ before: Side, after: Side }),
  response: z.object({ before: z.number(), after: z.number(), left: Some, came: Some, both: Some }),
});
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
export const favourSegment = endpoint({
  id: 'favourSegment',
  area,
  method: 'put',
  path: '/segments/:id/favourite',
  right: 'self.change',
  summary: 'Put a segment among one’s own favourites, or take it out.',
  params: IdParams,
  body: z.object({ on: z.boolean() }),
  response: z.object({ on: z.boolean() }),
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
  body: Asked,
  response: z.object({
    count: z.number(),
    of: z.number(),
    /** How many more would match if they were not in the trash. */
    trashed: z.number(),
    parts: z.array(z.number()),
    /** How many each part alone leaves out where all must hold, or alone lets in where any will do. */
    alone: z.array(z.number()),
    /** The sentence for each part, and for the whole. */
    sentences: z.array(z.string()),
    whole: z.string(),
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
  body: Paging.extend(Asked.shape),
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
  body: Asked.extend({ supporterId: Id }),
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
