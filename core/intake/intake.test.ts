import { describe, expect, it } from 'vitest';
import { looksBinary, matchHeadings, readRow, separatorOf } from './index.ts';
import type { IntakeField, RowSetting } from './index.ts';

const setting: RowSetting = {
  decimal: '.',
  dateOrder: 'mdy',
  currency: 'USD',
  today: '2026-11-23',
  home: 'US',
  method: 'card',
  fund: { id: 1, name: 'General Operating', code: 'GEN', closed: false },
  funds: [
    { id: 1, name: 'General Operating', code: 'GEN', closed: false },
    { id: 2, name: 'Comet Year Exhibit', code: 'COMET', closed: true },
  ],
  campaigns: [{ id: 5, name: 'Annual Fund', code: 'AF', closed: false }],
  appeals: [{ id: 6, name: 'Fall letter', code: 'FALL', closed: false }],
  own: [{ id: 7, name: 'Telescope', kind: 'one', choices: ['Refractor', 'Reflector'] }],
  ownOfGifts: [{ id: 9, name: 'Envelope', kind: 'number', choices: [] }],
};
const FIELDS: (IntakeField | null)[] = [
  'number',
  'first',
  'last',
  'organization',
  'email',
  'phone',
  'amount',
  'date',
  'fund',
  'method',
  'reference',
  'fee',
];
const row = (cells: Partial<Record<IntakeField, string>>) =>
  readRow(
    FIELDS,
    FIELDS.map((field) => (field ? (cells[field] ?? '') : '')),
    setting,
  );
const GOOD = {
  first: 'Ana',
  last: 'Cruz',
  email: 'Ana@Example.org',
  amount: '$25.00',
  date: '11/02/2026',
  fund: 'gen',
  method: 'Check',
  reference: 'GP-1',
};

describe('whole names and fields of the organisation', () => {
  const read = (name: string, telescope = '') =>
    readRow(['wholeName', 'field:7', 'email'], [name, telescope, 'x@example.org'], setting);
  it.each([
    [
      'Dr. Ana "Nan" de la Cruz, Jr.',
      { kind: 'person', prefix: 'Dr.', first: 'Ana', last: 'de la Cruz', suffix: 'Jr.' },
    ],
    ['SMITH, JOHN Q', { kind: 'person', first: 'John', middle: 'Q', last: 'Smith' }],
    ['Cobalt Ridge Bakery', { kind: 'organization', organization: 'Cobalt Ridge Bakery' }],
    ['John and Jane Smith', { kind: 'household', organization: 'John and Jane Smith' }],
  ])('%s', (whole, name) => expect(read(whole).draft.name).toMatchObject(name));
  it('keeps a nickname, and a value in the form of its field', () => {
    expect(read('Ana "Nan" Cruz', 'refractor').draft).toMatchObject({ nickname: 'Nan', own: [[7, 'Refractor']] });
    expect(read('Ana Cruz', '').draft.own).toEqual([]);
  });
  it('names the field that holds something else', () =>
    expect(read('Ana Cruz', 'Quasar').problems).toEqual([
      { field: 'field:7', value: 'Quasar', reason: '“Quasar” is not one of Refractor, Reflector.' },
    ]));
  it('reads a field of gifts with the gift', () => {
    const gift = (envelope: string) => readRow(['last', 'amount', 'field:9'], ['Cruz', '5', envelope], setting);
    expect(gift('12').draft.gift?.own).toEqual([[9, '12']]);
    expect(gift('twelve').problems).toMatchObject([{ field: 'field:9' }]);
  });
  it('finds columns of that name', () =>
    expect(matchHeadings(['Name', 'TELESCOPE'], setting.own)).toEqual(['wholeName', 'field:7']));
});

describe('matchHeadings', () => {
  it('knows headings however they are written', () => {
    expect(
      matchHeadings([
        'Transaction ID',
        'Gift Date',
        'first_name',
        'LAST NAME',
        'E-mail',
        'Zip Code',
        'Designation',
        'Favourite star',
        '',
      ]),
    ).toEqual(['reference', 'date', 'first', 'last', 'email', 'postal', 'fund', null, null]);
  });
  it('uses no field twice', () =>
    expect(matchHeadings(['Amount', 'Gift amount', 'Email', 'E-mail address'])).toEqual([
      'amount',
      null,
      'email',
      null,
    ]));
});

describe('readRow', () => {
  it('keeps a number elsewhere, which is enough to know somebody by, and never begins as a remembered choice does', () => {
    const read = (outside: string) => readRow(['outside', 'amount', 'date'], [outside, '5', '2026-01-02'], setting);
    expect(read('P-88213')).toMatchObject({ problems: [], draft: { outside: 'P-88213', gift: { cents: 500 } } });
    expect(read(' = |ana|cruz').draft.outside).toBe('|ana|cruz');
    expect(read('').problems.map(({ reason }) => reason)).toEqual([
      'The row has no name, number or e-mail, so nobody to record it for.',
    ]);
  });

  it('reads a good row', () => {
    const { draft, problems } = row(GOOD);
    expect(problems).toEqual([]);
    expect(draft).toMatchObject({ email: 'ana@example.org', name: { kind: 'person', first: 'Ana', last: 'Cruz' } });
    expect(draft.gift).toMatchObject({
      cents: 2500,
      date: '2026-11-02',
      fundId: 1,
      method: 'cheque',
      reference: 'GP-1',
    });
  });

  it.each([
    ['0.98', 98],
    ['-0.98', 98],
    ['', 0],
  ])('takes the fee %s of a processor, also where it is taken off', (fee, cents) =>
    expect(row({ ...GOOD, fee }).draft.gift?.feeCents).toBe(cents),
  );

  it('takes a row of a person without a gift, and of an organization', () => {
    expect(row({ first: 'Ana', last: 'Cruz' })).toMatchObject({ problems: [], draft: { gift: null } });
    expect(row({ organization: 'Cruz Bakery' }).draft.name).toMatchObject({
      kind: 'organization',
      organization: 'Cruz Bakery',
    });
    expect(row({ organization: 'Cruz Bakery', last: 'Cruz' }).draft.name).toMatchObject({
      kind: 'person',
      organization: '',
    });
  });

  it('uses today, the chosen fund and the chosen method where the row is silent', () => {
    expect(row({ last: 'Cruz', amount: '5' }).draft.gift).toMatchObject({
      date: '2026-11-23',
      fundId: 1,
      method: 'card',
    });
  });

  it.each<[string, Partial<Record<IntakeField, string>>, IntakeField | null, RegExp]>([
    ['an amount of zero', { ...GOOD, amount: '0.00' }, 'amount', /zero/],
    ['a negative amount', { ...GOOD, amount: '-5' }, 'amount', /negative/],
    ['three decimals', { ...GOOD, amount: '12.345' }, 'amount', /3 decimals/],
    ['another currency', { ...GOOD, amount: '25 CAD' }, 'amount', /in CAD; amounts here are in USD/],
    ['a fee in another currency', { ...GOOD, fee: '£1' }, 'fee', /in £/],
    ['an amount beyond what is kept', { ...GOOD, amount: '99999999999999' }, 'amount', /larger/],
    ['a missing amount', { ...GOOD, amount: '' }, 'amount', /missing/],
    ['30 February', { ...GOOD, date: '02/30/2026' }, 'date', /calendar/],
    ['a date in the future', { ...GOOD, date: '11/24/2026' }, 'date', /future/],
    ['a closed fund', { ...GOOD, fund: 'Comet year exhibit' }, 'fund', /closed/],
    ['an unknown fund', { ...GOOD, fund: 'Moon Base' }, 'fund', /no fund/],
    ['an unknown method', { ...GOOD, method: 'Seashells' }, 'method', /not a payment method/],
    ['a fee that is no amount', { ...GOOD, fee: 'some' }, 'fee', /amount/],
    ['a fee above the gift', { ...GOOD, fee: '25.01' }, 'fee', /more than the gift/],
    ['a fee of stock', { ...GOOD, method: 'Stock', fee: '1' }, 'fee', /No processor/],
    ['a broken e-mail', { ...GOOD, email: 'not an address' }, 'email', /not an e-mail/],
    ['a broken number', { ...GOOD, number: 'X-1' }, 'number', /S-10482/],
    ['a short telephone', { ...GOOD, phone: '12' }, 'phone', /too few digits/],
    ['a name of 300 characters', { ...GOOD, first: 'N'.repeat(300) }, 'first', /300 characters/],
    ['nobody at all', { amount: '5' }, 'last', /nobody/],
  ])('refuses %s and names the field', (_title, cells, field, reason) => {
    const { problems } = row(cells);
    expect(problems).toHaveLength(1);
    expect(problems[0]?.field).toBe(field);
    expect(problems[0]?.reason).toMatch(reason);
  });

  it.each<[string, Partial<Record<IntakeField, string>>, string[]]>([
    ['more than a year ago', { ...GOOD, date: '11/02/2016' }, ['11/02/2016']],
    ['of this year', GOOD, []],
    ['that the file does not say', { ...GOOD, date: '' }, []],
    ['without a gift', { ...GOOD, amount: '', date: '' }, []],
  ])('wants a look at a day %s, and takes the row', (_title, cells, values) => {
    const { problems, warnings } = row(cells);
    expect(problems).toEqual([]);
    expect(warnings.map((one) => [one.field, one.value])).toEqual(values.map((value) => ['date', value]));
  });

  it.each(['Bj?rn', 'RenÃ©e', 'Jos\uFFFD', 'Oâ€™Brien'])('wants a look at %s, which came to harm before', (last) => {
    const { problems, warnings } = row({ ...GOOD, last });
    expect([problems, warnings]).toEqual([[], [expect.objectContaining({ field: 'last', value: last })]]);
  });
  it('wants no look at a name that is whole', () =>
    expect(row({ ...GOOD, last: 'Ångström-São O’Brien?' }).warnings).toEqual([]));

  it.each([
    ['12 Lyra St, Tansy Creek, NV 89901', ['12 Lyra St', 'Tansy Creek', 'NV', '89901']],
    ['12 Lyra St, Apt 4, Tansy Creek, Nevada, 89901-0004', ['12 Lyra St, Apt 4', 'Tansy Creek', 'NV', '89901-0004']],
    ['12 Lyra St, Tansy Creek', ['12 Lyra St, Tansy Creek', '', '', '']],
    ['PO Box 9', ['PO Box 9', '', '', '']],
  ])('reads the parts of an address in one cell: %s', (street, parts) => {
    const { draft } = readRow(['last', 'street'], ['Cruz', street], setting);
    expect([draft.street, draft.city, draft.region, draft.postal]).toEqual(parts);
  });
  it('leaves a street alone that has its town beside it', () =>
    expect(readRow(['last', 'street', 'city'], ['Cruz', '1 A St, Elko, NV 89801', 'Elko'], setting).draft.street).toBe(
      '1 A St, Elko, NV 89801',
    ));
  it('tidies an e-mail address and says so', () => {
    const { draft, problems, warnings } = row({ ...GOOD, email: 'Ana Cruz <ana@example.org>;' });
    expect([draft.email, problems]).toEqual(['ana@example.org', []]);
    expect(warnings).toMatchObject([{ field: 'email', reason: 'Kept as ana@example.org.' }]);
  });

  it('finds every problem of a row, not only the first', () =>
    expect(row({ ...GOOD, amount: '0', date: 'soon', fund: 'Moon' }).problems.map((one) => one.field)).toEqual([
      'amount',
      'date',
      'fund',
    ]));

  it('speaks up about cells beyond the heading, and takes missing ones as empty', () => {
    expect(readRow(['last'], ['Cruz', 'and', 'more'], setting).problems[0]).toMatchObject({
      field: null,
      reason: expect.stringContaining('3 cells'),
    });
    expect(readRow(['last'], ['Cruz', '', ' '], setting).problems).toEqual([]);
    expect(readRow(['last', 'email', 'phone'], ['Cruz'], setting).problems).toEqual([]);
  });

  it('refuses a row that was cut off before its amount', () =>
    expect(readRow(['last', 'amount', 'note'], ['Cruz'], setting).problems[0]).toMatchObject({
      field: null,
      reason: expect.stringContaining('cut off'),
    }));

  it.each(['Grand Total', 'TOTAL:', 'Subtotal', 'sub-total', 'Total for March', 'Sum', 'Average'])(
    'takes %s for no supporter',
    (last) => expect(row({ last, amount: '100' }).problems).toMatchObject([{ field: 'last', value: last }]),
  );
  it.each([
    { organization: 'Total Wine Cellars', amount: '5' },
    { first: 'Mei', last: 'Sum', amount: '5' },
    { last: 'Totalis', amount: '5' },
  ])('takes %j for a supporter', (cells) => expect(row(cells).problems).toEqual([]));

  it('keeps names of any script as they are', () => {
    expect(row({ first: 'مريم', last: '🌟星' }).draft.name).toMatchObject({ first: 'مريم', last: '🌟星' });
    expect(row({ first: 'Ana-Mari\u0301a', last: 'x' }).draft.name.first).toBe('Ana-María');
  });
});

describe('what a file is', () => {
  it.each([
    ['a,b,c\n1,2,3', ','],
    ['a;b;c\n1,5;2;3', ';'],
    ['a\tb\n1\t2', '\t'],
    ['a|b\n1|2', '|'],
    ['"a;b",c\n"1;2",3', ','],
    ['only one column\nstill one', ','],
  ])('finds the separator of %j', (text, separator) => expect(separatorOf(text)).toBe(separator));

  it.each<[string, Uint8Array, boolean]>([
    ['text', Buffer.from('name,amount'), false],
    ['a PDF', Buffer.from('%PDF-1.7'), true],
    ['a spreadsheet', Buffer.from('PK\u0003\u0004'), true],
    ['a picture', Buffer.from([0x89, 0x50, 0x4e, 0x47]), true],
    ['zeros', Buffer.from([65, 0, 66]), true],
    ['UTF-16 with its mark', Buffer.from([0xff, 0xfe, 65, 0]), false],
    ['nothing', Buffer.alloc(0), false],
  ])('tells whether %s is binary', (_title, bytes, expected) => expect(looksBinary(bytes)).toBe(expected));
});

describe('a file that we wrote', () => {
  it('comes back without the apostrophes that keep formulas away, and with those of names', () => {
    const { draft } = readRow(['last', 'phone', 'street'], ["'t Hooft", "'+1 775 555 0142", "'=1+1"], setting);
    expect([draft.name.last, draft.phone, draft.street]).toEqual(["'t Hooft", '+1 775 555 0142', '=1+1']);
  });
});

describe('a whole name', () => {
  const read = (text: string) => readRow(['wholeName', 'amount'], [text, '5'], setting);
  it('of a couple is a household with both in it', () => {
    const { draft, warnings } = read('Mr. and Mrs. John Whitfield');
    expect(draft.name).toMatchObject({ kind: 'household', organization: 'Mr. and Mrs. John Whitfield' });
    expect(draft.members.map(({ name }) => [name.prefix, name.first, name.last])).toEqual([
      ['Mr.', 'John', 'Whitfield'],
      ['Mrs.', '', 'Whitfield'],
    ]);
    expect(warnings).toEqual([]);
  });
  it.each([
    ['Grace Chapel', 'Taken for an organization: it may be a person.'],
    ['Jane Doe c/o Jo Park', '“c/o Jo Park” is left out of the name.'],
  ])('%s says what to look at', (text, reason) => expect(read(text).warnings).toMatchObject([{ reason }]));
});
