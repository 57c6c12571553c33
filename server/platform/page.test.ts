import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addPerson, openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { pageOf } from './page.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

interface Row {
  id: number;
  name: string;
  size: number;
}
/** Rows that stand in the SQL itself, so that each page may find others. */
const rowsIn = (rows: readonly Row[]): string =>
  rows.length === 0
    ? "SELECT 0 AS id, '' AS name, 0 AS size FROM DUAL WHERE FALSE"
    : rows.map((row) => `SELECT ${row.id} AS id, '${row.name}' AS name, ${row.size} AS size`).join(' UNION ALL ');
const ORDERS = {
  'by id': [{ sql: 'id', as: 'id' }],
  'newest first': [{ sql: 'id', as: 'id', down: true }],
  'by name, then the largest': [
    { sql: 'name', as: 'name' },
    { sql: 'size', as: 'size', down: true },
    { sql: 'id', as: 'id' },
  ],
} as const;
const listOf = (rows: readonly Row[], order: keyof typeof ORDERS) => ({
  select: `SELECT * FROM (${rowsIn(rows)}) t WHERE TRUE`,
  order: ORDERS[order],
});
const before =
  (order: keyof typeof ORDERS) =>
  (a: Row, b: Row): number => {
    for (const { as, ...key } of ORDERS[order]) {
      const way = 'down' in key ? -1 : 1;
      if (a[as] !== b[as]) return a[as] < b[as] ? -way : way;
    }
    return 0;
  };
const rows = fc
  .uniqueArray(fc.nat(60), { maxLength: 25 })
  .chain((ids) =>
    fc.tuple(
      ...ids.map((id) => fc.record({ id: fc.constant(id), name: fc.constantFrom('a', 'b', 'c'), size: fc.nat(3) })),
    ),
  );

describe.each(Object.keys(ORDERS) as (keyof typeof ORDERS)[])('a list %s', (order) => {
  const walk = async (
    at: (page: number) => readonly Row[],
    limit: number,
  ): Promise<{ seen: Row[]; totals: number[] }> => {
    const [seen, totals]: [Row[], number[]] = [[], []];
    let cursor: string | undefined;
    for (let page = 0; page < 40; page++) {
      const { items, next, total } = await pageOf<Row>(test.sql, listOf(at(page), order), { limit, cursor });
      seen.push(...items);
      totals.push(total);
      if (next === null) return { seen, totals };
      cursor = next;
    }
    throw new Error('It never ends.');
  };

  it('comes whole, in its order, each row once, with its length', async () => {
    await fc.assert(
      fc.asyncProperty(rows, fc.integer({ min: 1, max: 7 }), async (all, limit) => {
        const { seen, totals } = await walk(() => all, limit);
        expect(seen.map((row) => row.id)).toEqual([...all].sort(before(order)).map((row) => row.id));
        expect(new Set(totals)).toEqual(new Set([all.length]));
      }),
      { numRuns: 25 },
    );
  });

  it('shows every row that stays, once, while others move, vanish and appear', async () => {
    await fc.assert(
      fc.asyncProperty(rows, rows, fc.nat(4), async (all, others, keep) => {
        const stays = all.filter((row) => row.id % 5 >= keep);
        // Those that stay are there in each page; the rest are as they were, moved, or new by turns.
        const rest = (page: number) =>
          (page % 2 === 0 ? all : others).filter((row) => !stays.some((one) => one.id === row.id));
        const { seen } = await walk((page) => [...stays, ...rest(page)], 3);
        for (const row of stays) expect(seen.filter((one) => one.id === row.id)).toHaveLength(1);
      }),
      { numRuns: 25 },
    );
  });
});

describe('a cursor', () => {
  it.each(['', 'x', Buffer.from('[1,2]').toString('base64url'), Buffer.from('[{}]').toString('base64url')])(
    'that no list gave is refused: %s',
    async (cursor) => {
      await expect(pageOf(test.sql, listOf([], 'by id'), { limit: 5, cursor })).rejects.toMatchObject({ status: 400 });
    },
  );
});

describe('the lists of the API', () => {
  it.each(['/sheets', '/intakes', '/thanks/runs', '/batches?state=posted', '/deposits', '/tasks'])(
    '%s has pages, and says how long it is',
    async (path) => {
      const { status, body } = await test.call('GET', `${path}${path.includes('?') ? '&' : '?'}limit=1`);
      expect([status, typeof body['total'], 'next' in body, Array.isArray(body['items'])]).toEqual([
        200,
        'number',
        true,
        true,
      ]);
    },
  );

  it('of a record have every note, task and document, in pages', async () => {
    const id = await addPerson(test);
    const text = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'a' }] }] };
    for (let made = 0; made < 7; made++) {
      await test.call('POST', '/notes', {
        supporterId: id,
        date: `2026-01-0${1 + (made % 3)}`,
        body: text,
        pinned: made === 5,
      });
      await test.call('POST', '/tasks', { supporterId: id, title: `Call ${made}`, due: `2026-12-0${1 + (made % 2)}` });
    }
    for (const list of ['notes', 'tasks']) {
      const seen: number[] = [];
      let cursor = '';
      do {
        const { body } = await test.call('GET', `/supporters/${id}/${list}?limit=3${cursor && `&cursor=${cursor}`}`);
        seen.push(...(body['items'] as { id: number }[]).map((row) => row.id));
        expect(body['total']).toBe(7);
        cursor = (body['next'] as string | null) ?? '';
      } while (cursor !== '');
      expect([list, new Set(seen).size, seen.length]).toEqual([list, 7, 7]);
    }
    expect((await test.call('GET', `/supporters/${id}/documents`)).body).toMatchObject({
      items: [],
      total: 0,
      next: null,
    });
    expect((await test.call('GET', `/supporters/${id}/correspondence`)).body).toMatchObject({ items: [], total: 0 });
  });
});
