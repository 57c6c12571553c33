import { properCase, wordsOf } from '../names/index.ts';
import type { PostalAddress } from './ways.ts';
import { countryCode, regionCode } from '../regions/index.ts';

/** A better way to write an address, with what it changes; null where there is nothing to suggest. */
export interface Suggestion {
  address: PostalAddress;
  why: string[];
}

/** Street words and the form that the postal service's Publication 28 asks for. */
const STREET_WORDS: Readonly<Record<string, string>> = {
  street: 'St',
  str: 'St',
  avenue: 'Ave',
  av: 'Ave',
  road: 'Rd',
  boulevard: 'Blvd',
  drive: 'Dr',
  lane: 'Ln',
  court: 'Ct',
  place: 'Pl',
  terrace: 'Ter',
  circle: 'Cir',
  highway: 'Hwy',
  parkway: 'Pkwy',
  trail: 'Trl',
  square: 'Sq',
  apartment: 'Apt',
  suite: 'Ste',
  building: 'Bldg',
  floor: 'Fl',
  north: 'N',
  south: 'S',
  east: 'E',
  west: 'W',
  northeast: 'NE',
  northwest: 'NW',
  southeast: 'SE',
  southwest: 'SW',
};
/** More words that people shorten; they are found either way, and written as they come. */
const SHORTENED: Readonly<Record<string, string>> = {
  crossing: 'Xing',
  route: 'Rte',
  expressway: 'Expy',
  freeway: 'Fwy',
  turnpike: 'Tpke',
  plaza: 'Plz',
  point: 'Pt',
  heights: 'Hts',
  mount: 'Mt',
  mountain: 'Mtn',
  fort: 'Ft',
  cove: 'Cv',
  creek: 'Crk',
  canyon: 'Cyn',
  ridge: 'Rdg',
  valley: 'Vly',
  meadows: 'Mdws',
  hills: 'Hls',
  springs: 'Spgs',
  station: 'Sta',
  alley: 'Aly',
  grove: 'Grv',
  junction: 'Jct',
  landing: 'Lndg',
  view: 'Vw',
  vista: 'Vis',
};

/** Each word with every other way to write it: `rd` and `road`. */
const FORMS = new Map<string, string[]>();
for (const [long, short] of [...Object.entries(STREET_WORDS), ...Object.entries(SHORTENED)]) {
  const forms = new Set([...(FORMS.get(short.toLowerCase()) ?? [short.toLowerCase()]), long]);
  for (const form of forms) FORMS.set(form, [...forms]);
}

/** A folded word of a street in every usual form, itself among them. */
export const streetForms = (word: string): readonly string[] => FORMS.get(word) ?? [word];

const LEAST = new Map([...FORMS].map(([word, forms]) => [word, [...forms].sort()[0] ?? word]));

/** Of all usual forms of a word of a street the first by the alphabet: what is compared. */
export const leastForm = (word: string): string => LEAST.get(word) ?? word;

/** `P.O. Box`, `P O Box`, `Post Office Box`. */
const A_BOX = /\bp(?:\.|ost)?\s*o(?:\.|ffice)?\s*box\b/giu;

/** What a street is known by, however its words are shortened and whatever stands between them. */
export const streetKey = (street: string): string => wordsOf(street.replace(A_BOX, 'po box')).map(leastForm).join(' ');

const oneCase = (text: string): boolean =>
  /\p{L}{3}/u.test(text) && (text === text.toUpperCase() || text === text.toLowerCase());

/**
 * Suggests case, abbreviations and the shape of the ZIP code (ZIP+4 as `89937-1234`) for an address in the United
 * States, and case anywhere. It never invents what is not there, and nothing is changed unless a person takes it.
 */
export function standardAddress(address: PostalAddress, home: string): Suggestion | null {
  const why: string[] = [];
  const domestic = countryCode(address.country, home) === 'US';
  const better = { ...address };
  const change = (field: keyof PostalAddress, to: string, reason: string): void => {
    if (to === better[field]) return;
    better[field] = to;
    if (!why.includes(reason)) why.push(reason);
  };
  for (const field of ['street', 'city'] as const) {
    const trimmed = better[field].replace(/[^\S\n]+/g, ' ').trim();
    change(field, trimmed, 'spaces');
    if (oneCase(trimmed)) change(field, properCase(trimmed).replace(/\bPo Box\b/, 'PO Box'), 'capital letters');
  }
  if (domestic) {
    change('street', abbreviated(better.street), 'street abbreviations');
    const region = better.region.trim();
    change(
      'region',
      regionCode(region, 'US') ?? (/^[a-z]{2}$/i.test(region) ? region.toUpperCase() : region),
      'state code',
    );
    const digits = better.postal.replace(/[^\d]/g, '');
    if (digits.length === 9) change('postal', `${digits.slice(0, 5)}-${digits.slice(5)}`, 'ZIP+4');
    else if (digits.length === 5) change('postal', digits, 'ZIP');
  }
  return why.length === 0 ? null : { address: better, why };
}

/** Abbreviates street words after the first, so that 'North Street' stays a name and 'Street' alone too. */
function abbreviated(street: string): string {
  const words = street.split(' ');
  return words
    .map((word, at) => {
      const plain = word.replace(/[.,]/g, '').toLowerCase();
      const short = STREET_WORDS[plain];
      const numbered = /^\d/.test(words[0] ?? '');
      if (!short || at === 0 || (at === 1 && numbered && words.length === 2)) return word;
      // Right after the house number a direction is one only when more than a street word follows.
      if (at === 1 && words.length === 3 && short.length <= 2 && /^[NSEW]/.test(short)) return word;
      return short + (word.endsWith(',') ? ',' : '');
    })
    .join(' ');
}
