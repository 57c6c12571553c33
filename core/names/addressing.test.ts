import { describe, expect, it } from 'vitest';
import { addressed, addressing, DEFAULT_RULES, partyCase, ruleFault } from './addressing.ts';
import type { AddressedParty, FullName } from './addressing.ts';
import { splitName } from '../fullnames/index.ts';

const person = (text: string): FullName => ({ ...splitName(text), kind: 'person', organization: '' });
const one = (text: string): AddressedParty => ({ name: person(text), people: [] });
const home = (name: string, ...people: string[]): AddressedParty => ({
  name: { ...person(''), kind: 'household', organization: name },
  people: people.map(person),
});
const firm = (name: string, contact?: string, role = ''): AddressedParty => ({
  name: { ...person(''), kind: 'organization', organization: name },
  people: contact === undefined ? [] : [{ ...person(contact), role }],
});

describe('addressing', () => {
  it.each<[string, AddressedParty, string, string, string, string]>([
    [
      'one person',
      one('Dr. Ana-María Lucía de la Cruz, Jr.'),
      'Dr. Ana-María L. de la Cruz, Jr.',
      'Ana-María de la Cruz',
      'Dr. de la Cruz',
      'Ana-María',
    ],
    ['a nickname', one('Mr. William "Bill" Turner'), 'Mr. William Turner', 'Bill Turner', 'Mr. Turner', 'Bill'],
    ['a knight', one('Sir Ian Marsh'), 'Sir Ian Marsh', 'Ian Marsh', 'Sir Ian', 'Ian'],
    ['a sister', one('Sister Agnes Dolan, OSB'), 'Sister Agnes Dolan, OSB', 'Agnes Dolan', 'Sister Agnes', 'Agnes'],
    ['a doctor twice', one('Dr. Jane Doe, M.D., FACS'), 'Dr. Jane Doe, F.A.C.S.', 'Jane Doe', 'Dr. Doe', 'Jane'],
    ['a lawyer', one('Ms. Jane Doe, Esq.'), 'Ms. Jane Doe', 'Jane Doe', 'Ms. Doe', 'Jane'],
    [
      'an estate',
      { ...one('Dr. Jane Doe, M.D.'), deceased: true },
      'Estate of Dr. Jane Doe',
      'Family of Jane Doe',
      'Family of Dr. Jane Doe',
      'Family of Jane Doe',
    ],
    ['a name written family name first', one('Dr. 李小龍'), 'Dr. 李小龍', '李小龍', 'Dr. 李', '小龍'],
    ['no prefix', one('Ana Cruz'), 'Ana Cruz', 'Ana Cruz', 'Ana Cruz', 'Ana'],
    ['only a last name', one('Mrs. Yarrow'), 'Mrs. Yarrow', 'Mrs. Yarrow', 'Mrs. Yarrow', 'Mrs. Yarrow'],
    ['only a first name', one('Cher'), 'Cher', 'Cher', 'Cher', 'Cher'],
    [
      'a couple with one name',
      home('The Smiths', 'Mr. John Smith', 'Mrs. Jane Smith'),
      'Mr. John and Mrs. Jane Smith',
      'John and Jane Smith',
      'Mr. and Mrs. Smith',
      'John and Jane',
    ],
    [
      'a couple, one without prefix',
      home('The Smiths', 'John Smith', 'Mrs. Jane Smith'),
      'John and Jane Smith',
      'John and Jane Smith',
      'John and Jane Smith',
      'John and Jane',
    ],
    [
      'a couple, one known by title',
      home('The Smiths', 'Mr. John Smith', 'Mrs. Smith'),
      'Mr. and Mrs. John Smith',
      'Mr. and Mrs. Smith',
      'Mr. and Mrs. Smith',
      'Mr. and Mrs. Smith',
    ],
    [
      'a couple with two names',
      home('Cruz and Park', 'Dr. Ana Cruz', 'Mr. Lee Park'),
      'Dr. Ana Cruz and Mr. Lee Park',
      'Ana Cruz and Lee Park',
      'Dr. Cruz and Mr. Park',
      'Ana and Lee',
    ],
    [
      'two names, no prefixes',
      home('Cruz and Park', 'Ana Cruz', 'Lee Park'),
      'Ana Cruz and Lee Park',
      'Ana Cruz and Lee Park',
      'Ana Cruz and Lee Park',
      'Ana and Lee',
    ],
    [
      'a household of three',
      home('The Park Family', 'Lee Park', 'Jo Park', 'Kim Park'),
      'The Park Family',
      'The Park Family',
      'The Park Family',
      'Lee and family',
    ],
    ['a household of one', home('The Park Home', 'Mr. Lee Park'), 'Mr. Lee Park', 'Lee Park', 'Mr. Park', 'Lee'],
    [
      'a household of nobody',
      home('The Park Home'),
      'The Park Home',
      'The Park Home',
      'The Park Home',
      'The Park Home',
    ],
    [
      'a contact',
      firm('Cobalt Bakery', 'Ms. Ruth Farr', 'Owner'),
      'Ms. Ruth Farr, Owner',
      'Ruth Farr',
      'Ms. Farr',
      'Ruth',
    ],
    ['no contact', firm('Cobalt Bakery'), 'Cobalt Bakery', 'Cobalt Bakery', 'Friends at Cobalt Bakery', 'Friends'],
  ])('%s', (_case, party, formal, informal, letterFormal, letterInformal) => {
    const said = addressing(party);
    expect([said.addresseeFormal, said.addresseeInformal, said.salutationFormal, said.salutationInformal]).toEqual([
      formal,
      informal,
      letterFormal,
      letterInformal,
    ]);
  });

  it('follows rules that the organisation changed, and falls back to the name when a rule says nothing', () => {
    const rules = {
      ...DEFAULT_RULES,
      person: { ...DEFAULT_RULES.person, salutationInformal: '{a.nickname}', salutationFormal: 'Friend {a.last}' },
    };
    expect(addressing(one('Ana Cruz'), rules)).toMatchObject({
      salutationInformal: 'Ana Cruz',
      salutationFormal: 'Friend Cruz',
    });
  });

  it('tells a couple of one name from a couple of two', () => {
    expect(partyCase(home('x', 'Jo Park', 'Lee Park'))).toBe('coupleSame');
    expect(partyCase(home('x', 'Jo Park', 'Lee Cruz'))).toBe('coupleDifferent');
  });
});

describe('ruleFault', () => {
  it.each([
    ['', 'empty'],
    ['{a.first', 'brace'],
    ['{a.fist} x', 'no field {a.fist}'],
    ['{c.first}', 'no field'],
  ])('%j is refused', (rule, why) => expect(ruleFault(rule)).toContain(why));
  it('takes every rule that comes with the product', () => {
    for (const forms of Object.values(DEFAULT_RULES))
      for (const rule of Object.values(forms)) expect(ruleFault(rule)).toBeNull();
  });
});

describe('an override', () => {
  const computed = addressing(one('Ana Cruz'));
  it('is used, and is kept with a hint when the name changes', () => {
    const own = { salutationInformal: { text: 'Anita', instead: 'Ana' } };
    expect(addressed(computed, own).salutationInformal).toEqual({
      text: 'Anita',
      byHand: true,
      stale: false,
      rule: 'Ana',
    });
    const later = addressing(one('Anna Cruz-Bell'));
    expect(addressed(later, own).salutationInformal).toEqual({
      text: 'Anita',
      byHand: true,
      stale: true,
      rule: 'Anna',
    });
  });
  it('leaves the other forms to the rules', () =>
    expect(addressed(computed, {}).addresseeFormal).toEqual({
      text: 'Ana Cruz',
      byHand: false,
      stale: false,
      rule: 'Ana Cruz',
    }));
});
