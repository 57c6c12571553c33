import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { all, anyOf, gave, rows, stateIs } from '@tallystick/core/segments';
import type { Group } from '@tallystick/core/segments';
import { addGift, addPerson, membersOf, openTestApp, readAnew } from '../tests/support.ts';
import type { Answer, TestApp } from '../tests/support.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const paste = (text: string, name = 'Brought by the director'): Promise<Answer> =>
  test.call('POST', `/people-lists?name=${encodeURIComponent(name)}`, undefined, { raw: Buffer.from(text) });
const members = (conditions: Group): Promise<number[]> => membersOf(test, conditions);

describe('a pasted list', () => {
  it('says what became of each line, keeps those left over, and is a condition', async () => {
    const [ana, ben] = [
      await addPerson(test, { first: 'Ana', last: 'Starr', emails: [{ address: 'ana@example.org' }] }),
      await addPerson(test, { first: 'Ben', last: 'Ortiz' }),
    ];
    const made = await paste(`Number\r\nS-${ana}\r\n"${ana}.0"\r\nORTIZ, ben\r\n\r\nnobody@example.org\r\n`);
    expect(made.status).toBe(200);
    expect(made.body).toMatchObject({
      ...{ name: 'Brought by the director', many: 2 },
      report: { lines: 5, doubled: 1, unknown: ['Number', 'nobody@example.org'], ambiguous: [] },
    });
    const list = Number(made.body['id']);
    expect((await test.call('GET', `/people-lists/${list}`)).body).toMatchObject({ report: { unknownTotal: 2 } });
    expect((await test.call('GET', '/people-lists')).body['items']).toMatchObject([{ id: list, many: 2 }]);
    expect(await members(all({ kind: 'people', list }))).toEqual([ana, ben]);
    const counted = await test.call('POST', '/segments/count', { conditions: all({ kind: 'people', list }) });
    expect(counted.body).toMatchObject({ count: 2, sentences: ['is on the list Brought by the director'] });
    expect(await members(all({ kind: 'people', list: 999 }))).toEqual([]);
  });

  it('takes many lines at once, and says where nothing was pasted or it is too much', async () => {
    const id = await addPerson(test);
    const made = await paste(`${Array.from({ length: 300_000 }, (_, at) => `x${at}`).join('\n')}\n${id}`, 'Many');
    expect(made.body).toMatchObject({ many: 1, report: { lines: 300_001, unknownTotal: 300_000 } });
    expect((made.body['report'] as { unknown: string[] }).unknown).toHaveLength(1000);
    expect((await paste(' \n ,; \n')).text).toContain('Nothing was pasted.');
    expect((await test.call('POST', '/people-lists', undefined, { raw: Buffer.from('1') })).status).toBe(400);
  });

  it('is made by those who may add segments', async () => {
    const asked = { as: 'read' as const, raw: Buffer.from('1') };
    expect((await test.call('POST', '/people-lists?name=x', undefined, asked)).status).toBe(403);
  });
});

describe('a frozen segment', () => {
  it('stays as it was, and is compared with what is so now', async () => {
    const [stays, leaves, comes] = [
      await addPerson(test, { addresses: [{ region: 'UT' }] }),
      await addPerson(test, { first: 'Lea', last: 'Gone', addresses: [{ region: 'UT' }] }),
      await addPerson(test, { first: 'New', last: 'Comer', addresses: [{ region: 'AZ' }] }),
    ];
    const conditions = all(stateIs('UT'));
    const frozen = await test.call('POST', '/people-lists/frozen', { name: 'Utah', conditions });
    expect(frozen.body).toMatchObject({ many: 2, name: 'Utah' });
    const list = Number(frozen.body['id']);
    const saved = await test.call('POST', '/segments', { name: 'Utah', conditions });
    for (const [id, region] of [
      [leaves, 'AZ'],
      [comes, 'UT'],
    ] as const)
      await test.sql.run('UPDATE address SET region = ? WHERE supporter_id = ?', [region, id]);
    // Whoever is touched by a change set is read again.
    for (const id of [leaves, comes]) await addGift(test, id, { cents: 100 });
    expect(await members(all({ kind: 'people', list }))).toEqual([stays, leaves]);
    const compared = await test.call('POST', '/people-lists/compare', {
      before: { list },
      after: { segment: saved.body['id'] },
    });
    expect(compared.body).toEqual({
      ...{ before: 2, after: 2 },
      left: { count: 1, people: [{ id: leaves, name: 'Lea Gone' }] },
      came: { count: 1, people: [{ id: comes, name: 'New Comer' }] },
      both: { count: 1, people: [expect.objectContaining({ id: stays })] },
    });
    const nowhere = { before: { list: 999 }, after: { list } };
    expect((await test.call('POST', '/people-lists/compare', nowhere)).status).toBe(404);
  });
});

describe('a segment', () => {
  it('uses others, and none that asks itself', async () => {
    const giver = await addPerson(test, { addresses: [{ region: 'MT' }] });
    await addPerson(test, { addresses: [{ region: 'MT' }] });
    await addGift(test, giver, { cents: 100 });
    const save = async (name: string, conditions: Group): Promise<number> =>
      Number((await test.call('POST', '/segments', { name, conditions })).body['id']);
    const anyAddress = all(rows('addresses', [anyOf('region', 'montana')]));
    expect(await members(anyAddress)).toHaveLength(2);
    const inner = await save('Montana', all(stateIs('mt')));
    const outer = await save('Montana donors', all({ kind: 'segment', segment: inner }, gave()));
    expect(await members(all({ kind: 'segment', segment: outer }))).toEqual([giver]);
    const circle = { name: 'Montana', conditions: all({ kind: 'segment', segment: outer }), version: 1 };
    expect((await test.call('PUT', `/segments/${inner}`, circle)).status).toBe(409);
    expect((await test.call('GET', `/segments/${inner}`)).body).toMatchObject({ count: 2 });
  });

  it('that another uses is not deleted under it', async () => {
    const inner = await test.call('POST', '/segments', { name: 'Used', conditions: all() });
    const conditions = all({ kind: 'segment', segment: Number(inner.body['id']) });
    await test.call('POST', '/segments', { name: 'User of it', conditions });
    const refused = await test.call('DELETE', `/segments/${String(inner.body['id'])}`);
    expect([refused.status, refused.text]).toEqual([409, expect.stringContaining('User of it')]);
  });

  it('of which a part cannot be read still opens, and says so', async () => {
    const made = await test.call('POST', '/segments', { name: 'From later on', conditions: all(stateIs('ZZ')) });
    const path = `/segments/${String(made.body['id'])}`;
    const later = { ...all(stateIs('ZZ')), parts: [stateIs('ZZ'), { kind: 'comet', tail: 3 }] };
    await test.sql.run('UPDATE segment SET conditions = ? WHERE id = ?', [
      JSON.stringify(later),
      made.body['id'] as number,
    ]);
    const { body } = await test.call('GET', path);
    expect(body).toMatchObject({ count: 0, conditions: { parts: [{ field: 'state' }, { field: 'not known' }] } });
    const counted = await test.call('POST', '/segments/count', { conditions: body['conditions'] });
    expect(counted.text).toContain('no longer there');
    await test.sql.run(`UPDATE segment SET conditions = 'no json' WHERE id = ?`, [made.body['id'] as number]);
    expect((await test.call('GET', path)).body).toMatchObject({ count: 0 });
  });

  it('that is not shared is seen by its owner alone', async () => {
    const officers = { as: 'officer' as const };
    const conditions = all();
    const made = await test.call('POST', '/segments', { name: 'My own', conditions, shared: false }, officers);
    const path = `/segments/${String(made.body['id'])}`;
    const names = async (as: 'officer' | 'admin') =>
      ((await test.call('GET', '/segments', undefined, { as })).body['items'] as { name: string }[]).map(
        (one) => one.name,
      );
    expect([await names('officer'), (await test.call('GET', path, undefined, officers)).status]).toEqual([
      expect.arrayContaining(['My own']),
      200,
    ]);
    expect(await names('admin')).not.toContain('My own');
    expect((await test.call('GET', path, undefined, { as: 'admin' })).status).toBe(404);
    expect((await test.call('DELETE', path, undefined, { as: 'admin' })).status).toBe(404);
    const changed = { name: 'Taken', conditions, version: 1 };
    expect((await test.call('PUT', path, changed, { as: 'admin' })).status).toBe(404);
    expect(JSON.stringify((await test.call('GET', '/choices')).body)).not.toContain('My own');
  });

  it('keeps what it counted by the day, a folder, a note, and whose favourite it is', async () => {
    const officers = { as: 'officer' as const };
    const draft = { name: 'Everyone', conditions: all(), folder: 'Giving', note: 'For the year end', credit: 'both' };
    const made = await test.call('POST', '/segments', draft, officers);
    const id = Number(made.body['id']);
    const look = async () => (await test.call('GET', `/segments/${id}`, undefined, officers)).body;
    const { count, ...first } = await look();
    expect(first).toMatchObject({
      folder: 'Giving',
      note: 'For the year end',
      credit: 'both',
      before: null,
      favourite: null,
    });
    await test.sql.run(`UPDATE segment_count SET day = '2026-11-01' WHERE segment_id = ?`, [id]);
    await test.call('PUT', `/segments/${id}/favourite`, { on: true }, officers);
    await addPerson(test);
    expect(await look()).toMatchObject({
      before: { day: '2026-11-01', count },
      count: Number(count) + 1,
      favourite: 1,
    });
    expect((await test.call('GET', `/segments/${id}`, undefined, { as: 'admin' })).body).toMatchObject({
      favourite: null,
    });
    await test.call('PUT', `/segments/${id}/favourite`, { on: false }, officers);
    expect(await look()).toMatchObject({ favourite: null });
  });

  it('says how many in the trash would match', async () => {
    const id = await addPerson(test, { addresses: [{ region: 'ID' }] });
    const conditions = all(stateIs('ID'));
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [id] }, act: { do: 'trash' } });
    await test.services.changes.write({ userId: null, name: 'Tester' }, { kind: 'edit', summary: 'Away' }, (tx) =>
      tx.sql.run(`UPDATE supporter SET state = 'trash' WHERE id = ?`, [id]),
    );
    await readAnew(test);
    const counted = await test.call('POST', '/segments/count', { conditions });
    expect(counted.body).toMatchObject({ count: 0, trashed: 1 });
  });
});
