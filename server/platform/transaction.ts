import { difference } from '@tallystick/core/changes';
import type { Row, RowChange, Value } from '@tallystick/core/changes';
import { chunks } from './db.ts';
import type { SqlWithin } from './db.ts';
import type { Actor } from './actor.ts';
import { addJob } from './job-queue.ts';
import type { JobKind, JobRequest } from './job-queue.ts';
import { indexOf, isGuarded } from './guards.ts';
import type { Look, Touch } from './guards.ts';
import { insertEach } from './inserts.ts';
import type { Insert } from './inserts.ts';
import { codeOf, notFound, Problem } from './problem.ts';
import { ownerTable, tableNamed } from './tables.ts';
import type { AnyTable, NewRow, Patch, Table, TableRule } from './tables.ts';

interface Kept {
  id: number;
  version: number;
}

/** The rows written by one change set, through methods that note what each row was before. */
export class Transaction {
  readonly changes: RowChange[] = [];
  /** What each row that a guard is about was before this change set and is now, whole. */
  readonly written = new Map<string, Map<number, Touch>>();
  private readonly touched = new Set<number>();
  private readonly records = new Set<number>();
  /** Whom rows came to. */
  private readonly came = new Set<number>();
  private readonly fresh = new Set<number>();
  private readonly owners: { owner: number | null; other: number | null }[] = [];

  constructor(
    readonly sql: SqlWithin,
    readonly at: string,
    readonly actor: Actor,
  ) {}

  /** Stores new rows and gives their ids in the order of the rows. All have the columns of the first. */
  insertAll<R extends Kept>(table: Table<R>, rows: readonly NewRow<R>[]): Promise<number[]> {
    return this.insertRows(table, rows as readonly Row[]);
  }

  /** As `insertAll`, for columns that are known by name alone. */
  async insertRows(table: AnyTable, rows: readonly Row[]): Promise<number[]> {
    const ids: number[] = [];
    await insertEach(this.sql, rows, {
      ...intoTable(table, rows),
      returning: 'id',
      then: (made, some) => {
        for (const [at, row] of some.entries()) {
          const after = { ...row, id: made[at]?.id ?? 0 };
          ids.push(after.id);
          this.note({ table: table.name, id: after.id, before: null, after }, after);
        }
      },
    });
    return ids;
  }

  async insert<R extends Kept>(table: Table<R>, row: NewRow<R>): Promise<number> {
    const [id] = await this.insertAll(table, [row]);
    return id ?? 0;
  }

  /** The rows as they are now, locked until the change set ends. */
  lock<R extends Kept>(table: Table<R>, ids: readonly number[]): Promise<Map<number, R>> {
    return this.lockRows<R>(table, ids);
  }

  /** As `lock`, for columns that are known by name alone. */
  async lockRows<R extends { id: number } = Row & Kept>(
    table: AnyTable,
    ids: readonly number[],
  ): Promise<Map<number, R>> {
    const found = new Map<number, R>();
    for (const slice of chunks([...ids].sort((a, b) => a - b))) {
      const rows = await this.sql.rows<R>(`SELECT * FROM ${table.name} WHERE id IN (?) ORDER BY id FOR UPDATE`, [
        slice,
      ]);
      for (const row of rows) found.set(row.id, row);
    }
    return found;
  }

  /** Locks a row and refuses (409) when `version` is not the one it has now; answers the row. */
  expect<R extends Kept>(table: Table<R>, id: number, version: number, what: string): Promise<R> {
    return this.expectRow<R>(table, id, version, what);
  }

  /** As `expect`, for columns that are known by name alone. */
  async expectRow<R extends Kept = Row & Kept>(table: AnyTable, id: number, version: number, what: string): Promise<R> {
    const row = (await this.lockRows<R>(table, [id])).get(id);
    if (!row) throw notFound(what);
    if (row.version !== version)
      throw new Problem(
        409,
        'stale',
        `${what} was changed by someone else meanwhile; reload to see it. Nothing was saved.`,
      );
    return row;
  }

  /** Changes columns of a row; what is already so is not written. Throws a 404 where the row is gone. */
  async update<R extends Kept>(table: Table<R>, id: number, patch: Patch<R>): Promise<boolean> {
    return (await this.updateAll(table, [id], patch)) === 1;
  }

  /** Gives many rows the same values; answers how many differed. */
  updateAll<R extends Kept>(table: Table<R>, ids: readonly number[], patch: Patch<R>): Promise<number> {
    return this.rewrite(table, ids, patch as Row);
  }

  /** As `updateAll`, for columns that are known by name alone. */
  async rewrite(table: AnyTable, ids: readonly number[], patch: Row): Promise<number> {
    const current = await this.lockRows(table, ids);
    const differing: number[] = [];
    for (const id of ids) {
      const row = current.get(id);
      if (!row)
        throw new Problem(404, 'not-found', `A row of ${table.name.replace(/_/g, ' ')} (${id}) no longer exists.`);
      const differs = difference(row, patch);
      if (!differs) continue;
      differing.push(id);
      const tells = Object.fromEntries((table.rule.tells ?? []).map((column) => [column, row[column] ?? null]));
      const kept = { before: { ...tells, ...differs.before }, after: { ...tells, ...differs.after } };
      this.note({ table: table.name, id, ...kept }, row, { ...row, ...patch });
    }
    const columns = Object.keys(patch).filter((column) => column !== 'version');
    // The version of a record is raised once for the whole change set; see `bumpRecords`.
    const versions = table.rule.owner === 'id' ? '' : ', version = version + 1';
    for (const slice of chunks(differing))
      await this.sql.run(
        `UPDATE ${table.name} SET ${columns.map((column) => `${column} = ?`).join(', ')}${versions} WHERE id IN (?)`,
        [...columns.map((column) => patch[column] ?? null), slice],
      );
    return differing.length;
  }

  async removeAll(table: AnyTable, ids: readonly number[]): Promise<void> {
    const current = await this.lockRows(table, ids);
    // Rows may refer to others of their table (members to their household), which came before them.
    const newestFirst = [...ids].sort((a, b) => b - a);
    for (const slice of chunks(newestFirst))
      await this.sql.run(`DELETE FROM ${table.name} WHERE id IN (?) ORDER BY id DESC`, [slice]);
    for (const id of newestFirst) {
      const row = current.get(id);
      if (row) this.note({ table: table.name, id, before: row, after: null }, row);
    }
  }

  /** Takes a row away that nothing else refers to; says (409) `inUse` where something does. */
  async removeUnused(table: AnyTable, id: number, inUse: string): Promise<void> {
    try {
      await this.removeAll(table, [id]);
    } catch (error) {
      if (codeOf(error) !== 'ER_ROW_IS_REFERENCED_2') throw error;
      throw new Problem(409, 'in-use', inUse);
    }
  }

  /** Puts removed rows back under their own ids. */
  async restoreAll(table: AnyTable, rows: readonly Row[]): Promise<void> {
    const oldestFirst = [...rows].sort((a, b) => Number(a['id']) - Number(b['id']));
    await insertEach(this.sql, oldestFirst, {
      ...intoTable(table, oldestFirst),
      then: (_, some) => {
        for (const row of some) this.note({ table: table.name, id: Number(row['id']), before: null, after: row }, row);
      },
    });
  }

  /** Has the followers look again at supporters whose rows were written past this method's notes. */
  touch(ids: readonly number[]): void {
    for (const id of ids) this.touched.add(id);
  }

  /** What was written so far, by a column. */
  wrote(): Look['touched'] {
    return indexOf(this.written);
  }

  /** Begins a job together with this change set: both are kept, or neither. */
  enqueue<P>(kind: JobKind<P>, job: JobRequest<P>): Promise<number> {
    return addJob(this.sql, this.at, this.actor, kind, job);
  }

  /**
   * Gives each supporter whose record was written one new version, so that an edit begun before it is refused. A
   * change set raises a version by exactly one, which is how a stale edit learns what it missed.
   */
  async bumpRecords(): Promise<void> {
    for (const slice of chunks([...this.records].sort((a, b) => a - b)))
      await this.sql.run(`UPDATE ${ownerTable().name} SET version = version + 1 WHERE id IN (?)`, [slice]);
  }

  /** Refuses (409) what would come to somebody whose number leads to another by now. */
  async refuseLedAway(): Promise<void> {
    const { name, rule } = ownerTable();
    for (const slice of chunks([...this.came], 2000)) {
      const [led] = await this.sql.rows<{ id: number; into: number }>(
        `SELECT id, ${rule.leads ?? 'NULL'} AS \`into\` FROM ${name} WHERE id IN (?) AND ${rule.leads ?? 'NULL'} IS NOT NULL LIMIT 1`,
        [slice],
      );
      if (!led) continue;
      const message = `S-${led.id} was merged into S-${led.into} since. Undo that first, or use that record. Nothing was saved.`;
      throw new Problem(409, 'merged', message, { details: { mergedInto: led.into } });
    }
  }

  /** Writes what was noted, under the revision. */
  async store(revision: number): Promise<void> {
    let seq = 0;
    const noted = ({ table, id, before, after }: RowChange): Value[] => {
      const { owner = null, other = null } = this.owners[seq++] ?? {};
      return [revision, seq, table, id, owner, other, jsonOf(before), jsonOf(after)];
    };
    await insertEach(this.sql, this.changes, { into: 'change_row', columns: NOTED, row: noted });
    const touched = { into: 'change_touch', columns: ['revision', 'supporter_id'] };
    await insertEach(this.sql, [...this.touched], { ...touched, row: (id) => [revision, id] });
  }

  /** Keeps a row as it was before this change set, and as it is now. */
  private keep(change: RowChange, row: Row, after: Row): void {
    const rows = this.written.get(change.table) ?? new Map<number, Touch>();
    const before = rows.get(change.id)?.before ?? (rows.has(change.id) || change.before === null ? null : row);
    this.written.set(change.table, rows.set(change.id, { before, after: change.after === null ? null : after }));
  }

  private note(change: RowChange, row: Row, after: Row = row): void {
    const { rule } = tableNamed(change.table);
    if (isGuarded(change.table)) this.keep(change, row, after);
    const owner = rule.owner === null ? null : idIn(row, rule.owner);
    const moved = rule.owner === null ? null : idIn(after, rule.owner);
    const others = othersOf(rule, change, row, after);
    if (moved !== owner) others.push(moved);
    if (moved !== null && rule.owner !== 'id' && change.after !== null && (change.before === null || moved !== owner))
      this.came.add(moved);
    const [other = null] = others;
    this.changes.push(change);
    this.owners.push({ owner, other });
    for (const id of [owner, ...others]) if (id !== null) this.touched.add(id);
    if (owner === null) return;
    if (rule.owner === 'id' && change.before === null) this.fresh.add(owner);
    const part = typeof rule.partOfRecord === 'function' ? rule.partOfRecord(row) : rule.partOfRecord;
    if (!part) return;
    // What comes to somebody makes an open edit of theirs stale as what goes does.
    for (const id of new Set([owner, moved ?? owner])) if (!this.fresh.has(id)) this.records.add(id);
  }
}

function idIn(row: Row, column: string): number | null {
  const value = row[column];
  return value === null || value === undefined ? null : Number(value);
}

/** The second supporters that a change is the business of. */
function othersOf(rule: TableRule, change: RowChange, row: Row, after: Row): (number | null)[] {
  if (rule.also !== undefined) return [idIn(row, rule.also), idIn(after, rule.also)].filter((id) => id !== null);
  const column = rule.alsoWhenChanged;
  if (column === undefined) return [];
  const whole = change.before === null || change.after === null;
  if (!whole && !(column in (change.after ?? {}))) return [];
  return [idIn(row, column), idIn(after, column)].filter((id) => id !== null);
}

const jsonOf = (row: Row | null): string | null => (row === null ? null : JSON.stringify(row));

/** The columns of what is noted of a row that was written. */
const NOTED = ['revision', 'seq', 'table_name', 'row_id', 'supporter_id', 'other_id', 'before_json', 'after_json'];

/** Where rows are stored that all have the columns of the first. */
function intoTable({ name }: AnyTable, rows: readonly Row[]): Pick<Insert<Row>, 'into' | 'columns' | 'row'> {
  const columns = Object.keys(rows[0] ?? {});
  return { into: name, columns, row: (row) => columns.map((column) => row[column] ?? null) };
}
