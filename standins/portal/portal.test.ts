import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openPortal } from './index.ts';
import type { Portal, PortalGift } from './index.ts';

const SECRET = 'between us';
let portal: Portal;
beforeEach(async () => {
  portal = await openPortal({ folder: null, secret: SECRET, perSecond: 1_000 });
});
afterEach(() => portal.close());

const ask = async (path: string, given: RequestInit = {}, secret = SECRET) => {
  const headers = { Authorization: `Bearer ${secret}`, 'Content-Type': 'application/json' };
  const answer = await fetch(`${portal.url}${path}`, { ...given, headers });
  const text = await answer.text();
  return { status: answer.status, text, body: answer.ok && text.endsWith('}') ? JSON.parse(text) : {} };
};
const gift = (nth: number, over: Partial<PortalGift> = {}): PortalGift => ({
  ...{ id: `GP-${nth}`, at: '2026-11-02T20:00:00Z', campaign: 'Van', cents: 1_000, feeCents: 30, currency: 'USD' },
  ...{ paidBy: 'card', donor: { number: `D-${nth}`, first: 'Ana', last: '<b>Cruz</b>', email: 'ana@example.org' } },
  ...over,
});
const tell = (gifts: object[]) => ask('/campaigns/van/offline', { method: 'PUT', body: JSON.stringify({ gifts }) });

describe('the giving portal', () => {
  it('hears nobody without its secret', async () => {
    expect((await ask('/gifts', {}, 'another')).status).toBe(401);
    expect((await ask('/campaigns', {}, '')).status).toBe(401);
  });

  it('gives its gifts page by page, the last of one again as the first of the next', async () => {
    for (let nth = 1; nth <= 5; nth++) portal.store.keep({ gift: gift(nth) });
    const ids: string[][] = [];
    for (let after = '', more = true; more;) {
      const { body } = await ask(`/gifts?limit=2${after === '' ? '' : `&after=${after}`}`);
      ids.push(body.gifts.map(({ id }: PortalGift) => id));
      ({ next: after, more } = body);
    }
    expect(ids).toEqual([
      ['GP-1', 'GP-2'],
      ['GP-2', 'GP-3', 'GP-4'],
      ['GP-4', 'GP-5'],
    ]);
  });

  it.each(['nonsense', Buffer.from('place 99').toString('base64url')])(
    'does not know a cursor that it did not give: %s',
    async (after) => {
      expect((await ask(`/gifts?after=${after}`)).status).toBe(410);
    },
  );

  it('adds up what was given there, less what was given back, and what it was told of', async () => {
    portal.store.keep({ campaign: { id: 'van', name: 'Van', goalCents: 50_000 } });
    portal.store.keep({ gift: gift(1) });
    portal.store.keep({ gift: gift(2, { campaign: 'Another' }) });
    portal.store.keep({ refund: { id: 'RF-1', gift: 'GP-1', cents: 400, at: '2026-11-03T10:00:00Z', reason: '' } });
    const sent = [{ key: 'G-1', cents: 700, day: '2026-11-02' }];
    await tell(sent);
    await tell(sent);
    expect((await ask('/campaigns')).body.campaigns).toMatchObject([{ onlineCents: 600, offlineCents: 700 }]);
    await tell([{ key: 'G-1', cents: 0, day: '2026-11-02' }]);
    expect((await ask('/campaigns')).body.campaigns).toMatchObject([{ offlineCents: 0 }]);
  });

  it.each([
    ['no list', { gifts: 'all' }],
    ['part of a cent', { gifts: [{ key: 'G-1', cents: 0.5 }] }],
    ['less than nothing', { gifts: [{ key: 'G-1', cents: -5 }] }],
    ['no key', { gifts: [{ cents: 5 }] }],
  ])('refuses to be told of %s', async (_says, body) => {
    portal.store.keep({ campaign: { id: 'van', name: 'Van', goalCents: 0 } });
    const { status } = await ask('/campaigns/van/offline', { method: 'PUT', body: JSON.stringify(body) });
    expect(status).toBe(400);
    expect(portal.store.offlineGifts('van')).toEqual([]);
  });

  it('fails as it is asked to, once', async () => {
    portal.fail('busy', 'page', 'half', 'error', 'forgets');
    const statuses: number[] = [];
    for (let times = 0; times < 6; times++) statuses.push((await ask('/campaigns')).status);
    expect(statuses).toEqual([429, 200, 200, 502, 410, 200]);
    portal.fail('cut');
    await expect(ask('/campaigns')).rejects.toThrow();
    expect((await ask('/campaigns')).status).toBe(200);
  });

  it('did what it was asked where only its answer was lost', async () => {
    portal.store.keep({ campaign: { id: 'van', name: 'Van', goalCents: 0 } });
    portal.fail('cut-after');
    await expect(tell([{ key: 'G-1', cents: 700, day: '2026-11-02' }])).rejects.toThrow();
    expect(portal.store.offlineGifts('van')).toHaveLength(1);
  });

  it('gives again and gives back at its own desk, whose page shows names as they are written', async () => {
    portal.store.keep({ gift: gift(1) });
    const desk = (act: string) =>
      fetch(`${portal.url}/desk/${act}`, { method: 'POST', body: new URLSearchParams({ gift: 'GP-1' }) });
    await desk('refund');
    await desk('refund');
    await desk('again');
    expect(portal.store.refunds).toHaveLength(1);
    expect(portal.store.gifts).toHaveLength(2);
    const page = await (await fetch(portal.url)).text();
    expect(page).toContain('&lt;b&gt;Cruz');
    expect(page).not.toContain('<b>Cruz');
  });
});

it('remembers everything after a restart', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'tallystick-portal-'));
  const open = () => openPortal({ folder, secret: SECRET });
  const first = await open();
  first.store.keep({ campaign: { id: 'van', name: 'Van', goalCents: 0 } });
  first.store.keep({ gift: gift(1) });
  first.store.keep({ offline: { campaign: 'van', key: 'G-1', cents: 5, day: '2026-11-02' } });
  await first.close();
  const second = await open();
  expect(second.store.gifts).toEqual([gift(1)]);
  expect(second.store.offlineGifts('van')).toHaveLength(1);
  await second.close();
  rmSync(folder, { recursive: true });
});
