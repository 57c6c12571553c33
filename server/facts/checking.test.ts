import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Checked } from '../platform/follower.ts';
import { addGift, addPerson, openTestApp, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { SupporterTable } from '../supporters/index.ts';
import { FactsThread } from './index.ts';
import { Checking } from './checking.ts';

let test: TestApp;
let facts: FactsThread;
const calendar = { today: '2026-11-23', fiscalYearStart: 7 } as const;
const people: number[] = [];
beforeAll(async () => {
  test = await openTestApp();
  for (let person = 0; person < 6; person++) people.push(await addPerson(test));
  facts = new FactsThread(test.databaseUrl);
});
afterAll(async () => {
  await facts.close();
  await test.close();
});

const lifetimeOf = async (id: number): Promise<number> =>
  (await facts.ask({ ask: 'giving', ids: [id], calendar }))[0]?.giving.lifetime ?? -1;
/** Writes to the database past the history, so that nobody is told. */
const unsaid = (sql: string, id: number) => test.sql.run(sql, [id]);

describe('facts held against the database', () => {
  it('differ in nothing while all that is written is told, and a thread that keeps nothing yet is left alone', async () => {
    expect(await facts.checking.all()).toEqual([]);
    const [donor = 0, other = 0] = people;
    await addGift(test, donor, { cents: 500 });
    expect(await lifetimeOf(donor)).toBe(500);
    await addGift(test, other, { cents: 900 });
    expect(await facts.checking.all()).toEqual([]);
  });

  it('are put right where they differ, and it is said of whom and what', async () => {
    const [donor = 0, renamed = 0, tagged = 0, gone = 0] = people.slice(1);
    const gift = await addGift(test, donor, { cents: 700 });
    const before = await lifetimeOf(donor);
    await unsaid('UPDATE gift SET cents = 800 WHERE id = ?', gift);
    await unsaid(`UPDATE supporter SET first = 'Renamed' WHERE id = ?`, renamed);
    await unsaid(
      `INSERT INTO phone (supporter_id, version, number, label, preferred) VALUES (?, 1, '775-555-0100', 'home', 0)`,
      tagged,
    );
    await unsaid('DELETE FROM email WHERE supporter_id = ?', gone);
    await unsaid('DELETE FROM supporter WHERE id = ?', gone);
    // Nothing says that anything changed.
    expect(await lifetimeOf(donor)).toBe(before);
    const found = await facts.checking.all();
    expect(found.map(({ id, what }) => [id, what.filter((name) => name !== 'sortName')])).toEqual([
      [donor, ['gifts']],
      [renamed, ['first']],
      [tagged, ['phones']],
      [gone, ['flags', 'emails', 'changes']],
    ]);
    expect(await lifetimeOf(donor)).toBe(before + 100);
    expect(await facts.checking.all()).toEqual([]);
  });

  it('say of a gift that pays another’s pledge that it does, also when only its donor is read again', async () => {
    const [payer = 0, pledger = 0] = people;
    const plan = { kind: 'count', schedule: { start: '2026-11-01', every: 'month' }, count: 1 };
    const pledged = await test.call('POST', '/pledges', {
      ...{ supporterId: pledger, cents: 4_000, fundId: 1, plan, pledgedOn: '2026-10-01' },
    });
    const gift = await addGift(test, payer, { cents: 4_000 });
    await lifetimeOf(payer);
    const pledgeId = Number(pledged.body['id']);
    const put = await test.call('POST', `/gifts/${gift}/pledge`, { pledgeId, byOther: true, over: 'beyond' });
    expect(put.status).toBe(200);
    expect(await facts.checking.all()).toEqual([]);
    await test.call('PUT', `/gifts/${gift}/note`, {
      version: Number((await test.call('GET', `/gifts/${gift}`)).body['version']),
      note: 'By another',
    });
    expect(await facts.checking.all()).toEqual([]);
    const off = await test.call('POST', `/gifts/${gift}/pledge/off`, { pledgeId });
    expect(off.status).toBe(200);
    expect(await facts.checking.all()).toEqual([]);
  });

  it('forget of everyone what was undone, also of whom no row is taken back', async () => {
    const [first = 0, second = 0] = people;
    const { revision } = await test.services.changes.write(TESTER, { kind: 'edit', summary: 'Told' }, async (tx) => {
      await tx.update(SupporterTable, first, { nickname: 'Told' });
      tx.touch([second]);
    });
    await lifetimeOf(second);
    await test.services.changes.undo(TESTER, revision ?? 0);
    expect(await facts.checking.all()).toEqual([]);
  });
});

describe('a check that goes round', () => {
  /** A thread of 5 supporters, of whom the fourth differs until it is looked at. */
  function threadOf() {
    const asked: [number, number][] = [];
    let wrong = true;
    return {
      asked,
      isBusy: false,
      check(after: number, many: number): Promise<Checked | null> {
        asked.push([after, many]);
        const upTo = after + 2 >= 5 ? null : after + 2;
        const differs = wrong && after < 4 && (upTo ?? 9) >= 4 ? [{ id: 4, what: ['gifts'] }] : [];
        if (differs.length > 0) wrong = false;
        return Promise.resolve({ upTo, differs });
      },
    };
  }

  it('goes on where it was, begins again at the end, and says what differed once', async () => {
    const thread = threadOf();
    const said: unknown[] = [];
    const checking = new Checking([thread], (differing) => said.push(differing));
    for (let turn = 0; turn < 4; turn++) await checking.turn();
    expect(thread.asked.map(([after]) => after)).toEqual([0, 2, 4, 0]);
    expect(said).toEqual([[{ id: 4, what: ['gifts'] }]]);
    checking.close();
  });

  it('waits while somebody is answered, and takes up again after a failure', async () => {
    const thread = threadOf();
    const checking = new Checking([thread], () => undefined);
    thread.isBusy = true;
    await checking.turn();
    expect(thread.asked).toEqual([]);
    thread.isBusy = false;
    const { check } = thread;
    thread.check = () => Promise.reject(new Error('The thread ended.'));
    await checking.turn();
    thread.check = check;
    await checking.turn();
    await checking.turn();
    expect(thread.asked.map(([after]) => after)).toEqual([0, 2]);
  });
});
