import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SegmentDefinition } from '@tallystick/contract/segment-definition';
import { all, anyOf, FIRST_VIEW, gave, tagged } from '@tallystick/core/segments';
import { addPerson, membersOf, openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
let [tag, other, donor] = [0, 0, 0];
beforeAll(async () => {
  test = await openTestApp();
  donor = await addPerson(test, { tags: ['Northern', 'Southern'] });
  const tags = await test.sql.rows<{ id: number; name: string }>('SELECT id, name FROM tag');
  [tag, other] = ['Northern', 'Southern'].map((name) => tags.find((one) => one.name === name)?.id ?? 0) as [
    number,
    number,
  ];
});
afterAll(() => test.close());

const saved = async (): Promise<string> => {
  const made = await test.call('POST', '/segments', {
    ...{ name: 'North', note: 'For the north.', folder: 'Places', credit: 'both' },
    conditions: all(tagged(tag), { ...gave(anyOf('fund', 1)), not: true }),
  });
  return `/segments/${String(made.body['id'])}`;
};

describe('the definition of a segment', () => {
  it('is by the published schema, and comes back as it was', async () => {
    const path = await saved();
    const { body, text } = await test.call('GET', `${path}/definition`);
    const definition = SegmentDefinition.parse(body);
    expect(definition.names).toContainEqual({ kind: 'tag', id: String(tag), name: 'Northern' });
    expect(definition.view).toEqual(FIRST_VIEW);
    const read = await test.call('POST', '/segments/read-definition', JSON.parse(text) as object);
    const { name, note, folder, credit, conditions, view } = definition;
    expect(read.body).toEqual({ name, note, folder, credit, conditions, view, missing: [] });
    const schema = (await test.call('GET', '/segment-schema')).body;
    expect(JSON.stringify(schema)).toContain('conditions');
    expect(await membersOf(test, definition.conditions as never)).toEqual([donor]);
  });

  it('finds what it names by its name where the number is another’s here', async () => {
    const { body } = await test.call('GET', `${await saved()}/definition`);
    const foreign = SegmentDefinition.parse(body);
    // There the tag of that name had the number that another has here.
    const text = JSON.stringify(foreign).replaceAll(`"${tag}"`, `"${other}"`);
    const read = await test.call('POST', '/segments/read-definition', JSON.parse(text) as object);
    expect(read.body['missing']).toEqual([]);
    expect(read.body['conditions']).toEqual(foreign.conditions);
  });

  it('says what it names and there is not here, and asks about nothing else in its place', async () => {
    const { body } = await test.call('GET', `${await saved()}/definition`);
    const text = JSON.stringify(body).replaceAll('Northern', 'Nowhere');
    const read = await test.call('POST', '/segments/read-definition', JSON.parse(text) as object);
    expect(read.body['missing']).toEqual(['tag Nowhere']);
    expect(await membersOf(test, read.body['conditions'] as never)).toEqual([]);
  });

  it('is refused where it is none, or asks in a way that is not known', async () => {
    const { body } = await test.call('GET', `${await saved()}/definition`);
    const conditions = { kind: 'group', join: 'all', parts: [{ kind: 'weight' }] };
    for (const odd of [{}, { ...body, version: 2 }, { ...body, is: 'letter' }, { ...body, conditions }])
      expect((await test.call('POST', '/segments/read-definition', odd)).status).toBe(400);
  });
});
