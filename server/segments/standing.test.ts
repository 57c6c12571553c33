import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { draftOf } from '@tallystick/contract/supporters';
import { all, anyOf, during, gave, not, rows, tagged, total } from '@tallystick/core/segments';
import type { Group } from '@tallystick/core/segments';
import { addGift, addPerson, openTestApp, recordOf } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import type { Sql } from '../platform/db.ts';
import { StandingTags } from './standing.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const FUND = anyOf('fund', 2);
let names = 0;
/** Saves a segment that keeps a tag; answers its path and the tag. */
async function keeping(conditions: Group, tag = `Kept ${++names}`) {
  const draft = { name: `Segment of ${tag}`, conditions, tag };
  const made = await test.call('POST', '/segments', draft);
  expect([made.status, made.text]).toEqual([200, made.text]);
  const path = `/segments/${String(made.body['id'])}`;
  const change = async (over: object) => {
    const { body } = await test.call('GET', path);
    return test.call('PUT', path, { ...draft, version: body['version'], ...over });
  };
  await keep();
  return { path, tag, change, made };
}
const keep = (): Promise<void> => test.services.standing.keep();
const tagsOf = async (id: number) =>
  Object.fromEntries((await recordOf(test, id)).tags.map(({ name, source }) => [name, source]));
const tagId = async (name: string): Promise<number> =>
  (await test.sql.rows<{ id: number }>('SELECT id FROM tag WHERE name = ?', [name]))[0]?.id ?? 0;

describe('a standing tag', () => {
  it('is put on those who match and taken off who no longer does, as facts change', async () => {
    const [donor, other] = [await addPerson(test), await addPerson(test)];
    const { tag } = await keeping(all(total([FUND], 5_000, 5_000)));
    expect(await tagsOf(donor)).toEqual({});
    const gift = await test.call('POST', '/gifts', { supporterId: donor, cents: 5_000, date: '2026-11-01', fundId: 2 });
    await keep();
    expect([await tagsOf(donor), await tagsOf(other)]).toEqual([{ [tag]: 'segment' }, {}]);
    await test.call('POST', `/changes/${String(gift.body['revision'])}/undo`, {});
    await keep();
    expect(await tagsOf(donor)).toEqual({});
  });

  it('follows by itself soon after a change', async () => {
    const donor = await addPerson(test);
    const { tag } = await keeping(all(total([FUND], 777_00, 777_00)));
    await addGift(test, donor, { cents: 777_00, fundId: 2 });
    for (let tries = 0; !(tag in (await tagsOf(donor))); tries++) {
      expect(tries).toBeLessThan(600);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  });

  it('is taken off by the mere passing of days', async () => {
    const donor = await addPerson(test);
    await addGift(test, donor, { cents: 4_321, date: '2026-11-20', fundId: 2 });
    const recent = all(
      gave(during({ kind: 'last-days', days: 7 }), {
        part: 'cents',
        test: { is: 'between', atLeast: 4_321, atMost: 4_321 },
      }),
    );
    const { tag } = await keeping(recent);
    expect(await tagsOf(donor)).toEqual({ [tag]: 'segment' });
    const { clock } = test.services;
    const today = clock.today.bind(clock);
    clock.today = () => '2026-12-24';
    await keep();
    expect(await tagsOf(donor)).toEqual({});
    clock.today = today;
    await keep();
    expect(await tagsOf(donor)).toEqual({ [tag]: 'segment' });
  });

  it('stays where it was put on by hand, before or since', async () => {
    const [before, since, neither] = [
      await addPerson(test, { tags: ['Both'] }),
      await addPerson(test),
      await addPerson(test),
    ];
    const conditions = all(total([FUND], 9_900, 9_900));
    for (const id of [before, since, neither]) await addGift(test, id, { cents: 9_900, fundId: 2 });
    const checked = await test.call('POST', '/segments/standing-tag', { conditions, tag: 'Both' });
    expect(checked.body).toEqual({ put: 2, take: 0, otherwise: 1 });
    const { change } = await keeping(conditions, 'Both');
    const act = { do: 'tag', name: 'Both', put: true };
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [since] }, act });
    await change({ conditions: all(total([FUND], 1)), tag: '' });
    await keep();
    expect(await Promise.all([before, since, neither].map(tagsOf))).toEqual([{ Both: 'hand' }, { Both: 'hand' }, {}]);
  });

  it('is on those of any segment that keeps it', async () => {
    const [a, b] = [await addPerson(test), await addPerson(test)];
    await addGift(test, a, { cents: 1_111, fundId: 2 });
    await addGift(test, b, { cents: 2_222, fundId: 2 });
    const first = await keeping(all(total([FUND], 1_111, 1_111)), 'Shared');
    await keeping(all(total([FUND], 2_222, 2_222)), 'Shared');
    expect(await Promise.all([a, b].map(tagsOf))).toEqual([{ Shared: 'segment' }, { Shared: 'segment' }]);
    await test.call('DELETE', first.path);
    await keep();
    expect(await Promise.all([a, b].map(tagsOf))).toEqual([{}, { Shared: 'segment' }]);
  });

  it('is put on where the segment is saved while tags are being kept, at whatever step', async () => {
    const { changes, settings, segments } = test.services;
    for (let step = 1; step <= 4; step++) {
      const cents = 616_100 + step;
      const donor = await addPerson(test);
      await addGift(test, donor, { cents, fundId: 2 });
      const draft = { name: `At ${step}`, conditions: all(total([FUND], cents, cents)), tag: `At ${step}` };
      let reads = 0;
      const rows: Sql['rows'] = async (...query) => {
        const read = await test.sql.rows(...query);
        if (++reads === step) await test.call('POST', '/segments', draft);
        return read as never;
      };
      const standing = new StandingTags({ ...test.sql, rows }, changes, settings, segments);
      await standing.keep();
      await standing.keep();
      expect([step, reads > step, await tagsOf(donor)]).toEqual([step, true, { [draft.tag]: 'segment' }]);
    }
  });

  it('comes off everyone when no segment keeps it, and is back with an undo', async () => {
    const donor = await addPerson(test);
    await addGift(test, donor, { cents: 3_333, fundId: 2 });
    const { path, tag } = await keeping(all(total([FUND], 3_333, 3_333)));
    const gone = await test.call('DELETE', path);
    expect(await tagsOf(donor)).toEqual({});
    await test.call('POST', `/changes/${String(gone.body['revision'])}/undo`, {});
    expect(await tagsOf(donor)).toEqual({ [tag]: 'segment' });
  });

  it('is not put on again by what was under way while the last segment let go of it', async () => {
    const donor = await addPerson(test);
    await addGift(test, donor, { cents: 7_531, fundId: 2 });
    for (let round = 0; round < 6; round++) {
      const { path } = await keeping(all(total([FUND], 7_531, 7_531)), 'Raced');
      await addGift(test, donor, { cents: 1 });
      await Promise.all([keep(), test.call('DELETE', path), keep()]);
      await keep();
      expect(await tagsOf(donor)).toEqual({});
    }
  });

  it('leaves an edit of the record that is under way its way, and is not lost by it', async () => {
    const donor = await addPerson(test);
    await addGift(test, donor, { cents: 6_543, fundId: 2 });
    const record = await recordOf(test, donor);
    const { tag } = await keeping(all(total([FUND], 6_543, 6_543)));
    const edit = { draft: { ...draftOf(record), nickname: 'Meanwhile', tags: ['By hand'] }, version: record.version };
    expect((await test.call('PUT', `/supporters/${donor}`, edit)).status).toBe(200);
    expect(await tagsOf(donor)).toEqual({ [tag]: 'segment', 'By hand': 'hand' });
  });

  it('stays on everyone while what is asked cannot be read', async () => {
    const donor = await addPerson(test);
    await addGift(test, donor, { cents: 5_431, fundId: 2 });
    const { path, tag } = await keeping(all(total([FUND], 5_431, 5_431)));
    const odd = JSON.stringify({ kind: 'group', join: 'all', parts: [{ kind: 'of a newer version' }] });
    const id = Number(path.split('/').at(-1));
    const [row] = await test.sql.rows<{ conditions: string }>('SELECT conditions FROM segment WHERE id = ?', [id]);
    await test.sql.run('UPDATE segment SET conditions = ? WHERE id = ?', [odd, id]);
    await addGift(test, donor, { cents: 1 });
    await keep();
    expect(await tagsOf(donor)).toEqual({ [tag]: 'segment' });
    await test.sql.run('UPDATE segment SET conditions = ? WHERE id = ?', [row?.conditions ?? '', id]);
  });

  it('leaves those in the trash as they are', async () => {
    const donor = await addPerson(test);
    await addGift(test, donor, { cents: 8_765, fundId: 2 });
    const { tag } = await keeping(all(total([FUND], 8_765, 8_765)));
    await test.call('DELETE', `/supporters/${donor}`);
    await keep();
    const [row] = await test.sql.rows<{ many: number }>(
      'SELECT COUNT(*) AS many FROM supporter_tag WHERE supporter_id = ? AND tag_id = ?',
      [donor, await tagId(tag)],
    );
    expect(row?.many).toBe(1);
  });

  it('is refused where putting it on would change the answer', async () => {
    await addPerson(test, { tags: ['Self', 'Other'] });
    const [self, other] = [await tagId('Self'), await tagId('Other')];
    const refused = async (conditions: Group, tag = 'Self') =>
      (await test.call('POST', '/segments', { name: 'Circle', conditions, tag })).status;
    expect(await refused(all(not(tagged(self))))).toBe(409);
    expect(await refused(all(rows('tags', [])))).toBe(409);
    const related: Group = all({ kind: 'related', by: 'household', where: [], match: all(tagged(self)) });
    expect(await refused(related)).toBe(409);
    const asks = await test.call('POST', '/segments', { name: 'Asks', conditions: all(tagged(self)), tag: 'Other' });
    expect(asks.status).toBe(200);
    expect(await refused(all({ kind: 'segment', segment: Number(asks.body['id']) }))).toBe(409);
    expect(await refused(all(not(tagged(other))))).toBe(409);
    expect(await refused(all(gave()), 'Self')).toBe(200);
    // What another segment asks may not come to depend on it either.
    const [between] = [await test.call('POST', '/segments', { name: 'Between', conditions: all(gave()) })];
    const path = `/segments/${String(between.body['id'])}`;
    const keeps = all({ kind: 'segment', segment: Number(between.body['id']) });
    expect(await refused(keeps, 'Through')).toBe(200);
    const through = all(not(tagged(await tagId('Through'))));
    const { body } = await test.call('GET', path);
    const changed = await test.call('PUT', path, { name: 'Between', conditions: through, version: body['version'] });
    expect([changed.status, changed.text.includes('Through')]).toEqual([409, true]);
  });

  it('goes round no more than there are tags, however a circle came about', async () => {
    const donor = await addPerson(test);
    await addGift(test, donor, { cents: 1_357, fundId: 2 });
    const { path, tag } = await keeping(all(total([FUND], 1_357, 1_357)));
    const circle = all(total([FUND], 1_357, 1_357), not(tagged(await tagId(tag))));
    const id = Number(path.split('/').at(-1));
    await test.sql.run('UPDATE segment SET conditions = ? WHERE id = ?', [JSON.stringify(circle), id]);
    await addGift(test, donor, { cents: 2 });
    await keep();
    const written = async () =>
      (await test.sql.rows<{ many: number }>(`SELECT COUNT(*) AS many FROM change_set WHERE kind = 'standing'`))[0]
        ?.many;
    const before = await written();
    for (let turn = 0; turn < 5; turn++) await keep();
    expect(await written()).toBe(before);
    await test.call('DELETE', path);
  });

  it('is neither deleted nor merged away while a segment keeps it', async () => {
    const { tag, path } = await keeping(all(total([FUND], 123_456)));
    const id = await tagId(tag);
    const refusal = await test.call('DELETE', `/tags/${id}?records=0`);
    expect([refusal.status, refusal.text.includes(`Segment of ${tag}`)]).toEqual([409, true]);
    expect((await test.call('POST', `/tags/${id}/merge`, { intoId: await tagId('Self') })).status).toBe(409);
    await test.call('DELETE', path);
    expect((await test.call('DELETE', `/tags/${id}?records=0`)).status).toBe(200);
  });
});
