import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { killServer, openTestRoom, prepared, startServer } from '../tests/processes.ts';
import type { TestRoom } from '../tests/processes.ts';
import { addGift, addPerson, freshDatabase, openTestApp, pause, TESTER, until } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { z } from 'zod';
import { jobKind } from './job-queue.ts';
import { Cancelled, TryLater } from './jobs.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const kind = (name: string, lane = 'trial') => jobKind(name, { name: lane, atOnce: 1 }, z.unknown());
const add = (name: string, payload: unknown = {}) =>
  test.services.jobs.add(TESTER, kind(name), { title: name, payload });

describe('a job', () => {
  it('runs, tells how far it is, and says how it ended', async () => {
    const seen: number[] = [];
    test.services.jobs.handle(kind('count'), async (job) => {
      for (let done = 1; done <= 3; done++) {
        await job.progress(done, 3, `step ${done}`);
        seen.push((await test.services.jobs.get(job.id)).done);
      }
      return `counted for ${job.actor.name}`;
    });
    const id = await add('count');
    expect(await test.jobEnd(id)).toMatchObject({ state: 'done', message: 'counted for Tester', done: 3, total: 3 });
    expect(seen).toEqual([1, 2, 3]);
  });

  it('that fails says why, and the next goes on', async () => {
    test.services.jobs.handle(kind('break'), async () => {
      throw new Error('The till is on fire.');
    });
    expect(await test.jobEnd(await add('break'))).toMatchObject({ state: 'failed', message: 'The till is on fire.' });
    expect(await test.jobEnd(await add('unheard of'))).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('unheard of'),
    });
    expect(await test.jobEnd(await add('count'))).toMatchObject({ state: 'done' });
  });

  it('waits for something outside and goes on by itself, knowing its attempt', async () => {
    const attempts: number[] = [];
    test.services.jobs.handle(kind('wait'), async (job) => {
      attempts.push(job.attempt);
      if (job.attempt < 3) throw new TryLater('Not yet.', 0);
      return 'now';
    });
    expect(await test.jobEnd(await add('wait'))).toMatchObject({ state: 'done', message: 'now' });
    expect(attempts).toEqual([1, 2, 3]);
  });

  it('stops after its step when asked to', async () => {
    test.services.jobs.handle(kind('long'), async (job) => {
      for (let done = 0; ; done++) {
        await job.progress(done, 1000);
        await pause(20);
      }
    });
    const id = await add('long');
    await until(async () => (await test.services.jobs.get(id)).done > 2);
    expect((await test.call('POST', `/jobs/${id}/cancel`, {})).status).toBe(200);
    expect(await test.jobEnd(id)).toMatchObject({ state: 'cancelled' });
    expect(new Cancelled()).toBeInstanceOf(Error);
  });

  it('is told to browsers as it moves', async () => {
    const token = (await test.services.accounts.addToken(TESTER, 'stream', 'read')).secret;
    const aborter = new AbortController();
    const response = await fetch(`${test.url}/api/v1/jobs/stream`, {
      headers: { Authorization: `Bearer ${token}` },
      signal: aborter.signal,
    });
    expect(response.headers.get('content-type')).toBe('text/event-stream');
    let text = '';
    const reading = (async () => {
      for await (const part of response.body as unknown as AsyncIterable<Uint8Array>)
        text += Buffer.from(part).toString();
    })().catch(() => undefined);
    const id = await add('count');
    await until(async () => text.includes(`"id":${id},"kind":"count","title":"count","state":"done"`));
    const before = text.length;
    await addPerson(test);
    await until(async () => /event: revision\ndata: \{.*"written":\["supporters"\]\}/.test(text.slice(before)));
    aborter.abort();
    await reading;
  });
});

describe('lanes', () => {
  it('do not wait for each other: a long file holds up no mail', async () => {
    let release: () => void = () => undefined;
    const held = new Promise<void>((resolve) => (release = resolve));
    test.services.jobs.handle(kind('file', 'files'), async () => {
      await held;
      return 'at last';
    });
    test.services.jobs.handle(kind('letter', 'letters'), async () => 'gone');
    const long = await add('file');
    await until(async () => (await test.services.jobs.get(long)).state === 'running');
    const later = await add('file');
    for (let turn = 0; turn < 3; turn++) expect((await test.jobEnd(await add('letter'))).state).toBe('done');
    expect((await test.services.jobs.get(later)).state).toBe('queued');
    release();
    expect((await test.jobEnd(later)).message).toBe('at last');
  });

  it('refuse a job that is told something else than its kind takes', async () => {
    const strict = jobKind('strict', { name: 'trial', atOnce: 1 }, z.object({ n: z.number() }));
    test.services.jobs.handle(strict, async (job) => String(job.payload.n));
    const id = await add('strict', { n: 'seven' });
    expect(await test.jobEnd(id)).toMatchObject({ state: 'failed', message: expect.stringContaining('number') });
  });
});

describe('a schedule', () => {
  it('begins one job for each of its hours, on one server or three, and makes up for an hour that was missed', async () => {
    const databaseUrl = await freshDatabase();
    const apps: TestApp[] = [];
    for (let server = 0; server < 3; server++) apps.push(await openTestApp({ databaseUrl }));
    const [first] = apps;
    for (const app of apps)
      await app.services.jobs.schedule('by the hour', { at: '0 * * * *', timeZone: 'UTC' }, async () => ({
        actor: TESTER,
        kind: kind('hourly', 'hours'),
        job: { title: 'hourly', payload: {} },
      }));
    const begun = async () => (await first?.sql.rows(`SELECT id FROM job WHERE kind = 'hourly'`))?.length;
    expect(await begun()).toBe(0);
    for (const hour of ['2020-01-01 05:00:00', '2020-01-02 05:00:00']) {
      await first?.sql.run('UPDATE schedule SET next_at = ?', [hour]);
      const next = async () =>
        (await first?.sql.rows<{ later: number }>('SELECT next_at > UTC_TIMESTAMP() AS later FROM schedule'))?.[0]
          ?.later;
      await until(async () => (await next()) === 1);
    }
    expect(await begun()).toBe(2);
    for (const app of apps) await app.close();
  });
});

describe('several processes on one database', () => {
  it('share the jobs, and none is done twice', async () => {
    const databaseUrl = await freshDatabase();
    const [one, two] = [await openTestApp({ databaseUrl }), await openTestApp({ databaseUrl })];
    const done: string[] = [];
    for (const [name, app] of [
      ['one', one],
      ['two', two],
    ] as const)
      app.services.jobs.handle(kind('share'), async (job) => {
        done.push(`${(job.payload as { n: number }).n} ${name}`);
        await pause(15);
        return '';
      });
    const ids: number[] = [];
    for (let n = 0; n < 30; n++)
      ids.push(await one.services.jobs.add(TESTER, kind('share'), { title: 'share', payload: { n } }));
    for (const id of ids) await one.jobEnd(id);
    expect(done.map((line) => Number(line.split(' ')[0])).sort((a, b) => a - b)).toEqual(ids.map((_, n) => n));
    expect(new Set(done.map((line) => line.split(' ')[1])).size).toBe(2);
    await one.close();
    await two.close();
  });
});

describe('killed in the middle (SIGKILL)', () => {
  let room: TestRoom;
  beforeAll(async () => {
    room = await openTestRoom();
  });
  afterAll(() => room.close());
  const start = (databaseUrl: string) => startServer(databaseUrl, room.smtpPort);

  it('an intake is brought in once or not at all, and goes on after the restart', async () => {
    const rows = Array.from(
      { length: 6_000 },
      (_, index) => `F${index},L${index},p${index}@example.org,1.00,2026-11-01,R${index}`,
    );
    const {
      databaseUrl,
      app,
      value: intake,
    } = await prepared(async (one) => {
      const { body } = await one.call('POST', '/intakes?name=big.csv', undefined, {
        raw: Buffer.from(['First name,Last name,Email,Amount,Date,Transaction ID', ...rows].join('\n')),
      });
      return Number(body['id']);
    });
    const count = async () => (await app.sql.rows<{ many: number }>('SELECT COUNT(*) AS many FROM gift'))[0]?.many;
    const jobId = await app.services.intakes.begin(TESTER, intake);
    for (const delay of [150, 500]) {
      const server = await start(databaseUrl);
      await until(async () => (await app.services.jobs.get(jobId)).state === 'running');
      await pause(delay);
      await killServer(server);
      expect([0, 6_000]).toContain(await count());
    }
    const server = await start(databaseUrl);
    await until(async () => (await app.services.jobs.get(jobId)).finished_at !== null, 100_000);
    expect(await app.services.jobs.get(jobId)).toMatchObject({ state: 'done' });
    expect(await count()).toBe(6_000);
    expect((await app.sql.rows(`SELECT revision FROM change_set WHERE kind = 'intake'`)).length).toBe(1);
    await killServer(server);
    await app.close();
  }, 300_000);

  it('receipts keep their numbers, and no e-mail goes twice', async () => {
    const {
      databaseUrl,
      app,
      value: gifts,
    } = await prepared(async (one) => {
      const made: number[] = [];
      for (let index = 0; index < 60; index++) made.push(await addGift(one, await addPerson(one)));
      return made;
    });
    const issued = await app.services.thanks.issue(TESTER, 1, gifts, null);
    for (let kills = 0; kills < 2; kills++) {
      const server = await start(databaseUrl);
      const sent = (await room.postbox.list()).length;
      await until(async () => (await room.postbox.list()).length >= sent + 8);
      await killServer(server);
    }
    const server = await start(databaseUrl);
    await until(async () => (await app.services.jobs.get(issued.jobId ?? 0)).finished_at !== null, 100_000);
    const states = await app.sql.rows<{ state: string; many: number }>(
      'SELECT state, COUNT(*) AS many FROM delivery GROUP BY state',
    );
    const of = (state: string): number => states.find((row) => row.state === state)?.many ?? 0;
    const arrived = await room.postbox.list();
    expect(new Set(arrived.map((letter) => letter.messageId)).size).toBe(arrived.length);
    expect(of('sent') + of('unsure')).toBe(60);
    expect(of('unsure')).toBeLessThanOrEqual(8);
    expect(arrived.length).toBeGreaterThanOrEqual(of('sent'));
    expect(arrived.length).toBeLessThanOrEqual(60);
    const sequences = (await app.sql.rows<{ sequence: number }>('SELECT sequence FROM receipt ORDER BY sequence')).map(
      (row) => row.sequence,
    );
    expect(sequences).toEqual(Array.from({ length: 60 }, (_, index) => index + 1));
    await killServer(server);
    await app.close();
  }, 300_000);
});
