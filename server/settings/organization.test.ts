import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addGift, addPerson, openTestApp, FakeMailer } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
const mailer = new FakeMailer();
beforeAll(async () => {
  test = await openTestApp({ mailer });
});
afterAll(() => test.close());

type Own = Record<string, string | number | boolean | null> & { version: number };
const own = async (): Promise<Own> => (await test.call('GET', '/organization')).body as Own;
const put = async (over: object, as: 'admin' | 'officer' = 'admin') => {
  return test.call('PUT', '/organization', { ...(await own()), ...over }, { as });
};
const fieldsOf = (body: Record<string, unknown>) => (body['error'] as { fields?: Record<string, string> }).fields ?? {};

describe('the organization', () => {
  it('is changed by an administrator, with its version, and undone', async () => {
    const before = await own();
    expect((await put({ name: 'Ours' }, 'officer')).status).toBe(403);
    const made = await put({
      name: 'Juniper Fund',
      letterhead: '4 Dune Road\nTansy Creek',
      signature: 'Ana Cruz, Director',
    });
    expect(made.status).toBe(200);
    expect(await own()).toMatchObject({ name: 'Juniper Fund', letterhead: '4 Dune Road\nTansy Creek' });
    expect((await test.call('GET', '/session')).body['organization']).toMatchObject({ name: 'Juniper Fund' });
    // What changes nothing is no change.
    expect((await put({})).body['revision']).toBeNull();
    expect((await put({ name: 'Late', version: before.version })).body['error']).toMatchObject({ code: 'stale' });
    expect((await test.call('POST', `/changes/${made.body['revision']}/undo`, {}, { as: 'admin' })).status).toBe(200);
    expect(await own()).toMatchObject({ name: before['name'], letterhead: before['letterhead'] });
  });

  it.each([
    ['currency', 'DOLLARS'],
    ['currency', 'U$D'],
    ['locale', 'not a language'],
    ['locale', 'de-Latn-DE-1996-x-abcdefgh'],
    ['timeZone', 'Nowhere/Town'],
    ['country', 'USA'],
    ['fiscalYearStart', 13],
    ['mailFrom', 'nobody'],
    ['name', '  '],
  ])('refuses a %s of %s at its field', async (field, value) => {
    const refused = await put({ [field]: value });
    expect(refused.status).toBe(400);
    expect(Object.keys(fieldsOf(refused.body))).toEqual([field]);
  });

  it('keeps its currency once there are gifts, and takes another before', async () => {
    expect(await own()).toMatchObject({ currency: 'USD', currencyStays: false });
    const moved = await put({ currency: 'CAD' });
    expect(moved.status).toBe(200);
    // Amounts may have been recorded since, so it is not simply undone.
    expect((await test.call('POST', `/changes/${moved.body['revision']}/undo`, {}, { as: 'admin' })).status).toBe(409);
    expect((await put({ currency: 'USD' })).status).toBe(200);
    await addGift(test, await addPerson(test));
    expect(await own()).toMatchObject({ currencyStays: true });
    const refused = await put({ currency: 'EUR' });
    expect(refused.status).toBe(409);
    expect(fieldsOf(refused.body)['currency']).toContain('gifts in USD');
  });

  it('tests its mail by a message that arrives, and says why one does not', async () => {
    expect((await test.call('POST', '/organization/test-mail', { to: 'ana@example.org' })).status).toBe(403);
    const sent = await test.call('POST', '/organization/test-mail', { to: 'ana@example.org' }, { as: 'admin' });
    expect(sent.body).toEqual({ arrived: true, says: 'The mail server took it.' });
    expect(mailer.messages.at(-1)).toMatchObject({ to: 'ana@example.org', fromName: (await own())['name'] });
    expect((await test.call('POST', '/organization/test-mail', { to: 'x' }, { as: 'admin' })).status).toBe(400);
  });
});
