import { afterEach, describe, expect, it, vi } from 'vitest';
import { recordGift } from '@tallystick/contract/gifts';
import { previewIntake, uploadIntake } from '@tallystick/contract/intake';
import { getSession } from '@tallystick/contract/session';
import { listSupporters } from '@tallystick/contract/supporters';
import { proofReceipts } from '@tallystick/contract/thanks';
import { call, callFile, isAway, keyOf, linkTo, messageOf, queries, Refused, sendFile } from './api.ts';
import { signedInAgain } from './signedOut.ts';

const json = (status: number, body: unknown): Response =>
  new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } });
function answering(response: Response | Error) {
  const fetched = vi.fn((_url: string, _init: RequestInit) =>
    response instanceof Error ? Promise.reject(response) : Promise.resolve(response),
  );
  vi.stubGlobal('fetch', fetched);
  return fetched;
}
afterEach(() => vi.unstubAllGlobals());

describe('call', () => {
  it('fills the path and the query, and leaves out what is empty', async () => {
    const fetched = answering(json(200, { items: [] }));
    await call(listSupporters, { query: { q: 'ana & co', limit: 5, sort: 'name' } });
    expect(fetched.mock.calls[0]?.[0]).toBe('/api/v1/supporters?q=ana+%26+co&limit=5&sort=name');
    await call(previewIntake, { params: { id: 7 }, query: { limit: 10 } }).catch(() => undefined);
    expect(fetched.mock.calls[1]?.[0]).toBe('/api/v1/intakes/7/rows?limit=10');
    expect(linkTo({ path: '/receipts/:id/receipt.pdf' }, { id: 3 })).toBe('/api/v1/receipts/3/receipt.pdf');
  });

  it('sends a body with its key', async () => {
    const fetched = answering(json(200, { id: 1 }));
    await call(recordGift, { key: 'k', body: { supporterId: 1, cents: 5, date: '2026-11-01', fundId: 1 } });
    const init = fetched.mock.calls[0]?.[1];
    expect(init).toMatchObject({
      method: 'POST',
      headers: { 'Idempotency-Key': 'k', 'Content-Type': 'application/json' },
    });
    expect(JSON.parse(String(init?.body))).toMatchObject({ cents: 5 });
  });

  it('throws a refusal with its code, message and fields', async () => {
    answering(json(400, { error: { code: 'invalid', message: 'The amount is zero.', fields: { cents: 'zero' } } }));
    const refused = await call(listSupporters).catch((error: unknown) => error);
    expect(refused).toBeInstanceOf(Refused);
    expect(refused).toMatchObject({
      status: 400,
      code: 'invalid',
      message: 'The amount is zero.',
      fields: { cents: 'zero' },
    });
    expect(isAway(refused)).toBe(false);
  });

  it('knows when nobody answers, or something else does', async () => {
    answering(new TypeError('Failed to fetch'));
    const lost = await call(listSupporters).catch((error: unknown) => error);
    expect([isAway(lost), messageOf(lost)]).toEqual([true, expect.stringContaining('What you typed is still here')]);
    answering(new Response('<html>Bad gateway</html>', { status: 502 }));
    expect(isAway(await call(listSupporters).catch((error: unknown) => error))).toBe(true);
    answering(json(503, { error: { code: 'database-away', message: 'Away.' } }));
    expect(isAway(await call(listSupporters).catch((error: unknown) => error))).toBe(true);
  });

  it('waits while the session has ended, and goes on once someone has signed in again', async () => {
    queries.setQueryData(keyOf(getSession), { user: { id: 1 }, organization: 'kept' });
    const fetched = answering(json(401, { error: { code: 'signed-out', message: 'Sign in to go on.' } }));
    const asked = call(listSupporters, { query: { q: 'ana' } });
    await vi.waitFor(() =>
      expect(queries.getQueryData(keyOf(getSession))).toEqual({ user: null, organization: 'kept' }),
    );
    expect(fetched).toHaveBeenCalledTimes(1);
    const again = answering(json(200, { items: [], total: 0 }));
    signedInAgain();
    expect(await asked).toEqual({ items: [], total: 0 });
    expect(again.mock.calls[0]?.[0]).toBe('/api/v1/supporters?q=ana');
  });

  it('waits no longer where the question was given up', async () => {
    answering(json(401, { error: { code: 'signed-out', message: 'Sign in to go on.' } }));
    const leaving = new AbortController();
    const asked = call(listSupporters, { signal: leaving.signal });
    setTimeout(() => leaving.abort());
    await expect(asked).rejects.toMatchObject({ name: 'AbortError' });
  });

  it('hands an abort on as what it is', async () => {
    answering(new DOMException('gone', 'AbortError'));
    await expect(call(listSupporters)).rejects.toBeInstanceOf(DOMException);
  });
});

describe('files', () => {
  it('go up as their bytes', async () => {
    const fetched = answering(json(200, { id: 1 }));
    await sendFile(uploadIntake, { name: 'a b.csv' }, new Blob(['x']));
    expect(fetched.mock.calls[0]?.[0]).toBe('/api/v1/intakes?name=a+b.csv');
    expect(fetched.mock.calls[0]?.[1]).toMatchObject({
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream' },
    });
  });
  it('come down as blobs, refusals as refusals', async () => {
    answering(new Response('%PDF', { status: 200, headers: { 'Content-Type': 'application/pdf' } }));
    expect(await (await callFile(proofReceipts, { body: { letterId: 1, giftIds: [1] } })).text()).toBe('%PDF');
    answering(json(404, { error: { code: 'not-found', message: 'Gone.' } }));
    await expect(callFile(proofReceipts, { body: { letterId: 1, giftIds: [1] } })).rejects.toMatchObject({
      code: 'not-found',
    });
  });
});
