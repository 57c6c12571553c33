import fc from 'fast-check';
import { expect, it } from 'vitest';
import { Bits } from './index.ts';

const bits = (list: readonly number[]): Bits => list.reduce((sum, one) => (sum.add(one), sum), new Bits(100));

it('bits behave as a set of numbers', () => {
  const set = fc.uniqueArray(fc.nat(99));
  fc.assert(
    fc.property(set, set, (a, b) => {
      expect([...bits(a)]).toEqual(a.toSorted((x, y) => x - y));
      expect(bits(a).count()).toBe(a.length);
      for (const one of b) expect(bits(a).has(one)).toBe(a.includes(one));
    }),
  );
});

it('has room for more after a copy of another size, and counts to the last bit', () => {
  const grown = bits([0, 31, 99]).copy(1000);
  for (const one of [31, 100, 999]) grown.add(one);
  expect([[...grown], grown.count()]).toEqual([[0, 31, 99, 100, 999], 5]);
  const all = Array.from({ length: 100 }, (_, at) => at);
  expect([[...bits(all)], bits(all).count()]).toEqual([all, 100]);
});
