const CODES =
  'AD AE AF AG AL AM AO AR AT AU AZ BA BB BD BE BF BG BH BI BJ BN BO BR BS BT BW BY BZ CA CD CF CG CH CI CL CM CN CO CR CU CV CY CZ DE DJ DK DM DO DZ EC EE EG ER ES ET FI FJ FM FR GA GB GD GE GH GM GN GQ GR GT GW GY HK HN HR HT HU ID IE IL IN IQ IR IS IT JM JO JP KE KG KH KI KM KN KP KR KW KZ LA LB LC LI LK LR LS LT LU LV LY MA MC MD ME MG MH MK ML MM MN MR MT MU MV MW MX MY MZ NA NE NG NI NL NO NP NR NZ OM PA PE PG PH PK PL PR PS PT PW PY QA RO RS RU RW SA SB SC SD SE SG SI SK SL SM SN SO SR SS ST SV SY SZ TD TG TH TJ TL TM TN TO TR TT TV TW TZ UA UG US UY UZ VA VC VE VN VU WS YE ZA ZM ZW'.split(
    ' ',
  );
const COUNTRIES_ALSO: Readonly<Record<string, string>> = {
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
  return byName.get(plain) ?? COUNTRIES_ALSO[plain] ?? null;
}

/** The English name of a country by its code. */
export const countryName = (code: string): string => english.of(code) ?? code;
