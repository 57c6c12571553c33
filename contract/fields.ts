import { FIELD_KINDS } from '@tallystick/core/fields';
import type { FieldKind } from '@tallystick/core/fields';
import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Id, IdParams, Written } from './common.ts';

const kinds = Object.keys(FIELD_KINDS) as [FieldKind, ...FieldKind[]];
export const CustomField = z.object({
  id: Id,
  version: z.number(),
  about: z.enum(['supporter', 'gift']),
  name: z.string(),
  kind: z.enum(kinds),
  choices: z.array(z.string()),
  /** How many records have a value. */
  used: z.number(),
});
export type CustomField = z.infer<typeof CustomField>;
const FieldDraft = z
  .object({
    name: z.string().trim().min(1, 'The name is missing.').max(80),
    choices: z.array(z.string().trim().min(1).max(80)).max(200).default([]),
  })
  .refine((draft) => new Set(draft.choices.map((one) => one.toLowerCase())).size === draft.choices.length, {
    path: ['choices'],
    message: 'A choice stands in the list twice.',
  });

const area = 'settings';
export const listFields = endpoint({
  id: 'listFields',
  area,
  method: 'get',
  path: '/fields',
  right: 'fields.see',
  summary: 'Custom fields of supporters and gifts, in their order, with how many records have a value.',
  response: z.object({ items: z.array(CustomField) }),
});
export const createField = endpoint({
  id: 'createField',
  area,
  method: 'post',
  path: '/fields',
  right: 'fields.add',
  summary: 'Make a custom field.',
  body: FieldDraft.and(z.object({ about: z.enum(['supporter', 'gift']), kind: z.enum(kinds) })),
  response: Written.extend({ id: Id }),
});
export const updateField = endpoint({
  id: 'updateField',
  area,
  method: 'put',
  path: '/fields/:id',
  right: 'fields.change',
  summary: 'Rename a custom field or change its choices; a choice in use cannot be left out. The kind stays.',
  params: IdParams,
  body: FieldDraft.and(z.object({ version: z.number().int() })),
  response: Written,
});
export const deleteField = endpoint({
  id: 'deleteField',
  area,
  method: 'delete',
  path: '/fields/:id',
  right: 'fields.delete',
  summary:
    'Delete a custom field with its values; can be undone. Refused (409) while values exist, unless `values` says how many.',
  params: IdParams,
  query: z.object({ values: z.coerce.number().int().optional() }),
  response: Written,
});
