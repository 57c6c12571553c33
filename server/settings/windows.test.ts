import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { all, during, gave, rows } from '@tallystick/core/segments';
import type { Group } from '@tallystick/core/segments';
import { addGift, addPerson, openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* Windows of days that are kept by a name, and what names them. */
let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
  for (const date of ['2026-02-10', '2026-02-20', '2026-04-01']) await addGift(test, await addPerson(test), { date });
});
afterAll(() => test.close());

const between = (from: string, to: string) => ({ kind: 'between', from, to });
const add = (name: string, window: object, as: 'officer' | 'entry' = 'officer') =>
  test.call('POST', '/windows', { name, window }, { as });
const count = async (conditions: Group) =>
  (await test.call('POST', '/segments/count', { conditions })).body as { count: number; whole: string };
const kept = async () =>
  (await test.call('GET', '/choices')).body['windows'] as { id: number; version: number; name: string }[];

describe('a window that is kept by a name', () => {
  it('is what every condition that names it goes by, also once it is changed', async () => {
    const { body } = await add('the snow season', between('2026-02-01', '2026-02-15'));
    const id = Number(body['id']);
    const asked = all(gave(during({ kind: 'kept', id })));
    expect(await count(asked)).toMatchObject({ count: 1, whole: 'gave in the snow season' });
    const change = { version: 1, name: 'the long season', window: between('2026-02-01', '2026-04-30') };
    expect((await test.call('PUT', `/windows/${id}`, change)).status).toBe(200);
    expect(await count(asked)).toMatchObject({ count: 3, whole: 'gave in the long season' });
    // Who had it open before does not write over what was changed since.
    expect((await test.call('PUT', `/windows/${id}`, change)).status).toBe(409);
    const change2 = rows('gifts', [during({ kind: 'kept', id })], 'change', {
      is: 'between',
      atLeast: 1,
      atMost: null,
    });
    expect(await count(all({ ...change2, against: { kind: 'kept', id } }))).toMatchObject({ count: 0 });
  });

  it('has no days once it is deleted, which is said; undoing that brings it back', async () => {
    const id = Number((await add('spring', between('2026-03-01', '2026-05-31'))).body['id']);
    const asked = all(gave(during({ kind: 'kept', id })));
    const { body: made } = await test.call('POST', '/segments', { name: 'Of spring', conditions: asked });
    const gone = await test.call('DELETE', `/windows/${id}`);
    expect(await count(asked)).toMatchObject({ count: 0, whole: 'gave in a window that is no longer there' });
    expect((await test.call('GET', `/segments/${String(made['id'])}`)).status).toBe(200);
    expect((await test.call('DELETE', `/windows/${id}`)).status).toBe(404);
    await test.call('POST', `/changes/${String(gone.body['revision'])}/undo`, {});
    expect((await kept()).map(({ name }) => name)).toContain('spring');
  });

  it('goes with the definition of a segment, and is found again by its name', async () => {
    const id = Number((await add('autumn', between('2025-09-01', '2025-11-30'))).body['id']);
    const conditions = all(gave(during({ kind: 'kept', id })));
    const { body: made } = await test.call('POST', '/segments', { name: 'Of autumn', conditions });
    const { body: definition } = await test.call('GET', `/segments/${String(made['id'])}/definition`);
    expect(definition['names']).toEqual([{ kind: 'window', id: String(id), name: 'autumn' }]);
    const elsewhere = JSON.parse(
      JSON.stringify(definition).replaceAll(`"id":${id}`, '"id":987').replace(`"id":"${id}"`, '"id":"987"'),
    );
    const { body: read } = await test.call('POST', '/segments/read-definition', elsewhere);
    expect(read).toMatchObject({ conditions, missing: [] });
  });

  it('has a name of its own, ends after it begins, is none that is kept, and is an officer’s to keep', async () => {
    await add('twice', { kind: 'month', ago: 1 });
    expect((await add('twice', { kind: 'month', ago: 2 })).status).toBe(409);
    expect((await add('backwards', between('2026-05-01', '2026-04-01'))).status).toBe(400);
    expect((await add('of another', { kind: 'kept', id: 1 })).status).toBe(400);
    expect((await add('', { kind: 'ever' })).status).toBe(400);
    expect((await add('mine', { kind: 'ever' }, 'entry')).status).toBe(403);
  });
});
