import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { all, between } from '@tallystick/core/segments';
import type { SupporterRow } from '@tallystick/contract/supporters';
import { addGift, addPerson, openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
let field: number;
const ids: number[] = [];
beforeAll(async () => {
  test = await openTestApp();
  const made = await test.call(
    'POST',
    '/fields',
    { about: 'supporter', name: 'Nights', kind: 'number' },
    { as: 'admin' },
  );
  field = Number(made.body['id']);
  const towns = ['Ely', 'Camas', 'Ely', '', 'Camas', 'Ely'];
  for (const [index, city] of towns.entries()) {
    const id = await addPerson(test, {
      first: `P${index}`,
      last: ['Farr', 'Adair', 'Cruz', 'Quill', 'Bell', 'Dunmore'][index],
      addresses: city === '' ? [] : [{ city, region: city === 'Ely' ? 'NV' : 'ID' }],
      tags: index % 2 === 0 ? ['Even'] : [],
      fields: index < 3 ? { [field]: String(10 - index) } : {},
    });
    ids.push(id);
    for (let gift = 0; gift < index; gift++) await addGift(test, id, { cents: 1000 * (6 - index), date: '2026-03-01' });
  }
});
afterAll(() => test.close());

interface Page {
  items: SupporterRow[];
  next: string | null;
  total: number;
  at: number;
  sum: { lifetime: number; count: number };
  groups: { key: string; count: number; sum: { lifetime: number; count: number } }[];
}
const list = async (query: string): Promise<Page> =>
  (await test.call('GET', `/supporters?${query}`)).body as unknown as Page;
const order = async (query: string): Promise<number[]> => (await list(query)).items.map((row) => ids.indexOf(row.id));

describe('a list of supporters', () => {
  it.each([
    ['sort=name', [1, 4, 2, 5, 0, 3]],
    ['sort=-name', [3, 0, 5, 2, 4, 1]],
    ['sort=number', [0, 1, 2, 3, 4, 5]],
    ['sort=-lifetime', [3, 4, 2, 1, 5, 0]],
    ['sort=count', [0, 1, 2, 3, 4, 5]],
    ['sort=-largest', [1, 2, 3, 4, 5, 0]],
    ['sort=town', [1, 4, 2, 5, 0, 3]],
  ])('sorts by %s', async (query, expected) => expect(await order(query)).toEqual(expected));

  it('sorts by a custom field, by size and not by letters', async () => {
    expect(await order(`sort=-field:${field}`)).toEqual([0, 1, 2, 4, 5, 3]);
    expect((await test.call('GET', '/supporters?sort=field:999')).status).toBe(400);
    expect((await test.call('GET', '/supporters?sort=shoes')).status).toBe(400);
  });

  it('adds up the whole list, whatever page is asked for', async () => {
    const page = await list('limit=2&sort=name');
    expect(page).toMatchObject({ total: 6, at: 0, sum: { lifetime: 5000 + 8000 + 9000 + 8000 + 5000, count: 15 } });
    const second = await list(`limit=2&sort=name&cursor=${String(page.next)}`);
    expect(second).toMatchObject({ at: 2, sum: page.sum });
  });

  it('is grouped, groups in order and what has none last', async () => {
    const page = await list('groupBy=town&sort=name');
    expect(page.groups).toMatchObject([
      { key: 'Camas', count: 2, sum: { lifetime: 13_000 } },
      { key: 'Ely', count: 3, sum: { lifetime: 13_000 } },
      { key: '', count: 1, sum: { lifetime: 9_000 } },
    ]);
    // The groups come to what the list comes to.
    const over = (of: 'lifetime' | 'count') => page.groups.reduce((all, { sum }) => all + sum[of], 0);
    expect([over('lifetime'), over('count')]).toEqual([page.sum.lifetime, page.sum.count]);
    expect(page.items.map((row) => ids.indexOf(row.id))).toEqual([1, 4, 2, 5, 0, 3]);
  });

  it('narrows by tag, segment and what is typed, together', async () => {
    const tag = (await test.call('GET', '/choices')).body['tags'] as { id: number; name: string; count: number }[];
    expect(tag).toMatchObject([{ name: 'Even', count: 3 }]);
    expect(await order(`tag=${tag[0]?.id}&sort=name`)).toEqual([4, 2, 0]);
    expect(await order(`tag=${tag[0]?.id}&q=cruz`)).toEqual([2]);
    const conditions = all({ kind: 'field', field: `own:${field}`, test: between(9) });
    const segment = await test.call('POST', '/segments', { name: 'Many nights', conditions });
    expect(await order(`segment=${String(segment.body['id'])}`)).toEqual([1, 0]);
    expect((await test.call('GET', '/supporters?segment=999')).status).toBe(404);
  });

  it('misses and repeats nobody when the page before has changed meanwhile', async () => {
    const page = await list('limit=3&sort=-lifetime');
    await addGift(test, ids[0] ?? 0, { cents: 99_000 });
    const rest = await list(`limit=10&sort=-lifetime&cursor=${String(page.next)}`);
    expect(rest.items.map((row) => ids.indexOf(row.id))).toEqual([1, 5]);
  });

  it('shows tags, fields and wishes in its rows', async () => {
    const [row] = (await list('q=farr')).items;
    expect(row).toMatchObject({ tags: ['Even'], cells: [], wishes: [], city: 'Ely' });
  });

  it('shows what columns of the catalogue are asked for, of a whole list and of what is found', async () => {
    const columns = `columns=field:first,field:${field},field:mailable`;
    const whole = await list(`${columns}&sort=number`);
    expect(whole.items.map(({ cells }) => cells)).toEqual([
      ...[10, 9, 8].map((nights, at) => [`P${at}`, nights, 'yes']),
      ...[3, 4, 5].map((at) => [`P${at}`, null, at === 3 ? 'no' : 'yes']),
    ]);
    expect((await list(`${columns}&q=cruz`)).items.map(({ cells }) => cells)).toEqual([['P2', 8, 'yes']]);
    expect(await order('sort=-field:first')).toEqual([5, 4, 3, 2, 1, 0]);
    const { groups } = await list('groupBy=field:mailable');
    expect(groups.map(({ key, count }) => [key, count])).toEqual([
      ['no', 1],
      ['yes', 5],
    ]);
    for (const wrong of ['field:999', 'field:shoes', 'shoes', 'name'])
      expect((await test.call('GET', `/supporters?columns=${wrong}`)).status).toBe(400);
  });

  it('has every field of the catalogue in its file', async () => {
    const file = await test.call('POST', '/supporters/export', {
      ...{ selection: { kind: 'ids', ids: ids.slice(0, 1) }, as: 'csv' },
    });
    const [headings = '', cells = ''] = file.text.replace('\uFEFF', '').split('\r\n');
    const of = Object.fromEntries(headings.split(',').map((heading, at) => [heading, cells.split(',')[at]]));
    expect(of).toMatchObject({ 'First name': 'P0', Birthday: '', Nights: '10', 'Has a deliverable address': 'yes' });
  });
});

describe('views', () => {
  it('are saved under a name, replaced, and deleted', async () => {
    const setting = {
      search: 'sort=-lifetime',
      order: ['name'],
      hidden: ['email'],
      widths: { name: 200 },
      names: { name: 'Who' },
    };
    const first = await test.call('POST', '/views', { list: 'supporters', name: 'Big givers', setting });
    const again = await test.call('POST', '/views', {
      list: 'supporters',
      name: 'Big givers',
      setting: { ...setting, hidden: [] },
    });
    expect(again.body['id']).toBe(first.body['id']);
    const views = (await test.call('GET', '/views?list=supporters')).body['items'] as object[];
    expect(views).toMatchObject([
      {
        name: 'Big givers',
        author: 'test officer',
        setting: { search: 'sort=-lifetime', hidden: [], names: { name: 'Who' } },
      },
    ]);
    expect((await test.call('DELETE', `/views/${String(first.body['id'])}`)).status).toBe(200);
    expect((await test.call('GET', '/views?list=supporters')).body['items']).toEqual([]);
  });
});
