import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { draftOf } from '@tallystick/contract/supporters';
import type { SupporterDraft } from '@tallystick/contract/supporters';
import { addPerson, openTestApp, recordOf, snapshot, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* Whatever is done to records, undoing it all, last first, gives back every row exactly. */

let test: TestApp;
const people: number[] = [];
let home = 0;
let field = 0;
let group = 0;
beforeAll(async () => {
  test = await openTestApp();
  for (const first of ['Ana', 'Lee', 'Jo', 'Kim'])
    people.push(await addPerson(test, { first, last: 'Farr', tags: ['Old'], addresses: [{ street: '1 Lyra St' }] }));
  const household = { kind: 'household', organization: 'The Farr Home', members: [{ id: people[0] }] };
  home = Number((await test.call('POST', '/supporters', household)).body['id']);
  const made = { about: 'supporter', name: 'Nights', kind: 'number' };
  field = Number((await test.call('POST', '/fields', made, { as: 'admin' })).body['id']);
  group = Number((await test.call('POST', '/groups', { name: 'Hosts' })).body['id']);
});
afterAll(() => test.close());

/** One thing that can be done, with which of the people it is done to. */
type Step = { what: keyof typeof STEPS; who: number; other: number };
const note = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Seen at the dome' }] }] };

const change = async (id: number, over: Partial<SupporterDraft>) => {
  const record = await recordOf(test, id);
  return test.call('PUT', `/supporters/${id}`, { version: record.version, draft: { ...draftOf(record), ...over } });
};
const act = (ids: number[], what: object) =>
  test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids }, act: what });
const kindOf = async (name: string): Promise<number> => {
  const { items } = (await test.call('GET', '/relation-kinds')).body as { items: { id: number; name: string }[] };
  return items.find((kind) => kind.name === name)?.id ?? 0;
};

const STEPS = {
  rename: (id: number, other: number) => change(id, { last: `Quill${other}`, nickname: 'Nan' }),
  address: (id: number) =>
    change(id, { addresses: [{ street: '2 New St', preferred: true }] as SupporterDraft['addresses'] }),
  wish: (id: number) => act([id], { do: 'wish', wish: 'no_mail', put: true }),
  unwish: (id: number) => act([id], { do: 'wish', wish: 'no_mail', put: false }),
  tag: (id: number, other: number) => act([id, other], { do: 'tag', name: 'New', put: true }),
  untag: (id: number, other: number) => act([id, other], { do: 'tag', name: 'Old', put: false }),
  group: (id: number) => act([id], { do: 'group', groupId: group, put: true }),
  field: (id: number, other: number) => act([id, other], { do: 'field', field: `own:${field}`, value: String(other) }),
  moveIn: (id: number) => change(id, { householdId: home }),
  moveOut: (id: number) => change(id, { householdId: null }),
  tie: async (id: number, other: number) =>
    test.call('POST', '/relations', { fromId: id, toId: other, kindId: await kindOf('friend') }),
  note: (id: number, other: number) =>
    test.call('POST', '/notes', { supporterId: id, date: '2026-01-02', body: note, people: [other] }),
  task: (id: number) => test.call('POST', '/tasks', { supporterId: id, title: 'Call', due: '2026-12-01' }),
  trash: (id: number) => act([id], { do: 'trash' }),
  address2: (id: number) => change(id, { addressing: { salutationInformal: 'dear friend' } }),
};

const step: fc.Arbitrary<Step> = fc.record({
  what: fc.constantFrom(...(Object.keys(STEPS) as (keyof typeof STEPS)[])),
  who: fc.nat(3),
  other: fc.nat(3),
});

describe('undoing', () => {
  it('takes any row of things done to records back, exactly', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 7 }), async (steps) => {
        const before = await snapshot(test.sql);
        const done: number[] = [];
        for (const { what, who, other } of steps) {
          const { body } = await STEPS[what](people[who] ?? 0, people[other] ?? 0);
          // What is refused (a tie to oneself, a record in the trash) writes nothing and is not undone.
          if (typeof body['revision'] === 'number') done.push(body['revision']);
        }
        for (const revision of done.reverse()) await test.services.changes.undo(TESTER, revision);
        expect(await snapshot(test.sql)).toEqual(before);
      }),
      { numRuns: 25 },
    );
  }, 120_000);
});

describe('many at once', () => {
  it('eight who move into one home leave it with every one of them and one primary', async () => {
    const made = await test.call('POST', '/supporters', { kind: 'household', organization: 'The Crowded Home' });
    const crowded = Number(made.body['id']);
    const ids = await Promise.all(Array.from({ length: 8 }, () => addPerson(test)));
    const answers = await Promise.all(ids.map((id) => change(id, { householdId: crowded })));
    expect(answers.map((answer) => answer.status)).toEqual(ids.map(() => 200));
    const { members } = await recordOf(test, crowded);
    expect(members.map((member) => member.id).sort()).toEqual([...ids].sort());
    expect(members.filter((member) => member.primary)).toHaveLength(1);
  });

  it('eight who put the same tag on the same people put it on once', async () => {
    const ids = await Promise.all(Array.from({ length: 5 }, () => addPerson(test)));
    const answers = await Promise.all(
      Array.from({ length: 8 }, () => act(ids, { do: 'tag', name: 'Crowd', put: true })),
    );
    const changed = answers.map((answer) => (answer.status === 200 ? Number(answer.body['changed']) : 0));
    expect(changed.reduce((sum, one) => sum + one, 0)).toBe(5);
    for (const id of ids) expect((await recordOf(test, id)).tags.map((tag) => tag.name)).toEqual(['Crowd']);
  });
});
