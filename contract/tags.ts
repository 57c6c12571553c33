import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Id, IdParams, Written } from './common.ts';

const area = 'supporters';
const Name = z.string().trim().min(1, 'The name is missing.').max(60);
/** How many records the person was told would lose it; another number is refused (409) with the right one. */
const Losing = z.object({ records: z.coerce.number().int().min(0) });

export const renameTag = endpoint({
  id: 'renameTag',
  area,
  method: 'put',
  path: '/tags/:id',
  right: 'tags.change',
  summary: 'Rename a tag.',
  params: IdParams,
  body: z.object({ name: Name }),
  response: Written,
});
export const mergeTag = endpoint({
  id: 'mergeTag',
  area,
  method: 'post',
  path: '/tags/:id/merge',
  right: 'tags.change',
  summary: 'Put another tag in the place of this one on every record; this one is then gone. Can be undone.',
  params: IdParams,
  body: z.object({ intoId: Id }),
  response: Written.extend({ moved: z.number(), had: z.number() }),
});
export const deleteTag = endpoint({
  id: 'deleteTag',
  area,
  method: 'delete',
  path: '/tags/:id',
  right: 'tags.delete',
  summary: 'Delete a tag from every record. Can be undone.',
  params: IdParams,
  query: Losing,
  response: Written,
});
export const createGroup = endpoint({
  id: 'createGroup',
  area,
  method: 'post',
  path: '/groups',
  right: 'groups.add',
  summary: 'Make a group: a list of supporters kept by hand.',
  body: z.object({ name: Name, about: z.string().trim().max(500).default('') }),
  response: Written.extend({ id: Id }),
});
export const updateGroup = endpoint({
  id: 'updateGroup',
  area,
  method: 'put',
  path: '/groups/:id',
  right: 'groups.change',
  summary: 'Rename a group.',
  params: IdParams,
  body: z.object({ name: Name }),
  response: Written,
});
export const deleteGroup = endpoint({
  id: 'deleteGroup',
  area,
  method: 'delete',
  path: '/groups/:id',
  right: 'groups.delete',
  summary: 'Delete a group; its supporters stay. Can be undone.',
  params: IdParams,
  query: Losing,
  response: Written,
});
