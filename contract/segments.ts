import { FIRST_VIEW } from '@tallystick/core/segments';
import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { HeldBack, ToComeBack } from './acts.ts';
import { Cell, CellType, Credit, Id, IdParams, Paging, Written, pageOf } from './common.ts';
import { Asked, Group } from './conditions.ts';
import { View } from './segment-view.ts';

export * from './conditions.ts';
export { Goes, Shown, View, NARROWEST, WIDEST } from './segment-view.ts';

const ABOUT = { note: z.string().trim().max(1000), folder: z.string().trim().max(80) };
export const Segment = z.object({
  ...{ id: Id, version: z.number(), name: z.string(), conditions: Group, credit: Credit, ...ABOUT },
  ...{ ownerId: z.number().nullable(), shared: z.boolean(), count: z.number() },
  /** What it counted when it was last looked at on an earlier day. */
  before: z.object({ day: z.string(), count: z.number() }).nullable(),
  /** Its place among the favourites of the one who asks; null where it is none. */
  favourite: z.number().nullable(),
  /** When it was last opened, by anybody. */
  usedOn: z.string().nullable(),
  /** The name of the tag that those who match have, as long as they do; empty for none. */
  tag: z.string(),
  /** How it is shown, as its owner has it; and as the one who asks made it for themselves. */
  view: View,
  ownView: View.nullable(),
});
export type Segment = z.infer<typeof Segment>;
const Draft = Asked.extend({
  name: z.string().trim().min(1, 'The name is missing.').max(120),
  note: ABOUT.note.default(''),
  folder: ABOUT.folder.default(''),
  /** Whether everyone sees it, or its owner alone. */
  shared: z.boolean().default(true),
  tag: z.string().trim().max(60).default(''),
  /** Whose it is; the one who saves it first where it is left out. */
  ownerId: Id.nullable().optional(),
  view: View.default(() => structuredClone(FIRST_VIEW) as View),
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
export const arrangeFavourites = endpoint({
  id: 'arrangeFavourites',
  area,
  method: 'put',
  path: '/favourite-segments',
  right: 'self.change',
  summary: 'Put one’s own favourites in order.',
  body: z.object({ ids: z.array(Id).max(1000) }),
  response: z.object({ ids: z.number() }),
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
const Sums = z.array(z.number().nullable());
export const tableOfSegment = endpoint({
  id: 'tableOfSegment',
  area,
  method: 'post',
  asks: true,
  path: '/segments/table',
  right: 'segments.see',
  summary: 'What matches as a table: one row for each of what the view says, its columns, order, groups and sums.',
  body: Paging.extend(Asked.shape).extend({ view: View }),
  response: pageOf(
    z.object({
      /** What tells the row from all others. */
      id: Id,
      supporterId: Id,
      /** The number of the gift, note, task, tie … that there is one row for each of; a tie has a row for both ends. */
      thing: Id.nullable(),
      /** For each column. */
      cells: z.array(Cell),
    }),
  ).extend({
    /** In their own words, and what they hold; null for one that shows something that is no longer there. */
    columns: z.array(z.object({ id: z.string(), words: z.string(), type: CellType.nullable() })),
    /** What each column comes to over all rows; null where its figures are not added up. */
    sums: Sums,
    groups: z.array(z.object({ key: z.string(), count: z.number(), sums: Sums })),
    /** How many match and have no row, being of another kind. */
    without: z.number(),
  }),
});
export const checkStandingTag = endpoint({
  id: 'checkStandingTag',
  area,
  method: 'post',
  asks: true,
  path: '/segments/standing-tag',
  right: 'segments.see',
  summary: 'What keeping a tag on those who match would do, before it is turned on.',
  body: Asked.extend({ tag: z.string().trim().min(1).max(60), segmentId: Id.nullable().default(null) }),
  response: z.object({
    /** How many get it. */
    put: z.number(),
    /** How many lose it, who have it by a segment and do not match any more. */
    take: z.number(),
    /** How many of those who match have it in another way, and keep it. */
    otherwise: z.number(),
  }),
});
export const fileOfSegment = endpoint({
  id: 'fileOfSegment',
  area,
  method: 'post',
  asks: true,
  path: '/segments/file',
  right: 'segments.see',
  logs: 'export',
  produces: 'application/octet-stream',
  summary: 'The table of what matches as a file, with its headings and, in front, the numbers of its supporters.',
  body: Asked.extend({ view: View, as: z.enum(['csv', 'xlsx']), back: ToComeBack }),
  response: z.string(),
});
export const checkTable = endpoint({
  id: 'checkTable',
  area,
  method: 'post',
  asks: true,
  path: '/segments/held',
  right: 'segments.see',
  summary: 'Whom the file of a table leaves out, as its view says what it is for, and why; nothing is written.',
  body: Asked.extend({ view: View }),
  response: HeldBack,
});
export const keepView = endpoint({
  id: 'keepView',
  area,
  method: 'put',
  path: '/segments/:id/view',
  right: 'self.change',
  summary: 'Keep how one looks at a segment oneself; null goes back to how its owner shows it.',
  params: IdParams,
  body: z.object({ view: View.nullable() }),
  response: z.object({ own: z.boolean() }),
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
    /** What would have to be so for it to be the other way, in words. */
    needs: z.string().nullable(),
    lines: z.array(z.object({ depth: z.number(), sentence: z.string(), saw: z.string(), matches: z.boolean() })),
  }),
});
export const exportSegment = endpoint({
  id: 'exportSegment',
  area,
  method: 'get',
  path: '/segments/:id/file',
  right: 'segments.see',
  logs: 'export',
  produces: 'application/octet-stream',
  summary: 'The table of a segment as its owner shows it, as of now: CSV (UTF-8 with mark) or a workbook.',
  params: IdParams,
  query: z.object({ as: z.enum(['csv', 'xlsx']).default('csv') }),
  response: z.string(),
});
