import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addPerson, openTestApp, recordOf, snapshot, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

interface Field {
  id: number;
  version: number;
  name: string;
  choices: string[];
  used: number;
}
const make = (draft: object, as: 'admin' | 'officer' = 'admin') => test.call('POST', '/fields', draft, { as });
const fields = async (): Promise<Field[]> => (await test.call('GET', '/fields')).body['items'] as Field[];
const errorOf = (body: Record<string, unknown>) =>
  body['error'] as { message: string; fields?: Record<string, string> };

describe('custom fields', () => {
  it('are made by an administrator, once by each name, with choices where they are needed', async () => {
    expect((await make({ about: 'supporter', name: 'Size', kind: 'text' }, 'officer')).status).toBe(403);
    expect((await make({ about: 'supporter', name: 'Size', kind: 'one' })).text).toContain('at least one choice');
    expect((await make({ about: 'supporter', name: 'Size', kind: 'one', choices: ['S', 's'] })).text).toContain(
      'twice',
    );
    expect((await make({ about: 'supporter', name: 'Size', kind: 'one', choices: ['S', 'L'] })).status).toBe(200);
    expect((await make({ about: 'supporter', name: 'size', kind: 'text' })).text).toContain('already');
    expect((await make({ about: 'gift', name: 'Size', kind: 'text' })).status).toBe(200);
    expect((await make({ about: 'supporter', name: ' ', kind: 'text' })).text).toContain('The name is missing');
    expect((await make({ about: 'moon', name: 'x', kind: 'text' })).status).toBe(400);
  });

  it('are renamed with their version, keep their kind, and get new choices', async () => {
    const [size] = (await fields()).filter((field) => field.name === 'Size');
    const put = (over: object) =>
      test.call(
        'PUT',
        `/fields/${size?.id}`,
        { version: size?.version, name: 'Shirt', choices: ['S', 'M', 'L'], ...over },
        { as: 'admin' },
      );
    expect((await put({ name: 'Shirt' })).status).toBe(200);
    expect((await put({ name: 'Again' })).status).toBe(409);
    expect((await fields()).find((field) => field.id === size?.id)).toMatchObject({
      name: 'Shirt',
      choices: ['S', 'M', 'L'],
    });
  });

  it('name every value that does not fit, by its field, and write none of them', async () => {
    const ids: number[] = [];
    for (const [name, kind] of [
      ['Nights', 'number'],
      ['Visit', 'date'],
      ['Host', 'yesno'],
      ['Budget', 'money'],
    ] as const)
      ids.push(Number((await make({ about: 'supporter', name, kind })).body['id']));
    const [nights, visit, host, budget] = ids;
    const before = await snapshot(test.sql);
    const { status, body } = await test.call('POST', '/supporters', {
      first: 'Ana',
      fields: { [nights ?? 0]: 'many', [visit ?? 0]: '2026-02-30', [host ?? 0]: 'perhaps', [budget ?? 0]: '12' },
    });
    expect(status).toBe(400);
    expect(Object.keys(errorOf(body).fields ?? {}).sort()).toEqual(
      [nights, visit, host].map((id) => `fields.${id}`).sort(),
    );
    expect(await snapshot(test.sql)).toEqual(before);
    const id = await addPerson(test, { fields: { [nights ?? 0]: '1,200', [host ?? 0]: 'Y', [budget ?? 0]: '$12.5' } });
    expect((await recordOf(test, id)).fields.map((field) => [field.fieldId, field.typed, field.shown])).toEqual([
      [budget, '12.50', '$12.50'],
      [host, 'yes', 'yes'],
      [nights, '1200', '1,200'],
    ]);
    expect((await test.call('POST', '/supporters', { first: 'x', fields: { 999: 'y' } })).text).toContain(
      'no longer exists',
    );
  });

  it('are deleted with their values, counted before, and come back whole', async () => {
    const made = await make({ about: 'supporter', name: 'Gone', kind: 'text' });
    const id = Number(made.body['id']);
    for (const value of ['a', 'b', 'c']) await addPerson(test, { fields: { [id]: value } });
    expect((await fields()).find((field) => field.id === id)?.used).toBe(3);
    const before = await snapshot(test.sql);
    expect((await test.call('DELETE', `/fields/${id}?values=2`, undefined, { as: 'admin' })).status).toBe(409);
    const gone = await test.call('DELETE', `/fields/${id}?values=3`, undefined, { as: 'admin' });
    expect((await fields()).some((field) => field.id === id)).toBe(false);
    await test.services.changes.undo(TESTER, Number(gone.body['revision']));
    expect(await snapshot(test.sql)).toEqual(before);
    expect((await test.call('DELETE', '/fields/4000', undefined, { as: 'admin' })).status).toBe(404);
  });
});

describe('what forms choose from', () => {
  it('names funds, tags and groups with counts, segments and colleagues', async () => {
    await addPerson(test, { tags: ['Counted'] });
    await test.call('POST', '/groups', { name: 'Hosts' });
    await test.call('POST', '/segments', { name: 'All', conditions: { kind: 'group', join: 'all', parts: [] } });
    const { body } = await test.call('GET', '/choices');
    expect(body).toMatchObject({
      tags: [{ name: 'Counted', count: 1 }],
      groups: [{ name: 'Hosts', count: 0 }],
      segments: [{ name: 'All' }],
    });
    expect((body['funds'] as { closed: boolean }[]).some((fund) => fund.closed)).toBe(true);
  });

  it('does not count whoever is in the trash', async () => {
    const id = await addPerson(test, { tags: ['Trashed'] });
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [id] }, act: { do: 'trash' } });
    const tags = (await test.call('GET', '/choices')).body['tags'] as { name: string; count: number }[];
    expect(tags.find((tag) => tag.name === 'Trashed')?.count).toBe(0);
  });
});

describe('views', () => {
  it('are refused without a name and when they are too large, and not saved by who may only read', async () => {
    const setting = { search: '', order: [], hidden: [], widths: {} };
    const save = (over: object, as: 'entry' | 'read' = 'entry') =>
      test.call('POST', '/views', { list: 'supporters', name: 'Mine', setting, ...over }, { as });
    expect((await save({ name: ' ' })).status).toBe(400);
    expect((await save({ setting: { ...setting, search: 'x'.repeat(2001) } })).status).toBe(400);
    expect((await save({}, 'read')).status).toBe(403);
    expect((await save({})).status).toBe(200);
    expect((await test.call('GET', '/views?list=gifts')).body['items']).toEqual([]);
  });
});
