import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, dateOfDay, dayNumber } from '../dates/index.ts';
import { layTally, notchWidth } from './index.ts';
import type { TallyGift } from './index.ts';

const TODAY = '2026-11-23';
const WIDTH = 640;
const gift: fc.Arbitrary<Omit<TallyGift, 'id'>> = fc.record({
  date: fc.integer({ min: dayNumber('2018-07-01'), max: dayNumber(TODAY) }).map(dateOfDay),
  cents: fc.integer({ min: 1, max: 5_000_000 }),
  acknowledgedOn: fc.option(fc.constant(TODAY)),
});
const gifts = fc.array(gift, { maxLength: 300 }).map((list) => list.map((one, id) => ({ ...one, id })));

const US = { locale: 'en-US' };
describe('layTally', () => {
  it('keeps every notch on the stick, in the order of dates, without touching', () => {
    fc.assert(
      fc.property(gifts, fc.boolean(), (given, fit) => {
        const { notches } = layTally(given, TODAY, 7, WIDTH, fit ? US : null);
        expect(notches).toHaveLength(given.length);
        notches.forEach((notch, index) => {
          expect(notch.x).toBeGreaterThanOrEqual(-1e-6);
          expect(notch.x + notch.width).toBeLessThanOrEqual(WIDTH + 1e-6);
          const next = notches[index + 1];
          if (!next) return;
          expect(next.date >= notch.date).toBe(true);
          expect(next.x).toBeGreaterThanOrEqual(notch.x + notch.width - 1e-6);
        });
      }),
    );
  });

  it('stands a lone notch at its date', () => {
    const { notches, from, to } = layTally(
      [{ id: 1, date: '2025-01-01', cents: 500_00, acknowledgedOn: null }],
      TODAY,
      7,
      WIDTH,
    );
    expect([from, to]).toEqual(['2022-07-01', '2027-06-30']);
    const scale = WIDTH / (dayNumber('2027-07-01') - dayNumber('2022-07-01'));
    expect((notches[0]?.x ?? 0) + (notches[0]?.width ?? 0) / 2).toBeCloseTo(
      (dayNumber('2025-01-01') - dayNumber(from)) * scale,
      5,
    );
  });

  it('leaves the lower half uncut until the gift is answered', () => {
    const { notches } = layTally(
      [
        { id: 1, date: TODAY, cents: 1, acknowledgedOn: null },
        { id: 2, date: TODAY, cents: 1, acknowledgedOn: TODAY },
      ],
      TODAY,
      7,
      WIDTH,
    );
    expect(notches.map((notch) => notch.answered)).toEqual([false, true]);
  });

  it('rules fiscal years, five at least, and reaches back to the first gift', () => {
    expect(layTally([], TODAY, 7, WIDTH).rules.map((rule) => rule.label)).toEqual([
      'FY2023',
      'FY2024',
      'FY2025',
      'FY2026',
      'FY2027',
    ]);
    expect(
      layTally([{ id: 1, date: '2018-08-01', cents: 1, acknowledgedOn: null }], TODAY, 7, WIDTH).rules[0]?.label,
    ).toBe('FY2019');
    expect(layTally([], TODAY, 1, WIDTH).rules.at(-1)?.label).toBe('FY2026');
  });

  it('fits the stick to the gifts when asked, ruled by months', () => {
    const tally = layTally([{ id: 1, date: addDays(TODAY, -40), cents: 1, acknowledgedOn: null }], TODAY, 7, WIDTH, US);
    expect([tally.from, tally.to]).toEqual(['2026-10-14', TODAY]);
    expect(tally.rules.map((rule) => rule.label)).toEqual(['Nov 1, 2026']);
  });
});

it('notches widen with the gift, on fixed steps', () => {
  expect([1, 24_99, 25_00, 99_99, 100_00, 1_000_00, 9_999_99, 10_000_00].map(notchWidth)).toEqual([
    2, 2, 4, 4, 7, 12, 12, 18,
  ]);
});

describe('what is no gift', () => {
  const lay = (one: Partial<TallyGift>) =>
    layTally([{ id: 1, date: '2026-01-01', cents: 1_000, acknowledgedOn: null, ...one }], TODAY, 7, WIDTH).notches[0];

  it('asks for no thanks', () => {
    expect(lay({})?.answered).toBe(false);
    expect(lay({ kind: 'credit' })?.answered).toBe(true);
    expect(lay({ kind: 'pledge' })?.answered).toBe(true);
  });

  it.each([
    [0, 0, 0, 0],
    [250, 0, 0.25, 0],
    [750, 250, 0.75, 0.25],
    [2_000, 0, 1, 0],
  ])(
    'a pledge of 1000 with %i paid and %i written off fills %d and is struck by %d',
    (paid, writtenOff, filled, struck) =>
      expect(lay({ kind: 'pledge', paid, writtenOff })).toMatchObject({ filled, struck }),
  );

  it('a gift neither fills nor is struck', () =>
    expect(lay({ paid: 500, writtenOff: 500 })).toMatchObject({ filled: 0, struck: 0 }));
});
