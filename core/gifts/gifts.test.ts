import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { spanOf } from '../dates/index.ts';
import { chequeNumberIn, giftNumber, givingTotals, isBanked, METHOD_CODES, oddDay, paymentMethodOf } from './index.ts';

it.each([
  ['2026-11-23', null],
  ['2025-11-22', null],
  ['2025-11-21', 'more than a year ago'],
])('asks about a gift of %s on 23 November 2026: %s', (date, words) =>
  words === null ? expect(oddDay(date, '2026-11-23')).toBeNull() : expect(oddDay(date, '2026-11-23')).toContain(words),
);

describe('numbers that people read', () => {
  it('are made from ids', () => expect(giftNumber(20_931)).toBe('G-20931'));
});

it.each([
  ['Check', 'cheque'],
  [' CHEQUE ', 'cheque'],
  ['Credit card', 'card'],
  ['ACH', 'bank'],
  ['CC', 'card'],
  ['Debit', 'card'],
  ['Visa 4242', 'card'],
  ['Visa ending in 4242', 'card'],
  ['Mastercard ****4242', 'card'],
  ['Card x4242', 'card'],
  ['ck', 'cheque'],
  ['Check #1849', 'cheque'],
  ['chk no. 1849', 'cheque'],
  ['e-check', 'bank'],
  ['Gift in kind', 'in_kind'],
  ['Visa or so', null],
  ['Check is in the mail', null],
  ['Visa 42', null],
  ['Online', null],
  ['constructor', null],
  ['Seashells', null],
  ['', null],
])('the word %j is the method %s', (word, method) => expect(paymentMethodOf(word)).toBe(method));

it.each([
  ['Check #1849', '1849'],
  ['ck 0042', '0042'],
  ['Check', ''],
  ['Visa 4242', ''],
  ['', ''],
])('beside the method %j stands the number %j of a check', (word, number) => expect(chequeNumberIn(word)).toBe(number));

it('takes all but stock and goods to the bank', () =>
  expect(METHOD_CODES.filter((method) => !isBanked(method)).sort()).toEqual(['in_kind', 'stock']));

describe('givingTotals', () => {
  const calendar = { today: '2026-11-23', fiscalYearStart: 7 };
  const gift = fc.record({
    day: fc.integer({ min: 18_000, max: 20_700 }),
    cents: fc.integer({ min: 1, max: 100_000 }),
  });
  const years = (ago: number) => spanOf({ kind: 'fiscal-year', ago }, calendar);
  it('adds up by fiscal year, whatever the order', () => {
    fc.assert(
      fc.property(fc.array(gift), (gifts) => {
        const totals = givingTotals(gifts, calendar);
        const sum = ({ from, to }: { from: number; to: number }) =>
          gifts.filter((one) => one.day >= from && one.day <= to).reduce((total, one) => total + one.cents, 0);
        const sums = Array.from({ length: 12 }, (_, ago) => sum(years(ago)));
        const none = gifts.length === 0;
        expect(totals).toEqual({
          lifetime: gifts.reduce((total, one) => total + one.cents, 0),
          thisYear: sums[0],
          lastYear: sums[1],
          count: gifts.length,
          largest: none ? 0 : Math.max(...gifts.map((one) => one.cents)),
          firstDay: none ? null : Math.min(...gifts.map((one) => one.day)),
          lastDay: none ? null : Math.max(...gifts.map((one) => one.day)),
          bestYear: none ? null : { cents: Math.max(...sums), year: 2027 - sums.indexOf(Math.max(...sums)) },
        });
        expect(givingTotals(gifts.toReversed(), calendar)).toEqual(totals);
      }),
    );
  });
});
