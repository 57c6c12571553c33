import { displayName, isFamilyFirst } from './parts.ts';
import type { NameParts } from './parts.ts';
import { bare, COURTESY, DOCTORAL, FIRST_NAMED } from './words.ts';

/** A name with what its bearer is called among friends. */
export type FullName = NameParts & { nickname: string };

/** Who a letter is for: one person, two who share a home, a household of more, or an organization. */
export interface AddressedParty {
  name: FullName;
  /** Of a household its members, the primary first; of an organization its first contact. Else empty. */
  people: readonly (FullName & { role?: string })[];
  /** True of someone who has died, and of a household in which nobody lives any more. */
  deceased?: boolean;
}

export const FORMS = {
  addresseeFormal: 'Addressee, formal',
  addresseeInformal: 'Addressee, informal',
  salutationFormal: 'Salutation, formal',
  salutationInformal: 'Salutation, informal',
} as const;
export type Form = keyof typeof FORMS;

export const PARTY_CASES = {
  person: 'One person',
  coupleSame: 'Two with the same last name',
  coupleDifferent: 'Two with different last names',
  household: 'A household of more, or with nobody in it',
  contact: "An organization's contact",
  organization: 'An organization without a contact',
  deceased: 'Someone who has died',
} as const;
export type PartyCase = keyof typeof PARTY_CASES;

/**
 * A rule is one or more alternatives, each after `|`; the first whose every field has a value is used. A field is
 * `{a.first}`, `{b.last}` or `{name}`; one that may be empty ends in `?`. `{a.known}` is the nickname or else the
 * first name, `{a.initial}` the middle name's first letter with a point. `{titled}` is each title with the name that it
 * goes with (`Dr. Cruz`, `Sir Ian`, `Mr. and Mrs. Smith`, `Drs. Patel`), where all have one; `{a.title}` a title that
 * goes with the last name, `{a.rank}` one that says more than Mr. or Ms.
 */
export type AddressingRules = Record<PartyCase, Record<Form, string>>;

const ONE: Record<Form, string> = {
  addresseeFormal: '{a.prefix?} {a.first?} {a.initial?} {a.last}, {a.suffix?} | {a.prefix?} {a.first}',
  addresseeInformal: '{a.known} {a.last} | {a.prefix?} {a.last} | {a.known}',
  salutationFormal: '{titled} | {a.first} {a.last} | {a.first} | {a.last}',
  salutationInformal: '{a.known} | {a.prefix?} {a.last}',
};

export const DEFAULT_RULES: AddressingRules = {
  person: ONE,
  coupleSame: {
    addresseeFormal:
      '{a.prefix} {a.first} and {b.prefix} {b.first} {a.last} | {a.rank?} {a.first} and {b.rank?} {b.first} {a.last} | ' +
      '{a.title} and {b.prefix} {a.first} {a.initial?} {a.last}, {a.suffix?} | {titled}',
    addresseeInformal: '{a.known} and {b.known} {a.last} | {titled}',
    salutationFormal: '{titled} | {a.rank?} {a.first} and {b.rank?} {b.first} {a.last}',
    salutationInformal: '{a.known} and {b.known} | {titled}',
  },
  coupleDifferent: {
    addresseeFormal: '{a.prefix?} {a.first?} {a.last?} and {b.prefix?} {b.first?} {b.last?}',
    addresseeInformal: '{a.known} {a.last?} and {b.known} {b.last?} | {a.first?} {a.last?} and {b.first?} {b.last?}',
    salutationFormal: '{titled} | {a.rank?} {a.first?} {a.last?} and {b.rank?} {b.first?} {b.last?}',
    salutationInformal: '{a.known} and {b.known} | {a.prefix?} {a.last?} and {b.prefix?} {b.last?}',
  },
  household: {
    addresseeFormal: '{name}',
    addresseeInformal: '{name}',
    salutationFormal: '{name}',
    salutationInformal: '{a.known} and family | {name}',
  },
  contact: {
    ...ONE,
    addresseeFormal: '{a.prefix?} {a.first?} {a.last}, {a.role?} | {a.first}, {a.role?}',
    addresseeInformal: '{a.known} {a.last} | {a.prefix?} {a.last} | {a.known}',
  },
  organization: {
    addresseeFormal: '{name}',
    addresseeInformal: '{name}',
    salutationFormal: 'Friends at {name}',
    salutationInformal: 'Friends',
  },
  deceased: {
    addresseeFormal: 'Estate of {a.prefix?} {a.first?} {a.last}, {a.suffix?} | Estate of {name}',
    addresseeInformal: 'Family of {a.known} {a.last} | Family of {name}',
    salutationFormal: 'Family of {a.prefix?} {a.first?} {a.last} | Family of {name}',
    salutationInformal: 'Family of {a.known} {a.last} | Family of {name}',
  },
};

/** Which case's rules address a party. */
export function partyCase({ name, people, deceased }: AddressedParty): PartyCase {
  if (deceased) return 'deceased';
  if (name.kind === 'organization') return people.length > 0 ? 'contact' : 'organization';
  if (name.kind === 'person') return 'person';
  const [a, b] = people;
  if (people.length === 1) return 'person';
  if (people.length !== 2 || !a || !b) return 'household';
  return a.last === b.last || b.last === '' || a.last === '' ? 'coupleSame' : 'coupleDifferent';
}

/** How the party is addressed by the rules in each form; a rule that gives nothing falls back to the plain name. */
export function addressing(party: AddressedParty, rules: AddressingRules = DEFAULT_RULES): Record<Form, string> {
  const chosen = rules[partyCase(party)];
  const say = (form: Form): string => applied(chosen[form], party) || displayName(party.name);
  return {
    addresseeFormal: say('addresseeFormal'),
    addresseeInformal: say('addresseeInformal'),
    salutationFormal: say('salutationFormal'),
    salutationInformal: say('salutationInformal'),
  };
}

const FIELD = /\{([^{}]*)\}/g;
const PERSON_FIELDS = [
  'prefix',
  'first',
  'middle',
  'initial',
  'last',
  'suffix',
  'nickname',
  'known',
  'role',
  'title',
  'rank',
] as const;

/** What keeps a rule from being used, in words; null when nothing does. */
export function ruleFault(rule: string): string | null {
  if (rule.trim() === '') return 'The rule is empty.';
  if (rule.replace(FIELD, '').match(/[{}]/)) return 'A brace is not closed.';
  for (const [, field = ''] of rule.matchAll(FIELD)) {
    const plain = field.replace(/\?$/, '');
    const known =
      plain === 'name' ||
      plain === 'titled' ||
      PERSON_FIELDS.some((name) => plain === `a.${name}` || plain === `b.${name}`);
    if (!known) return `There is no field {${field}}; fields are {name}, {a.first}, {a.known}, {b.last} and the like.`;
  }
  return null;
}

function applied(rule: string, party: AddressedParty): string {
  const [a, b] = party.name.kind === 'person' ? [party.name] : party.people;
  for (const alternative of rule.split('|')) {
    let usable = true;
    const text = inOwnOrder(alternative, a, b).replace(FIELD, (_whole, field: string) => {
      const value = valueOf(field.replace(/\?$/, ''), party, a, b);
      if (value === '' && !field.endsWith('?')) usable = false;
      return value;
    });
    const clean = tidy(text);
    if (usable && clean !== '') return clean;
  }
  return '';
}

/** A first name and the last name after it change places where their script writes the family name first: `李小龍`. */
const inOwnOrder = (rule: string, a: NameParts | undefined, b: NameParts | undefined): string =>
  rule.replace(WHOLE_NAME, (whole, who: string, first: string, last: string) => {
    const person = who === 'b' ? b : a;
    return person && isFamilyFirst(person) ? last + first : whole;
  });
const WHOLE_NAME = /(?=\{([ab])\.)(\{\1\.(?:first|known)\??\})(?: \{\1\.(?:initial|middle)\??\})? (\{\1\.last\??\})/g;

/** Spaces and commas that empty fields left behind. */
const tidy = (text: string): string =>
  text
    .replace(/\s+/g, ' ')
    .replace(/ ,/g, ',')
    .replace(/,(\s*,)+/g, ',')
    .trim()
    .replace(/^[,\s]+|[,\s]+$/g, '');

function valueOf(
  field: string,
  party: AddressedParty,
  a: (FullName & { role?: string }) | undefined,
  b: (FullName & { role?: string }) | undefined,
): string {
  if (field === 'name') return displayName(party.name);
  if (field === 'titled') return titled(a, b);
  const person = field.startsWith('b.') ? b : a;
  if (!person) return '';
  switch (field.slice(2)) {
    case 'prefix':
      return person.prefix;
    case 'first':
      return person.first;
    case 'middle':
      return person.middle;
    case 'initial':
      return person.middle === '' ? '' : `${[...person.middle][0] ?? ''}.`;
    case 'last':
      // Of a couple with one last name between them, it is both of theirs.
      return person.last || (person === b ? (a?.last ?? '') : (b?.last ?? ''));
    case 'suffix':
      return suffixBeside(person);
    case 'title':
      return goesWithFirst(person) ? '' : person.prefix;
    case 'rank':
      return COURTESY.has(bare(person.prefix)) ? '' : person.prefix;
    case 'nickname':
      return person.nickname;
    case 'known':
      return person.nickname || person.first;
    case 'role':
      return person.role ?? '';
    default:
      return '';
  }
}

const lastTitle = ({ prefix }: NameParts): string => bare(prefix.split(' ').at(-1) ?? '');
const goesWithFirst = (person: NameParts): boolean => person.first !== '' && FIRST_NAMED.has(lastTitle(person));

/** Each title with the name that it goes with; empty unless everyone has both. */
function titled(a: FullName | undefined, b: FullName | undefined): string {
  const all = [a, b].filter((one) => one !== undefined);
  if (all.length === 0 || all.some((one) => one.prefix === '')) return '';
  const lastOf = (one: FullName): string => one.last || all.find((other) => other.last !== '')?.last || '';
  const one = (person: FullName): string => {
    const name = goesWithFirst(person) ? person.first : lastOf(person) || person.first;
    return name === '' ? '' : `${person.prefix} ${name}`;
  };
  const said = all.map(one);
  if (said.includes('')) return '';
  const shared =
    a !== undefined && b !== undefined && lastOf(a) === lastOf(b) && !goesWithFirst(a) && !goesWithFirst(b);
  if (!shared) return said.join(' and ');
  const doctors = lastTitle(a) === 'dr' && lastTitle(b) === 'dr' && a.prefix === b.prefix;
  return doctors ? `Drs. ${lastOf(a)}` : `${a.prefix} and ${b.prefix} ${lastOf(a)}`;
}

/** The suffix without what the prefix says already: `Dr. Jane Doe`, not `Dr. Jane Doe, M.D.`; `Ms. Doe`, not `Ms. Doe, Esq.` */
function suffixBeside({ prefix, suffix }: NameParts): string {
  const titles = prefix.split(' ').map(bare);
  const said = (part: string): boolean =>
    (titles.some((title) => ['dr', 'doctor', 'dra'].includes(title)) && DOCTORAL.has(bare(part))) ||
    (titles.some((title) => COURTESY.has(title)) && bare(part) === 'esq');
  return suffix
    .split(', ')
    .filter((part) => !said(part))
    .join(', ');
}

/** A text put in the place of what the rules say, with what they said then. */
export interface Override {
  text: string;
  instead: string;
}
export type Overrides = Partial<Record<Form, Override>>;

/**
 * What is used in each form: the override where there is one, and whether the name changed since it was written. What
 * was written while someone lived is not used once they have `died`.
 */
export function addressed(
  computed: Record<Form, string>,
  overrides: Overrides,
  died = false,
): Record<Form, { text: string; byHand: boolean; stale: boolean; rule: string }> {
  const one = (form: Form) => {
    const own = overrides[form];
    const rule = computed[form];
    return own && !(died && own.instead !== rule)
      ? { text: own.text, byHand: true, stale: own.instead !== rule, rule }
      : { text: rule, byHand: false, stale: false, rule };
  };
  return {
    addresseeFormal: one('addresseeFormal'),
    addresseeInformal: one('addresseeInformal'),
    salutationFormal: one('salutationFormal'),
    salutationInformal: one('salutationInformal'),
  };
}
