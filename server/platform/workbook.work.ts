import ExcelJS from 'exceljs';
import type { CellKind, TableFile } from './csv.ts';

const FORMATS: Partial<Record<CellKind, string>> = { money: '#,##0.00', day: 'yyyy-mm-dd', text: '@' };

/** A workbook with a sheet for each table; every cell has the type of its field, and text is text whatever it begins with. */
export async function work(tables: { name: string; table: TableFile }[]): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  for (const { name, table } of tables) {
    const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
    sheet.addRow(table.columns.map(({ heading }) => heading)).font = { bold: true };
    for (const [at, { kind }] of table.columns.entries()) {
      const format = FORMATS[kind];
      if (format !== undefined) sheet.getColumn(at + 1).numFmt = format;
    }
    for (const row of table.rows) sheet.addRow(row.map((cell, at) => cellOf(cell, table.columns[at]?.kind ?? 'text')));
  }
  return new Uint8Array(await book.xlsx.writeBuffer());
}

function cellOf(cell: string | number | null, kind: CellKind): string | number | Date | null {
  if (cell === null || cell === '') return null;
  if (kind === 'money') return Number(cell) / 100;
  if (kind === 'count') return Number(cell);
  return kind === 'day' ? new Date(`${cell}T00:00:00Z`) : String(cell);
}
