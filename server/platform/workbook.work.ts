import { PassThrough } from 'node:stream';
import ExcelJS from 'exceljs';
import type { CellKind, TableFile } from './csv.ts';
import { othersTurn } from './turns.ts';

const FORMATS: Partial<Record<CellKind, string>> = { money: '#,##0.00', day: 'yyyy-mm-dd', text: '@' };

/** So many rows are written before what stands is packed. */
const AT_ONCE = 500;

/**
 * A workbook with a sheet for each table; every cell has the type of its field, and text is text whatever it begins
 * with. Rows are packed as they are written, so that a table of everybody takes no more room than its file.
 */
export async function work(tables: { name: string; table: TableFile }[]): Promise<Uint8Array> {
  const packed: Buffer[] = [];
  const stream = new PassThrough().on('data', (part: Buffer) => packed.push(part));
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream, useStyles: true });
  for (const { name, table } of tables) {
    const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
    for (const [at, { kind }] of table.columns.entries()) {
      const format = FORMATS[kind];
      if (format !== undefined) sheet.getColumn(at + 1).numFmt = format;
    }
    const headings = sheet.addRow(table.columns.map(({ heading }) => heading));
    headings.font = { bold: true };
    headings.commit();
    for (const [at, row] of table.rows.entries()) {
      sheet.addRow(row.map((cell, at) => cellOf(cell, table.columns[at]?.kind ?? 'text'))).commit();
      if (at % AT_ONCE === AT_ONCE - 1) await othersTurn();
    }
    sheet.commit();
  }
  await book.commit();
  return new Uint8Array(Buffer.concat(packed));
}

function cellOf(cell: string | number | null, kind: CellKind): string | number | Date | null {
  if (cell === null || cell === '') return null;
  if (kind === 'money') return Number(cell) / 100;
  if (kind === 'count') return Number(cell);
  return kind === 'day' ? new Date(`${cell}T00:00:00Z`) : String(cell);
}
