import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { wordsOf } from '../names/index.ts';
import { FindIndex } from './index.ts';
import type { Findable } from './index.ts';

const index = (entries: readonly Findable[]): FindIndex => {
  const made = new FindIndex();
  for (const entry of entries) made.put(entry);
  return made;
};
const PEOPLE: Findable[] = [
  { id: 10_001, name: 'Dr. Ana-María de la Cruz', emails: ['ana@example.org'], phones: ['(775) 555-0142'] },
  { id: 10_002, name: 'Anatole Cruz', emails: ['anatole.cruz@example.com', 'second@example.net'], phones: [] },
  { id: 10_003, name: 'Cruz Bakery', emails: [], phones: ['+1 775 555 0199'] },
  { id: 10_004, name: "Fiona O'Halloran", emails: ['fiona@example.org'], phones: ['555-0142'] },
];

describe('FindIndex', () => {
  const people = index(PEOPLE);
  it.each([
    ['cruz', [10_002, 10_003, 10_001]],
    ['cruz ana', [10_001, 10_002]],
    ['ANA MARIA', [10_001]],
    ['ohall', [10_004]],
    ["o'halloran", [10_004]],
    ['S-10003', [10_003]],
    ['s10003', [10_003]],
    ['10003', [10_003]],
    ['ana@example.org', [10_001]],
    ['anatole.cruz@', [10_002]],
    ['second', [10_002]],
    ['0142', [10_004, 10_001]],
    ['775 555 0199', [10_003]],
    ['5550142', [10_004, 10_001]],
    ['nobody', []],
    ['cruz nobody', []],
    ['', []],
    ['  - ', []],
  ])('finds %j', (query, expected) => {
    const found = people.find(query, 10);
    expect([...found].sort()).toEqual([...expected].sort());
  });

  it('puts whole words before beginnings', () => {
    expect(people.find('ana', 10)[0]).toBe(10_001);
    expect(
      index([
        { id: 1, name: 'Rooker', emails: [], phones: [] },
        { id: 2, name: 'Rook', emails: [], phones: [] },
      ]).find('rook', 5),
    ).toEqual([2, 1]);
  });

  it('gives no more than asked', () => expect(people.find('cruz', 1)).toHaveLength(1));

  it('forgets what a record was called before', () => {
    const made = index(PEOPLE);
    made.put({ id: 10_003, name: 'Yarrow Bakery', emails: [], phones: [] });
    expect(made.find('cruz bakery', 10)).toEqual([]);
    expect(made.find('yarrow', 10)).toEqual([10_003]);
    expect(made.find('0199', 10)).toEqual([]);
    made.remove(10_003);
    expect(made.find('yarrow', 10)).toEqual([]);
    expect(made.size).toBe(3);
  });

  it('agrees with looking through every name, whatever is put and removed', () => {
    const word = fc.constantFrom('ana', 'anna', 'bo', 'bob', 'cruz', 'cruzado', 'dunmore');
    const names = fc.array(
      fc.tuple(fc.integer({ min: 1, max: 12 }), fc.option(fc.array(word, { minLength: 1, maxLength: 3 }))),
      { maxLength: 40 },
    );
    fc.assert(
      fc.property(
        names,
        fc.array(fc.constantFrom('a', 'an', 'ana', 'bo', 'cruz', 'd'), { minLength: 1, maxLength: 2 }),
        (steps, query) => {
          const made = new FindIndex();
          const model = new Map<number, string>();
          for (const [id, parts] of steps) {
            if (parts === null) {
              made.remove(id);
              model.delete(id);
            } else {
              made.put({ id, name: parts.join(' '), emails: [], phones: [] });
              model.set(id, parts.join(' '));
            }
          }
          const matches = [...model]
            .filter(([, name]) => query.every((part) => wordsOf(name).some((one) => one.startsWith(part))))
            .map(([id]) => id);
          expect(made.find(query.join(' '), 100).sort((a, b) => a - b)).toEqual(matches.sort((a, b) => a - b));
        },
      ),
    );
  });

  it('takes any text without failing', () => {
    fc.assert(fc.property(fc.string({ unit: 'binary', maxLength: 60 }), (text) => Array.isArray(people.find(text, 5))));
  });
});
