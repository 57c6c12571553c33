import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../dates/index.ts';
import { correctionNeeds, deductible, stateAt, stockCents, takenBack } from './index.ts';
import type { Correction, GiftState } from './index.ts';

const state = (cents: number, over: Partial<GiftState> = {}): GiftState => ({
  ...{ supporterId: 7, cents, date: '2026-03-01', method: 'cheque' },
  parts: cents === 0 ? [] : [{ cents, fundId: 1, campaignId: null, appealId: null }],
  ...over,
});

describe('stateAt', () => {
  const first = state(500_00);
  const second = state(300_00);
  const third = state(0);
  const corrections: Correction[] = [
    { kind: 'adjust', bookedOn: '2026-05-10', before: first, after: second },
    { kind: 'refund', bookedOn: '2026-08-01', before: second, after: third },
  ];
  it.each([
    ['2026-02-28', null],
    ['2026-03-01', 500_00],
    ['2026-05-09', 500_00],
    ['2026-05-10', 300_00],
    ['2026-07-31', 300_00],
    ['2026-08-01', 0],
    ['2030-01-01', 0],
  ])('on %s it was known to be %s', (date, cents) =>
    expect(stateAt(third, '2026-03-01', corrections, date)?.cents ?? null).toBe(cents),
  );

  it('is untouched on every past date by a correction that is made now', () => {
    const steps = fc.array(fc.record({ days: fc.nat(60), cents: fc.nat(9000) }), { maxLength: 6 });
    fc.assert(
      fc.property(steps, fc.nat(500), (list, asked) => {
        let now = state(5000);
        let day = '2026-01-01';
        const made: Correction[] = [];
        const date = addDays('2026-01-01', asked);
        for (const { days, cents } of list) {
          const before = stateAt(now, '2026-01-01', made, date);
          day = addDays(day, days);
          const after = state(cents);
          made.push({ kind: 'adjust', bookedOn: day, before: now, after });
          now = after;
          if (day > date) expect(stateAt(now, '2026-01-01', made, date)).toEqual(before);
          else expect(stateAt(now, '2026-01-01', made, date)).toEqual(after);
        }
      }),
    );
  });
});

describe('takenBack', () => {
  const split = state(100_00, {
    parts: [
      { cents: 66_67, fundId: 1, campaignId: null, appealId: null },
      { cents: 33_33, fundId: 2, campaignId: 4, appealId: null },
    ],
  });
  it('shrinks the parts in proportion', () => {
    const left = takenBack(split, 50_00);
    expect(left.cents).toBe(50_00);
    expect(left.parts.map((one) => one.cents)).toEqual([33_34, 16_66]);
  });
  it('leaves nothing of the whole', () => expect(takenBack(split, 100_00)).toMatchObject({ cents: 0, parts: [] }));
  it('keeps who, when and how', () =>
    expect(takenBack(split, 1)).toMatchObject({ supporterId: 7, date: '2026-03-01', method: 'cheque' }));
  it('always adds up', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 100_00 }), (back) => {
        const left = takenBack(split, back);
        expect(left.parts.reduce((sum, one) => sum + one.cents, 0)).toBe(100_00 - back);
      }),
    );
  });
});

describe('correctionNeeds', () => {
  it.each<[string, GiftState, 'void' | 'reissue' | null]>([
    ['nothing differs', state(500), null],
    ['nothing is left', state(0), 'void'],
    ['another amount', state(400), 'reissue'],
    ['another day', state(500, { date: '2026-03-02' }), 'reissue'],
    ['another donor', state(500, { supporterId: 8 }), 'reissue'],
    ['another method', state(500, { method: 'card' }), 'reissue'],
    ['another fund', state(500, { parts: [{ cents: 500, fundId: 2, campaignId: null, appealId: null }] }), 'reissue'],
  ])('%s', (_name, after, needs) => expect(correctionNeeds(state(500), after)).toBe(needs));
});

describe('stockCents', () => {
  it.each([
    ['100', '25.00', 2500_00],
    ['12.5', '101.2375', 1265_47],
    ['0.333333', '3', 1_00],
    ['1', '0.005', 1],
    ['1', '0.004', null],
    ['1,000', '41.25', 41_250_00],
    ['999999999999', '999999', null],
    ['0', '10', null],
    ['-5', '10', null],
    ['5', '', null],
    ['1.2345678', '10', null],
    ['ten', '10', null],
  ])('%s at %s is %s', (shares, price, cents) => expect(stockCents(shares, price)).toBe(cents));

  it('does not lose a cent in floating point', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 99_999 }), fc.integer({ min: 1, max: 999_999 }), (shares, price) => {
        expect(stockCents(String(shares), (price / 100).toFixed(2))).toBe(shares * price);
      }),
    );
  });
});

describe('deductible', () => {
  it.each([
    [180_00, 65_00, 115_00],
    [50_00, 65_00, 0],
    [50_00, 0, 50_00],
  ])('%i with goods of %i is %i', (cents, benefit, left) => expect(deductible(cents, benefit)).toBe(left));
});
