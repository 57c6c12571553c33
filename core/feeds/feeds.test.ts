import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseGiftAmount } from '../money/index.ts';
import { CAME_COLUMNS, cellsOfCame, isDue, standingOf, toTell } from './index.ts';
import type { Came, CameState, Elsewhere } from './index.ts';

const CAME: Came = {
  ...{ id: 'GP-1', day: '2026-11-02', cents: 5000, feeCents: 175, currency: 'USD', paidBy: 'card', campaign: 'Van' },
  comment: 'For the van',
  donor: {
    ...{ number: 'D-1', first: 'Ana', last: 'Cruz', organization: '', email: 'ana@example.org', phone: '' },
    ...{ street: '1 Perseid Place', city: 'Elko', state: 'NV', zip: '89801' },
  },
};
const cell = (came: Came, heading: string): string =>
  cellsOfCame(came, 'USD')[CAME_COLUMNS.findIndex(([name]) => name === heading)] ?? 'no such column';

describe('a gift that came, as a row', () => {
  it('has a cell under each heading, in its place', () => {
    expect(cellsOfCame(CAME, 'USD')).toHaveLength(CAME_COLUMNS.length);
    expect(
      ['Gift', 'Day', 'Amount', 'Fee', 'Paid by', 'Campaign there', 'Donor there', 'ZIP'].map((one) => cell(CAME, one)),
    ).toEqual(['GP-1', '2026-11-02', '50.00', '1.75', 'card', 'Van', 'D-1', '89801']);
  });
  it('has no empty cell where there is no day, which would be read as today', () => {
    expect(cell({ ...CAME, day: null }, 'Day')).toBe('(no day)');
  });
  it('says no fee where none was kept', () => {
    expect(cell({ ...CAME, feeCents: 0 }, 'Fee')).toBe('');
  });
  it('names another currency, so that it is not read as ours', () => {
    expect(cell({ ...CAME, currency: 'CAD' }, 'Amount')).toBe('50.00 CAD');
    expect(cell({ ...CAME, currency: 'CAD' }, 'Fee')).toBe('1.75 CAD');
  });
  it.each(['fifty', '5000', '', 12.5, 1e300])('lets no amount be read where there is no whole number: %s', (cents) => {
    const written = cell({ ...CAME, cents }, 'Amount');
    expect(written).toContain(String(cents));
    expect(parseGiftAmount(written, '.', 'USD')).toMatchObject({ ok: false });
  });
});

describe('when a feed is due', () => {
  const last = { minutesAgo: 600, day: '2026-11-02', hour: 6 };
  const daily = { often: 'day', at: 5 } as const;
  it('is never due by itself where somebody begins it', () => {
    expect(isDue({ often: 'never', at: 5 }, { ...last, minutesAgo: 1e6 }, { day: '2027-01-01', hour: 12 })).toBe(false);
  });
  it.each([
    ['quarter', 9, false],
    ['quarter', 14, true],
    ['hour', 45, false],
    ['hour', 59, true],
  ] as const)('%s: after %i minutes %s', (often, minutesAgo, due) => {
    expect(isDue({ often, at: 0 }, { ...last, minutesAgo }, { day: '2026-11-02', hour: 7 })).toBe(due);
  });
  it.each([
    ['the same day, after its hour', last, { day: '2026-11-02', hour: 23 }, false],
    ['the next day before its hour', last, { day: '2026-11-03', hour: 4 }, false],
    ['the next day at its hour', last, { day: '2026-11-03', hour: 5 }, true],
    ['set before its hour, the same day', { ...last, hour: 2 }, { day: '2026-11-02', hour: 5 }, true],
    ['a day was missed, before the hour', last, { day: '2026-11-04', hour: 1 }, true],
    ['over the end of a year', { ...last, day: '2026-12-31' }, { day: '2027-01-01', hour: 5 }, true],
  ] as const)('once a day: %s', (_says, before, now, due) => {
    expect(isDue(daily, before, now)).toBe(due);
  });
});

describe('what is told of gifts given elsewhere', () => {
  const gift = (key: string, cents: number, day = '2026-11-02'): Elsewhere => ({ key, cents, day });
  it('is what is new, otherwise, or gone, and nothing else', () => {
    const told = [gift('G-1', 100), gift('G-2', 200), gift('G-3', 300), gift('G-4', 0)];
    const holds = [gift('G-1', 100), gift('G-2', 250), gift('G-5', 500)];
    expect(toTell(told, holds)).toEqual([gift('G-2', 250), gift('G-5', 500), gift('G-3', 0)]);
  });
  it('tells a day that was mended', () => {
    expect(toTell([gift('G-1', 100)], [gift('G-1', 100, '2026-11-03')])).toHaveLength(1);
  });
  it('leaves the source knowing just what holds, whatever it was told before', () => {
    const gifts = fc.uniqueArray(
      fc.record({
        key: fc.constantFrom('G-1', 'G-2', 'G-3', 'G-4'),
        cents: fc.integer({ min: 1, max: 3 }),
        day: fc.constantFrom('2026-11-01', '2026-11-02'),
      }),
      { selector: ({ key }) => key },
    );
    fc.assert(
      fc.property(gifts, gifts, (told, holds) => {
        const there = new Map<string, Elsewhere>(told.map((one) => [one.key, one]));
        for (const one of toTell(told, holds)) there.set(one.key, one);
        const left = [...there.values()].filter(({ cents }) => cents > 0);
        const byKey = (all: readonly Elsewhere[]) => [...all].sort((a, b) => a.key.localeCompare(b.key));
        expect(byKey(left)).toEqual(byKey(holds));
        expect(toTell([...there.values()], holds)).toEqual([]);
      }),
    );
  });
});

describe('where what came stands', () => {
  it('is three parts that add up', () => {
    const one = fc.record({
      state: fc.constantFrom<CameState>('recorded', 'waiting', 'leftOut'),
      cents: fc.integer({ min: 0, max: 1e9 }),
    });
    fc.assert(
      fc.property(fc.array(one), (all) => {
        const { came, recorded, waiting, leftOut } = standingOf(all);
        expect(came.gifts).toBe(all.length);
        expect(recorded.gifts + waiting.gifts + leftOut.gifts).toBe(came.gifts);
        expect(recorded.cents + waiting.cents + leftOut.cents).toBe(came.cents);
      }),
    );
  });
});
