import { mentions } from '@tallystick/core/names';
import type { SheetRow } from '@tallystick/core/sheets';
import type { EraseOthers } from '../platform/tables.ts';

/**
 * Empties the rows of posted sheets in which an erased supporter was typed: what became of them is in the gifts. An
 * open sheet is left as it is, since it is somebody's work; it names known supporters by number alone.
 */
export const eraseSheetRows: EraseOthers = async (sql, erased) => {
  const ids = new Set(erased.map((one) => one.id));
  const sheets = await sql.rows<{ id: number }>(`SELECT id FROM sheet WHERE state = 'posted'`);
  for (const { id } of sheets) {
    const rows = await sql.rows<{ row_key: string; content: string }>(
      'SELECT row_key, content FROM sheet_row WHERE sheet_id = ?',
      [id],
    );
    for (const { row_key, content } of rows) {
      const row: Omit<SheetRow, 'key'> = JSON.parse(content);
      const named = row.supporterId !== null && ids.has(row.supporterId);
      if (!named && !erased.some((one) => mentions(Object.values(row.cells), one))) continue;
      const emptied = { ...row, supporterId: null, cells: {}, change: [] };
      await sql.run('UPDATE sheet_row SET content = ? WHERE sheet_id = ? AND row_key = ?', [
        JSON.stringify(emptied),
        id,
        row_key,
      ]);
    }
  }
};
