import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Pin } from '@tallystick/contract/pins';
import { all, tagged } from '@tallystick/core/segments';
import { addPerson, openTestApp, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
let segment = 0;
beforeAll(async () => {
  test = await openTestApp();
  await addPerson(test, { tags: ['Pinned'] });
  const [tag] = await test.sql.rows<{ id: number }>(`SELECT id FROM tag WHERE name = 'Pinned'`);
  const made = await test.call('POST', '/segments', { name: 'Pinned ones', conditions: all(tagged(tag?.id ?? 0)) });
  segment = Number(made.body['id']);
});
afterAll(() => test.close());

const pins = async (as: 'officer' | 'read' = 'officer') =>
  (await test.call('GET', '/pins', undefined, { as })).body['items'] as Pin[];
const pin = async (act: string, as: 'officer' | 'read' = 'officer') =>
  Number((await test.call('POST', '/pins', { segmentId: segment, act }, { as })).body['id']);

describe('a pin', () => {
  it('shows what is in its segment now, and is there once', async () => {
    const id = await pin('open');
    expect(await pin('open')).toBe(id);
    expect(await pins()).toMatchObject([{ id, segmentId: segment, name: 'Pinned ones', act: 'open', count: 1 }]);
    await addPerson(test, { tags: ['Pinned'] });
    expect((await pins())[0]?.count).toBe(2);
  });

  it('stands under its section in its own order, and goes', async () => {
    const [calls, labels] = [await pin('calls'), await pin('labels30')];
    const open = (await pins())[0]?.id ?? 0;
    const items = [labels, open, calls].map((id, place) => ({ id, section: place < 2 ? 'First' : '', place }));
    expect((await test.call('PUT', '/pins', { items })).status).toBe(200);
    expect((await pins()).map(({ id, section }) => [id, section])).toEqual([
      ...[
        [labels, 'First'],
        [open, 'First'],
        [calls, ''],
      ],
    ]);
    await test.call('DELETE', `/pins/${labels}`);
    expect((await pins()).map(({ id }) => id)).toEqual([open, calls]);
  });

  it('is its owner’s alone', async () => {
    const mine = (await pins())[0]?.id ?? 0;
    expect(await pins('read')).toEqual([]);
    expect((await test.call('DELETE', `/pins/${mine}`, undefined, { as: 'read' })).body).toEqual({ removed: 0 });
    await test.call('PUT', '/pins', { items: [{ id: mine, section: 'Taken', place: 99 }] }, { as: 'read' });
    expect((await pins())[0]).toMatchObject({ id: mine, section: 'First' });
  });

  it('is of a segment that one sees, and goes with it', async () => {
    const hidden = await test.call(
      'POST',
      '/segments',
      { name: 'An administrator’s', conditions: all(), shared: false },
      { as: 'admin' },
    );
    const refused = await test.call('POST', '/pins', { segmentId: hidden.body['id'], act: 'open' });
    expect(refused.status).toBe(404);
    await test.call('DELETE', `/segments/${segment}`);
    expect(await pins()).toEqual([]);
  });
});

describe('favourites', () => {
  it('stand in one’s own order', async () => {
    const ids: number[] = [];
    for (const name of ['A', 'B', 'C'])
      ids.push(Number((await test.call('POST', '/segments', { name, conditions: all() })).body['id']));
    for (const id of ids) await test.call('PUT', `/segments/${id}/favourite`, { on: true });
    const order = async () => {
      const { items } = (await test.call('GET', '/segments')).body as {
        items: { id: number; favourite: number | null }[];
      };
      return items
        .filter((one) => one.favourite !== null)
        .sort((a, b) => (a.favourite ?? 0) - (b.favourite ?? 0))
        .map(({ id }) => id);
    };
    expect(await order()).toEqual(ids);
    await test.call('PUT', '/favourite-segments', { ids: ids.toReversed() });
    expect(await order()).toEqual(ids.toReversed());
  });
});

describe('a segment', () => {
  it('is never lost to everyone', async () => {
    const draft = { name: 'Hidden', conditions: all(), shared: false, ownerId: null };
    expect((await test.call('POST', '/segments', draft)).status).toBe(400);
  });

  it('says when it was last opened, and is handed to another', async () => {
    const made = await test.call('POST', '/segments', { name: 'Handed', conditions: all() });
    const path = `/segments/${String(made.body['id'])}`;
    await test.call('GET', path);
    const { body } = await test.call('GET', path);
    expect(body['usedOn']).toBe('2026-11-23');
    const user = await test.services.accounts.addUser(TESTER, {
      ...{ name: 'Heir', email: 'heir@example.org', role: 'officer', password: 'a long enough password' },
    });
    const draft = { name: 'Handed', conditions: all(), version: body['version'] };
    expect((await test.call('PUT', path, { ...draft, ownerId: 99_999 })).status).toBe(400);
    expect((await test.call('PUT', path, { ...draft, ownerId: user.id })).status).toBe(200);
    expect((await test.call('GET', path)).body['ownerId']).toBe(user.id);
  });
});
