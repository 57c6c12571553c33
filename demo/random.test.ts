import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Chance } from './random.ts';

describe('Chance', () => {
  it('is the same for the same seed, and another for another', () => {
    const draw = (seed: number): number[] => {
      const chance = new Chance(seed);
      return Array.from({ length: 20 }, () => chance.next());
    };
    expect(draw(5)).toEqual(draw(5));
    expect(draw(5)).not.toEqual(draw(6));
  });
  it('stays within what is asked', () => {
    fc.assert(
      fc.property(fc.integer(), fc.integer({ min: -50, max: 50 }), fc.nat(40), (seed, low, span) => {
        const chance = new Chance(seed);
        const drawn = Array.from({ length: 50 }, () => chance.whole(low, low + span));
        return drawn.every((value) => Number.isInteger(value) && value >= low && value <= low + span);
      }),
    );
  });
  it('keeps to weights, roughly', () => {
    const chance = new Chance(1);
    const drawn = Array.from({ length: 10_000 }, () =>
      chance.weighted([
        ['rare', 1],
        ['common', 9],
      ]),
    );
    const share = drawn.filter((one) => one === 'common').length / drawn.length;
    expect(share).toBeGreaterThan(0.87);
    expect(share).toBeLessThan(0.93);
  });
});
