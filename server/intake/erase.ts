import { mentions } from '@tallystick/core/names';
import { cellsReader } from './cells.ts';
import type { EraseOthers } from '../platform/tables.ts';

const AT_ONCE = 5_000;

/**
 * Empties the rows of files that were brought in and name an erased supporter: what became of them is in the records.
 * A file that still waits is left as it came.
 */
export const eraseIntakeRows: EraseOthers = async (sql, erased) => {
  const intakes = await sql.rows<{ id: number; last: number | null; readings: string | null; setting: string }>(
    `SELECT id, (SELECT MAX(row_no) FROM intake_row r WHERE r.intake_id = i.id) AS last, readings, setting
     FROM intake i WHERE state = 'posted'`,
  );
  for (const { id, last, ...kept } of intakes) {
    const read = cellsReader(kept);
    for (let from = 0; from <= (last ?? 0); from += AT_ONCE) {
      const rows = await sql.rows<{ row_no: number; cells: string }>(
        'SELECT row_no, cells FROM intake_row WHERE intake_id = ? AND row_no > ? AND row_no <= ?',
        [id, from, from + AT_ONCE],
      );
      for (const { row_no, cells } of rows) {
        const parsed = read(cells);
        if (!erased.some((one) => mentions(parsed, one))) continue;
        await sql.run('UPDATE intake_row SET cells = ? WHERE intake_id = ? AND row_no = ?', [
          JSON.stringify(parsed.map(() => '')),
          id,
          row_no,
        ]);
      }
    }
  }
};
