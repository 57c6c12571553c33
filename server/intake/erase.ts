import { fold, mentions } from '@tallystick/core/names';
import type { Sql } from '../platform/db.ts';
import type { Erased, EraseOthers } from '../platform/tables.ts';
import { cellsReader, settingOf } from './cells.ts';

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
    await eraseMended(sql, id, kept.setting, erased);
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

/** Takes what cells were changed to, and what values were translated, out where it names an erased supporter. */
async function eraseMended(sql: Sql, id: number, kept: string, erased: readonly Erased[]): Promise<void> {
  const setting = settingOf({ setting: kept });
  const names = (texts: readonly string[]): boolean => erased.some((one) => mentions(texts, one));
  const rowOf = (key: string): string => key.slice(0, key.indexOf(':'));
  const byRow = new Map<string, string[]>();
  for (const [key, text] of Object.entries(setting.edits))
    byRow.set(rowOf(key), [...(byRow.get(rowOf(key)) ?? []), text]);
  const edits = Object.entries(setting.edits).filter(([key]) => !names(byRow.get(rowOf(key)) ?? []));
  const care = Object.entries(setting.care).map(([at, { translate = {}, ...other }]): [string, typeof other] => [
    at,
    { ...other, ...within(Object.entries(translate).filter((pair) => !pair.some((text) => isName(text, erased)))) },
  ]);
  const cleaned = JSON.stringify({ ...setting, edits: Object.fromEntries(edits), care: Object.fromEntries(care) });
  if (cleaned !== JSON.stringify(setting)) await sql.run('UPDATE intake SET setting = ? WHERE id = ?', [cleaned, id]);
}

/** Whether a value is a name of somebody who is erased, whole or in part. */
const isName = (value: string, erased: readonly Erased[]): boolean =>
  erased.some(({ first, last, texts }) =>
    [first, last, ...texts].some((text) => text !== '' && fold(text) === fold(value)),
  );

const within = (translations: readonly (readonly [string, string])[]): { translate?: Record<string, string> } =>
  translations.length === 0 ? {} : { translate: Object.fromEntries(translations) };
