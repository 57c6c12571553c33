import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import type { IncomingHttpHeaders, Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openTill } from './index.ts';
import type { Till } from './index.ts';

const SECRET = 'between us';
let till: Till;
let hook: Server;
let heard: { headers: IncomingHttpHeaders; body: Record<string, unknown> }[];
let answer = 200;

beforeEach(async () => {
  heard = [];
  answer = 200;
  hook = createServer((request, response) => {
    let text = '';
    request.on('data', (part: Buffer) => (text += part.toString()));
    request.on('end', () => {
      heard.push({ headers: request.headers, body: JSON.parse(text) });
      response.statusCode = answer;
      response.end();
    });
  });
  await new Promise<void>((resolve) => hook.listen(0, '127.0.0.1', resolve));
  const { port } = hook.address() as AddressInfo;
  till = await openTill({ folder: null, secret: SECRET, hook: `http://127.0.0.1:${port}/` });
});
afterEach(async () => {
  await till.close();
  await new Promise<void>((resolve) => hook.close(() => resolve()));
});

/** Most requests wait as long as it takes; one that is never answered gives up after a while. */
const post = (path: string, key: string, body: unknown, secret = SECRET, patience = 60_000) =>
  fetch(`${till.url}${path}`, {
    method: 'POST',
    headers: { Authorization: `Bearer ${secret}`, 'Content-Type': 'application/json', 'Idempotency-Key': key },
    body: JSON.stringify(body),
    signal: AbortSignal.timeout(patience),
  });
const charge = async (key: string, card: string, cents = 2_500, patience?: number) => {
  const response = await post('/charges', key, { card, cents, currency: 'USD' }, SECRET, patience);
  return { status: response.status, body: (await response.json()) as Record<string, string> };
};
const soon = async (what: () => boolean): Promise<void> => {
  for (let tries = 0; tries < 100 && !what(); tries++) await new Promise((resolve) => setTimeout(resolve, 20));
};

describe('the till', () => {
  it('keeps a fee of what it charges, and none of what it does not', async () => {
    expect((await charge('fee-1', 'good-fee', 10_000)).body).toMatchObject({ feeCents: 320 });
    expect((await charge('fee-2', 'good-fee', 20)).body).toMatchObject({ feeCents: 20 });
    expect((await charge('fee-3', 'declined-fee')).body).toMatchObject({ feeCents: 0 });
  });

  it.each([
    ['good-1', 'approved'],
    ['declined-1', 'declined'],
    ['expired-1', 'expired'],
  ])('answers %s with %s', async (card, outcome) => expect((await charge('k', card)).body).toMatchObject({ outcome }));

  it('declines a moody card once', async () => {
    expect((await charge('k1', 'moody-1')).body).toMatchObject({ outcome: 'declined' });
    expect((await charge('k2', 'moody-1')).body).toMatchObject({ outcome: 'approved' });
  });

  it('charges once for one key, and refuses the key for another charge', async () => {
    const [first, second] = [await charge('same', 'good-1'), await charge('same', 'good-1')];
    expect(first.body).toEqual(second.body);
    expect(till.drawer.charges()).toHaveLength(1);
    expect((await charge('same', 'good-1', 9_999)).status).toBe(422);
  });

  it('charges and does not answer, then answers the same', async () => {
    await expect(charge('slow', 'slow-1', 2_500, 400)).rejects.toThrow();
    expect(till.drawer.charges()).toHaveLength(1);
    expect((await charge('slow', 'slow-1')).body).toMatchObject({ outcome: 'approved' });
    expect(till.drawer.charges()).toHaveLength(1);
  });

  it('cuts the connection before anything is charged', async () => {
    await expect(charge('cut', 'cut-1')).rejects.toThrow();
    expect(till.drawer.charges()).toHaveLength(0);
    expect((await charge('cut', 'cut-1')).body).toMatchObject({ outcome: 'approved' });
  });

  it('refunds what was charged, in parts, never more and once for one key', async () => {
    const { body } = await charge('k', 'good-1');
    const back = async (key: string, cents: number) =>
      (await post('/refunds', key, { charge: body['id'], cents })).status;
    expect([await back('r1', 1_000), await back('r1', 1_000), await back('r2', 1_500), await back('r3', 1)]).toEqual([
      200, 200, 200, 409,
    ]);
    expect(till.drawer.refunded(body['id'] ?? '')).toBe(2_500);
  });

  it('takes nothing without the secret, or that is not a charge', async () => {
    expect((await post('/charges', 'k', { card: 'good-1', cents: 5, currency: 'USD' }, 'wrong')).status).toBe(401);
    expect((await post('/charges', 'k', { card: 'good-1', cents: 1.5, currency: 'USD' })).status).toBe(400);
    expect(till.drawer.charges()).toHaveLength(0);
  });

  it('reports each approval with a signature, and again while it is not taken', async () => {
    answer = 500;
    await charge('k', 'good-1');
    await soon(() => heard.length > 0);
    answer = 200;
    await soon(() => heard.length > 1);
    expect(heard[0]?.body).toEqual(heard[1]?.body);
    expect(heard[0]?.body).toMatchObject({ kind: 'charge', key: 'k', cents: 2_500 });
    expect(heard[0]?.headers['till-signature']).toMatch(/^[0-9a-f]{64}$/);
  });

  it('shows what it charged, and refunds from its desk', async () => {
    const { body } = await charge('k', 'good-1');
    expect(await (await fetch(till.url)).text()).toContain(body['id']);
    await fetch(`${till.url}/desk/refund`, { method: 'POST', body: new URLSearchParams({ charge: body['id'] ?? '' }) });
    expect(till.drawer.refunded(body['id'] ?? '')).toBe(2_500);
  });

  it('remembers every key over a restart', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'tallystick-till-'));
    const once = await openTill({ folder, secret: SECRET, hook: null });
    const ask = async (url: string) =>
      (
        await fetch(`${url}/charges`, {
          method: 'POST',
          headers: { Authorization: `Bearer ${SECRET}`, 'Content-Type': 'application/json', 'Idempotency-Key': 'k' },
          body: JSON.stringify({ card: 'good-1', cents: 5, currency: 'USD' }),
        })
      ).json();
    const first = await ask(once.url);
    await once.close();
    const again = await openTill({ folder, secret: SECRET, hook: null });
    expect(await ask(again.url)).toEqual(first);
    expect(again.drawer.charges()).toHaveLength(1);
    await again.close();
    rmSync(folder, { recursive: true });
  });
});
