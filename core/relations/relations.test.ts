import { describe, expect, it } from 'vitest';
import { network, relationFault, roleOfOther } from './index.ts';
import type { RelationKind } from './index.ts';

const parent: RelationKind = { id: 1, name: 'parent', back: 'child', from: ['person'], to: ['person'], lineal: true };
const spouse: RelationKind = { id: 2, name: 'spouse', back: 'spouse', from: ['person'], to: ['person'], lineal: false };
const employer: RelationKind = {
  id: 3,
  name: 'employer',
  back: 'employee',
  from: ['organization'],
  to: ['person'],
  lineal: false,
};
const someone = (id: number, kind: 'person' | 'organization' = 'person') => ({ id, kind, name: `N${id}` });
const tie = (kindId: number, fromId: number, toId: number) => ({ id: fromId * 100 + toId, kindId, fromId, toId });

describe('relationFault', () => {
  it.each([
    ['to oneself', parent, someone(1), someone(1), [], 'cannot be tied to itself'],
    ['a firm as a parent', parent, someone(1, 'organization'), someone(2), [], 'cannot be a parent'],
    [
      'a firm as an employee',
      employer,
      someone(1, 'organization'),
      someone(2, 'organization'),
      [],
      'cannot be an employee',
    ],
    ['twice', parent, someone(1), someone(2), [tie(1, 1, 2)], 'already'],
    ['a spouse from the other end', spouse, someone(1), someone(2), [tie(2, 2, 1)], 'already'],
    ['one’s own grandparent', parent, someone(3), someone(1), [tie(1, 1, 2), tie(1, 2, 3)], 'comes before'],
    ['one’s own child', parent, someone(2), someone(1), [tie(1, 1, 2)], 'comes before'],
  ])('refuses %s', (_case, kind, from, to, known, why) => expect(relationFault(kind, from, to, known)).toContain(why));
  it.each([
    ['the other way round of another kind', spouse, someone(2), someone(1), [tie(1, 1, 2)]],
    ['a second child', parent, someone(1), someone(3), [tie(1, 1, 2)]],
    ['a second parent', parent, someone(4), someone(2), [tie(1, 1, 2)]],
    ['a circle of what is not lineal', employer, someone(9, 'organization'), someone(1), [tie(3, 8, 1)]],
  ])('allows %s', (_case, kind, from, to, known) => expect(relationFault(kind, from, to, known)).toBeNull());
});

it('says what the other is', () => {
  expect([roleOfOther(parent, true), roleOfOther(parent, false), roleOfOther(spouse, true)]).toEqual([
    'child',
    'parent',
    'spouse',
  ]);
});

describe('network', () => {
  it('places each once, by its distance', () => {
    const nodes = network(1, [tie(1, 1, 2), tie(1, 2, 3), tie(2, 3, 1), tie(1, 3, 4), tie(1, 7, 8)]);
    expect(nodes.map((node) => [node.id, node.ring])).toEqual([
      [1, 0],
      [2, 1],
      [3, 1],
      [4, 2],
    ]);
    for (const { ring, x, y } of nodes) expect(Math.hypot(x, y)).toBeCloseTo(ring);
  });
  it('stops at the most that can be drawn', () =>
    expect(
      network(
        0,
        Array.from({ length: 100 }, (_, other) => tie(1, 0, other + 1)),
        10,
      ),
    ).toHaveLength(10));
});
