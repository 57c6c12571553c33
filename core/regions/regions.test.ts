import { describe, expect, it } from 'vitest';
import { countryCode, placeKept, regionCode, regionName, regionsOf } from './index.ts';

describe('regionCode', () => {
  it.each<[string, string, string | null]>([
    ...['NV', 'nv', 'Nevada', 'NEVADA', 'Nev.', 'nev', ' nevada ', 'US-NV', 'N.V.'].map(
      (text) => [text, 'US', 'NV'] as [string, string, string],
    ),
    ['Calif.', 'US', 'CA'],
    ['N. Mex.', 'US', 'NM'],
    ['New-York', 'US', 'NY'],
    ['D.C.', 'US', 'DC'],
    ['W. Va.', 'US', 'WV'],
    ['Québec', 'CA', 'QC'],
    ['quebec', 'CA', 'QC'],
    ['Ont.', 'CA', 'ON'],
    ['B.C.', 'CA', 'BC'],
    ['New South Wales', 'AU', 'NSW'],
    ['nsw', 'AU', 'NSW'],
    ['Miss.', 'US', 'MS'],
    ['New.', 'US', null],
    ['Narnia', 'US', null],
    ['ZZ', 'US', null],
    ['', 'US', null],
    ['NV', 'XX', null],
  ])('%j in %s is %j', (text, country, code) => expect(regionCode(text, country)).toBe(code));

  it('reads every code and every name of every state as itself', () => {
    for (const country of ['US', 'CA', 'AU', 'MX', 'DE', 'BR', 'IN'])
      for (const { code, name } of regionsOf(country)) {
        expect(regionCode(code, country)).toBe(code);
        expect(regionName(regionCode(name, country) ?? '', country)).toBe(name);
      }
  });
});

describe('placeKept', () => {
  it.each([
    [
      { region: 'Nevada', country: '' },
      { region: 'NV', country: '' },
    ],
    [
      { region: 'nev.', country: 'usa' },
      { region: 'NV', country: 'US' },
    ],
    [
      { region: 'ontario', country: 'Canada' },
      { region: 'ON', country: 'CA' },
    ],
    [
      { region: 'Atlantis', country: 'Atlantis' },
      { region: 'Atlantis', country: 'Atlantis' },
    ],
    [
      { region: ' R1 ', country: '' },
      { region: 'R1', country: '' },
    ],
  ])('%j', (typed, kept) => expect(placeKept(typed, 'US')).toEqual(kept));
});

describe('countryCode', () => {
  it.each([
    ['', 'US'],
    ['de', 'DE'],
    ['U.S.A.', 'US'],
    ['Narnia', null],
  ])('the code of %j is %s', (country, code) => expect(countryCode(country, 'US')).toBe(code));
});
