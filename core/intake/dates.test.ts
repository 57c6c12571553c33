import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dateOfDay } from '../dates/index.ts';
import { dateOrderOf, looksLikeRow, orderIn, questionsOf, readFileDate } from './index.ts';
import type { DateOrder } from './index.ts';

const TODAY = '2026-11-23';
const read = (text: string, order: DateOrder | null = 'mdy'): string => {
  const found = readFileDate(text, order, TODAY);
  return found.ok ? found.date : found.reason;
};

describe('the order of a column of dates', () => {
  it.each<[string, string[], DateOrder | null, RegExp | null]>([
    ['is as those that leave no choice have it', ['03/14/2026', '03/04/2026', '11/30/2026'], 'mdy', /month first/],
    ['may have the day first', ['25/06/2026', '24/12/2025', '3/4/2026'], 'dmy', /day first, so all/],
    ['does not matter where months are words', ['3 Mar 2026', '2026-04-05', ''], 'mdy', null],
    ['does not matter where day and month are the same', ['3/3/2026', '4/4/2026'], 'mdy', null],
    ['does not matter to day numbers, which are told', ['46095', '46100'], 'mdy', /day number .* 2026-03-14/],
    ['is asked where nothing tells', ['03/04/2026', '1/2/2026'], null, /two ways/],
    ['is asked where nothing tells of days with dots', ['3.4.2026', '1.2.26'], null, /two ways/],
    ['may have the day first before dots', ['25.6.2026', '3. 4. 2026'], 'dmy', /day first, so all/],
    ['is asked where both occur', ['25/06/2026', '06/25/2026'], null, /holds both/],
    [
      'is asked where one speaks for many',
      ['25/06/2026', ...Array.from({ length: 9 }, () => '03/04/2026')],
      null,
      /Only .*9 other/,
    ],
  ])('%s', (_title, cells, order, says) => {
    const found = dateOrderOf(cells);
    expect(found.order).toBe(order);
    if (says === null) expect(found.says).toBeNull();
    else expect(found.says).toMatch(says);
  });

  it('is never told of a column whose every date can be read two ways', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 12 })), { minLength: 1 }),
        (pairs) => {
          const cells = pairs.filter(([a, b]) => a !== b).map(([a, b]) => `${a}/${b}/2026`);
          return cells.length === 0 || dateOrderOf(cells).order === null;
        },
      ),
    ));
});

describe('a date of a file', () => {
  it.each([
    ['03/04/2026', 'mdy', '2026-03-04'],
    ['03/04/2026', 'dmy', '2026-04-03'],
    ['3.4.26', 'mdy', '2026-03-04'],
    ['3. 4. 2026', 'dmy', '2026-04-03'],
    ['25.6.2026', 'mdy', '“25.6.2026” is no day where the month comes first, as in this column.'],
    ['31.2.2026', 'dmy', '“31.2.2026” is not a day in the calendar.'],
    ['Wed, 4 Mar 2026', 'mdy', '2026-03-04'],
    ['Thursday, March 4, 2026', 'mdy', '“Thursday, March 4, 2026” was a Wednesday.'],
    ['46095', 'mdy', '2026-03-14'],
    ['46095.75', 'mdy', '2026-03-14'],
    ['20260304', null, '2026-03-04'],
    ['4-Mar-2026', null, '2026-03-04'],
    ['3/3/2026', null, '2026-03-03'],
    ['25/06/2026', null, '2026-06-25'],
    ['6/25/26', 'mdy', '2026-06-25'],
    ['6/25/61', 'mdy', '1961-06-25'],
    ['12/31/26', 'mdy', '2026-12-31'],
    ['12/31/28', 'mdy', '1928-12-31'],
  ] as const)('%s is read, %s', (text, order, date) => expect(read(text, order)).toBe(date));

  it.each<[string, DateOrder | null, RegExp]>([
    ['03/04/2026', null, /two ways/],
    ['25/06/2026', 'mdy', /no day where the month comes first/],
    ['06/25/2026', 'dmy', /no day where the day comes first/],
    ['31/02/2026', 'dmy', /not a day in the calendar/],
    ['2026', 'mdy', /without a day/],
    ['tomorrow', 'mdy', /not a date/],
    ['99999', 'mdy', /not a date/],
  ])('%s is refused, %s', (text, order, reason) => expect(read(text, order)).toMatch(reason));

  it('comes back from every day number of a spreadsheet', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 20_000, max: 59_999 }),
        (serial) => read(String(serial)) === dateOfDay(serial - 25_569),
      ),
    ));
});

describe('what is asked of a file', () => {
  const rows = [
    ['Ana', '03/04/2026', '', 'no'],
    ['Bo', '05/06/2026', ' ', ''],
  ];
  const headings = ['Name', 'Date', 'Blank', 'Do not mail'];
  const placed = {
    columns: ['wholeName', 'date', null, null] as const,
    dateOrder: null,
    leaveRest: false,
    encoding: null,
    readings: [],
    headed: true,
  };

  it('is the order of its dates, and each column that holds something and goes nowhere', () => {
    expect(questionsOf(headings, rows, placed)).toEqual([
      { about: 'dates', says: expect.stringContaining('03/04/2026') },
      { about: 'columns', says: '1 column holds something and has no place: “Do not mail”.' },
    ]);
    expect(questionsOf(headings, rows, { ...placed, dateOrder: 'dmy', leaveRest: true })).toEqual([]);
  });
  it('is how letters are read, while that is in doubt', () => {
    const readings = ['Dvořák', 'Dvoøák'].map((word) => ({ encoding: word, words: [word] }));
    const settled = { ...placed, dateOrder: 'dmy', leaveRest: true, readings } as const;
    expect(questionsOf(headings, rows, settled)).toEqual([
      { about: 'encoding', says: 'Its letters may be “Dvořák” or “Dvoøák”, and nothing in it tells which.' },
    ]);
    expect(questionsOf(headings, rows, { ...settled, encoding: 'Dvořák' })).toEqual([]);
  });
  it('is whether the first row is one, where it does not look like headings', () => {
    expect(looksLikeRow(['Ana', 'Cruz', 'ana@example.org', '5'])).toBe(true);
    expect(looksLikeRow(['Ana', '2026-11-01'])).toBe(true);
    expect(looksLikeRow(['Name', 'Gift 1', '2026', 'E-mail'])).toBe(false);
    const asked = { ...placed, dateOrder: 'dmy', leaveRest: true, headed: null } as const;
    expect(questionsOf(['Column 1', 'Column 2'], [['Ana', 'ana@example.org'], ...rows], asked)).toEqual([
      { about: 'headings', says: 'Its first row looks like one of the others: “Ana”, “ana@example.org”.' },
    ]);
  });
  it('is nothing of dates where no column brings them', () => {
    const none = { ...placed, columns: ['wholeName', null, null, null] as const };
    expect(orderIn(rows, none)).toEqual({ order: 'mdy', says: null });
    expect(questionsOf(headings, rows, none)).toMatchObject([
      { about: 'columns', says: expect.stringContaining('2 columns hold') },
    ]);
  });
});
