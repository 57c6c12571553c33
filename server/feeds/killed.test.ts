import { expect, it } from 'vitest';
import { openPortal } from '@tallystick/standins/portal';
import type { PortalGift } from '@tallystick/standins/portal';
import { addGift, addPerson, freshDatabase, openTestApp, until } from '../tests/support.ts';
import { killServer, startServer } from '../tests/processes.ts';
import type { FeedRun } from '@tallystick/contract/feeds';

const SECRET = 'between the portal and us';
const GIFTS = 230;

/** What holds at each step of a run, at which the server is killed. */
const STEPS: readonly (readonly [says: string, sql: string])[] = [
  ['a page was kept', 'SELECT feed_id FROM feed_item LIMIT 1'],
  ['two pages were kept', 'SELECT feed_id FROM feed_item GROUP BY feed_id HAVING COUNT(*) >= 200'],
  ['a row was put aside', 'SELECT feed_id FROM feed_place WHERE waiting_id IS NOT NULL'],
  ['gifts are in the books', 'SELECT id FROM gift WHERE intake_id IS NOT NULL LIMIT 1'],
  ['a refund came', 'SELECT id FROM feed_refund LIMIT 1'],
  ['a refund was noted', "SELECT id FROM feed_refund WHERE state = 'noted' LIMIT 1"],
  ['the portal was told', 'SELECT feed_id FROM feed_told LIMIT 1'],
];

it('takes every gift once, notes every refund once, and tells what holds, killed at each of its steps', async () => {
  const portal = await openPortal({ folder: null, secret: SECRET, perSecond: 10_000 });
  portal.store.keep({ campaign: { id: 'van', name: 'Telescope Van', goalCents: 0 } });
  for (let nth = 1; nth <= GIFTS; nth++) {
    const gift: PortalGift = {
      ...{
        id: `GP-${nth}`,
        at: '2026-11-02T20:00:00Z',
        cents: 1_000 + nth,
        feeCents: 30,
        currency: 'USD',
        paidBy: 'card',
      },
      campaign: nth % 50 === 0 ? 'Moon Base' : 'Telescope Van',
      donor: { number: `D-${nth % 40}`, first: 'Ana', last: `Giver${nth % 40}`, email: `giver${nth % 40}@example.org` },
    };
    portal.store.keep({ gift });
  }
  for (const nth of [3, 7])
    portal.store.keep({
      refund: { id: `RF-${nth}`, gift: `GP-${nth}`, cents: 500, at: '2026-11-20T10:00:00Z', reason: 'Asked for' },
    });

  const databaseUrl = await freshDatabase();
  const test = await openTestApp({ databaseUrl, portal: { url: portal.url, secret: SECRET } });
  const who = await addPerson(test);
  await addGift(test, who, {
    ...{ cents: 4_200, date: '2026-11-05' },
    parts: [{ cents: 4_200, fundId: 2, campaignId: null, appealId: null }],
  });
  const setting = { recipeId: null, often: 'never', atHour: 5, tellsSince: '2026-07-01' };
  const tells = [{ campaign: 'van', fundId: 2 }];
  const changed = await test.call('PUT', '/feeds/1', { version: 1, ...setting, tells });
  expect(changed.status).toBe(200);
  await test.services.jobs.stop();
  const jobId = Number((await test.call('POST', '/feeds/1/run')).body['jobId']);

  const start = () => startServer(databaseUrl, undefined, { PORTAL_URL: portal.url, PORTAL_SECRET: SECRET });
  const holds = async (sql: string) => (await test.sql.rows(sql)).length > 0;
  for (const [, step] of STEPS) {
    const server = await start();
    await until(() => holds(step));
    await killServer(server);
    // What a dead server began is taken over when its heart has been still for a while.
    await test.sql.run(`UPDATE job SET heartbeat_at = '2000-01-01' WHERE id = ?`, [jobId]);
  }
  const server = await start();
  await until(async () => (await test.services.jobs.get(jobId)).finished_at !== null, 120_000);
  const end = await test.jobEnd(jobId);
  await killServer(server);
  expect(end.state).toBe('done');

  const gifts = await test.sql.rows<{ reference: string; cents: number }>(
    `SELECT reference, cents FROM gift WHERE reference LIKE 'GP-%'`,
  );
  expect(new Set(gifts.map(({ reference }) => reference)).size).toBe(gifts.length);
  const aside = Math.floor(GIFTS / 50);
  expect(gifts).toHaveLength(GIFTS - aside);
  const waiting = await test.sql.rows(
    `SELECT r.row_no FROM intake_row r JOIN feed_place p ON p.waiting_id = r.intake_id`,
  );
  expect(waiting).toHaveLength(aside);
  const sum = gifts.reduce((all, { cents }) => all + cents, 0);
  const given = portal.store.gifts.filter(({ campaign }) => campaign !== 'Moon Base');
  expect(sum).toBe(given.reduce((all, { cents }) => all + cents, 0) - 1_000);
  expect(portal.store.offlineGifts('van').map(({ cents }) => cents)).toEqual([4_200]);
  const { items } = (await test.call('GET', '/feeds/1/runs')).body as { items: FeedRun[] };
  expect(items).toMatchObject([
    ...[{ state: 'done', came: GIFTS, brought: GIFTS - aside, aside, refunds: 2, refundCents: 1_000, told: 1 }],
  ]);
  await test.close();
  await portal.close();
}, 600_000);
