import { describe, expect, it } from 'vitest';
import { readDetails, readRow } from './index.ts';
import type { IntakeColumn } from './index.ts';
import { PLAIN_SETTING, readOfAda as read } from './setting.test-support.ts';

/* What a row says of how somebody is reached is asked about where it is not what it seems. */

const ADDRESS: IntakeColumn[] = ['street', 'city', 'region', 'postal'];

describe('telephones', () => {
  it.each([
    ...['775-555-0100', '(775) 555-0100', '7755550100', '+1 775 555 0100', '1.775.555.0100', '775 555 0100 x12'],
    ...['775-555-0100 ext. 12', '+44 20 7946 0000', '1-800-555-STAR', '555-0100', '(775) 555-0100 (cell)'],
  ])('%s is one', (text) => expect(read(['phone'], text).asks).toEqual([]));
  it.each([
    ['7755550100 / 7755550101', 'holds more than one number'],
    ['775-555-0100 or 775-555-0101', 'holds more than one number'],
    ['7.755550100E9', 'A spreadsheet shortened'],
    ['775-555-O100', 'is no whole telephone number'],
    ['77555501', 'is no whole telephone number'],
    ['0000000000', 'is no number that anybody has'],
    ['999-999-9999', 'is no number that anybody has'],
  ])('%s is asked about: it %s', (text, why) => {
    expect(read(['phone'], text).asks).toEqual([expect.stringMatching(new RegExp(`^phone: .*${why}`))]);
    expect(read(['phone', 'phone:2'], '775-555-0100', text).asks).toEqual([expect.stringContaining(`phone:2: `)]);
  });
});

describe('telephones of another country', () => {
  const asks = (text: string) =>
    readDetails(readRow(['phone'], [text], ABROAD).draft, ['phone'], [text], ABROAD).warnings.length;
  const ABROAD = { ...PLAIN_SETTING, home: 'GB' };
  it('are read by its rules', () => {
    expect(['020 7946 0000', '+1 775 555 0100', '07700 900123'].map(asks)).toEqual([0, 0, 0]);
    expect(asks('775-555-01')).toBe(1);
  });
});

describe('e-mail', () => {
  it.each(['ada@example.org', 'nonesuch@example.org', 'testa@example.org'])('%s is one', (text) =>
    expect(read(['email'], text).asks).toEqual([]),
  );
  it.each(['none@none.com', 'noemail@example.org', 'no-email@example.org', 'unknown@example.org', 'noreply@x.org'])(
    '%s reads as a stand-in',
    (text) => expect(read(['email'], text).asks).toEqual([expect.stringContaining('where there is no address')]),
  );
});

describe('addresses', () => {
  it.each([
    ['12 Lyra St', 'Elko', 'NV', '89801'],
    ['12 Lyra St', 'Elko', 'Nevada', '89801-1234'],
    ['12 Lyra St', 'Elko', '', ''],
    ['PO Box 7', 'Boston', 'MA', '02134'],
  ])('%s, %s, %s %s is one', (...cells) => expect(read(ADDRESS, ...cells).asks).toEqual([]));
  it.each([
    [['12 Lyra St', 'Elko', 'NV', '8980'], 'postal: “8980” is no ZIP code; a zero before it may be lost.'],
    [
      ['12 Lyra St', 'London', '', 'SW1A 1AA'],
      'postal: “SW1A 1AA” is no ZIP code; if it is of another country, say which.',
    ],
    [['12 Lyra St', 'Elko', 'ZZ', '89801'], 'region: “ZZ” is no state.'],
    [['12 Lyra St', 'Elko', 'CA', '89801'], 'postal: The ZIP code 89801 is in NV, not in CA.'],
    [['89801', 'Elko', 'NV', '89801'], 'street: “89801” reads as no street.'],
    [['12 Lyra St', 'Elko NV 89801', 'NV', ''], 'city: “Elko NV 89801” holds more than a city.'],
  ])('%j is asked about', (cells, says) => expect(read(ADDRESS, ...cells).asks).toEqual([says]));
  it('of another country are held against nothing of ours', () =>
    expect(read([...ADDRESS, 'country'], '10 Lyra Road', 'London', 'Greater London', 'SW1A 1AA', 'UK').asks).toEqual(
      [],
    ));
  it('are read apart where a cell holds city, state and ZIP code', () => {
    const { draft, asks } = read(ADDRESS, '12 Lyra St, Apt 4', 'Elko, NV 89801', '', '');
    expect(draft).toMatchObject({ street: '12 Lyra St, Apt 4', city: 'Elko', region: 'NV', postal: '89801' });
    expect(asks).toEqual([]);
  });
  it('are looked at wherever they stand', () =>
    expect(read(['street:2', 'city:2', 'region:2', 'postal:2'], '12 Lyra St', 'Elko', 'CA', '89801').asks).toEqual([
      'postal:2: The ZIP code 89801 is in NV, not in CA.',
    ]));
});

describe('cells that say that there is nothing', () => {
  it.each(['none', 'N/A', 'n/a', '-', '—', 'Unknown', 'no', 'xxx', 'no email'])(
    '%s is taken for nothing, and told',
    (text) => {
      const { draft, details, stops, asks } = read(['email', 'phone', 'city'], text, text, text);
      expect(draft).toMatchObject({ email: null, phone: '', city: '' });
      expect(details).toMatchObject({ emails: [], phones: [], addresses: [] });
      expect(stops).toEqual([]);
      expect(asks).toEqual(['email', 'phone', 'city'].map((field) => `${field}: “${text}” is taken for nothing.`));
    },
  );
  it('leaves what a region may be called, and every other column', () => {
    expect(read(ADDRESS, '', '', 'NA', '').draft.region).toBe('NA');
    expect(read(['note', 'amount'], 'none', '10').draft.gift?.note).toBe('none');
  });
});

describe('an address', () => {
  const placed = (...cells: string[]) => {
    const { draft, asks } = read(ADDRESS, ...cells);
    const { street, city, region, postal } = draft;
    return { place: [street, city, region, postal], asks };
  };
  it.each<[string[], string[]]>([
    [
      ['1 Lyra St', 'Elko, NV', '', '89801'],
      ['1 Lyra St', 'Elko', 'NV', '89801'],
    ],
    [
      ['1 Lyra St', 'Elko, Nevada', '', ''],
      ['1 Lyra St', 'Elko', 'NV', ''],
    ],
    [
      ['PO Box 12, Elko NV 89801', '', '', ''],
      ['PO Box 12', 'Elko', 'NV', '89801'],
    ],
    [
      ['12 Elm St, Elko, NV 89801', '', '', ''],
      ['12 Elm St', 'Elko', 'NV', '89801'],
    ],
    [
      ['Sameday Rd 4', 'Elko', 'NV', '89801'],
      ['Sameday Rd 4', 'Elko', 'NV', '89801'],
    ],
  ])('%j has its parts in their places', (cells, place) => expect(placed(...cells)).toEqual({ place, asks: [] }));
  it.each<[string[], string]>([
    [['1 Lyra St', 'Elko, Washoe', '', '89801'], 'city: “Elko, Washoe” holds more than a city.'],
    [
      ['PO Box 12 Elko NV 89801', '', '', ''],
      'street: “PO Box 12 Elko NV 89801” seems to hold the city and the ZIP code, too.',
    ],
    [
      ['1 Lyra St, Suite B NE 68102', '', '', ''],
      'street: “1 Lyra St, Suite B NE 68102” seems to hold the city and the ZIP code, too.',
    ],
    [
      ['9 Mill Rd, Rm ZZ 89801', '', '', ''],
      'street: “9 Mill Rd, Rm ZZ 89801” seems to hold the city and the ZIP code, too.',
    ],
    [['same', '', '', ''], 'street: “same” reads as no street.'],
    [['Same as above', '', '', ''], 'street: “Same as above” reads as no street.'],
    [['see notes', '', '', ''], 'street: “see notes” reads as no street.'],
    [['1 Lyra St', 'ditto', '', ''], 'city: “ditto” reads as no city.'],
  ])('%j is asked about', (cells, asked) => expect(placed(...cells)).toEqual({ place: cells, asks: [asked] }));
});
