import { leastForm, phoneKey, postalKey } from '../contact/index.ts';
import { firmWords } from '../fullnames/index.ts';
import { digitsOf, emailSlip, fold, nameGroups, otherNames, sounds, wordsOf } from '../names/index.ts';
import type { SupporterKind } from '../supporters/index.ts';
import type { Comparable } from './likeness.ts';

/* A record as it is compared with others: what it says, however it is written, worked out once. */

/** What of a record is compared. */
export interface Known extends Comparable {
  id: number;
  middle: string;
  suffix: string;
  /** `1961-03-14`, `--03-14`, or empty. */
  birthday: string;
  /** Its numbers elsewhere, as `source|number`. */
  outside: readonly string[];
}

/** Somebody who is no record yet, as records are compared. Written out, since files bring a hundred thousand of them. */
export const asKnown = (one: Comparable): Known => ({
  id: 0,
  kind: one.kind,
  first: one.first,
  middle: '',
  last: one.last,
  suffix: '',
  formerLast: one.formerLast,
  nickname: one.nickname,
  organization: one.organization,
  birthday: '',
  emails: one.emails,
  phones: one.phones,
  addresses: one.addresses,
  outside: [],
});

/** What people of a name are looked for by: the last name, or the whole one of those who have none. */
export const surnameOf = ({
  kind,
  last,
  first,
  organization,
}: Pick<Known, 'kind' | 'last' | 'first' | 'organization'>): string =>
  fold(kind === 'person' ? last || first : organization);

export interface Street {
  /** The house number, or the number of the box; empty where there is none. */
  house: string;
  /** The words of the street in the one form that each is known by, without house and unit. */
  street: string;
  unit: string;
  postal: string;
  city: string;
}

export interface Profile {
  id: number;
  kind: SupporterKind;
  first: string;
  /** The first name and what its bearers are called, the name itself first; none for an initial. */
  called: readonly string[];
  middle: string;
  last: string;
  surname: string;
  /** The parts of a last name of several, such as Cruz-Smith; else none. */
  lastParts: readonly string[];
  formerLast: string;
  /** What tells a parent from a child of one name: `jr`, `sr`, `2`, ... */
  generation: string;
  /** The words of the name of a household or an organization, without legal forms. */
  words: readonly string[];
  /** The groups of names that the first name and the nickname are in, by number. */
  groups: readonly number[];
  firstSounds: readonly string[];
  lastSounds: readonly string[];
  emails: readonly string[];
  phones: readonly string[];
  streets: readonly Street[];
  birthday: string;
  outside: readonly string[];
}

const GENERATIONS: Readonly<Record<string, string>> = {
  ...{ jr: 'jr', junior: 'jr', sr: 'sr', senior: 'sr' },
  ...{ ii: '2', '2nd': '2', iii: '3', '3rd': '3', iv: '4', '4th': '4', v: '5' },
};

/** What a record is compared by. */
export function profileOf(known: Known): Profile {
  const first = fold(known.first).replace(/\./g, '');
  const [given = '', ...more] = first.split(' ');
  const last = fold(known.last);
  const names = [...new Set([first, given, fold(known.nickname)])].filter((name) => name.length > 1);
  const parts = wordsOf(last).filter((part) => part.length > 2);
  return {
    ...{ id: known.id, kind: known.kind, first: given, last },
    surname: known.kind === 'person' && last !== '' ? last : surnameOf(known),
    called: [...new Set([...names, ...names.flatMap(otherNames)])],
    groups: [...new Set(names.flatMap(nameGroups))],
    middle: fold(known.middle).replace(/\./g, '') || more.join(' '),
    lastParts: parts.length > 1 ? parts : [],
    formerLast: fold(known.formerLast),
    generation: GENERATIONS[fold(known.suffix).replace(/\W/g, '')] ?? '',
    words: known.kind === 'person' ? [] : firmWords(known.organization),
    firstSounds: given.length > 1 ? sounds(given) : [],
    lastSounds: sounds(last.replace(/[^\p{L}]/gu, '')),
    emails: [...new Set(known.emails.map(mailboxOf))],
    phones: [...new Set(known.phones.map(numberOf).filter((number) => number.length >= 7))],
    streets: known.addresses.map(streetOf).filter(({ house, street, postal }) => house + street + postal !== ''),
    birthday: known.birthday,
    outside: known.outside,
  };
}

/** The mailbox that an address leads to: without a tag after a plus, and where dots say nothing without dots. */
function mailboxOf(address: string): string {
  const text = (emailSlip(address) ?? address).trim().toLowerCase();
  const at = text.lastIndexOf('@');
  if (at < 1) return text;
  const domain = text.slice(at + 1);
  const box = text.slice(0, at).replace(/\+.*$/, '');
  return `${domain === 'gmail.com' || domain === 'googlemail.com' ? box.replace(/\./g, '') : box}@${domain}`;
}

const numberOf = (text: string): string => phoneKey(digitsOf(text.replace(/\s*(ext\.?|x)\s*\d+.*$/i, '')));

const UNITS = new Set(['apt', 'apartment', 'unit', 'ste', 'suite', 'no', 'rm', 'room', 'fl', 'floor', 'lot', 'spc']);
const BOX = /\bp(?:\.|ost)?\s*o(?:\.|ffice)?\s*box\b/giu;

/** The parts of a street: `4 Lyra Rd Apt 2B` is house 4, street `lyra rd`, unit 2b. */
function streetOf(address: Known['addresses'][number]): Street {
  const words = wordsOf(address.street.replace(BOX, 'po box').replace(/#\s*/g, ' unit '));
  const at = words.findIndex((word, place) => place > 0 && UNITS.has(word));
  const unit = at < 0 ? [] : words.slice(at).filter((word) => !UNITS.has(word));
  const own = at < 0 ? words : words.slice(0, at);
  const number = own.findIndex((word) => /^\d/.test(word));
  const house = number < 0 ? '' : (own[number] ?? '');
  return {
    house,
    street: own
      .filter((_word, place) => place !== number)
      .map(leastForm)
      .join(' '),
    unit: unit.join(' '),
    postal: postalKey(address.postal),
    city: fold(address.city ?? ''),
  };
}

/** What a last name, or the name of a firm, counts as when one asks how common it is. */
export const commonName = (one: Profile): string => (one.kind === 'person' ? one.last : one.words.join(' '));
