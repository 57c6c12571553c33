import type { Value } from '@tallystick/core/changes';
import { chunks } from './db.ts';
import type { SqlWithin } from './db.ts';

/* Many rows are written by one statement for some of them; where there are very many, by one that is prepared once. */

const AT_ONCE = 500;
/** Preparing takes about as long as one statement saves several times over. */
const WORTH_PREPARING = 4;

/** How rows are stored that come of some things: in which table and columns, what of each, and what comes back. */
export interface Insert<T> {
  into: string;
  columns: readonly string[];
  row: (one: T) => Value[];
  /** The column whose values the database makes, which `then` is given in the order of the rows. */
  returning?: 'id';
  then?: (made: { id: number }[], some: readonly T[]) => void;
}

/**
 * Stores a row for each of some things, in their order. While the database is at some of them, the next are made ready
 * and what came of the last is worked on; none are sent before the last were answered, since where those fail the
 * transaction may be gone.
 */
export async function insertEach<T>(sql: SqlWithin, things: readonly T[], insert: Insert<T>): Promise<void> {
  const { into, columns, row, returning, then } = insert;
  const text = (rows: number): string =>
    `INSERT INTO ${into} (${columns.join(', ')}) VALUES ${placeholders(rows, columns.length)}${returning ? ` RETURNING ${returning}` : ''}`;
  const slices = chunks(things, AT_ONCE);
  const prepared = slices.length > WORTH_PREPARING ? await sql.prepare(text(AT_ONCE)) : null;
  try {
    const ready = (some: readonly T[] | undefined): Value[] => some?.flatMap(row) ?? [];
    let [next, workOnLast]: [Value[], (() => void) | null] = [ready(slices[0]), null];
    for (const [at, some] of slices.entries()) {
      const running =
        prepared && some.length === AT_ONCE
          ? prepared.rows<{ id: number }>(next)
          : sql.rows<{ id: number }>(text(some.length), next);
      // Its failure is told by what awaits it, whatever is thrown before.
      running.catch(() => undefined);
      workOnLast?.();
      next = ready(slices[at + 1]);
      const made = await running;
      workOnLast = () => then?.(made, some);
    }
    workOnLast?.();
  } finally {
    prepared?.close();
  }
}

function placeholders(rows: number, columns: number): string {
  const row = `(${Array.from({ length: columns }, () => '?').join(', ')})`;
  return Array.from({ length: rows }, () => row).join(', ');
}
