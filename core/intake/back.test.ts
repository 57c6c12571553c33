import { describe, expect, it } from 'vitest';
import { kept } from '../fields/index.ts';
import { changesOf, readDetails, readRow } from './index.ts';
import type { IntakeColumn, KeptRecord, Policies } from './index.ts';
import { PLAIN_SETTING } from './setting.test-support.ts';

/* A list that was made here, changed in a spreadsheet, and comes back. */

const HOBBY = { id: 7, name: 'Hobby', kind: 'text', choices: [] } as const;
const SETTING = { ...PLAIN_SETTING, own: [HOBBY] };
const RECORD = (): KeptRecord => ({
  names: { prefix: '', first: 'Ana', middle: 'Q.', last: 'Cruz', suffix: '', nickname: '', formerLast: '' },
  ...{ person: true, birthday: '1961-03-14' },
  emails: [{ id: 1, label: 'home', usable: true, address: 'ana@example.org' }],
  phones: [{ id: 2, label: 'home', usable: true, number: '775-555-0142' }],
  addresses: [
    {
      ...{ id: 5, label: 'home', usable: true, street: '12 Lyra St\nApt 4', city: 'Elko' },
      ...{ region: 'NV', postal: '89801', country: 'CA' },
    },
  ],
  ...{ wishes: new Map(), own: new Map([[7, kept('Meteors')]]) },
  tags: ['Docent', 'Board', 'Lapsed'].map((name) => ({ name, standing: name === 'Lapsed' })),
  ...{
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
/** The row as the list was made. */
const LISTED: Partial<Record<IntakeColumn, string>> = {
  ...{ number: 'S-1', asOf: '100', first: 'Ana', middle: 'Q.', last: 'Cruz', birthday: '1961-03-14' },
  ...{ email: 'ana@example.org', phone: '775-555-0142', street: '12 Lyra St Apt 4', city: 'Elko', region: 'NV' },
  ...{ postal: '89801', 'field:7': 'Meteors', tag: 'Docent; Board; Lapsed' },
};
const changes = (
  edited: Partial<Record<IntakeColumn, string>>,
  now: (record: KeptRecord) => void = () => undefined,
  policies: Policies = { all: 'fill' },
  listed = LISTED,
) => {
  const cells = { ...listed, ...edited };
  const columns = Object.keys(cells) as IntakeColumn[];
  const texts = Object.values(cells) as string[];
  const { draft } = readRow(columns, texts, SETTING);
  const { details, problems } = readDetails(draft, columns, texts, SETTING);
  expect(problems).toEqual([]);
  const record = RECORD();
  now(record);
  return changesOf(details, draft.own, record, policies, undefined, RECORD());
};
const told = (all: ReturnType<typeof changes>) =>
  all.map(({ field, before, after, act, conflict = false }) => [field, before, after, act?.do ?? null, conflict]);

describe('a list that comes back', () => {
  it('says nothing where no cell was changed, whatever was changed here since', () => {
    expect(changes({})).toEqual([]);
    const later = (record: KeptRecord): void => {
      Object.assign(record.names, { first: 'Anna', last: 'Moor', middle: '' });
      record.birthday = '--03-15';
      record.emails.unshift({ id: 8, label: 'work', usable: true, address: 'new@example.org' });
      record.own.clear();
      record.addresses = [];
    };
    expect(changes({}, later)).toEqual([]);
  });

  it.each<[string, Partial<Record<IntakeColumn, string>>, unknown[]]>([
    ['a name', { last: 'Moor' }, ['last', 'Cruz', 'Moor', 'name', false]],
    ['the capitals of one', { last: 'CRUZ' }, ['last', 'Cruz', 'CRUZ', 'name', false]],
    ['a name that was taken out', { middle: '' }, ['middle', 'Q.', '', 'name', false]],
    ['but not the one that they are found by', { last: '' }, ['last', 'Cruz', '', null, false]],
    ['a birthday', { birthday: '3/15/1961' }, ['birthday', '1961-03-14', '1961-03-15', 'birthday', false]],
    ['a birthday that was taken out', { birthday: '' }, ['birthday', '1961-03-14', '', 'birthday', false]],
    ['an e-mail', { email: 'a@example.org' }, ['email', 'ana@example.org', 'a@example.org', 'email', false]],
    ['a telephone', { phone: '775-555-0199' }, ['phone', '775-555-0142', '775-555-0199', 'phone', false]],
    ['a value of an own field', { 'field:7': 'Comets' }, ['field:7', 'Meteors', 'Comets', 'own', false]],
    ['a value that was taken out', { 'field:7': '' }, ['field:7', 'Meteors', '', 'own', false]],
  ])('%s', (_, edited, change) => expect(told(changes(edited))).toEqual([change]));

  it('mends an address that is the same one, its lines and its country kept, and moves to another', () => {
    const [mended] = changes({ city: 'Elko Junction' });
    expect(mended?.act).toEqual({
      ...{ do: 'mend', address: 5 },
      parts: { street: '12 Lyra St\nApt 4', city: 'Elko Junction', region: 'NV', postal: '89801', country: 'CA' },
    });
    const [moved] = changes({ street: '9 Mill Rd' });
    expect(moved?.act).toMatchObject({ do: 'address', preferred: true, ends: 5, address: { city: 'Elko' } });
  });

  it('reads an address of which the list has a part alone together with what it has not', () => {
    const { number, asOf, city } = LISTED;
    const listed = { number, asOf, city } as typeof LISTED;
    expect(changes({}, undefined, undefined, listed)).toEqual([]);
    expect(changes({ city: 'Carlin' }, undefined, undefined, listed)[0]?.act).toMatchObject({
      ...{ do: 'mend', parts: { city: 'Carlin', street: '12 Lyra St\nApt 4', postal: '89801' } },
    });
  });

  it('shows what was changed here too, and keeps ours unless the file goes before', () => {
    const both = (record: KeptRecord): void => {
      record.names.last = 'Orr';
      record.birthday = '1961-04-01';
      record.phones = [{ id: 9, label: 'home', usable: true, number: '775-555-0777' }];
      record.own.set(7, kept('Eclipses'));
      Object.assign(record.addresses[0] ?? {}, { postal: '89801-0002' });
    };
    const edited = {
      ...{ last: 'Moor', birthday: '3/15/1961', phone: '775-555-0199', 'field:7': 'Comets', city: 'Carlin' },
    };
    expect(told(changes(edited, both))).toEqual([
      ['last', 'Orr', 'Moor', null, true],
      ['birthday', '1961-04-01', '1961-03-15', null, true],
      // Both telephones are kept, ours the one to use.
      ['phone', '775-555-0777', '775-555-0199', 'phone', true],
      ['street', '12 Lyra St\nApt 4, Elko, NV 89801-0002'.replace('\n', ', '), expect.any(String), null, true],
      ['field:7', 'Eclipses', 'Comets', null, true],
    ]);
    expect(changes(edited, both, { all: 'file' }).every(({ act }) => act !== null)).toBe(true);
    expect(changes(edited, both, { all: 'ours' }).every(({ act }) => act === null)).toBe(true);
  });

  describe('tags', () => {
    const without =
      (...gone: string[]) =>
      (record: KeptRecord): void => {
        record.tags = record.tags.filter(({ name }) => !gone.includes(name));
      };
    const acts = (tag: string, now?: (record: KeptRecord) => void, policies?: Policies) =>
      changes({ tag }, now, policies).map(({ before, after, act }) => [before, after, act]);
    it('that were put on and taken off in it are, and no others', () => {
      expect(acts('docent; Lapsed; Usher')).toEqual([
        ['Board; Docent; Lapsed', 'Docent; Lapsed; Usher', { do: 'tags', on: ['Usher'], off: ['Board'] }],
      ]);
      expect(acts('')).toMatchObject([[expect.any(String), 'Lapsed', { on: [], off: ['Docent', 'Board'] }]]);
    });
    it('that were taken off here since are not put on again', () => {
      expect(acts('Docent; Board; Lapsed', without('Board'))).toEqual([]);
      expect(acts('Docent; Lapsed', without('Board'))).toEqual([]);
    });
    it('that a segment keeps stay, and all of ours where ours goes before', () => {
      expect(acts('Docent; Board')).toEqual([['Board; Docent; Lapsed', 'Docent; Board', null]]);
      expect(acts('Docent; Usher; Lapsed', undefined, { all: 'ours' })).toMatchObject([
        [expect.any(String), 'Board; Docent; Lapsed; Usher', { on: ['Usher'], off: [] }],
      ]);
    });
    it('are left alone by a list that does not have them', () => {
      const { tag: _tag, ...listed } = LISTED;
      expect(changes({}, undefined, undefined, listed)).toEqual([]);
    });
  });

  it('says nothing where both were changed into the same', () =>
    expect(changes({ last: 'Orr' }, (record) => void (record.names.last = 'Orr'))).toEqual([]));

  it('needs the number of the row, and a change that is one', () => {
    const faults = (cells: Partial<Record<IntakeColumn, string>>) => {
      const columns = Object.keys(cells) as IntakeColumn[];
      const texts = Object.values(cells) as string[];
      return readDetails(readRow(columns, texts, SETTING).draft, columns, texts, SETTING).problems.map(
        ({ field }) => field,
      );
    };
    expect(faults({ number: '', asOf: '100', last: 'Cruz' })).toEqual(['number']);
    expect(faults({ number: 'S-1', asOf: 'May', last: 'Cruz' })).toEqual(['asOf']);
  });
});
