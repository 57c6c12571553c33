import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Credit, IdParams } from './common.ts';
import { Group } from './conditions.ts';
import { View } from './segment-view.ts';

const area = 'segments';
/** What a definition names by number, with its name, so that another database can find its own. */
const NamedThing = z.object({ kind: z.string().max(20), id: z.string().max(20), name: z.string().max(200) });

/** A segment as a file that can be kept, sent and brought in again: its conditions and how it is shown. */
export const SegmentDefinition = z
  .object({
    is: z.literal('segment'),
    version: z.literal(1),
    name: z.string().trim().min(1).max(120),
    note: z.string().trim().max(1000).default(''),
    folder: z.string().trim().max(80).default(''),
    credit: Credit.default('legal'),
    conditions: Group,
    view: View.optional(),
    names: z.array(NamedThing).max(5000).default([]),
  })
  .meta({ id: 'SegmentDefinition' });
export type SegmentDefinition = z.infer<typeof SegmentDefinition>;

export const getDefinition = endpoint({
  id: 'getDefinition',
  area,
  method: 'get',
  path: '/segments/:id/definition',
  right: 'segments.see',
  summary: 'The definition of a segment, by the published schema, with the names of all that it names.',
  params: IdParams,
  response: SegmentDefinition,
});
export const readDefinition = endpoint({
  id: 'readDefinition',
  area,
  method: 'post',
  asks: true,
  path: '/segments/read-definition',
  right: 'segments.add',
  summary: 'Reads a definition as a segment of this database: what it names is found by its name; nothing is written.',
  body: SegmentDefinition,
  response: z.object({
    name: z.string(),
    note: z.string(),
    folder: z.string(),
    credit: Credit,
    conditions: Group,
    view: View,
    /** What it names and there is not here, in words. */
    missing: z.array(z.string()),
  }),
});
export const getDefinitionSchema = endpoint({
  id: 'getDefinitionSchema',
  area,
  method: 'get',
  path: '/segment-schema',
  right: 'segments.see',
  summary: 'The JSON schema of the definition of a segment.',
  response: z.record(z.string(), z.unknown()),
});
