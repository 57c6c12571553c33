import { describe, expect, it } from 'vitest';
import { supporterParts } from '../names/index.ts';
import { besideOf } from './index.ts';
import type { DraftRow, Here } from './index.ts';

const here: Here = {
  ...{ id: 7, name: 'Robert Okafor', state: 'active', kind: 'person', first: 'Robert', last: 'Okafor' },
  ...{ nickname: '', formerLast: '', organization: '', emails: ['bob@example.org', 'rob@work.example'] },
  phones: ['(775) 555-0142'],
  addresses: [
    { street: '12 Perseid Place\nApt 4', city: 'Elko', postal: '89801' },
    { street: 'PO Box 9', city: 'Wells', postal: '89835' },
  ],
};
const row = (over: Partial<DraftRow> = {}): DraftRow => ({
  ...{
    supporterId: null,
    name: supporterParts({ first: 'Bob', last: 'Okafor' }),
    nickname: '',
    formerLast: '',
    members: [],
  },
  ...{
    email: null,
    phone: '',
    street: '',
    city: '',
    region: '',
    postal: '',
    country: '',
    tag: '',
    own: [],
    gift: null,
  },
  ...over,
});
const agrees = (over: Partial<DraftRow>) =>
  Object.fromEntries(besideOf(row(over), here).map((one) => [one.part, one.agrees]));

describe('a row beside a record', () => {
  it('says of each part what both have, all of the record’s', () => {
    expect(besideOf(row({ email: 'rob@work.example', phone: '775.555.0142' }), here)).toEqual([
      { part: 'Name', file: 'Bob Okafor', ours: 'Robert Okafor', agrees: true },
      { part: 'E-mail', file: 'rob@work.example', ours: 'bob@example.org; rob@work.example', agrees: true },
      { part: 'Telephone', file: '775.555.0142', ours: '(775) 555-0142', agrees: true },
      {
        ...{ part: 'Address', file: '', agrees: null },
        ours: '12 Perseid Place, Apt 4, Elko, 89801; PO Box 9, Wells, 89835',
      },
    ]);
  });

  it('finds that streets agree however they are written, and that other ways do not', () => {
    expect(agrees({ street: 'P.O. Box 9', city: 'Wells' })).toMatchObject({ Address: true });
    expect(agrees({ street: '77 Other Rd', city: 'Elko', postal: '89801' })).toMatchObject({ Address: false });
    // A town alone says nothing of a street.
    expect(agrees({ city: 'Elko' })).toMatchObject({ Address: null });
    expect(agrees({ email: 'x@example.org', phone: '775-555-0143' })).toMatchObject({
      'E-mail': false,
      Telephone: false,
    });
    expect(agrees({ name: supporterParts({ first: 'Zoe', last: 'Quinn' }) })).toMatchObject({ Name: false });
  });
});
