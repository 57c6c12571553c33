import { bare, PLURAL_TITLES, SUFFIXES, TITLES } from '../names/index.ts';
import type { SupporterKind } from '../supporters/index.ts';
import { isGiven } from './known.ts';
import {
  LEGAL_FORMS,
  OPENERS,
  PLACES,
  SHARED_PLACES,
  TRADES,
  UNCERTAIN_FORMS,
  UNSPACED,
  VIRTUES,
} from './organizations.ts';
import { splitPeople } from './people.ts';
import { oneSpace } from './split.ts';
import type { ReadName } from './split.ts';

/** Whom a text names: a person, a household of people, or an organization; and why that may be wrong. */
export interface NamedParty {
  kind: SupporterKind;
  /** The name of a household or an organization; of a person as it was written. */
  name: string;
  /** The person, or those of a household that are named; none of an organization. */
  people: ReadName[];
  unsure: string | null;
}

/** Tells whether a text names a person, a household or an organization. */
export function readParty(text: string): NamedParty {
  const whole = oneSpace(text.slice(0, 300));
  const plain = whole.replace(/[,;(–-]?\s*\b(?:c\/o|attn|attention)\b[:.]?\s*.*$/iu, '').trim() || whole;
  if (isHome(plain)) return { kind: 'household', name: whole, people: namedIn(plain), unsure: null };
  const said = wordsIn(plain, splitPeople(whole));
  const firm = RULES.find((rule) => rule.holds(said));
  if (firm) return { kind: 'organization', name: plain, people: [], unsure: firm.unsure ?? null };
  const { people } = said;
  const unsure = people.find((one) => one.unsure !== null)?.unsure ?? null;
  if (people.length > 1) return { kind: 'household', name: whole, people, unsure };
  return { kind: 'person', name: whole, people, unsure: unsure ?? doubtOf(whole) };
}

/** `The Whitfields`, `Whitfield Family`, `Familie Weber`, `The Drs. Patel`, `John Smith and family`. */
function isHome(text: string): boolean {
  const [first = '', ...rest] = text.replace(/^the\s+/i, '').split(' ');
  return (
    /^(?:the\s+)?\p{L}[\p{L}'’.-]*(?:[\s-]\p{L}[\p{L}'’.-]*){0,3}\s+(?:family|household|familie)$/iu.test(text) ||
    /^\p{L}[\p{L}'’-]*,\s*(?:the\s+)?family$/iu.test(text) ||
    /^(?:the\s+)?(?:family of|fam\.|familie|familia|famille|famiglia|família|rodzina|eheleute)(?:\s+[\p{L}'’.-]+){1,4}$/iu.test(
      text,
    ) ||
    (/^the\s+(?:\p{L}+[\s-])?\p{Lu}[\p{L}'’-]*s$/iu.test(text) &&
      !text.split(' ').some((word) => TRADES.has(bare(word)))) ||
    AND_FAMILY.test(text) ||
    (rest.length === 1 && PLURAL_TITLES.has(bare(first)) && bare(first) !== 'mm')
  );
}

const AND_FAMILY = /\s(?:and|&|\+|und|et|y)\s+(?:his |her |their )?family$/iu;
const NAMES_PEOPLE = /^(?:the\s+)?(?:drs|revs|profs|messrs|misses|mmes|eheleute)\b/i;

/** Who of a home is named. */
const namedIn = (text: string): ReadName[] =>
  AND_FAMILY.test(text) || NAMES_PEOPLE.test(text) ? splitPeople(text) : [];

interface Said {
  text: string;
  words: string[];
  /** The words in their bare forms. */
  names: string[];
  /** Whether a person's title or suffix is there. */
  titled: boolean;
  /** Whether it is written last name first. */
  turned: boolean;
  people: ReadName[];
}

function wordsIn(text: string, people: ReadName[]): Said {
  const words = text
    .replace(/[,;:()"“”]/g, ' ')
    .split(/\s+/)
    .filter(Boolean);
  const end = (text.split(',').at(-1) ?? '').trim().replace(/\./g, '').toLowerCase();
  const [, given = ''] = /^[^,]+,\s*(\p{L}[\p{L}'’.-]*)/u.exec(text) ?? [];
  return {
    ...{ text, words, people, names: words.map((word) => bare(word.replace(/['’]s$/i, ''))) },
    titled: people.some(({ prefix, suffix }) => prefix !== '' || suffix !== ''),
    turned: given !== '' && !LEGAL_FORMS.has(end) && (!/&/.test(text) || isGiven(given) || TITLES.has(bare(given))),
  };
}

const isInitial = (word: string): boolean => /^\p{L}\.?$/u.test(word);
const joinedWords = 'sons?|daughters?|co|company|cie|söhne|fils|hijos|associates|partners|assoc';
const FIRM_ENDS = new RegExp(`(?:&|\\+|\\band\\b|\\bund\\b|\\bet\\b|\\by\\b)\\s*(?:${joinedWords})\\b\\.?`, 'iu');

/** What says that a text names an organization, the surest first; `unsure` says why one may be mistaken. */
const RULES: readonly { holds(said: Said): boolean; unsure?: string }[] = [
  // 'darkskies.org'
  { holds: ({ text }) => /\.(?:org|com|net|edu|co|us|de|fr|es|uk)$/i.test(text) },
  {
    holds: ({ text }) =>
      /^(?:the )?(?:estate|friends|sons|daughters) of\b|\bfbo\b|\bdba\b|\bd\/b\/a\b|^law offices?\b/i.test(text),
  },
  // 'Jane Doe IRA', where Ira is a name too.
  {
    holds: ({ words }) =>
      words.length > 1 && words.some((word) => /^(?:(?:SEP-?|ROTH-?)?IRA|DAF|CRUT|CRAT|TTEE|UTMA|UGMA)$/.test(word)),
  },
  { holds: ({ names, turned }) => !turned && names.length > 1 && OPENERS.has(names[0] ?? '') },
  { holds: hasLegalForm },
  {
    holds: ({ names, titled, turned, words }) =>
      !turned &&
      words.length > 1 &&
      names.some((name, at) => TRADES.has(name) && !(at === 0 && isGiven(name))) &&
      (!titled || (words.length > 2 && names.some((name) => TRADES.has(name) && !SUFFIXES.has(name)))),
  },
  { holds: ({ text }) => FIRM_ENDS.test(text) },
  // 'Whitfield Brothers Plumbing', 'Baker Bros.'
  {
    holds: ({ text, turned, words }) =>
      !turned &&
      words.length > 1 &&
      /\S\s+(?:bros|brothers|sisters|gebrüder|hermanos|frères)\b/iu.test(text) &&
      !isGiven(words[0] ?? ''),
  },
  { holds: ({ text }) => /^(?:brothers|sisters|gebrüder|hermanos|frères)\s+\p{L}/iu.test(text) },
  // 'Hands for Lyra': no person's name has these words in it.
  {
    holds: ({ names, titled, turned }) =>
      !titled && !turned && names.slice(1, -1).some((name) => ['of', 'for', 'at', 'on', 'with', 'to'].includes(name)),
  },
  { holds: ({ text }) => UNSPACED.test(text) || /\bsp\. z o\.o\./i.test(text) },
  // '3M', 'AT&T'
  { holds: ({ words, text }) => words.length === 1 && /\d|\p{L}&\p{L}/u.test(text) },
  // "St. Mary's"
  { holds: ({ text }) => /^(?:st\.?|saint)\s.*['’]s$/iu.test(text) },
  { holds: ({ text, words }) => words.length === 1 && /\p{L}['’]s$/u.test(text), unsure: 'it may be a name' },
  // 'Team Lyra', 'Silent Auction'
  {
    holds: ({ names, titled, turned, words }) =>
      !titled &&
      !turned &&
      names.length > 1 &&
      (names[0] === 'team' || names.some((name, at) => at > 0 && CROWDS.has(name))) &&
      !isGiven(words[0] ?? ''),
    unsure: 'it may be a person',
  },
  // 'Local 401'
  { holds: ({ text, words, titled }) => !titled && words.length > 1 && /\d/.test(text) },
  { holds: (said) => placeOf(said) === 'place' },
  { holds: (said) => placeOf(said) === 'either', unsure: 'it may be a person' },
  { holds: ({ names, turned }) => names.length > 1 && names[0] === 'temple' && !turned, unsure: 'it may be a person' },
  // 'Smith & Jones': two last names and nothing more.
  {
    holds: ({ people }) =>
      people.length > 1 &&
      people.every(
        (one, _at, [first]) =>
          one.prefix === '' && (one.first === '' || (one.first === first?.first && one.last === '')),
      ),
    unsure: 'it may be two people',
  },
  // 'Reno YMCA'
  {
    holds: ({ text, words, titled }) =>
      !titled &&
      words.length > 1 &&
      /\p{Ll}/u.test(text) &&
      words.slice(1).some((word) => /^[A-Z]{3,6}$/.test(word) && !/^[IVX]+$/.test(word)) &&
      !isGiven(words[0] ?? ''),
    unsure: 'it may be a person',
  },
];

/** Many people, and what they came for. */
const CROWDS = new Set(
  'auction raffle donors donations contributions guests students volunteers attendees participants proceeds'.split(' '),
);

function hasLegalForm({ words, turned }: Said): boolean {
  return words.some((word, at) => {
    const form = word.replace(/\./g, '').toLowerCase();
    if (at === 0 || !LEGAL_FORMS.has(form)) return false;
    if (!UNCERTAIN_FORMS.has(form)) return true;
    // 'Dupont SA' and 'Dupont S.A.', but not 'Dupont, Sa' or 'Lee As'.
    return (
      !turned &&
      (word.includes('.') || (word === word.toUpperCase() && words.some((other) => other !== other.toUpperCase())))
    );
  });
}

/**
 * Whether a word of places makes an organization: not in `Charlotte Church` and `Shirley J. Temple`, where a first name
 * comes before it, and `either` in `Grace Chapel`, where that is a church's name as well.
 */
function placeOf({ words, names, titled, turned, people }: Said): 'place' | 'either' | null {
  const at = names.findIndex((name, place) => place > 0 && PLACES.has(name));
  if (at < 0 || titled || turned) return null;
  if (people.length > 1 && people.every((one) => one.prefix !== '' || isGiven(one.first.split(' ')[0] ?? '')))
    return null;
  const [first = '', ...others] = words.slice(0, at);
  const person =
    at === words.length - 1 &&
    others.length < 2 &&
    (isGiven(first) || isInitial(first)) &&
    others.every((word) => isInitial(word) || isGiven(word));
  if (!person) return 'place';
  return VIRTUES.has(bare(first)) && SHARED_PLACES.has(names[at] ?? '') ? 'either' : null;
}

/** Why somebody who was taken for a person may be none. */
function doubtOf(text: string): string | null {
  const single = !/[\s,]/.test(text) && /^\p{Script=Latin}+$/u.test(text) && !isGiven(text);
  return single ? 'a single word may be a first name, a last name or an organization' : null;
}
