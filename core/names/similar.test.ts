import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { forgiven, otherNames, slips, sounds } from './similar.ts';

describe('slips', () => {
  it.each([
    ['rookwood', 'rokwood', 1],
    ['rookwood', 'rookwodo', 1],
    ['rookwood', 'roqwood', 2],
    ['ana', 'ana', 0],
    ['', 'ana', 3],
    ['farr', 'quill', 4],
  ])('from %s to %s: %i', (a, b, many) => expect(slips(a, b, 3)).toBe(many));
  it('is the same both ways, and never more than one above the most', () => {
    const word = fc.string({ maxLength: 8 });
    fc.assert(
      fc.property(word, word, fc.nat(3), (a, b, most) => {
        expect(slips(a, b, most)).toBe(slips(b, a, most));
        expect(slips(a, b, most)).toBeLessThanOrEqual(most + 1);
        expect(slips(a, b, 20) <= most).toBe(slips(a, b, most) <= most);
      }),
    );
  });
  it('forgives short words nothing', () => expect(['ann', 'anna', 'rookwood'].map(forgiven)).toEqual([0, 1, 2]));
});

it('hears what sounds alike', () => {
  const alike = (a: string, b: string): boolean => sounds(a).some((key) => sounds(b).includes(key));
  expect([alike('smith', 'smyth'), alike('katherine', 'catherine'), alike('farr', 'quill')]).toEqual([
    true,
    true,
    false,
  ]);
  expect(sounds('123')).toEqual([]);
});

it('knows what people are called', () => {
  expect(otherNames('William')).toContain('bill');
  expect(otherNames('Bill')).toContain('william');
  expect(otherNames('Xochitl')).toEqual([]);
});
