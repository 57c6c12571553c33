import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { draftOf } from '@tallystick/contract/supporters';
import { addGift, addPerson, openTestApp, recordOf } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* The history of a record, narrowed to what one looks for, and told on every record that a change is about. */

let test: TestApp;
let id: number;
let other: number;
beforeAll(async () => {
  test = await openTestApp();
  id = await addPerson(test, { first: 'Ana', last: 'Cruz' });
  other = await addPerson(test, { first: 'Lee', last: 'Park' });
  await addGift(test, id, { cents: 1_000 });
  const record = await recordOf(test, id);
  const draft = { ...draftOf(record), nickname: 'Nan', wishes: [{ kind: 'no_calls', source: 'a call' }] };
  await test.call('PUT', `/supporters/${id}`, { version: record.version, draft });
  const selection = { kind: 'ids', ids: [id] };
  await test.call(
    'POST',
    '/supporters/acts',
    { selection, act: { do: 'tag', name: 'Van', put: true } },
    { as: 'admin' },
  );
  const kinds = (await test.call('GET', '/relation-kinds')).body['items'] as { id: number; name: string }[];
  await test.call('POST', '/relations', {
    fromId: id,
    toId: other,
    kindId: kinds.find((kind) => kind.name === 'friend')?.id,
  });
  await test.call('POST', '/tasks', { supporterId: id, title: 'Call Ana', due: '2026-12-01' });
});
afterAll(() => test.close());

interface Item {
  summary: string;
  by: string;
  lines: string[];
}
const history = async (who: number, query = ''): Promise<Item[]> =>
  (await test.call('GET', `/supporters/${who}/history?limit=50${query}`)).body['items'] as Item[];

describe('a history', () => {
  it.each([
    ['record', ['Changed Ana Cruz', 'Added Ana Cruz']],
    ['contact', ['Added Ana Cruz']],
    ['gifts', ['Recorded $10.00 from S-10001']],
    ['ties', ['Ana Cruz is the friend of Lee Park', 'Tagged Van: 1 supporter']],
    ['notes', ['Set the task “Call Ana”']],
    ['sent', []],
  ])('about %s', async (about, summaries) =>
    expect((await history(id, `&about=${about}`)).map((item) => item.summary)).toEqual(summaries),
  );

  it('by one person', async () => {
    expect((await history(id, '&by=test%20admin')).map((item) => item.summary)).toEqual(['Tagged Van: 1 supporter']);
    expect(await history(id, '&by=Nobody')).toEqual([]);
    expect((await history(id, '&by=test%20officer&about=ties')).map((item) => item.summary)).toEqual([
      'Ana Cruz is the friend of Lee Park',
    ]);
  });

  it('tells a tie on both records, and nothing else of the one on the other', async () => {
    expect((await history(other)).map((item) => item.summary)).toEqual([
      'Ana Cruz is the friend of Lee Park',
      'Added Lee Park',
    ]);
    expect((await history(other))[0]?.lines).toEqual(['Tie (friend) of Ana Cruz and Lee Park added']);
  });

  it('says of a change each thing that it changed', async () => {
    const [changed] = await history(id, '&about=record');
    expect(changed?.lines).toEqual(['Nickname changed from nothing to Nan', 'Wish “No calls”, a call, added']);
  });

  it('comes in pages that miss and repeat nothing, narrowed or not', async () => {
    for (const narrowed of ['', '&about=record', '&by=test%20officer']) {
      const whole = await history(id, narrowed);
      const paged: Item[] = [];
      let cursor: string | null = '';
      while (cursor !== null) {
        const path: string = `/supporters/${id}/history?limit=2${narrowed}${cursor && `&cursor=${cursor}`}`;
        const { body } = await test.call('GET', path);
        paged.push(...(body['items'] as Item[]));
        cursor = body['next'] as string | null;
      }
      expect(paged).toEqual(whole);
    }
  });

  it('refuses what it does not know', async () =>
    expect((await test.call('GET', `/supporters/${id}/history?about=moon`)).status).toBe(400));
});
