import type { Row } from '@tallystick/core/changes';
import { chunks } from './db.ts';
import type { Sql } from './db.ts';
import { Problem } from './problem.ts';
import type { AnyTable } from './tables.ts';

/** A row that a change set wrote, whole: what it was before the change set and what it is after; null where there is none. */
export interface Touch {
  before: Row | null;
  after: Row | null;
}
/** What a change set wrote, by table and by the row's id. */
export type Touched = ReadonlyMap<string, ReadonlyMap<number, Touch>>;

/** The rows of a table that a guard is about. */
export interface About {
  table: Pick<AnyTable, 'name'>;
  /** The column that holds the id of the subject that a row belongs to. */
  of: string;
  /** The columns that matter; where left out, all. */
  columns?: readonly string[];
  /** False where a new row by itself cannot break what holds. */
  fresh?: false;
}

/** A subject of which something does not hold, and what, as whole sentences for a person. */
export interface Breach {
  subject: number;
  says: string;
}

/** What a guard looks at: some subjects after a change set, or every one there is. */
export interface Look {
  sql: Sql;
  /** The subjects, or null for all of the database. */
  subjects: readonly number[] | null;
  /** A condition of SQL that narrows a column to the subjects. */
  among(column: string): string;
  /**
   * The rows of a table that the change set wrote, by what a column of theirs held before it or holds after it; none
   * where the whole database is looked at.
   */
  touched(table: Pick<AnyTable, 'name'>, column?: string): ReadonlyMap<number, readonly Touch[]>;
}

/**
 * What must always hold of the rows of some tables. Every change set, an undo too, is held against the guards of what
 * it wrote: after its rows are written, before it commits, and while no other can commit, so that each sees all that
 * was committed before it.
 */
export interface Guard {
  /** What holds, as a sentence without a full stop; no two guards have the same. */
  holds: string;
  /** The code of the 409 that a change set is refused with. */
  code: string;
  about: readonly About[];
  breaches(look: Look): Promise<Breach[]>;
}

const guards = new Map<string, Guard>();
const guarded = new Set<string>();

/** States what must hold. */
export function guard(stated: Guard): void {
  guards.set(stated.holds, stated);
  for (const { table } of stated.about) keepTouches(table.name);
}
export const statedGuards = (): readonly Guard[] => [...guards.values()];
/** Has what a change set writes to a table be kept until it commits. */
export const keepTouches = (table: string): void => void guarded.add(table);
/** Whether a guard is about a table, so that what a change set writes there is kept for it. */
export const isGuarded = (table: string): boolean => guarded.has(table);

const AT_ONCE = 1000;

/** Refuses (409, nothing is kept) a change set after which something does not hold of what it wrote. */
export async function holdGuards(sql: Sql, touched: Touched): Promise<void> {
  const index = indexOf(touched);
  for (const stated of guards.values())
    for (const subjects of chunks(
      [...subjectsOf(stated.about, touched)].sort((a, b) => a - b),
      AT_ONCE,
    )) {
      const [breach] = await stated.breaches({
        sql,
        subjects,
        among: (column) => `${column} IN (${subjects.join(', ')})`,
        touched: index,
      });
      if (breach) throw new Problem(409, stated.code, `${breach.says} Nothing was saved.`);
    }
}

/** All that does not hold in a database, with the guard that says so. */
export async function brokenGuards(sql: Sql): Promise<(Breach & { holds: string })[]> {
  const found: (Breach & { holds: string })[] = [];
  for (const { holds, breaches } of guards.values())
    for (const breach of await breaches({ sql, subjects: null, among: () => 'TRUE', touched: () => new Map() }))
      found.push({ ...breach, holds });
  return found;
}

/** The subjects of the rows that a change set wrote. */
export function subjectsOf(about: readonly About[], touched: Touched): Set<number> {
  const subjects = new Set<number>();
  for (const { table, of, columns, fresh } of about)
    for (const { before, after } of touched.get(table.name)?.values() ?? []) {
      if (before === null && (after === null || fresh === false)) continue;
      const matters = !before || !after || (columns ?? Object.keys(after)).some((name) => before[name] !== after[name]);
      if (!matters) continue;
      for (const row of [before, after]) {
        const subject = row?.[of];
        if (typeof subject === 'number') subjects.add(subject);
      }
    }
  return subjects;
}

/** What was written, by a column; each index is made once. */
export function indexOf(touched: Touched): Look['touched'] {
  const made = new Map<string, ReadonlyMap<number, readonly Touch[]>>();
  return ({ name }, column = 'id') => {
    const known = made.get(`${name}.${column}`);
    if (known) return known;
    const index = new Map<number, Touch[]>();
    for (const touch of touched.get(name)?.values() ?? [])
      for (const value of new Set([touch.before?.[column], touch.after?.[column]])) {
        if (typeof value !== 'number') continue;
        const found = index.get(value);
        if (found) found.push(touch);
        else index.set(value, [touch]);
      }
    made.set(`${name}.${column}`, index);
    return index;
  };
}
