import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { CustomField } from '../fields/index.ts';
import {
  blankRow,
  checkSheet,
  controlDifference,
  copied,
  filledDown,
  isEmptyRow,
  layoutFault,
  meant,
  pasted,
  readBlock,
  summaryOf,
  sheetHeading,
  SHEET_FIELDS,
  withCell,
  withFound,
  withSupporter,
} from './index.ts';
import type { SheetColumn, SheetField, SheetLayout, SheetRow, SheetSetting } from './index.ts';

const column = (field: SheetField, over: Partial<SheetColumn> = {}): SheetColumn => ({
  ...{ field, width: 100, byDefault: '', hidden: false, required: false },
  ...over,
});
const LAYOUT: SheetLayout = {
  columns: [
    column('wholeName'),
    column('amount', { required: true }),
    column('method', { byDefault: 'Check' }),
    column('cheque'),
    column('fund', { byDefault: 'Telescope Van' }),
    column('email'),
    column('date'),
  ],
};
const place = (id: number, code: string, name: string, closed = false) => ({ id, code, name, closed });
const SETTING: SheetSetting = {
  ...{
    decimal: '.',
    dateOrder: 'mdy',
    currency: 'USD',
    home: 'US',
    today: '2026-11-23',
    method: 'cheque',
    own: [],
    ownOfGifts: [],
  },
  fund: place(1, 'GEN', 'General Operating'),
  funds: [place(1, 'GEN', 'General Operating'), place(2, 'VAN', 'Telescope Van'), place(3, 'OLD', 'Old Fund', true)],
  campaigns: [],
  appeals: [],
  known: (id) => (id === 5 ? { name: 'Ana Cruz', trashed: false } : id === 6 ? { name: 'Bo', trashed: true } : null),
  chequeUsed: (id, cheque) => id === 5 && cheque === '77',
};
let next = 0;
const row = (
  cells: Record<string, string>,
  supporterId: number | null = null,
  change: SheetField[] = [],
): SheetRow => ({ key: `r${next++}`, supporterId, cells, change });
const check = (...rows: SheetRow[]) => checkSheet(LAYOUT, rows, SETTING);
const remarks = (one: ReturnType<typeof check>[number] | undefined) =>
  one?.problems.map((problem) => `${problem.field ?? 'row'}: ${problem.reason}`) ?? [];

describe('layoutFault', () => {
  it.each<[string, SheetColumn[], string | null]>([
    ['a sound one', [column('wholeName'), column('amount')], null],
    ['for organizations', [column('organization'), column('amount')], null],
    ['a column twice', [column('wholeName'), column('amount'), column('amount')], 'twice'],
    ['no amount', [column('wholeName')], 'Amount'],
    ['no name', [column('amount')], 'name of a new supporter'],
    [
      'hidden, required and empty',
      [column('wholeName'), column('amount'), column('fund', { hidden: true, required: true })],
      'cannot be hidden',
    ],
    [
      'hidden and required with a default',
      [column('wholeName'), column('amount'), column('fund', { hidden: true, required: true, byDefault: 'GEN' })],
      null,
    ],
  ])('%s', (_name, columns, words) => {
    const fault = layoutFault({ columns });
    if (words === null) expect(fault).toBeNull();
    else expect(fault).toContain(words);
  });
});

describe('checkSheet', () => {
  it('reads amounts as people type them, and fills defaults', () => {
    const [one] = check(row({ wholeName: 'Ada Marsh', amount: ' $1,250.50 ' }));
    expect(one).toMatchObject({
      status: 'new',
      problems: [],
      draft: { name: { first: 'Ada', last: 'Marsh' }, gift: { cents: 1250_50, fundId: 2, method: 'cheque' } },
    });
  });

  it.each<[string, SheetRow, string]>([
    ['no amount', row({ wholeName: 'Ada Marsh' }), 'amount: This must be filled in.'],
    ['an amount that is none', row({ wholeName: 'Ada Marsh', amount: '12o' }), 'amount: '],
    ['an amount below zero', row({ wholeName: 'Ada Marsh', amount: '-5' }), 'amount: '],
    ['nobody', row({ amount: '5' }), 'wholeName: Find who gave'],
    ['a fund that is not', row({ wholeName: 'A B', amount: '5', fund: 'Nowhere' }), 'fund: '],
    ['a closed fund', row({ wholeName: 'A B', amount: '5', fund: 'Old Fund' }), 'fund: '],
    ['a date that is none', row({ wholeName: 'A B', amount: '5', date: '2/30/2026' }), 'date: '],
    ['a date to come', row({ wholeName: 'A B', amount: '5', date: '2027-01-01' }), 'date: '],
    ['an e-mail that is none', row({ wholeName: 'A B', amount: '5', email: 'nobody' }), 'email: '],
    ['a method that is none', row({ wholeName: 'A B', amount: '5', method: 'shells' }), 'method: '],
    ['someone in the trash', row({ amount: '5' }, 6), 'row: This supporter is in the trash'],
    ['someone who is gone', row({ amount: '5' }, 99), 'row: This supporter is gone'],
  ])('marks %s', (_name, given, words) =>
    expect(remarks(check(given)[0]).some((remark) => remark.startsWith(words))).toBe(true),
  );

  it('passes over empty rows', () => expect(check(row({}), row({ wholeName: '  ' }))).toEqual([]));

  it('shows what is known and changes only what was asked for', () => {
    const [shown, changed] = check(
      row({ amount: '5', email: 'typed@example.org' }, 5),
      row({ amount: '5', email: 'new@example.org' }, 5, ['email']),
    );
    expect(shown).toMatchObject({ status: 'known', supporterId: 5, draft: { email: null }, problems: [] });
    expect(changed).toMatchObject({ draft: { email: 'new@example.org' }, change: ['email'] });
  });

  it('makes one supporter of the same new one typed twice', () => {
    const rows = check(
      row({ wholeName: 'Ada Marsh', amount: '5' }),
      row({ wholeName: 'ada  marsh', amount: '6' }),
      row({ wholeName: 'Ada Marsh', amount: '7', email: 'other@example.org' }),
    );
    expect(rows.map((one) => one.sameAs)).toEqual([null, 0, null]);
    expect(summaryOf(rows)).toMatchObject({ new: 2, gifts: 3, cents: 1800 });
  });

  it('warns of a check number that came before, in the sheet or in the records', () => {
    const rows = check(
      row({ amount: '5', cheque: '12' }, 5),
      row({ amount: '5', cheque: '12' }, 5),
      row({ amount: '5', cheque: '77' }, 5),
      row({ amount: '5', cheque: '77', method: 'Cash' }, 5),
      row({ wholeName: 'Ada Marsh', amount: '5', cheque: '12' }),
    );
    expect(rows.map((one) => one.warnings.map((warning) => warning.reason))).toEqual([
      [],
      ['Row 1 has the same check number for the same donor.'],
      ['This donor already has a gift by a check of this number.'],
      [],
      [],
    ]);
    expect(rows.every((one) => one.problems.length === 0)).toBe(true);
  });

  it('tells what it takes for nothing, and asks about a name that is more than one', () => {
    const rows = check(
      row({ wholeName: 'Ada Marsh', amount: '5', email: 'none' }),
      row({ wholeName: 'Guest of Ada Marsh', amount: '5' }),
    );
    expect(rows.map((one) => one.warnings.map((warning) => warning.reason).join(' '))).toEqual([
      '“none” is taken for nothing.',
      expect.stringContaining('says who somebody is to another'),
    ]);
    expect(rows.every((one) => one.problems.length === 0)).toBe(true);
  });

  it('warns of a day long past, and writes the row', () => {
    const rows = check(
      row({ amount: '5', date: '2016-11-01' }, 5),
      row({ amount: '5', date: '2026-11-01' }, 5),
      row({ amount: '5', date: '2016-11-01', cheque: '77' }, 5),
    );
    expect(rows.map((one) => one.warnings.map((warning) => warning.field))).toEqual([['date'], [], ['date', 'cheque']]);
    expect(rows.every((one) => one.problems.length === 0)).toBe(true);
  });

  it('never throws and never writes off the wrong rows, whatever rubbish is pasted', () => {
    const cell = fc.oneof(fc.string({ maxLength: 30 }), fc.constantFrom('5', '1,000', 'Ana', '2026-01-01', 'Check'));
    fc.assert(
      fc.property(fc.array(fc.array(cell, { maxLength: 12 }), { maxLength: 20 }), (block) => {
        let made = 0;
        const fields = LAYOUT.columns.map((one) => one.field);
        const rows = pasted([], fields, { row: 0, column: 0 }, block, () => `k${made++}`);
        const checked = checkSheet(LAYOUT, rows, SETTING);
        const summary = summaryOf(checked);
        expect(summary.rows).toBe(rows.filter((one) => !isEmptyRow(one)).length);
        expect(summary.wrong + summary.gifts).toBe(summary.rows);
        expect(summary.byFund.reduce((sum, one) => sum + one.cents, 0)).toBe(summary.cents);
        expect(summary.byMethod.reduce((sum, one) => sum + one.count, 0)).toBe(summary.gifts);
      }),
      { numRuns: 150 },
    );
  });
});

describe('sheetHeading', () => {
  it('is short, different for each column, and the name of a custom field', () => {
    const headings = SHEET_FIELDS.map((field) => sheetHeading(field, []));
    expect(new Set(headings).size).toBe(SHEET_FIELDS.length);
    expect(headings).toEqual(expect.arrayContaining(['Who', 'Amount', 'Paid by', 'Check', 'ZIP']));
    expect(sheetHeading('field:4', [{ id: 4, name: 'Telescope' }])).toBe('Telescope');
    expect(sheetHeading('field:9', [])).toBe('field:9');
  });
});

describe('controlDifference', () => {
  it.each([
    [
      { count: 3, cents: 500 },
      { count: 3, cents: 500 },
      { count: 0, cents: 0, balanced: true },
    ],
    [
      { count: 4, cents: 500 },
      { count: 3, cents: 500 },
      { count: -1, cents: 0, balanced: false },
    ],
    [
      { count: null, cents: 400 },
      { count: 3, cents: 500 },
      { count: null, cents: 100, balanced: false },
    ],
    [
      { count: null, cents: null },
      { count: 3, cents: 500 },
      { count: null, cents: null, balanced: true },
    ],
  ])('%j against %j', (control, sum, difference) => expect(controlDifference(control, sum)).toEqual(difference));
});

describe('typing', () => {
  const fields: SheetField[] = ['wholeName', 'amount', 'email', 'note'];
  let made = 0;
  const newKey = (): string => `n${made++}`;

  it('keeps a cell, and forgets an empty one', () => {
    const typed = withCell(blankRow('a'), 'amount', '5');
    expect(typed.cells).toEqual({ amount: '5' });
    expect(withCell(typed, 'amount', '').cells).toEqual({});
  });

  it('makes what is about a known supporter a change that is asked for, and takes it back', () => {
    const known = withSupporter(blankRow('a'), 5, { field: 'wholeName', text: '' });
    const asked = withCell(known, 'email', 'x@example.org');
    expect(asked).toMatchObject({ change: ['email'], cells: { email: 'x@example.org' } });
    expect(withCell(asked, 'email', '')).toMatchObject({ change: [], cells: {} });
    expect(withCell(known, 'amount', '5').change).toEqual([]);
    expect(withCell(known, 'field:9', 'Pulsar', [9]).change).toEqual(['field:9']);
  });

  it('forgets what was typed about a supporter once they are found, and keeps the gift', () => {
    const typed = row({ wholeName: 'Ana', email: 'x@example.org', amount: '5' });
    expect(withSupporter(typed, 5, { field: 'wholeName', text: '' })).toMatchObject({
      supporterId: 5,
      cells: { amount: '5' },
    });
    expect(withSupporter(typed, null, { field: 'wholeName', text: 'Bo' }).cells).toEqual({
      ...{ wholeName: 'Bo', email: 'x@example.org', amount: '5' },
    });
  });

  describe('a name that is looked up after it was left', () => {
    const name = { field: 'wholeName' as const, text: 'Ana' };

    it('becomes the supporter it means, with the gift that was typed meanwhile', () =>
      expect(withFound(row({ wholeName: 'Ana', amount: '50', fund: 'Van' }), 5, name)).toMatchObject({
        ...{ supporterId: 5, cells: { amount: '50', fund: 'Van' } },
      }));

    it.each<[string, SheetRow]>([
      ['was typed over', row({ wholeName: 'Anabel', amount: '50' })],
      ['was taken for someone else', row({ amount: '50' }, 6)],
      ['has an address beside it, which the record would hide', row({ wholeName: 'Ana', email: 'ana@example.org' })],
    ])('stays as it is where it %s', (_name, before) => expect(withFound(before, 5, name)).toBe(before));

    it('counts own fields of supporters as about the supporter, and of gifts as not', () => {
      const before = row({ wholeName: 'Ana', 'field:3': 'x' });
      expect(withFound(before, 5, name, [3])).toBe(before);
      expect(withFound(before, 5, name, [4]).supporterId).toBe(5);
    });
  });

  it('pastes a block over what is there and beyond it', () => {
    const rows = pasted(
      [row({ wholeName: 'Old', amount: '1', note: 'stays' })],
      fields,
      { row: 0, column: 0 },
      [
        ['Ada Marsh', '5', 'ada@example.org'],
        ['S-10482', '6'],
      ],
      newKey,
    );
    expect(rows.map(({ supporterId, cells }) => [supporterId, cells])).toEqual([
      [null, { wholeName: 'Ada Marsh', amount: '5', email: 'ada@example.org', note: 'stays' }],
      [10482, { amount: '6' }],
    ]);
  });

  it('leaves out what lies to the right of the last column', () =>
    expect(pasted([], fields, { row: 0, column: 3 }, [['a', 'b', 'c']], newKey)[0]?.cells).toEqual({ note: 'a' }));

  it('repeats the cell above, and fills a block down', () => {
    const rows = [row({ amount: '5', note: 'x' }), row({ amount: '6' }), row({})];
    const above = filledDown(rows, fields, { top: 1, bottom: 1, left: 3, right: 3 }, newKey);
    expect(above[1]?.cells).toEqual({ amount: '6', note: 'x' });
    const down = filledDown(rows, fields, { top: 0, bottom: 2, left: 1, right: 3 }, newKey);
    expect(down.map((one) => one.cells)).toEqual([
      { amount: '5', note: 'x' },
      { amount: '5', note: 'x' },
      { amount: '5', note: 'x' },
    ]);
  });

  it('repeats a supporter with the cell of names', () => {
    const rows = [row({ amount: '5' }, 5), row({ amount: '6' })];
    expect(filledDown(rows, fields, { top: 1, bottom: 1, left: 0, right: 0 }, newKey)[1]).toMatchObject({
      supporterId: 5,
      cells: { amount: '6' },
    });
  });

  it('has nothing above the first row', () => {
    const rows = [row({ amount: '5' })];
    expect(filledDown(rows, fields, { top: 0, bottom: 0, left: 0, right: 0 }, newKey)).toEqual(rows);
  });

  it('copies what pastes back as it was', () => {
    const cell = fc.string({ maxLength: 12 }).map((text) => text.replace(/\r/g, ' '));
    fc.assert(
      fc.property(fc.array(fc.array(cell, { minLength: 2, maxLength: 5 }), { minLength: 1, maxLength: 6 }), (block) => {
        fc.pre(block.at(-1)?.some((text) => text !== '') === true);
        expect(readBlock(copied(block))).toEqual(block);
      }),
    );
  });
});

describe('readBlock', () => {
  it.each<[string, string, string[][]]>([
    ['one cell', 'Ada', [['Ada']]],
    [
      'lines of Windows',
      'a\tb\r\nc\td\r\n',
      [
        ['a', 'b'],
        ['c', 'd'],
      ],
    ],
    ['quotes, tabs and lines in a cell', '"a ""b""\tc\nd"\te', [['a "b"\tc\nd', 'e']]],
    ['a quote in the middle', '5" nails\tx', [['5" nails', 'x']]],
    ['empty cells', '\t\tx', [['', '', 'x']]],
  ])('%s', (_name, text, cells) => expect(readBlock(text)).toEqual(cells));
});

describe('meant', () => {
  const found = [
    { name: 'Jane Rowe', number: 'S-10001' },
    { name: 'Jane Roe', number: 'S-10002' },
  ];
  it.each([
    ['jane ro', 0],
    ['Jane Roe', 1],
    ['roe', 1],
    ['Jayne Roe', 2],
    ['S-10002', 0],
    ['555-0183', 0],
    ['Zed', 2],
  ])('“%s” is place %i', (text, at) => expect(meant(text, found)).toBe(at));
  it('is someone new where nobody was found', () => expect(meant('Ana', [])).toBe(0));
});

it('knows the custom fields of gifts and of supporters', () => {
  const field = (id: number): CustomField => ({ id, name: `Field ${id}`, kind: 'number', choices: [] });
  const layout = { columns: [column('wholeName'), column('amount'), column('field:1'), column('field:2')] };
  const [one] = checkSheet(layout, [row({ wholeName: 'A B', amount: '5', 'field:1': '7', 'field:2': 'x' })], {
    ...SETTING,
    own: [field(1)],
    ownOfGifts: [field(2)],
  });
  expect(one?.draft.own).toEqual([[1, '7']]);
  expect(remarks(one).some((remark) => remark.startsWith('field:2'))).toBe(true);
});
