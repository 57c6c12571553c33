import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Relation } from '@tallystick/contract/relations';
import { addPerson, openTestApp, recordOf, snapshot, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
const kinds = new Map<string, number>();
beforeAll(async () => {
  test = await openTestApp();
  for (const kind of (await test.call('GET', '/relation-kinds')).body['items'] as { id: number; name: string }[])
    kinds.set(kind.name, kind.id);
});
afterAll(() => test.close());

const tie = (fromId: number, kind: string, toId: number, more: object = {}) =>
  test.call('POST', '/relations', { fromId, toId, kindId: kinds.get(kind), ...more });
const ties = async (id: number): Promise<Relation[]> =>
  (await test.call('GET', `/supporters/${id}/relations`)).body['items'] as Relation[];
const firm = async (organization: string): Promise<number> =>
  Number((await test.call('POST', '/supporters', { kind: 'organization', organization })).body['id']);

describe('a tie', () => {
  it('is one thing seen from both ends: named, ended and deleted for both', async () => {
    const [mother, child] = [
      await addPerson(test, { first: 'Mo', last: 'Farr' }),
      await addPerson(test, { first: 'Kim', last: 'Farr' }),
    ];
    const { body } = await tie(mother, 'parent', child, { since: '2001-02-03', note: 'adopted' });
    expect(await ties(mother)).toMatchObject([
      { role: 'child', other: { name: 'Kim Farr' }, first: true, since: '2001-02-03' },
    ]);
    expect(await ties(child)).toMatchObject([
      { role: 'parent', other: { name: 'Mo Farr' }, first: false, note: 'adopted' },
    ]);
    const [seen] = await ties(child);
    await test.call('PUT', `/relations/${seen?.id}`, {
      version: seen?.version,
      since: '2001-02-03',
      until: '2020-01-01',
    });
    expect((await ties(mother))[0]?.until).toBe('2020-01-01');
    expect(
      (await test.call('PUT', `/relations/${seen?.id}`, { version: seen?.version, until: '2021-01-01' })).status,
    ).toBe(409);
    expect(
      (await test.call('PUT', `/relations/${seen?.id}`, { version: 2, since: '2021-01-01', until: '2020-01-01' })).text,
    ).toContain('end before it began');
    const history = (await test.call('GET', `/supporters/${child}/history?about=ties`)).body['items'] as {
      summary: string;
      lines: string[];
    }[];
    expect(history.map((one) => one.summary)).toEqual(['Ended a tie', 'Mo Farr is the parent of Kim Farr']);
    expect(history[1]?.lines).toEqual(['Tie (parent / child) of Mo Farr and Kim Farr added']);
    await test.call('DELETE', `/relations/${String(body['id'])}`);
    expect([await ties(mother), await ties(child)]).toEqual([[], []]);
  });

  it('is refused to oneself, twice, in a circle, and between the wrong kinds', async () => {
    const [a, b, c] = [await addPerson(test), await addPerson(test), await addPerson(test)];
    await tie(a, 'parent', b);
    await tie(b, 'parent', c);
    expect((await tie(a, 'parent', a)).text).toContain('tied to itself');
    expect((await tie(a, 'parent', b)).text).toContain('already');
    expect((await tie(c, 'parent', a)).text).toContain('comes before');
    expect((await tie(await firm('Farr'), 'parent', a)).text).toContain('cannot be a parent');
    expect((await tie(a, 'parent', 4_000_000)).status).toBe(404);
    expect(await ties(a)).toHaveLength(1);
  });

  it('makes an organization addressed by its contact, until that ends', async () => {
    const [office, ruth] = [
      await firm('Cobalt Bakery'),
      await addPerson(test, { prefix: 'Ms.', first: 'Ruth', last: 'Farr' }),
    ];
    await tie(ruth, 'contact', office, { title: 'Owner' });
    expect((await recordOf(test, office)).addressing).toMatchObject({
      addresseeFormal: { text: 'Ms. Ruth Farr, Owner' },
      salutationFormal: { text: 'Ms. Farr' },
    });
    expect((await test.call('GET', '/supporters?q=ruth%20farr')).body['items']).toMatchObject([
      { id: ruth },
      { id: office },
    ]);
    const [seen] = await ties(office);
    await test.call('PUT', `/relations/${seen?.id}`, { version: seen?.version, until: '2026-11-22' });
    expect((await recordOf(test, office)).addressing.addresseeFormal.text).toBe('Cobalt Bakery');
  });

  it('is drawn with what surrounds it, and undone exactly', async () => {
    const [a, b, c] = [await addPerson(test), await addPerson(test), await addPerson(test)];
    const before = await snapshot(test.sql);
    const { body } = await tie(a, 'friend', b);
    await tie(b, 'friend', c);
    const picture = (await test.call('GET', `/supporters/${a}/network`)).body as {
      nodes: { id: number; ring: number }[];
      ties: object[];
    };
    expect(picture.nodes.map((node) => [node.id, node.ring])).toEqual([
      [a, 0],
      [b, 1],
      [c, 2],
    ]);
    expect(picture.ties).toHaveLength(2);
    const [last] = await ties(c);
    await test.call('DELETE', `/relations/${last?.id}`);
    await test.services.changes.undo(TESTER, Number(body['revision']));
    expect(await snapshot(test.sql)).toEqual(before);
  });
});

describe('many ties', () => {
  it('end on a day or are deleted as one change set, whichever end they are seen from', async () => {
    const child = await addPerson(test);
    const begun = ['2020-01-01', null, '2026-06-01', '2010-01-01'];
    const ids: number[] = [];
    for (const since of begun)
      ids.push(Number((await tie(await addPerson(test), 'parent', child, { since })).body['id']));
    const act = (what: object) => test.call('POST', '/relations/acts', { ids: [...ids, ids[0], 999_999], act: what });
    const ends = async () => (await ties(child)).sort((a, b) => a.id - b.id).map(({ until }) => until);
    await test.call('POST', '/relations/acts', { ids: [ids[3]], act: { do: 'end', on: '2015-01-01' } });
    const before = await snapshot(test.sql);
    const ended = await act({ do: 'end', on: '2025-05-05' });
    // One that begins later ends as it begins; one that ended before stays as it was.
    expect([ended.body['changed'], await ends()]).toEqual([
      3,
      ['2025-05-05', '2025-05-05', '2026-06-01', '2015-01-01'],
    ]);
    expect((await act({ do: 'end', on: '2025-05-05' })).body).toMatchObject({ changed: 0 });
    await test.services.changes.undo(TESTER, Number(ended.body['revision']));
    expect(await snapshot(test.sql)).toEqual(before);
    const gone = await act({ do: 'delete' });
    expect([gone.body['changed'], await ties(child)]).toEqual([4, []]);
    await test.services.changes.undo(TESTER, Number(gone.body['revision']));
    expect(await snapshot(test.sql)).toEqual(before);
    expect((await act({ do: 'end', on: '2025-02-30' })).status).toBe(400);
  });
});

describe('kinds of ties', () => {
  it('are added with both words, and deleted only while unused', async () => {
    const made = await test.call('POST', '/relation-kinds', {
      name: 'mentor',
      back: 'pupil',
      from: ['person'],
      to: ['person'],
    });
    kinds.set('mentor', Number(made.body['id']));
    expect((await test.call('POST', '/relation-kinds', { name: 'mentor', back: 'pupil' })).text).toContain('already');
    await tie(await addPerson(test), 'mentor', await addPerson(test));
    expect(
      (await test.call('DELETE', `/relation-kinds/${kinds.get('mentor')}`, undefined, { as: 'admin' })).text,
    ).toContain('1 ties are of the kind');
    const spare = await test.call('POST', '/relation-kinds', { name: 'neighbour', back: 'neighbour' });
    expect(
      (await test.call('DELETE', `/relation-kinds/${String(spare.body['id'])}`, undefined, { as: 'admin' })).status,
    ).toBe(200);
  });
});
