import mysql from 'mysql2';
import type { Value } from '@tallystick/core/changes';
import { DataSource } from 'typeorm';
import type { EntitySchema, QueryRunner } from 'typeorm';
import type { MysqlDriver } from 'typeorm/driver/mysql/MysqlDriver.js';
import { EACH_LOOKED_UP } from './connections.ts';
import { gaveWay } from './problem.ts';
import { First1790000000000 } from './migrations/1790000000000-first.ts';
import { Records1790100000000 } from './migrations/1790100000000-records.ts';
import { Giving1790200000000 } from './migrations/1790200000000-giving.ts';
import { Books1790300000000 } from './migrations/1790300000000-books.ts';
import { Lanes1790400000000 } from './migrations/1790400000000-lanes.ts';
import { Guards1790500000000 } from './migrations/1790500000000-guards.ts';
import { Journal1790600000000 } from './migrations/1790600000000-journal.ts';
import { Sending1790700000000 } from './migrations/1790700000000-sending.ts';
import { Lengths1790800000000 } from './migrations/1790800000000-lengths.ts';
import { Rights1790900000000 } from './migrations/1790900000000-rights.ts';
import { Sessions1791000000000 } from './migrations/1791000000000-sessions.ts';
import { Reaching1791100000000 } from './migrations/1791100000000-reaching.ts';
import { Organization1791200000000 } from './migrations/1791200000000-organization.ts';
import { Questions1791300000000 } from './migrations/1791300000000-questions.ts';
import { Views1791400000000 } from './migrations/1791400000000-views.ts';
import { Carried1791500000000 } from './migrations/1791500000000-carried.ts';
import { Readings1791600000000 } from './migrations/1791600000000-readings.ts';
import { Intakes1791700000000 } from './migrations/1791700000000-intakes.ts';
import { KnownAs1791800000000 } from './migrations/1791800000000-known-as.ts';
import { Feeds1791900000000 } from './migrations/1791900000000-feeds.ts';
import { Merges1792000000000 } from './migrations/1792000000000-merges.ts';
import { Upkeep1792100000000 } from './migrations/1792100000000-upkeep.ts';

export type Param =
  string | number | null | Buffer | readonly (string | number)[] | readonly (readonly (string | number | null)[])[];

/** Runs SQL with parameters and gives the rows, typed by the caller who wrote the SELECT. */
export interface Sql {
  rows<T>(sql: string, params?: readonly Param[]): Promise<T[]>;
  run(sql: string, params?: readonly Param[]): Promise<{ affectedRows: number; insertId: number }>;
}

/** A statement that is prepared, to be run many times with other values. */
export interface Prepared {
  rows<T>(values: readonly Value[]): Promise<T[]>;
  close(): void;
}
/** SQL within one transaction. */
export interface SqlWithin extends Sql {
  prepare(text: string): Promise<Prepared>;
}

const driver = {
  ...mysql,
  createPool(options: mysql.PoolOptions): mysql.Pool {
    const pool = mysql.createPool(options);
    // Where that is refused all is answered as well, only later.
    pool.on('connection', (connection) => void connection.query(EACH_LOOKED_UP, () => undefined));
    return pool;
  },
};

/** The data source over MariaDB, at `mysql://…` with a `socketPath` where it has one. Dates come as text, BIGINT and DECIMAL as numbers (all within the safe range). */
export function openDatabase(url: string, entities: EntitySchema[], poolSize = 12): DataSource {
  // What the driver itself takes from a URL it is not given by TypeORM.
  const socketPath = new URL(url).searchParams.get('socketPath');
  return new DataSource({
    type: 'mariadb',
    driver,
    url: url.replace(/\?.*$/, ''),
    entities,
    migrations: [
      First1790000000000,
      Records1790100000000,
      Giving1790200000000,
      Books1790300000000,
      Lanes1790400000000,
      Guards1790500000000,
      Journal1790600000000,
      Sending1790700000000,
      Lengths1790800000000,
      Rights1790900000000,
      Sessions1791000000000,
      Reaching1791100000000,
      Organization1791200000000,
      Questions1791300000000,
      Views1791400000000,
      Carried1791500000000,
      Readings1791600000000,
      Intakes1791700000000,
      KnownAs1791800000000,
      Feeds1791900000000,
      Merges1792000000000,
      Upkeep1792100000000,
    ],
    migrationsTableName: 'migration',
    synchronize: false,
    charset: 'utf8mb4_unicode_520_ci',
    dateStrings: true,
    timezone: 'Z',
    supportBigNumbers: true,
    bigNumberStrings: false,
    poolSize,
    extra: { decimalNumbers: true, ...(socketPath === null ? {} : { socketPath }) },
  });
}

/** What takes a statement: the pool, or one connection of it. */
type Asked = Pick<mysql.Connection, 'query'>;

/** Sends a statement; of an error it is told who asked, which the driver does not know. */
async function answerOf(asked: Asked, text: string, params: readonly Param[] = []): Promise<unknown> {
  try {
    return await new Promise((resolve, reject) =>
      asked.query(text, [...params], (error, result) => (error ? reject(error) : resolve(result))),
    );
  } catch (error) {
    if (error instanceof Error) Error.captureStackTrace(error);
    throw error;
  }
}

const through = (answer: (text: string, params?: readonly Param[]) => Promise<unknown>): Sql => ({
  rows: <T>(text: string, params?: readonly Param[]) => answer(text, params) as Promise<T[]>,
  run: (text, params) => answer(text, params) as Promise<{ affectedRows: number; insertId: number }>,
});

/**
 * Plain SQL on the pool, each statement a transaction of its own: one that had to give way to another wrote nothing,
 * and is tried again. It goes to the pool itself: a query runner for each statement costs as much as a short one.
 */
export function sqlOn(source: DataSource): Sql {
  const driver = source.driver as MysqlDriver;
  return through(async (text, params) => {
    const pool = driver.pool as Asked | undefined;
    if (!pool) throw new Error('Pool is closed.');
    return triedAgain(() => answerOf(pool, text, params));
  });
}

/** Does again what had to give way to another, up to eight times, a little later each time. */
async function triedAgain<T>(work: () => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt++)
    try {
      return await work();
    } catch (error) {
      if (!gaveWay(error) || attempt === MOST_ATTEMPTS) throw error;
      await aLittle(attempt);
    }
}
export const MOST_ATTEMPTS = 8;
/** Waits before an attempt is made again: longer each time, and never as long as another that failed on it. */
export const aLittle = (attempt: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, (5 + Math.random() * 15) * attempt));

/** SQL within the transaction of a query runner. */
export function sqlWithin(runner: QueryRunner): SqlWithin {
  return {
    ...through(async (text, params) => {
      if (runner.isReleased) throw new Error('The transaction is over.');
      const connection: mysql.Connection = await runner.connect();
      return answerOf(connection, text, params);
    }),
    async prepare(text) {
      const connection: mysql.Connection = await runner.connect();
      const statement = await new Promise<mysql.PrepareStatementInfo>((resolve, reject) =>
        connection.prepare(text, (error, made) => (error ? reject(error) : resolve(made))),
      );
      return {
        rows: <T>(values: readonly Value[]) =>
          new Promise<T[]>((resolve, reject) =>
            statement.execute(values, (error, rows) => (error ? reject(error) : resolve(rows as T[]))),
          ),
        // Many of them would take much room at the server.
        close: () => void connection.unprepare(text),
      };
    },
  };
}

/** The first row, or null. */
export async function one<T>(sql: Sql, text: string, params: readonly Param[] = []): Promise<T | null> {
  return (await sql.rows<T>(text, params))[0] ?? null;
}

/**
 * Reads something of many in slices, two of them under way at a time, so that the database is at the next while one is
 * worked on here; they are worked on in their order.
 */
export async function eachChunk<T, R>(
  items: readonly T[],
  size: number,
  read: (slice: T[]) => Promise<R>,
  work: (found: R) => void | Promise<void>,
): Promise<void> {
  const slices = chunks(items, size);
  let next = slices[0] ? read(slices[0]) : null;
  for (let at = 0; next !== null; at++) {
    const now: Promise<R> = next;
    const after = slices[at + 1];
    next = after ? read(after) : null;
    // Whatever becomes of this one, the other is waited for.
    next?.catch(() => undefined);
    await work(await now);
  }
}

/** Slices of at most `size`, so that no statement grows without bound. */
export function chunks<T>(items: readonly T[], size = 500): T[][] {
  const slices: T[][] = [];
  for (let at = 0; at < items.length; at += size) slices.push(items.slice(at, at + size));
  return slices;
}
