import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addPerson, openTestApp, recordOf } from './support.ts';
import type { Answer, TestApp } from './support.ts';
import { draftOf } from '@tallystick/contract/supporters';

/* One row of a unique name, as the database compares names, whoever is first. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const tagged = async (id: number, tags: readonly string[]): Promise<Answer> => {
  const record = await recordOf(test, id);
  return test.call('PUT', `/supporters/${id}`, { draft: { ...draftOf(record), tags }, version: record.version });
};
const tagsOf = async (id: number): Promise<string[]> => (await recordOf(test, id)).tags.map((tag) => tag.name);
const errorOf = ({ body }: Answer) => body['error'] as { code: string; message: string };
const undo = ({ body }: Answer): Promise<Answer> => test.call('POST', `/changes/${String(body['revision'])}/undo`, {});

describe('a tag', () => {
  it.each([
    ['Café', 'Cafe'],
    ['Straße', 'Strasse'],
    ['VOLUNTEER', 'volunteer'],
  ])('“%s” and “%s” are one', async (first, second) => {
    const [one, other] = [await addPerson(test), await addPerson(test)];
    expect((await tagged(one, [first])).status).toBe(200);
    expect((await tagged(other, [second])).status).toBe(200);
    expect(await tagsOf(other)).toEqual([first]);
    expect((await tagged(one, [second, first, 'another'])).status).toBe(200);
    expect((await tagsOf(one)).sort()).toEqual([first, 'another'].sort());
  });

  it('that is new is put on by several at the same moment', async () => {
    for (let turn = 0; turn < 10; turn++) {
      const people = [await addPerson(test), await addPerson(test), await addPerson(test)];
      const answers = await Promise.all(people.map((id) => tagged(id, [`moment ${turn}`])));
      expect(answers.map(({ status }) => status)).toEqual([200, 200, 200]);
    }
  });

  it('comes in with a file though one differs in an accent alone', async () => {
    const csv = 'First name,Last name,Tag\nAda,Brought,Crème\nBen,Brought,Creme\n';
    const { body } = await test.call('POST', '/intakes?name=tags.csv', undefined, { raw: Buffer.from(csv) });
    const posted = await test.call('POST', `/intakes/${String(body['id'])}/post`, {});
    expect(await test.jobEnd(Number(posted.body['jobId']))).toMatchObject({ state: 'done' });
    const rows = await test.sql.rows(`SELECT name FROM tag WHERE name = 'creme'`);
    expect(rows).toEqual([{ name: 'Crème' }]);
  });
});

describe('an undo', () => {
  it('that would bring back a name which is taken by now says which', async () => {
    const who = await addPerson(test);
    const group = await test.call('POST', '/groups', { name: 'Friends of the Dome' });
    const deleted = await test.call('DELETE', `/groups/${String(group.body['id'])}?records=0`);
    expect([deleted.status, deleted.text]).toEqual([200, expect.any(String)]);
    expect((await test.call('POST', '/groups', { name: 'FRIENDS of the Dome' })).status).toBe(200);
    const undone = await undo(deleted);
    expect([undone.status, errorOf(undone).code]).toEqual([409, 'name-taken']);
    expect(errorOf(undone).message).toContain('Friends of the Dome');
    expect(await tagsOf(who)).toEqual([]);
  });
});

describe('what names another that is not there', () => {
  it('is refused with the field', async () => {
    const refused = await test.call(
      'PUT',
      '/accounts',
      { items: [{ fundId: 9_999, method: null, debit: '1', credit: '2' }] },
      { as: 'admin' },
    );
    expect([refused.status, errorOf(refused)]).toEqual([
      400,
      expect.objectContaining({ code: 'invalid', fields: { fundId: 'There is no such fund.' } }),
    ]);
  });
});
