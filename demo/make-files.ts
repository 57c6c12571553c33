import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import ExcelJS from 'exceljs';
import iconv from 'iconv-lite';
import { Chance } from './random.ts';
import { makeSupporters } from './supporters.ts';
import { FIRST, LAST } from './words.ts';

/*
 * Writes the sample files of demo/files. They are checked in; run this only to change them. Some whom they name are
 * supporters of the demo, by e-mail or by number.
 */
const chance = new Chance(99);
const everyone = makeSupporters(2400, new Chance(20_260_701));
const known = everyone.filter((one) => one.email !== null && one.name.kind === 'person');
/** The demo numbers its supporters from here on. */
const FIRST_NUMBER = 10_001;
const headings = [
  'Transaction ID',
  'Date',
  'First Name',
  'Last Name',
  'Email',
  'Phone',
  'Address',
  'City',
  'State',
  'Zip',
  'Amount',
  'Designation',
  'Payment Method',
  'Comment',
];
const rows: string[][] = [];
const AMOUNTS = [
  '25,00',
  '50,00',
  '100,00',
  '1.250,00',
  '$1,250.00',
  '36,00',
  '75',
  '500,00',
  '15,50',
  '2.000,00',
  '$40.00',
];
for (let index = 0; index < 212; index++) {
  const giver = chance.happens(0.55) ? known[chance.whole(0, known.length - 1)] : undefined;
  const first = giver?.name.first ?? chance.pick(FIRST.filter((name) => !/[őűł]/.test(name)) as [string, ...string[]]);
  const last = giver?.name.last ?? chance.pick(LAST);
  const email =
    giver?.email ??
    `${first}.${last}.portal${index}@example.com`
      .normalize('NFKD')
      .replace(/[^\w.@]+/g, '')
      .toLowerCase();
  const day = `${String(chance.whole(1, 28)).padStart(2, '0')}.${chance.pick(['09', '10'])}.2026`;
  const fund = chance.weighted([
    ['General Operating', 6],
    ['Telescope Van', 2],
    ['Dark Ground', 1],
    ['', 3],
  ]);
  rows.push([
    `GP-${70_000 + index}`,
    day,
    first,
    last,
    email,
    chance.happens(0.4) ? `775-555-01${String(chance.whole(0, 99)).padStart(2, '0')}` : '',
    `${chance.whole(1, 99)} Café Row`,
    'Tansy Creek',
    'NV',
    '89901',
    chance.pick(AMOUNTS as [string, ...string[]]),
    fund,
    chance.pick(['Card', 'ACH', 'Card']),
    chance.happens(0.1) ? 'For the señoritas who look up' : '',
  ]);
}
const spoil = (row: number, column: string, value: string): void => {
  const line = rows[row];
  if (line) line[headings.indexOf(column)] = value;
};
spoil(11, 'Amount', '0,00');
spoil(23, 'Amount', '-50,00');
spoil(37, 'Date', '30.02.2026');
spoil(52, 'Designation', 'Comet Year Exhibit');
spoil(68, 'Email', 'not an address');
spoil(81, 'Amount', '12,345');
spoil(97, 'Amount', 'twenty');
spoil(120, 'Designation', 'Moon Base');
spoil(144, 'Payment Method', 'Seashells');
rows[160]?.push('too', 'many');
spoil(170, 'First Name', 'N'.repeat(300));
rows.push([...(rows[5] ?? [])]);

const quote = (cell: string): string => (/[";\n]/.test(cell) ? `"${cell.replace(/"/g, '""')}"` : cell);
const folder = join(import.meta.dirname, 'files');
await mkdir(folder, { recursive: true });
const text = [headings, ...rows].map((row) => row.map(quote).join(';')).join('\r\n');
await writeFile(join(folder, 'giving-portal-export.csv'), iconv.encode(`${text}\r\n`, 'windows-1252'));

const csv = (rows: readonly (readonly string[])[]): string =>
  rows
    .map((row) => row.map((cell) => (/[",\n]/.test(cell) ? `"${cell.replace(/"/g, '""')}"` : cell)).join(','))
    .join('\n');
const write = (name: string, text: string): Promise<void> => writeFile(join(folder, name), `${text}\n`);
const some = new Chance(7);
const person = () => {
  const one = some.pick(known as [(typeof known)[number], ...typeof known]);
  return { ...one.name, email: one.email ?? '', number: `S-${FIRST_NUMBER + everyone.indexOf(one)}` };
};

/** An auction house's list of winners: names in capitals, a lot a row, some winners several times, a total at the end. */
const LOTS = [
  'Telescope for a night',
  'Quilt “Milky Way”',
  'Dinner under the dome',
  'Framed nebula',
  'Star party for ten',
];
const winners = Array.from({ length: 14 }, person);
const lots = Array.from({ length: 38 }, (_, at) => {
  const winner = at % 5 === 4 ? null : some.pick(winners as [(typeof winners)[number], ...typeof winners]);
  const [first, last] = winner ? [winner.first, winner.last] : [some.pick(FIRST), some.pick(LAST)];
  const value = some.whole(4, 30) * 10;
  const bid = value + some.whole(-2, 20) * 5;
  return [
    ...[String(101 + at), some.pick(LOTS as [string, ...string[]]), first.toUpperCase(), last.toUpperCase()],
    ...[winner?.email ?? '', `775-555-01${String(some.whole(0, 99)).padStart(2, '0')}`],
    ...[`$${bid}.00`, `$${value}.00`, some.pick(['VISA', 'Check', 'Cash']), '10/17/2026'],
  ];
});
const sum = lots.reduce((all, lot) => all + Number((lot[6] ?? '').replace(/[$,]/g, '')), 0);
await write(
  'auction-winners.csv',
  csv([
    [
      'Lot',
      'Item',
      'Bidder First',
      'Bidder Last',
      'Email',
      'Phone',
      'Winning Bid',
      'Fair Market Value',
      'Paid With',
      'Date',
    ],
    ...lots,
    ['', 'TOTAL', '', '', '', '', `$${sum.toLocaleString('en-US')}.00`, '', '', ''],
  ]),
);

/** A board member's guest list: notes above the headings, a merged title, whole names, an address in one cell. */
const guests = new ExcelJS.Workbook();
guests.created = guests.modified = new Date('2026-10-05T12:00:00Z');
const list = guests.addWorksheet('Guests');
list.addRow(['Dome dinner: my guests']);
list.mergeCells('A1:F1');
list.addRow(['Please seat the Larks together. Thanks! W.']);
list.addRow([]);
list.addRow(['Guest', 'Address', 'Telephone', 'Household', 'Diet', 'Notes']);
for (let at = 0; at < 24; at++) {
  const { first, last } = at % 3 === 0 ? { first: some.pick(FIRST), last: some.pick(LAST) } : person();
  list.addRow([
    `${last}, ${first}`,
    `${some.whole(1, 400)} Lyra St, Tansy Creek, NV 89901`,
    `775-555-01${String(some.whole(0, 99)).padStart(2, '0')}`,
    at % 6 < 2 ? `The ${last} Household` : '',
    some.pick(['', '', 'vegetarian', 'no nuts']),
    some.pick(['', '', '', 'Asked about the van']),
  ]);
}
await writeFile(join(folder, 'board-guest-list.xlsx'), Buffer.from(await guests.xlsx.writeBuffer()));

/** What a call team wrote down. */
const calls = Array.from({ length: 20 }, (_, at) => {
  const { number, first, last } = person();
  const came =
    ['Will give in spring', 'No answer', 'Left a message', 'Please do not call again', 'Pledged'][at % 5] ?? '';
  return [
    ...[number, `${first} ${last}`, came, at % 7 === 0 ? 'Asked after the telescope' : '', '10/20/2026'],
    ...[came.startsWith('Please') ? 'yes' : '', came === 'Pledged' ? '120' : ''],
  ];
});
await write(
  'call-team.csv',
  csv([
    ['Number', 'Name', 'What came of it', 'Note on the call', 'Day of the call', 'No calls', 'Pledge amount'],
    ...calls,
  ]),
);

/** Who is what to whom, by number. */
const ties = Array.from({ length: 12 }, (_, at) => [
  person().number,
  ['spouse', 'parent', 'friend', 'sibling'][at % 4] ?? '',
  person().number,
]);
await write('relationships.csv', csv([['Number', 'Relationship', 'Related Number'], ...ties]));

/** Rows of which something is wrong, each with what. */
const [one, two] = [person(), person()];
await write(
  'bad-rows.csv',
  csv([
    ['Number', 'First Name', 'Last Name', 'Email', 'Phone', 'Amount', 'Date', 'Fund', 'What is wrong'],
    ['', 'Good', 'Row', 'good.row@example.com', '775-555-0101', '25.00', '10/21/2026', '', 'nothing'],
    ['', 'No', 'Day', '', '', '25.00', '2/30/2026', '', 'no such day'],
    ['', 'To', 'Come', '', '', '25.00', '12/31/2099', '', 'a day to come'],
    ['', 'No', 'Amount', '', '', 'twenty', '10/21/2026', '', 'an amount in words'],
    ['', 'Other', 'Money', '', '', '25 CAD', '10/21/2026', '', 'another currency'],
    ['', 'Below', 'Zero', '', '', '-25.00', '10/21/2026', '', 'a refund'],
    ['', 'No', 'Fund', '', '', '25.00', '10/21/2026', 'Moon Base', 'no such fund'],
    ['', 'No', 'Mailbox', 'not an address', '', '25.00', '10/21/2026', '', 'no e-mail address'],
    ['', 'Slip', 'Mailbox', 'slip@gmial.com', '', '25.00', '10/21/2026', '', 'a slip in the domain'],
    ['', 'Few', 'Digits', '', '555', '25.00', '10/21/2026', '', 'too few digits'],
    ['', '', '', '', '', '25.00', '10/21/2026', '', 'nobody'],
    ['S-99999999', '', '', '', '', '25.00', '10/21/2026', '', 'no such number'],
    [one.number, two.first, two.last, '', '', '25.00', '10/21/2026', '', 'the number of somebody else'],
    ['', two.first, `Not${two.last}`, two.email, '', '25.00', '10/21/2026', '', 'the e-mail of somebody else'],
    ['', 'Bj?rn', 'Garbled', '', '', '25.00', '10/21/2026', '', 'a letter that came to harm'],
    ['', '', '#REF!', '', '', '25.00', '10/21/2026', '', 'a formula that failed'],
    ['', 'Grand Total', '', '', '', '400.00', '', '', 'a sum'],
  ]),
);
