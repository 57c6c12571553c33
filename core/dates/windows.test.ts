import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dateOfDay, dayNumber, describeWindow, NAMED_WINDOWS, namedPlace, spanOf } from './index.ts';
import type { Calendar, Window } from './index.ts';

const calendar: Calendar = { today: '2026-11-23', fiscalYearStart: 7 };
const US = { locale: 'en-US' };

describe('windows', () => {
  it('that are offered by name are found among them, whatever else is not', () => {
    expect(NAMED_WINDOWS.map(([, window]) => namedPlace({ ...window }))).toEqual([...NAMED_WINDOWS.keys()]);
    expect(namedPlace({ kind: 'fiscal-year', ago: 9 })).toBe(-1);
    expect(namedPlace({ kind: 'kept', id: 1 })).toBe(-1);
  });

  it('that are kept by a name are what is kept, and have no days once they are gone', () => {
    const spring = { kind: 'between', from: '2026-03-01', to: '2026-05-31' } as const;
    const known = { ...calendar, windows: [{ id: 4, name: 'the spring', window: spring }] };
    expect(spanOf({ kind: 'kept', id: 4 }, known)).toEqual(spanOf(spring, calendar));
    expect(describeWindow({ kind: 'kept', id: 4 }, known, US)).toBe('in the spring');
    for (const where of [known, calendar]) {
      const { from, to } = spanOf({ kind: 'kept', id: 5 }, where);
      expect(from).toBeGreaterThan(to);
      expect(describeWindow({ kind: 'kept', id: 5 }, where, US)).toBe('in a window that is no longer there');
    }
  });

  const days = (window: Window): [string, string] => {
    const span = spanOf(window, calendar);
    return [dateOfDay(span.from), dateOfDay(span.to)];
  };
  it('span what they say', () => {
    expect(days({ kind: 'fiscal-year', ago: 0 })).toEqual(['2026-07-01', '2027-06-30']);
    expect(days({ kind: 'fiscal-year', ago: 1 })).toEqual(['2025-07-01', '2026-06-30']);
    expect(days({ kind: 'last-days', days: 7 })).toEqual(['2026-11-17', '2026-11-23']);
    expect(days({ kind: 'between', from: '2026-01-01', to: '2026-01-02' })).toEqual(['2026-01-01', '2026-01-02']);
    expect(days({ kind: 'last', many: 2, unit: 'week' })).toEqual(['2026-11-10', '2026-11-23']);
    expect(days({ kind: 'last', many: 18, unit: 'month' })).toEqual(['2025-05-24', '2026-11-23']);
    expect(days({ kind: 'last', many: 3, unit: 'year' })).toEqual(['2023-11-24', '2026-11-23']);
    expect(days({ kind: 'next', many: 10, unit: 'day' })).toEqual(['2026-11-24', '2026-12-03']);
    expect(days({ kind: 'next', many: 1, unit: 'month' })).toEqual(['2026-11-24', '2026-12-23']);
    expect(days({ kind: 'month', ago: 0 })).toEqual(['2026-11-01', '2026-11-30']);
    expect(days({ kind: 'month', ago: 11 })).toEqual(['2025-12-01', '2025-12-31']);
    expect(days({ kind: 'month', ago: -3 })).toEqual(['2027-02-01', '2027-02-28']);
    expect(days({ kind: 'quarter', ago: 0 })).toEqual(['2026-10-01', '2026-12-31']);
    expect(days({ kind: 'quarter', ago: 4 })).toEqual(['2025-10-01', '2025-12-31']);
    expect(days({ kind: 'year', ago: 1 })).toEqual(['2025-01-01', '2025-12-31']);
    expect(days({ kind: 'fiscal-quarter', ago: 1 })).toEqual(['2026-07-01', '2026-09-30']);
    expect(days({ kind: 'to-date', of: 'fiscal-year', ago: 0 })).toEqual(['2026-07-01', '2026-11-23']);
    expect(days({ kind: 'to-date', of: 'fiscal-year', ago: 1 })).toEqual(['2025-07-01', '2025-11-23']);
    expect(days({ kind: 'to-date', of: 'year', ago: 2 })).toEqual(['2024-01-01', '2024-11-23']);
    expect(days({ kind: 'since', from: '2026-05-01' })[0]).toBe('2026-05-01');
    expect(days({ kind: 'until', to: '2026-05-01' })[1]).toBe('2026-05-01');
    const ever = spanOf({ kind: 'ever' }, calendar);
    expect(ever.from).toBeLessThan(dayNumber('1000-01-01'));
    expect(ever.to).toBeGreaterThan(dayNumber('9999-12-31'));
  });
  it('read as words', () => {
    expect(describeWindow({ kind: 'fiscal-year', ago: 0 }, calendar, US)).toBe('this fiscal year (FY2027)');
    expect(describeWindow({ kind: 'fiscal-year', ago: 1 }, calendar, US)).toBe('last fiscal year (FY2026)');
    expect(describeWindow({ kind: 'fiscal-year', ago: 3 }, calendar, US)).toBe('in FY2024');
    expect(describeWindow({ kind: 'last-days', days: 30 }, calendar, US)).toBe('in the last 30 days');
    expect(describeWindow({ kind: 'between', from: '2026-01-01', to: '2026-01-31' }, calendar, US)).toBe(
      'from Jan 1, 2026 to Jan 31, 2026',
    );
    expect(describeWindow({ kind: 'ever' }, calendar, US)).toBe('ever');
  });
  it.each<[Window, string]>([
    [{ kind: 'since', from: '2026-05-01' }, 'since May 1, 2026'],
    [{ kind: 'until', to: '2026-05-01' }, 'up to May 1, 2026'],
    [{ kind: 'last-days', days: 1 }, 'today'],
    [{ kind: 'last', many: 18, unit: 'month' }, 'in the last 18 months'],
    [{ kind: 'next', many: 1, unit: 'week' }, 'in the next week'],
    [{ kind: 'month', ago: 0 }, 'this month (November 2026)'],
    [{ kind: 'month', ago: -2 }, 'in January 2027'],
    [{ kind: 'quarter', ago: 1 }, 'last quarter (Q3 2026)'],
    [{ kind: 'year', ago: -1 }, 'next year (2027)'],
    [{ kind: 'fiscal-quarter', ago: 0 }, 'this fiscal quarter (Q2 of FY2027)'],
    [{ kind: 'fiscal-quarter', ago: 2 }, 'in Q4 of FY2026'],
    [{ kind: 'to-date', of: 'fiscal-year', ago: 0 }, 'this fiscal year to date'],
    [{ kind: 'to-date', of: 'year', ago: 1 }, 'last year to the same day'],
  ])('%j', (window, words) => expect(describeWindow(window, calendar, US)).toBe(words));

  it('that follow one another leave no day out and share none, on any day and in any fiscal year', () => {
    const day = fc.integer({ min: dayNumber('1999-01-01'), max: dayNumber('2101-12-31') }).map(dateOfDay);
    const kind = fc.constantFrom('month', 'quarter', 'year', 'fiscal-quarter', 'fiscal-year');
    fc.assert(
      fc.property(
        day,
        fc.integer({ min: 1, max: 12 }),
        kind,
        fc.integer({ min: -3, max: 9 }),
        (today, start, of, ago) => {
          const at = (back: number) => spanOf({ kind: of, ago: back } as Window, { today, fiscalYearStart: start });
          expect(at(ago + 1).to + 1).toBe(at(ago).from);
          expect(at(0).from).toBeLessThanOrEqual(dayNumber(today));
          expect(at(0).to).toBeGreaterThanOrEqual(dayNumber(today));
        },
      ),
    );
  });
});
