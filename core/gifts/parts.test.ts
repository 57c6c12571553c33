import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { creditParts, partsFault, readParts, recognised, shared } from './index.ts';
import type { GiftPart } from './index.ts';

const part = (cents: number, fundId = 1, over: Partial<GiftPart> = {}): GiftPart => ({
  ...{ cents, fundId, campaignId: null, appealId: null },
  ...over,
});
const amounts = fc.array(fc.integer({ min: 1, max: 1_000_000 }), { minLength: 1, maxLength: 8 });
const sumOf = (list: readonly number[]): number => list.reduce((sum, one) => sum + one, 0);

describe('partsFault', () => {
  it.each<[string, number, GiftPart[], string | null]>([
    ['parts that add up', 500, [part(200), part(300, 2)], null],
    ['the same fund for two campaigns', 500, [part(200), part(300, 1, { campaignId: 4 })], null],
    ['too little', 500, [part(200), part(200, 2)], '1.00 less'],
    ['too much', 500, [part(400), part(200, 2)], '1.00 more'],
    ['nothing', 500, [], 'one fund at least'],
    ['a part of nothing', 500, [part(500), part(0, 2)], 'above zero'],
    ['a part below zero', 500, [part(600), part(-100, 2)], 'above zero'],
    ['two of the same', 500, [part(200), part(300)], 'make them one'],
  ])('%s', (_name, cents, parts, words) => {
    const fault = partsFault(cents, parts);
    if (words === null) expect(fault).toBeNull();
    else expect(fault).toContain(words);
  });
});

describe('readParts', () => {
  it.each<[string, number, string[], number[]]>([
    ['amounts', 500, ['2.00', '3'], [200, 300]],
    ['shares', 1000, ['33%', '67 %'], [330, 670]],
    ['shares that do not come out even', 100, ['33.33%', '33.33%', '33.34%'], [33, 33, 34]],
    ['the rest', 500, ['1.50', ''], [150, 350]],
    ['a share and the rest', 1001, ['50%', ''], [501, 500]],
    ['an amount, a share, the rest', 10_000, ['12.34', '10%', ''], [1234, 1000, 7766]],
  ])('%s', (_name, cents, texts, read) => {
    const made = readParts(cents, texts);
    expect(made.ok && sumOf(made.cents)).toBe(cents);
    expect(made).toEqual({ ok: true, cents: read });
  });

  it.each<[string, number, string[], number, string]>([
    ['shares beyond the whole', 100, ['60%', '60%'], 1, '120%'],
    ['nothing left', 500, ['5.00', ''], 1, 'Nothing is left'],
    ['two that take the rest', 500, ['', ''], 1, ''],
    ['no number', 500, ['abc', ''], 0, ''],
    ['below zero', 500, ['-5', ''], 0, ''],
  ])('says which is wrong: %s', (_name, cents, texts, place, words) => {
    const made = readParts(cents, texts);
    expect(made).toMatchObject({ ok: false, place });
    if (!made.ok) expect(made.reason).toContain(words);
  });

  it('by shares that make the whole always adds up to the cent', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 10_000_000 }), fc.array(fc.nat(40), { maxLength: 2 }), (cents, some) => {
        const texts = [...some.map((share) => `${share}%`), `${100 - sumOf(some)}%`];
        const made = readParts(cents, texts);
        expect(made.ok && sumOf(made.cents)).toBe(cents);
      }),
    );
  });
});

describe('shared', () => {
  it('keeps the proportion and adds up to the cent', () => {
    fc.assert(
      fc.property(amounts, fc.integer({ min: 1, max: 2_000_000 }), (list, cents) => {
        const parts = list.map((amount, fund) => part(amount, fund + 1));
        const made = shared(cents, parts);
        const whole = sumOf(list);
        expect(sumOf(made.map((one) => one.cents))).toBe(cents);
        for (const one of made) {
          const exact = (cents * (list[one.fundId - 1] ?? 0)) / whole;
          expect(Math.abs(one.cents - exact)).toBeLessThan(1);
          expect(one.cents).toBeGreaterThan(0);
        }
      }),
    );
  });
});

describe('soft credits', () => {
  it('fall to the parts in proportion and add up', () => {
    fc.assert(
      fc.property(amounts, fc.integer({ min: 1, max: 1_000_000 }), (list, credit) => {
        const parts = list.map((amount, fund) => part(amount, fund + 1));
        expect(sumOf(creditParts(credit, parts))).toBe(credit);
      }),
    );
  });

  it('never fall to a part beyond it while the credit is within the gift', () => {
    fc.assert(
      fc.property(amounts, fc.double({ min: 0, max: 1, noNaN: true }), (list, share) => {
        const parts = list.map((amount, fund) => part(amount, fund + 1));
        const credit = Math.floor(sumOf(list) * share);
        creditParts(credit, parts).forEach((cents, place) => expect(cents).toBeLessThanOrEqual(list[place] ?? 0));
      }),
    );
  });

  it.each([
    [[300, 200], 400, 400],
    [[100, 200], 400, 300],
    [[], 400, 0],
  ])('%j of a part of %i recognise %i', (credits, of, cents) => expect(recognised(credits, of)).toBe(cents));
});
