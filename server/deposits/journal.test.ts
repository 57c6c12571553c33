import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addGift, addPerson, openTestApp, snapshot } from '../tests/support.ts';
import type { Answer, TestApp } from '../tests/support.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
  const account = (what: string, debit: string, credit: string) => ({
    what,
    fundId: null,
    method: null,
    debit,
    credit,
  });
  const items = [
    account('gift', 'bank', 'gifts'),
    { ...account('gift', 'securities', ''), method: 'stock' },
    account('pledge', 'receivable', 'promises'),
    account('write_off', 'lost', ''),
    account('sale', 'bank', 'gain'),
    account('fee', 'fees', ''),
  ];
  await test.call('PUT', '/accounts', { items }, { as: 'admin' });
});
afterAll(() => test.close());

type Booked = [day: string, what: string, fund: number, cents: number];
/** What stands in the journal of a pledge or gift, in the order in which it was booked. */
const journal = async (of: 'pledge' | 'gift', id: number): Promise<Booked[]> =>
  (
    await test.sql.rows<{ day: string; what: string; fund: number; cents: number }>(
      `SELECT booked_on AS day, what, fund_id AS fund, cents FROM journal WHERE ${of}_id = ? ORDER BY id`,
      [id],
    )
  ).map((row) => [row.day, row.what, row.fund, row.cents]);
const plan = { kind: 'rows', rows: [{ due: '2026-12-01', cents: 30_000 }] };
const promise = async (
  supporterId: number,
  over: Record<string, unknown> = {},
): Promise<[id: number, made: Answer]> => {
  const made = await test.call('POST', '/pledges', {
    ...{ supporterId, cents: 30_000, pledgedOn: '2026-10-05', fundId: 1, plan, ...over },
  });
  if (made.status !== 200) throw new Error(made.text);
  return [Number(made.body['id']), made];
};
const undo = (answer: Answer) => test.call('POST', `/changes/${String(answer.body['revision'])}/undo`, {});
const change = async (id: number, over: Record<string, unknown>): Promise<Answer> => {
  const { version, pledgedOn, fundId, standing } = (await test.call('GET', `/pledges/${id}`)).body as {
    version: number;
    pledgedOn: string;
    fundId: number;
    standing: { pledged: number };
  };
  return test.call('PUT', `/pledges/${id}`, { version, pledgedOn, fundId, cents: standing.pledged, ...over });
};
const close = (through: string | null) => test.call('PUT', '/ledger/closed', { through }, { as: 'admin' });
const today = '2026-11-23';

describe('a pledge', () => {
  it('is booked when it is promised, raised, moved, paid and written off, each on its day', async () => {
    const who = await addPerson(test);
    const [id] = await promise(who);
    expect(await journal('pledge', id)).toEqual([['2026-10-05', 'pledged', 1, 30_000]]);
    await change(id, { cents: 40_000 });
    await addGift(test, who, { cents: 15_000, date: '2026-11-02', pays: { pledgeId: id } });
    const { version } = (await test.call('GET', `/pledges/${id}`)).body;
    const off = { version, cents: 5_000, date: '2026-11-10', reason: 'Moved away' };
    await test.call('POST', `/pledges/${id}/write-off`, off);
    expect((await journal('pledge', id)).slice(1)).toEqual([
      [today, 'pledged', 1, 10_000],
      ['2026-11-02', 'paid', 1, 15_000],
      ['2026-11-10', 'written_off', 1, 5_000],
    ]);
    await change(id, { fundId: 2 });
    const moved = (await journal('pledge', id)).slice(4).sort((a, b) => a[2] - b[2] || a[3] - b[3]);
    expect(moved).toEqual([
      [today, 'pledged', 1, -40_000],
      [today, 'paid', 1, -15_000],
      [today, 'written_off', 1, -5_000],
      [today, 'written_off', 2, 5_000],
      [today, 'paid', 2, 15_000],
      [today, 'pledged', 2, 40_000],
    ]);
  });

  it('is taken back by a booking of today where it is undone, and booked again by redo', async () => {
    const [id, made] = await promise(await addPerson(test));
    const undone = await undo(made);
    expect(undone.status).toBe(200);
    expect((await journal('pledge', id)).map(([day, , , cents]) => [day, cents])).toEqual([
      ['2026-10-05', 30_000],
      [today, -30_000],
    ]);
    await undo(undone);
    expect((await journal('pledge', id)).reduce((sum, [, , , cents]) => sum + cents, 0)).toBe(30_000);
  });

  it('is booked on another day when its day is another', async () => {
    const [id] = await promise(await addPerson(test));
    const moved = await change(id, { pledgedOn: '2026-10-09' });
    const days = (rows: Booked[]) => rows.map(([day, , , cents]) => [day, cents]);
    expect(days(await journal('pledge', id))).toEqual([
      ['2026-10-05', 30_000],
      ['2026-10-05', -30_000],
      ['2026-10-09', 30_000],
    ]);
    await undo(moved);
    expect(days(await journal('pledge', id)).slice(3)).toEqual([
      ['2026-10-09', -30_000],
      ['2026-10-05', 30_000],
    ]);
  });

  it('counts once it is promised, and no more once it is declined', async () => {
    const [id] = await promise(await addPerson(test), { kind: 'grant', stage: 'asked' });
    expect(await journal('pledge', id)).toEqual([]);
    const stage = async (to: string) =>
      test.call('POST', `/pledges/${id}/stage`, {
        ...{ version: (await test.call('GET', `/pledges/${id}`)).body['version'], stage: to, on: '2026-11-03' },
      });
    await stage('promised');
    await stage('declined');
    expect(await journal('pledge', id)).toEqual([
      ['2026-11-03', 'pledged', 1, 30_000],
      [today, 'pledged', 1, -30_000],
    ]);
  });

  it('has its payment on the day of the gift, also when that day is changed, or part of it is refunded', async () => {
    const who = await addPerson(test);
    const [id] = await promise(who);
    const draft = { supporterId: who, cents: 9_000, date: '2026-11-02', fundId: 1 };
    const gift = await addGift(test, who, { ...draft, pays: { pledgeId: id } });
    const version = async () => (await test.call('GET', `/gifts/${gift}`)).body['version'];
    await test.call('PUT', `/gifts/${gift}`, { ...draft, date: '2026-11-04', version: await version() });
    await test.call('POST', `/gifts/${gift}/corrections`, {
      ...{ kind: 'refund', version: await version(), reason: 'Too much', cents: 2_000 },
    });
    expect((await journal('pledge', id)).slice(1)).toEqual([
      ['2026-11-02', 'paid', 1, 9_000],
      ['2026-11-02', 'paid', 1, -9_000],
      ['2026-11-04', 'paid', 1, 9_000],
      [today, 'paid', 1, -2_000],
    ]);
  });

  it('is booked on the first open day where its own is closed, and nothing there changes any more', async () => {
    const who = await addPerson(test);
    const [before, made] = await promise(who);
    await close('2026-10-31');
    const [after] = await promise(who);
    expect(await journal('pledge', after)).toEqual([[today, 'pledged', 1, 30_000]]);
    const gift = await addGift(test, who, { cents: 1_000, date: '2026-10-20' });
    await test.call('POST', `/gifts/${gift}/pledge`, { pledgeId: before });
    await change(before, { fundId: 2 });
    const late = await undo(made);
    expect(late.status).toBe(409);
    const days = (await journal('pledge', before)).map(([day]) => day);
    expect([days[0], new Set(days.slice(1))]).toEqual(['2026-10-05', new Set([today])]);
    await close(null);
  });

  it('is booked right though two change it at the same moment', async () => {
    const who = await addPerson(test);
    const [id] = await promise(who);
    const gifts = [await addGift(test, who, { cents: 4_000 }), await addGift(test, who, { cents: 5_000 })];
    const put = gifts.map((gift) => test.call('POST', `/gifts/${gift}/pledge`, { pledgeId: id }));
    await Promise.all([...put, change(id, { cents: 50_000 })]);
    const sums = new Map<string, number>();
    for (const [, what, , cents] of await journal('pledge', id)) sums.set(what, (sums.get(what) ?? 0) + cents);
    const { standing } = (await test.call('GET', `/pledges/${id}`)).body as {
      standing: { pledged: number; paid: number };
    };
    expect([sums.get('pledged'), sums.get('paid') ?? 0]).toEqual([standing.pledged, standing.paid]);
  });
});

describe('a gift', () => {
  const shares = { kind: 'stock', symbol: 'LMP', shares: '10', meanPrice: '50' };
  it('of stock is booked when it is sold, with the gain, and once more by the difference', async () => {
    const who = await addPerson(test);
    const draft = { supporterId: who, cents: 50_000, date: '2026-11-02', fundId: 1, method: 'stock', details: shares };
    const id = await addGift(test, who, draft);
    expect(await journal('gift', id)).toEqual([]);
    const sell = async (proceedsCents: number) =>
      test.call('PUT', `/gifts/${id}`, {
        ...{ ...draft, version: (await test.call('GET', `/gifts/${id}`)).body['version'] },
        details: { ...shares, soldOn: '2026-11-06', proceedsCents, feeCents: 500 },
      });
    await sell(51_500);
    const fixed = await sell(52_500);
    expect(await journal('gift', id)).toEqual([
      ['2026-11-06', 'sold', 1, 50_000],
      ['2026-11-06', 'gain', 1, 1_000],
      [today, 'gain', 1, 1_000],
    ]);
    await undo(fixed);
    expect((await journal('gift', id)).at(-1)).toEqual([today, 'gain', 1, -1_000]);
  });

  it('has its fee on its own day, also when that is changed', async () => {
    const draft = { supporterId: await addPerson(test), cents: 10_000, date: '2026-11-02', fundId: 1, method: 'card' };
    const id = await addGift(test, draft.supporterId, { ...draft, feeCents: 320 });
    await test.call('PUT', `/gifts/${id}`, { ...draft, version: 1, date: '2026-11-05', feeCents: 350 });
    const sums = new Map<string, number>();
    for (const [day, , , cents] of await journal('gift', id)) sums.set(day, (sums.get(day) ?? 0) + cents);
    expect([...sums].filter(([, cents]) => cents !== 0).sort()).toEqual([
      ['2026-11-05', 320],
      [today, 30],
    ]);
  });

  it('has its processor fee booked with it, less on the slip, and no more once it is void', async () => {
    const who = await addPerson(test);
    const fee = { method: 'card', cents: 10_000, feeCents: 320 };
    const id = await addGift(test, who, fee);
    expect(await journal('gift', id)).toEqual([['2026-11-01', 'fee', 1, 320]]);
    const refused = await test.call('POST', '/gifts', {
      ...{ supporterId: who, date: '2026-11-01', fundId: 1, ...fee, feeCents: 10_001 },
    });
    expect(refused.status).toBe(400);
    const { version } = (await test.call('GET', `/gifts/${id}`)).body;
    await test.call('POST', `/gifts/${id}/corrections`, { kind: 'void', version, reason: 'Twice' });
    expect((await journal('gift', id)).at(-1)).toEqual([today, 'fee', 1, -320]);
  });
});

describe('the ledger', () => {
  it('has a line for each, and debits equal credits', async () => {
    const who = await addPerson(test);
    const [id] = await promise(who, { pledgedOn: '2026-09-03' });
    await addGift(test, who, { cents: 10_000, date: '2026-09-20', pays: { pledgeId: id } });
    const { body } = await test.call('GET', '/ledger?from=2026-09-01&to=2026-09-30');
    const lines = (body['lines'] as { date: string; account: string; debit: number; credit: number }[]).map(
      ({ date, account, debit, credit }) => [date, account, debit, credit],
    );
    expect(lines).toEqual([
      ['2026-09-03', 'promises', 0, 30_000],
      ['2026-09-03', 'receivable', 30_000, 0],
      ['2026-09-20', 'bank', 10_000, 0],
      ['2026-09-20', 'gifts', 0, 10_000],
      ['2026-09-20', 'promises', 10_000, 0],
      ['2026-09-20', 'receivable', 0, 10_000],
    ]);
    expect(body).toMatchObject({ debit: 50_000, credit: 50_000, notBooked: [] });
  });

  it('leaves out what no account is set for, and says so', async () => {
    const { items } = (await test.call('GET', '/accounts')).body as { items: { what: string }[] };
    const put = (kept: readonly { what: string }[]) => test.call('PUT', '/accounts', { items: kept }, { as: 'admin' });
    await put(items.filter((one) => one.what === 'gift'));
    const { body } = await test.call('GET', '/ledger?from=2026-09-01&to=2026-09-30');
    expect(body).toMatchObject({ debit: 10_000, credit: 10_000, notBooked: ['pledge'] });
    await put(items);
    expect((await test.call('GET', '/accounts')).body['items']).toEqual(items);
  });

  it('is not changed by an undo that nothing follows from', async () => {
    const before = await snapshot(test.sql);
    const rows = async () => (await test.sql.rows('SELECT id FROM journal')).length;
    const had = await rows();
    const [gift] = [
      await test.call('POST', '/gifts', {
        ...{ supporterId: await addPerson(test), cents: 500, date: '2026-11-01', fundId: 1 },
      }),
    ];
    await undo(gift);
    expect(await rows()).toBe(had);
    expect((await snapshot(test.sql))['gift']).toEqual(before['gift']);
  });
});
