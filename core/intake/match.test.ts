import { describe, expect, it } from 'vitest';
import { supporterParts } from '../names/index.ts';
import { matchRow, called, togetherBy, USUAL_MATCHING } from './index.ts';
import type { DraftRow, Here, Known, Matching } from './index.ts';

const person = (id: number, first: string, last: string, over: Partial<Here> = {}): Here => ({
  ...{ id, name: `${first} ${last}`, state: 'active', kind: 'person', first, last, formerLast: '', nickname: '' },
  ...{ organization: '', emails: [], phones: [], addresses: [], ...over },
});
const HERE = [
  person(1, 'Ana', 'Cruz', {
    emails: ['home@example.org'],
    addresses: [{ street: '12 Perseid Place', postal: '89901' }],
  }),
  person(2, 'Bo', 'Cruz', { emails: ['bo@example.org'], phones: ['775-555-0142'] }),
  person(3, 'William', 'Okafor', { emails: ['will@example.org'] }),
  person(4, 'Gone', 'Away', { state: 'trash', emails: ['gone@example.org'] }),
  person(5, 'Cy', 'Twin', { emails: ['twins@example.org'] }),
  person(6, 'Di', 'Twin', { emails: ['twins@example.org'] }),
  person(7, 'Ed', 'Erased', { state: 'erased' }),
];
const active = HERE.filter(({ state }) => state === 'active');
/** Who is called what where the file comes from; two share the number of a family. */
const OUTSIDE = new Map([
  ['P-1', [1]],
  ['FAM-9', [5, 6]],
  ['= |robert|okafor@bob@example.org', [3]],
]);
const known: Known = {
  byNumber: (id) => HERE.find((one) => one.id === id) ?? null,
  byOutside: (called) => active.filter(({ id }) => OUTSIDE.get(called)?.includes(id)),
  byEmail: (email) => active.filter(({ emails }) => emails.includes(email)),
  byName: ({ last }) => active.filter((one) => one.last.toLowerCase() === last.toLowerCase()),
  alike: () => [],
};
const draft = (first: string, last: string, over: Partial<DraftRow> = {}): DraftRow => ({
  ...{
    supporterId: null,
    name: supporterParts({ first, last }),
    nickname: '',
    formerLast: '',
    members: [],
    email: null,
  },
  ...{ phone: '', street: '', city: '', region: '', postal: '', country: '', tag: '', own: [], gift: null, ...over },
});
const match = (one: DraftRow, pick: number | 'new' | null = null) => matchRow(one, 0, known, new Map(), pick);

describe('a row of whom the measure of all records finds somebody', () => {
  const [ana] = active;
  const asked = (row: DraftRow) => matchRow(row, 0, { ...known, alike: () => (ana ? [ana] : []) }, new Map());
  const found = { kind: 'undecided', candidates: [{ id: 1 }] };

  it('is asked about where they agree in more than their names, whatever the last name', () => {
    expect(asked(draft('Ana', 'Cruze', { email: 'HOME@example.org' }))).toMatchObject(found);
    const reached = { ...ana, phones: ['775-555-0142'] } as Here;
    const there = { ...known, alike: () => [reached] };
    const row = draft('Ana', 'Curz', { phone: '(775) 555-0142' });
    expect(matchRow(row, 0, there, new Map())).toMatchObject({
      ...found,
      candidates: [{ id: 1, reasons: [expect.stringContaining('telephone') as string, expect.anything()] }],
    });
    // A person who said that it is somebody new is not asked again.
    expect(matchRow(row, 0, there, new Map(), 'new')).toMatchObject({ kind: 'new' });
  });

  it('is not held up by a name alone, however rare', () =>
    expect(asked(draft('Ana', 'Cruz'))).toMatchObject({ kind: 'new' }));
});

describe('a row is matched', () => {
  it('is not decided by a number with another first name', () =>
    expect(match(draft('Zed', '', { supporterId: 1 }))).toMatchObject({ kind: 'undecided' }));

  it.each<[string, DraftRow, object]>([
    ['by number', draft('', '', { supporterId: 1 }), { kind: 'known', id: 1, by: 'number' }],
    ['by number with its name', draft('ana', 'CRUZ', { supporterId: 1 }), { kind: 'known', id: 1 }],
    ['by number with a first name alone', draft('Ana', '', { supporterId: 1 }), { kind: 'known', id: 1 }],
    ['by number with a nickname', draft('Bill', 'Okafor', { supporterId: 3 }), { kind: 'known', id: 3 }],
    ['by e-mail alone', draft('', '', { email: 'home@example.org' }), { kind: 'known', id: 1, by: 'e-mail' }],
    ['by e-mail with a slip', draft('Anna', 'Cruz', { email: 'home@example.org' }), { kind: 'known', id: 1 }],
    [
      'by name among several of an e-mail',
      draft('Di', 'Twin', { email: 'twins@example.org' }),
      { kind: 'known', id: 6 },
    ],
    [
      'by name and street, however it is written',
      draft('ANA', 'CRUZ', { street: '12 PERSEID PL', postal: '89901-1234' }),
      { kind: 'known', id: 1, by: expect.stringContaining('same address') },
    ],
    ['by name and telephone', draft('Bo', 'Cruz', { phone: '(775) 555 0142' }), { kind: 'known', id: 2 }],
    ['as new', draft('New', 'Person', { email: 'new@example.org' }), { kind: 'new', alike: null }],
    [
      'as new with a look, by a name alone',
      draft('Ana', 'Cruz', { email: 'other@example.org' }),
      { kind: 'new', alike: { id: 1, reasons: ['same name'] } },
    ],
  ])('%s', (_title, one, expected) => expect(match(one)).toMatchObject(expected));

  it.each<[string, DraftRow, object]>([
    [
      'an e-mail of another of the home',
      draft('Cosmo', 'Vale', { email: 'home@example.org' }),
      { candidates: [{ id: 1 }] },
    ],
    ['an e-mail of a spouse with the same last name', draft('Bo', 'Cruz', { email: 'home@example.org' }), {}],
    ['a number of somebody else', draft('Bo', 'Quill', { supporterId: 1 }), { candidates: [{ id: 1 }] }],
    [
      'an e-mail that several have',
      draft('', '', { email: 'twins@example.org' }),
      { candidates: [{ id: 5 }, { id: 6 }] },
    ],
    [
      'half a name and a street',
      draft('A.', 'Cruz', { street: '12 Perseid Pl', postal: '89901' }),
      { candidates: [{ id: 1 }] },
    ],
  ])('by a person, where it brings %s', (_title, one, expected) =>
    expect(match(one)).toMatchObject({ kind: 'undecided', ...expected }),
  );

  it('not at all by a number that nobody has, that was erased, or that lies in the trash', () => {
    expect(match(draft('', '', { supporterId: 99, email: 'home@example.org' }))).toEqual({ kind: 'unknown-number' });
    expect(match(draft('', '', { supporterId: 7 }))).toEqual({ kind: 'unknown-number' });
    expect(match(draft('Gone', 'Away', { supporterId: 4 }))).toEqual({ kind: 'in-trash', id: 4 });
  });

  it('as a person chose, whatever it looks like; but never to one in the trash', () => {
    const one = draft('Bo', 'Quill', { supporterId: 1 });
    expect(match(one, 2)).toEqual({ kind: 'known', id: 2, name: 'Bo Cruz', by: 'your choice' });
    expect(match(one, 'new')).toEqual({ kind: 'new', alike: null });
    expect(match(one, 4)).toMatchObject({ kind: 'undecided' });
  });
});

describe('the same new supporter of several rows', () => {
  it.each<[string, DraftRow, DraftRow, boolean]>([
    ['one e-mail and name', draft('Jo', 'Park', { email: 'j@x.org' }), draft('JO', 'park', { email: 'j@x.org' }), true],
    [
      'an e-mail that two share',
      draft('Jo', 'Park', { email: 'j@x.org' }),
      draft('Lee', 'Park', { email: 'j@x.org' }),
      false,
    ],
    [
      'streets written in three ways',
      draft('Jo', 'Park', { street: '5 Main Street', postal: '89901' }),
      draft('JO', 'PARK', { street: '5 main st', postal: '89901-2345' }),
      true,
    ],
    [
      'one name on two streets',
      draft('Jo', 'Park', { street: '5 Main St' }),
      draft('Jo', 'Park', { street: '6 Main St' }),
      false,
    ],
    ['a name and nothing else', draft('Jo', 'Park'), draft('Jo', 'Park'), true],
    [
      'one telephone',
      draft('Jo', 'Park', { phone: '775 555 0100' }),
      draft('Jo', 'Park', { phone: '(775) 555-0100', email: 'q@x.org' }),
      true,
    ],
  ])('by %s', (_title, first, second, same) => {
    const earlier = new Map<string, number>();
    expect(matchRow(first, 3, known, earlier)).toMatchObject({ kind: 'new' });
    expect(matchRow(second, 7, known, earlier)).toMatchObject(same ? { kind: 'earlier', row: 3 } : { kind: 'new' });
  });

  it('by whatever any row before said of them', () => {
    const earlier = new Map<string, number>();
    const rows = [
      draft('Jo', 'Park', { email: 'j@x.org' }),
      draft('Jo', 'Park', { email: 'j@x.org', phone: '775 555 0100' }),
      draft('Jo', 'Park', { phone: '(775) 555-0100' }),
    ];
    expect(rows.map((row, at) => matchRow(row, at, known, earlier))).toMatchObject([
      { kind: 'new' },
      { kind: 'earlier', row: 0 },
      { kind: 'earlier', row: 0 },
    ]);
  });
});

describe('two new supporters of one file', () => {
  const both = (first: DraftRow, second: DraftRow) => {
    const earlier = new Map<string, number>();
    matchRow(first, 3, known, earlier);
    return matchRow(second, 7, known, earlier);
  };
  const ada = (over: Partial<DraftRow> = {}) => draft('Ada', 'Vex', over);
  it.each<[string, DraftRow, DraftRow, 'name' | 'email' | null]>([
    ['of one name, with another e-mail', ada({ email: 'a@example.org' }), ada({ email: 'b@example.org' }), 'name'],
    ['of one name, the other with nothing else', ada({ email: 'a@example.org' }), ada(), 'name'],
    [
      'of one e-mail, with another name',
      ada({ email: 'a@example.org' }),
      draft('A.', 'Vex', { email: 'a@example.org' }),
      'email',
    ],
    ['with nothing in common', ada({ email: 'a@example.org' }), draft('Bo', 'Vex', { email: 'b@example.org' }), null],
  ])('%s', (_, first, second, same) => {
    expect(both(first, second)).toEqual({ kind: 'new', alike: null, ...(same ? { namesake: { row: 3, same } } : {}) });
    // Whichever comes first; and what one of them is judged by the other is judged with.
    expect(both(second, first)).toMatchObject(same ? { namesake: { row: 3, same } } : { kind: 'new' });
    expect(togetherBy(first).some((key) => togetherBy(second).includes(key))).toBe(same !== null);
  });
  it('are not told of where they are one, nor of somebody without a name', () => {
    expect(both(ada({ email: 'a@example.org' }), ada({ email: 'a@example.org' }))).toEqual({ kind: 'earlier', row: 3 });
    const nameless = (email: string) => draft('', '', { email });
    expect(both(nameless('a@example.org'), nameless('b@example.org'))).toEqual({ kind: 'new', alike: null });
  });
  it('names the first row of whom a later one is, however many there are', () => {
    const earlier = new Map<string, number>();
    const rows = [
      ada({ email: 'a@example.org' }),
      ada({ email: 'a@example.org', phone: '775-555-0101' }),
      ada({ email: 'c@example.org' }),
    ];
    expect(rows.map((row, at) => matchRow(row, at, known, earlier))).toMatchObject([
      { kind: 'new' },
      { kind: 'earlier', row: 0 },
      { kind: 'new', namesake: { row: 0, same: 'name' } },
    ]);
  });
});

describe('a number elsewhere', () => {
  it('tells whose a row is, with a name that is alike or none', () => {
    expect(match(draft('Ana', 'Cruz', { outside: 'P-1' }))).toMatchObject({ kind: 'known', id: 1 });
    expect(match(draft('', '', { outside: 'P-1' }))).toMatchObject({
      kind: 'known',
      id: 1,
      by: 'number elsewhere P-1',
    });
    // Of a family that shares one, whoever has the name.
    expect(match(draft('Di', 'Twin', { outside: 'FAM-9' }))).toMatchObject({ kind: 'known', id: 6 });
    expect(match(draft('', '', { outside: 'FAM-9' }))).toMatchObject({ kind: 'undecided' });
  });

  it('of somebody with quite another name is asked about, and goes before a new record', () => {
    expect(match(draft('Zoe', 'Quinn', { outside: 'P-1' }))).toMatchObject({
      ...{ kind: 'undecided', why: 'Its number elsewhere is of somebody with quite another name' },
      candidates: [{ id: 1 }],
    });
    expect(match(draft('Zoe', 'Quinn', { outside: 'P-1' }), 'new')).toEqual({ kind: 'new', alike: null });
    expect(match(draft('Zoe', 'Quinn', { outside: 'P-77' }))).toEqual({ kind: 'new', alike: null });
    expect(match(draft('', '', { outside: 'P-77' }))).toEqual({ kind: 'unknown-number' });
  });

  it('makes rows of one name one supporter, and keeps two who share it apart', () => {
    const earlier = new Map<string, number>();
    const row = (first: string, index: number) =>
      matchRow(draft(first, 'Novak', { outside: 'P-5' }), index, known, earlier).kind;
    expect([row('Ida', 0), row('Ivo', 1), row('Ida', 2)]).toEqual(['new', 'new', 'earlier']);
  });
});

describe('what a person chose for a row of a source', () => {
  it('holds for the next row that says the same', () => {
    const said = draft('Robert', 'Okafor', { email: 'bob@example.org' });
    expect(called(said)).toEqual(['= |robert|okafor@bob@example.org']);
    expect(match(said)).toMatchObject({ kind: 'known', id: 3, by: 'what was chosen before' });
    expect(match(draft('Robert', 'Okafor', { email: 'other@example.org' }))).not.toMatchObject({ kind: 'known' });
  });
});

describe('a row is matched as is chosen', () => {
  const by = (over: Partial<Matching>, one: DraftRow) =>
    matchRow(one, 0, known, new Map(), null, { ...USUAL_MATCHING, ...over });
  const home = { street: '12 Perseid Pl', postal: '89901-1234' };

  it.each<[string, Partial<Matching>, DraftRow, object]>([
    [
      'by what must agree, whatever else is unlike',
      { fields: ['last', 'postal'] },
      draft('Zed', 'CRUZ', home),
      { kind: 'known', id: 1, by: 'last name and ZIP' },
    ],
    ['not where one of them is otherwise', { fields: ['last', 'phone'] }, draft('Zed', 'Cruz', home), { kind: 'new' }],
    [
      'by a telephone however it is written',
      { fields: ['last', 'phone'] },
      draft('Zed', 'Cruz', { phone: '+1 (775) 555 0142' }),
      { kind: 'known', id: 2 },
    ],
    [
      'asked where several agree',
      { fields: ['last'] },
      draft('Zed', 'Cruz'),
      { kind: 'undecided', why: 'Several agree in last name' },
    ],
    [
      'asked where an e-mail alone says so, since something else must agree',
      { fields: ['last', 'street'] },
      draft('Ana', 'Cruz', { email: 'home@example.org' }),
      { kind: 'undecided', why: 'Somebody has its e-mail' },
    ],
    [
      'asked where all else is alike',
      { fields: ['last', 'phone'] },
      draft('Ana', 'Cruz', home),
      { kind: 'undecided', why: 'It looks like somebody who is here' },
    ],
    ['by likeness, more of it', { sure: 90 }, draft('Ana', 'Cruz', home), { kind: 'undecided' }],
    ['by likeness, less of it', { sure: 50, perhaps: 50 }, draft('Bill', 'Okafor'), { kind: 'new' }],
    ['by likeness, hardly any', { sure: 40, perhaps: 40 }, draft('William', 'Okafor'), { kind: 'known', id: 3 }],
    ['asked about a name alone', { perhaps: 50 }, draft('William', 'Okafor'), { kind: 'undecided' }],
    ['by number before all', { fields: ['last'] }, draft('', '', { supporterId: 1 }), { kind: 'known', by: 'number' }],
  ])('%s', (_, over, one, found) => expect(by(over, one)).toMatchObject(found));
});
