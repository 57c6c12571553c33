import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freePort, startMariaDb } from '../../scripts/lib/mariadb.ts';
import type { Database } from '../../scripts/lib/mariadb.ts';
import { addPerson, openTestApp, pause, TESTER, until } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { jobKind } from './job-queue.ts';
import { z } from 'zod';

/* The database is stopped while the server runs: every answer says so, nothing half is kept, and it goes on by itself. */

let folder: string;
let port: number;
let database: Database;
let test: TestApp;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'tallystick-away-'));
  port = await freePort();
  database = await startMariaDb(folder, { port });
  test = await openTestApp({ databaseUrl: database.url, patience: 1_000 });
}, 90_000);
afterAll(async () => {
  await test.close();
  await database.stop();
  rmSync(folder, { recursive: true, force: true });
});

describe('when the database hangs', () => {
  it('gives up what waits for it, refuses what comes, and goes on when it answers again', async () => {
    const pid = Number(readFileSync(join(folder, 'database.pid'), 'utf8'));
    const id = await addPerson(test, { first: 'Held' });
    process.kill(pid, 'SIGSTOP');
    try {
      const waiting = await test.call('GET', `/supporters/${id}`);
      expect([waiting.status, waiting.body['error']]).toMatchObject([503, { code: 'database-silent' }]);
      const refused = await test.call('POST', '/supporters', { first: 'While', last: 'Silent' });
      expect([refused.status, refused.body['error']]).toMatchObject([503, { code: 'database-silent' }]);
    } finally {
      process.kill(pid, 'SIGCONT');
    }
    await until(async () => (await test.call('GET', `/supporters/${id}`)).status === 200);
    expect((await test.call('GET', '/supporters?q=Silent')).body['total']).toBe(0);
  }, 90_000);
});

describe('when the database is stopped', () => {
  it('answers 503 in the one shape, and recovers when it is back', async () => {
    const id = await addPerson(test, { first: 'Before' });
    const slow = jobKind('slow', { name: 'trial', atOnce: 1 }, z.unknown());
    const steps: number[] = [];
    test.services.jobs.handle(slow, async (job) => {
      for (let step = steps.length + 1; step <= 30; step++) {
        await job.progress(step, 30);
        steps.push(step);
        await pause(60);
      }
      return 'all 30';
    });
    const jobId = await test.services.jobs.add(TESTER, slow, { title: 'slow', payload: {} });
    await until(async () => steps.length > 3);

    database.kill();
    await pause(300);
    for (const [method, path, body] of [
      ['GET', '/supporters', undefined],
      ['GET', `/supporters/${id}`, undefined],
      ['POST', '/supporters', { first: 'While', last: 'Away' }],
      ['POST', '/segments/count', { conditions: { kind: 'group', join: 'all', parts: [] } }],
    ] as const) {
      const answer = await test.call(method, path, body);
      expect([path, answer.status]).toEqual([path, 503]);
      expect(answer.body['error']).toMatchObject({
        code: 'database-away',
        message: expect.stringContaining('not answering'),
      });
    }

    database = await startMariaDb(folder, { port });
    await until(async () => (await test.call('GET', '/supporters')).status === 200);
    expect((await test.call('GET', `/supporters/${id}`)).body).toMatchObject({ first: 'Before' });
    expect((await test.call('GET', '/supporters?q=While')).body['total']).toBe(0);
    expect(
      (await test.call('POST', '/segments/count', { conditions: { kind: 'group', join: 'all', parts: [] } })).body[
        'count'
      ],
    ).toBe(2);
    expect(await test.jobEnd(jobId)).toMatchObject({ state: 'done', message: 'all 30' });
  }, 90_000);
});
