import ExcelJS from 'exceljs';
import { harmless } from '../platform/csv.ts';

/** A workbook of one sheet; amounts and counts are numbers, everything else text. */
export async function work({
  headings,
  rows,
}: {
  headings: string[];
  rows: (string | number | null)[][];
}): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet('Supporters', { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.addRow(headings).font = { bold: true };
  for (const row of rows)
    sheet.addRow(
      row.map((cell) => (typeof cell === 'string' && /^-?\d+\.\d{2}$/.test(cell) ? Number(cell) : harmless(cell))),
    );
  return new Uint8Array(await book.xlsx.writeBuffer());
}
