import { readPhone } from '../contact/index.ts';
import type { PostalAddress } from '../contact/index.ts';
import { lately } from '../lately/index.ts';
import { digitsOf } from '../names/index.ts';
import { countryCode, regionCode, stateOfZip } from '../regions/index.ts';
import { SHORTENED } from './misplaced.ts';

/* Whether what a row says of how somebody is reached is what it seems. */

/** As most numbers of North America are written: of these there is no doubt. */
const PLAIN = /^(?:\+?1[\s.-]?)?\(?[2-9]\d{2}\)?[\s.-]{0,2}\d{3}[\s.-]?\d{4}$/;

/** What is odd about a telephone number in a country (ISO code); null where nothing is. */
export function phoneDoubt(text: string, home: string): string | null {
  const digits = digitsOf(text);
  if (/^(\d)\1+$/.test(digits)) return `“${text}” is no number that anybody has.`;
  if ((home === 'US' || home === 'CA') && PLAIN.test(text)) return null;
  if (SHORTENED.test(text)) return `A spreadsheet shortened “${text}”; its digits may not be all there.`;
  const several = text.split(/[/;,&|]|\b(?:or|and)\b/i).filter((part) => digitsOf(part).length >= 7);
  if (several.length > 1) return `“${text}” holds more than one number.`;
  // Within a town numbers are written without their area.
  if (digits.length === 7 && !/\p{L}/u.test(text)) return null;
  return readPhone(text, home).e164 === '' ? `“${text}” is no whole telephone number.` : null;
}

const STAND_IN =
  /^(?:none|no-?e?-?mail|unknown|n\.?a|nobody|no-?reply|do-?not-?reply|anonymous|test|xxx+|asdf)@|@(?:none|no-?e?mail|test|nowhere|invalid)\./i;

/** What is odd about an e-mail address that is one by its form; null where nothing is. */
export const emailDoubt = (address: string): string | null =>
  STAND_IN.test(address) ? `“${address}” reads as what is typed where there is no address.` : null;

const ZIP = /^\d{5}(?:-?\d{4})?$/;
/** What points to an address that stands elsewhere. */
const ELSEWHERE = /^(?:the )?(?:same(?: as .*)?|(?:see|as) (?:above|below|before|spouse|notes?)|ditto|"+|''+)$/i;

type PlaceField = 'street' | 'city' | 'region' | 'postal' | 'country';
/** What is odd about an address, each with the field that it is about; codes of states as they are kept. */
export function placeDoubts(
  { street, city, region, postal, country }: PostalAddress,
  home: string,
): { field: PlaceField; value: string; reason: string }[] {
  const found: { field: PlaceField; value: string; reason: string }[] = [];
  const odd = (field: PlaceField, value: string, reason: string) => void found.push({ field, value, reason });
  if (street !== '' && (!/\p{L}/u.test(street) || ELSEWHERE.test(street)))
    odd('street', street, `“${street}” reads as no street.`);
  if (ELSEWHERE.test(city)) odd('city', city, `“${city}” reads as no city.`);
  if (/\d{4}|,/.test(city)) odd('city', city, `“${city}” holds more than a city.`);
  if (city === '' && postal === '' && /\s\d{5}(?:-\d{4})?$/.test(street))
    odd('street', street, `“${street}” seems to hold the city and the ZIP code, too.`);
  const land = countryCode(country, home);
  if (land === null) odd('country', country, `“${country}” is no country known here.`);
  if (land !== 'US') return found;
  const known = region === '' ? null : regionCode(region, land);
  if (region !== '' && known === null) odd('region', region, `“${region}” is no state.`);
  if (postal === '') return found;
  const state = stateOf(postal);
  if (state === false) {
    const why = /^\d{3,4}$/.test(postal) ? 'a zero before it may be lost' : 'if it is of another country, say which';
    odd('postal', postal, `“${postal}” is no ZIP code; ${why}.`);
  } else if (known !== null && state !== null && state !== known)
    odd('postal', postal, `The ZIP code ${postal} is in ${state}, not in ${known}.`);
  return found;
}

/** The state of a ZIP code, null where it is not known, false for what is none. */
const stateOf = lately((postal) => ZIP.test(postal) && stateOfZip(postal));
