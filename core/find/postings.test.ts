import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Postings } from './postings.ts';

describe('Postings', () => {
  const word = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), minLength: 1, maxLength: 4 });
  const step = fc.record({ word, slot: fc.nat(5), add: fc.boolean() });

  it('holds what was added and not removed, and finds words by their beginning in order', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 90 }), word, (steps, prefix) => {
        const postings = new Postings();
        const model = new Map<string, number[]>();
        for (const one of steps) {
          const slots = model.get(one.word) ?? [];
          if (one.add) {
            postings.add(one.word, one.slot);
            model.set(one.word, [...slots, one.slot]);
          } else {
            postings.remove(one.word, one.slot);
            const at = slots.indexOf(one.slot);
            if (at >= 0) model.set(one.word, slots.toSpliced(at, 1));
          }
        }
        for (const [known, slots] of model)
          expect([...postings.slots(known)].sort((a, b) => a - b)).toEqual([...slots].sort((a, b) => a - b));
        const found: [string, number[]][] = [];
        postings.eachBeginning(prefix, (known, slots) => found.push([known, [...slots].sort((a, b) => a - b)]));
        const wanted = [...model].filter(([known]) => known.startsWith(prefix)).sort(([a], [b]) => (a < b ? -1 : 1));
        expect(found).toEqual(wanted.map(([known, slots]) => [known, [...slots].sort((a, b) => a - b)]));
      }),
    );
  });

  it('takes in a few new words as well as many', () => {
    const postings = new Postings();
    const words = Array.from({ length: 200 }, (_, index) => `w${String((index * 7919) % 1000).padStart(3, '0')}`);
    for (const one of words) postings.add(one, 1);
    expect(postings.words()).toEqual([...words].sort());
    postings.add('aaa', 2);
    postings.add('zzz', 3);
    expect([postings.words()[0], postings.words().at(-1)]).toEqual(['aaa', 'zzz']);
    const beginning = (prefix: string): string[] => {
      const found: string[] = [];
      postings.eachBeginning(prefix, (word) => found.push(word));
      return found;
    };
    expect(beginning('zz')).toEqual(['zzz']);
    expect(beginning('x')).toEqual([]);
    expect(postings.slots('never')).toEqual([]);
  });
});
