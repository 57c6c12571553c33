import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addDays,
  nextBirthday,
  parseBirthday,
  addMonths,
  dateInZone,
  endOfDay,
  dateOfDay,
  dayNumber,
  daysInMonth,
  fiscalYearOf,
  fiscalYearOfDay,
  fiscalYearDays,
  fiscalYearSpan,
  formatDate,
  isIsoDate,
  isoDate,
  parseDate,
  Zone,
} from './index.ts';

const US = { locale: 'en-US' };
const anyDay = fc.integer({ min: -100_000, max: 200_000 });
const read = (text: string, order?: 'mdy' | 'dmy'): string | null => {
  const parsed = parseDate(text, order);
  return parsed.ok ? parsed.date : null;
};

describe('parseDate', () => {
  it.each([
    ['2026-03-14', '2026-03-14'],
    ['2026-3-4', '2026-03-04'],
    ['2026-03-14T09:30:00Z', '2026-03-14'],
    ['2026-03-14 09:30:00', '2026-03-14'],
    ['3/14/2026', '2026-03-14'],
    ['3/14/26', '2026-03-14'],
    ['3-14-2026', '2026-03-14'],
    ['3/14/2026 4:05 PM', '2026-03-14'],
    ['14.03.2026', '2026-03-14'],
    ['14 Mar 2026', '2026-03-14'],
    ['14. March 2026', '2026-03-14'],
    ['March 14, 2026', '2026-03-14'],
    ['Mar 14th, 2026', '2026-03-14'],
    ['29.02.2024', '2024-02-29'],
    ['2026/03/14', '2026-03-14'],
    ['2026.3.14', '2026-03-14'],
    ['20260314', '2026-03-14'],
    ['14-Mar-2026', '2026-03-14'],
    ['14-Mar-26', '2026-03-14'],
    ['14Mar2026', '2026-03-14'],
    ['14th of March 2026', '2026-03-14'],
    ['Sept 5, 2026', '2026-09-05'],
    ['Mar-14-2026', '2026-03-14'],
    ['Saturday, March 14, 2026', '2026-03-14'],
    ['Sat 14 March 2026 09:30', '2026-03-14'],
    ['14.3.26', '2026-03-14'],
    ['2026-03-14T23:30:00.123-08:00', '2026-03-14'],
    ['3/14/2026, 4:05:00 p.m.', '2026-03-14'],
  ])('reads %s', (text, expected) => expect(read(text)).toBe(expected));

  it('reads slashes day first when told to', () => {
    expect(read('3/4/2026', 'dmy')).toBe('2026-04-03');
    expect(read('3/4/2026', 'mdy')).toBe('2026-03-04');
  });

  it.each([
    '',
    '30.02.2026',
    '2026-02-30',
    '29.02.2026',
    '14/3/2026',
    '0/1/2026',
    '2026-13-01',
    'yesterday',
    '14 Foo 2026',
    '14 Marble 2026',
    '2026/3-14',
    '3/14-2026',
    '20261314',
    '031426',
    'March 2026',
    '1 2 2026',
    '2026',
    '1/1/0001',
    '99999-01-01',
  ])('refuses %j', (text) =>
    expect(parseDate(text)).toMatchObject({ ok: false, reason: expect.stringMatching(/date|calendar/) }),
  );
});

describe('calendar arithmetic', () => {
  it('goes from a day to its number and back', () => {
    fc.assert(fc.property(anyDay, (day) => dayNumber(dateOfDay(day)) === day && isIsoDate(dateOfDay(day))));
    expect(dayNumber('1970-01-01')).toBe(0);
    expect(addDays('2026-02-28', 1)).toBe('2026-03-01');
    expect(addDays('2024-02-28', 1)).toBe('2024-02-29');
  });
  it('knows the months', () => {
    expect([
      daysInMonth(2026, 2),
      daysInMonth(2024, 2),
      daysInMonth(1900, 2),
      daysInMonth(2000, 2),
      daysInMonth(2026, 12),
    ]).toEqual([28, 29, 28, 29, 31]);
    expect(isoDate(2026, 2, 30)).toBeNull();
    expect(isoDate(2026, 0, 1)).toBeNull();
  });
  it('adds months without leaving the month', () => {
    expect(addMonths('2026-01-31', 1)).toBe('2026-02-28');
    expect(addMonths('2026-01-31', 13)).toBe('2027-02-28');
    expect(addMonths('2024-02-29', -12)).toBe('2023-02-28');
    expect(addMonths('2026-03-31', -1)).toBe('2026-02-28');
    fc.assert(
      fc.property(anyDay, fc.integer({ min: -200, max: 200 }), (day, months) =>
        isIsoDate(addMonths(dateOfDay(day), months)),
      ),
    );
  });
  it('never goes backwards when adding more months', () => {
    fc.assert(
      fc.property(
        anyDay,
        fc.nat(100),
        fc.nat(100),
        (day, a, b) => addMonths(dateOfDay(day), Math.min(a, b)) <= addMonths(dateOfDay(day), Math.max(a, b)),
      ),
    );
  });
  it('takes the date where the organisation is', () => {
    expect(dateInZone(new Date('2026-11-23T06:00:00Z'), 'America/Los_Angeles')).toBe('2026-11-22');
    expect(dateInZone(new Date('2026-11-23T06:00:00Z'), 'Asia/Tokyo')).toBe('2026-11-23');
  });
  it('ends a day at the midnight of the zone, summer time or not', () => {
    expect(endOfDay('2026-11-23', 'America/Los_Angeles').toISOString()).toBe('2026-11-24T08:00:00.000Z');
    expect(endOfDay('2026-03-08', 'America/Los_Angeles').toISOString()).toBe('2026-03-09T07:00:00.000Z');
    fc.assert(
      fc.property(
        fc.integer({ min: dayNumber('1990-01-01'), max: dayNumber('2050-01-01') }).map(dateOfDay),
        fc.constantFrom('America/Los_Angeles', 'Asia/Tokyo', 'Europe/Warsaw', 'Pacific/Kiritimati', 'UTC'),
        (date, zone) => {
          const end = endOfDay(date, zone).getTime();
          expect(dateInZone(new Date(end - 1), zone)).toBe(date);
          expect(dateInZone(new Date(end), zone)).toBe(addDays(date, 1));
        },
      ),
    );
  });
  it('writes dates as the locale does', () => {
    expect(formatDate('2026-03-14', US, 'short')).toBe('3/14/2026');
    expect(formatDate('2026-03-14', US)).toBe('Mar 14, 2026');
    expect(formatDate('2026-03-14', US, 'long')).toBe('March 14, 2026');
    expect(formatDate('2026-03-14', { locale: 'de-DE' }, 'short')).toBe('14.3.2026');
  });
});

describe('fiscal years', () => {
  it('are named by the year in which they end', () => {
    expect(fiscalYearOf('2026-06-30', 7)).toBe(2026);
    expect(fiscalYearOf('2026-07-01', 7)).toBe(2027);
    expect(fiscalYearOf('2026-07-01', 1)).toBe(2026);
    expect(fiscalYearSpan(2027, 7)).toEqual({ from: '2026-07-01', to: '2027-06-30' });
    expect(fiscalYearSpan(2026, 1)).toEqual({ from: '2026-01-01', to: '2026-12-31' });
  });
  it('hold every day exactly once', () => {
    fc.assert(
      fc.property(anyDay, fc.integer({ min: 1, max: 12 }), (day, start) => {
        const date = dateOfDay(day);
        const year = fiscalYearOf(date, start);
        const span = fiscalYearSpan(year, start);
        expect(fiscalYearDays(year, start)).toEqual({ from: dayNumber(span.from), to: dayNumber(span.to) });
        return span.from <= date && date <= span.to && addDays(span.to, 1) === fiscalYearSpan(year + 1, start).from;
      }),
    );
  });
});

describe('dateInZone', () => {
  it.each([
    ['2026-03-08T09:59:59Z', 'America/Los_Angeles', '2026-03-08'],
    ['2026-11-01T06:59:59Z', 'America/Los_Angeles', '2026-10-31'],
    ['2026-12-31T23:59:59Z', 'Pacific/Kiritimati', '2027-01-01'],
    ['2026-01-01T00:00:00Z', 'Pacific/Pago_Pago', '2025-12-31'],
    ['2024-02-29T12:00:00Z', 'UTC', '2024-02-29'],
  ])('at %s it is in %s the %s', (instant, zone, date) => {
    expect(dateInZone(new Date(instant), zone)).toBe(date);
    expect(dateInZone(new Date(instant), zone)).toBe(date);
  });

  it('refuses a zone that does not exist', () => {
    expect(() => dateInZone(new Date(), 'Moon/Tranquility')).toThrow(RangeError);
  });
});

describe('months on', () => {
  it.each([
    ['2026-01-31', 1, 31, '2026-02-28'],
    ['2026-11-30', 3, 31, '2027-02-28'],
    ['2026-03-31', -1, 31, '2026-02-28'],
    ['2026-12-05', 1, 5, '2027-01-05'],
    ['2024-02-29', 12, 29, '2025-02-28'],
  ])('%s and %i on the %i is %s', (date, months, day, on) => expect(addMonths(date, months, day)).toBe(on));
});

describe('birthdays', () => {
  it.each([
    ['1961-03-14', '1961-03-14'],
    ['--02-29', '--02-29'],
    ['2/29', '--02-29'],
    ['March 14', '--03-14'],
    ['14 Mar', '--03-14'],
    ['3/14/1961', '1961-03-14'],
    ['2/30', null],
    ['--13-01', null],
    ['spring', null],
  ])('%s is kept as %s', (typed, kept) => expect(parseBirthday(typed)).toBe(kept));
  it.each([
    ['--02-29', '2026-11-23', '2027-02-28'],
    ['2000-02-29', '2027-12-01', '2028-02-29'],
    ['1961-11-23', '2026-11-23', '2026-11-23'],
    ['--11-22', '2026-11-23', '2027-11-22'],
  ])('%s seen on %s is next kept on %s', (birthday, today, next) => expect(nextBirthday(birthday, today)).toBe(next));
});

it('knows the fiscal year of a day by its number too', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -20_000, max: 40_000 }),
      fc.integer({ min: 1, max: 12 }),
      (day, start) => fiscalYearOfDay(day, start) === fiscalYearOf(dateOfDay(day), start),
    ),
  );
});

describe('a zone', () => {
  const minute = (instant: string): number => Date.parse(instant) / 60_000;
  it.each([
    ['America/Los_Angeles', '2026-11-29T07:59:00Z', '2026-11-28'],
    ['America/Los_Angeles', '2026-11-29T08:00:00Z', '2026-11-29'],
    ['America/Los_Angeles', '2026-07-01T06:59:00Z', '2026-06-30'],
    ['America/Los_Angeles', '2026-07-01T07:00:00Z', '2026-07-01'],
    ['Asia/Kathmandu', '2026-11-28T18:14:00Z', '2026-11-28'],
    ['Asia/Kathmandu', '2026-11-28T18:15:00Z', '2026-11-29'],
    ['UTC', '1969-12-31T23:59:00Z', '1969-12-31'],
  ])('%s has at %s the day %s', (name, instant, day) =>
    expect(dateOfDay(new Zone(name).dayOf(minute(instant)))).toBe(day),
  );

  it('says of any minute what the calendar says', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: minute('1995-01-01T00:00:00Z'), max: minute('2035-01-01T00:00:00Z') }),
        fc.constantFrom('America/Los_Angeles', 'Pacific/Auckland', 'Asia/Kathmandu', 'America/St_Johns'),
        (at, name) => dateOfDay(new Zone(name).dayOf(at)) === dateInZone(new Date(at * 60_000), name),
      ),
    );
  });
});
