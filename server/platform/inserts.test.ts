import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import type { QueryRunner } from 'typeorm';
import { openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { sqlWithin } from './db.ts';
import { insertEach } from './inserts.ts';

let test: TestApp;
let runner: QueryRunner;
const COLUMNS = ['text', 'whole', 'part', 'day', 'at', 'none', 'late'];
beforeAll(async () => {
  test = await openTestApp();
  await test.sql.run(
    `CREATE TABLE many (id INT AUTO_INCREMENT PRIMARY KEY, text VARCHAR(80), whole BIGINT UNIQUE, part DECIMAL(12, 4),
     day DATE, at DATETIME(3), none INT, late VARCHAR(20))`,
  );
  runner = test.services.source.createQueryRunner();
});
afterEach(() => test.sql.run('DELETE FROM many'));
afterAll(async () => {
  await runner.release();
  await test.close();
});

const TEXTS = [
  '',
  "O'Neill",
  'a "b" \\ c',
  'Bjørn 🦉',
  'line\nline',
  "'); DROP TABLE many; --",
  '?',
  '0012',
  'x'.repeat(80),
];
const rowOf = (nth: number) => [
  TEXTS[nth % TEXTS.length] ?? '',
  nth % 2 === 0 ? nth : 9_007_199_254_700_000 + nth,
  (nth % 1000) / 8,
  '2026-02-28',
  '2026-02-28 23:59:59.125',
  null,
  // A number where text is kept.
  nth * 10,
];
const all = (many: number): number[] => Array.from({ length: many }, (_, nth) => nth);
const stored = () => test.sql.rows<Record<string, unknown>>('SELECT * FROM many ORDER BY id');

describe('rows that are stored', () => {
  it.each([0, 1, 499, 500, 2_000, 2_501, 3_217])('are all there, in their order: %i', async (many) => {
    const ids: number[] = [];
    const made: number[] = [];
    await insertEach(sqlWithin(runner), all(many), {
      ...{ into: 'many', columns: COLUMNS, row: rowOf, returning: 'id' },
      then: (found, some) => {
        ids.push(...found.map(({ id }) => id));
        made.push(...some);
      },
    });
    expect(made).toEqual(all(many));
    const rows = await stored();
    expect(rows.map(({ id }) => id)).toEqual(ids);
    expect(rows.map((row) => COLUMNS.map((column) => row[column]))).toEqual(
      all(many).map((nth) => rowOf(nth).map((value, at) => (at === 6 ? String(value) : value))),
    );
  });

  it('are the same whether their statement was prepared or not', async () => {
    const text = async (many: number) => {
      await insertEach(sqlWithin(runner), all(many), { into: 'many', columns: COLUMNS, row: rowOf });
      const rows = await test.sql.rows<Record<string, unknown>>(
        `SELECT ${COLUMNS.map((column) => `HEX(${column}) AS ${column}`).join(', ')} FROM many ORDER BY id LIMIT 400`,
      );
      await test.sql.run('DELETE FROM many');
      return rows;
    };
    expect(await text(3_000)).toEqual(await text(400));
  });

  it('stop at those that cannot be: none that come after are sent, and what is not kept is not worked on', async () => {
    const worked: number[] = [];
    let asked = 0;
    const sql = sqlWithin(runner);
    const failing = insertEach(
      {
        ...sql,
        prepare: async (statement) => {
          const prepared = await sql.prepare(statement);
          return { ...prepared, rows: (values) => (asked++, prepared.rows(values)) };
        },
      },
      all(4_000),
      {
        ...{ into: 'many', columns: COLUMNS },
        // The third statement has a row that the first had.
        row: (nth) => rowOf(nth === 1_200 ? 4 : nth),
        then: (_, some) => worked.push(...some),
      },
    );
    await expect(failing).rejects.toMatchObject({ code: 'ER_DUP_ENTRY' });
    expect(asked).toBe(3);
    expect(worked).toEqual(all(1_000));
    expect(await stored()).toHaveLength(1_000);
  });

  it('leave no prepared statement at the server, not even where they fail', async () => {
    const open = async (): Promise<number> =>
      Number((await test.sql.rows<{ Value: string }>("SHOW GLOBAL STATUS LIKE 'Prepared_stmt_count'"))[0]?.Value);
    const before = await open();
    for (let times = 0; times < 3; times++) {
      const some = {
        into: 'many',
        columns: COLUMNS,
        row: (nth: number) => rowOf(times === 2 ? 1 : nth + times * 10_000),
      };
      await insertEach(sqlWithin(runner), all(3_000), some).catch(() => undefined);
    }
    // What is closed is not answered; the next statement of the same connection comes after it.
    await runner.query('SELECT 1');
    expect(await open()).toBe(before);
  });
});
