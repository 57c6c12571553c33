import { describe, expect, it } from 'vitest';
import { fieldByContent, INTAKE_FIELDS, isIntakeColumn, matchContent, matchHeadings } from './index.ts';

describe('matchHeadings', () => {
  it('gives a further way its own place only where the heading says that it is another', () => {
    expect(matchHeadings(['Home phone', 'Cell', 'Work Phone', 'Phone'])).toEqual(['phone', 'phone:2', 'phone:3', null]);
    expect(matchHeadings(['Email', 'Email 2', 'email_3', 'Email 4'])).toEqual(['email', 'email:2', 'email:3', null]);
  });
  it('knows second lines, second addresses and numbered gifts apart', () =>
    expect(
      matchHeadings([
        'Address 1',
        'Address 2',
        'Work address',
        'Work city',
        'Gift 1 Amount',
        'Gift 2 amount',
        'Date 2',
      ]),
    ).toEqual(['street', 'unit', 'street:2', 'city', 'amount', 'amount:2', 'date:2']));
  it('takes a sign after a word for its number, and a third line of an address for none of its own', () => {
    expect(matchHeadings(['Donor #', 'Check #', 'Phone #', 'Donor'])).toEqual([
      ...['number', 'cheque', 'phone', 'wholeName'],
    ]);
    expect(matchHeadings(['#', 'Batch #'])).toEqual([null, null]);
    expect(matchHeadings(['Address 1', 'Address 2', 'Address 3', 'Address line 4'])).toEqual([
      ...['street', 'unit', null, null],
    ]);
  });
  it('knows wishes and days of a life', () =>
    expect(matchHeadings(['Do Not Mail', 'DO_NOT_EMAIL', 'DOB', 'Date of death', 'Deceased?'])).toEqual([
      'noMail',
      'noEmail',
      'birthday',
      'deceasedOn',
      'deceased',
    ]));
  it.each(Object.entries(INTAKE_FIELDS).map(([field, { label }]) => [label, field]))(
    'knows a column that is headed as our own place is called: %s',
    (label, field) => expect(matchHeadings([label])).toEqual([field]),
  );
  it('knows the short words that spreadsheets are headed by', () =>
    expect(matchHeadings(['Donor', 'When', 'Amt', 'Pay method', 'MI', 'Addr1', 'Addr2', 'FMV', 'Org'])).toEqual([
      ...['wholeName', 'date', 'amount', 'method', 'middle', 'street', 'unit', 'benefit', 'organization'],
    ]));
  it('takes no number of a telephone for one of ours', () =>
    expect(matchHeadings(['Mobile number', 'Telephone number', 'Number'])).toEqual(['phone', null, 'number']));
  it('leaves a spouse’s e-mail alone', () =>
    expect(matchHeadings(['Spouse email', 'Email opt in', 'Assistant phone'])).toEqual([null, null, null]));
});

describe('fieldByContent', () => {
  it.each([
    [['ana@example.org', 'bo@example.org', ''], 'email'],
    [['(775) 555-0111', '775-555-0112'], 'phone'],
    [['89801', '89801-1234'], 'postal'],
    [['3/14/2026', '14 Mar 2026'], 'date'],
    [['$25.00', '$1,250.00'], 'amount'],
    [['NV', 'CA', 'UT'], 'region'],
    [['12 Perseid Place', 'PO Box 7'], 'street'],
    [['S-10482', 'S-10001'], 'number'],
    [['Ana Cruz', 'Bo Lowell'], 'wholeName'],
    [['yes', 'no'], null],
    [['1', '2'], null],
    [['', ' '], null],
  ])('%j is %s', (cells, field) => expect(fieldByContent(cells)).toBe(field));
  it('of two columns that look alike places neither', () =>
    expect(matchContent([['a@example.org', 'b@example.org', '89801']], 3)).toEqual([null, null, 'postal']));
});

describe('isIntakeColumn', () => {
  it.each(['email', 'email:2', 'email:3', 'amount:9', 'field:12'])('%s is one', (text) =>
    expect(isIntakeColumn(text)).toBe(true),
  );
  it.each(['', 'email:1', 'email:4', 'first:2', 'amount:10', 'field:x', 'toString', 'email:2:3', '__proto__'])(
    '%s is none',
    (text) => expect(isIntakeColumn(text)).toBe(false),
  );
});

describe('headings of lists from elsewhere', () => {
  it('are known by who is in them', () =>
    expect(matchHeadings(['Bidder First', 'Bidder Last', 'Winning Bid', 'Fair Market Value', 'Paid With'])).toEqual([
      ...['first', 'last', 'amount', 'benefit', 'method'],
    ]));
  it('a note is of the gift where there are gifts, and else of whom the row names', () => {
    expect(matchHeadings(['Guest', 'Amount', 'Notes'])).toEqual(['wholeName', 'amount', 'note']);
    expect(matchHeadings(['Guest', 'Notes'])).toEqual(['wholeName', 'remark']);
  });
});
