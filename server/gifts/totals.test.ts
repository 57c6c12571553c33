import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { all, anyOf, gave, total } from '@tallystick/core/segments';
import type { RowsCondition } from '@tallystick/core/segments';
import { addGift, addPerson, openTestApp, recordedOn, recordOf } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
let people: number[];
beforeAll(async () => {
  test = await openTestApp();
  people = [await addPerson(test), await addPerson(test), await addPerson(test)];
});
afterAll(() => test.close());

interface Total {
  cents: number;
  gifts: number;
  donors: number;
}
const ask = async (body: Record<string, unknown>) =>
  (await test.call('POST', '/gifts/totals', { window: { kind: 'ever' }, ...body })).body as {
    total: Total;
    rows: (Total & { key: string; name: string })[];
  };
/** What the database says was given to a fund by legal donors, parts of split gifts each to their own. */
const plainly = async (fundId: number | null, from: string, to: string): Promise<number> => {
  const [row] = await test.sql.rows<{ cents: number | null }>(
    `SELECT SUM(COALESCE(x.cents, g.cents)) AS cents FROM gift g LEFT JOIN gift_split x ON x.gift_id = g.id AND g.split = 1
     WHERE g.date BETWEEN ? AND ? AND (? IS NULL OR COALESCE(x.fund_id, g.fund_id) = ?)`,
    [from, to, fundId, fundId],
  );
  return Number(row?.cents ?? 0);
};

describe('totals', () => {
  it('agree with the database after any recording, changing, correcting and undoing', async () => {
    const act = fc.record({
      who: fc.nat(2),
      other: fc.nat(2),
      cents: fc.integer({ min: 2, max: 90_000 }),
      day: fc.integer({ min: 1, max: 28 }),
      month: fc.integer({ min: 1, max: 10 }),
      split: fc.boolean(),
      then: fc.constantFrom('nothing', 'edit', 'refund', 'void', 'undo'),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(act, { minLength: 1, maxLength: 4 }), async (acts) => {
        for (const one of acts) {
          const date = `2026-${String(one.month).padStart(2, '0')}-${String(one.day).padStart(2, '0')}`;
          const half = Math.floor(one.cents / 2);
          const { body } = await test.call('POST', '/gifts', {
            ...{ supporterId: people[one.who], cents: one.cents, date, fundId: 1, method: 'cash' },
            ...(one.split
              ? {
                  parts: [
                    { cents: half, fundId: 2 },
                    { cents: one.cents - half, fundId: 1 },
                  ],
                }
              : {}),
            ...(one.who === one.other
              ? {}
              : { credits: [{ supporterId: people[one.other], kind: 'peer', cents: half }] }),
          });
          const id = Number(body['id']);
          const version = 1;
          if (one.then === 'edit')
            await test.call('PUT', `/gifts/${id}`, {
              ...{ version, supporterId: people[one.other], cents: one.cents + 1, date, fundId: 2, method: 'cash' },
            });
          else if (one.then === 'refund' || one.then === 'void')
            await test.call('POST', `/gifts/${id}/corrections`, {
              ...{ kind: one.then, version, reason: 'Any', ...(one.then === 'refund' ? { cents: half } : {}) },
            });
          else if (one.then === 'undo') await test.call('POST', `/changes/${String(body['revision'])}/undo`, {});
        }
        for (const fundId of [null, 1, 2])
          for (const [from, to] of [
            ['2026-01-01', '2026-12-31'],
            ['2026-03-10', '2026-07-04'],
          ] as const) {
            const { total } = await ask({ fundId, window: { kind: 'between', from, to } });
            expect(total.cents).toBe(await plainly(fundId, from, to));
          }
        const everyone = await ask({});
        const byFund = await ask({ by: 'fund' });
        expect(byFund.rows.reduce((sum, row) => sum + row.cents, 0)).toBe(everyone.total.cents);
        expect((await ask({ credit: 'both' })).total.cents).toBe(everyone.total.cents);
        expect((await ask({ asOf: '2026-11-23' })).total).toEqual(everyone.total);
        const lifetimes = await Promise.all(people.map(async (id) => (await recordOf(test, id)).giving.lifetime));
        expect(lifetimes.reduce((sum, one) => sum + one, 0)).toBe(everyone.total.cents);
      }),
      { numRuns: 12 },
    );
  });

  it('are laid out by method, year and month, with names and averages to be had', async () => {
    const own = await addPerson(test);
    await addGift(test, own, { cents: 1_000, date: '2025-06-30', method: 'card' });
    await addGift(test, own, { cents: 500, date: '2025-07-01', method: 'cash' });
    expect((await ask({ supporterId: own, by: 'year' })).rows).toMatchObject([
      { key: '2025', name: 'FY2025', cents: 1_000 },
      { key: '2026', name: 'FY2026', cents: 500 },
    ]);
    expect((await ask({ supporterId: own, by: 'month' })).rows.map((row) => row.key)).toEqual(['2025-06', '2025-07']);
    expect((await ask({ supporterId: own, by: 'method' })).rows.map((row) => row.name)).toEqual(['Card', 'Cash']);
    expect((await ask({ supporterId: own, method: 'cash' })).total).toEqual({ cents: 500, gifts: 1, donors: 1 });
  });

  it('of a segment count its members, and find supporters by campaign, method and recognition', async () => {
    const [giver, credited] = [await addPerson(test), await addPerson(test)];
    await addGift(test, giver, {
      ...{ cents: 77_700, method: 'bank', campaignId: 1, appealId: 1 },
      credits: [{ supporterId: credited, kind: 'solicitor', cents: 77_700 }],
    });
    const members = async (part: RowsCondition): Promise<number> => {
      const conditions = all(part);
      return Number((await test.call('POST', '/segments/count', { conditions })).body['count']);
    };
    const appeal = anyOf('appeal', 1);
    expect(await members(gave(anyOf('campaign', 1)))).toBe(1);
    expect(await members(gave(appeal, anyOf('method', 'bank')))).toBe(1);
    expect(await members(gave(appeal, anyOf('method', 'card')))).toBe(0);
    const exactly = total([], 77_700, 77_700);
    expect(await members(exactly)).toBe(1);
    expect(await members({ ...exactly, credit: 'recognition' })).toBe(1);
    expect(await members({ ...exactly, credit: 'both' })).toBe(2);
    const made = await test.call('POST', '/segments', {
      name: 'Of the campaign',
      conditions: all(gave(anyOf('campaign', 1))),
    });
    const segmentId = Number(made.body['id']);
    expect((await ask({ segmentId })).total).toMatchObject({ cents: 77_700, donors: 1 });
  });

  it('as known on a day are what was recorded by then: its donor, its amount, nothing that was typed later', async () => {
    const [one, other] = [await addPerson(test), await addPerson(test)];
    const draft = { cents: 10_000, date: '2026-08-01', fundId: 1, method: 'cash' };
    const id = await addGift(test, one, draft);
    await recordedOn(test, '2026-08-03');
    const edited = await test.call('PUT', `/gifts/${id}`, { ...draft, version: 1, supporterId: other, cents: 7_000 });
    await recordedOn(test, '2026-09-10', Number(edited.body['revision']));
    const later = await test.call('POST', '/gifts', { ...draft, supporterId: one, cents: 500 });
    await recordedOn(test, '2026-10-01', Number(later.body['revision']));
    const known = async (supporterId: number, asOf: string) => (await ask({ supporterId, asOf })).total;
    const none = { cents: 0, gifts: 0, donors: 0 };
    for (const [asOf, of, cents] of [
      ['2026-08-02', one, 0],
      ['2026-08-03', one, 10_000],
      ['2026-09-09', other, 0],
      ['2026-09-10', one, 0],
      ['2026-09-10', other, 7_000],
      ['2026-09-30', one, 0],
      ['2026-10-01', one, 500],
      ['2026-11-23', one, 500],
      ['2026-11-23', other, 7_000],
    ] as const)
      expect([asOf, await known(of, asOf)]).toEqual([asOf, cents === 0 ? none : { cents, gifts: 1, donors: 1 }]);
    const undone = await test.call('POST', `/changes/${String(later.body['revision'])}/undo`, {});
    await recordedOn(test, '2026-11-02', Number(undone.body['revision']));
    expect((await known(one, '2026-11-01')).cents).toBe(500);
    expect((await known(one, '2026-11-02')).cents).toBe(0);
  });

  it('of a past day are of legal donors only, and say so', async () => {
    const answer = await test.call('POST', '/gifts/totals', {
      ...{ window: { kind: 'ever' }, asOf: '2026-10-01', credit: 'both' },
    });
    expect([answer.status, (answer.body['error'] as { message: string }).message]).toEqual([
      400,
      expect.stringContaining('legal donors'),
    ]);
  });
});

describe('a supporter who is erased', () => {
  it('leaves gifts, credits and pledges in every total, and no name', async () => {
    const [gone, other] = [await addPerson(test, { first: 'Erased', last: 'Person' }), await addPerson(test)];
    await addGift(test, gone, {
      ...{ cents: 33_300, tribute: { kind: 'honour', name: 'Ada', ofId: other } },
      credits: [{ supporterId: other, kind: 'spouse', cents: 33_300 }],
    });
    await addGift(test, other, { cents: 100, tribute: { kind: 'memory', ofId: gone, notifyId: gone } });
    await test.call('POST', '/pledges', {
      ...{ supporterId: gone, cents: 9_000, pledgedOn: '2026-11-01', fundId: 1 },
      plan: { kind: 'rows', rows: [{ due: '2026-12-01', cents: 9_000 }] },
    });
    const before = await ask({});
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [gone] }, act: { do: 'trash' } });
    const { records } = (await test.call('GET', '/trash', undefined, { as: 'admin' })).body as { records: number };
    expect((await test.call('POST', '/trash/empty', { records }, { as: 'admin' })).status).toBe(200);
    expect((await ask({})).total).toEqual(before.total);
    expect((await recordOf(test, other)).giving.recognised).toBe(33_300);
    const { items } = (await test.call('GET', '/pledges?show=all')).body as { items: { supporterId: number }[] };
    expect(items.some((row) => row.supporterId === gone)).toBe(false);
    const left = await test.sql.rows<{ many: number }>(
      `SELECT COUNT(*) AS many FROM supporter WHERE last = 'Person' OR first = 'Erased'`,
    );
    expect(left[0]?.many).toBe(0);
    expect(await test.sql.rows('SELECT id FROM tribute WHERE of_id = ? OR notify_id = ?', [gone, gone])).toEqual([]);
  });
});
