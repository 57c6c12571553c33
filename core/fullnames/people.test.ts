import { describe, expect, it } from 'vitest';
import { addressing } from '../names/index.ts';
import { displayName, supporterParts } from '../names/index.ts';
import { splitPeople } from './people.ts';

/** What is written, who is read from it, and the formal addressee and salutation that the household then has. */
const COUPLES: [string, string, string?, string?][] = [
  ['Ana Cruz', 'Ana Cruz'],
  ['Sandy Anderson', 'Sandy Anderson'],
  ['Mr. and Mrs. John Smith', 'Mr. John Smith; Mrs. Smith', 'Mr. and Mrs. John Smith', 'Mr. and Mrs. Smith'],
  ['Mr. & Mrs. John Q. Smith', 'Mr. John Q. Smith; Mrs. Smith', 'Mr. and Mrs. John Q. Smith', 'Mr. and Mrs. Smith'],
  [
    'Mr. and Mrs. John Whitfield, Jr.',
    'Mr. John Whitfield, Jr.; Mrs. Whitfield',
    'Mr. and Mrs. John Whitfield, Jr.',
    'Mr. and Mrs. Whitfield',
  ],
  ['Dr. and Mrs. James Osei', 'Dr. James Osei; Mrs. Osei', 'Dr. and Mrs. James Osei', 'Dr. and Mrs. Osei'],
  [
    'Rev. and Mrs. Paul Oyelaran',
    'Rev. Paul Oyelaran; Mrs. Oyelaran',
    'Rev. and Mrs. Paul Oyelaran',
    'Rev. and Mrs. Oyelaran',
  ],
  [
    'The Rev. Dr. and Mrs. Paul Oyelaran',
    'The Rev. Dr. Paul Oyelaran; Mrs. Oyelaran',
    'The Rev. Dr. and Mrs. Paul Oyelaran',
  ],
  ['Col. and Mrs. James Adair', 'Col. James Adair; Mrs. Adair', 'Col. and Mrs. James Adair', 'Col. and Mrs. Adair'],
  ['Lt. Col. and Mrs. James Adair', 'Lt. Col. James Adair; Mrs. Adair', 'Lt. Col. and Mrs. James Adair'],
  ['Mr. and Dr. Smith', 'Mr. Smith; Dr. Smith', 'Mr. and Dr. Smith', 'Mr. and Dr. Smith'],
  ['Mr. and Mrs. Smith', 'Mr. Smith; Mrs. Smith', 'Mr. and Mrs. Smith', 'Mr. and Mrs. Smith'],
  ['Smith, Mr. and Mrs. John', 'Mr. John Smith; Mrs. Smith', 'Mr. and Mrs. John Smith'],
  ['Mr. and Mrs. John and Jane Smith', 'Mr. John Smith; Mrs. Jane Smith', 'Mr. John and Mrs. Jane Smith'],
  ['John and Jane Smith', 'John Smith; Jane Smith', 'John and Jane Smith', 'John and Jane Smith'],
  ['John & Jane Smith', 'John Smith; Jane Smith'],
  ['John + Jane Smith', 'John Smith; Jane Smith'],
  ['John/Jane Smith', 'John Smith; Jane Smith'],
  ['John or Jane Smith', 'John Smith; Jane Smith'],
  ['John Q. and Jane R. Smith', 'John Q. Smith; Jane R. Smith'],
  ['J. and M. Park', 'J. Park; M. Park'],
  ['SMITH, JOHN & JANE', 'John Smith; Jane Smith'],
  ['Smith, John and Doe, Jane', 'John Smith; Jane Doe', 'John Smith and Jane Doe'],
  ['Smith, John; Doe, Jane', 'John Smith; Jane Doe'],
  [
    'Smith, Dr. John and Mrs. Jane',
    'Dr. John Smith; Mrs. Jane Smith',
    'Dr. John and Mrs. Jane Smith',
    'Dr. and Mrs. Smith',
  ],
  [
    'Dr. Ana Cruz and Mr. Lee Park',
    'Dr. Ana Cruz; Mr. Lee Park',
    'Dr. Ana Cruz and Mr. Lee Park',
    'Dr. Cruz and Mr. Park',
  ],
  ['Mr. John and Dr. Jane Smith', 'Mr. John Smith; Dr. Jane Smith', 'Mr. John and Dr. Jane Smith', 'Mr. and Dr. Smith'],
  ['John Smith and Dr. Jane Smith', 'John Smith; Dr. Jane Smith', 'John and Dr. Jane Smith', 'John and Dr. Jane Smith'],
  ['Ana Cruz and Lee Park', 'Ana Cruz; Lee Park', 'Ana Cruz and Lee Park'],
  ['John Smith & Jane Doe-Smith', 'John Smith; Jane Doe-Smith'],
  ['John and Jane van der Berg', 'John van der Berg; Jane van der Berg'],
  ['Mary Ann and John Smith', 'Mary Ann Smith; John Smith'],
  ['John Smith, MD and Jane Doe, PhD', 'John Smith, M.D.; Jane Doe, Ph.D.'],
  ['John Smith, Jr. and Jane Smith', 'John Smith, Jr.; Jane Smith'],
  ['John Smith and Jane', 'John Smith; Jane Smith'],
  ['John Smith and Mrs.', 'John Smith; Mrs. Smith'],
  ['Mr. Smith and Ms. Jones', 'Mr. Smith; Ms. Jones', 'Mr. Smith and Ms. Jones', 'Mr. Smith and Ms. Jones'],
  ['Drs. John and Mary Smith', 'Dr. John Smith; Dr. Mary Smith', 'Dr. John and Dr. Mary Smith', 'Drs. Smith'],
  ['Drs. Smith', 'Dr. Smith; Dr. Smith', 'Drs. Smith', 'Drs. Smith'],
  ['The Drs. Patel', 'Dr. Patel; Dr. Patel', 'Drs. Patel'],
  ['Drs. Patel and Nguyen', 'Dr. Patel; Dr. Nguyen', 'Dr. Patel and Dr. Nguyen'],
  ['Drs. Ana Cruz and Lee Park', 'Dr. Ana Cruz; Dr. Lee Park', 'Dr. Ana Cruz and Dr. Lee Park'],
  ['Messrs. John and Paul Smith', 'Mr. John Smith; Mr. Paul Smith', 'Mr. John and Mr. Paul Smith', 'Mr. and Mr. Smith'],
  ['Messrs. Smith and Jones', 'Mr. Smith; Mr. Jones', 'Mr. Smith and Mr. Jones'],
  ['Hans und Greta Müller', 'Hans Müller; Greta Müller'],
  ['Herr und Frau Müller', 'Herr Müller; Frau Müller'],
  ['Herr Dr. Hans und Frau Greta Müller', 'Herr Dr. Hans Müller; Frau Greta Müller'],
  ['Jean et Marie Dupont', 'Jean Dupont; Marie Dupont'],
  ['M. et Mme Jean Dupont', 'M. Jean Dupont; Mme Dupont'],
  ['Juan y María García', 'Juan García; María García'],
  ['Sr. y Sra. García', 'Sr. García; Sra. García'],
  ['Juan García y María López', 'Juan García; María López'],
  ['Santiago Ramón y Cajal', 'Santiago Ramón y Cajal'],
  ['José Ortega y Gasset', 'José Ortega y Gasset'],
  ['João e Maria Silva', 'João Silva; Maria Silva'],
  ['Jan en Marie de Vries', 'Jan de Vries; Marie de Vries'],
  ['Sir Ian and Lady Marsh', 'Sir Ian Marsh; Lady Marsh', 'Sir Ian and Lady Marsh', 'Sir Ian and Lady Marsh'],
  ['Mr. John Smith, Mrs. Jane Smith', 'Mr. John Smith; Mrs. Jane Smith'],
  ['John Smith and family', 'John Smith'],
  ['Mr. and Mrs. J. R. R. Tolliver', 'Mr. J. R. R. Tolliver; Mrs. Tolliver'],
  ['Mr. and Mrs. Robert "Bob" Hall', 'Mr. Robert Hall; Mrs. Hall'],
  ['MR. AND MRS. JOHN MCDONALD', 'Mr. John McDonald; Mrs. McDonald', 'Mr. and Mrs. John McDonald'],
  [
    'Hon. Ruth and Mr. Carl Fairweather',
    'Hon. Ruth Fairweather; Mr. Carl Fairweather',
    'Hon. Ruth and Mr. Carl Fairweather',
    'Hon. and Mr. Fairweather',
  ],
  [
    'Ms. Jane Doe and Ms. Ruth Farr',
    'Ms. Jane Doe; Ms. Ruth Farr',
    'Ms. Jane Doe and Ms. Ruth Farr',
    'Ms. Doe and Ms. Farr',
  ],
];

describe('splitPeople', () => {
  it.each(COUPLES)('%s', (text, people, addressee, salutation) => {
    const read = splitPeople(text);
    expect(read.map((name) => displayName(supporterParts(name))).join('; ')).toBe(people);
    const party = {
      name: { ...supporterParts({ kind: 'household', organization: text }), nickname: '' },
      people: read.map((name) => ({ ...supporterParts(name), nickname: name.nickname })),
    };
    const said = addressing(party);
    if (addressee !== undefined) expect(said.addresseeFormal).toBe(addressee);
    if (salutation !== undefined) expect(said.salutationFormal).toBe(salutation);
  });
});
