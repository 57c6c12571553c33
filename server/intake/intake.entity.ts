import type { Row } from '@tallystick/core/changes';
import { long, maybe, outside, ref, setUp, stamp, table, text, whole } from '../platform/tables.ts';
import type { RowOf } from '../platform/tables.ts';
import { eraseIntakeRows } from './erase.ts';

/** How a file is read, without what its cells were changed to and its values translated: people are named there. */
function withoutCells(row: Row): Row {
  if (typeof row['setting'] !== 'string') return row;
  const setting: Record<string, unknown> = JSON.parse(row['setting']);
  const { edits: _edits, care: _care, ...rest } = setting;
  return { ...row, setting: JSON.stringify(rest) };
}

export const IntakeTable = table(
  'intake',
  { ...setUp('intake', 'Intake'), forgets: withoutCells },
  {
    name: text(190),
    at: stamp,
    actor: text(120),
    state: text<'open' | 'posted'>(12),
    format: text<'text' | 'workbook' | 'cards' | 'objects'>(12),
    encoding: text(40),
    readings: maybe(long),
    separator_char: text(1),
    /** What stands over the columns where no row of the file does, as JSON; else an empty list. */
    headings: long,
    remarks: long,
    row_total: whole,
    setting: long,
    recipe_id: maybe(ref),
    report: maybe(text(1000)),
  },
);
export type IntakeRecord = RowOf<typeof IntakeTable>;
outside('intake_row', 'the file itself, as it came; bringing it in is the change', eraseIntakeRows);

/** How files of one source are read, by the headings of their columns. */
export const RecipeTable = table('intake_recipe', setUp('intake', 'Recipe for files'), {
  name: text(80).says('Name'),
  actor: text(120),
  recipe: long,
});
export type RecipeRecord = RowOf<typeof RecipeTable>;
