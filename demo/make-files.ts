import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import iconv from 'iconv-lite';
import { Chance } from './random.ts';
import { makeSupporters } from './supporters.ts';
import { FIRST, LAST } from './words.ts';

/*
 * Writes the sample files of demo/files. They are checked in; run this only to change them. Some givers of the
 * portal's export are supporters of the demo, by e-mail.
 */
const chance = new Chance(99);
const known = makeSupporters(2400, new Chance(20_260_701)).filter(
  (one) => one.email !== null && one.name.kind === 'person',
);
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
