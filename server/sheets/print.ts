import { formatDate } from '@tallystick/core/dates';
import { formatMoney } from '@tallystick/core/money';
import { cellOf, isEmptyRow, sheetHeading, summaryOf } from '@tallystick/core/sheets';
import { counted } from '@tallystick/core/words';
import { tablePdf } from '../letters/index.ts';
import { fieldsIn } from '../settings/index.ts';
import { columnsOf } from './sheets.service.ts';
import type { Sheets } from './sheets.service.ts';

/** Widths of the row's number and the supporter's number, as the columns of a sheet have theirs. */
const [ROW, NUMBER, LEAST] = [36, 84, 70];

/** The sheet on paper for the file: what was typed, and what the record has of known supporters. */
export async function printSheet(sheets: Sheets, id: number): Promise<{ name: string; pdf: Buffer }> {
  const { sheet, checked } = await sheets.checked(id);
  const columns = columnsOf(sheet.columns).filter((column) => !column.hidden);
  const rows = (await sheets.rows(id)).filter((row) => !isEmptyRow(row));
  const ids = [...new Set(rows.flatMap((row) => row.supporterId ?? []))];
  const people = new Map((await sheets.people(ids)).map((one) => [one.id, one]));
  const summary = summaryOf(checked);
  const { name: organization, ...formats } = await sheets.settings.organization();
  const money = (cents: number): string => formatMoney(cents, formats);
  const own = await fieldsIn(sheets.sql);
  const gifts = counted(summary.gifts, 'gift');
  const expected = [
    sheet.expected_count ?? 'no number given',
    sheet.expected_cents === null ? 'no amount given' : money(sheet.expected_cents),
  ];
  const pdf = await tablePdf({
    title: sheet.name,
    facts: [
      organization,
      `Begun ${formatDate(sheet.opened_on, formats)} by ${sheet.owner}; ${sheet.state === 'posted' ? 'posted' : 'not posted'}`,
      `${gifts}, ${money(summary.cents)}; expected: ${expected.join(', ')}`,
    ],
    columns: [
      { heading: 'Row', share: ROW, right: true },
      { heading: 'Number', share: NUMBER },
      ...columns.map(({ field, width }) => ({
        heading: sheetHeading(field, own),
        share: Math.max(LEAST, width),
        right: field === 'amount',
      })),
    ],
    rows: rows.map((row, index) => [
      String(index + 1),
      row.supporterId === null ? 'new' : `S-${row.supporterId}`,
      ...columns.map((column) => {
        const known = row.supporterId === null ? undefined : people.get(row.supporterId)?.cells[column.field];
        return row.change.includes(column.field) ? cellOf(row, column) : (known ?? cellOf(row, column));
      }),
    ]),
    sums: [['', '', ...columns.map((column) => (column.field === 'amount' ? money(summary.cents) : ''))]],
    landscape: columns.length > 5,
  });
  return { name: sheet.name, pdf };
}
