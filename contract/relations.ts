import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Id, IdParams, IsoDateText, Written } from './common.ts';
import { Someone } from './supporters.ts';
import { KIND_NAMES } from '@tallystick/core/supporters';

const area = 'supporters';
const Kinds = z.array(z.enum(KIND_NAMES)).max(3).default([]);
/** The first supporter is the `name` of the second, who is the `back` of the first: `parent` and `child`. */
const KindDraft = z.object({
  name: z.string().trim().min(1, 'The word is missing.').max(60),
  back: z.string().trim().min(1, 'The word for the other direction is missing.').max(60),
  from: Kinds,
  to: Kinds,
  lineal: z.boolean().default(false),
});
export const RelationKind = KindDraft.extend({ id: Id, used: z.number() });
export type RelationKind = z.infer<typeof RelationKind>;
/** A tie as seen from one supporter: the other is its `role`. */
export const Relation = z.object({
  id: Id,
  version: z.number(),
  other: Someone.extend({ kind: z.enum(KIND_NAMES) }),
  role: z.string(),
  kindId: Id,
  /** True where the supporter it is seen from is the first of the two. */
  first: z.boolean(),
  title: z.string(),
  note: z.string(),
  since: z.string().nullable(),
  until: z.string().nullable(),
});
export type Relation = z.infer<typeof Relation>;
const details = {
  /** Of a contact what they do there. */
  title: z.string().trim().max(80).default(''),
  note: z.string().trim().max(500).default(''),
  since: IsoDateText.nullable().default(null),
  until: IsoDateText.nullable().default(null),
};
const inOrder = (tie: { since: string | null; until: string | null }): boolean =>
  tie.since === null || tie.until === null || tie.since <= tie.until;
const ORDER = { path: ['until'], message: 'It would end before it began.' };

export const listRelationKinds = endpoint({
  id: 'listRelationKinds',
  area,
  method: 'get',
  path: '/relation-kinds',
  right: 'relationKinds.see',
  summary: 'The kinds of ties between supporters, each with the word for both directions.',
  response: z.object({ items: z.array(RelationKind) }),
});
export const createRelationKind = endpoint({
  id: 'createRelationKind',
  area,
  method: 'post',
  path: '/relation-kinds',
  right: 'relationKinds.add',
  summary: 'Add a kind of tie.',
  body: KindDraft,
  response: Written.extend({ id: Id }),
});
export const deleteRelationKind = endpoint({
  id: 'deleteRelationKind',
  area,
  method: 'delete',
  path: '/relation-kinds/:id',
  right: 'relationKinds.delete',
  summary: 'Delete a kind of tie that no tie has.',
  params: IdParams,
  response: Written,
});
export const listRelations = endpoint({
  id: 'listRelations',
  area,
  method: 'get',
  path: '/supporters/:id/relations',
  right: 'relations.see',
  summary: 'The ties of a supporter from its side, those that ended last.',
  params: IdParams,
  response: z.object({ items: z.array(Relation) }),
});
export const getNetwork = endpoint({
  id: 'getNetwork',
  area,
  method: 'get',
  path: '/supporters/:id/network',
  right: 'relations.see',
  summary: 'Who is tied to a supporter, and who to them, placed in rings around it; households are ties too.',
  params: IdParams,
  response: z.object({
    nodes: z.array(Someone.extend({ kind: z.enum(KIND_NAMES), ring: z.number(), x: z.number(), y: z.number() })),
    ties: z.array(z.object({ fromId: Id, toId: Id, word: z.string(), ended: z.boolean() })),
  }),
});
export const createRelation = endpoint({
  id: 'createRelation',
  area,
  method: 'post',
  path: '/relations',
  right: 'relations.add',
  summary:
    'Tie two supporters: `fromId` is the `name` of `toId`. Refused for oneself, twice, and in a circle of parents.',
  body: z.object({ fromId: Id, toId: Id, kindId: Id, ...details }).refine(inOrder, ORDER),
  response: Written.extend({ id: Id }),
});
export const updateRelation = endpoint({
  id: 'updateRelation',
  area,
  method: 'put',
  path: '/relations/:id',
  right: 'relations.change',
  summary: 'Change or end a tie; it ends for both.',
  params: IdParams,
  body: z.object({ version: z.number().int(), ...details }).refine(inOrder, ORDER),
  response: Written,
});
export const deleteRelation = endpoint({
  id: 'deleteRelation',
  area,
  method: 'delete',
  path: '/relations/:id',
  right: 'relations.delete',
  summary: 'Delete a tie, at both ends.',
  params: IdParams,
  response: Written,
});
export const TieAct = z.discriminatedUnion('do', [
  z.object({ do: z.literal('end'), on: IsoDateText }),
  z.object({ do: z.literal('delete') }),
]);
export type TieAct = z.infer<typeof TieAct>;
export const actOnTies = endpoint({
  id: 'actOnTies',
  area,
  method: 'post',
  path: '/relations/acts',
  right: 'relations.change',
  summary:
    'End many ties on a day, or delete them, as one change set; one that ended before stays as it is, one that begins later ends as it begins.',
  body: z.object({ ids: z.array(Id).min(1, 'No tie is selected.').max(5000), act: TieAct }),
  response: Written.extend({ changed: z.number() }),
});
