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
const undo = ({ body }: Answer): Promise<Answer> =>
  test.call('POST', `/changes/${String(body['revision'])}/undo`, {}, { as: 'admin' });

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

/** Every other thing whose name is unique: how one is made and deleted, and where its rows are. */
const setting = { search: '', order: [], hidden: [], widths: {} };
interface Named {
  table: string;
  path: string;
  body: (name: string) => object;
  column?: string;
  /** Whoever keeps it under a name that is there changes it. */
  joins?: true;
}
const NAMED: Record<string, Named> = {
  group: { table: 'people_group', path: '/groups', body: (name) => ({ name }) },
  view: { table: 'saved_view', path: '/views', body: (name) => ({ name, list: 'supporters', setting }), joins: true },
  field: { table: 'custom_field', path: '/fields', body: (name) => ({ name, about: 'supporter', kind: 'text' }) },
  fund: { table: 'fund', path: '/gift-codes/funds', body: (code) => ({ code, name: code }), column: 'code' },
  'source code': {
    table: 'source_code',
    path: '/gift-codes/sources',
    body: (code) => ({ code, name: code }),
    column: 'code',
  },
  'kind of tie': {
    ...{ table: 'relation_kind', path: '/relation-kinds' },
    body: (name) => ({ name, back: 'of', from: ['person'], to: ['person'] }),
  },
};

describe.each(Object.entries(NAMED))('a %s', (_word, { table, path, body, column = 'name', joins }) => {
  const make = (name: string): Promise<Answer> => test.call('POST', path, body(name), { as: 'admin' });
  const named = async (name: string): Promise<number> =>
    (await test.sql.rows(`SELECT id FROM ${table} WHERE ${column} = ?`, [name])).length;

  it('is there once though two make it at the same moment, one with an accent', async () => {
    for (let turn = 0; turn < 4; turn++) {
      const answers = await Promise.all([make(`Café ${turn}`), make(`Cafe ${turn}`), make(`CAFE ${turn}`)]);
      expect(answers.map(({ status }) => status).sort()).toEqual(joins ? [200, 200, 200] : [200, 409, 409]);
      for (const refused of answers.filter(({ status }) => status === 409))
        expect(errorOf(refused).message).toMatch(/caf[ée] /i);
      expect(await named(`cafe ${turn}`)).toBe(1);
    }
  });

  it('that was undone and is made anew by another keeps the undo from being undone', async () => {
    const undone = await undo(await make('Again'));
    expect(undone.status).toBe(200);
    expect((await make('AGAIN')).status).toBe(200);
    const redone = await undo(undone);
    expect([redone.status, errorOf(redone).code]).toEqual([409, 'name-taken']);
    expect(await named('again')).toBe(1);
  });
});

describe('a layout of sheets', () => {
  it('of one name is one, whoever keeps it last', async () => {
    const columns = [
      { field: 'wholeName', width: 100 },
      { field: 'amount', width: 100 },
    ];
    const keep = (name: string) => test.call('PUT', '/sheet-layouts', { name, columns });
    const answers = await Promise.all(['Dîner', 'Diner', 'DINER'].map(keep));
    expect(answers.map(({ status }) => status)).toEqual([200, 200, 200]);
    expect(await test.sql.rows(`SELECT id FROM sheet_layout WHERE name = 'diner'`)).toHaveLength(1);
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
