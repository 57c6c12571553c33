import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { all, anyOf, FIRST_VIEW, rows, tagged } from '@tallystick/core/segments';
import type { Group, Shown, View } from '@tallystick/core/segments';
import { addGift, addPerson, openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* Everyone here is tagged, so that the rows of a table are known. */
let test: TestApp;
let conditions: Group;
const people: number[] = [];
const given: number[] = [];
beforeAll(async () => {
  test = await openTestApp();
  for (let index = 0; index < 9; index++) {
    const id = await addPerson(test, {
      ...{ first: `Given${index}`, last: index % 2 ? 'Odd' : 'Even', tags: ['Tabled', index < 3 ? 'Few' : 'Many'] },
      addresses: [{ city: index < 4 ? 'Fircone' : 'Saltgrass' }],
    });
    people.push(id);
    given.push(index < 8 ? 1_000 * ((index * 5) % 8) + 500 : 0);
    if (index < 8)
      await addGift(test, id, { cents: given[index], date: `2026-0${index + 1}-15`, fundId: 1 + (index % 2) });
  }
  const [tag] = await test.sql.rows<{ id: number }>(`SELECT id FROM tag WHERE name = 'Tabled'`);
  conditions = all(tagged(tag?.id ?? 0));
});
afterAll(() => test.close());

interface Page {
  items: { id: number; supporterId: number; thing: number | null; cells: (string | number | null)[] }[];
  next: string | null;
  total: number;
  sums: (number | null)[];
  groups: { key: string; count: number; sums: (number | null)[] }[];
  columns: { id: string; words: string; type: string | null }[];
  without: number;
}
const NAME: Shown = { kind: 'field', field: 'name' };
const GIVEN: Shown = { kind: 'measure', of: 'gifts', where: [], measure: 'sum' };
const viewOf = (shows: Record<string, Shown>, over: Partial<View> = {}): View => ({
  ...{ rows: 'supporter', where: [], sorts: [], groupBy: null, ...over },
  columns: Object.entries(shows).map(([id, one]) => ({ id, title: '', width: 100, shows: one })),
});
const ask = async (view: View, more: object = {}) =>
  (await test.call('POST', '/segments/table', { conditions, view, limit: 100, ...more })).body as unknown as Page;

describe('a table of what matches', () => {
  it('comes in the order that is asked for, each row once, page after page', async () => {
    const view = viewOf({ name: NAME, given: GIVEN }, { sorts: [{ column: 'given', down: true }] });
    const rows: Page['items'] = [];
    let cursor: string | null = null;
    do {
      const page: Page = await ask(view, { limit: 4, ...(cursor ? { cursor } : {}) });
      expect([page.total, page.sums]).toEqual([9, [null, given.reduce((sum, one) => sum + one)]]);
      rows.push(...page.items);
      cursor = page.next;
    } while (cursor);
    expect(rows.map(({ cells }) => cells[1])).toEqual(given.toSorted((a, b) => b - a));
    expect(rows.map(({ id }) => id).toSorted((a, b) => a - b)).toEqual(people);
  });

  it('is put together by a column, with what each group comes to', async () => {
    const town: Shown = { kind: 'field', field: 'town' };
    const { groups, items } = await ask(viewOf({ name: NAME, given: GIVEN, town }, { groupBy: 'town' }));
    const sumOf = (from: number, to: number) => given.slice(from, to).reduce((sum, one) => sum + one, 0);
    expect(groups).toEqual([
      { key: 'Fircone', count: 4, sums: [null, sumOf(0, 4), null] },
      { key: 'Saltgrass', count: 5, sums: [null, sumOf(4, 9), null] },
    ]);
    expect(items.map(({ cells }) => cells[2])).toEqual([...Array(4).fill('Fircone'), ...Array(5).fill('Saltgrass')]);
  });

  it('has one row for each gift that is asked for, and never more', async () => {
    const view = viewOf(
      { name: NAME, day: { kind: 'part', part: 'day' }, fund: { kind: 'part', part: 'fund' } },
      { rows: 'gifts', where: [anyOf('fund', 2)], sorts: [{ column: 'day', down: true }] },
    );
    const { items, total } = await ask(view);
    const fund = items[0]?.cells[2];
    expect(total).toBe(4);
    expect(items.map(({ cells }) => cells[1])).toEqual(['2026-08-15', '2026-06-15', '2026-04-15', '2026-02-15']);
    expect([typeof fund, new Set(items.map(({ cells }) => cells[2])).size]).toEqual(['string', 1]);
    expect(items.map(({ supporterId }) => supporterId)).toEqual([7, 5, 3, 1].map((at) => people[at]));
  });

  it('has one row for each of another list, which can be acted on by its own number', async () => {
    const set = async (at: number, title: string, repeats = 'never') =>
      Number(
        (
          await test.call('POST', '/tasks', {
            ...{ supporterId: people[at], title, due: '2026-12-01', ownerId: null, repeats },
          })
        ).body['id'],
      );
    const [call, write, other] = [await set(0, 'Call'), await set(1, 'Write', 'monthly'), await set(2, 'Other')];
    const part = (name: string): Shown => ({ kind: 'part', part: name });
    const view = viewOf(
      { title: part('title'), due: part('day'), open: part('open') },
      { rows: 'tasks', where: [anyOf('open', 1)], sorts: [{ column: 'title', down: false }] },
    );
    const shown = async () => (await ask(view)).items.map(({ id, cells }) => [id, cells[0], cells[1]]);
    expect(await shown()).toEqual([
      ...[
        [call, 'Call', '2026-12-01'],
        [other, 'Other', '2026-12-01'],
        [write, 'Write', '2026-12-01'],
      ],
    ]);
    const act = (ids: number[], what: object) => test.call('POST', '/tasks/acts', { ids, act: what });
    expect((await act([call, write], { do: 'move', due: '2026-12-24' })).body).toMatchObject({ changed: 2 });
    const done = await act([call, write], { do: 'done' });
    expect(done.body).toMatchObject({ changed: 2 });
    // What repeats is set anew; what is done already stays as it is.
    expect(await shown()).toEqual([
      [other, 'Other', '2026-12-01'],
      [expect.any(Number), 'Write', '2027-01-01'],
    ]);
    expect((await act([call], { do: 'done' })).body).toMatchObject({ changed: 0 });
    expect((await act([other], { do: 'give', ownerId: 99_999 })).status).toBe(400);
    await test.call('POST', `/changes/${String(done.body['revision'])}/undo`, {});
    expect(await shown()).toEqual([
      [call, 'Call', '2026-12-24'],
      [other, 'Other', '2026-12-01'],
      [write, 'Write', '2026-12-24'],
    ]);
  });

  it('tells a tie from itself at its other end, where both match', async () => {
    const { items: kinds } = (await test.call('GET', '/relation-kinds')).body as {
      items: { id: number; name: string }[];
    };
    const kindId = kinds.find(({ name }) => name === 'spouse')?.id ?? 0;
    const tie = { fromId: people[0], toId: people[1], kindId, title: '', note: '', since: null, until: null };
    expect((await test.call('POST', '/relations', tie)).status).toBe(200);
    const shows: Record<string, Shown> = { who: { kind: 'part', part: 'who' }, role: { kind: 'part', part: 'role' } };
    const { items } = await ask(viewOf(shows, { rows: 'ties' }));
    expect(items.map(({ cells }) => cells[0]).toSorted()).toEqual(['Given0 Even', 'Given1 Odd']);
    expect(new Set(items.map(({ id }) => id)).size).toBe(2);
    // Each is the other's spouse, whichever end it was tied from, and found by it.
    expect(items.map(({ cells }) => cells[1])).toEqual(['spouse', 'spouse']);
    const spouse: Group = { kind: 'group', join: 'all', parts: [rows('ties', [anyOf('role', kindId * 2)])] };
    const found = await ask(viewOf({ name: NAME }), { conditions: spouse });
    expect(found.items.map(({ supporterId }) => supporterId).toSorted()).toEqual([people[0], people[1]].toSorted());
    // Both rows are the one tie.
    const [made] = (await test.call('GET', `/supporters/${people[0]}/relations`)).body['items'] as { id: number }[];
    expect(items.map(({ thing }) => thing)).toEqual([made?.id, made?.id]);
  });

  it('finds notes by what they say, across the forms of their words, and shows all of it', async () => {
    const bold = { type: 'text', text: 'quest', marks: [{ type: 'bold' }] };
    const said = (...words: object[]) => ({ type: 'paragraph', content: words });
    const body = {
      type: 'doc',
      content: [
        said({ type: 'text', text: 'Plans a be' }, bold, { type: 'text', text: '.' }),
        said({ type: 'text', text: 'Call in May' }),
      ],
    };
    const draft = { kind: 'call', date: '2026-05-06', body, people: [people[1]] };
    const { body: made } = await test.call('POST', '/notes', { ...draft, supporterId: people[0] });
    const where = [{ part: 'text', test: { is: 'contains', values: ['bequest'] } }] as unknown as View['where'];
    const view = viewOf({ says: { kind: 'part', part: 'text' } }, { rows: 'notes', where });
    const { items } = await ask(view);
    expect(items.map(({ cells, thing }) => [cells[0], thing])).toEqual(
      Array.from({ length: 2 }, () => ['Plans a bequest. Call in May', made['id']]),
    );
    const changed = await test.call('POST', '/notes/acts', { ids: [made['id']], act: { do: 'delete' } });
    expect([changed.status, (await ask(view)).items]).toEqual([200, []]);
  });

  it('says how many match and have no row', async () => {
    expect(await ask(viewOf({ name: NAME }, { rows: 'organization' }))).toMatchObject({ total: 0, without: 9 });
    expect(await ask(viewOf({ name: NAME }, { rows: 'person' }))).toMatchObject({ total: 9, without: 0 });
  });

  it('has one row for everybody who shares a home, with what they gave together', async () => {
    const home = await addPerson(test, {
      kind: 'household',
      organization: 'The Evens',
      first: '',
      last: '',
      emails: [],
    });
    const tags = ['Homed'];
    const [a, b] = [
      await addPerson(test, { householdId: home, tags }),
      await addPerson(test, { householdId: home, tags }),
    ];
    await addPerson(test, { last: 'Alone', first: 'Al', tags });
    for (const id of [a, b]) await addGift(test, id, { cents: 700 });
    const [tag] = await test.sql.rows<{ id: number }>(`SELECT id FROM tag WHERE name = 'Homed'`);
    const view = viewOf({ name: NAME, given: GIVEN }, { rows: 'household' });
    const { items, sums } = await ask(view, { conditions: all(tagged(tag?.id ?? 0)) });
    expect(items.map(({ cells }) => cells)).toEqual([
      ['Al Alone', 0],
      ['The Evens', 1_400],
    ]);
    expect(sums[1]).toBe(1_400);
  });

  it('says of a column that it shows what is no longer there, and goes on without it', async () => {
    const view = viewOf(
      { name: NAME, gone: { kind: 'field', field: 'own:999' } },
      { sorts: [{ column: 'nothing', down: true }], groupBy: 'nothing' },
    );
    const { columns, items, groups } = await ask(view);
    expect(columns[1]).toEqual({ id: 'gone', words: 'No longer there', type: null });
    expect(items).toHaveLength(9);
    expect([items[0]?.cells[1], groups]).toEqual([null, []]);
  });

  it('refuses two columns of one id, and a cursor that it did not give', async () => {
    const view = viewOf({ name: NAME });
    const twice = { ...view, columns: [...view.columns, ...view.columns] };
    expect((await test.call('POST', '/segments/table', { conditions, view: twice, limit: 5 })).status).toBe(400);
    for (const cursor of ['x', Buffer.from('["[]"]').toString('base64url')])
      expect((await test.call('POST', '/segments/table', { conditions, view, limit: 5, cursor })).status).toBe(400);
  });

  it('goes into a file as it stands, with the numbers of its supporters in front', async () => {
    const view = viewOf({ name: NAME, given: GIVEN }, { sorts: [{ column: 'given', down: false }] });
    const file = async (as: string): Promise<Buffer> => {
      const response = await test.call('POST', '/segments/file', { conditions, view, as });
      expect(response.status).toBe(200);
      return response.bytes;
    };
    const lines = (await file('csv')).toString('utf8').trimEnd().split('\r\n');
    expect(lines).toHaveLength(10);
    expect(lines[0]).toBe('\uFEFFNumber,Name,Total given');
    expect(lines.slice(1).map((line) => line.split(',')[2])).toEqual(
      given.toSorted((a, b) => a - b).map((cents) => (cents / 100).toFixed(2)),
    );
    expect(lines[1]?.startsWith(`S-${people[8] ?? 0},`)).toBe(true);
    expect((await file('xlsx')).subarray(0, 2).toString()).toBe('PK');
  });
});

describe('the view of a segment', () => {
  it('is its owner’s, and each may look at it in a way of their own and go back', async () => {
    const view = viewOf({ name: NAME, given: GIVEN });
    const made = await test.call('POST', '/segments', { name: 'Tabled', conditions, view });
    const path = `/segments/${String(made.body['id'])}`;
    const seen = async () => {
      const { body } = await test.call('GET', path);
      return [body['view'], body['ownView']];
    };
    expect(await seen()).toEqual([view, null]);
    const own = viewOf({ given: GIVEN });
    expect((await test.call('PUT', `${path}/view`, { view: own })).body).toEqual({ own: true });
    expect(await seen()).toEqual([view, own]);
    await test.call('PUT', `${path}/view`, { view: null });
    expect(await seen()).toEqual([view, null]);
    expect((await test.call('PUT', '/segments/99999/view', { view: null })).status).toBe(404);
  });

  it('is the first one where none was said, or none can be read', async () => {
    const made = await test.call('POST', '/segments', { name: 'Plain', conditions });
    const id = Number(made.body['id']);
    expect((await test.call('GET', `/segments/${id}`)).body['view']).toEqual(FIRST_VIEW);
    await test.sql.run(`UPDATE segment SET view = '{"rows":"planet"}' WHERE id = ?`, [id]);
    expect((await test.call('GET', `/segments/${id}`)).body['view']).toEqual(FIRST_VIEW);
  });
});
