import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Id, IdParams, tableOf, Written } from './common.ts';

/** A list as someone arranged it: its address (filters, sort, grouping) and its columns. */
export const ViewSetting = z.object({
  search: z.string().max(2000),
  order: z.array(z.string().max(40)).max(100),
  hidden: z.array(z.string().max(40)).max(100),
  /** Of the columns that begin hidden those that are shown. */
  shown: z.array(z.string().max(40)).max(100).default([]),
  widths: tableOf(z.number(), 100, 40),
  names: tableOf(z.string().max(60), 100, 40).default({}),
});
export type ViewSetting = z.infer<typeof ViewSetting>;
const area = 'settings';
const draft = { name: z.string().trim().min(1, 'The name is missing.').max(80), setting: ViewSetting };
export const listViews = endpoint({
  id: 'listViews',
  area,
  method: 'get',
  path: '/views',
  right: 'views.see',
  summary: 'Saved views of a list, by name.',
  query: z.object({ list: z.string().max(30) }),
  response: z.object({
    items: z.array(
      z.object({
        id: Id,
        version: z.number(),
        name: z.string(),
        author: z.string(),
        ownerId: Id.nullable(),
        setting: ViewSetting,
      }),
    ),
  }),
});
export const createView = endpoint({
  id: 'createView',
  area,
  method: 'post',
  path: '/views',
  right: 'views.add',
  summary: 'Save a view under a new name; one of that name is replaced.',
  body: z.object({ list: z.string().max(30), ...draft }),
  response: Written.extend({ id: Id }),
});
export const deleteView = endpoint({
  id: 'deleteView',
  area,
  method: 'delete',
  path: '/views/:id',
  right: 'views.delete',
  summary: 'Delete a saved view.',
  params: IdParams,
  response: Written,
});
