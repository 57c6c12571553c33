import { expect, it } from 'vitest';
import { CONDITION_NAMES, conditionCount, freshCondition, withPart } from './conditions.ts';
import type { Part } from './conditions.ts';

const tag: Part = { kind: 'tag', tag: 1 };
it('counts conditions through groups', () => {
  expect(
    conditionCount({ kind: 'group', join: 'all', parts: [tag, { kind: 'group', join: 'any', parts: [tag, tag] }] }),
  ).toBe(3);
});
it('replaces and removes parts without touching the others', () => {
  const other: Part = { kind: 'tag', tag: 2 };
  expect(withPart([tag, other], 0, null)).toEqual([other]);
  expect(withPart([tag, tag], 1, other)).toEqual([tag, other]);
});
it.each(Object.keys(CONDITION_NAMES) as (keyof typeof CONDITION_NAMES)[])('begins a %s condition', (kind) =>
  expect(freshCondition(kind, { tag: 3, group: 4, field: 5, giftField: 6 }).kind).toBe(kind),
);
