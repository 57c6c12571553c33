import { describe, expect, it } from 'vitest';
import { believed, matchHeadings, readDetails, readRow } from './index.ts';
import type { IntakeColumn } from './index.ts';
import { PLAIN_SETTING, readOfAda as read } from './setting.test-support.ts';

/* What stands in a column and is not what the column holds is asked about, or taken for nothing and told. */

const GIFT: IntakeColumn[] = ['amount', 'date'];
const aGift = (column: IntakeColumn, text: string) => read([...GIFT, column], '25.00', '2026-11-02', text);

describe('what says that there is nothing', () => {
  it.each<[IntakeColumn, string[]]>([
    ['spouse', ['Yes', 'no', 'Married', 'widowed', 'deceased', 'N/A', 'none', '-']],
    [
      'employer',
      ['Retired', 'retired', 'Self', 'Self-employed', 'self employed', 'N/A', 'None', 'Unemployed', 'Student'],
    ],
    ['household', ['Yes', '3', '12', 'n/a']],
    ['tag', ['Yes', '0', 'none', 'x']],
    ['group', ['No', 'none', '1']],
    ['nickname', ['none', 'N/A', 'unknown']],
    ['jobTitle', ['none', 'n/a']],
  ])('in a column %s makes nothing of it, and is told: %j', (column, texts) => {
    for (const text of texts) {
      const { details, draft, stops, asks } = read([column], text);
      expect([details.spouse, details.employer, details.household, details.tags, details.groups]).toEqual([
        ...[null, null, '', [], []],
      ]);
      expect([draft.nickname, stops, asks]).toEqual(['', [], [`${column}: “${text}” is taken for nothing.`]]);
    }
  });
  it.each<[IntakeColumn, string]>([
    ['spouse', 'Bo Retired'],
    ['employer', 'Retired Teachers of Elko'],
    ['employer', 'Self Storage Elko'],
    ['household', 'The Finches'],
    ['tag', 'yes please'],
    ['group', '2024'],
    ['nickname', 'Nan'],
  ])('%s: “%s” says something', (column, text) => expect(read([column], text).asks).toEqual([]));
  it('is no firm beside a person, and one where it stands alone', () => {
    for (const text of ['Retired', 'N/A', 'Self-employed']) {
      const { details, stops, asks } = read(['organization'], text);
      expect([details.employer, stops, asks]).toEqual([null, [], [`organization: “${text}” is taken for nothing.`]]);
    }
    expect(readRow(['organization'], ['Retired'], PLAIN_SETTING).draft.name.organization).toBe('Retired');
    expect(readRow(['organization', 'first'], ['Retired', ' '], PLAIN_SETTING).draft.name.organization).toBe('Retired');
    expect(readRow(['organization'], ['N/A'], PLAIN_SETTING).problems.map(({ reason }) => reason)).toEqual([
      expect.stringContaining('reads as no name'),
    ]);
  });
  it('says it in each column of a kind', () =>
    expect(read(['tag', 'tag:2'], 'gala', 'none').asks).toEqual(['tag:2: “none” is taken for nothing.']));
  it('is kept of a list that was made here, whatever it says', () => {
    const back = read(['number', 'asOf', 'nickname', 'prefix'], 'S-10482', '12', 'None', 'Chief Stargazer');
    expect([back.details.names.nickname, back.asks]).toEqual(['None', []]);
  });
});

describe('what stands before and after a name', () => {
  it.each([
    'Mr.',
    'Mr. & Mrs.',
    'Mr and Mrs',
    'Dr.',
    'Rev. Dr.',
    'The Honorable',
    'Lt. Col.',
    'Prof. Dr. med.',
    'Mx',
    'CWO3',
  ])('%s is a title', (text) => expect(read(['prefix'], text).asks).toEqual([]));
  it.each(['Director of Sales', 'CEO', '775', 'Treasurer', 'Chief Executive Officer'])('%s is none', (text) =>
    expect(read(['prefix'], text).asks).toEqual([expect.stringMatching(/^prefix: .* is no title before a name/)]),
  );
  it.each(['Jr.', 'III', 'PhD', 'M.D., Ph.D.', 'Esq.', 'of Elko'])('%s stands after one', (text) =>
    expect(read(['suffix'], text).asks).toEqual([]),
  );
  it.each(['12', 'CFO of the Year'])('%s does not', (text) =>
    expect(read(['suffix'], text).asks).toEqual([expect.stringContaining('reads as nothing that stands after a name')]),
  );
  it.each<IntakeColumn>(['middle', 'nickname', 'formerLast'])('digits are asked about in a column %s', (column) =>
    expect(read([column], '1961').asks).toEqual([`${column}: “1961” holds digits, which names do not.`]),
  );
});

describe('what a gift says', () => {
  it.each(['1849', 'No. 1849', '1849-A'])('%s is the number of a check', (text) =>
    expect(aGift('cheque', text).asks).toEqual([]),
  );
  it.each(['1849A', '#1849', 'Check 1849', 'cheque no 1849', 'Chk 1849'])('%s is the number of a check, too', (text) =>
    expect(aGift('cheque', text).asks).toEqual([]),
  );
  it.each(['x', 'Yes', '50.00', '$50', '1849.0', 'Visa 4242', 'cash 12'])('%s is no number of a check', (text) =>
    expect(aGift('cheque', text).asks).toEqual([`cheque: “${text}” reads as no check number.`]),
  );
  it.each(['1849, 1850', '1849 and 1850', '3/4/2026'])('%s is more than the number of a check', (text) =>
    expect(aGift('cheque', text).asks).toEqual([`cheque: “${text}” reads as several numbers, or as a day.`]),
  );
  it.each<IntakeColumn>(['cheque', 'reference'])('a %s that a spreadsheet shortened is asked about', (column) => {
    const { asks, draft } = aGift(column, '1.23457E+15');
    expect(asks).toEqual([expect.stringContaining('A spreadsheet shortened “1.23457E+15”')]);
    expect(draft.gift?.[column === 'cheque' ? 'cheque' : 'reference']).toBe('1.23457E+15');
  });
  it.each(['N/A', 'none', '-', '0', '000', 'pending', 'unknown'])('%s is no number of two gifts', (text) => {
    const { asks, draft } = aGift('reference', text);
    expect(asks).toEqual([`reference: “${text}” is taken for nothing.`]);
    expect(draft.gift?.reference).toBe('');
  });
  it.each(['pi_3Nx', '123456789012345678', '10', 'N/A-12'])('%s is the number of a gift', (text) => {
    const { asks, draft } = aGift('reference', text);
    expect([asks, draft.gift?.reference]).toEqual([[], text]);
  });
  it.each<[IntakeColumn, string]>([
    ['date', '2026-03-04'],
    ['method', 'Visa'],
  ])('a %s without a gift is told to be left out', (column, text) =>
    expect(read([column], text).asks).toEqual([`${column}: “${text}” is of a gift, and the row has none; left out.`]),
  );
  it('is no day where an amount stands', () => {
    expect(read(GIFT, '20260304', '2026-11-02').asks).toContain(
      'amount: “20260304” reads as a day, and is taken for an amount.',
    );
    expect(read(GIFT, '20269904', '2026-11-02').asks.filter((asked) => asked.includes('reads as a day'))).toEqual([]);
  });
  it('has the number of its check from where it is paid by, unless a column says it', () => {
    expect(aGift('method', 'Check #1849').draft.gift).toMatchObject({ method: 'cheque', cheque: '1849' });
    const both = read([...GIFT, 'method', 'cheque'], '25.00', '2026-11-02', 'Check #1849', '1850');
    expect(both.draft.gift).toMatchObject({ method: 'cheque', cheque: '1850' });
  });
  it('is looked at from a million on', () => {
    expect(read(GIFT, '999,999.99', '2026-11-02').asks).toEqual([]);
    expect(read([...GIFT, 'amount:2'], '25', '2026-11-02', '1000000').asks).toEqual([
      'amount:2: “1000000” is a million or more; look whether a point is lost.',
    ]);
  });
  it.each(['refunded', 'Check bounced, NSF', 'Charge-back 3/4', 'Cancelled by donor'])(
    '“%s” reads as taken back',
    (text) => expect(aGift('note', text).asks).toEqual([`note: “${text}” reads as if the gift was taken back.`]),
  );
  it.each(['in memory of Bo', 'For the telescope', 'Cancer research'])('“%s” does not', (text) =>
    expect(aGift('note', text).asks).toEqual([]),
  );
});

describe('a wish in a note', () => {
  const NAMED = /reads as a wish not to be named; put it down as one/;
  const ALONE = /reads as a wish to be left alone; put it down as one/;
  it.each<[IntakeColumn, string, RegExp]>([
    ['note', 'Anonymous please', NAMED],
    ['note', "Please don't list our names", NAMED],
    ['note', 'do not call again', ALONE],
    ['note', 'Unsubscribe me', ALONE],
    ['remark', 'Do not mail', ALONE],
    ['remark', 'please remove him from the list', ALONE],
    ['remark', 'Gave anonymously in 2019', NAMED],
    ['remark', 'Deceased 2021', /reads as a death/],
  ])('in a column %s, “%s”, is asked about', (column, text, why) => {
    const { asks } = column === 'note' ? aGift(column, text) : read([column], text);
    expect(asks).toEqual([expect.stringMatching(why)]);
  });
  it('says nothing new where a column says it', () => {
    expect(read(['remark', 'noMail'], 'Do not mail', 'Yes').asks).toEqual([]);
    expect(read(['remark', 'anonymous'], 'Anonymous', 'no').asks).toEqual([]);
    expect(read(['remark', 'deceased'], 'Deceased 2021', 'yes').asks).toEqual([]);
  });
  it.each(['Call after five', 'Met him on the lawn, he died laughing', 'Mails us every week', 'Stops by on Sundays'])(
    'is not “%s”',
    (text) => expect(read(['remark'], text).asks).toEqual([]),
  );
});

describe('a number of digits alone', () => {
  const asks = (columns: IntakeColumn[], ...cells: string[]) => {
    const { draft } = readRow(columns, cells, PLAIN_SETTING);
    return readDetails(draft, columns, cells, PLAIN_SETTING).warnings.map(({ reason }) => reason);
  };
  it('may be of elsewhere where nothing is there to hold it against', () =>
    expect(asks(['number', 'amount', 'date'], '10482', '25.00', '2026-11-02')).toEqual([
      '“10482” is taken for our number, and the row has no name or e-mail to hold against it.',
    ]));
  it('is ours by how it is written, by a name or an e-mail beside it, or as it comes back', () => {
    expect(asks(['number'], 'S-10482')).toEqual([]);
    expect(asks(['number', 'last'], '10482', 'Finch')).toEqual([]);
    expect(asks(['number', 'email'], '10482', 'ada@example.org')).toEqual([]);
    expect(asks(['number', 'asOf'], '10482', '12')).toEqual([]);
  });
});

describe('a country', () => {
  it('that is none is asked about', () => {
    const ADDRESS: IntakeColumn[] = ['street', 'city', 'country'];
    expect(read(ADDRESS, '1 Lyra St', 'Elko', 'Elko County').asks).toEqual([
      'country: “Elko County” is no country known here.',
    ]);
    expect(read(ADDRESS, '1 Lyra St', 'Lyon', 'France').asks).toEqual([]);
  });
  it('without a place is told, unless it is our own', () => {
    expect(read(['country'], 'France').asks).toEqual(['country: “France” stands without a place, and is left out.']);
    for (const home of ['USA', 'United States', 'us', '']) expect(read(['country'], home).asks).toEqual([]);
  });
});

describe('a death', () => {
  const died = (column: IntakeColumn, text: string) => {
    const { details, stops } = read([column], text);
    return stops.length > 0 ? stops : details.wishes.map(({ on, happenedOn }) => [on, happenedOn]);
  };
  it('may be a day where a yes is looked for, and a yes where a day is', () => {
    expect(died('deceased', '2024-05-01')).toEqual([[true, '2024-05-01']]);
    expect(died('deceased', 'May 1, 2024')).toEqual([[true, '2024-05-01']]);
    expect(died('deceased', '5/25/2024')).toEqual([[true, '2024-05-25']]);
    expect(died('deceasedOn', 'Yes')).toEqual([[true, null]]);
    expect(died('deceasedOn', 'no')).toEqual([[false, null]]);
  });
  it('is asked about where it may be two days, is to come, or is neither', () => {
    expect(died('deceased', '5/6/2024')).toEqual(['“5/6/2024” is a day; bring the column in as the day of death.']);
    expect(died('deceased', '2030-05-01')).toEqual(['“2030-05-01” is in the future.']);
    expect(died('deceased', 'perhaps')).toEqual(['“perhaps” is neither yes nor no.']);
  });
  it('keeps its day where another column says yes, and is refused where it says no', () => {
    const both = (whether: string, day: string) => read(['deceased', 'deceasedOn'], whether, day);
    expect(both('Yes', '2024-05-01').details.wishes).toMatchObject([{ on: true, happenedOn: '2024-05-01' }]);
    expect(both('2024-05-01', 'Yes').details.wishes).toMatchObject([{ on: true, happenedOn: '2024-05-01' }]);
    expect(both('No', 'Yes').stops).toEqual(['The row says both that they died and that they did not.']);
  });
});

describe('a heading', () => {
  const placed = (headings: string[], ...rows: string[][]) => believed(matchHeadings(headings), rows);
  it('is believed where most of its cells are of its kind, or there is none', () => {
    expect(placed(['Title', 'Last'], ['Mr.', 'Finch'], ['', 'Lark'], ['CEO', 'Wren'])).toEqual(['prefix', 'last']);
    expect(placed(['Title', 'Last'], ['', 'Finch'])).toEqual(['prefix', 'last']);
    expect(placed(['Name', 'Spouse'], ['Ada Finch', 'Bo Finch'], ['Cy Lark', 'N/A'])).toEqual(['wholeName', 'spouse']);
  });
  it('of titles leads to positions where those stand, with whom they are at', () => {
    const rows = [
      ['CEO', 'Finch', 'Elko Works'],
      ['Director of Sales', 'Lark', 'Elko Works'],
    ];
    expect(placed(['Title', 'Last', 'Employer'], ...rows)).toEqual(['jobTitle', 'last', 'employer']);
    expect(placed(['Title', 'Last'], ...rows)).toEqual([null, 'last']);
    expect(placed(['Title', 'Last', 'Employer', 'Job title'], ...rows)).toEqual([null, 'last', 'employer', 'jobTitle']);
  });
  it('of whether somebody died leads to the day, and the other way round', () => {
    expect(placed(['Name', 'Deceased'], ['Ada', '2024-05-01'], ['Bo', ''])).toEqual(['wholeName', 'deceasedOn']);
    expect(placed(['Name', 'Died'], ['Ada', 'Yes'], ['Bo', 'No'])).toEqual(['wholeName', 'deceased']);
  });
  it('that its cells gainsay has no place, and is asked about', () => {
    expect(placed(['Name', 'Spouse', 'Check'], ['Ada Finch', 'Yes', 'x'], ['Bo Lark', 'No', ''])).toEqual([
      ...['wholeName', null, null],
    ]);
    expect(placed(['Name', 'Household'], ['Ada Finch', '3'])).toEqual(['wholeName', null]);
  });
});
