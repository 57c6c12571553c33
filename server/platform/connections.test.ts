import { afterAll, beforeAll, expect, it } from 'vitest';
import { openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { connectFollower, FollowerDb } from './follower.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const LIMIT = 'SELECT @@SESSION.eq_range_index_dive_limit AS n, SLEEP(0.05)';

it('every connection of the pool, and that of a follower, looks up each value of a list', async () => {
  const told = await Promise.all(Array.from({ length: 12 }, () => test.sql.rows<{ n: number }>(LIMIT)));
  expect(told.flat().map(({ n }) => n)).toEqual(Array(12).fill(0));
  const follower = connectFollower(test.databaseUrl);
  const [row] = await new FollowerDb(follower).rows(LIMIT, []);
  follower.destroy();
  expect(row?.[0]).toBe(0);
});

it('of a column that is mostly empty a long list is looked up, and not the whole table read', async () => {
  await test.sql.run(
    'CREATE TABLE mostly_empty (id INT PRIMARY KEY AUTO_INCREMENT, said VARCHAR(60) NOT NULL, KEY (said))',
  );
  for (let many = 0; many < 20; many++)
    await test.sql.run('INSERT INTO mostly_empty (said) VALUES ?', [Array.from({ length: 1_000 }, () => [''])]);
  await test.sql.run('ANALYZE TABLE mostly_empty');
  const wanted = Array.from({ length: 300 }, (_, nth) => `R-${nth}`);
  const [plan] = await test.sql.rows('EXPLAIN SELECT id FROM mostly_empty WHERE said IN (?)', [wanted]);
  expect(plan).toMatchObject({ type: 'range' });
});
