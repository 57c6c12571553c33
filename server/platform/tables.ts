import { EntitySchema } from 'typeorm';
import type { EntitySchemaColumnOptions } from 'typeorm';
import type { Row, Value } from '@tallystick/core/changes';
import { day as asDay, money, plain, yesNo } from '@tallystick/core/history';
import type { Show, Telling, Topic, Words } from '@tallystick/core/history';
import type { Sql } from './db.ts';
import type { Mentioned } from '@tallystick/core/names';

/** A column: how it is kept, the type of its values, and how history speaks of it (not at all without a word). */
export class Column<T> {
  /** Never set: it carries the type of the values. */
  declare readonly values: T;

  constructor(
    readonly options: EntitySchemaColumnOptions,
    readonly show: Show,
    readonly word: string | null = null,
  ) {}

  /** Gives the column its word in history, and another way to read where its type does not say. */
  says(word: string, show: Show = this.show): Column<T> {
    return new Column(this.options, show, word);
  }
}

export const text = <T extends string = string>(length: number): Column<T> =>
  new Column<T>({ type: 'varchar', length }, plain);
export const long: Column<string> = new Column({ type: 'mediumtext' }, plain);
export const flag: Column<number> = new Column({ type: 'tinyint' }, yesNo);
export const whole: Column<number> = new Column({ type: 'int' }, plain);
export const cents: Column<number> = new Column({ type: 'bigint' }, money);
export const day: Column<string> = new Column({ type: 'date' }, asDay);
export const stamp: Column<string> = new Column({ type: 'datetime', precision: 3 }, plain);
export const ref: Column<number> = new Column({ type: 'int', unsigned: true }, plain);
export const maybe = <T>(column: Column<T>): Column<T | null> =>
  new Column<T | null>({ ...column.options, nullable: true }, column.show, column.word);

type Columns = Readonly<Record<string, Column<Value>>>;
interface Kept {
  id: number;
  version: number;
}
type RowIn<C extends Columns> = Kept & { -readonly [K in keyof C]: C[K]['values'] };

/** Who is erased, with what is looked for where rows do not name them by number. */
export interface Erased extends Mentioned {
  id: number;
}
export type EraseOthers = (sql: Sql, erased: readonly Erased[]) => Promise<void>;

/**
 * What emptying the trash does to the rows of who is erased: `keep` them with their history (money), `remove` both,
 * or let the row stay with other values in some columns while what history knew of it goes. `nobody`: rows are no
 * supporter's.
 */
export type Erasing = 'nobody' | 'keep' | 'remove' | { blank: Readonly<Record<string, Value>> };

/**
 * What becomes of the rows of who is merged into another.
 * - `nobody`: rows are no supporter's; `record`: the row is the record itself.
 * - `move`: they become the other's.
 * - `with`: they are part of a row of another table, which `by` names, and go where it goes, then and later.
 * - `once`: as `move`, but where the other has one of the same key. That row then stays with who goes (`stays`, what
 *   is said of them alone), or goes (`goes`, what is seen of others too), and what `both` makes of the two is kept.
 */
export type Merging =
  | 'nobody'
  | 'record'
  | 'move'
  | { with: string; by: string }
  | { once: (row: Row) => string; else: 'stays' | 'goes'; both?: (kept: Row, other: Row) => Row };

/** A merge while it is written: who goes, into whom, and what its rows are written by. */
export interface MergeOf {
  gone: readonly number[];
  into: number;
  tx: {
    sql: Sql;
    rewrite(table: AnyTable, ids: readonly number[], patch: Row): Promise<number>;
    removeAll(table: AnyTable, ids: readonly number[]): Promise<void>;
  };
}

/** How a table takes part in change sets, history, undo, the trash and merges. */
export interface TableRule {
  /** The area that owns the table: the one part of the server that writes it, by the name of its folder. */
  area: string;
  /** The column that names the supporter whose history and facts a row belongs to; null for what is nobody's. */
  owner: 'id' | 'supporter_id' | null;
  /** A column that names a second supporter, in whose history and facts the row appears as well. */
  also?: string;
  /** As `also`, but only a change of that column itself is the other's business. */
  alsoWhenChanged?: string;
  /** True where a row is part of the supporter's record, so that changing it makes an open edit of the record stale. */
  partOfRecord?: boolean | ((row: Row) => boolean);
  /** Under what history shows it. */
  topics: readonly Topic[];
  /** What history calls a row. */
  called: string | ((row: Row, telling: Telling) => string);
  /** What history puts before a sentence about one of its columns. */
  before?: (id: number) => string;
  /** Columns that are kept with every change of a row, so that history can tell which row it was. */
  tells?: readonly string[];
  /** What history calls a column of a row and how it reads, where that is not the same for all rows. */
  callsColumn?: Words['callsColumn'];
  erasing: Erasing;
  merging: Merging;
  /** Of the records themselves: the column that names another, to whom a merged one's number leads. Nothing comes to such a one. */
  leads?: string;
  /** What else names who goes in a merge, beside the owner: columns of the table, or what they are kept within. */
  mergeOthers?: (merge: MergeOf) => Promise<void>;
  /** What else of the erased the table holds, in rows that are others'. */
  eraseOthers?: EraseOthers;
  /** What history keeps of a row once anybody was erased, where they may be named in it. */
  forgets?: (row: Row) => Row;
  /**
   * `rows`: restored exactly. `unless-used`: an undo of what began a row leaves it while others lie in it. `stays`: rows
   * follow from others and are only added to, so that an undo adds what takes them back.
   */
  undo: 'rows' | 'unless-used' | 'stays';
}

/** A table whose rows are written through change sets. */
export class Table<R extends Kept = Kept> extends EntitySchema<R> {
  /** Never set: it carries the type of the rows. */
  declare readonly rows: R;
  readonly words: Words;

  constructor(
    readonly name: string,
    readonly rule: TableRule,
    columns: Columns,
  ) {
    const kept = Object.entries(columns).map(([column, { options }]) => [column, options]);
    super({
      name,
      tableName: name,
      columns: {
        id: { type: 'int', unsigned: true, primary: true, generated: true },
        version: { type: 'int', unsigned: true },
        ...Object.fromEntries(kept),
      } as never,
    });
    const { called, before, callsColumn } = rule;
    this.words = {
      columns: new Map(
        Object.entries(columns).flatMap(([column, { word, show }]) =>
          word === null ? [] : [[column, { word, show }]],
        ),
      ),
      called: typeof called === 'string' ? () => called : called,
      ...(before ? { before } : {}),
      ...(callsColumn ? { callsColumn } : {}),
    };
  }
}
/** A table whose columns are known by name alone, as to undo and to what goes through many tables. */
export type AnyTable = Pick<Table, 'name' | 'rule' | 'words'>;
export type RowOf<T> = T extends Table<infer R> ? R : never;
/** The columns of a row that is to be stored; what is left out has the default of the database. */
export type NewRow<R extends Kept> = Partial<Omit<R, 'version'>>;
export type Patch<R extends Kept> = Partial<Omit<R, 'id' | 'version'>>;

/** A table that is written outside change sets: bookkeeping, secrets, and what comes before there is a record. */
export interface Outside {
  name: string;
  /** Why it takes no part. */
  why: string;
  /** Takes out of it what it holds of the erased; null where it never holds anything of a supporter. */
  erase: EraseOthers | null;
}

const tables = new Map<string, EntitySchema & AnyTable>();
const outsiders = new Map<string, Outside>();

/** Declares a table whose rows are written through change sets. */
export function table<C extends Columns>(name: string, rule: TableRule, columns: C): Table<RowIn<C>> {
  const made = new Table<RowIn<C>>(name, rule, columns);
  tables.set(name, made as unknown as EntitySchema & AnyTable);
  return made;
}

/** Declares a table that takes no part in change sets, and why. */
export function outside(name: string, why: string, erase: EraseOthers | null = null): void {
  outsiders.set(name, { name, why, erase });
}

/** The rule of what the organisation sets up: no supporter's, and named in history by its kind. */
export const setUp = (area: string, called: string): TableRule => ({
  area,
  owner: null,
  topics: [],
  called,
  erasing: 'nobody',
  merging: 'nobody',
  undo: 'rows',
});

/** The rule of what is money of a supporter: it stays in every total, for ever, and goes along in a merge. */
export const moneyOf = (area: string) =>
  ({ area, owner: 'supporter_id', topics: ['gifts'], erasing: 'keep', merging: 'move', undo: 'rows' }) as const;

/** Gives the rows of a table that name who goes in a column the other's number there. */
export const renames =
  (name: string, ...columns: readonly string[]): NonNullable<TableRule['mergeOthers']> =>
  async ({ tx, gone, into }) => {
    for (const column of columns) {
      const rows = await tx.sql.rows<{ id: number }>(`SELECT id FROM ${name} WHERE ${column} IN (?)`, [gone]);
      await tx.rewrite(
        tableNamed(name),
        rows.map((row) => row.id),
        { [column]: into },
      );
    }
  };

export const declaredTables = (): readonly (EntitySchema & AnyTable)[] => [...tables.values()];
export const outsideTables = (): readonly Outside[] => [...outsiders.values()];

/** A declared table by name; throws for another, so that no name reaches SQL unchecked. */
export function tableNamed(name: string): AnyTable {
  const found = tables.get(name);
  if (!found) throw new Error(`The table ${name} takes no part in change sets.`);
  return found;
}

/** The table of those whom rows belong to: the one that owns itself. */
export function ownerTable(): AnyTable {
  const found = declaredTables().find(({ rule }) => rule.owner === 'id');
  if (!found) throw new Error('No table is declared that rows belong to.');
  return found;
}
