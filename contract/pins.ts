import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Id, IdParams, READY_ACTS } from './common.ts';

const area = 'segments';
const Place = { section: z.string().trim().max(60), place: z.number().int().min(0).max(10_000) };
export const Pin = z.object({
  ...{ id: Id, segmentId: Id, name: z.string(), act: z.enum(READY_ACTS), ...Place },
  /** How many are in the segment now. */
  count: z.number(),
});
export type Pin = z.infer<typeof Pin>;
export const listPins = endpoint({
  id: 'listPins',
  area,
  method: 'get',
  path: '/pins',
  right: 'segments.see',
  summary: 'What one pinned to Today oneself, in its own order, with the current counts.',
  response: z.object({ items: z.array(Pin) }),
});
export const addPin = endpoint({
  id: 'addPin',
  area,
  method: 'post',
  path: '/pins',
  right: 'self.change',
  summary: 'Pin a segment, or a ready act on it, to one’s own Today; what is pinned already stays where it is.',
  body: z.object({ segmentId: Id, act: z.enum(READY_ACTS), section: Place.section.default('') }),
  response: z.object({ id: Id }),
});
export const arrangePins = endpoint({
  id: 'arrangePins',
  area,
  method: 'put',
  path: '/pins',
  right: 'self.change',
  summary: 'Put one’s own pins in order, and under their sections.',
  body: z.object({ items: z.array(z.object({ id: Id, ...Place })).max(500) }),
  response: z.object({ items: z.number() }),
});
export const removePin = endpoint({
  id: 'removePin',
  area,
  method: 'delete',
  path: '/pins/:id',
  right: 'self.change',
  summary: 'Take a pin off one’s own Today.',
  params: IdParams,
  response: z.object({ removed: z.number() }),
});
