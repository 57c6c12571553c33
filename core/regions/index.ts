import { allCountries } from 'country-region-data';
import { lately } from '../lately/index.ts';
import { fold } from '../names/index.ts';
import { countryCode } from './countries.ts';

export { countryCode, countryName } from './countries.ts';
export { stateOfZip } from './zip.ts';

/** A state or province: its code in ISO 3166-2 without the country (`NV`), and its name. */
export interface Region {
  code: string;
  name: string;
}

/** What people write for a state or province beside its code and name, folded and without points. */
const ALSO: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  US: {
    ...{
      ariz: 'AZ',
      calif: 'CA',
      cal: 'CA',
      colo: 'CO',
      conn: 'CT',
      fla: 'FL',
      ill: 'IL',
      kans: 'KS',
      mass: 'MA',
      mich: 'MI',
    },
    ...{
      minn: 'MN',
      miss: 'MS',
      mont: 'MT',
      nebr: 'NE',
      neb: 'NE',
      nev: 'NV',
      'n mex': 'NM',
      'n dak': 'ND',
      's dak': 'SD',
    },
    ...{
      okla: 'OK',
      ore: 'OR',
      oreg: 'OR',
      penn: 'PA',
      penna: 'PA',
      tenn: 'TN',
      tex: 'TX',
      wash: 'WA',
      wva: 'WV',
      'w va': 'WV',
    },
    ...{
      wis: 'WI',
      wisc: 'WI',
      wyo: 'WY',
      'washington dc': 'DC',
      'washington d c': 'DC',
      ala: 'AL',
      ark: 'AR',
      ind: 'IN',
    },
  },
  CA: {
    ...{
      ont: 'ON',
      que: 'QC',
      pq: 'QC',
      alta: 'AB',
      man: 'MB',
      sask: 'SK',
      nfld: 'NL',
      newfoundland: 'NL',
      pei: 'PE',
      'p e i': 'PE',
    },
  },
};

const plain = (text: string): string => fold(text).replace(/[.,]/g, '').replace(/-/g, ' ').replace(/\s+/g, ' ').trim();

const regions = new Map<string, Region[]>();
const spellings = new Map<string, Map<string, string>>();

/** The states or provinces of a country (ISO code), by name; none where the country has none or is not known. */
export function regionsOf(country: string): readonly Region[] {
  const known = regions.get(country);
  if (known) return known;
  const found = allCountries.find(([, code]) => code === country)?.[2] ?? [];
  const made = found.map(([name, code]) => ({ name, code }));
  regions.set(country, made);
  return made;
}

function spellingsIn(country: string): Map<string, string> {
  const known = spellings.get(country);
  if (known) return known;
  const made = new Map(Object.entries(ALSO[country] ?? {}));
  for (const { name, code } of regionsOf(country)) made.set(plain(name), code);
  for (const { code } of regionsOf(country)) made.set(plain(code), code);
  spellings.set(country, made);
  return made;
}

const codes = new Map<string, (text: string) => string | null>();

/** The code of a state or province of a country (ISO code) in any usual spelling; null where it is not known. */
export function regionCode(text: string, country: string): string | null {
  let codeOf = codes.get(country);
  if (!codeOf) {
    codeOf = lately((spelling) => codeIn(spelling, country), 1_000);
    codes.set(country, codeOf);
  }
  return codeOf(text);
}

function codeIn(text: string, country: string): string | null {
  const word = plain(text.includes('-') ? text.replace(new RegExp(`^${country}-(?=\\w{1,3}$)`, 'i'), '') : text);
  if (word === '') return null;
  const all = spellingsIn(country);
  const found = all.get(word) ?? all.get(word.replace(/ /g, ''));
  if (found !== undefined) return found;
  // 'Nev.', 'Calif.': a beginning that only one has.
  if (!/\.\s*$/.test(text) || word.length < 3) return null;
  const begins = regionsOf(country).filter(({ name }) => plain(name).startsWith(word));
  return begins.length === 1 ? (begins[0]?.code ?? null) : null;
}

/** The name of a state or province by its code; the text itself where it is no code. */
export const regionName = (code: string, country: string): string =>
  regionsOf(country).find((region) => region.code === code)?.name ?? code;

/** State and country in the form they are kept in: codes where they are known, else as they were written. */
export function placeKept<T extends { region: string; country: string }>(place: T, home: string): T {
  const country = countryCode(place.country, home);
  const region = country === null ? null : regionCode(place.region, country);
  return {
    ...place,
    region: region ?? place.region.trim(),
    country: place.country.trim() === '' ? '' : (country ?? place.country.trim()),
  };
}
