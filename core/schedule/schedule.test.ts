import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, dateOfDay, dayNumber, daysInMonth } from '../dates/index.ts';
import { dateAt, datesBetween, describeSchedule, FREQUENCIES } from './index.ts';
import type { Frequency, Schedule } from './index.ts';

const day = fc.integer({ min: dayNumber('1996-01-01'), max: dayNumber('2060-12-31') }).map(dateOfDay);
const every = fc.constantFrom(...(Object.keys(FREQUENCIES) as Frequency[]));
const schedule: fc.Arbitrary<Schedule> = fc.record({ start: day, every, lastDay: fc.boolean() });

describe('dateAt', () => {
  it.each<[string, Schedule, string[]]>([
    [
      'from 31 January monthly, the last day where there is no 31st, and the 31st again',
      { start: '2027-01-31', every: 'month', lastDay: false },
      ['2027-01-31', '2027-02-28', '2027-03-31', '2027-04-30', '2027-05-31'],
    ],
    [
      'over the end of February in a leap year',
      { start: '2027-12-31', every: 'month', lastDay: false },
      ['2027-12-31', '2028-01-31', '2028-02-29', '2028-03-31'],
    ],
    [
      'on the last day of each month from the 28th of February',
      { start: '2027-02-28', every: 'month', lastDay: true },
      ['2027-02-28', '2027-03-31', '2027-04-30'],
    ],
    [
      'from 29 February every year',
      { start: '2028-02-29', every: 'year', lastDay: false },
      ['2028-02-29', '2029-02-28', '2030-02-28', '2031-02-28', '2032-02-29'],
    ],
    [
      'each quarter from 30 November',
      { start: '2026-11-30', every: 'quarter', lastDay: false },
      ['2026-11-30', '2027-02-28', '2027-05-30', '2027-08-30'],
    ],
    [
      'each half-year from 31 August',
      { start: '2026-08-31', every: 'half', lastDay: false },
      ['2026-08-31', '2027-02-28', '2027-08-31'],
    ],
    [
      'every week over the end of a year',
      { start: '2026-12-21', every: 'week', lastDay: false },
      ['2026-12-21', '2026-12-28', '2027-01-04'],
    ],
    [
      'every two weeks, whatever the last day of the month',
      { start: '2026-12-21', every: 'fortnight', lastDay: true },
      ['2026-12-21', '2027-01-04', '2027-01-18'],
    ],
  ])('falls right %s', (_name, given, dates) => expect(dates.map((_, place) => dateAt(given, place))).toEqual(dates));

  it('never goes back and never stands still', () => {
    fc.assert(
      fc.property(schedule, fc.nat(200), (given, place) => {
        expect(dateAt(given, place + 1) > dateAt(given, place)).toBe(true);
      }),
    );
  });

  it('keeps the day of the month, or the last where there is none such', () => {
    fc.assert(
      fc.property(schedule, fc.nat(200), (given, place) => {
        const step = FREQUENCIES[given.every];
        if ('days' in step) return;
        const [year = 0, month = 0, at = 0] = dateAt(given, place).split('-').map(Number);
        const wanted = given.lastDay ? 31 : Number(given.start.slice(8));
        expect(at).toBe(Math.min(wanted, daysInMonth(year, month)));
      }),
    );
  });

  it('steps by days where it steps by days', () => {
    fc.assert(
      fc.property(day, fc.nat(300), (start, place) => {
        expect(dateAt({ start, every: 'week', lastDay: false }, place)).toBe(addDays(start, 7 * place));
        expect(dateAt({ start, every: 'fortnight', lastDay: false }, place)).toBe(addDays(start, 14 * place));
      }),
    );
  });
});

describe('datesBetween', () => {
  it('gives just the dates of the schedule that lie in the span, both ends included', () => {
    fc.assert(
      fc.property(schedule, day, fc.nat(1500), (given, from, days) => {
        const to = addDays(from, days);
        const all = Array.from({ length: 3600 }, (_, place) => dateAt(given, place));
        const wanted = all.filter((date) => date >= from && date <= to);
        // Only where the first 3,600 dates reach beyond the span does the list say all of it.
        if ((all.at(-1) ?? '') > to) expect(datesBetween(given, from, to)).toEqual(wanted);
      }),
      { numRuns: 60 },
    );
  });

  it('is empty before the first date', () =>
    expect(datesBetween({ start: '2027-01-01', every: 'month', lastDay: false }, '2026-01-01', '2026-12-31')).toEqual(
      [],
    ));
});

describe('describeSchedule', () => {
  it.each<[Frequency, boolean, string]>([
    ['month', false, 'every month'],
    ['month', true, 'every month on the last day'],
    ['fortnight', true, 'every two weeks'],
    ['half', false, 'every half-year'],
  ])('%s, last day %s', (often, lastDay, words) =>
    expect(describeSchedule({ start: '2027-01-01', every: often, lastDay })).toBe(words),
  );
});
