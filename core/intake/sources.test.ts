import { describe, expect, it } from 'vitest';
import { readCards } from '../vcard/index.ts';
import { remarksOn, tableOfCards, tableOfObjects, tableStart } from './index.ts';

describe('tableStart', () => {
  it.each<[string, string[][], number]>([
    [
      'headings at once',
      [
        ['First', 'Last', 'Amount'],
        ['Ana', 'Cruz', '5'],
      ],
      0,
    ],
    [
      'notes above them',
      [['Spring gala'], ['', 'as of', ''], ['First', 'Last', 'Amount', 'Date'], ['Ana', 'Cruz', '5', '']],
      2,
    ],
    ['one column', [['E-mail'], ['a@example.org']], 0],
    [
      'two columns',
      [
        ['Name', ''],
        ['Ana', '5'],
      ],
      0,
    ],
    ['nothing', [], 0],
  ])('%s', (_title, rows, start) => expect(tableStart(rows)).toBe(start));
});

describe('tableOfObjects', () => {
  it('has a column for each key, those within others too', () =>
    expect(
      tableOfObjects([
        { name: 'Ana', amount: 25.5, address: { city: 'Elko' }, tags: ['a', 'b'] },
        { amount: 7, paid: true, none: null },
        'loose',
      ]),
    ).toEqual({
      headings: ['name', 'amount', 'address city', 'tags', 'paid', 'value'],
      rows: [
        ['Ana', '25.5', 'Elko', 'a; b', '', ''],
        ['', '7', '', '', 'true', ''],
        ['', '', '', '', '', 'loose'],
      ],
    }));
  it('does not go down for ever', () => {
    let deep: unknown = 'end';
    for (let level = 0; level < 5_000; level++) deep = { a: deep };
    expect(() => tableOfObjects([deep])).toThrow(/more than 6 deep/);
  });
});

describe('tableOfCards', () => {
  const card = (...lines: string[]) => `BEGIN:VCARD\nVERSION:3.0\n${lines.join('\n')}\nEND:VCARD\n`;
  it('has the columns that any card fills, each in its place', () => {
    const cards = readCards(
      card('N:Cruz;Ana;;Dr.;', 'ORG:Cobalt Bakery', 'EMAIL;TYPE=WORK:a@example.org', 'TEL;TYPE=CELL:775 555 0111') +
        card(
          'N:;;;;',
          'FN:Dome Club',
          'ORG:Dome Club',
          'ADR;TYPE=HOME:;;7 Lyra St;Reno;NV;89501;',
          'EMAIL;TYPE=WORK:b@example.org',
        ),
    );
    const { columns, rows, labels } = tableOfCards(cards);
    expect(columns).toEqual([
      ...(['prefix', 'first', 'last', 'organization', 'employer', 'email', 'phone'] as const),
      ...(['street', 'city', 'region', 'postal'] as const),
    ]);
    expect(rows[0]?.slice(0, 7)).toEqual(['Dr.', 'Ana', 'Cruz', '', 'Cobalt Bakery', 'a@example.org', '775 555 0111']);
    expect(rows[1]?.slice(3, 8)).toEqual(['Dome Club', '', 'b@example.org', '', '7 Lyra St']);
    expect(labels).toMatchObject({ email: 'work', phone: 'mobile', street: 'home' });
  });
  it('tells of what it has no place for', () =>
    expect(
      tableOfCards(readCards(card('N:Cruz;Ana;;;', ...[1, 2, 3, 4].map((at) => `EMAIL:a${at}@example.org`)))).remarks,
    ).toEqual(['1 card has more than 3 ways of a kind; the first 3 are read.']));
  it('keeps notes, job titles and names that are not in parts', () => {
    const { columns, rows } = tableOfCards(
      readCards(
        card('N:Cruz;Ana;;;', 'ORG:Cobalt Bakery', 'TITLE:Baker', 'NOTE:likes owls\\, and\\nthe night') +
          card('FN:Bo Lowell', 'EMAIL:bo@example.org') +
          card('FN:Dome Club', 'ORG:Dome Club', 'NOTE:meets on Mondays'),
      ),
    );
    const cell = (row: number, column: string) => rows[row]?.[columns.findIndex((one) => one === column)];
    expect([cell(0, 'wholeName'), cell(0, 'jobTitle'), cell(0, 'remark')]).toEqual([
      '',
      'Baker',
      'likes owls, and\nthe night',
    ]);
    expect([cell(1, 'wholeName'), cell(1, 'first'), cell(1, 'email')]).toEqual(['Bo Lowell', '', 'bo@example.org']);
    expect([cell(2, 'wholeName'), cell(2, 'organization'), cell(2, 'remark')]).toEqual([
      '',
      'Dome Club',
      'meets on Mondays',
    ]);
  });
  it('says what of the cards is not read, a day that is none too', () => {
    const of = (...lines: string[]) => tableOfCards(readCards(card('N:Cruz;Ana;;;', ...lines))).remarks;
    expect(of('BDAY:1980-02-30', 'URL:https://example.org', 'ITEM1.X-ABLABEL:x', 'UID:1', 'REV:2', 'PHOTO:')).toEqual([
      'Not read of the cards: BDAY (1 card), URL (1 card).',
    ]);
    expect(of('BDAY:1980-02-28', 'PRODID:x')).toEqual([]);
  });
});

describe('remarksOn', () => {
  it('tells what is odd', () =>
    expect(
      remarksOn(
        ['Name', 'Amount', 'amount', ''],
        [
          ['Ana', '5'],
          ['Bo', '7', '8', '', 'more'],
        ],
      ),
    ).toEqual([
      '1 row has fewer cells than there are columns.',
      '1 row has more cells than there are columns.',
      '1 column is empty.',
      'Several columns are headed “amount”.',
    ]));
  it('and nothing where nothing is', () => expect(remarksOn(['Name'], [['Ana']])).toEqual([]));
});
