import { describe, expect, it } from 'vitest';
import { kept } from '../fields/index.ts';
import { supporterParts } from '../names/index.ts';
import { changesOf, NOBODY_BESIDES, readDetails as detailsOf, readRow } from './index.ts';
import type { IntakeColumn, KeptRecord, Policies, RowSetting } from './index.ts';
import { PLAIN_SETTING } from './setting.test-support.ts';

const readDetails = (columns: IntakeColumn[], cells: string[], own: RowSetting, labels = {}) =>
  detailsOf(readRow(columns, cells, own).draft, columns, cells, own, labels);
const ANA = (): KeptRecord => ({
  names: { prefix: '', first: 'Ana', middle: '', last: 'Cruz', suffix: '', nickname: '', formerLast: '' },
  person: true,
  birthday: '--03-14',
  emails: [{ id: 1, label: 'home', usable: true, address: 'ana@example.org' }],
  phones: [],
  addresses: [
    {
      ...{ id: 5, label: 'home', usable: true, street: '12 Perseid Place', city: 'Elko' },
      ...{ region: 'NV', postal: '89801', country: '' },
    },
  ],
  wishes: new Map([['no_calls', null]]),
  own: new Map([[7, 'Refractor']]),
  ...{
    tags: [],
    spouses: [],
    employers: [],
    tied: [],
    household: '',
    sharers: [],
    pledges: [],
    recurring: [],
    ties: new Set(),
    outside: new Set(),
  },
});
const changes = (
  cells: Partial<Record<IntakeColumn, string>>,
  policies: Policies = { all: 'fill' },
  record = ANA(),
  own: [number, string][] = [],
) => {
  const { details } = readDetails(
    Object.keys(cells) as IntakeColumn[],
    Object.values(cells) as string[],
    PLAIN_SETTING,
  );
  return changesOf(
    details,
    own.map(([field, value]) => [field, kept(value)] as const),
    record,
    policies,
  ).map(({ field, before, after, act }) => [field, before, after, act?.do ?? null]);
};

describe('what a row changes of a record', () => {
  it('nothing, where it says the same however it is written', () =>
    expect(
      changes({
        ...{ first: 'ANA', last: 'cruz', email: 'Ana@Example.org', birthday: '3/14', noCalls: 'yes' },
        ...{ street: '12 PERSEID PL', city: 'Elko', postal: '89801-1234' },
      }),
    ).toEqual([]));

  it('fills what is empty and keeps the rest, which is told', () =>
    expect(
      changes(
        { first: 'Anna', middle: 'Q', phone: '775-555-0111', birthday: '3/14/1961', noMail: 'x' },
        undefined,
        ANA(),
        [[7, 'Reflector']],
      ),
    ).toEqual([
      ['first', 'Ana', 'Anna', null],
      ['middle', '', 'Q', 'name'],
      ['birthday', '--03-14', '1961-03-14', 'birthday'],
      ['phone', '', '775-555-0111', 'phone'],
      ['noMail', '', 'yes', 'wish'],
      ['field:7', 'Refractor', 'Reflector', null],
    ]));

  it('adds a further way without going before ours', () => {
    const record = ANA();
    const { details } = readDetails(['email'], ['ana@work.example'], PLAIN_SETTING);
    expect(changesOf(details, [], record, { all: 'fill' })[0]?.act).toMatchObject({ do: 'email', preferred: false });
    expect(record.emails.map(({ address }) => address)).toEqual(['ana@example.org', 'ana@work.example']);
  });

  it('goes before where the file does, and ends the address that was used', () => {
    const record = ANA();
    const { details } = readDetails(['street', 'city', 'first'], ['7 Lyra St', 'Reno', 'Anna'], PLAIN_SETTING);
    expect(changesOf(details, [], record, { all: 'file' }).map(({ act }) => act)).toMatchObject([
      { do: 'name', column: 'first', value: 'Anna' },
      { do: 'address', preferred: true, ends: 5 },
    ]);
    // The next row of the same supporter is held against what the record will be.
    expect(changesOf(details, [], record, { all: 'file' })).toEqual([]);
  });

  it('a new address ends where somebody lives, and leaves the one of a season', () => {
    const record = ANA();
    for (const home of [...record.addresses])
      record.addresses.unshift({ ...home, id: 6, label: 'seasonal', street: '3 Saguaro Loop', seasonal: true });
    const cells = { street: '7 Comet Way', city: 'Ely', region: 'NV', postal: '89301' };
    const own = ['street', '12 Perseid Place, Elko, NV 89801', '7 Comet Way, Ely, NV 89301', 'address'];
    expect(changes({ ...cells, movedOn: '6/15/2026' }, { all: 'fill' }, structuredClone(record))).toEqual([own]);
    expect(changes(cells, { all: 'file' }, structuredClone(record))).toEqual([own]);
  });

  it('a move of all who share the home, of those who have the very address that ends', () => {
    const cells = { street: '7 Comet Way', city: 'Ely', region: 'NV', postal: '89301', movedOn: '6/15/2026' };
    const here = { id: 0, street: '12 PERSEID PL', city: 'Elko', region: 'NV', postal: '89801-1234', country: '' };
    const sharers = [
      { id: 8, called: 'Bo Cruz S-8', at: { ...here, id: 81 } },
      { id: 9, called: 'Eve Cruz S-9', at: { ...here, id: 91, street: '9 Mill Rd' } },
    ];
    const moves = (moveKind: string) => changes({ ...cells, moveKind }, { all: 'ours' }, { ...ANA(), sharers });
    const own = ['street', '12 Perseid Place, Elko, NV 89801', '7 Comet Way, Ely, NV 89301', 'address'];
    for (const kind of ['Family', 'f', 'HOUSEHOLD'])
      expect(moves(kind)).toEqual([own, ['moveKind', '', 'Bo Cruz S-8 moves, too', 'address']]);
    for (const kind of ['Individual', 'business', '']) expect(moves(kind)).toEqual([own]);
  });

  it('tells of a way that is here as a former or undeliverable one, and does not take it up by itself', () => {
    const record = ANA();
    for (const way of [...record.emails, ...record.addresses]) way.usable = false;
    const cells = { email: 'ana@example.org', street: '12 Perseid Pl', city: 'Elko', postal: '89801' };
    expect(changes(cells, { all: 'file' }, record).map(([field, , , act]) => [field, act])).toEqual([
      ['email', null],
      ['street', null],
    ]);
    // Of the address that mail came back from just that is told.
    expect(changes({ ...cells, email: '', returned: 'moved' }, { all: 'file' })).toMatchObject([
      ['returned', expect.any(String), 'moved', 'returned'],
    ]);
  });

  it('goes by the policy of a part before that of all', () =>
    expect(changes({ first: 'Anna', email: 'ana@work.example' }, { all: 'ours', email: 'fill' })).toEqual([
      ['first', 'Ana', 'Anna', null],
      ['email', '', 'ana@work.example', 'email'],
    ]));

  it('lifts a wish only where the file goes before', () => {
    expect(changes({ noCalls: 'no' })).toEqual([['noCalls', 'yes', 'no', null]]);
    expect(changes({ noCalls: 'no' }, { all: 'ours', wishes: 'file' })).toEqual([['noCalls', 'yes', 'no', 'no-wish']]);
    // What somebody does not want holds whatever the policy is.
    expect(changes({ noMail: 'yes' }, { all: 'ours' })).toEqual([['noMail', '', 'yes', 'wish']]);
  });

  it('adds the day of a death to what is known without it', () => {
    const dead = { ...ANA(), wishes: new Map([['deceased' as const, null]]) };
    expect(changes({ deceased: 'yes' }, undefined, dead)).toEqual([]);
    expect(changes({ deceasedOn: '2/3/2026' }, undefined, dead)).toEqual([['deceasedOn', 'yes', '2026-02-03', 'wish']]);
  });

  it('ties a spouse where there is none, and an employer once', () => {
    expect(changes({ spouse: 'Bo Cruz' })).toEqual([['spouse', '', 'Bo Cruz', 'spouse']]);
    expect(changes({ spouse: 'Bo Cruz' }, undefined, { ...ANA(), spouses: ['Di Vale'] })).toEqual([
      ['spouse', 'Di Vale', 'Bo Cruz', null],
    ]);
    expect(changes({ employer: 'COBALT bakery' }, undefined, { ...ANA(), employers: ['Cobalt Bakery'] })).toEqual([]);
  });

  it('ties a second person once, by name and by what they are', () => {
    const member = {
      name: supporterParts({ kind: 'person', first: 'Bo', last: 'Cruz' }),
      nickname: '',
      formerLast: '',
    };
    const second = { member, kind: 4, first: true, role: 'child' };
    const { details } = readDetails(['first'], ['Ana'], PLAIN_SETTING);
    const of = (tied: KeptRecord['tied']) =>
      changesOf({ ...details, second }, [], { ...ANA(), tied }, { all: 'fill' }, { ...NOBODY_BESIDES, second: 9 });
    expect(of([])).toMatchObject([{ field: 'second', after: 'Bo Cruz, their child', act: { do: 'second', to: 9 } }]);
    expect(of([{ kind: 4, first: true, name: 'BO CRUZ' }])).toEqual([]);
    // Who is their parent, or another of the name in another tie, is somebody else.
    expect(of([{ kind: 4, first: false, name: 'Bo Cruz' }])).toHaveLength(1);
    expect(of([{ kind: 6, first: true, name: 'Bo Cruz' }])).toHaveLength(1);
  });

  it('of what is no person takes no names', () => {
    const name = supporterParts({ kind: 'organization', organization: 'Bakery' });
    const firm = { ...ANA(), person: false, names: { ...ANA().names, first: name.first, last: name.last } };
    expect(changes({ first: 'Anna', birthday: '1/2/1961', spouse: 'Bo Cruz' }, { all: 'file' }, firm)).toEqual([]);
  });
});

describe('what belongs to a gift', () => {
  const said = (columns: IntakeColumn[], cells: string[]) =>
    readDetails(columns, cells, PLAIN_SETTING).warnings.map(({ field }) => field);
  it('is said to be left out where the row has none', () => {
    expect(said(['last', 'note'], ['Cruz', 'For the dome'])).toEqual(['note']);
    expect(said(['last', 'amount', 'reference'], ['Cruz', '', 'GP-1'])).toEqual(['reference']);
    expect(said(['last', 'amount', 'reference'], ['Cruz', '5', 'GP-1'])).toEqual([]);
    expect(said(['last', 'amount', 'amount:2', 'note'], ['Cruz', '', '5', 'For the dome'])).toEqual([]);
  });
});

describe('a household that a row names', () => {
  const home = (household: string, record = ANA(), here: number | 'several' | null = null) => {
    const columns: IntakeColumn[] = ['number', 'household', 'street', 'postal'];
    const { details } = readDetails(columns, ['S-1', household, '12 Perseid Place', '89801'], PLAIN_SETTING);
    return changesOf(details, [], record, { all: 'fill' }, { ...NOBODY_BESIDES, household: here });
  };
  it('is theirs where they share no home: the one that is here, or a new one where the row says', () => {
    expect(home('The Cruz Household', ANA(), 9)).toMatchObject([
      { field: 'household', before: '', act: { do: 'household', to: 9 } },
    ]);
    expect(home('The Cruz Household')).toMatchObject([
      { act: { do: 'household', to: null, name: 'The Cruz Household', address: { street: '12 Perseid Place' } } },
    ]);
  });
  it('is nothing new where it is their home, and kept where they share another', () => {
    expect(home('the cruz household', { ...ANA(), household: 'The Cruz Household' })).toEqual([]);
    expect(home('The Moor Household', { ...ANA(), household: 'The Cruz Household' })).toMatchObject([
      { before: 'The Cruz Household', after: 'The Moor Household', act: null },
    ]);
  });
  it('is said to be left out beside an organization', () => {
    const { warnings } = readDetails(
      ['organization', 'household'],
      ['Lamp Works', 'The Cruz Household'],
      PLAIN_SETTING,
    );
    expect(warnings).toMatchObject([{ field: 'household', reason: expect.stringContaining('shares no home') }]);
  });
  it('is left to a person where several homes have its name', () =>
    expect(home('The Cruz Household', ANA(), 'several')).toMatchObject([
      { before: 'several homes here have that name', act: null },
    ]));
});
