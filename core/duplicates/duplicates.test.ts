import { describe, expect, it } from 'vitest';
import { likeness } from './index.ts';
import type { Comparable } from './index.ts';

const record = (parts: Partial<Comparable>): Comparable => ({
  kind: 'person',
  first: '',
  last: '',
  formerLast: '',
  nickname: '',
  organization: '',
  emails: [],
  phones: [],
  addresses: [],
  ...parts,
});
const ana = record({ first: 'Ana', last: 'Rookwood' });
const firm = (organization: string) => record({ kind: 'organization', organization });

describe('likeness', () => {
  it.each<[string, Comparable, Comparable, string[]]>([
    ['the same name', ana, record({ first: 'ANA', last: 'rookwood' }), ['same name']],
    ['a slip', ana, record({ first: 'Ana', last: 'Rokwood' }), ['a slip in the last name']],
    [
      'a sound',
      record({ first: 'Ana', last: 'Smith' }),
      record({ first: 'Ana', last: 'Schmidt' }),
      ['a last name that sounds alike'],
    ],
    [
      'a short form',
      record({ first: 'William', last: 'Farr' }),
      record({ first: 'Bill', last: 'Farr' }),
      ['a short form of the first name'],
    ],
    [
      'a nickname on record',
      record({ first: 'Ximena', nickname: 'Mena', last: 'Farr' }),
      record({ first: 'Mena', last: 'Farr' }),
      ['same name'],
    ],
    ['a former name', ana, record({ first: 'Ana', last: 'Quill', formerLast: 'Rookwood' }), ['a former last name']],
    ['a double name', ana, record({ first: 'Ana', last: 'Rookwood-Quill' }), ['part of the last name']],
    ['first and last swapped', ana, record({ first: 'Rookwood', last: 'Ana' }), ['first and last name swapped']],
    [
      'a last name alone, at one address',
      record({ last: 'Rookwood', addresses: [{ street: '4 Lyra Rd', postal: '' }] }),
      record({ first: 'Ana', last: 'Rookwood', addresses: [{ street: '4 Lyra Road', postal: '' }] }),
      ['same last name', 'same address 4 Lyra Rd'],
    ],
    [
      'The before a name',
      firm('The Farr Foundation'),
      firm('Farr Foundation'),
      ['same name but for The or a legal form'],
    ],
    [
      'Inc. after it',
      firm('Farr Foundation, Inc.'),
      firm('Farr Foundation'),
      ['same name but for The or a legal form'],
    ],
    ['an initial', ana, record({ first: 'A.', last: 'Rookwood' }), ['the first letter of the first name']],
    [
      'one e-mail',
      record({ first: 'X', emails: ['a@example.org'] }),
      record({ first: 'Y', emails: ['A@example.org'] }),
      ['same e-mail a@example.org'],
    ],
    [
      'one telephone',
      record({ phones: ['(775) 555-0142'] }),
      record({ phones: ['+1 775 555 0142 x3'] }),
      ['same telephone (775) 555-0142'],
    ],
    [
      'one address',
      record({ addresses: [{ street: '434 Perseid Place', postal: '89937' }] }),
      record({ addresses: [{ street: '434 perseid pl', postal: '89937-1234' }] }),
      ['same address 434 Perseid Place'],
    ],
    ['one firm', firm('Cobalt Bakery'), firm('cobalt bakery'), ['same name']],
    ['part of a firm', firm('Cobalt Bakery'), firm('Cobalt Bakery of Tansy Creek'), ['one name is part of the other']],
  ])('%s', (_case, a, b, reasons) => {
    expect(likeness(a, b).reasons).toEqual(reasons);
    expect(likeness(b, a).score).toBe(likeness(a, b).score);
  });

  it.each<[string, Comparable, Comparable]>([
    ['another first name', ana, record({ first: 'Oren', last: 'Rookwood' })],
    ['another last name', ana, record({ first: 'Ana', last: 'Quill' })],
    ['short telephone numbers', record({ phones: ['0142'] }), record({ phones: ['0142'] })],
    [
      'neighbours',
      record({ addresses: [{ street: '434 Perseid Pl', postal: '89937' }] }),
      record({ addresses: [{ street: '436 Perseid Pl', postal: '89937' }] }),
    ],
    [
      'one street in two towns',
      record({ addresses: [{ street: '434 Perseid Pl', postal: '', city: 'Ely' }] }),
      record({ addresses: [{ street: '434 Perseid Pl', postal: '89937', city: 'Camas' }] }),
    ],
    ['nothing at all', record({}), record({})],
  ])('%s: nothing alike', (_case, a, b) => expect(likeness(a, b)).toEqual({ score: 0, reasons: [] }));

  it('weighs a name with an e-mail above either alone', () => {
    const withMail = { ...ana, emails: ['ana@example.org'] };
    const scores = [
      likeness(ana, ana),
      likeness(withMail, record({ emails: ['ana@example.org'] })),
      likeness(withMail, withMail),
    ];
    expect(scores[2]?.score).toBeGreaterThan(Math.max(scores[0]?.score ?? 0, scores[1]?.score ?? 0));
  });
});
