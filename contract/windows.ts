import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Id, IdParams, Written } from './common.ts';
import { PlainWindow } from './conditions.ts';

const area = 'settings';
const draft = {
  name: z.string().trim().min(1, 'The name is missing.').max(60),
  window: PlainWindow.refine(
    (window) => window.kind !== 'between' || window.from <= window.to,
    'This window ends before it begins.',
  ),
};
/** A window of days that is kept by a name, for every condition and column that names it. */
export const KeptWindow = z.object({ id: Id, version: z.number(), ...draft });
export type KeptWindow = z.infer<typeof KeptWindow>;
export const addWindow = endpoint({
  id: 'addWindow',
  area,
  method: 'post',
  path: '/windows',
  right: 'segments.add',
  summary: 'Keep a window of days by a name.',
  body: z.object(draft),
  response: Written.extend({ id: Id }),
});
export const changeWindow = endpoint({
  id: 'changeWindow',
  area,
  method: 'put',
  path: '/windows/:id',
  right: 'segments.change',
  summary: 'Change a window that is kept by name; whatever names it goes by the new one.',
  params: IdParams,
  body: z.object({ version: z.number().int(), ...draft }),
  response: Written,
});
export const deleteWindow = endpoint({
  id: 'deleteWindow',
  area,
  method: 'delete',
  path: '/windows/:id',
  right: 'segments.delete',
  summary: 'Delete a window that is kept by name; what names it says that it is gone, and nothing lies in it.',
  params: IdParams,
  response: Written,
});
