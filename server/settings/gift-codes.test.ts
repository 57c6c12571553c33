import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addGift, addPerson, openTestApp, snapshot } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

interface GiftCode {
  id: number;
  version: number;
  code: string;
  name: string;
  closed: boolean;
  gifts: number;
  cents: number;
  goalCents: number | null;
  parentId: number | null;
}
const list = async (kind: string): Promise<GiftCode[]> =>
  (await test.call('GET', `/gift-codes/${kind}`)).body['items'] as GiftCode[];
const find = async (kind: string, id: number) => (await list(kind)).find((place) => place.id === id);
const add = (kind: string, over: Record<string, unknown> = {}) =>
  test.call('POST', `/gift-codes/${kind}`, {
    code: `C${Math.random().toString(36).slice(2, 8)}`,
    name: 'New',
    ...over,
  });

describe.each(['funds', 'campaigns', 'appeals', 'sources'])('%s', (kind) => {
  it('are added, changed, closed, opened again and deleted, each undone', async () => {
    const before = await snapshot(test.sql);
    const { body } = await add(kind, { startsOn: '2026-01-01', endsOn: '2026-12-31', goalCents: 5_000 });
    const id = Number(body['id']);
    const made = await find(kind, id);
    expect(made).toMatchObject({ name: 'New', closed: false, gifts: 0, cents: 0, goalCents: 5_000 });
    const { parentId, ...draft } = { ...made, closed: true };
    const closed = await test.call('PUT', `/gift-codes/${kind}/${id}`, {
      ...draft,
      parentId,
      startsOn: null,
      endsOn: null,
    });
    expect((await find(kind, id))?.closed).toBe(true);
    expect((await test.call('PUT', `/gift-codes/${kind}/${id}`, { ...draft, parentId })).status).toBe(409);
    await test.call('POST', `/changes/${String(closed.body['revision'])}/undo`, {});
    expect((await find(kind, id))?.closed).toBe(false);
    await test.call('DELETE', `/gift-codes/${kind}/${id}`);
    expect(await find(kind, id)).toBeUndefined();
    expect((await snapshot(test.sql))['fund']).toEqual(before['fund']);
  });

  it('refuse a code that is taken, and an end before the beginning', async () => {
    await add(kind, { code: 'TWICE' });
    expect((await add(kind, { code: 'TWICE' })).status).toBe(409);
    expect((await add(kind, { startsOn: '2026-02-01', endsOn: '2026-01-01' })).status).toBe(400);
    expect((await add(kind, { code: ' ' })).status).toBe(400);
  });
});

describe('a goal', () => {
  it('is reached by what came in its days alone, parts of split gifts by their own place', async () => {
    const { body } = await add('funds', { startsOn: '2026-03-01', endsOn: '2026-03-31', goalCents: 10_000 });
    const fundId = Number(body['id']);
    const giver = await addPerson(test);
    for (const date of ['2026-02-28', '2026-03-01', '2026-03-31', '2026-04-01'])
      await addGift(test, giver, { date, fundId, cents: 1_000 });
    await addGift(test, giver, {
      ...{ date: '2026-03-15', cents: 700 },
      parts: [
        { fundId, cents: 300, campaignId: null, appealId: null },
        { fundId: 1, cents: 400, campaignId: null, appealId: null },
      ],
    });
    expect(await find('funds', fundId)).toMatchObject({ gifts: 5, cents: 4_300, towardGoalCents: 2_300 });
  });
});

describe('in use', () => {
  it('stays, with the figures, and can be closed: never offered for new gifts, always found', async () => {
    const who = await addPerson(test);
    const { body } = await add('funds', { name: 'Lens Fund' });
    const fundId = Number(body['id']);
    await addGift(test, who, { cents: 1_500, fundId });
    await addGift(test, who, {
      cents: 900,
      parts: [
        { cents: 400, fundId: 1 },
        { cents: 500, fundId },
      ],
    });
    expect(await find('funds', fundId)).toMatchObject({ gifts: 2, cents: 2_000 });
    const refused = await test.call('DELETE', `/gift-codes/funds/${fundId}`);
    expect([refused.status, refused.body['error']]).toEqual([
      409,
      expect.objectContaining({
        code: 'in-use',
        message: expect.stringContaining('1 × gift, 1 × part of a split gift'),
      }),
    ]);
    const place = await find('funds', fundId);
    await test.call('PUT', `/gift-codes/funds/${fundId}`, { ...place, closed: true, startsOn: null, endsOn: null });
    const gift = { supporterId: who, cents: 100, date: '2026-11-01', fundId };
    expect((await test.call('POST', '/gifts', gift)).status).toBe(400);
    expect((await test.call('GET', `/gifts?fundId=${fundId}`)).body['total']).toBe(2);
    const totals = await test.call('POST', '/gifts/totals', { window: { kind: 'ever' }, fundId });
    expect(totals.body['total']).toMatchObject({ cents: 2_000, gifts: 2 });
  });

  it('hangs together: a source code of an appeal of a campaign', async () => {
    const { body } = await add('sources', { code: 'FALL-A', parentId: 1 });
    const sourceId = Number(body['id']);
    expect(await find('sources', sourceId)).toMatchObject({ parentId: 1 });
    expect((await add('sources', { parentId: 999 })).status).toBe(400);
    const id = await addGift(test, await addPerson(test), { sourceId, appealId: 1 });
    expect((await test.call('GET', `/gifts/${id}`)).body).toMatchObject({ source: 'FALL-A', appeal: 'Fall letter' });
    expect((await test.call('GET', `/gifts?sourceId=${sourceId}`)).body['total']).toBe(1);
    expect((await test.call('DELETE', '/gift-codes/appeals/1')).body['error']).toMatchObject({ code: 'in-use' });
  });

  it('is set up by officers', async () => {
    expect((await test.call('POST', '/gift-codes/funds', { code: 'X', name: 'X' }, { as: 'entry' })).status).toBe(403);
    expect((await test.call('GET', '/gift-codes/funds', undefined, { as: 'read' })).status).toBe(200);
    expect((await test.call('GET', '/gift-codes/nothing')).status).toBe(400);
  });
});
