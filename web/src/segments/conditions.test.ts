import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fieldsWith } from '@tallystick/core/catalogue';
import { Group as Shape } from '@tallystick/contract/segments';
import type { Group } from '@tallystick/contract/segments';
import { askable, moved, nameOf, relocated, withMore, withPart } from './conditions.ts';
import type { Part, Path } from './conditions.ts';

const one = (segment: number): Part => ({ kind: 'segment', segment });
const group = (...parts: Part[]): Group => ({ kind: 'group', join: 'all', parts });
/** A tree as nested lists of the numbers in it. */
type Nest = (number | Nest)[];
const nest = ({ parts }: Group): Nest =>
  parts.map((part) => (part.kind === 'group' ? nest(part) : part.kind === 'segment' ? part.segment : -1));
const whole = group(one(1), group(one(2), one(3)), one(4));

describe('a tree of conditions', () => {
  it('has parts replaced, removed and added without touching the others', () => {
    expect(nest(withPart(whole, [1, 0], one(9)))).toEqual([1, [9, 3], 4]);
    expect(nest(withPart(whole, [1], null))).toEqual([1, 4]);
    expect(nest(withMore(whole, [1], one(9)))).toEqual([1, [2, 3, 9], 4]);
  });

  it.each<[Path, 1 | -1, Nest | null]>([
    [[0], 1, [[1, 2, 3], 4]],
    [[2], -1, [1, [2, 3, 4]]],
    [[1, 0], -1, [1, 2, [3], 4]],
    [[1, 1], 1, [1, [2], 3, 4]],
    [[1, 0], 1, [1, [3, 2], 4]],
    [[1], 1, [1, 4, [2, 3]]],
    [[0], -1, null],
    [[2], 1, null],
  ])('%j moved by %d', (path, by, expected) => {
    const done = moved(whole, path, by);
    expect(done && nest(done.group)).toEqual(expected);
  });

  it('puts nothing into itself', () => {
    expect(relocated(whole, [1], [1], 0)).toBeNull();
    expect(relocated(group(group(group(one(1)))), [0], [0, 0], 0)).toBeNull();
  });

  it('loses no part, wherever one is moved, and says where it is', () => {
    const { tree } = fc.letrec<{ tree: Group }>((tie) => ({
      tree: fc
        .array(fc.oneof({ depthSize: 'small' }, fc.integer({ min: 1, max: 1e6 }).map(one), tie('tree')), {
          maxLength: 4,
        })
        .map((parts) => group(...parts)),
    }));
    const paths = ({ parts }: Group, before: Path = []): Path[] =>
      parts.flatMap((part, at) => [[...before, at], ...(part.kind === 'group' ? paths(part, [...before, at]) : [])]);
    const at = (root: Group, path: Path): Part | undefined =>
      path.reduce<Part | undefined>((part, place) => (part?.kind === 'group' ? part.parts[place] : undefined), root);
    const all = (root: Group): string[] => JSON.stringify(nest(root)).match(/\d+/g)?.sort() ?? [];
    fc.assert(
      fc.property(tree, fc.nat(), fc.constantFrom(1 as const, -1 as const), (root, pick, by) => {
        const list = paths(root);
        const path = list[pick % Math.max(1, list.length)];
        if (!path) return;
        const done = moved(root, path, by);
        if (!done) return;
        expect(all(done.group)).toEqual(all(root));
        expect(at(done.group, done.path)).toEqual(at(root, path));
      }),
    );
  });
});

describe('what can be asked about', () => {
  const fields = fieldsWith([{ id: 3, about: 'supporter', name: 'Telescope', kind: 'one', choices: ['Refractor'] }]);
  const asked = askable(fields);

  it('has names of its own, and begins as what the contract takes', () => {
    expect(new Set(asked.map(({ value }) => value)).size).toBe(asked.length);
    expect(new Set(asked.map(({ label, also }) => `${label} ${also ?? ''}`)).size).toBe(asked.length);
    for (const { begin } of asked) {
      const part = begin();
      expect(Shape.safeParse(group(part)).error).toBeUndefined();
      if (part.kind !== 'group') expect(nameOf(part, fields)).not.toBe('No longer there');
    }
  });

  it('has the organization’s own fields', () => expect(asked.map(({ label }) => label)).toContain('Telescope'));
});
