import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Running } from '../../scripts/lib/processes.ts';
import { killServer, startServer } from '../tests/processes.ts';
import { addGift, addPerson, freshDatabase, openTestApp, recordOf, snapshot, until } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* A server that dies while it merges leaves each merge done or not begun; the next goes on, and merges nobody twice. */

const GROUPS = 12;
const word = (seed: number): string =>
  [0, 1, 2, 3]
    .map((at) => 'bdfgklmnprst'.charAt((seed * 7 + at * 5) % 12) + 'aeiou'.charAt((seed * 3 + at) % 5))
    .join('');

let test: TestApp;
const servers: Running[] = [];
const ids: number[] = [];
beforeAll(async () => {
  test = await openTestApp({ databaseUrl: await freshDatabase() });
  for (let group = 0; group < GROUPS; group++)
    for (const loud of [false, true]) {
      const [first, last] = [`Ar${word(group)}`, `Ze${word(group + 40)}n`];
      const written = (text: string): string => (loud ? text.toUpperCase() : text);
      const id = await addPerson(test, {
        ...{ first: written(first), last: written(last) },
        emails: [{ address: `${word(group + 90)}${group}@example.org`, label: 'home', preferred: true }],
      });
      ids.push(id);
      await addGift(test, id, { cents: 100 + group });
    }
  await test.services.jobs.stop();
});
afterAll(async () => {
  for (const { child } of servers) child.kill('SIGKILL');
  await test.close();
});

it('goes on where it was, and all of it is taken back', async () => {
  const before = await snapshot(test.sql);
  const merged = async (): Promise<number> =>
    (await test.sql.rows<{ n: number }>(`SELECT COUNT(*) AS n FROM supporter WHERE state = 'merged'`))[0]?.n ?? 0;
  const ended = (id: number) => async (): Promise<boolean> => (await test.services.jobs.get(id)).finished_at !== null;
  const begun = await test.call('POST', '/duplicates/merge-sure', { least: 90, rehearsed: false });
  const jobId = Number(begun.body['jobId']);
  for (let kills = 0; kills < 2; kills++) {
    const [server, was] = [await startServer(test.databaseUrl), await merged()];
    servers.push(server);
    await until(async () => (await merged()) > was || (await ended(jobId)()), 120_000);
    await killServer(server);
    await test.sql.run(`UPDATE job SET heartbeat_at = '2000-01-01' WHERE id = ? AND state = 'running'`, [jobId]);
  }
  servers.push(await startServer(test.databaseUrl));
  await until(ended(jobId), 120_000);
  expect((await test.services.jobs.get(jobId)).state).toBe('done');
  expect(await merged()).toBe(GROUPS);
  const sets = await test.sql.rows(`SELECT revision FROM change_set WHERE kind = 'merge'`);
  expect(sets).toHaveLength(GROUPS);
  const given = await Promise.all(ids.map(async (id) => (await recordOf(test, id)).giving.lifetime));
  expect(given.sort((a, b) => a - b)).toEqual(ids.map((_, at) => 2 * (100 + Math.floor(at / 2))));

  const back = await test.call('POST', `/duplicates/merge-sure/${jobId}/undo`, {});
  await until(ended(Number(back.body['jobId'])), 120_000);
  expect(await snapshot(test.sql)).toEqual(before);
}, 600_000);
