import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addPerson, openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* What files hold that nobody meant, and what is said of it before anything is written. */

let test: TestApp;
let trashed = 0;
beforeAll(async () => {
  test = await openTestApp();
  trashed = await addPerson(test, { first: 'Gone', last: 'Away' });
  await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [trashed] }, act: { do: 'trash' } });
});
afterAll(() => test.close());

interface Told {
  items: { verdict: string; says: string; warnings: { reason: string }[] }[];
  counts: { cents: number };
  questions: { about: string; says: string }[];
}
/** A file in one line: refused with the reason, or what becomes of each row, the sum, and what is asked. */
async function told(bytes: string | Buffer): Promise<string> {
  const { status, body } = await test.call('POST', '/intakes?name=odd.csv', undefined, { raw: Buffer.from(bytes) });
  if (status !== 200) return `${status} ${(body['error'] as { message: string }).message}`;
  const found = await test.call('GET', `/intakes/${String(body['id'])}/rows?limit=10`);
  const { items, counts, questions } = found.body as unknown as Told;
  const rows = items.map(({ verdict, says, warnings }) =>
    [verdict, ...(verdict === 'bad' ? [says] : []), ...warnings.map(({ reason }) => `~ ${reason}`)].join(' '),
  );
  return [rows.join(' | '), String(counts.cents), ...questions.map(({ about }) => `? ${about}`)].join(' ; ');
}
type Case = readonly [what: string, made: string | Buffer, told: RegExp];
const each = (cases: readonly Case[]): void =>
  it.each(cases)('%s', async (_, made, expected) => expect(await told(made)).toMatch(expected));

const utf16 = (text: string, big: boolean): Buffer => {
  const bytes = Buffer.from(`\uFEFF${text}`, 'utf16le');
  return big ? bytes.swap16() : bytes;
};
const gift = (amount: string, date = '2026-11-02'): string => `Last name,Amount,Date\nCruz,"${amount}","${date}"\n`;
const rows = (...lines: string[]): string => `${lines.join('\n')}\n`;
const NOT_TEXT = /^400 This is not a text file/;
const NOBODY = /^bad The row has no name, number or e-mail/;

describe('bytes that are no file of rows', () =>
  each([
    ['nothing', '', /^400 The file is empty/],
    ['a mark alone', '\uFEFF', /^400 .*no headings/],
    ['empty lines', '\n\n\n', /^400 .*no headings/],
    ['spaces', '   ', /^400 .*no headings/],
    ['headings alone', 'Last name,Amount\n', /^400 .*headings and no rows/],
    ['a NUL', 'Last name,Amount\nCru\0z,5\n', NOT_TEXT],
    ['a PDF', '%PDF-1.7 x', NOT_TEXT],
    ['a picture', Buffer.from('\u0089PNG\r\n', 'latin1'), NOT_TEXT],
    ['a photograph', Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0, 1]), NOT_TEXT],
    ['a moving picture', 'GIF89a,x\n1,2', NOT_TEXT],
    [
      'a workbook with a password',
      Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1, 0, 0]),
      /^400 .*password/,
    ],
    ['half a workbook', Buffer.from('PK\u0003\u0004broken', 'latin1'), /^400 The workbook is damaged/],
    [
      'a quotation mark that is never closed',
      rows('Last name,Amount', '"Cruz,5', 'Moor,6'),
      /^400 .*line 2 is never closed/,
    ],
    ['too many columns', rows(Array.from({ length: 201 }, (_, at) => `c${at}`).join(','), 'x'), /^400 .*201 columns/],
    ['broken JSON', '{"Last name":"Cruz"\n{"Last name":"Moor"}\n', /^400 Line 1 is no JSON object/],
    ['a card that does not end', 'BEGIN:VCARD\nVERSION:3.0\nFN:Ana Cruz\n', /^400 .*no card/],
  ]));

describe('how a text is written', () =>
  each([
    ['three ends of lines', 'Last name,Amount\r\nCruz,5\nMoor,6\rNash,7\r\n', /^new \| new \| new ; 1800/],
    ['quotes within quotes', 'Name,Amount\n"Ana ""Nan"" Cruz",5\n', /^new ; 500/],
    ['a stray quote', rows('Last name,Amount', 'Cr"uz,5', 'Moor,6'), /^new \| new ; 1100/],
    ['a mark before it', '\uFEFFLast name,Amount\nCruz,5\n', /^new ; 500$/],
    ['UTF-16, little end first', utf16('Last name,Amount\nCruz,5\n', false), /^new ; 500$/],
    ['UTF-16, big end first', utf16('Last name,Amount\nCruz,5\n', true), /^new ; 500$/],
    ['semicolons and a decimal comma', 'Last name;Amount;Date\nCruz;5,50;3/14/2026\n', /^new ; 550/],
    ['bars', 'Last name|Amount\nCruz|5\n', /^new ; 500/],
    ['tabs', 'Last name\tAmount\nCruz\t5\n', /^new ; 500/],
    ['no headings', 'Cruz,ana@example.org,5.00\nMoor,bo@example.org,6.00\n', /\? headings/],
    ['two columns of one name', rows('Last name,Amount,Amount', 'Cruz,5,6'), /\? columns/],
    [
      'more cells than columns',
      rows('Last name,Amount', 'Cruz,5,6'),
      /^bad The row has 3 cells where the heading has 2/,
    ],
    ['a row that was cut off', rows('Last name,Fund,Amount', 'Cruz'), /^bad .*its amount is cut off/],
    ['lines without anything', 'Last name,Amount\n\nCruz,5\n\nMoor,6\n', /^new \| new ; 1100/],
    ['JSON within JSON', '[{"Last name":"Cruz","Amount":{"value":5}}]', /\? columns/],
    ['a card of nobody', 'BEGIN:VCARD\nVERSION:3.0\nEND:VCARD\n', NOBODY],
  ]));

describe('days', () =>
  each([
    ['the 31st of February', gift('5', '31/02/2026'), /^bad .*is not a day/],
    ['the 30th of February', gift('5', '2026-02-30'), /^bad .*is not a day/],
    ['a year of two digits', gift('5', '3/14/26'), /^new ; 500$/],
    ['the day number of a spreadsheet', gift('5', '46115'), /^new ; 500$/],
    ['a month in letters', gift('5', '4-Mar-2026'), /^new ; 500$/],
    ['a day in words', gift('5', 'March 4, 2026'), /^new ; 500$/],
    ['no signs between', gift('5', '20260304'), /^new ; 500$/],
    ['slashes, the year first', gift('5', '2026/03/04'), /^new ; 500$/],
    ['an instant', gift('5', '2026-03-04T10:00:00Z'), /^new ; 500$/],
    ['a time of day', gift('5', '3/14/2026 10:15 AM'), /^new ; 500$/],
    ['one to come', gift('5', '2027-11-02'), /^bad .*in the future/],
    ['one far ahead, not a century before', gift('5', '2040-11-02'), /^bad .*in the future/],
    ['one of long ago', gift('5', '1899-12-31'), /^bad .*before 1900/],
    ['the year 26', gift('5', '0026-03-04'), /^bad .*is not a day/],
    ['no day', gift('5', 'soon'), /^bad .*is not a date/],
    ['days that can be read two ways', rows('Last name,Amount,Date', 'Cruz,5,3/4/2026', 'Moor,6,5/6/2026'), /\? dates/],
    ['a birthday to come, not a century before', rows('Last name,Birthday', 'Cruz,2027-01-01'), /^bad .*in the future/],
    ['a birthday of two digits', rows('Last name,Birthday', 'Cruz,3/14/61'), /^new ; 0$/],
  ]));

describe('amounts', () =>
  each([
    ['in words', gift('twenty-five'), /^bad .*is not an amount/],
    ['in pounds', gift('£25'), /^bad .*is in £/],
    ['in another dollar', gift('25 CAD'), /^bad .*is in CAD/],
    ['in brackets', gift('(25.00)'), /^bad .*is negative/],
    ['below zero', gift('-5'), /^bad .*is negative/],
    ['zero', gift('$0.00'), /^bad .*is zero/],
    ['missing', gift(''), /^bad The amount is missing/],
    ['with an exponent', gift('1e3'), /^bad .*is not an amount/],
    ['with three decimals', gift('25.999'), /^bad .*3 decimals/],
    ['without end', gift('∞'), /^bad .*is not an amount/],
    ['in percent', gift('5%'), /^bad .*is not an amount/],
    ['two at once', gift('5 and 6'), /^bad .*is not an amount/],
    ['too large', gift('99999999999999'), /^bad .*larger than any/],
    ['of a failed formula', rows('Last name,Amount', 'Cruz,#N/A'), /^bad .*formula failed/],
    ['with a decimal comma', gift('25,50'), /^new ; 2550$/],
    ['with points for thousands', gift('1.234,56'), /^new ; 123456$/],
    ['with spaces for thousands', gift('1 234.50'), /^new ; 123450$/],
    ['in our own currency by its code', gift('USD 25.00'), /^new ; 2500$/],
  ]));

describe('who', () =>
  each([
    ['nobody', rows('Last name,Amount', ',5'), NOBODY],
    ['a space that does not break', rows('Last name,Amount', '\u00a0,5'), NOBODY],
    ['a sign that is not seen', rows('Last name,Amount', '\u200b,5'), NOBODY],
    ['a word for no name', rows('Name,Amount', 'N/A,5'), /^bad .*reads as no name/],
    ['another', rows('Last name,Amount', 'unknown,5'), /^bad .*reads as no name/],
    ['one word', rows('Name,Amount', 'Anonymous,5'), /^new ~ “Anonymous” names nobody/],
    ['a sum of the others', rows('Last name,Amount', 'Cruz,5', 'Grand total,5'), /^new \| bad .*a sum of other rows/],
    ['a failed formula in capitals', rows('Last name,Amount', '#REF!,5'), /^bad .*formula failed/],
    ['a formula', rows('Last name,Amount', '=1+1,5'), /^new ~ .*reads as a formula/],
    ['a name that turns the line round', rows('Last name,Amount', 'Cru\u202Ez,5'), /^new ; 500$/],
    ['a name with a sign that rings', rows('Last name,Amount', 'Cr\u0007uz,5'), /^new ; 500$/],
    ['a name that is too long', rows('Last name,Amount', `${'x'.repeat(121)},5`), /^bad .*121 characters/],
    ['a name that lost a letter', rows('First name,Last name', 'Bj?rn,Cruz'), /^new ~ .*lost or changed a letter/],
    [
      'a name read in a wrong encoding',
      rows('First name,Last name', 'BjÃ¸rn,Cruz'),
      /^new ~ .*lost or changed a letter/,
    ],
    ['a number that is none', rows('Number,Amount', 'abc,5'), /^bad This is not a supporter number/],
    ['a number of nobody', rows('Number,Amount', 'S-99999999,5'), /^bad No supporter has this number/],
    ['the number zero', rows('Number,Amount', 'S-0,5'), /^bad No supporter has this number/],
    ['no e-mail address', rows('Last name,Email', 'Cruz,ana at example'), /^bad .*is not an e-mail/],
    ['two e-mail addresses', rows('Last name,Email', 'Cruz,a@example.org; b@example.org'), /^bad .*is not an e-mail/],
    ['an e-mail address with a space', rows('Last name,Email', 'Cruz,a b@example.org'), /^bad .*is not an e-mail/],
    ['an e-mail address with its name', rows('Last name,Email', 'Cruz,Ana <ana@example.org>'), /^new ~ Kept as ana@/],
    ['a slip in an e-mail address', rows('Last name,Email', 'Cruz,ana@gmial.com'), /^new ~ Is ana@gmail.com meant/],
    ['too few digits', rows('Last name,Phone', 'Cruz,555'), /^bad .*too few digits/],
    ['neither yes nor no', rows('Last name,Do not mail', 'Cruz,maybe'), /^bad .*neither yes nor no/],
    ['dead and not dead', rows('Last name,Deceased,Date of death', 'Cruz,no,2026-01-01'), /^bad .*both that they died/],
    ['a street that is too long', rows('Last name,Street', `Cruz,${'x'.repeat(201)}`), /^new ~ .*The rest is cut off/],
  ]));

describe('what a gift is', () => {
  each([
    ['for no fund of ours', rows('Last name,Amount,Fund', 'Cruz,5,No such'), /^bad There is no fund/],
    [
      'paid in no way known here',
      rows('Last name,Amount,Payment type', 'Cruz,5,barter'),
      /^bad .*not a payment method/,
    ],
    ['of no kind known here', rows('Last name,Amount,Gift type', 'Cruz,5,lot 7'), /^bad .*neither one-time/],
    ['twice in the file', rows('Last name,Amount,Transaction ID', 'Cruz,5,T1', 'Moor,6,T1'), /^new \| already ; 500$/],
    [
      'known by more than is kept, so that two would be one',
      rows('Last name,Amount,Transaction ID', `Cruz,5,${'T'.repeat(60)}1`, `Moor,6,${'T'.repeat(60)}2`),
      /^bad .*longest kept is 60.* \| bad .*longest kept is 60/,
    ],
  ]);
  it('of somebody in the trash', async () =>
    expect(await told(rows('Number,Amount', `S-${trashed},5`))).toMatch(/^bad .*is in the trash/));
});
