import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changeInWords, monthsOfYear } from './year.ts';

describe('the months of a fiscal year', () => {
  it('stand beside the same months of the year before, whatever month it begins in', () => {
    const months = monthsOfYear(
      '2026-07-01',
      [
        { key: '2026-07', cents: 100 },
        { key: '2027-01', cents: 300 },
      ],
      [
        { key: '2025-07', cents: 50 },
        { key: '2026-06', cents: 70 },
      ],
    );
    expect(months.map(({ key }) => key)).toEqual(
      '2026-07 2026-08 2026-09 2026-10 2026-11 2026-12 2027-01 2027-02 2027-03 2027-04 2027-05 2027-06'.split(' '),
    );
    expect([months[0], months[6], months[11]]).toEqual([
      { key: '2026-07', cents: 100, before: 50 },
      { key: '2027-01', cents: 300, before: 0 },
      { key: '2027-06', cents: 0, before: 70 },
    ]);
  });

  it('leave nothing out', () => {
    const cents = fc.array(fc.nat(10_000), { minLength: 12, maxLength: 12 });
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 12 }), cents, cents, (month, now, before) => {
        const first = `2026-${String(month).padStart(2, '0')}-01`;
        const keys = monthsOfYear(first, [], []).map(({ key }) => key);
        const ago = keys.map((key) => `${Number(key.slice(0, 4)) - 1}${key.slice(4)}`);
        const months = monthsOfYear(
          first,
          keys.map((key, place) => ({ key, cents: now[place] ?? 0 })),
          ago.map((key, place) => ({ key, cents: before[place] ?? 0 })),
        );
        expect([months.map((one) => one.cents), months.map((one) => one.before)]).toEqual([now, before]);
      }),
    );
  });
});

it('a change is said in parts of a hundred, and of nothing not at all', () => {
  expect([changeInWords(112, 100), changeInWords(97, 100), changeInWords(100, 100)]).toEqual(['+12%', '-3%', '0%']);
  expect(changeInWords(5, 0)).toBe('');
});
