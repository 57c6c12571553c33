import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { giftNumber, givingTotals, paymentMethodOf, supporterIdOf, supporterNumber } from './index.ts';

describe('numbers that people read', () => {
  it.each([
    ['S-10482', 10_482],
    ['s10482', 10_482],
    [' 10482 ', 10_482],
    ['G-20931', null],
    ['S-', null],
    ['S-1234567890', null],
    ['10482x', null],
  ])('%j is supporter %s', (text, expected) => expect(supporterIdOf(text)).toBe(expected));
  it('are made from ids', () => expect([supporterNumber(10_482), giftNumber(20_931)]).toEqual(['S-10482', 'G-20931']));
});

it.each([
  ['Check', 'cheque'],
  [' CHEQUE ', 'cheque'],
  ['Credit card', 'card'],
  ['ACH', 'bank'],
  ['Seashells', null],
  ['', null],
])('the word %j is the method %s', (word, method) => expect(paymentMethodOf(word)).toBe(method));

describe('givingTotals', () => {
  const gift = fc.record({ day: fc.integer({ min: 0, max: 1000 }), cents: fc.integer({ min: 1, max: 100_000 }) });
  it('adds up by span, whatever the order', () => {
    fc.assert(
      fc.property(fc.array(gift), (gifts) => {
        const totals = givingTotals(gifts, { from: 500, to: 749 }, { from: 250, to: 499 });
        const sum = (from: number, to: number) =>
          gifts.filter((one) => one.day >= from && one.day <= to).reduce((total, one) => total + one.cents, 0);
        expect(totals).toEqual({
          lifetime: sum(0, 1000),
          thisYear: sum(500, 749),
          lastYear: sum(250, 499),
          count: gifts.length,
          largest: gifts.length === 0 ? 0 : Math.max(...gifts.map((one) => one.cents)),
          firstDay: gifts.length === 0 ? null : Math.min(...gifts.map((one) => one.day)),
          lastDay: gifts.length === 0 ? null : Math.max(...gifts.map((one) => one.day)),
        });
        expect(givingTotals(gifts.toReversed(), { from: 500, to: 749 }, { from: 250, to: 499 })).toEqual(totals);
      }),
    );
  });
});
