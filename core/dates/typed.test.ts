import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, dateOfDay, formatDate, orderOf, typedDate } from './index.ts';

const TODAY = '2026-11-29';
const read = (text: string, order: 'mdy' | 'dmy' = 'mdy', today = TODAY): string => {
  const result = typedDate(text, today, order);
  return result.ok ? result.date : result.reason;
};

describe('typedDate', () => {
  it.each([
    ['today', '2026-11-29'],
    [' T ', '2026-11-29'],
    ['Yesterday', '2026-11-28'],
    ['tomorrow', '2026-11-30'],
    ['+30', '2026-12-29'],
    ['- 7', '2026-11-22'],
    ['+2w', '2026-12-13'],
    ['+3m', '2027-02-28'],
    ['-1y', '2025-11-29'],
    ['eom', '2026-11-30'],
    ['bom', '2026-11-01'],
    ['EOY', '2026-12-31'],
    ['boy', '2026-01-01'],
    ['3/14', '2027-03-14'],
    ['9-30', '2026-09-30'],
    ['14.3.', '2027-03-14'],
    ['mar 14', '2027-03-14'],
    ['Sept 3rd', '2026-09-03'],
    ['14 mar', '2027-03-14'],
    ['14mar', '2027-03-14'],
    ['mar14', '2027-03-14'],
    ['12/1', '2026-12-01'],
    ['3/14/2025', '2025-03-14'],
    ['March 14, 2025', '2025-03-14'],
    ['2025-03-14', '2025-03-14'],
  ])('reads %j as %s', (text, date) => expect(read(text)).toBe(date));

  it('takes the day nearest to today where no year is said', () => {
    expect([read('12/28', 'mdy', '2027-01-04'), read('1/4', 'mdy', '2026-12-28')]).toEqual([
      '2026-12-28',
      '2027-01-04',
    ]);
    expect(read('2/29', 'mdy', '2027-06-01')).toBe('2028-02-29');
  });
  it('puts the day first where the locale does', () =>
    expect([read('3/10', 'dmy'), read('3/10/2025', 'dmy')]).toEqual(['2026-10-03', '2025-10-03']));

  it.each([
    ['', 'The date is missing.'],
    ['2/29', '“2/29” is not a day of these years; write the year with it.'],
    ['13/14', '“13/14” is not a date; write it as 2026-03-14.'],
    ['foo 14', '“foo 14” is not a date; write it as 2026-03-14.'],
    ['soon', '“soon” is not a date; write it as 2026-03-14.'],
    ['+9999y', '“12025-11-29” is not a date; write it as 2026-03-14.'],
  ])('refuses %j in words', (text, reason) => expect(read(text)).toBe(reason));

  it.each(['en-US', 'en-GB', 'de-DE', 'fr-FR', 'es-MX'])('reads back what %s writes', (locale) =>
    fc.assert(
      fc.property(fc.integer({ min: -40_000, max: 60_000 }), (day) => {
        const date = dateOfDay(day);
        expect(read(formatDate(date, { locale }, 'short'), orderOf(locale))).toBe(date);
      }),
    ),
  );
  it('gives a day within half a year for every day without its year', () =>
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 30_000 }), fc.integer({ min: -180, max: 180 }), (day, away) => {
        const [today, wanted] = [dateOfDay(day), addDays(dateOfDay(day), away)];
        expect(read(`${Number(wanted.slice(5, 7))}/${Number(wanted.slice(8))}`, 'mdy', today)).toBe(wanted);
      }),
    ));
});
