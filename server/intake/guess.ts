import { decimalMarkOfColumn } from '@tallystick/core/money';
import {
  believed,
  byRecipe,
  caresFor,
  fieldIn,
  looksLikeRow,
  matchContent,
  matchHeadings,
  recipeFor,
  USUAL_MATCHING,
} from '@tallystick/core/intake';
import type { IntakeSetting } from '@tallystick/contract/intake';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import { fieldsIn } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { AMONG_ROWS, decoded } from './cells.ts';
import { IntakeTable } from './intake.entity.ts';
import type { ParsedFile } from './parse.ts';
import type { Recipes } from './recipes.ts';

/* A file that comes is kept with the way in which it is likely to be read. */

export interface Guess {
  setting: IntakeSetting;
  recipeId: number | null;
}

/**
 * How a file is likely to be read: by a recipe for its columns, or what stands over them, and what they hold. `wanted`
 * is the recipe to take, of those that are kept; where it is left out the one that knows all columns.
 */
export async function guessed(
  file: ParsedFile,
  sql: Sql,
  settings: Settings,
  recipes: Recipes,
  wanted?: number | null,
): Promise<Guess> {
  const likely = file.readings[0];
  const read = (cell: string): string => (likely === undefined ? cell : decoded(cell, likely)).trim();
  const table = file.rows.filter(({ row }) => row >= file.startRow).map(({ cells }) => cells.map(read));
  const headings = file.headings ?? table[0] ?? [];
  const headed = file.headings !== null || !looksLikeRow(headings);
  const rows = file.headings === null && headed ? table.slice(1) : table;
  const own = [...(await fieldsIn(sql, 'supporter')), ...(await fieldsIn(sql, 'gift'))];
  const columns =
    file.columns ?? (headed ? believed(matchHeadings(headings, own), rows) : matchContent(rows, headings.length));
  const { funds } = await settings.choices();
  // The fund that was set up first is the general one as a rule; the page shows it and it can be changed.
  const [fund] = funds.filter((one) => !one.closed).sort((a, b) => a.id - b.id);
  if (!fund) throw new Problem(400, 'no-fund', 'There is no open fund to put gifts in; add one first.');
  const amounts = columns.flatMap((column, at) => (column !== null && fieldIn(column)?.field === 'amount' ? [at] : []));
  const setting: IntakeSetting = {
    ...{ columns, fundId: fund.id, dateOrder: null, headed: headed ? true : null, startRow: file.startRow },
    decimal: decimalMarkOfColumn(
      rows.flatMap((row) => amounts.map((at) => row[at] ?? '')),
      '.',
    ),
    care: caresFor(headed ? headings : [], columns, rows, file.labels),
    encoding: file.readings.length > 0 ? file.encoding : null,
    ...{
      // A list that comes back has what we work out ourselves, too.
      leaveRest: columns.includes('asOf'),
      picks: {},
      edits: {},
      made: [],
      same: {},
      source: '',
      expects: { gifts: null, cents: null },
      policies: { all: 'fill' },
      matching: { ...USUAL_MATCHING, fields: [] },
      known: 'use',
      strangers: 'add',
    },
  };
  const all = headed ? await recipes.list() : [];
  const kept = wanted == null ? recipeFor(all, headings) : all.find(({ id }) => id === wanted);
  return kept ? { setting: byRecipe(kept.recipe, headings, setting), recipeId: kept.id } : { setting, recipeId: null };
}

/** Keeps a file with how it is read; answers the id of the intake. */
export async function keepFile(
  tx: Transaction,
  { name, file, setting, recipeId }: { name: string; file: ParsedFile } & Guess,
): Promise<number> {
  const id = await tx.insert(IntakeTable, {
    ...{ name, at: tx.at, actor: tx.actor.name, state: 'open', format: file.format },
    encoding: file.encoding ?? file.readings[0] ?? '',
    readings: file.readings.length > 0 ? JSON.stringify(file.readings) : null,
    separator_char: file.separator,
    headings: file.headings ? JSON.stringify(file.headings) : AMONG_ROWS,
    remarks: JSON.stringify(file.remarks),
    row_total: file.rows.filter(({ row }) => row >= file.startRow).length,
    ...{ setting: JSON.stringify(setting), recipe_id: recipeId },
  });
  await keepRows(tx.sql, id, file.rows);
  return id;
}

/** Keeps rows of a file, as they came. */
export async function keepRows(
  sql: Sql,
  id: number,
  rows: readonly { row: number; cells: readonly string[] }[],
): Promise<void> {
  for (const slice of chunks(rows, 1000))
    await sql.run('INSERT INTO intake_row (intake_id, row_no, cells) VALUES ?', [
      slice.map(({ row, cells }) => [id, row, JSON.stringify(cells)]),
    ]);
}
