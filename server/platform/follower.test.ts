import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { all, STANDING, total } from '@tallystick/core/segments';
import type { Group } from '@tallystick/core/segments';
import { FactsThread, PLAIN_LIST } from '../facts/index.ts';
import { addGift, addPerson, freshDatabase, openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
let facts: FactsThread;
let donor: number;
const calendar = { today: '2026-11-23', fiscalYearStart: 7 };
beforeAll(async () => {
  test = await openTestApp();
  donor = await addPerson(test);
  facts = new FactsThread(test.databaseUrl);
});
afterAll(async () => {
  await facts.close();
  await test.close();
});

const lifetime = async (): Promise<number> =>
  (await facts.ask({ ask: 'giving', ids: [donor], calendar }))[0]?.giving.lifetime ?? -1;

describe('a follower', () => {
  it('answers every question with all that was committed before it was asked', async () => {
    for (let gifts = 1; gifts <= 10; gifts++) {
      await addGift(test, donor, { cents: 100 });
      expect(await lifetime()).toBe(gifts * 100);
    }
  });

  it('answers many questions at once, each its own', async () => {
    const sizes = await Promise.all(
      Array.from({ length: 40 }, (_, index) =>
        index % 2 === 0 ? lifetime() : facts.ask({ ask: 'size' }).then((size) => size.supporters),
      ),
    );
    expect(sizes.filter((_, index) => index % 2 === 0).every((value) => value === 1_000)).toBe(true);
    expect(sizes.filter((_, index) => index % 2 === 1).every((value) => value === 1)).toBe(true);
  });

  it('answers what conditions are asked about as currently, from a thread of its own', async () => {
    const group: Group = { kind: 'group', join: 'any', parts: [total([], 1_100), total([], 5_000)] };
    const question = { group, setting: { calendar } };
    const matching = async (): Promise<number[]> => {
      const { count } = await facts.ask({ ask: 'count', ...question });
      const members = [...(await facts.ask({ ask: 'members', ...question }))];
      expect(members).toHaveLength(count);
      return members;
    };
    expect(await matching()).toEqual([]);
    await addGift(test, donor, { cents: 100 });
    expect(await matching()).toEqual([donor]);
    await addGift(test, donor, { cents: 100 });
    expect(await lifetime()).toBe(1_200);
    const list = await facts.ask({
      ...{ ...PLAIN_LIST, ...question, group: all(question.group), limit: 10, columns: [STANDING.lifetime] },
      formats: { locale: 'en-US', currency: 'USD' },
    });
    expect([[...list.ids], list.sums[0]]).toEqual([[donor], 1_200]);
  });

  it('opens another connection when its own is cut, and misses nothing', async () => {
    const [mine] = await test.sql.rows<{ id: number }>('SELECT CONNECTION_ID() AS id');
    const others = await test.sql.rows<{ ID: number; DB: string }>(
      'SELECT ID, DB FROM information_schema.PROCESSLIST WHERE DB = DATABASE()',
    );
    await addGift(test, donor, { cents: 50 });
    for (const { ID } of others) if (ID !== mine?.id) await test.sql.run(`KILL ${ID}`).catch(() => undefined);
    const answers: number[] = [];
    for (let tries = 0; tries < 20 && answers.length === 0; tries++)
      await lifetime().then(
        (value) => answers.push(value),
        () => new Promise((resolve) => setTimeout(resolve, 100)),
      );
    expect(answers).toEqual([1_250]);
  });

  it('says that the database is away when there is none', async () => {
    const nowhere = new FactsThread('mysql://nobody:x@127.0.0.1:9/none');
    await expect(nowhere.ask({ ask: 'size' })).rejects.toMatchObject({ status: 503, code: 'database-away' });
    await nowhere.close();
  });

  it('fails plainly over a database without its tables', async () => {
    const empty = new FactsThread(await freshDatabase());
    await expect(empty.ask({ ask: 'size' })).rejects.toThrow(/counter/);
    await empty.close();
  });

  it('answers nothing more once it is closed', async () => {
    const closing = new FactsThread(test.databaseUrl);
    await closing.ask({ ask: 'size' });
    await closing.close();
    await expect(closing.ask({ ask: 'size' })).rejects.toThrow('stopping');
  });
});
