import { afterAll, beforeAll, expect, it } from 'vitest';
import { listFaults, listFindings } from '@tallystick/contract/upkeep';
import { FINDING_NAMES } from '@tallystick/core/upkeep';
import { Chance } from '../../demo/random.ts';
import { killServer, startServer } from '../tests/processes.ts';
import type { Running } from '../../scripts/lib/processes.ts';
import { actsByChance, ORDER } from '../tests/by-chance.ts';
import { addPerson, freshDatabase, openTestApp, snapshot, TESTER, until } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { SupporterTable } from '../supporters/index.ts';

/* What is kept of unclean records is what is found anew, whatever was done; and a server that dies mends nothing twice. */

let test: TestApp;
const servers: Running[] = [];
beforeAll(async () => {
  test = await openTestApp({ databaseUrl: await freshDatabase() });
});
afterAll(async () => {
  for (const { child } of servers) child.kill('SIGKILL');
  await test.close();
});

/** Every fault by its finding, as a server tells them. */
async function told(app: TestApp): Promise<Record<string, unknown>> {
  const found: Record<string, unknown> = {};
  const { items, records } = listFindings.response.parse((await app.call('GET', '/upkeep')).body);
  for (const finding of FINDING_NAMES) {
    const { body } = await app.call('GET', `/upkeep/${finding}?limit=1000`);
    const list = listFaults.response.parse(body);
    expect([finding, list.total]).toEqual([finding, items.find((item) => item.finding === finding)?.count]);
    found[finding] = list.items;
  }
  return { ...found, records };
}

it('is the same as what a server finds that just began, after each of many acts by chance', async () => {
  const { known, act } = actsByChance(test);
  for (let person = 0; person < 10; person++) known.people.push(await addPerson(test, { emails: [] }));
  for (const organization of ['One Home', 'Another Home']) {
    const { body } = await test.call('POST', '/supporters', { kind: 'household', organization });
    known.homes.push(Number(body['id']));
  }
  const chance = new Chance(23);
  const done = new Map<string, number>();
  for (let round = 0; round < 5; round++) {
    for (let turn = 0; turn < 60; turn++) {
      const often = chance.happens(0.4)
        ? chance.pick(['soil', 'mend', 'join', 'settleIn', 'tie', 'undo'])
        : chance.pick(ORDER);
      await act(often, chance, done);
      // It is asked now and then, so that it is put right for few and for many at once.
      if (turn % 7 === 0) await test.call('GET', '/upkeep');
    }
    const fresh = await openTestApp({ databaseUrl: test.databaseUrl });
    expect(await told(test)).toEqual(await told(fresh));
    await fresh.close();
  }
  for (const name of ['soil', 'mend', 'die', 'settleIn', 'join', 'mailBack', 'undo'])
    expect([name, (done.get(name) ?? 0) > 0]).toEqual([name, true]);
}, 240_000);

it('mends each row once, though the server is killed while it mends', async () => {
  const many = 1_500;
  await test.services.changes.write(TESTER, { kind: 'load', summary: 'Many' }, (tx) =>
    tx.insertAll(
      SupporterTable,
      Array.from({ length: many }, (_, index) => ({
        ...{ kind: 'person' as const, first: `LOUD${'ABCDEFGHIJKLMNO'[index % 15] ?? ''}`, sort_name: 'loud' },
        last: `NAME${['UVW', 'XYZ', 'RST'][index % 3] ?? ''}${'ABCDEFGHIJ'[Math.floor(index / 15) % 10] ?? ''}`,
      })),
    ),
  );
  await test.services.jobs.stop();
  const before = await snapshot(test.sql);
  const { body } = await test.call('POST', '/upkeep/capitals/mend', { rows: null });
  const jobId = Number(body['jobId']);
  const state = async (): Promise<string> => (await test.services.jobs.get(jobId)).state;
  const first = await startServer(test.databaseUrl);
  servers.push(first);
  await until(async () => (await state()) !== 'queued', 120_000);
  await killServer(first);
  await test.sql.run(`UPDATE job SET heartbeat_at = '2000-01-01' WHERE id = ? AND state = 'running'`, [jobId]);
  servers.push(await startServer(test.databaseUrl));
  await until(async () => (await test.services.jobs.get(jobId)).finished_at !== null, 120_000);
  expect(await state()).toBe('done');
  const sets = await test.sql.rows<{ revision: number }>(
    `SELECT revision FROM change_set WHERE summary LIKE 'Upkeep: Names in capitals%' AND row_count >= ?`,
    [many],
  );
  expect(sets).toHaveLength(1);
  expect((await told(test))['capitals']).toEqual([]);
  const undone = await test.call('POST', `/changes/${sets[0]?.revision ?? 0}/undo`, {}, { as: 'admin' });
  expect(undone.status).toBe(200);
  expect(await snapshot(test.sql)).toEqual(before);
}, 240_000);
