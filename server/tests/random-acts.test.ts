import { afterAll, beforeAll, expect, it } from 'vitest';
import { Chance } from '../../demo/random.ts';
import { bookedIn } from '../deposits/bookings.ts';
import { brokenGuards } from '../platform/guards.ts';
import { actsByChance, MAKING, ORDER } from './by-chance.ts';
import { addPerson, openTestApp } from './support.ts';
import type { TestApp } from './support.ts';

/* Four people do whatever comes to their minds at the same time; what must hold still does, and all figures agree. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const [USERS, ROUNDS, ACTS_EACH] = [4, 4, 25];

/** What each fund has, by the ledger, by the totals and by the rows of gifts. */
async function byFund(): Promise<Record<string, Record<string, number>>> {
  const ledger: Record<string, number> = {};
  for (const { fundId, cents } of await bookedIn(test.sql, '1900-01-01', '2199-12-31'))
    ledger[fundId] = (ledger[fundId] ?? 0) + cents;
  const stored = await test.sql.rows<{ fund: number; cents: number }>(
    `SELECT COALESCE(x.fund_id, g.fund_id) AS fund, SUM(COALESCE(x.cents, g.cents)) AS cents
     FROM gift g LEFT JOIN gift_split x ON x.gift_id = g.id AND g.split = 1 WHERE g.cents > 0 GROUP BY 1`,
  );
  const { body } = await test.call('POST', '/gifts/totals', { window: { kind: 'ever' }, by: 'fund' });
  const rows = body['rows'] as { key: string | number; cents: number }[];
  const plain = (pairs: [string | number, number][]): Record<string, number> =>
    Object.fromEntries(pairs.filter(([, cents]) => cents !== 0));
  return {
    ledger: plain(Object.entries(ledger)),
    totals: plain(rows.map((row) => [row.key, row.cents])),
    gifts: plain(stored.map((row) => [row.fund, Number(row.cents)])),
  };
}

it('keeps all that must hold, and every figure the same by every way', async () => {
  const { known, acts, act } = actsByChance(test);
  for (let person = 0; person < 8; person++) known.people.push(await addPerson(test, { emails: [] }));
  for (const organization of ['One Home', 'Another Home']) {
    const { body } = await test.call('POST', '/supporters', { kind: 'household', organization });
    known.homes.push(Number(body['id']));
  }
  const users = Array.from({ length: USERS }, (_, user) => new Chance(1 + user));
  const done = new Map<string, number>();
  for (let round = 0; round < ROUNDS; round++) {
    await Promise.all(
      users.map(async (chance) => {
        for (let turn = 0; turn < ACTS_EACH; turn++) await act(chance.pick(ORDER), chance, done);
      }),
    );
    expect(await brokenGuards(test.sql)).toEqual([]);
    const { ledger, totals, gifts } = await byFund();
    expect(totals).toEqual(gifts);
    expect(ledger).toEqual(gifts);
  }
  // Whatever never came through, since others were faster or nothing was left to do it with, is done now, while new
  // people come and new gifts are made: this is a test of every act.
  const [chance = new Chance(1)] = users;
  const missing = (): string[] => acts.filter((name) => !done.has(name));
  await act('close', chance, done);
  for (let turn = 0; turn < 300 && missing().length > 0; turn++)
    for (const name of [...MAKING, ...missing()]) await act(name, chance, done);
  expect(missing()).toEqual([]);
}, 240_000);
