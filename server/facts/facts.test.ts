import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Calendar } from '@tallystick/core/dates';
import { all, between, STANDING, stateIs } from '@tallystick/core/segments';
import { connectFollower, FollowerDb } from '../platform/follower.ts';
import { addGift, addPerson, openTestApp, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { FactsReplica } from './replica.ts';
import type { FactsAnswers } from './replica.ts';
import { PLAIN_LIST } from './listing.ts';
import type { ListQuestion } from './listing.ts';
import { GiftFieldTable } from '../settings/index.ts';
import { GiftTable } from '../gifts/index.ts';
import { SupporterTable } from '../supporters/index.ts';

let test: TestApp;
let db: FollowerDb;
let close: () => void;
const people: number[] = [];
const calendar: Calendar = { today: '2026-11-23', fiscalYearStart: 7 };
const setting = { calendar };

const LIST: ListQuestion = {
  ...{ ...PLAIN_LIST, setting, formats: { locale: 'en-US', currency: 'USD' }, limit: 100, figures: true },
  columns: [STANDING.lifetime],
};

beforeAll(async () => {
  test = await openTestApp();
  for (let index = 0; index < 8; index++) {
    const id = await addPerson(test, {
      addresses: [{ region: index % 2 === 0 ? 'NV' : 'CA' }],
      tags: index % 3 === 0 ? ['Board'] : [],
      wishes: index === 5 ? [{ kind: 'no_email' }, { kind: 'once_a_year' }] : [],
    });
    people.push(id);
    for (let gift = 0; gift < index; gift++)
      await addGift(test, id, { cents: 100 * (gift + 1), date: `2026-0${1 + gift}-15`, fundId: 1 + (gift % 2) });
  }
  const connection = connectFollower(test.databaseUrl);
  db = new FollowerDb(connection);
  close = () => connection.destroy();
});
afterAll(async () => {
  close();
  await test.close();
});

const loaded = async (): Promise<FactsReplica> => {
  const replica = new FactsReplica();
  await replica.load(db);
  return replica;
};
/** Everything that facts answer about the people of this test. */
const answers = (replica: FactsReplica) => ({
  giving: replica.answer({ ask: 'giving', ids: people, calendar }),
  members: replica.answer({ ask: 'members', group: all(), setting }),
  list: replica.answer({ ...LIST, sorts: [{ by: 'household', down: true }] }),
  nevada: replica.answer({ ask: 'count', ...{ group: all(stateIs('NV')), setting } }) as { count: number },
});
const comparable = (replica: FactsReplica) => {
  const { nevada, ...rest } = answers(replica);
  return { ...rest, nevada: nevada.count };
};

describe('the facts', () => {
  it('say the same loaded at once and reloaded supporter by supporter', async () => {
    const whole = await loaded();
    const piecemeal = new FactsReplica();
    for (const id of people) await piecemeal.reload(db, [id]);
    expect(comparable(piecemeal)).toEqual(comparable(whole));
    await whole.reload(db, people);
    expect(comparable(whole)).toEqual(comparable(piecemeal));
  });

  it('follow the custom fields of gifts', async () => {
    const made = await test.call(
      'POST',
      '/fields',
      { about: 'gift', name: 'Envelope', kind: 'number' },
      { as: 'admin' },
    );
    const field = Number(made.body['id']);
    const replica = await loaded();
    const id = people[0] ?? 0;
    const gift = await addGift(test, id, { cents: 100, date: '2019-01-15', fields: { [field]: '12' } });
    await replica.reload(db, [id]);
    const own = [{ id: field, about: 'gift' as const, name: 'Envelope', kind: 'number' as const, choices: [] }];
    const group = all({ kind: 'field', field: `gift-own:${field}`, test: between(12) });
    const question = { ask: 'members', group, setting: { calendar, own } };
    expect(replica.answer(question)).toEqual(Uint32Array.from([id]));
    expect((await loaded()).answer(question)).toEqual(Uint32Array.from([id]));
    const counted = await test.call('POST', '/segments/count', { conditions: question.group });
    expect(counted.body).toMatchObject({ count: 1, sentences: ['envelope of a gift is at least 12'] });
    await test.services.changes.write(TESTER, { kind: 'edit', summary: 'Away' }, async (tx) => {
      const rows = await tx.sql.rows<{ id: number }>('SELECT id FROM gift_field WHERE gift_id = ?', [gift]);
      await tx.removeAll(
        GiftFieldTable,
        rows.map((row) => row.id),
      );
      await tx.removeAll(GiftTable, [gift]);
    });
  });

  it('add giving up by fiscal year', async () => {
    const [giving] = (await loaded()).answer({ ask: 'giving', ids: [people[7] ?? 0], calendar }) as unknown[];
    // Seven gifts of $1 to $7 on the 15th of January to July 2026; the fiscal year turns on 1 July.
    expect(giving).toMatchObject({
      giving: {
        lifetime: 2_800,
        thisYear: 700,
        lastYear: 2_100,
        count: 7,
        largest: 700,
        average: 400,
        first: '2026-01-15',
        last: '2026-07-15',
        bestYear: { year: 2026, cents: 2_100 },
        household: { lifetime: 2_800, thisYear: 700 },
      },
      flags: 0,
    });
  });

  it('know nothing of someone who does not exist', async () => {
    const replica = await loaded();
    expect(replica.answer({ ask: 'giving', ids: [4_000_000], calendar })).toMatchObject([
      { giving: { lifetime: 0, count: 0, first: null, bestYear: null }, flags: 0 },
    ]);
    expect(replica.answer({ ask: 'explain', group: all(), supporterId: 4_000_000, setting })).toBeNull();
  });

  it('follow a gift that moves to another record, on both', async () => {
    const replica = await loaded();
    const [from = 0, to = 0] = [people[7], people[0]];
    const [gift] = await test.sql.rows<{ id: number }>('SELECT id FROM gift WHERE supporter_id = ? AND cents = 700', [
      from,
    ]);
    const { revision } = await test.services.changes.write(TESTER, { kind: 'edit', summary: 'Moved' }, (tx) =>
      tx.update(GiftTable, gift?.id ?? 0, { supporter_id: to }),
    );
    const touched = (
      await test.sql.rows<{ supporter_id: number }>(
        'SELECT supporter_id FROM change_touch WHERE revision = ? ORDER BY supporter_id',
        [revision],
      )
    ).map((row) => row.supporter_id);
    expect(touched).toEqual([to, from].sort((a, b) => a - b));
    await replica.reload(db, touched);
    expect(
      (replica.answer({ ask: 'giving', ids: [to, from], calendar }) as FactsAnswers['giving']).map(
        (one) => one.giving.lifetime,
      ),
    ).toEqual([700, 2_100]);
    expect(comparable(replica)).toEqual(comparable(await loaded()));
    await test.services.changes.undo(TESTER, revision ?? 0);
  });

  it('leave records in the trash out of lists, and their gifts in the records’ own totals', async () => {
    const id = people[6] ?? 0;
    await test.services.changes.write(TESTER, { kind: 'edit', summary: 'Trashed' }, (tx) =>
      tx.update(SupporterTable, id, { state: 'trash' }),
    );
    const replica = await loaded();
    expect([...(replica.answer({ ask: 'members', group: all(), setting }) as Uint32Array)]).not.toContain(id);
    expect(replica.answer({ ask: 'giving', ids: [id], calendar })).toMatchObject([{ giving: { count: 6 } }]);
    await test.services.changes.write(TESTER, { kind: 'edit', summary: 'Restored' }, (tx) =>
      tx.update(SupporterTable, id, { state: 'active' }),
    );
  });

  it('count by kind', async () => {
    await test.call('POST', '/supporters', { kind: 'organization', organization: 'Cruz Bakery' });
    const listed = await Promise.all(
      ['person', 'household', 'organization'].map((kind) => test.call('GET', `/supporters?kind=${kind}`)),
    );
    expect(listed.map((answer) => answer.body['total'])).toEqual([people.length, 0, 1]);
  });

  it('are asked by many at once and answer each its own question', async () => {
    const asked = people.map((id) => test.call('GET', `/supporters/${id}`));
    const lifetimes = (await Promise.all(asked)).map((answer) => (answer.body['giving'] as { count: number }).count);
    expect(lifetimes).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
  });
});
