import { describe, expect, it } from 'vitest';
import { readRow } from './rows.ts';
import type { IntakeColumn } from './fields.ts';
import { PLAIN_SETTING } from './setting.test-support.ts';

/* What stands where a name would is not taken for somebody without a word. */

function read(columns: IntakeColumn[], ...cells: string[]) {
  const { problems, warnings } = readRow([...columns, 'email'], [...cells, 'ada@example.org'], PLAIN_SETTING);
  return { stops: problems.map(({ reason }) => reason), asks: warnings.map(({ reason }) => reason) };
}
/** What is asked about a whole name, of what it may be instead. */
const odd = (name: string): string => {
  const { stops, asks } = whole(name);
  expect(stops).toEqual([]);
  return asks.filter((reason) => !reason.startsWith('Taken for')).join(' ');
};
const whole = (name: string) => read(['wholeName'], name);

describe('who is nobody', () => {
  it.each([
    ['N/A', 'reads as no name'],
    ['ada.finch@example.org', 'reads as an e-mail address'],
    ['<ada.finch@example.org>', 'reads as an e-mail address'],
    ['12345', 'reads as a number'],
    ['#4512', 'reads as a number'],
    ['S-10482', 'reads as a number'],
    ['In memory of Ada Finch', 'reads as what a gift was given for'],
    ['in loving memory of Mom', 'reads as what a gift was given for'],
    ['Given in honour of Bo Lark', 'reads as what a gift was given for'],
    ['IMO Ada Finch', 'reads as what a gift was given for'],
  ])('%s is not brought in: it %s', (name, why) => {
    const { stops } = whole(name);
    expect(stops).toHaveLength(1);
    expect(stops[0]).toContain(`“${name}” ${why}`);
  });

  it.each([
    'Anonymous',
    'Anonymous Donor',
    'anon.',
    'Unknown donor',
    'Various',
    'A friend',
    'Friends',
    'Cash donations',
  ])('%s is nobody in particular', (name) => {
    const { stops, asks } = whole(name);
    expect(stops).toEqual([]);
    expect(asks[0]).toBe(`“${name}” names nobody in particular; rows that say no more come to one record.`);
  });

  it.each([
    ['Ada Finch @ Acme', '@'],
    ['Ada Finch*', '*'],
    ['Ada_Finch', '_'],
  ])('%s holds a sign that names do not', (name, sign) => {
    expect(whole(name)).toEqual({ stops: [], asks: [`“${name}” holds “${sign}”, which names do not.`] });
  });

  it.each([
    ...[
      'test',
      'Test Donor',
      'asdf asdf',
      'DO NOT USE',
      'ZZZ Ada Finch',
      'Duplicate - Ada Finch',
      'Ada Finch (dup of 123)',
    ],
    ...['First Last', 'Name'],
  ])('%s reads as a mark on a record', (name) => expect(odd(name)).toContain('reads as a mark on a record'));
  it.each([
    ...[
      'Guest of Ada Finch',
      'Ada Finch’s guest',
      'Ada Finch plus one',
      'Ada Finch +1',
      'Widow of Bo Finch',
      'Table 5',
    ],
    ...['Parents of Ada Finch', 'Table of Ada Finch'],
  ])('%s says who somebody is to another', (name) => expect(odd(name)).toContain('says who somebody is to another'));
  it.each([
    ['Late Ada Finch', 'reads as somebody who died'],
    ['the late Ada Finch', 'reads as somebody who died'],
    ['Ada Finch - Elko Works', 'holds a dash between words'],
    ['Ada Finch – Board', 'holds a dash between words'],
    ['ada.finch', 'reads as the name of a user'],
    ['Ada Finch 775-555-0100', 'holds a number as long as'],
    ['1234 Lyra St', 'reads as an address'],
    ['Elko, NV', 'reads as a place'],
  ])('%s %s', (name, why) => expect(odd(name)).toContain(why));
  it.each([
    ...[
      'Friends of Elko',
      'Class of 1984',
      'Troop 12',
      'Elko Works - North Branch Inc.',
      'The Finch Family',
      'J.R. Finch',
    ],
    ...[
      'Tester Finch',
      'Wayne Nameth',
      'Ada Lateran',
      'Streetwise Books Inc.',
      'Finch, A.',
      'Ada Finch-Lark',
      'Mother Agnes Finch',
    ],
  ])('%s is none of these', (name) => expect(odd(name)).toBe(''));

  it.each([
    ...['Ada Finch', 'Ana-María de la Cruz', 'Seán O’Neill', 'Friends of the Night Sky', 'Memory Lane Books', '李小龍'],
    ...['Grace Friend', 'Inga Memory', 'Donor Family Foundation'],
  ])('%s may well be somebody', (name) => {
    const { stops, asks } = whole(name);
    expect(stops).toEqual([]);
    expect(asks.filter((reason) => /nobody|holds|reads as/.test(reason))).toEqual([]);
  });

  it('is told of parts, and of the name that they make', () => {
    expect(read(['first', 'last'], 'Johnny', 'Cash')).toEqual({ stops: [], asks: [] });
    expect(read(['first', 'last'], 'Guest', 'Friend')).toEqual({
      stops: [],
      asks: [expect.stringContaining('Guest Friend')],
    });
    expect(read(['first', 'last'], '', 'Cash').asks).toHaveLength(1);
    expect(read(['first', 'last'], 'Anonymous', '').asks).toHaveLength(1);
    expect(read(['first', 'last'], 'Ada', '12345').stops).toEqual([
      expect.stringContaining('“12345” reads as a number'),
    ]);
    expect(read(['first', 'last'], 'In memory', 'of Ada').stops).toEqual([
      expect.stringContaining('what a gift was given for'),
    ]);
    expect(read(['organization'], 'in honor of Ada').stops).toHaveLength(1);
  });

  it('lets a firm be called by a number or a sign, and asks of the number', () => {
    expect(read(['organization'], '1849')).toEqual({ stops: [], asks: [expect.stringContaining('reads as a number')] });
    expect(read(['organization'], 'Lyra! Books')).toEqual({ stops: [], asks: [] });
    expect(whole('Lyra! Books Inc.')).toEqual({ stops: [], asks: [] });
  });
});
