import { describe, expect, it } from 'vitest';
import { readDetails, readRow } from './index.ts';
import type { IntakeColumn } from './index.ts';
import { PLAIN_SETTING } from './setting.test-support.ts';

/* Parts of a name that hold more than their columns are for are read as the whole name that they are. */

function read(cells: Partial<Record<IntakeColumn, string>>) {
  const [columns, row] = [Object.keys(cells) as IntakeColumn[], Object.values(cells) as string[]];
  const { draft, warnings } = readRow(columns, row, PLAIN_SETTING);
  const { details } = readDetails(draft, columns, row, PLAIN_SETTING);
  const parts = Object.entries({ ...draft.name, nickname: draft.nickname, formerLast: draft.formerLast });
  return {
    name: Object.fromEntries(parts.filter(([part, text]) => text !== '' && (part !== 'kind' || text !== 'person'))),
    members: draft.members.map(({ name }) => `${name.first} ${name.last}`.trim()),
    names: details.names,
    asks: warnings.map(({ field, reason }) => `${field ?? ''}: ${reason}`),
  };
}
const inParts = (first: string, last: string) => read({ first, last });

describe('a name in parts', () => {
  it.each([
    ['Ada', 'Finch'],
    ['Mary Ann', 'Finch'],
    ['Ada M.', 'Finch'],
    ['Ana', 'Cruz Vega'],
    ['Ada', 'von Finch'],
    ['Ada', 'Finch-Lark'],
    ["D'Arcy", "O'Finch"],
    ['J.R.', 'Finch'],
    ['Dean', 'Finch'],
    ['Ada', 'Do'],
    ['ADA', 'FINCH'],
  ])('%s %s stays as it is', (first, last) => {
    expect(inParts(first, last)).toEqual({ name: { first, last }, members: [], names: { first, last }, asks: [] });
  });
  it.each(["'t Hooft", 'de la Cruz', 'van der Berg', 'Finch'])('%s may be a last name alone', (last) =>
    expect(inParts('', last)).toMatchObject({ name: { last }, asks: [] }),
  );

  it.each<[string, string, Record<string, string>]>([
    ['Mr. Bo', 'Finch', { prefix: 'Mr.', first: 'Bo', last: 'Finch' }],
    ['Dr. Ada', 'Finch', { prefix: 'Dr.', first: 'Ada', last: 'Finch' }],
    ['Bo', 'Finch Jr.', { first: 'Bo', last: 'Finch', suffix: 'Jr.' }],
    ['Bo', 'Finch II', { first: 'Bo', last: 'Finch', suffix: 'II' }],
    ['Di', 'Finch, MD', { first: 'Di', last: 'Finch', suffix: 'M.D.' }],
    ['Ada', 'Finch, MD', { first: 'Ada', last: 'Finch', suffix: 'M.D.' }],
    ['Ada (Addie)', 'Finch', { first: 'Ada', last: 'Finch', nickname: 'Addie' }],
    ['Ada "Addie"', 'Finch', { first: 'Ada', last: 'Finch', nickname: 'Addie' }],
    ['Ada', 'Finch née Lark', { first: 'Ada', last: 'Finch', formerLast: 'Lark' }],
    ['Ada Finch', 'Finch', { first: 'Ada', last: 'Finch' }],
    ['Ada', 'Ada Finch', { first: 'Ada', last: 'Finch' }],
    ['', 'Finch, Ada', { first: 'Ada', last: 'Finch' }],
  ])('“%s”, “%s” is one person’s, in the parts that it has', (first, last, name) =>
    expect(inParts(first, last)).toEqual({ name, members: [], names: name, asks: [] }),
  );
  it('goes together with what stands in columns of its own', () => {
    const cells = { prefix: 'Ms.', first: 'Ada', middle: 'M', last: 'Finch, MD', nickname: 'Addie' } as const;
    const name = { prefix: 'Ms.', first: 'Ada', middle: 'M', last: 'Finch', suffix: 'M.D.', nickname: 'Addie' };
    expect(read(cells)).toEqual({ name, members: [], names: name, asks: [] });
  });

  it.each<[string, string, string, string[]]>([
    ['Ada & Bo', 'Finch', 'Ada & Bo Finch', ['Ada Finch', 'Bo Finch']],
    ['Ada and', 'Bo Finch', 'Ada and Bo Finch', ['Ada Finch', 'Bo Finch']],
    ['Ada', 'Finch and Bo Lark', 'Ada Finch and Bo Lark', ['Ada Finch', 'Bo Lark']],
    ['Ada/Bo', 'Finch', 'Ada/Bo Finch', ['Ada Finch', 'Bo Finch']],
    ['Mr. & Mrs.', 'Finch', 'Mr. & Mrs. Finch', ['Finch', 'Finch']],
  ])('“%s”, “%s” is that of a household', (first, last, organization, members) =>
    expect(inParts(first, last)).toEqual({ name: { kind: 'household', organization }, members, names: {}, asks: [] }),
  );
  it.each([
    ['Elko', 'Works LLC'],
    ['Estate of Ada', 'Finch'],
  ])('“%s”, “%s” is that of an organization', (first, last) =>
    expect(inParts(first, last)).toMatchObject({
      name: { kind: 'organization', organization: `${first} ${last}` },
      ...{ names: {}, asks: [] },
    }),
  );

  it.each<[string, string, string]>([
    ['Ada Finch', '', 'first: “Ada Finch” is read as the whole name of Ada Finch.'],
    ['', 'Ada Finch', 'last: “Ada Finch” is read as the whole name of Ada Finch.'],
    ['Ada', 'Finch & Lark', 'first: “Ada Finch & Lark” is taken for a household.'],
    ['Ada', 'Finch/Lark', 'first: “Ada Finch/Lark” is taken for a household.'],
    ['Ada, Bo', 'Finch', 'first: “Ada, Bo Finch” is read as the whole name of Bo Finch Ada.'],
    ['Ada', 'Lark, Finch', 'first: “Ada Lark, Finch” is read as the whole name of Finch Ada Lark.'],
    ['Ada', 'Finch (Lark)', 'first: “Lark” is taken for what they are called.'],
    ['Ada', '(deceased)', 'first: “deceased” is left out of the name.'],
    ['Finch Family', 'Trust', 'first: “Finch Family Trust” is taken for an organization.'],
    ['The', 'Finches', 'first: “The Finches” is taken for a household.'],
  ])('“%s”, “%s” is asked about', (first, last, asked) => expect(inParts(first, last).asks).toEqual([asked]));

  it('is left as it is in a list of ours that comes back', () =>
    expect(read({ number: 'S-10001', first: 'Ada & Bo', last: 'Finch', asOf: '12' })).toMatchObject({
      name: { first: 'Ada & Bo', last: 'Finch' },
      asks: [],
    }));
});

describe('a whole name', () => {
  it.each([
    ['Ada Finch in honor of Bo', 'says for whom, too'],
    ['Ada Finch x2', 'says how many, too'],
    ['Ada Finch;', 'holds “;”, which names do not'],
    ['Ada Finch 🐦', 'holds “🐦”, which names do not'],
    ['Ada Finch, Bo Finch, Cy Finch', 'reads as the names of several'],
  ])('%s is asked about', (wholeName, asked) =>
    expect(read({ wholeName }).asks).toEqual([expect.stringContaining(asked)]),
  );
  it.each(['Finch, Ada, MD', 'Ada (Addie) Finch', 'Finch, Ada & Bo'])('%s leaves no doubt', (wholeName) =>
    expect(read({ wholeName }).asks).toEqual([]),
  );
});

describe('what is of a person', () => {
  const asks = (cells: Partial<Record<IntakeColumn, string>>): string[] => {
    const [columns, row] = [Object.keys(cells) as IntakeColumn[], Object.values(cells) as string[]];
    const { draft } = readRow(columns, row, PLAIN_SETTING);
    return readDetails(draft, columns, row, PLAIN_SETTING).warnings.map(({ reason }) => reason);
  };
  const couple = { first: 'Ada & Bo', last: 'Finch' };
  it.each<[Partial<Record<IntakeColumn, string>>, string]>([
    [
      { ...couple, household: 'The Finch Home' },
      '“The Finch Home” is of a person, and the row is recorded for a household',
    ],
    [{ ...couple, spouse: 'Cy Lark' }, '“Cy Lark” is of a person'],
    [{ ...couple, birthday: '1961-03-04' }, '“1961-03-04” is of a person'],
    [{ ...couple, employer: 'Elko Works' }, '“Elko Works” is of a person'],
    [{ ...couple, organization: 'Elko Works' }, '“Elko Works” stands beside another name'],
    [
      { organization: 'Elko Works', spouse: 'Cy Lark' },
      '“Cy Lark” is of a person, and the row is recorded for an organization',
    ],
  ])('is told to be left out beside others: %j', (cells, told) =>
    expect(asks(cells)).toEqual([expect.stringContaining(told)]),
  );
  it('is known already of a spouse who is named with them', () =>
    expect(asks({ ...couple, spouse: 'Bo Finch' })).toEqual([]));
});
