import { MOST_ROWS } from '@tallystick/core/sheets';
import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Cents, Id, IdParams, Method, pageOf, Paging, Written } from './common.ts';

const area = 'sheets';
const FieldName = z.string().max(40);
export const SheetColumn = z.object({
  field: FieldName,
  width: z.number().int().min(40).max(600),
  byDefault: z.string().max(200).default(''),
  hidden: z.boolean().default(false),
  required: z.boolean().default(false),
});
export const SheetLayout = z.object({ columns: z.array(SheetColumn).min(1).max(60) });
export const SheetRow = z.object({
  key: z.string().min(1).max(36),
  supporterId: Id.nullable(),
  cells: z.record(FieldName, z.string().max(2000)),
  change: z.array(FieldName).max(60).default([]),
});
const Control = {
  expectedCount: z.number().int().min(0).nullable().default(null),
  expectedCents: Cents.nullable().default(null),
};

export const listLayouts = endpoint({
  id: 'listLayouts',
  area,
  method: 'get',
  path: '/sheet-layouts',
  right: 'layouts.see',
  summary: 'The layouts of entry sheets.',
  response: z.object({ items: z.array(SheetLayout.extend({ id: Id, version: z.number(), name: z.string() })) }),
});
export const saveLayout = endpoint({
  id: 'saveLayout',
  area,
  method: 'put',
  path: '/sheet-layouts',
  right: 'layouts.change',
  summary: 'Keep a layout under a name, in the place of one of that name.',
  body: SheetLayout.extend({ name: z.string().trim().min(1, 'Name the layout.').max(80) }),
  response: Written.extend({ id: Id }),
});
export const deleteLayout = endpoint({
  id: 'deleteLayout',
  area,
  method: 'delete',
  path: '/sheet-layouts/:id',
  right: 'layouts.delete',
  summary: 'Delete a layout; sheets that were begun with it keep theirs.',
  params: IdParams,
  response: Written,
});

const SheetHead = z.object({
  id: Id,
  version: z.number(),
  name: z.string(),
  owner: z.string(),
  ownerId: Id.nullable(),
  openedOn: z.string(),
  state: z.enum(['open', 'posted']),
  expectedCount: z.number().nullable(),
  expectedCents: z.number().nullable(),
  batchId: Id.nullable(),
  rows: z.number(),
});
export type SheetHead = z.infer<typeof SheetHead>;
export const Sheet = SheetHead.extend({
  columns: SheetLayout.shape.columns,
  lines: z.array(SheetRow),
  /** Who the rows name, as they are now. */
  people: z.array(
    z.object({ id: Id, name: z.string(), cells: z.record(z.string(), z.string()), lastGift: z.string() }),
  ),
  /** The gifts and the revision of its posting, while that is not undone. */
  revision: z.number().nullable(),
});
export type Sheet = z.infer<typeof Sheet>;

export const listSheets = endpoint({
  id: 'listSheets',
  area,
  method: 'get',
  path: '/sheets',
  right: 'sheets.see',
  summary: 'Entry sheets, open ones first.',
  query: Paging,
  response: pageOf(SheetHead),
});
export const openSheet = endpoint({
  id: 'openSheet',
  area,
  method: 'post',
  path: '/sheets',
  right: 'sheets.add',
  summary: 'Begin a sheet with a layout and, where they are known, its control totals.',
  body: SheetLayout.extend({ name: z.string().trim().min(1, 'Name the sheet.').max(120), ...Control }),
  response: Written.extend({ id: Id }),
});
export const getSheet = endpoint({
  id: 'getSheet',
  area,
  method: 'get',
  path: '/sheets/:id',
  right: 'sheets.see',
  summary: 'A sheet with every row as it was typed.',
  params: IdParams,
  response: Sheet,
});
export const sheetPeople = endpoint({
  id: 'sheetPeople',
  area,
  method: 'get',
  path: '/sheet-people',
  right: 'sheets.add',
  summary: 'What a sheet shows of supporters who were found for it.',
  query: z.object({ ids: z.string().regex(/^\d{1,10}(,\d{1,10}){0,199}$/) }),
  response: z.object({ people: Sheet.shape.people }),
});
export const typeRows = endpoint({
  id: 'typeRows',
  area,
  method: 'put',
  path: '/sheets/:id/rows',
  right: 'sheets.change',
  summary: 'Keep rows as they are typed; rows not named stay. Nothing is recorded by this.',
  params: IdParams,
  body: z.object({
    rows: z.array(SheetRow.extend({ place: z.number().int().min(0).max(MOST_ROWS) })).max(MOST_ROWS),
    removed: z.array(z.string().max(36)).max(MOST_ROWS).default([]),
  }),
  response: z.object({ rows: z.number() }),
});
export const setSheet = endpoint({
  id: 'setSheet',
  area,
  method: 'put',
  path: '/sheets/:id',
  right: 'sheets.change',
  summary: 'Change the name, the columns or the control totals of an open sheet.',
  params: IdParams,
  body: SheetLayout.extend({ version: z.number(), name: z.string().trim().min(1).max(120), ...Control }),
  response: Written,
});
const Remark = z.object({ field: z.string().nullable(), reason: z.string() });
export const SheetSums = z.object({
  rows: z.number(),
  known: z.number(),
  new: z.number(),
  gifts: z.number(),
  cents: z.number(),
  byFund: z.array(z.object({ fundId: Id, count: z.number(), cents: z.number() })),
  byMethod: z.array(z.object({ method: Method, count: z.number(), cents: z.number() })),
  wrong: z.number(),
});
export const checkSheet = endpoint({
  id: 'checkSheet',
  area,
  method: 'post',
  asks: true,
  path: '/sheets/:id/check',
  right: 'sheets.add',
  summary: 'Look every row over without writing: what is wrong with each cell, what looks like someone already here.',
  params: IdParams,
  response: z.object({
    rows: z.array(
      z.object({
        key: z.string(),
        status: z.enum(['known', 'new']),
        problems: z.array(Remark),
        warnings: z.array(Remark),
        alike: z.array(z.object({ id: Id, name: z.string(), why: z.string() })),
      }),
    ),
    summary: SheetSums,
    difference: z.object({ count: z.number().nullable(), cents: z.number().nullable(), balanced: z.boolean() }),
  }),
});
export const postSheet = endpoint({
  id: 'postSheet',
  area,
  method: 'post',
  path: '/sheets/:id/post',
  right: 'sheets.money',
  summary: 'Write every row, or nothing, in one change set. A difference from the control totals needs a reason.',
  params: IdParams,
  body: z.object({ reason: z.string().trim().max(300).default('') }),
  response: Written.extend({
    batchId: Id,
    gifts: z.number(),
    cents: z.number(),
    newSupporters: z.number(),
    giftIds: z.array(Id),
  }),
});
export const deleteSheet = endpoint({
  id: 'deleteSheet',
  area,
  method: 'delete',
  path: '/sheets/:id',
  right: 'sheets.delete',
  summary: 'Throw an open sheet away.',
  params: IdParams,
  response: Written,
});
export const printSheet = endpoint({
  id: 'printSheet',
  area,
  method: 'get',
  path: '/sheets/:id/print.pdf',
  right: 'sheets.see',
  produces: 'application/pdf',
  summary: 'The sheet as a PDF for the file.',
  params: IdParams,
  response: z.string(),
});
