import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Paging } from './common.ts';

export const ChangeSet = z.object({
  revision: z.number(),
  at: z.string(),
  by: z.string(),
  kind: z.string(),
  summary: z.string(),
  rows: z.number(),
  undoes: z.number().nullable(),
  undoneBy: z.number().nullable(),
  undoable: z.boolean(),
});
export type ChangeSet = z.infer<typeof ChangeSet>;
const Revision = z.object({ revision: z.coerce.number().int().positive() });
const area = 'changes';
export const listChanges = endpoint({
  id: 'listChanges',
  area,
  method: 'get',
  path: '/changes',
  right: 'changes.see',
  summary: 'Change sets, newest first.',
  query: Paging.extend({ mine: z.enum(['yes', 'no']).default('no') }),
  response: z.object({ items: z.array(ChangeSet), next: z.string().nullable() }),
});
export const undoChange = endpoint({
  id: 'undoChange',
  area,
  method: 'post',
  path: '/changes/:revision/undo',
  right: 'changes.change',
  summary:
    'Take a change set back. Refused (409) with the later changes that stand in the way, unless what they touched is to stay (`keepLater`). Undoing an undo does it again.',
  params: Revision,
  body: z.object({ keepLater: z.boolean().default(false) }).default({ keepLater: false }),
  response: z.object({
    ...{ revision: z.number(), rows: z.number() },
    /** What stays, because later changes touched it or depend on it, in sentences. */
    left: z.array(z.string()),
  }),
});
