import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { GiftState } from '../gifts/index.ts';
import { EVER, TOTAL_BY, totalsKnown } from './index.ts';
import type { KnownFilter, TotalBy } from './index.ts';
import { dayNumber } from '../dates/index.ts';

const ALL: KnownFilter = {
  ...{ span: EVER, fundId: null, campaignId: null, appealId: null, method: null, donors: null },
  ...{ by: 'nothing', fiscalYearStart: 7 },
};
const part = (cents: number, fundId: number) => ({ cents, fundId, campaignId: null, appealId: null });
const gift = (id: number, over: Partial<GiftState>): { id: number; state: GiftState } => {
  const state: GiftState = { supporterId: 1, cents: 100, date: '2026-03-01', method: 'cash', parts: [], ...over };
  return { id, state: { ...state, parts: state.parts.length > 0 ? state.parts : [part(state.cents, 1)] } };
};
const gifts = [
  gift(1, { cents: 100, date: '2026-06-30' }),
  gift(2, { cents: 300, date: '2026-07-01', supporterId: 2, method: 'card', parts: [part(100, 1), part(200, 2)] }),
  gift(3, { cents: 50, date: '2026-07-02', supporterId: 2 }),
];

describe('totalsKnown', () => {
  it.each<[TotalBy, [string, number, number, number][]]>([
    ['nothing', [['', 450, 3, 2]]],
    [
      'fund',
      [
        ['1', 250, 3, 2],
        ['2', 200, 1, 1],
      ],
    ],
    ['campaign', [['0', 450, 3, 2]]],
    [
      'method',
      [
        ['cash', 150, 2, 2],
        ['card', 300, 1, 1],
      ],
    ],
    [
      'year',
      [
        ['2026', 100, 1, 1],
        ['2027', 350, 2, 1],
      ],
    ],
    [
      'month',
      [
        ['2026-06', 100, 1, 1],
        ['2026-07', 350, 2, 1],
      ],
    ],
  ])('by %s', (by, rows) =>
    expect(totalsKnown(gifts, { ...ALL, by })).toEqual(
      rows.map(([key, cents, many, donors]) => ({ key, cents, gifts: many, donors })),
    ),
  );

  it.each<[string, Partial<KnownFilter>, number]>([
    ['a fund counts the parts that went there', { fundId: 2 }, 200],
    ['a donor', { donors: new Set([2]) }, 350],
    ['a method', { method: 'cash' }, 150],
    ['a span, both days included', { span: { from: dayNumber('2026-06-30'), to: dayNumber('2026-07-01') } }, 400],
    ['an appeal that nothing went to', { appealId: 4 }, 0],
  ])('of %s', (_name, over, cents) => expect(totalsKnown(gifts, { ...ALL, ...over })[0]?.cents ?? 0).toBe(cents));

  it('comes to the same however it is laid out', () => {
    const some = fc.array(
      fc.record({ cents: fc.nat(5000), who: fc.nat(3), fund: fc.nat(3), day: fc.nat(27), cash: fc.boolean() }),
    );
    fc.assert(
      fc.property(some, fc.constantFrom(...(Object.keys(TOTAL_BY) as TotalBy[])), (list, by) => {
        const made = list.map((one, id) =>
          gift(id, {
            ...{ supporterId: one.who, cents: one.cents, method: one.cash ? 'cash' : 'card' },
            date: `2026-06-${String(one.day + 1).padStart(2, '0')}`,
            parts: [part(one.cents, one.fund)],
          }),
        );
        const sum = totalsKnown(made, { ...ALL, by }).reduce((total, row) => total + row.cents, 0);
        expect(sum).toBe(list.reduce((total, one) => total + one.cents, 0));
      }),
    );
  });
});
