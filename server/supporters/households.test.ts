import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addGift, addPerson, openTestApp, recordOf } from '../tests/support.ts';
import type { Answer, TestApp } from '../tests/support.ts';
import { draftOf } from '@tallystick/contract/supporters';

/* A household while somebody of it, or it itself, is in the trash. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const home = async (): Promise<{ id: number; first: number; second: number }> => {
  const [first, second] = [await addPerson(test), await addPerson(test)];
  const members = [
    { id: first, name: '', primary: true },
    { id: second, name: '', primary: false },
  ];
  const { body } = await test.call('POST', '/supporters', { kind: 'household', organization: 'The Home', members });
  return { id: Number(body['id']), first, second };
};
const inTrash = (ids: readonly number[], there: boolean): Promise<Answer> =>
  test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids }, act: { do: there ? 'trash' : 'restore' } });
/** Saves a record as its form was opened, with something changed. */
const save = async (id: number, over: Record<string, unknown> = {}): Promise<Answer> => {
  const record = await recordOf(test, id);
  return test.call('PUT', `/supporters/${id}`, { draft: { ...draftOf(record), ...over }, version: record.version });
};
const membersOf = async (id: number): Promise<[number, boolean][]> =>
  (await recordOf(test, id)).members.map((member) => [member.id, member.primary]);

describe('a household', () => {
  it('keeps a member in the trash, and its primary, though it is changed meanwhile', async () => {
    const { id, first, second } = await home();
    expect((await inTrash([first], true)).status).toBe(200);
    expect(await membersOf(id)).toEqual([[second, true]]);
    expect((await save(id, { organization: 'The Renamed Home' })).status).toBe(200);
    await inTrash([first], false);
    expect(await membersOf(id)).toEqual([
      [first, true],
      [second, false],
    ]);
  });

  it('gets another primary where one is chosen while the first is in the trash', async () => {
    const { id, first, second } = await home();
    const third = await addPerson(test);
    await inTrash([first], true);
    const members = [
      { id: second, name: '', primary: false },
      { id: third, name: '', primary: true },
    ];
    expect((await save(id, { members })).status).toBe(200);
    await inTrash([first], false);
    expect(Object.fromEntries(await membersOf(id))).toEqual({ [first]: false, [second]: false, [third]: true });
  });

  it('in the trash keeps its members, though they are changed meanwhile', async () => {
    const { id, first, second } = await home();
    await inTrash([id], true);
    expect((await recordOf(test, first)).household).toBeNull();
    expect((await save(first, { nickname: 'Fern' })).status).toBe(200);
    await inTrash([id], false);
    expect(await membersOf(id)).toEqual([
      [first, true],
      [second, false],
    ]);
  });

  it('adds up what those of it gave who are not in the trash, and nothing while it is there itself', async () => {
    const { id, first, second } = await home();
    await addGift(test, first, { cents: 1_000 });
    await addGift(test, second, { cents: 200 });
    const together = async (): Promise<number> => (await recordOf(test, second)).giving.household.lifetime;
    expect(await together()).toBe(1_200);
    await inTrash([first], true);
    expect(await together()).toBe(200);
    await inTrash([first], false);
    await inTrash([id], true);
    expect(await together()).toBe(200);
    await inTrash([id], false);
    expect(await together()).toBe(1_200);
  });
});

describe('somebody in the trash', () => {
  it('is not changed, tied, noted or given to until they are restored', async () => {
    const [who, other] = [await addPerson(test), await addPerson(test)];
    const draft = draftOf(await recordOf(test, who));
    await inTrash([who], true);
    const { version } = await recordOf(test, who);
    const kinds = (await test.call('GET', '/relation-kinds')).body['items'] as { id: number; name: string }[];
    const kindId = kinds.find((kind) => kind.name === 'spouse')?.id ?? 0;
    const tie = { fromId: who, toId: other, kindId, title: '', note: '', since: null, until: null };
    const answers = await Promise.all([
      test.call('PUT', `/supporters/${who}`, { draft: { ...draft, nickname: 'Fern' }, version }),
      test.call('POST', '/relations', tie),
      test.call('POST', '/tasks', { supporterId: who, title: 'Call', due: '2026-12-01' }),
      test.call('POST', '/gifts', { supporterId: who, cents: 100, date: '2026-11-01', fundId: 1 }),
    ]);
    for (const { status, text } of answers) {
      expect([400, 409]).toContain(status);
      expect(text).toContain('in the trash');
    }
    await inTrash([who], false);
    expect((await test.call('POST', '/relations', tie)).status).toBe(200);
  });
});
