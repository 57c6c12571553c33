import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Postings } from './postings.ts';

const having = (postings: Postings, word: string): number[] => {
  const found: number[] = [];
  postings.each(word, (slots) => found.push(...slots));
  return found.sort((a, b) => a - b);
};
const beginning = (postings: Postings, prefix: string): { whole: number[]; begun: number[] } => {
  const found = { whole: [] as number[], begun: [] as number[] };
  postings.eachBeginning(prefix, (slots, whole) => void found[whole ? 'whole' : 'begun'].push(...slots));
  for (const slots of Object.values(found)) slots.sort((a, b) => a - b);
  return found;
};

describe('Postings', () => {
  const word = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), minLength: 1, maxLength: 4 });
  const step = fc.record({ word, slot: fc.nat(5), add: fc.boolean() });

  it('holds what was added and not removed, and finds words by their beginning, whenever it was settled', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 90 }), fc.nat(90), word, (steps, settled, prefix) => {
        const postings = new Postings();
        const model = new Map<string, number[]>();
        const rest = new Map<string, number[]>();
        for (const [at, one] of steps.entries()) {
          if (at === settled) {
            postings.settle();
            for (const [known, slots] of model) rest.set(known, slots);
            model.clear();
          }
          const slots = model.get(one.word) ?? [];
          if (one.add) {
            postings.add(one.word, one.slot);
            model.set(one.word, [...slots, one.slot]);
          } else {
            postings.remove(one.word, one.slot);
            const place = slots.indexOf(one.slot);
            if (place >= 0) model.set(one.word, slots.toSpliced(place, 1));
          }
        }
        // What is at rest stays, and what came since is beside.
        const slotsOf = (known: string) =>
          [...(rest.get(known) ?? []), ...(model.get(known) ?? [])].sort((a, b) => a - b);
        const words = [...new Set([...rest.keys(), ...model.keys()])];
        for (const known of words) {
          expect(having(postings, known)).toEqual(slotsOf(known));
          expect(postings.has(known)).toBe(slotsOf(known).length > 0);
        }
        expect(beginning(postings, prefix)).toEqual({
          whole: slotsOf(prefix),
          begun: words
            .filter((known) => known.startsWith(prefix) && known !== prefix)
            .flatMap(slotsOf)
            .sort((a, b) => a - b),
        });
      }),
    );
  });

  it('takes in a few new words as well as many', () => {
    const postings = new Postings();
    const words = Array.from({ length: 200 }, (_, index) => `w${String((index * 7919) % 1000).padStart(3, '0')}`);
    for (const one of words) postings.add(one, 1);
    const known = (): string[] => {
      const found: string[] = [];
      postings.eachWord((one) => found.push(one));
      return found;
    };
    expect(known()).toEqual([...words].sort());
    postings.add('aaa', 2);
    postings.add('zzz', 3);
    expect([known()[0], known().at(-1)]).toEqual(['aaa', 'zzz']);
    expect(beginning(postings, 'zz')).toEqual({ whole: [], begun: [3] });
    expect(beginning(postings, 'x')).toEqual({ whole: [], begun: [] });
    expect(postings.has('never')).toBe(false);
  });
});
