import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { all, FIRST_VIEW, STANDING, stateIs } from '@tallystick/core/segments';
import type { Group } from '@tallystick/core/segments';
import { Chance } from '../../demo/random.ts';
import { draftOf } from '@tallystick/contract/supporters';
import { addGift, addPerson, openTestApp, recordOf } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* The order of a list, asked of the facts, is the order that the database gives for the same question. */

let test: TestApp;
const ids: number[] = [];
const chance = new Chance(5);
beforeAll(async () => {
  test = await openTestApp();
  for (let index = 0; index < 40; index++) {
    const id = await addPerson(test, {
      first: chance.pick(['Ana', 'Bo', 'Cy']),
      last: chance.pick(['Farr', 'Quill', 'Adair', 'de la Cruz']),
      addresses: chance.happens(0.8)
        ? [{ city: chance.pick(['Ely', 'Camas', 'Yuma']), region: chance.pick(['NV', 'ID']) }]
        : [],
    });
    ids.push(id);
    for (let gift = chance.whole(0, 3); gift > 0; gift--)
      await addGift(test, id, {
        cents: chance.whole(1, 5) * 1000,
        date: `202${chance.whole(4, 5)}-0${chance.whole(1, 9)}-15`,
      });
  }
}, 60_000);
afterAll(() => test.close());

const listed = async (query: string): Promise<number[]> => {
  const all: number[] = [];
  let cursor = '';
  do {
    const { body } = await test.call('GET', `/supporters?limit=7&${query}${cursor && `&cursor=${cursor}`}`);
    all.push(...(body['items'] as { id: number }[]).map((row) => row.id));
    cursor = (body['next'] as string | null) ?? '';
  } while (cursor !== '');
  return all;
};
const ordered = async (by: string): Promise<number[]> => {
  const rows = await test.sql.rows<{ id: number }>(
    `SELECT s.id FROM supporter s LEFT JOIN address a ON a.supporter_id = s.id AND a.preferred = 1
     LEFT JOIN (SELECT supporter_id, SUM(cents) AS total, COUNT(*) AS many, MAX(cents) AS most, MIN(date) AS first, MAX(date) AS last,
       AVG(cents) AS mean, SUM(IF(date BETWEEN '2025-07-01' AND '2026-06-30', cents, 0)) AS before_this
       FROM gift GROUP BY supporter_id) g ON g.supporter_id = s.id
     ORDER BY ${by}, BINARY s.sort_name, s.id`,
  );
  return rows.map((row) => row.id);
};

describe('a list in the order of', () => {
  it.each([
    ['name', 'BINARY s.sort_name'],
    ['-name', 'BINARY s.sort_name DESC'],
    ['number', 's.id'],
    ['-number', 's.id DESC'],
    ['lifetime', 'COALESCE(g.total, 0)'],
    ['-lifetime', 'COALESCE(g.total, 0) DESC'],
    ['-lastYear', 'COALESCE(g.before_this, 0) DESC'],
    ['count', 'COALESCE(g.many, 0)'],
    ['-largest', 'g.most IS NULL, g.most DESC'],
    ['largest', 'g.most IS NULL, g.most'],
    ['-average', 'g.mean IS NULL, g.mean DESC'],
    ['average', 'g.mean IS NULL, g.mean'],
    ['first', 'g.first IS NULL, g.first'],
    ['-first', 'g.first IS NULL, g.first DESC'],
    ['-last', 'g.last IS NULL, g.last DESC'],
    ['last', 'g.last IS NULL, g.last'],
    ['town', `COALESCE(a.city, '') = '', a.city`],
    ['-town', `COALESCE(a.city, '') = '', a.city DESC`],
    ['-state', `COALESCE(a.region, '') = '', a.region DESC`],
    ['state,-lifetime', `COALESCE(a.region, '') = '', a.region, COALESCE(g.total, 0) DESC`],
    ['-count,town,-number', `COALESCE(g.many, 0) DESC, COALESCE(a.city, '') = '', a.city, s.id DESC`],
  ])('%s is the database’s own, page after page', async (sort, by) =>
    expect(await listed(`sort=${sort}`)).toEqual(await ordered(by)),
  );

  it.each(['lifetime', '-last', 'town', 'name'])('%s stays right while records change', async (sort) => {
    const by = {
      lifetime: 'COALESCE(g.total, 0)',
      '-last': 'g.last IS NULL, g.last DESC',
      town: `COALESCE(a.city, '') = '', a.city`,
      name: 'BINARY s.sort_name',
    };
    await listed(`sort=${sort}`);
    for (let time = 0; time < 6; time++) {
      const id = ids[chance.whole(0, ids.length - 1)] ?? 0;
      await addGift(test, id, { cents: chance.whole(1, 9) * 700, date: '2026-02-15' });
      expect(await listed(`sort=${sort}`)).toEqual(await ordered(by[sort as keyof typeof by]));
    }
  });

  it('comes to what the database adds up, whole and in groups, while records change, come and go', async () => {
    const summed = async (conditions: Group): Promise<{ sum: number; groups: number[] }> => {
      const columns = [{ id: 'all', title: '', width: 100, shows: STANDING.lifetime }];
      const state = { id: 'state', title: '', width: 100, shows: STANDING.state };
      const view = { ...FIRST_VIEW, columns: [...columns, state], sorts: [], groupBy: 'state' };
      const { body } = await test.call('POST', '/segments/table', { conditions, view, limit: 1 });
      const { sums, groups } = body as unknown as { sums: number[]; groups: { sums: number[] }[] };
      return { sum: sums[0] ?? NaN, groups: groups.map((one) => one.sums[0] ?? NaN) };
    };
    const given = async (): Promise<number> => {
      const [row] = await test.sql.rows<{ sum: number }>(
        `SELECT SUM(g.cents) AS sum FROM gift g JOIN supporter s ON s.id = g.supporter_id WHERE s.state = 'active'`,
      );
      return Number(row?.sum);
    };
    for (let time = 0; time < 6; time++) {
      const made = await addPerson(test, { addresses: [{ city: 'Ely', region: chance.pick(['NV', 'ID']) }] });
      ids.push(made);
      for (const id of [made, ids[chance.whole(0, ids.length - 1)] ?? made])
        await addGift(test, id, { cents: chance.whole(1, 9) * 700, date: '2026-02-15' });
      if (time % 2 === 1) {
        const selection = { kind: 'ids', ids: [ids[chance.whole(0, ids.length - 1)]] };
        await test.call('POST', '/supporters/acts', { selection, act: { do: chance.pick(['trash', 'restore']) } });
      }
      const everyone = await summed(all());
      expect(everyone.sum).toBe(await given());
      expect(everyone.groups.reduce((sum, one) => sum + one, 0)).toBe(everyone.sum);
      // A few are added up without what is kept of all.
      const [nevada, others] = [await summed(all(stateIs('NV'))), await summed(all({ ...stateIs('NV'), not: true }))];
      expect(nevada.sum + others.sum).toBe(everyone.sum);
    }
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids }, act: { do: 'restore' } });
  });

  it.each(['name', '-name', 'number', 'lifetime', '-count', '-last', 'town', 'state', 'kind', 'household'])(
    '%s shows each once, though rows move, come and go between the pages',
    async (sort) => {
      const rows: number[] = [];
      const moved = new Set<number>();
      let cursor = '';
      do {
        const { body } = await test.call('GET', `/supporters?limit=9&sort=${sort}${cursor && `&cursor=${cursor}`}`);
        rows.push(...(body['items'] as { id: number }[]).map((row) => row.id));
        cursor = (body['next'] as string | null) ?? '';
        // The row that the page ended with gets another name and place, and is in another order now.
        const last = rows.at(-1) ?? 0;
        const made = await addPerson(test, { first: 'Ana', last: chance.pick(['Aaa', 'Zzz']) });
        for (const id of [last, made]) moved.add(id);
        await addGift(test, last, { cents: chance.whole(1, 9) * 900, date: '2026-03-15' });
        const record = await recordOf(test, last);
        await test.call('PUT', `/supporters/${last}`, {
          draft: { ...draftOf(record), last: chance.pick(['Aab', 'Zzy']) },
          version: record.version,
        });
        ids.push(made);
      } while (cursor !== '');
      const others = ids.filter((id) => !moved.has(id));
      expect(rows.filter((id) => !moved.has(id)).sort()).toEqual([...others].sort());
    },
  );

  it('goes on only with a cursor of its own, and by three columns at most', async () => {
    const { body } = await test.call('GET', '/supporters?limit=2&sort=state,-lifetime');
    const next = String(body['next']);
    const asked = async (sort: string): Promise<number> =>
      (await test.call('GET', `/supporters?sort=${sort}&cursor=${next}`)).status;
    expect(await Promise.all(['state,-lifetime', 'state', 'state,town,name,kind', 'state,,town'].map(asked))).toEqual([
      200, 400, 400, 400,
    ]);
  });

  it('groups holds everyone once, in the order of the groups', async () => {
    const { body } = await test.call('GET', '/supporters?groupBy=town&limit=1');
    const groups = body['groups'] as { key: string; count: number }[];
    expect(groups.map((group) => group.key)).toEqual(['Camas', 'Ely', 'Yuma', '']);
    expect(groups.reduce((sum, group) => sum + group.count, 0)).toBe(ids.length);
    expect((await listed('groupBy=town')).sort()).toEqual([...ids].sort());
  });
});

describe('states and countries', () => {
  it('are kept as codes by every way in, and a segment in any spelling finds them all', async () => {
    const [before = 0] = [await countOf(['NV'])];
    for (const region of ['NV', 'nv', 'Nevada', 'Nev.', 'nevada ', 'US-NV'])
      await addPerson(test, { last: 'Stated', addresses: [{ city: 'Ely', region }] });
    const abroad = await addPerson(test, { addresses: [{ city: 'Ottawa', region: 'ontario', country: 'canada' }] });
    const { addresses } = await recordOf(test, abroad);
    expect(addresses.map(({ region, country }) => [region, country])).toEqual([['ON', 'CA']]);
    for (const spelling of ['NV', 'nevada', 'Nev.']) expect(await countOf([spelling])).toBe(before + 6);
    const { regions } = (await test.call('GET', '/choices')).body as { regions: { code: string; name: string }[] };
    expect(regions).toContainEqual({ code: 'NV', name: 'Nevada' });
    expect(regions).toContainEqual({ code: 'ON', name: 'Ontario' });
  });

  const countOf = async (regions: string[]): Promise<number> => {
    const conditions = all(stateIs(...regions));
    return Number((await test.call('POST', '/segments/count', { conditions })).body['count']);
  };
});
