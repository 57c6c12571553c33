import { once } from 'node:events';
import ExcelJS from 'exceljs';
import { Piscina } from 'piscina';
import { describe, expect, it } from 'vitest';
import type { TableFile } from './csv.ts';
import { handedOut, workbookOf } from './workbook.ts';
import type { Rows } from './workbook.ts';

const columns: TableFile['columns'] = [
  { heading: 'Name', kind: 'text' },
  { heading: 'Given', kind: 'money' },
  { heading: 'Since', kind: 'day' },
  { heading: 'Gifts', kind: 'count' },
];

async function opened(bytes: Uint8Array): Promise<ExcelJS.Workbook> {
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(Buffer.from(bytes).buffer as ArrayBuffer);
  return book;
}

describe('a workbook', () => {
  it('has a sheet for each table, with real numbers and days, and texts that stay texts', async () => {
    const table = {
      columns,
      rows: [
        ['=1+1', 123_450, '2026-03-14', 7],
        ['007', null, '', 0],
      ],
    };
    const bytes = await workbookOf([
      { name: 'People', table },
      { name: 'Held back', table: { columns, rows: [] } },
    ]);
    const book = await opened(bytes);
    expect(book.worksheets.map(({ name, rowCount }) => [name, rowCount])).toEqual([
      ['People', 3],
      ['Held back', 1],
    ]);
    const sheet = book.getWorksheet('People');
    const cells = (row: number) => [1, 2, 3, 4].map((at) => sheet?.getCell(row, at).value);
    expect([1, 2, 3].map(cells)).toEqual([
      ['Name', 'Given', 'Since', 'Gifts'],
      ['=1+1', 1234.5, new Date('2026-03-14T00:00:00Z'), 7],
      ['007', null, null, 0],
    ]);
    expect([1, 2, 3].map((at) => sheet?.getCell(2, at).numFmt)).toEqual(['@', '#,##0.00', 'yyyy-mm-dd']);
    expect([sheet?.getCell(1, 1).font?.bold, sheet?.views[0]]).toEqual([
      true,
      expect.objectContaining({ state: 'frozen', ySplit: 1 }),
    ]);
  });

  it('of many rows takes little more room than its file', async () => {
    const many = 25_000;
    const wide: TableFile['columns'] = Array.from({ length: 14 }, (_, at) => ({ heading: `H${at}`, kind: 'text' }));
    const rows = Array.from({ length: many }, (_, row) => wide.map((_column, at) => `Text ${row % 977} of ${at}`));
    const thread = new Piscina({
      filename: new URL('./pool-task.mjs', import.meta.url).href,
      maxThreads: 1,
      resourceLimits: { maxOldGenerationSizeMb: 160 },
    });
    try {
      const { asked, end } = handedOut([{ name: 'Everyone', table: { columns: wide, rows } }]);
      const script = new URL('./workbook.work.ts', import.meta.url).href;
      const bytes: Uint8Array = await thread.run({ script, given: asked }, { transferList: [asked.rows] });
      end();
      const book = await opened(bytes);
      const sheet = book.getWorksheet('Everyone');
      expect([sheet?.rowCount, sheet?.getCell(many + 1, 14).value]).toEqual([
        many + 1,
        `Text ${(many - 1) % 977} of 13`,
      ]);
    } finally {
      await thread.destroy();
    }
  });

  it('is given its rows some at a time, as its thread asks', async () => {
    const rows = (many: number) => Array.from({ length: many }, (_, row) => [`Row ${row}`, null, null, row]);
    const { asked, end } = handedOut([
      { name: 'Many', table: { columns, rows: rows(1_201) } },
      { name: 'None', table: { columns, rows: [] } },
      { name: 'One', table: { columns, rows: rows(1) } },
    ]);
    expect(asked.sheets).toEqual(['Many', 'None', 'One'].map((name) => ({ name, columns })));
    const given: Rows[] = [];
    do {
      asked.rows.postMessage('more');
      const [next] = (await once(asked.rows, 'message')) as [Rows];
      given.push(next);
    } while (given.at(-1) !== null);
    end();
    expect(given.map((one) => one && [one.sheet, one.rows.length])).toEqual([
      [0, 500],
      [0, 500],
      [0, 201],
      [2, 1],
      null,
    ]);
    expect(given.flatMap((one) => (one?.sheet === 0 ? one.rows : []))).toEqual(rows(1_201));
  });
});
