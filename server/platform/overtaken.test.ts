import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { DataSource, QueryRunner } from 'typeorm';
import { openTestApp, pause, TESTER, until } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { z } from 'zod';
import { sqlOn, sqlWithin } from './db.ts';
import type { Sql } from './db.ts';
import { jobKind } from './job-queue.ts';
import { codeOf } from './problem.ts';

let test: TestApp;
let runner: QueryRunner;
beforeAll(async () => {
  test = await openTestApp();
  await test.sql.run('CREATE TABLE till (id INT PRIMARY KEY, coins INT NOT NULL)');
  runner = test.services.source.createQueryRunner();
});
beforeEach(async () => {
  await test.sql.run('DELETE FROM till');
  await test.sql.run('INSERT INTO till (id, coins) VALUES ?', [Array.from({ length: 200 }, (_, nth) => [nth, 0])]);
});
afterAll(async () => {
  await runner.release();
  await test.close();
});

let nth = 0;
/**
 * Has `work` begin with the row 1 and wait for the row 2, which a transaction holds that has written much more and now
 * asks for the row 1: the database makes `work` give way. Its statement is known by the mark that it bears.
 */
async function crossing<T>(work: (mark: string) => Promise<T>): Promise<{ value: T } | { error: unknown }> {
  const mark = `/* crossing ${++nth}. */`;
  await runner.startTransaction('READ COMMITTED');
  const heavy = sqlWithin(runner);
  try {
    await heavy.run('UPDATE till SET coins = coins + 100 WHERE id >= 2');
    const done = work(mark).then(
      (value) => ({ value }),
      (error: unknown) => ({ error }),
    );
    // What the database tells of transactions it keeps for a tenth of a second, and longer where it is asked again.
    const isWaiting = async () => {
      await pause(150);
      const found = await test.sql.rows(
        `SELECT 1 FROM information_schema.innodb_trx WHERE trx_state = 'LOCK WAIT' AND trx_query LIKE ?`,
        [`%till%${mark}`],
      );
      return found.length === 1;
    };
    await until(isWaiting);
    await heavy.run('UPDATE till SET coins = coins + 100 WHERE id = 1');
    await runner.commitTransaction();
    return await done;
  } catch (error) {
    await runner.rollbackTransaction();
    throw error;
  }
}
const addsOne = (sql: Sql) => (mark: string) => sql.run(`UPDATE till SET coins = coins + 1 WHERE id IN (1, 2) ${mark}`);
const coins = async () =>
  (await test.sql.rows<{ coins: number }>('SELECT coins FROM till WHERE id IN (1, 2) ORDER BY id')).map(
    (row) => row.coins,
  );

describe('a statement that had to give way to another', () => {
  it('is done again, once, after the other', async () => {
    expect(await crossing(addsOne(sqlOn(test.services.source)))).toMatchObject({ value: { affectedRows: 2 } });
    expect(await coins()).toEqual([101, 101]);
  });

  it('answers rows as one that did not', async () => {
    const reads = (mark: string) =>
      test.sql.rows<{ id: number }>(`SELECT id FROM till WHERE id IN (1, 2) ORDER BY id FOR UPDATE ${mark}`);
    expect(await crossing(reads)).toEqual({ value: [{ id: 1 }, { id: 2 }] });
  });

  it('says so where it is part of a transaction, whose other statements are lost with it', async () => {
    const other = test.services.source.createQueryRunner();
    await other.startTransaction('READ COMMITTED');
    const ended = await crossing(addsOne(sqlWithin(other)));
    await other.rollbackTransaction();
    await other.release();
    expect(codeOf('error' in ended ? ended.error : null)).toBe('ER_LOCK_DEADLOCK');
    expect(await coins()).toEqual([100, 100]);
  });

  /** A data source whose pool fails each statement so, and counts them. */
  function failing(error: Error): { source: DataSource; tries: () => number } {
    let tries = 0;
    const pool = { query: (_text: string, _values: unknown, done: (error: Error) => void) => (tries++, done(error)) };
    return { source: { driver: { pool } } as unknown as DataSource, tries: () => tries };
  }

  it('is not done again where it failed by itself', async () => {
    const { source, tries } = failing(Object.assign(new Error('Duplicate entry'), { code: 'ER_DUP_ENTRY' }));
    await expect(sqlOn(source).run('')).rejects.toThrow(/Duplicate/);
    expect(tries()).toBe(1);
  });

  it('is given up after eight attempts', async () => {
    const { source, tries } = failing(Object.assign(new Error('Deadlock found'), { code: 'ER_LOCK_DEADLOCK' }));
    await expect(sqlOn(source).rows('')).rejects.toThrow('Deadlock found');
    expect(tries()).toBe(8);
  });
});

describe('a statement that fails', () => {
  async function whoAsks(): Promise<unknown> {
    return await test.sql.rows('SELECT nothing FROM till').catch((error: unknown) => error);
  }
  it('tells by whom it was asked', async () => {
    const error = await whoAsks();
    expect(codeOf(error)).toBe('ER_BAD_FIELD_ERROR');
    expect((error as Error).stack).toContain('whoAsks');
  });
});

it('a transaction that is over takes no statement, as another may have its connection', async () => {
  const other = test.services.source.createQueryRunner();
  await other.startTransaction();
  const sql = sqlWithin(other);
  await sql.run('UPDATE till SET coins = 7 WHERE id = 1');
  await other.rollbackTransaction();
  await other.release();
  await expect(sql.run('UPDATE till SET coins = 8 WHERE id = 1')).rejects.toThrow('over');
  expect(await coins()).toEqual([0, 0]);
});

it('work that is put in the queue by many at once is all done', async () => {
  const kind = jobKind('coin', { name: 'coins', atOnce: 3 }, z.unknown());
  test.services.jobs.handle(kind, async () => 'counted');
  const nth = Array.from({ length: 60 }, (_, at) => at);
  const begun = await Promise.all(nth.map(() => test.services.jobs.add(TESTER, kind, { title: 'Coin', payload: {} })));
  expect((await Promise.all(begun.map((id) => test.jobEnd(id)))).map(({ state }) => state)).toEqual(
    nth.map(() => 'done'),
  );
});
