import { once } from 'node:events';
import { PassThrough } from 'node:stream';
import ExcelJS from 'exceljs';
import type { CellKind, TableFile } from './csv.ts';
import type { Asked, Rows } from './workbook.ts';

const FORMATS: Partial<Record<CellKind, string>> = { money: '#,##0.00', day: 'yyyy-mm-dd', text: '@' };

/**
 * A workbook with a sheet for each table; every cell has the type of its field, and text is text whatever it begins
 * with. Rows are asked for, and packed as they are written, so that a table of everybody takes no more room than its file.
 */
export async function work({ sheets, rows }: Asked): Promise<Uint8Array> {
  const packed: Buffer[] = [];
  const stream = new PassThrough().on('data', (part: Buffer) => packed.push(part));
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream, useStyles: true });
  const next = async (): Promise<Rows> => {
    rows.postMessage('more');
    const [given] = (await once(rows, 'message')) as [Rows];
    return given;
  };
  try {
    let given = await next();
    for (const [place, { name, columns }] of sheets.entries()) {
      const sheet = begun(book, name, columns);
      for (; given?.sheet === place; given = await next())
        for (const row of given.rows)
          sheet.addRow(row.map((cell, at) => cellOf(cell, columns[at]?.kind ?? 'text'))).commit();
      sheet.commit();
    }
    await book.commit();
    return new Uint8Array(Buffer.concat(packed));
  } finally {
    rows.close();
  }
}

/** A sheet with its headings. */
function begun(
  book: ExcelJS.stream.xlsx.WorkbookWriter,
  name: string,
  columns: TableFile['columns'],
): ExcelJS.Worksheet {
  const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
  for (const [at, { kind }] of columns.entries()) {
    const format = FORMATS[kind];
    if (format !== undefined) sheet.getColumn(at + 1).numFmt = format;
  }
  const headings = sheet.addRow(columns.map(({ heading }) => heading));
  headings.font = { bold: true };
  headings.commit();
  return sheet;
}

function cellOf(cell: string | number | null, kind: CellKind): string | number | Date | null {
  if (cell === null || cell === '') return null;
  if (kind === 'money') return Number(cell) / 100;
  if (kind === 'count') return Number(cell);
  return kind === 'day' ? new Date(`${cell}T00:00:00Z`) : String(cell);
}
