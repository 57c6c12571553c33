import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addPerson, openTestApp, snapshot } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* Files of pledges, recurring gifts, and past gifts that keep them. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

type Setting = Record<string, unknown>;
const upload = async (text: string): Promise<number> =>
  Number((await test.call('POST', '/intakes?name=past.csv', undefined, { raw: Buffer.from(text) })).body['id']);
const set = async (id: number, setting: Setting): Promise<void> => {
  const { body } = await test.call('GET', `/intakes/${id}`);
  const change = { version: body['version'], setting: { ...(body['setting'] as Setting), ...setting } };
  expect((await test.call('PUT', `/intakes/${id}`, change)).status).toBe(200);
};
const rowsOf = async (id: number) =>
  (await test.call('GET', `/intakes/${id}/rows?limit=50`)).body['items'] as {
    row: number;
    verdict: string;
    says: string;
    warnings: { reason: string }[];
    changes: { field: string; after: string }[];
  }[];
const post = async (id: number): Promise<unknown> => {
  const { body } = await test.call('POST', `/intakes/${id}/post`, {});
  expect(await test.jobEnd(Number(body['jobId']))).toMatchObject({ state: 'done' });
  return (await test.call('GET', `/intakes/${id}`)).body['revision'];
};
const undo = async (revision: unknown): Promise<unknown> => {
  const { status, body } = await test.call('POST', `/changes/${String(revision)}/undo`, {});
  expect([status, body['error']]).toEqual([200, undefined]);
  return body['revision'];
};

describe('a file of promises and of past gifts', () => {
  it('makes pledges and recurring gifts, has gifts keep them on their own days, and is taken back whole', async () => {
    const ana = await addPerson(test, { first: 'Ana', last: 'Past', emails: [{ address: 'ana@example.org' }] });
    const pledged = { supporterId: ana, cents: 30_000, pledgedOn: '2026-01-10', fundId: 1 };
    const plan = { kind: 'count', schedule: { start: '2026-02-01', every: 'month' }, count: 3 };
    expect((await test.call('POST', '/pledges', { ...pledged, plan })).status).toBe(200);
    const before = await snapshot(test.sql);
    const id = await upload(
      [
        'First name,Last name,Email,Amount,Date,Gift type,Pledge amount,Pledge date,Installments,Recurring amount,Recurring start,Payment type',
        'Ana,Past,ana@example.org,100,2026-02-03,Pledge payment,,,,,,check',
        'Ana,Past,ana@example.org,250,2026-03-03,pledge payment,,,,,,check',
        'Bo,Past,bo@example.org,50,2026-03-05,Pledge,200,2026-03-01,4,,,check',
        'Cy,Past,cy@example.org,25,2026-01-05,Monthly,,,,25,2026-01-05,card',
        'Cy,Past,cy@example.org,25,2026-02-05,Monthly,,,,,,card',
        'Di,Past,di@example.org,10,2026-02-05,One-time,,,,,,cash',
        'Ed,Past,ed@example.org,10,2026-02-05,Recurring,,,,,,cash',
        'Fay,Past,fay@example.org,10,2026-02-05,Installment,,,,,,cash',
      ].join('\n'),
    );
    const rows = await rowsOf(id);
    expect(rows.map(({ verdict }) => verdict)).toEqual(['known', 'known', 'new', 'new', 'new', 'new', 'new', 'bad']);
    expect(rows[1]?.changes.map(({ field, after }) => [field, after])).toEqual([
      ['giftKind', expect.stringMatching(/^pays P-/)],
    ]);
    expect(rows[6]?.warnings[0]?.reason).toContain('has no recurring gifts here');
    expect(rows[7]?.says).toContain('no pledge that it could pay');
    const revision = await post(id);

    const pledges = (await test.call('GET', '/pledges?show=all&sort=date')).body['items'] as {
      supporterName: string;
      standing: { pledged: number; paid: number; balance: number };
    }[];
    expect(
      pledges.map(({ supporterName, standing: { pledged: all, paid, balance } }) => [
        supporterName,
        all,
        paid,
        balance,
      ]),
    ).toEqual(
      expect.arrayContaining([
        ['Ana Past', 30_000, 30_000, 0],
        ['Bo Past', 20_000, 5_000, 15_000],
      ]),
    );
    // The days and the amounts are those of the file; what is more than the pledge is a gift beyond it.
    const gifts = await test.sql.rows<{ first: string; date: string; cents: number; recurs: number }>(
      `SELECT s.first, g.date, g.cents, g.recurring_id IS NOT NULL AS recurs FROM gift g JOIN supporter s ON s.id = g.supporter_id
       WHERE s.last = 'Past' ORDER BY g.id`,
    );
    expect(gifts.map(({ first, date, cents, recurs }) => [first, date, cents, Number(recurs)])).toEqual([
      ['Ana', '2026-02-03', 10_000, 0],
      ['Ana', '2026-03-03', 25_000, 0],
      ['Bo', '2026-03-05', 5_000, 0],
      ['Cy', '2026-01-05', 2_500, 1],
      ['Cy', '2026-02-05', 2_500, 1],
      ['Di', '2026-02-05', 1_000, 0],
      ['Ed', '2026-02-05', 1_000, 0],
    ]);
    const [plan2] = (await test.call('GET', '/recurring?show=all')).body['items'] as {
      supporterName: string;
      cents: number;
      method: string;
    }[];
    expect(plan2).toMatchObject({ supporterName: 'Cy Past', cents: 2_500, method: 'other' });

    const standing = await snapshot(test.sql);
    const back = await undo(await undo(revision));
    expect(await snapshot(test.sql)).toEqual(standing);
    await undo(back);
    expect((await test.call('DELETE', `/intakes/${id}`)).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('has no two rows pay one balance: what a choice for one frees, the other may pay', async () => {
    await addPerson(test, { first: 'Gus', last: 'Once', emails: [{ address: 'gus@example.org' }] });
    const [gus] = await test.sql.rows<{ id: number }>(`SELECT id FROM supporter WHERE last = 'Once'`);
    const plan = { kind: 'count', schedule: { start: '2026-02-01', every: 'month' }, count: 1 };
    const pledge = { supporterId: gus?.id, cents: 10_000, pledgedOn: '2026-01-10', fundId: 1, plan };
    expect((await test.call('POST', '/pledges', pledge)).status).toBe(200);
    const row = 'Gus,Once,gus@example.org,100,2026-02-03,Pledge payment';
    const id = await upload(['First name,Last name,Email,Amount,Date,Gift type', row, row].join('\n'));
    expect((await rowsOf(id)).map(({ verdict }) => verdict)).toEqual(['known', 'bad']);
    await set(id, { picks: { 2: 'skip' } });
    expect((await rowsOf(id)).map(({ verdict }) => verdict)).toEqual(['skipped', 'known']);
    await set(id, { picks: {} });
    expect((await rowsOf(id)).map(({ verdict }) => verdict)).toEqual(['known', 'bad']);
  });
});
