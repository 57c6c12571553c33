import type { IntakeColumn } from '@tallystick/core/intake';
import type { IntakeSetting } from '@tallystick/contract/intake';
import { chunks, one } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { notFound } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import type { Settings } from '../settings/index.ts';
import { settingOf } from './cells.ts';
import { guessed, keepFile, keepRows } from './guess.ts';
import type { Intakes } from './intake.service.ts';
import { IntakeTable } from './intake.entity.ts';
import type { IntakeRecord } from './intake.entity.ts';
import { isGood } from './fates.ts';
import type { ParsedFile } from './parse.ts';
import type { Recipes } from './recipes.ts';

/** What rows that come without a file are: their columns, and how they are read where no recipe says otherwise. */
export interface Gathering {
  name: string;
  columns: readonly (readonly [heading: string, to: IntakeColumn])[];
  recipeId: number | null;
  /** Where they come from: numbers of supporters there are kept by it. */
  source: string;
}

/** Rows that come bit by bit from elsewhere rather than in a file, and are brought in as a file is. */
export class Gathered {
  constructor(
    private readonly sql: Sql,
    private readonly intakes: Intakes,
    private readonly settings: Settings,
    private readonly recipes: Recipes,
  ) {}

  /** Whether rows can still be added to an intake; it is locked until the transaction ends. */
  async isOpen(tx: Transaction, id: number | null): Promise<boolean> {
    return id !== null && (await tx.lock(IntakeTable, [id])).get(id)?.state === 'open';
  }

  /** Those of some intakes that are still open. */
  async areOpen(ids: readonly number[], sql: Sql = this.sql): Promise<Set<number>> {
    const open = new Set<number>();
    for (const slice of chunks(ids))
      for (const { id } of await sql.rows<{ id: number }>(`SELECT id FROM intake WHERE id IN (?) AND state = 'open'`, [
        slice,
      ]))
        open.add(id);
    return open;
  }

  async hasRecipe(id: number): Promise<boolean> {
    return (await this.recipes.list()).some((one) => one.id === id);
  }

  /** Adds rows to an intake that is open, or to a new one where `into` is null; answers it, and the place of each row. */
  async add(
    tx: Transaction,
    into: number | null,
    { name, columns, recipeId, source }: Gathering,
    cells: readonly (readonly string[])[],
  ): Promise<{ id: number; places: number[] }> {
    if (into !== null) return { id: into, places: await this.append(tx, into, cells) };
    const rows = cells.map((row, at) => ({ row: at + 1, cells: [...row] }));
    const file: ParsedFile = {
      ...{ format: 'objects', encoding: '', readings: [], separator: '', labels: {}, startRow: 0, remarks: [] },
      ...{ headings: columns.map(([heading]) => heading), columns: columns.map(([, to]) => to), rows, sheets: [] },
    };
    const guess = await guessed(file, tx.sql, this.settings, this.recipes, recipeId);
    // Whatever a recipe says of files, these are written in one way.
    const setting = { ...guess.setting, decimal: '.' as const, dateOrder: null, source };
    return {
      id: await keepFile(tx, { name, file, setting, recipeId: guess.recipeId }),
      places: rows.map(({ row }) => row),
    };
  }

  private async append(tx: Transaction, id: number, cells: readonly (readonly string[])[]): Promise<number[]> {
    const last = await one<{ row: number | null }>(
      tx.sql,
      'SELECT MAX(row_no) AS `row` FROM intake_row WHERE intake_id = ?',
      [id],
    );
    const places = cells.map((_, at) => (last?.row ?? 0) + at + 1);
    await keepRows(
      tx.sql,
      id,
      cells.map((row, at) => ({ row: places[at] ?? 0, cells: row })),
    );
    await this.recount(tx, id);
    return places;
  }

  private async recount(tx: Transaction, id: number): Promise<void> {
    const rows = await one<{ many: number }>(tx.sql, 'SELECT COUNT(*) AS many FROM intake_row WHERE intake_id = ?', [
      id,
    ]);
    await tx.update(IntakeTable, id, { row_total: rows?.many ?? 0 });
  }

  /**
   * The rows of an intake that a person must look at before they can be brought in, by their places; how many need not
   * be looked at, and how many of those would be brought in.
   */
  async unsure(id: number, sql: Sql): Promise<{ places: number[]; sure: number; good: number }> {
    const { rows, questions } = await this.intakes.judge(id, sql);
    // What is open about the file is open about each of its rows.
    const unsure = rows.filter((row) => questions.length > 0 || row.verdict === 'bad' || row.verdict === 'undecided');
    return {
      places: unsure.map(({ line }) => line.row),
      sure: rows.length - unsure.length,
      good: questions.length > 0 ? 0 : rows.filter(isGood).length,
    };
  }

  /** Closes an intake whose rows are all recorded before, or left out by how it is read. */
  async close(tx: Transaction, id: number): Promise<void> {
    await tx.update(IntakeTable, id, { state: 'posted', report: 'Nothing was added or changed.' });
  }

  /** What somebody wrote in cells of rows goes along with them. */
  private async carryEdits(
    tx: Transaction,
    edits: IntakeSetting['edits'],
    into: number,
    places: ReadonlyMap<number, number>,
  ): Promise<void> {
    const carried = Object.entries(edits).flatMap(([cell, value]) => {
      const [row, column] = cell.split(':');
      const place = places.get(Number(row));
      return place === undefined ? [] : [[`${place}:${column}`, value] as const];
    });
    const target = carried.length > 0 && (await tx.lock(IntakeTable, [into])).get(into);
    if (!target) return;
    const setting = settingOf(target as IntakeRecord);
    const all = { ...setting, edits: { ...setting.edits, ...Object.fromEntries(carried) } };
    await tx.update(IntakeTable, into, { setting: JSON.stringify(all) });
  }

  /** Takes an intake away that has no rows any more. */
  async drop(tx: Transaction, id: number): Promise<void> {
    await tx.removeAll(IntakeTable, [id]);
  }

  /**
   * Moves rows to another intake, which is read as theirs where it is new; of one that was brought in they are copies.
   * Answers the other, and the new place of each row.
   */
  async move(
    tx: Transaction,
    from: number,
    into: number | null,
    wanted: readonly number[],
    name: string,
  ): Promise<{ id: number; places: Map<number, number> }> {
    const source = (await tx.lock(IntakeTable, [from])).get(from) as IntakeRecord | undefined;
    if (!source) throw notFound('This intake');
    const moved = await tx.sql.rows<{ row: number; cells: string }>(
      'SELECT row_no AS `row`, cells FROM intake_row WHERE intake_id = ? AND row_no IN (?) ORDER BY row_no',
      [from, [...wanted]],
    );
    const { id: _id, version: _version, ...rest } = source;
    // What was chosen for rows goes by their places, which are others now; what was written in them comes below.
    const setting = JSON.stringify({ ...settingOf(source), picks: {}, edits: {} });
    const id =
      into ??
      (await tx.insert(IntakeTable, {
        ...rest,
        name,
        at: tx.at,
        actor: tx.actor.name,
        setting,
        state: 'open',
        report: null,
      }));
    const fresh = await this.append(
      tx,
      id,
      moved.map(({ cells }) => JSON.parse(cells) as string[]),
    );
    if (source.state === 'open') {
      await tx.sql.run('DELETE FROM intake_row WHERE intake_id = ? AND row_no IN (?)', [from, [...wanted]]);
      await this.recount(tx, from);
    }
    const places = new Map(moved.map(({ row }, at) => [row, fresh[at] ?? 0]));
    await this.carryEdits(tx, settingOf(source).edits, id, places);
    return { id, places };
  }
}
