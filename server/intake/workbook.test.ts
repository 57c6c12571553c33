import ExcelJS from 'exceljs';
import { unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { readWorkbook } from './workbook.ts';

async function workbook(fill: (book: ExcelJS.Workbook) => void): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  fill(book);
  return new Uint8Array(await book.xlsx.writeBuffer());
}
/** The same workbook with its parts packed in another order. */
function repacked(bytes: Uint8Array, order: (names: string[]) => string[]): Uint8Array {
  const parts = unzipSync(bytes);
  return zipSync(Object.fromEntries(order(Object.keys(parts)).map((name) => [name, parts[name] ?? new Uint8Array()])));
}

describe('a workbook that is brought', () => {
  it('is read the same whatever the order of its parts, its sheets in their own', async () => {
    const bytes = await workbook((book) => {
      book.addWorksheet('Gala').addRow(['Last', 'Bjørn']);
      book.addWorksheet('Codes & more').addRows([['Last'], ['Snow'], ['Hail']]);
      book.addWorksheet('Empty');
    });
    const expected = [
      { name: 'Gala', rows: [{ row: 1, cells: ['Last', 'Bjørn'] }] },
      { name: 'Codes & more', rows: ['Last', 'Snow', 'Hail'].map((cell, at) => ({ row: at + 1, cells: [cell] })) },
    ];
    const orders = [
      (names: string[]) => names,
      (names: string[]) => names.toReversed(),
      (names: string[]) => names.toSorted(),
      (names: string[]) => names.toSorted((a, b) => Number(b.includes('sheet')) - Number(a.includes('sheet'))),
      (names: string[]) => names.toSorted((a, b) => Number(a.includes('workbook')) - Number(b.includes('workbook'))),
    ];
    for (const order of orders)
      for (let again = 0; again < 10; again++)
        expect((await readWorkbook(repacked(bytes, order), 100)).sheets).toEqual(expected);
  });

  it('keeps every letter, wherever the pieces that it is read in end', async () => {
    const names = Array.from({ length: 6_000 }, (_, at) => `${'ø'.repeat(1 + (at % 7))}e Čapková ${at} 🌌`);
    const bytes = await workbook((book) => book.addWorksheet('People').addRows(names.map((name) => [name])));
    const [sheet] = (await readWorkbook(bytes, 10_000)).sheets;
    expect(sheet?.rows.map(({ cells }) => cells[0])).toEqual(names);
  });

  it('may name its parts from the root of the file', async () => {
    const bytes = await workbook((book) => book.addWorksheet('People').addRow(['Snow']));
    const parts = unzipSync(bytes);
    const rels = 'xl/_rels/workbook.xml.rels';
    const text = new TextDecoder().decode(parts[rels]).replace(/Target="worksheets/g, 'Target="/xl/worksheets');
    const { sheets } = await readWorkbook(zipSync({ ...parts, [rels]: new TextEncoder().encode(text) }), 10);
    expect(sheets).toEqual([{ name: 'People', rows: [{ row: 1, cells: ['Snow'] }] }]);
  });
});
