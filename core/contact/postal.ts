import * as templates from '@fragaria/address-formatter';
import type { PostalAddress } from './index.ts';

// Node sees the package's CommonJS build through its default export, bundlers its ES build.
const { format } = 'default' in templates ? (templates.default as typeof templates) : templates;

const CODES =
  'AD AE AF AG AL AM AO AR AT AU AZ BA BB BD BE BF BG BH BI BJ BN BO BR BS BT BW BY BZ CA CD CF CG CH CI CL CM CN CO CR CU CV CY CZ DE DJ DK DM DO DZ EC EE EG ER ES ET FI FJ FM FR GA GB GD GE GH GM GN GQ GR GT GW GY HK HN HR HT HU ID IE IL IN IQ IR IS IT JM JO JP KE KG KH KI KM KN KP KR KW KZ LA LB LC LI LK LR LS LT LU LV LY MA MC MD ME MG MH MK ML MM MN MR MT MU MV MW MX MY MZ NA NE NG NI NL NO NP NR NZ OM PA PE PG PH PK PL PR PS PT PW PY QA RO RS RU RW SA SB SC SD SE SG SI SK SL SM SN SO SR SS ST SV SY SZ TD TG TH TJ TL TM TN TO TR TT TV TW TZ UA UG US UY UZ VA VC VE VN VU WS YE ZA ZM ZW'.split(
    ' ',
  );
const ALSO: Readonly<Record<string, string>> = {
  usa: 'US',
  'united states of america': 'US',
  america: 'US',
  uk: 'GB',
  england: 'GB',
  scotland: 'GB',
  wales: 'GB',
  'great britain': 'GB',
  deutschland: 'DE',
  españa: 'ES',
  méxico: 'MX',
  schweiz: 'CH',
  österreich: 'AT',
};

const english = new Intl.DisplayNames(['en'], { type: 'region' });
const byName = new Map(CODES.map((code) => [(english.of(code) ?? code).toLowerCase(), code]));

/** The ISO 3166 code of a country by its code or name; null when it is not known, `home` when it is empty. */
export function countryCode(country: string, home: string): string | null {
  const plain = country.replace(/\./g, '').trim().toLowerCase();
  if (plain === '') return home;
  if (CODES.includes(plain.toUpperCase())) return plain.toUpperCase();
  return byName.get(plain) ?? ALSO[plain] ?? null;
}

/**
 * The lines of an address in the order of its country, by OpenCage's address templates. The country is named, in
 * capitals as postal services ask, only where it is not the sender's own (`home`, ISO code).
 */
export function postalLines(address: PostalAddress, home: string): string[] {
  const { street, city, region, postal, country } = address;
  if (![street, city, region, postal, country].some((part) => part.trim() !== '')) return [];
  const code = countryCode(country, home);
  const streets = street.split('\n').map((line) => line.trim());
  const town = [city, [region, postal].filter(Boolean).join(' ')].filter(Boolean).join(', ');
  const lines =
    code === null
      ? [town]
      : format({ city, state: region, postcode: postal, countryCode: code }, { output: 'array' }).map((line) =>
          line.trim(),
        );
  const abroad =
    code !== home && country !== '' ? [(code === null ? country : (english.of(code) ?? country)).toUpperCase()] : [];
  return [...streets, ...lines, ...abroad].filter((line) => line !== '');
}
