import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freshDatabase, openTestApp, snapshot, until } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { killServer, startServer } from '../tests/processes.ts';
import type { Running } from '../../scripts/lib/processes.ts';

/* A server that dies in the middle of an intake leaves it undone or done, and never half. */

const ROWS = 2_000;
const FILE = [
  'First name,Last name,Email,Amount,Date,Transaction ID,Tags',
  ...Array.from(
    { length: ROWS },
    (_, at) => `Ana,Killed${at},killed${at}@example.org,${5 + (at % 50)}.00,11/20/2026,K-${at},gala`,
  ),
].join('\n');

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp({ databaseUrl: await freshDatabase() });
  await test.services.jobs.stop();
});
const servers: Running[] = [];
const start = async (): Promise<Running> => {
  const server = await startServer(test.databaseUrl);
  servers.push(server);
  return server;
};
afterAll(async () => {
  for (const { child } of servers) child.kill('SIGKILL');
  await test.close();
});

const count = async (sql: string): Promise<number> => (await test.sql.rows<{ n: number }>(sql))[0]?.n ?? 0;
/** Whether the database is at a statement that begins so. */
const isAt = async (statement: string): Promise<boolean> =>
  (await count(`SELECT COUNT(*) AS n FROM information_schema.processlist WHERE info LIKE '${statement}%'`)) > 0;
/** Whether something in our database is written that is not kept or taken back yet. */
const isWriting = async (): Promise<boolean> =>
  (await count(
    `SELECT COUNT(*) AS n FROM information_schema.innodb_trx t JOIN information_schema.processlist p ON p.id = t.trx_mysql_thread_id
     WHERE p.db = DATABASE() AND t.trx_rows_modified > 0`,
  )) > 0;
/** Has a server of its own do something, and kills it as soon as it is at a statement, or has done it. */
async function killedAt(statement: string, begin: (server: Running) => Promise<unknown>): Promise<void> {
  const server = await start();
  let over = false;
  void begin(server).then(
    () => (over = true),
    () => (over = true),
  );
  await until(async () => over || (await isAt(statement)));
  await killServer(server);
  // What a dead server had begun is taken back when the database sees that it is gone.
  await until(async () => !(await isWriting()));
}
describe('a server that is killed', () => {
  it.each(['INSERT INTO intake_row'])('while a file is kept, at %s', async (statement) => {
    await killedAt(statement, (server) =>
      test.call('POST', '/intakes?name=killed.csv', undefined, { raw: Buffer.from(FILE), at: server.said[0] ?? '' }),
    );
    const files = await count('SELECT COUNT(*) AS n FROM intake');
    expect(await count('SELECT COUNT(*) AS n FROM intake_row')).toBe(files * (ROWS + 1));
  });

  it.each(['INSERT INTO gift'])('while a file is brought in, at %s, and taken back', async (statement) => {
    const before = await snapshot(test.sql);
    const uploaded = await test.call('POST', '/intakes?name=posted.csv', undefined, { raw: Buffer.from(FILE) });
    const id = Number(uploaded.body['id']);
    const jobId = Number((await test.call('POST', `/intakes/${id}/post`)).body['jobId']);
    await killedAt(statement, () => test.jobEnd(jobId));
    const gifts = await count(`SELECT COUNT(*) AS n FROM gift WHERE intake_id = ${id}`);
    expect([0, ROWS]).toContain(gifts);
    await test.sql.run(`UPDATE job SET heartbeat_at = '2000-01-01' WHERE id = ?`, [jobId]);
    const again = await start();
    await until(async () => (await test.services.jobs.get(jobId)).finished_at !== null, 120_000);
    expect(await test.jobEnd(jobId)).toMatchObject({ state: 'done' });
    await killServer(again);
    expect(await count(`SELECT COUNT(*) AS n FROM gift WHERE intake_id = ${id}`)).toBe(ROWS);
    expect(await count(`SELECT COUNT(DISTINCT reference) AS n FROM gift WHERE intake_id = ${id}`)).toBe(ROWS);

    const { revision } = (await test.call('GET', `/intakes/${id}`)).body;
    await killedAt('DELETE FROM gift', (server) =>
      test.call('POST', `/changes/${Number(revision)}/undo`, undefined, { at: server.said[0] ?? '' }),
    );
    const left = await count(`SELECT COUNT(*) AS n FROM gift WHERE intake_id = ${id}`);
    expect([0, ROWS]).toContain(left);
    if (left > 0) expect((await test.call('POST', `/changes/${Number(revision)}/undo`)).status).toBe(200);
    expect((await test.call('DELETE', `/intakes/${id}`)).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  });
}, 600_000);
