import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addressOn,
  holdsOn,
  inSeason,
  isSeasonDay,
  postalLines,
  readPhone,
  withOnePreferred,
  standardAddress,
  streetKey,
  wayOn,
} from './index.ts';

const way = (parts: object = {}) => ({
  id: 1,
  label: 'home',
  preferred: false,
  validFrom: null,
  validTo: null,
  badOn: null,
  ...parts,
});
const address = (parts: object = {}) => ({ ...way(parts), seasonFrom: null, seasonTo: null, ...parts });
const [TODAY, YESTERDAY] = ['2026-11-23', '2026-11-22'];

describe('the way to use on a date', () => {
  it.each([
    ['the preferred', [way(), way({ id: 2, preferred: true })], 2],
    ['the first where none is preferred', [way(), way({ id: 2 })], 1],
    ['never a bad one', [way({ preferred: true, badOn: '2026-01-01' }), way({ id: 2 })], 2],
    ['not one that ended', [way({ preferred: true, validTo: YESTERDAY }), way({ id: 2 })], 2],
    ['not one to come', [way({ validFrom: '2026-11-24' })], undefined],
    ['one that begins or ends that day', [way({ validFrom: TODAY, validTo: TODAY })], 1],
  ])('%s', (_case, ways, id) => expect(wayOn(ways, TODAY)?.id).toBe(id));

  it.each([
    ['2026-11-23', 2],
    ['2027-01-05', 2],
    ['2027-04-15', 2],
    ['2027-04-16', 1],
    ['2026-10-31', 1],
  ])('an address over New Year, on %s', (on, id) => {
    const addresses = [address({ preferred: true }), address({ id: 2, seasonFrom: '11-01', seasonTo: '04-15' })];
    expect(addressOn(addresses, on)?.id).toBe(id);
  });
  it('falls back to the preferred one where the seasonal is undeliverable', () =>
    expect(
      addressOn(
        [address({ preferred: true }), address({ id: 2, seasonFrom: '11-01', seasonTo: '04-15', badOn: TODAY })],
        TODAY,
      )?.id,
    ).toBe(1));
  it('is none where there is only one out of season', () =>
    expect(addressOn([address({ seasonFrom: '06-01', seasonTo: '08-31' })], TODAY)).toBeNull());
});

describe('seasons', () => {
  it.each([
    ['06-01', '08-31', '2026-07-04', true],
    ['06-01', '08-31', '2026-09-01', false],
    ['02-29', '03-01', '2027-02-28', false],
    ['02-29', '03-01', '2028-02-29', true],
    [null, '03-01', '2026-03-01', false],
  ])('%s to %s holds %s: %s', (from, to, on, yes) => expect(inSeason(from, to, on)).toBe(yes));
  it.each([
    ['02-29', true],
    ['02-30', false],
    ['13-01', false],
    ['1-1', false],
  ])('%s is a day: %s', (text, yes) => expect(isSeasonDay(text)).toBe(yes));
});

describe('settling what was saved', () => {
  it('ends the old preferred one instead of overwriting it', () => {
    const ways = withOnePreferred(
      [way({ preferred: true }), way({ id: undefined, label: 'work', preferred: true })],
      1,
      TODAY,
      YESTERDAY,
    );
    expect(ways).toEqual([
      way({ label: 'former', validTo: YESTERDAY }),
      way({ id: undefined, label: 'work', preferred: true }),
    ]);
  });
  it('leaves everything alone when the preferred stays', () =>
    expect(withOnePreferred([way({ preferred: true }), way({ id: 2 })], 1, TODAY, YESTERDAY)).toEqual([
      way({ preferred: true }),
      way({ id: 2 }),
    ]));
  it('has exactly one preferred of those that hold', () => {
    const anyWay = fc.record({
      id: fc.nat(5),
      preferred: fc.boolean(),
      validTo: fc.constantFrom(null, YESTERDAY, '2027-01-01'),
    });
    fc.assert(
      fc.property(
        fc.uniqueArray(anyWay, { selector: (one) => one.id, maxLength: 6 }),
        fc.option(fc.nat(5)),
        (ways, before) => {
          const after = withOnePreferred(
            ways.map((one) => way(one)),
            before,
            TODAY,
            YESTERDAY,
          );
          const open = ways.some((one) => one.validTo !== YESTERDAY);
          expect(after.filter((one) => one.preferred)).toHaveLength(open ? 1 : 0);
          expect(after.filter((one) => one.preferred).every((one) => holdsOn(one, TODAY))).toBe(true);
          expect(after).toHaveLength(ways.length);
        },
      ),
    );
  });
});

describe('readPhone', () => {
  it.each([
    ['7755550142', '(775) 555-0142', '+17755550142', true],
    ['775.555.0142', '(775) 555-0142', '+17755550142', true],
    ['775-555-0142 x12', '(775) 555-0142 ext. 12', '+17755550142', true],
    ['(775) 555-0142 extension 7', '(775) 555-0142 ext. 7', '+17755550142', true],
    ['+44 20 7946 0958', '+44 20 7946 0958', '+442079460958', true],
    ['1-775-555-STAR', '(775) 555-7827', '+17755557827', true],
    ['775-FLOWERS', '(775) 356-9377', '+17753569377', true],
    ['555-0142', '555-0142', '', false],
    ['ask Ruth', 'ask Ruth', '', false],
    ['７７５５５５０１４２', '(775) 555-0142', '+17755550142', true],
  ])('%s', (typed, text, e164, sure) => expect(readPhone(typed, 'US')).toMatchObject({ text, e164, sure }));
  it('says what is odd', () => {
    expect(readPhone('555-0142', 'US').remark).toBe('not a whole number');
    expect(readPhone('ask Ruth', 'US').remark).toBe('no digits in it');
  });
});

const here = { street: '434 Perseid Pl', city: 'Tansy Creek', region: 'NV', postal: '89937', country: '' };
describe('postalLines', () => {
  it.each([
    [here, ['434 Perseid Pl', 'Tansy Creek, NV 89937']],
    [{ ...here, country: 'USA' }, ['434 Perseid Pl', 'Tansy Creek, NV 89937']],
    [
      { street: 'Sternweg 4', city: 'Köln', region: '', postal: '50667', country: 'Germany' },
      ['Sternweg 4', '50667 Köln', 'GERMANY'],
    ],
    [
      { street: '1 High St', city: 'Harrogate', region: '', postal: 'HG1 1AA', country: 'UK' },
      ['1 High St', 'Harrogate', 'HG1 1AA', 'UNITED KINGDOM'],
    ],
    [
      { ...here, street: '434 Perseid Pl\nApt 2', country: 'Atlantis' },
      ['434 Perseid Pl', 'Apt 2', 'Tansy Creek, NV 89937', 'ATLANTIS'],
    ],
    [{ street: '', city: '', region: '', postal: '', country: '' }, []],
  ])('%j', (given, lines) => expect(postalLines(given, 'US')).toEqual(lines));
});

describe('standardAddress', () => {
  it.each([
    [
      'capitals',
      { ...here, street: '434 PERSEID PLACE', city: 'TANSY CREEK' },
      { street: '434 Perseid Pl', city: 'Tansy Creek' },
    ],
    ['small letters', { ...here, city: 'tansy creek' }, { city: 'Tansy Creek' }],
    ['ZIP+4', { ...here, postal: '899371234' }, { postal: '89937-1234' }],
    ['a state by name', { ...here, region: 'Nevada' }, { region: 'NV' }],
    [
      'directions and suites',
      { ...here, street: '12 North Lyra Street, Apartment 4' },
      { street: '12 N Lyra St, Apt 4' },
    ],
    ['a street called North', { ...here, street: '12 North Street' }, { street: '12 North St' }],
    ['a box', { ...here, street: 'PO BOX 12' }, { street: 'PO Box 12' }],
  ])('%s', (_case, given, better) => expect(standardAddress(given, 'US')?.address).toEqual({ ...given, ...better }));
  it('has nothing to say of a good address, nor shortens one abroad', () => {
    expect(standardAddress(here, 'US')).toBeNull();
    expect(
      standardAddress({ street: '1 High Street', city: 'York', region: '', postal: 'YO1 7AA', country: 'UK' }, 'US'),
    ).toBeNull();
  });
  it('says why', () =>
    expect(standardAddress({ ...here, city: 'TANSY CREEK', postal: '89937 1234' }, 'US')?.why).toEqual([
      'capital letters',
      'ZIP+4',
    ]));
});

describe('a way that will be undeliverable', () => {
  const way = { preferred: true, validFrom: null, validTo: null, badOn: '2026-12-01' };
  it('is used until the day', () => {
    expect(wayOn([way], '2026-11-30')).toBe(way);
    expect(wayOn([way], '2026-12-01')).toBeNull();
  });
});

describe('what a street is known by', () => {
  it.each([
    ['12 Perseid Place', '12 perseid pl.'],
    ['PO Box 9', 'P.O. Box 9'],
    ['PO Box 9', 'P. O. BOX 9'],
    ['PO Box 9', 'Post Office Box 9'],
  ])('is the same of %s and %s', (one, other) => expect(streetKey(one)).toBe(streetKey(other)));

  it.each([
    ['PO Box 9', 'PO Box 90'],
    ['12 Perseid Place', '12 Perseid Road'],
    ['1 Depot Rd', '1 Depo Rd'],
  ])('is another of %s and %s', (one, other) => expect(streetKey(one)).not.toBe(streetKey(other)));
});

describe('where none is preferred', () => {
  const way = (id: number, validFrom: string | null, more: object = {}) => ({
    ...{ id, label: 'home', preferred: false, validFrom, validTo: null, badOn: null },
    ...more,
  });
  it.each<[string, ReturnType<typeof way>[], number | null]>([
    ['the one that began last is used', [way(1, null), way(2, '2026-02-01'), way(3, '2026-01-01')], 2],
    ['of those that were there always the first', [way(1, null), way(2, null)], 1],
    ['not one that is to begin', [way(1, null), way(2, '2027-01-01')], 1],
    ['nor one that mail comes back from', [way(1, null), way(2, '2026-02-01', { badOn: '2026-03-01' })], 1],
    ['a preferred one before all', [way(1, null, { preferred: true }), way(2, '2026-02-01')], 1],
    ['nothing of nothing', [], null],
  ])('%s', (_what, ways, wanted) => expect(wayOn(ways, '2026-06-15')?.id ?? null).toBe(wanted));

  it('that one is preferred when the record is saved, and one that is to begin is not', () => {
    const saved = (ways: ReturnType<typeof way>[]) =>
      withOnePreferred(ways, null, '2026-06-15', '2026-06-14').flatMap(({ id, preferred }) => (preferred ? [id] : []));
    expect(saved([way(1, null), way(2, '2026-02-01')])).toEqual([2]);
    expect(saved([way(1, null), way(2, '2027-02-01')])).toEqual([1]);
    expect(saved([way(1, '2027-02-01')])).toEqual([1]);
  });
});
