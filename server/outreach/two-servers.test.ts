import { afterAll, beforeAll, expect, it } from 'vitest';
import { all, stateIs } from '@tallystick/core/segments';
import type { Running } from '../../scripts/lib/processes.ts';
import { killServer, openTestRoom, prepared, startServer } from '../tests/processes.ts';
import type { TestRoom } from '../tests/processes.ts';
import { addPerson, TESTER, until } from '../tests/support.ts';

/* Two servers on one database send one mailing, with everything that can go wrong on the way; the mail room counts. */

let room: TestRoom;
beforeAll(async () => {
  room = await openTestRoom();
});
afterAll(() => room.close());

const MANY = { slow: 160, bounce: 3, busy: 2 };
const ALL = MANY.slow + MANY.bounce + MANY.busy;

it('each message goes once, whatever is retried, paused and killed, and nobody is left behind', async () => {
  const { databaseUrl, app, value } = await prepared(async (one) => {
    for (const [domain, many] of Object.entries(MANY))
      for (let n = 0; n < many; n++)
        await addPerson(one, { emails: [{ address: `p${n}@${domain}.example.net` }], addresses: [{ region: 'ZZ' }] });
    const conditions = all(stateIs('ZZ'));
    const segment = await one.call('POST', '/segments', { name: 'All', conditions });
    const made = await one.call('POST', '/mailings', {
      ...{ name: 'To all', subject: 'Hello', segmentId: segment.body['id'] },
      body: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Hello' }] }] },
    });
    return Number(made.body['id']);
  });
  const { mailings, deliveries, jobs } = app.services;
  const { jobId } = await mailings.send(TESTER, value, ALL);
  const job = () => jobs.get(jobId);
  const arrived = async () => (await room.postbox.list()).map((letter) => letter.messageId);
  const comeTo = (many: number) => until(async () => (await arrived()).length >= many, 100_000);
  /** Which of the servers is at the mailing. */
  const sender = async (servers: Running[]): Promise<Running> => {
    const [row] = await app.sql.rows<{ worker: string }>('SELECT worker FROM job WHERE id = ?', [jobId]);
    const found = servers.find(({ child }) => row?.worker.includes(`:${child.pid}:`));
    if (!found) throw new Error(`Nobody is at it: ${row?.worker}`);
    return found;
  };

  const servers = [await startServer(databaseUrl, room.smtpPort), await startServer(databaseUrl, room.smtpPort)];
  await comeTo(8);
  // A person sends again to an address that bounced, and the other server takes that up.
  await until(async () => (await deliveries.counts({ kind: 'mailing', id: value })).sent >= 8);
  await app.sql.run(
    `UPDATE delivery SET state = 'bounced', taken_by = '' WHERE address = 'p0@bounce.example.net' AND state = 'queued'`,
  );
  const [bounced] = await app.sql.rows<{ id: number }>(
    `SELECT id FROM delivery WHERE address = 'p0@bounce.example.net'`,
  );
  const again = await deliveries.retry(TESTER, bounced?.id ?? 0);
  await until(async () => (await jobs.get(again)).finished_at !== null);
  expect(await jobs.get(again)).toMatchObject({ state: 'done', message: '1 not reached' });
  expect((await job()).state).toBe('running');

  // The one that sends falls silent for longer than the other waits; then it comes back in the middle of things.
  const first = await sender(servers);
  first.child.kill('SIGSTOP');
  await until(async () => (await job()).attempts >= 2, 100_000);
  const before = (await arrived()).length;
  await comeTo(before + 4);
  first.child.kill('SIGCONT');
  await comeTo(before + 12);
  // The one that took over dies.
  const second = await sender(servers);
  expect(second.child.pid).not.toBe(first.child.pid);
  await killServer(second);

  // What is left goes by the one that was paused; only who is busy is waited for.
  await until(async () => (await job()).state === 'waiting', 100_000);
  expect(await job()).toMatchObject({ message: expect.stringContaining('2 could not be reached yet') });
  const states = async () => {
    const rows = await app.sql.rows<{ domain: string; state: string; many: number }>(
      `SELECT SUBSTRING_INDEX(SUBSTRING_INDEX(address, '@', -1), '.', 1) AS domain, state, COUNT(*) AS many FROM delivery GROUP BY 1, 2`,
    );
    return Object.fromEntries(rows.map((row) => [`${row.domain} ${row.state}`, row.many]));
  };
  const then = await states();
  expect(then).toMatchObject({ 'bounce bounced': 3, 'busy queued': 2 });
  // Of those cut off by the kill nobody knows; four at once at most. Whoever was only paused told the truth later.
  expect((then['slow sent'] ?? 0) + (then['slow unsure'] ?? 0)).toBe(MANY.slow);
  expect(then['slow unsure'] ?? 0).toBeLessThanOrEqual(4);
  const letters = await arrived();
  expect(new Set(letters).size).toBe(letters.length);
  expect(letters.length).toBeGreaterThanOrEqual(then['slow sent'] ?? 0);

  // A day later the busy ones are given up, and the mailing is over.
  await app.sql.run(`UPDATE delivery SET tries = 7, due_at = UTC_TIMESTAMP(3) WHERE state = 'queued'`);
  await app.sql.run(`UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE id = ?`, [jobId]);
  await until(async () => (await job()).finished_at !== null, 100_000);
  expect(await job()).toMatchObject({ state: 'done' });
  expect(await states()).toMatchObject({ 'bounce bounced': 3, 'busy failed': 2 });
  expect(await mailings.get(value)).toMatchObject({ state: 'sent', counts: { waiting: 0 } });
  expect((await arrived()).length).toBe(letters.length);
  for (const server of servers)
    if (server.child.exitCode === null && server.child.signalCode === null) await killServer(server);
  await app.close();
}, 400_000);
