import type { Condition, Group } from '@tallystick/contract/segments';
import { KIND_NAMES } from '@tallystick/core/supporters';

export type Part = Condition | Group;
export const EMPTY_GROUP: Group = { kind: 'group', join: 'all', parts: [] };

export const CONDITION_NAMES: Record<Condition['kind'], string> = {
  region: 'State',
  tag: 'Tag',
  gave: 'Gave',
  total: 'Total given',
  gifts: 'Measure of gifts',
  'last-gift': 'Last gift date',
  kind: 'Kind',
  wish: 'Wish',
  'in-group': 'Group of people',
  field: 'Own field',
  'gift-field': 'Own field of a gift',
};

/** A condition of a kind with nothing chosen that would leave people out unseen. */
export function freshCondition(
  kind: Condition['kind'],
  first: { tag: number; group: number; field: number; giftField: number },
): Condition {
  switch (kind) {
    case 'region':
      return { kind, regions: [] };
    case 'tag':
      return { kind, tag: first.tag };
    case 'gave':
      return { kind, fund: null, window: { kind: 'fiscal-year', ago: 0 } };
    case 'total':
      return { kind, fund: null, window: { kind: 'fiscal-year', ago: 1 }, atLeast: 10000, atMost: null };
    case 'gifts':
      return { kind, measure: 'largest', fund: null, window: { kind: 'ever' }, atLeast: null, atMost: null };
    case 'last-gift':
      return { kind, from: null, to: null };
    case 'kind':
      return { kind, kinds: [...KIND_NAMES] };
    case 'wish':
      return { kind, wish: 'no_mail' };
    case 'in-group':
      return { kind, group: first.group };
    case 'field':
      return { kind, field: first.field, test: { is: 'filled' } };
    case 'gift-field':
      return { kind, field: first.giftField, test: { is: 'filled' } };
  }
}

/** The parts with one of them put in another's place, or taken out. */
export const withPart = (parts: readonly Part[], at: number, part: Part | null): Part[] =>
  part === null ? parts.filter((_, index) => index !== at) : parts.map((old, index) => (index === at ? part : old));

/** How many conditions a part holds: the sentences of a whole come in that order. */
export const conditionCount = (part: Part): number =>
  part.kind === 'group' ? part.parts.reduce((sum, inner) => sum + conditionCount(inner), 0) : 1;
