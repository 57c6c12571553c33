import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { openPortal } from '@tallystick/standins/portal';
import type { Fault, Portal, PortalDonor, PortalGift } from '@tallystick/standins/portal';
import type { Feed, FeedRun, FeedStanding } from '@tallystick/contract/feeds';
import { dateInZone } from '@tallystick/core/dates';
import { addGift, addPerson, openTestApp, snapshot, until } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

const SECRET = 'between the portal and us';
let portal: Portal;
let test: TestApp;
let feed: Feed;
let nth = 0;

beforeAll(async () => {
  portal = await openPortal({ folder: null, secret: SECRET, perSecond: 10_000 });
  test = await openTestApp({ portal: { url: portal.url, secret: SECRET }, portalPatience: 500 });
  feed = await theFeed();
});
afterAll(async () => {
  await test.close();
  await portal.close();
});

const ask = async <T>(method: string, path: string, body?: unknown): Promise<T> =>
  (await test.call(method, path, body)).body as T;
const theFeed = async (): Promise<Feed> => {
  const { items } = await ask<{ items: Feed[] }>('GET', '/feeds');
  return items[0] as Feed;
};
const donor = (over: Partial<PortalDonor> = {}): PortalDonor => ({
  ...{
    number: `D-${++nth}`,
    first: 'Odalys',
    last: `Portalgiver${'abcdefghij'[nth % 10]}${nth}`,
    email: `giver${nth}@example.org`,
  },
  ...over,
});
const gives = (over: Partial<PortalGift> = {}): PortalGift => {
  const gift: PortalGift = {
    ...{ id: `GP-${++nth}`, at: '2026-11-02T20:00:00Z', campaign: 'Telescope Van', cents: 5000, feeCents: 175 },
    ...{ currency: 'USD', paidBy: 'card', donor: donor() },
    ...over,
  };
  portal.store.keep({ gift });
  return gift;
};
const givesBack = (gift: PortalGift, cents = gift.cents, id = `RF-${++nth}`): string => {
  portal.store.keep({ refund: { id, gift: gift.id, cents, at: '2026-11-20T10:00:00Z', reason: 'Asked for' } });
  return id;
};
/** Runs the feed to its end; answers how the job ended. */
async function run(how: 'run' | 'rehearse' = 'run'): Promise<{ state: string; message: string }> {
  const { jobId } = await ask<{ jobId: number }>('POST', `/feeds/${feed.id}/${how}`);
  return test.jobEnd(jobId);
}
const runs = async () => (await ask<{ items: FeedRun[] }>('GET', `/feeds/${feed.id}/runs`)).items;
const lastRun = async (): Promise<FeedRun> => (await runs())[0] as FeedRun;
const standing = () => ask<FeedStanding>('GET', `/feeds/${feed.id}/standing`);
const change = async (over: Partial<Feed>) => {
  const { version, recipeId, often, atHour, tells, tellsSince } = { ...(await theFeed()), ...over };
  return test.call('PUT', `/feeds/${feed.id}`, { version, recipeId, often, atHour, tells, tellsSince });
};
const giftsOf = (reference: string) =>
  test.sql.rows<{ id: number; cents: number; state: string; date: string; fee_cents: number }>(
    'SELECT id, cents, state, date, fee_cents FROM gift WHERE reference = ?',
    [reference],
  );
/** How many supporters have a last name, in any case. */
const named = async (last: string): Promise<number> =>
  (await test.sql.rows('SELECT id FROM supporter WHERE last = ?', [last])).length;
const bringIn = async (intakeId: number | null | undefined) =>
  test.jobEnd((await ask<{ jobId: number }>('POST', `/intakes/${intakeId}/post`)).jobId);
const lookAgain = () => ask<{ rows: number; intakeId: number }>('POST', `/feeds/${feed.id}/look-again`);
interface Waiting {
  row: number;
  cells: string[];
  verdict: string;
}
const waitingRows = async (): Promise<Waiting[]> => {
  const { waitingId } = await theFeed();
  if (waitingId === null) return [];
  return (await ask<{ items: Waiting[] }>('GET', `/intakes/${waitingId}/rows`)).items;
};

describe('a run', () => {
  it('brings in what is sure, by its own day, with its fee, its fund and its donor', async () => {
    const gift = gives({ at: '2026-11-03T05:30:00Z' });
    const { state, message } = await run();
    expect([state, message]).toEqual(['done', '1 gift came, $50.00; 1 gift in the books, $50.00.']);
    const [organization] = await test.sql.rows<{ time_zone: string }>('SELECT time_zone FROM organization');
    const date = dateInZone(new Date(gift.at), organization?.time_zone ?? '');
    expect(await giftsOf(gift.id)).toMatchObject([{ cents: 5000, state: 'kept', date, fee_cents: 175 }]);
    expect(await named(gift.donor.last)).toBe(1);
    expect(await lastRun()).toMatchObject({ state: 'done', came: 1, cameCents: 5000, brought: 1, aside: 0 });
  });

  it('takes no gift twice, however often it comes', async () => {
    const gift = gives();
    portal.store.keep({ gift });
    portal.store.keep({ gift: { ...gift, cents: 9900 } });
    await run();
    await run();
    expect(await giftsOf(gift.id)).toMatchObject([{ cents: 5000 }]);
    expect((await lastRun()).came).toBe(0);
    const [{ id: giftId } = { id: 0 }] = await giftsOf(gift.id);
    expect((await standing()).otherwise).toEqual([{ item: gift.id, cents: 5000, nowCents: 9900, giftId }]);
    // As it came first again, there is nothing to tell.
    portal.store.keep({ gift });
    await run();
    expect((await standing()).otherwise).toEqual([]);
  });

  it('reads page after page, and finds the donor of before by their number there', async () => {
    const who = donor();
    const gifts = Array.from({ length: 230 }, () => gives({ donor: who }));
    await run();
    expect(await lastRun()).toMatchObject({ came: 230, brought: 230, aside: 0 });
    gives({ donor: { ...who, email: 'another@example.org', last: who.last.toUpperCase() } });
    await run();
    expect(await named(who.last)).toBe(1);
    expect(await giftsOf(gifts[229]?.id ?? '')).toHaveLength(1);
  });

  it('puts doubtful rows aside for a person and brings the others in', async () => {
    const shared = gives().donor;
    await run();
    const sure = gives();
    // Somebody else under an e-mail that is known: a family's, or a slip.
    const doubtful = gives({ donor: donor({ first: 'Leilani', last: 'Doubtford', email: shared.email }) });
    const nowhere = gives({ campaign: 'Moon Base' });
    expect((await run()).message).toContain('2 rows to be looked at');
    expect(await giftsOf(sure.id)).toHaveLength(1);
    expect([...(await giftsOf(doubtful.id)), ...(await giftsOf(nowhere.id))]).toEqual([]);
    const waiting = await waitingRows();
    expect(waiting.map(({ cells, verdict }) => [cells[0], verdict])).toEqual([
      [doubtful.id, 'undecided'],
      [nowhere.id, 'bad'],
    ]);
    // What comes later waits with them.
    const later = gives({ campaign: 'Moon Base' });
    await run();
    expect((await waitingRows()).map(({ cells }) => cells[0])).toEqual([doubtful.id, nowhere.id, later.id]);
    const { came, recorded, waiting: waits, leftOut } = await standing();
    expect(waits).toEqual({ gifts: 3, cents: 15_000 });
    expect(leftOut).toEqual({ gifts: 0, cents: 0 });
    expect(recorded.gifts + 3).toBe(came.gifts);
  });

  it('does not let the rows that wait be thrown away, and has those that were left out looked at again', async () => {
    const { waitingId } = await theFeed();
    expect(await test.call('DELETE', `/intakes/${waitingId}`)).toMatchObject({
      status: 409,
      body: { error: { code: 'came-by-itself', message: expect.stringContaining('would not come again') } },
    });
    const rows = await waitingRows();
    const intake = await ask<{ version: number; setting: object }>('GET', `/intakes/${waitingId}`);
    await test.call('PUT', `/intakes/${waitingId}`, {
      version: intake.version,
      setting: {
        ...intake.setting,
        picks: { [String(rows[0]?.row)]: 'new' },
        edits: { [`${rows[1]?.row}:2`]: 'Leonie' },
      },
    });
    await bringIn(waitingId);
    expect(await giftsOf(rows[0]?.cells[0] ?? '')).toHaveLength(1);
    expect(await standing()).toMatchObject({ waiting: { gifts: 0 }, leftOut: { gifts: 2, cents: 10_000 } });
    // Two ask at the same moment.
    const [one, other] = await Promise.all([lookAgain(), lookAgain()]);
    expect([one.rows, other.rows].sort()).toEqual([0, 2]);
    expect((await theFeed()).waitingId).toBe(one.intakeId ?? other.intakeId);
    const again = await waitingRows();
    expect(again.map(({ cells }) => cells[0])).toEqual(rows.slice(1).map(({ cells }) => cells[0]));
    // What somebody wrote in a row goes along with it.
    expect(again.map(({ cells }) => cells[2] === 'Leonie')).toEqual([true, false]);
    expect(await standing()).toMatchObject({ waiting: { gifts: 2, cents: 10_000 }, leftOut: { gifts: 0 } });
    expect((await lookAgain()).rows).toBe(0);
  });

  it('can be taken back like a file, and does not come again by itself', async () => {
    const gift = gives();
    await run();
    const { items } = await ask<{ items: { id: number; name: string; revision: number }[] }>('GET', '/intakes');
    const intake = items.find(({ name }) => name.startsWith('Giving portal, '));
    expect((await test.call('POST', `/changes/${intake?.revision}/undo`)).status).toBe(200);
    expect(await giftsOf(gift.id)).toEqual([]);
    await run();
    expect(await giftsOf(gift.id)).toEqual([]);
    expect((await standing()).waiting.gifts).toBe(3);
    await bringIn(intake?.id);
    expect(await giftsOf(gift.id)).toHaveLength(1);
  });
});

describe('what is odd about a gift', () => {
  it.each<[string, object]>([
    ['an amount in words', { cents: 'fifty' }],
    ['cents as text, which would read as dollars', { cents: '5000' }],
    ['half a cent', { cents: 12.5 }],
    ['no amount', { cents: undefined }],
    ['nothing', { cents: 0 }],
    ['less than nothing', { cents: -100 }],
    ['another currency', { currency: 'CAD' }],
    ['no day', { at: undefined }],
    ['a day that is none', { at: 'yesterday' }],
    ['a day to come', { at: '2199-01-01T00:00:00Z' }],
    ['no donor', { donor: undefined }],
    ['a donor without a name', { donor: { number: '', first: '', last: '', email: '' } }],
    ['a closed fund', { campaign: 'Comet Year Exhibit' }],
  ])('has it wait for a person, never read as another: %s', async (_says, over) => {
    const gift = gives(over as Partial<PortalGift>);
    const { state } = await run();
    expect(state).toBe('done');
    expect(await giftsOf(gift.id)).toEqual([]);
    expect((await waitingRows()).at(-1)).toMatchObject({
      cells: expect.arrayContaining([gift.id]),
      verdict: expect.stringMatching(/bad|undecided/),
    });
  });

  it('stops at a gift without a number, and takes nothing of its page', async () => {
    const before = await standing();
    gives();
    const place = portal.store.gifts.length;
    gives({ id: '' });
    expect(await run()).toMatchObject({ state: 'failed', message: expect.stringContaining('gifts.') });
    expect((await standing()).came).toEqual(before.came);
    portal.store.gifts.splice(place, 1);
    expect((await run()).state).toBe('done');
    expect((await standing()).came.gifts).toBe(before.came.gifts + 1);
  });
});

describe('a portal that fails', () => {
  it.each<Fault>(['busy', 'slow', 'cut', 'cut-after', 'page', 'half', 'error', 'forgets'])(
    'is asked again until each gift has come once: %s',
    async (fault) => {
      const gifts = [gives(), gives()];
      portal.fail(fault);
      expect((await run()).state).toBe('done');
      for (const { id } of gifts) expect(await giftsOf(id)).toHaveLength(1);
    },
  );

  it('is given up after a while, and the next run goes on', async () => {
    const gift = gives();
    portal.fail(...Array.from({ length: 30 }, () => 'error' as const));
    expect(await run('rehearse')).toMatchObject({ state: 'failed', message: expect.stringContaining('502') });
    expect((await lastRun()).state).toBe('failed');
    while (portal.store.gifts.length > 0 && (await fetchOne()) >= 500);
    expect((await run()).state).toBe('done');
    expect(await giftsOf(gift.id)).toHaveLength(1);
  });

  const fetchOne = async (): Promise<number> =>
    (await fetch(`${portal.url}/campaigns`, { headers: { Authorization: `Bearer ${SECRET}` } })).status;
});

describe('refunds', () => {
  it('are noted once, whole or in part, however late', async () => {
    const [whole, part] = [gives(), gives()];
    await run();
    const id = givesBack(whole);
    givesBack(part, 2000);
    expect((await run()).message).toContain('2 refunds of $70.00');
    expect(await giftsOf(whole.id)).toMatchObject([{ cents: 0, state: 'refunded' }]);
    expect(await giftsOf(part.id)).toMatchObject([{ cents: 3000, state: 'kept' }]);
    portal.store.keep({ refund: { id, gift: whole.id, cents: 5000, at: '2026-11-20T10:00:00Z', reason: '' } });
    expect((await run()).message).not.toContain('refund');
    expect(await giftsOf(part.id)).toMatchObject([{ cents: 3000 }]);
  });

  it('wait for a gift that is not in the books, and are noted when it is', async () => {
    const gift = gives({ campaign: 'Moon Base' });
    const refund = givesBack(gift);
    await run();
    expect((await standing()).refunds).toMatchObject([{ refund, giftId: null, why: 'Its gift is not in the books.' }]);
    const settled = await test.call('POST', `/feeds/${feed.id}/refunds/${refund}/settle`);
    expect(settled.status).toBe(200);
    expect((await standing()).refunds).toEqual([]);
    expect((await test.call('POST', `/feeds/${feed.id}/refunds/${refund}/settle`)).status).toBe(404);
  });

  it('of more than is left say so and change nothing', async () => {
    const gift = gives();
    await run();
    const refund = givesBack(gift, 9900);
    expect((await run()).state).toBe('done');
    expect(await giftsOf(gift.id)).toMatchObject([{ cents: 5000 }]);
    const { refunds } = await standing();
    expect(refunds).toMatchObject([{ refund, why: expect.stringContaining('Only $50.00 is left') }]);
    await test.call('POST', `/feeds/${feed.id}/refunds/${refund}/settle`);
  });
});

describe('gifts that did not come through it', () => {
  const toVan = (cents: number) => [{ cents, fundId: 2, campaignId: null, appealId: null }];
  const totals = () => portal.store.sums({ id: 'van', name: 'Telescope Van', goalCents: 0 });
  beforeEach(() => {
    if (portal.store.campaigns.length === 0)
      portal.store.keep({ campaign: { id: 'van', name: 'Telescope Van', goalCents: 1_000_000 } });
  });

  it('are told by number, amount and day alone, until the portal knows what holds', async () => {
    const who = await addPerson(test, { first: 'Off', last: 'Line' });
    const gift = (cents: number) => addGift(test, who, { cents, date: '2026-11-05', parts: toVan(cents) });
    const kept = await gift(12_300);
    const voided = await gift(45_600);
    await addGift(test, who, { cents: 900, date: '2020-01-05', parts: toVan(900) });
    expect((await change({ tells: [{ campaign: 'van', fundId: 2 }] })).status).toBe(400);
    expect((await change({ tells: [{ campaign: 'van', fundId: 2 }], tellsSince: '2026-07-01' })).status).toBe(200);
    expect((await run('rehearse')).message).toContain('2 gifts told of');
    expect(totals().offlineCents).toBe(0);
    expect((await run()).message).toContain('2 gifts told of');
    expect(totals().offlineCents).toBe(57_900);
    const [told] = portal.store.offlineGifts('van');
    expect(Object.keys(told ?? {}).sort()).toEqual(['campaign', 'cents', 'day', 'key']);
    expect((await run()).message).not.toContain('told');
    const { version } = await ask<{ version: number }>('GET', `/gifts/${voided}`);
    await test.call('POST', `/gifts/${voided}/corrections`, { kind: 'void', version, reason: 'Twice' });
    expect((await run()).message).toContain('1 gift told of');
    expect(totals().offlineCents).toBe(12_300);
    const there = await ask<{ items: object[] }>('GET', `/feeds/${feed.id}/campaigns`);
    expect(there.items).toMatchObject([{ id: 'van', offlineCents: 12_300, oursCents: 12_300 }]);
    expect(kept).toBeGreaterThan(0);
  });

  it('are told again where nobody knows whether they were', async () => {
    const who = await addPerson(test, { first: 'Cut', last: 'Off' });
    await addGift(test, who, { cents: 700, date: '2026-11-05', parts: toVan(700) });
    // Gifts and refunds are asked for; the telling breaks off after it was done.
    const put = portal.store.keep.bind(portal.store);
    portal.store.keep = (line) => {
      put(line);
      if ('offline' in line && line.offline.cents === 700) {
        portal.store.keep = put;
        throw new Error('The portal ends here.');
      }
    };
    expect((await run()).message).toContain('1 gift told of');
    expect(totals().offlineCents).toBe(13_000);
  });

  it('are told to the others where one campaign is not known there', async () => {
    const who = await addPerson(test, { first: 'Deaf', last: 'Ear' });
    await addGift(test, who, { cents: 100, date: '2026-11-05', parts: toVan(100) });
    const gone = { campaign: 'never-was', fundId: 1 };
    await addGift(test, who, { cents: 100, date: '2026-11-05' });
    await change({ tells: [gone, { campaign: 'van', fundId: 2 }] });
    expect(await run()).toMatchObject({ state: 'failed', message: expect.stringContaining('never-was') });
    expect(totals().offlineCents).toBe(13_100);
    expect((await change({ tells: [{ campaign: '..', fundId: 2 }] })).status).toBe(400);
    expect((await change({ tells: [{ campaign: 'van', fundId: 3 }] })).status).toBe(400);
  });

  it('are taken back there where the campaign is told of nothing any more', async () => {
    await change({ tells: [] });
    await run();
    expect(totals().offlineCents).toBe(0);
  });
});

describe('a rehearsal', () => {
  it('says what a run would do, and keeps nothing but that', async () => {
    const sure = gives();
    const odd = gives({ campaign: 'Moon Base' });
    const kept = async () => ({
      ...(await snapshot(test.sql)),
      items: await test.sql.rows('SELECT * FROM feed_item ORDER BY item'),
      place: await test.sql.rows('SELECT gifts, refunds, gathering_id, waiting_id FROM feed_place'),
      rows: await test.sql.rows('SELECT * FROM intake_row ORDER BY intake_id, row_no'),
    });
    const before = await kept();
    const { state, message } = await run('rehearse');
    expect([state, message]).toEqual([
      'done',
      'Rehearsed, nothing was kept: 2 gifts came, $100.00; 1 gift in the books, $50.00; 1 row to be looked at.',
    ]);
    expect(await kept()).toEqual(before);
    expect(await giftsOf(sure.id)).toEqual([]);
    expect((await run()).message).toBe(message.replace('Rehearsed, nothing was kept: ', ''));
    expect(await giftsOf(odd.id)).toEqual([]);
  });
});

describe('by itself', () => {
  it('runs when it is due, and not when only somebody begins it', async () => {
    const long = `'2020-01-01 00:00:00'`;
    const hour = () => test.sql.run(`UPDATE schedule SET next_at = ${long} WHERE name LIKE 'feeds%'`);
    const passed = async () =>
      (await test.sql.rows(`SELECT name FROM schedule WHERE name LIKE 'feeds%' AND next_at > ${long}`)).length > 0;
    await test.sql.run(`UPDATE feed_place SET began_at = ${long}`);
    const before = (await runs()).length;
    await hour();
    await until(passed);
    expect((await runs()).length).toBe(before);
    const gift = gives();
    await change({ often: 'quarter' });
    await test.sql.run(`UPDATE feed_place SET began_at = ${long}`);
    await hour();
    await until(async () => (await lastRun()).by === 'Giving portal' && (await lastRun()).state === 'done');
    expect(await giftsOf(gift.id)).toHaveLength(1);
    await change({ often: 'never' });
  });
});

it('does not run by a recipe that was deleted', async () => {
  const recipe = { columns: [{ heading: 'Gift', to: 'reference' }], decimal: '.', dateOrder: null, fundId: 1 };
  const { id: recipeId } = await ask<{ id: number }>('POST', '/intake-recipes', { name: 'For a while', recipe });
  expect((await change({ recipeId: 999_999 })).status).toBe(404);
  expect((await change({ recipeId })).status).toBe(200);
  await test.call('DELETE', `/intake-recipes/${recipeId}`);
  const gift = gives();
  expect(await run()).toMatchObject({ state: 'failed', message: expect.stringContaining('was deleted') });
  await change({ recipeId: null });
  expect((await run()).state).toBe('done');
  expect(await giftsOf(gift.id)).toHaveLength(1);
});

it('takes each gift once where two begin it at once', async () => {
  const gifts = Array.from({ length: 120 }, () => gives());
  const ends = await Promise.all([run(), run(), run('rehearse')]);
  expect(ends.map(({ state }) => state)).toEqual(['done', 'done', 'done']);
  const found = await Promise.all(gifts.map(({ id }) => giftsOf(id)));
  expect(found.map((one) => one.length)).toEqual(gifts.map(() => 1));
});

describe('who may', () => {
  it.each([
    ['read', 'POST', 'run'],
    ['entry', 'POST', 'run'],
    ['entry', 'POST', 'rehearse'],
    ['entry', 'POST', 'look-again'],
  ] as const)('%s may not %s %s', async (as, method, path) => {
    expect((await test.call(method, `/feeds/${feed.id}/${path}`, undefined, { as })).status).toBe(403);
  });
  it('everybody who sees intakes sees the log', async () => {
    expect((await test.call('GET', `/feeds/${feed.id}/runs`, undefined, { as: 'read' })).status).toBe(200);
  });
});
