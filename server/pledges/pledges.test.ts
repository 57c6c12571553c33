import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Pledge } from '@tallystick/contract/pledges';
import { addGift, addPerson, openTestApp, recordedOn, recordOf, snapshot } from '../tests/support.ts';
import type { Answer, TestApp } from '../tests/support.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const monthly = (start: string, count: number) => ({
  kind: 'count',
  schedule: { start, every: 'month', lastDay: false },
  count,
});
const make = (supporterId: number, over: Record<string, unknown> = {}, key?: string): Promise<Answer> =>
  test.call(
    'POST',
    '/pledges',
    { supporterId, cents: 70_000, pledgedOn: '2026-01-15', fundId: 1, plan: monthly('2026-01-31', 7), ...over },
    key ? { key } : {},
  );
const made = async (supporterId: number, over: Record<string, unknown> = {}): Promise<number> => {
  const answer = await make(supporterId, over);
  if (answer.status !== 200) throw new Error(answer.text);
  return Number(answer.body['id']);
};
const pledge = async (id: number, at = '') =>
  Pledge.parse((await test.call('GET', `/pledges/${id}${at === '' ? '' : `?at=${at}`}`)).body);
const act = async (id: number, what: string, body: Record<string, unknown>): Promise<Answer> =>
  test.call('POST', `/pledges/${id}/${what}`, { version: (await pledge(id)).version, ...body });
const pay = (supporterId: number, pledgeId: number, cents: number, over: Record<string, unknown> = {}) =>
  test.call('POST', '/gifts', {
    ...{ supporterId, cents, date: '2026-11-01', fundId: 1, pays: { pledgeId, ...(over['pays'] as object) } },
    ...(over['date'] ? { date: over['date'] } : {}),
  });

describe('recording a pledge', () => {
  it('lays out installments that fall right over month ends and add up', async () => {
    const id = await made(await addPerson(test), { cents: 10_000 });
    const { installments, number, schedule } = await pledge(id);
    expect([number, schedule]).toEqual([`P-${id}`, 'every month']);
    expect(installments.map((one) => one.due)).toEqual([
      '2026-01-31',
      '2026-02-28',
      '2026-03-31',
      '2026-04-30',
      '2026-05-31',
      '2026-06-30',
      '2026-07-31',
    ]);
    expect(installments.reduce((sum, one) => sum + one.cents, 0)).toBe(10_000);
  });

  it('shows what a plan makes before anything is written', async () => {
    const before = await snapshot(test.sql);
    const { body } = await test.call('POST', '/pledges/preview', { cents: 100, plan: monthly('2026-01-31', 3) });
    expect((body['rows'] as { cents: number }[]).map((row) => row.cents)).toEqual([34, 33, 33]);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it.each<[string, Record<string, unknown>, string]>([
    ['one cent in five', { cents: 1, plan: monthly('2026-01-31', 5) }, 'plan'],
    ['rows that do not add up', { plan: { kind: 'rows', rows: [{ due: '2026-02-01', cents: 5 }] } }, 'plan'],
    ['a closed fund', { fundId: 3 }, 'fundId'],
    ['a supporter who is not', { supporterId: 99_999 }, 'supporterId'],
  ])('refuses %s with the field', async (_name, over, field) => {
    const before = await snapshot(test.sql);
    const answer = await make(await addPerson(test), over);
    expect(answer.status).toBe(400);
    expect((answer.body['error'] as { fields: object }).fields).toHaveProperty(field);
    expect((await snapshot(test.sql))['pledge']).toEqual(before['pledge']);
  });

  it('records once what is sent twice', async () => {
    const who = await addPerson(test);
    const [first, second] = [await make(who, {}, 'pledge twice'), await make(who, {}, 'pledge twice')];
    expect(first.body).toEqual(second.body);
    expect((await test.call('GET', `/pledges?supporterId=${who}`)).body['total']).toBe(1);
  });
});

describe('paying a pledge', () => {
  it('pays the oldest open installment, a part of one, then several', async () => {
    const who = await addPerson(test);
    const id = await made(who);
    await pay(who, id, 4_000, { date: '2026-02-01' });
    await pay(who, id, 20_000, { date: '2026-03-01' });
    await recordedOn(test, '2026-01-15');
    expect((await pledge(id)).installments.map((one) => one.paid)).toEqual([10_000, 10_000, 4_000, 0, 0, 0, 0]);
    expect(await pledge(id, '2026-02-15')).toMatchObject({
      standing: {
        pledged: 70_000,
        paid: 4_000,
        balance: 66_000,
        overdue: 6_000,
        next: { due: '2026-01-31', cents: 6_000 },
      },
    });
    expect((await pledge(id, '2026-02-15')).installments[0]?.state).toBe('overdue');
    expect((await pledge(id, '2026-01-14')).standing).toMatchObject({ pledged: 0, balance: 0 });
  });

  it('pays the installment that was chosen', async () => {
    const who = await addPerson(test);
    const id = await made(who);
    const third = (await pledge(id)).installments[2]?.id ?? 0;
    await pay(who, id, 10_000, { pays: { installments: [third] } });
    expect((await pledge(id)).installments.map((one) => one.paid)).toEqual([0, 0, 10_000, 0, 0, 0, 0]);
    const again = await pay(who, id, 1, { pays: { installments: [third] } });
    expect(again.body['error']).toMatchObject({ code: 'overpayment' });
  });

  it('asks what becomes of more than is open, then keeps it or raises the pledge', async () => {
    const who = await addPerson(test);
    const [kept, raised] = [await made(who), await made(who)];
    const before = await snapshot(test.sql);
    const asked = await pay(who, kept, 75_000);
    expect([asked.status, asked.body['error']]).toEqual([
      409,
      expect.objectContaining({ code: 'overpayment', details: { open: 70_000, over: 5_000, balance: 70_000 } }),
    ]);
    expect(await snapshot(test.sql)).toEqual(before);
    await pay(who, kept, 75_000, { pays: { over: 'beyond' } });
    expect((await pledge(kept)).standing).toMatchObject({ pledged: 70_000, paid: 70_000, balance: 0 });
    await pay(who, raised, 75_000, { pays: { over: 'raise' } });
    expect((await pledge(raised)).standing).toMatchObject({ pledged: 75_000, paid: 75_000, balance: 0 });
    expect((await recordOf(test, who)).giving.lifetime).toBe(150_000);
  });

  it('refuses a payment dated before the pledge', async () => {
    const who = await addPerson(test);
    const id = await made(who);
    const answer = await pay(who, id, 100, { date: '2026-01-14' });
    expect(answer.status).toBe(400);
    expect((answer.body['error'] as { message: string }).message).toContain('before the pledge');
  });

  it('is taken back with the gift by undo', async () => {
    const who = await addPerson(test);
    const id = await made(who);
    const before = await snapshot(test.sql);
    const paid = await pay(who, id, 10_000);
    await test.call('POST', `/changes/${String(paid.body['revision'])}/undo`, {});
    const after = await snapshot(test.sql);
    for (const table of ['gift', 'pledge_payment', 'pledge', 'installment'])
      expect(after[table]).toEqual(before[table]);
  });
});

describe('what becomes of the rest', () => {
  it('is rescheduled, what was paid stays, and it can be undone', async () => {
    const who = await addPerson(test);
    const id = await made(who);
    await pay(who, id, 15_000);
    const before = await snapshot(test.sql);
    const { body } = await act(id, 'reschedule', { plan: monthly('2027-01-31', 2) });
    const after = await pledge(id);
    expect(after.standing).toMatchObject({ pledged: 70_000, paid: 15_000, balance: 55_000, overdue: 0 });
    expect(after.installments.map(({ due, cents, paid }) => [due, cents, paid])).toEqual([
      ['2026-01-31', 10_000, 10_000],
      ['2026-02-28', 5_000, 5_000],
      ['2027-01-31', 27_500, 0],
      ['2027-02-28', 27_500, 0],
    ]);
    await test.call('POST', `/changes/${String(body['revision'])}/undo`, {});
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('stands on a past day as it was recorded by then, whatever is typed or rescheduled later', async () => {
    const who = await addPerson(test);
    const id = await made(who, { cents: 20_000, plan: monthly('2026-02-28', 2) });
    await recordedOn(test, '2026-01-15');
    const paid = await pay(who, id, 5_000, { date: '2026-02-01' });
    await recordedOn(test, '2026-03-05', Number(paid.body['revision']));
    const moved = await act(id, 'reschedule', { plan: monthly('2027-01-31', 1) });
    await recordedOn(test, '2026-04-02', Number(moved.body['revision']));
    const standing = async (at: string) => {
      const { paid, balance, overdue } = (await pledge(id, at)).standing;
      return { paid, balance, overdue };
    };
    expect(await standing('2026-01-14')).toEqual({ paid: 0, balance: 0, overdue: 0 });
    expect(await standing('2026-03-04')).toEqual({ paid: 0, balance: 20_000, overdue: 10_000 });
    expect(await standing('2026-03-05')).toEqual({ paid: 5_000, balance: 15_000, overdue: 5_000 });
    expect(await standing('2026-04-01')).toEqual({ paid: 5_000, balance: 15_000, overdue: 15_000 });
    expect(await standing('2026-04-02')).toEqual({ paid: 5_000, balance: 15_000, overdue: 0 });
    expect((await pledge(id, '2026-01-14')).installments).toEqual([]);
  });

  it('is written off in part from the last installment, then whole, with reason and date', async () => {
    const who = await addPerson(test);
    const id = await made(who);
    expect((await act(id, 'write-off', { date: '2026-10-01', reason: ' ', cents: 100 })).status).toBe(400);
    await act(id, 'write-off', { date: '2026-10-01', reason: 'Moved away', cents: 15_000 });
    expect((await pledge(id)).installments.map((one) => one.writtenOff)).toEqual([0, 0, 0, 0, 0, 5_000, 10_000]);
    await recordedOn(test, '2026-01-15');
    expect((await pledge(id, '2026-09-30')).standing).toMatchObject({ writtenOff: 0, balance: 70_000 });
    const rest = await act(id, 'write-off', { date: '2026-10-02', reason: 'All of it' });
    expect((await pledge(id)).standing).toMatchObject({ writtenOff: 70_000, balance: 0, overdue: 0, next: null });
    expect((await pledge(id)).writeOffs).toHaveLength(8);
    await test.call('POST', `/changes/${String(rest.body['revision'])}/undo`, {});
    expect((await pledge(id)).standing).toMatchObject({ writtenOff: 15_000, balance: 55_000 });
    expect((await act(id, 'write-off', { date: '2026-10-02', reason: 'x', cents: 55_001 })).status).toBe(400);
    expect((await act(id, 'write-off', { date: '2026-01-01', reason: 'x' })).status).toBe(400);
  });

  it('is written off with others at once; those of which nothing is owed are passed over', async () => {
    const who = await addPerson(test);
    const ids = [await made(who), await made(who), await made(who)];
    await act(ids[2] ?? 0, 'write-off', { date: '2026-10-01', reason: 'Settled before' });
    const many = (over: object) =>
      test.call('POST', '/pledges/write-off', { ids, date: '2026-10-05', reason: 'Closed shop', ...over });
    expect((await many({ reason: ' ' })).status).toBe(400);
    expect((await many({ date: '2026-01-01' })).text).toContain('was pledged');
    const off = await many({});
    expect(off.body).toMatchObject({ changed: 2 });
    const open = async () => Promise.all(ids.map(async (id) => (await pledge(id)).standing.balance));
    expect(await open()).toEqual([0, 0, 0]);
    expect((await many({})).body).toMatchObject({ changed: 0, revision: null });
    await test.call('POST', `/changes/${String(off.body['revision'])}/undo`, {});
    expect(await open()).toEqual([70_000, 70_000, 0]);
    expect(
      (await test.call('POST', '/pledges/write-off', { ids, date: '2026-10-05', reason: 'x' }, { as: 'entry' })).status,
    ).toBe(403);
  });

  it('keeps pledged = paid + written off + balance at every date, whatever is done', async () => {
    const who = await addPerson(test);
    const step = fc.oneof(
      fc.record({ do: fc.constant('pay' as const), cents: fc.integer({ min: 1, max: 30_000 }), day: fc.nat(250) }),
      fc.record({ do: fc.constant('off' as const), cents: fc.integer({ min: 1, max: 20_000 }), day: fc.nat(250) }),
      fc.record({ do: fc.constant('plan' as const), count: fc.integer({ min: 1, max: 9 }) }),
    );
    const date = (day: number): string => new Date(Date.UTC(2026, 1, 1 + day)).toISOString().slice(0, 10);
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 6 }), async (steps) => {
        const id = await made(who);
        for (const one of steps)
          if (one.do === 'pay') await pay(who, id, one.cents, { date: date(one.day), pays: { over: 'beyond' } });
          else if (one.do === 'off')
            await act(id, 'write-off', { date: date(one.day), reason: 'Any', cents: one.cents });
          else await act(id, 'reschedule', { plan: monthly('2026-12-31', one.count) });
        await recordedOn(test, '2026-01-15');
        for (const at of ['2026-01-20', '2026-03-31', '2026-07-04', '2026-11-23']) {
          const { standing, installments } = await pledge(id, at);
          expect(standing.paid + standing.writtenOff + standing.balance).toBe(standing.pledged);
          expect(standing.pledged).toBe(70_000);
          expect(installments.every((part) => part.open >= 0)).toBe(true);
        }
      }),
      { numRuns: 12 },
    );
  });
});

describe('a pledge that is changed', () => {
  const change = async (id: number, over: Record<string, unknown>): Promise<Answer> => {
    const { version, pledgedOn, fundId, campaignId, appealId, note, standing } = await pledge(id);
    const as = { version, pledgedOn, fundId, campaignId, appealId, note, cents: standing.pledged };
    return test.call('PUT', `/pledges/${id}`, { ...as, ...over });
  };
  const amounts = async (id: number) => (await pledge(id)).installments.map((one) => one.cents);

  it('is raised on its last open installment, lowered from the last back, and is what it was after undo', async () => {
    const who = await addPerson(test);
    const id = await made(who);
    await pay(who, id, 15_000);
    const before = await snapshot(test.sql);
    const raised = await change(id, { cents: 75_000, note: 'Called in November' });
    expect(raised.status).toBe(200);
    expect(await amounts(id)).toEqual([10_000, 10_000, 10_000, 10_000, 10_000, 10_000, 15_000]);
    const lowered = await change(id, { cents: 17_000 });
    expect(await amounts(id)).toEqual([10_000, 7_000]);
    expect(await pledge(id)).toMatchObject({ note: 'Called in November', standing: { balance: 2_000, paid: 15_000 } });
    const history = (await test.call('GET', '/changes?limit=2')).body['items'] as { summary: string }[];
    expect(history.map((one) => one.summary)).toEqual([
      `Lowered from $750.00 to $170.00: P-${id}`,
      `Raised from $700.00 to $750.00: P-${id}`,
    ]);
    for (const answer of [lowered, raised])
      expect((await test.call('POST', `/changes/${String(answer.body['revision'])}/undo`, {})).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('can be laid out anew with that, and paid up needs one installment more', async () => {
    const who = await addPerson(test);
    const id = await made(who);
    await pay(who, id, 15_000);
    await change(id, { cents: 100_000, plan: monthly('2027-01-31', 2) });
    expect(await amounts(id)).toEqual([10_000, 5_000, 42_500, 42_500]);
    await pay(who, id, 85_000);
    await change(id, { cents: 101_000 });
    expect((await pledge(id)).standing.next).toEqual({ due: '2026-11-23', cents: 1_000 });
  });

  it('is never less than what was paid and written off, nor dated after a payment', async () => {
    const who = await addPerson(test);
    const id = await made(who);
    await pay(who, id, 15_000);
    await act(id, 'write-off', { date: '2026-11-02', reason: 'Some', cents: 5_000 });
    const less = await change(id, { cents: 19_999 });
    expect([less.status, less.text.includes('$200.00')]).toEqual([400, true]);
    expect((await change(id, { cents: 20_000 })).status).toBe(200);
    expect((await change(id, { pledgedOn: '2026-11-02' })).status).toBe(409);
    expect((await change(id, { fundId: 999_999 })).status).toBe(400);
    expect((await test.call('PUT', `/pledges/${id}`, {}, { as: 'entry' })).status).toBe(403);
  });

  it('is changed by one of two who raise it at the same moment', async () => {
    const id = await made(await addPerson(test));
    const both = await Promise.all([change(id, { cents: 80_000 }), change(id, { cents: 90_000 })]);
    expect(both.map((one) => one.status).sort()).toEqual([200, 409]);
  });
});

describe('a gift that was recorded before', () => {
  const put = (gift: number, body: Record<string, unknown>) => test.call('POST', `/gifts/${gift}/pledge`, body);
  const undo = (answer: Answer) => test.call('POST', `/changes/${String(answer.body['revision'])}/undo`, {});

  it('is put to a pledge, taken off it, and each is undone', async () => {
    const who = await addPerson(test);
    const id = await made(who);
    const gift = await addGift(test, who, { cents: 15_000 });
    const before = await snapshot(test.sql);
    const done = await put(gift, { pledgeId: id });
    expect(done.body['cents']).toBe(15_000);
    expect((await pledge(id)).installments.map((one) => one.paid).slice(0, 3)).toEqual([10_000, 5_000, 0]);
    expect((await put(gift, { pledgeId: id })).status).toBe(409);
    const off = await test.call('POST', `/gifts/${gift}/pledge/off`, { pledgeId: id });
    expect([off.body['cents'], (await pledge(id)).standing.paid]).toEqual([15_000, 0]);
    expect((await test.call('POST', `/gifts/${gift}/pledge/off`, { pledgeId: id })).status).toBe(409);
    for (const answer of [off, done]) expect((await undo(answer)).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('asks what becomes of more than is open, and whether it pays another’s pledge', async () => {
    const [who, fund] = [await addPerson(test), await addPerson(test)];
    const id = await made(who, { cents: 10_000, plan: monthly('2026-02-28', 1) });
    const gift = await addGift(test, fund, { cents: 15_000 });
    const code = (answer: Answer) => (answer.body['error'] as { code: string }).code;
    expect(code(await put(gift, { pledgeId: id }))).toBe('other-payer');
    expect(code(await put(gift, { pledgeId: id, byOther: true }))).toBe('overpayment');
    expect((await put(gift, { pledgeId: id, byOther: true, over: 'beyond' })).body['cents']).toBe(10_000);
    const second = await made(fund, { cents: 3_000, plan: monthly('2026-02-28', 1) });
    expect((await put(gift, { pledgeId: second, over: 'raise' })).body['cents']).toBe(5_000);
    expect((await pledge(second)).standing).toMatchObject({ pledged: 5_000, paid: 5_000 });
  });

  it('pays once though two put it to two pledges at the same moment', async () => {
    const who = await addPerson(test);
    const [one, other] = [await made(who), await made(who)];
    const gift = await addGift(test, who, { cents: 10_000 });
    const both = await Promise.all([put(gift, { pledgeId: one }), put(gift, { pledgeId: other })]);
    expect(both.map((answer) => answer.status).sort()).toEqual([200, 409]);
    expect((await pledge(one)).standing.paid + (await pledge(other)).standing.paid).toBe(10_000);
  });

  it('pays nothing once it is void, nor what was promised after it', async () => {
    const who = await addPerson(test);
    const id = await made(who);
    const early = await addGift(test, who, { date: '2026-01-14' });
    expect((await put(early, { pledgeId: id })).status).toBe(400);
    const gift = await addGift(test, who);
    const { version } = (await test.call('GET', `/gifts/${gift}`)).body;
    await test.call('POST', `/gifts/${gift}/corrections`, { kind: 'void', version, reason: 'Twice' });
    expect((await put(gift, { pledgeId: id })).status).toBe(409);
    expect((await put(999_999, { pledgeId: id })).status).toBe(404);
  });
});

describe('lists', () => {
  it('show what is overdue, due and open at a date, with sums, and whom to remind', async () => {
    const own = await openTestApp();
    const who = await addPerson(own);
    const add = async (over: Record<string, unknown>): Promise<number> =>
      Number(
        (
          await own.call('POST', '/pledges', {
            ...{ supporterId: who, cents: 30_000, pledgedOn: '2026-09-01', fundId: 1 },
            ...over,
          })
        ).body['id'],
      );
    const late = await add({ plan: monthly('2026-10-01', 3) });
    const soon = await add({ plan: monthly('2026-12-10', 3), fundId: 2 });
    const asked = await add({ kind: 'grant', stage: 'asked', plan: monthly('2026-10-01', 1) });
    const list = async (query: string) => (await own.call('GET', `/pledges?${query}`)).body;
    const ids = async (query: string) => ((await list(query))['items'] as { id: number }[]).map((row) => row.id);
    expect(await ids('show=overdue')).toEqual([late]);
    expect(await ids('show=due')).toEqual([soon]);
    expect(await ids('show=open')).toEqual([late, soon]);
    expect((await ids('show=all')).sort()).toEqual([late, soon, asked].sort());
    expect(await ids('show=all&fundId=2')).toEqual([soon]);
    expect(await ids('show=all&sort=kind,-next')).toEqual([asked, soon, late]);
    expect(await ids('show=all&sort=-kind,next&limit=2')).toEqual([late, soon]);
    expect(await ids('show=all&sort=paid,-balance,overdue')).toEqual([soon, asked, late]);
    await recordedOn(own, '2026-09-01');
    expect(await ids('show=overdue&at=2026-09-30')).toEqual([]);
    expect(await ids('show=overdue&at=2026-10-02')).toEqual([late]);
    // Nobody had recorded them by then.
    await recordedOn(own, '2026-10-03');
    expect(await ids('show=all&at=2026-10-02')).toEqual([]);
    expect(await list('show=open')).toMatchObject({
      sum: { pledged: 60_000, paid: 0, writtenOff: 0, balance: 60_000, overdue: 20_000 },
    });
    const reminders = (await own.call('GET', '/pledges/reminders?days=30')).body;
    expect(reminders).toMatchObject({
      items: [
        { due: '2026-10-01', daysLate: 53 },
        { due: '2026-11-01', daysLate: 22 },
        { due: '2026-12-01', daysLate: 0 },
        { due: '2026-12-10', daysLate: 0 },
      ],
      sum: { count: 4, cents: 40_000, overdueCents: 20_000 },
    });
    const { pending, timeline } = await recordOf(own, who);
    expect(pending.overdue).toEqual([{ pledgeId: late, number: `P-${late}`, cents: 20_000, since: '2026-10-01' }]);
    expect(timeline.map((notch) => [notch.kind, notch.id])).toEqual([
      ['pledge', late],
      ['pledge', soon],
    ]);
    await own.close();
  });
});

describe('grants and matches', () => {
  it('are applied for, awarded at another amount with reports as tasks, and paid', async () => {
    const funder = await addPerson(test, {
      kind: 'organization',
      organization: 'Lamp Foundation',
      first: '',
      last: '',
    });
    const id = await made(funder, {
      ...{ kind: 'grant', stage: 'asked', appliedOn: '2026-01-15', askedCents: 70_000 },
      reports: [{ due: '2027-03-01', title: 'First report' }],
    });
    expect((await pay(funder, id, 100)).status).toBe(400);
    await act(id, 'stage', { stage: 'promised', on: '2026-05-01', cents: 60_000, plan: monthly('2026-06-30', 2) });
    expect(await pledge(id)).toMatchObject({
      ...{ stage: 'promised', pledgedOn: '2026-05-01', askedCents: 70_000, appliedOn: '2026-01-15' },
      standing: { pledged: 60_000 },
      reports: [{ title: 'First report', due: '2027-03-01', doneOn: null }],
    });
    expect((await recordOf(test, funder)).pending.tasks).toMatchObject([{ title: 'First report' }]);
    await pay(funder, id, 30_000);
    expect((await act(id, 'stage', { stage: 'declined', on: '2026-11-01' })).status).toBe(409);
    expect((await act(id, 'stage', { stage: 'promised', on: '2026-11-01', cents: 50_000 })).status).toBe(409);
  });

  it('count nothing once declined', async () => {
    const funder = await addPerson(test);
    const id = await made(funder, { kind: 'grant', stage: 'asked' });
    await act(id, 'stage', { stage: 'declined', on: '2026-05-01' });
    expect((await test.call('GET', `/pledges?supporterId=${funder}&show=open`)).body['total']).toBe(0);
    expect((await pay(funder, id, 100)).status).toBe(400);
    expect((await recordOf(test, funder)).pending.overdue).toEqual([]);
    expect((await pledge(id)).standing).toMatchObject({ overdue: 0, next: null });
  });

  it('do not go back to asked or declined once part was paid', async () => {
    const funder = await addPerson(test);
    const id = await made(funder, { kind: 'grant' });
    await pay(funder, id, 10_000);
    for (const stage of ['asked', 'declined'])
      expect((await act(id, 'stage', { stage, on: '2026-11-02' })).status).toBe(409);
    expect((await pledge(id)).stage).toBe('promised');
  });

  it('of a gift are linked with it', async () => {
    const [who, employer] = [await addPerson(test), await addPerson(test)];
    const gift = await addGift(test, who, { match: { supporterId: employer, cents: 1_000 } });
    const { body } = await test.call('GET', `/pledges?kind=match&supporterId=${employer}`);
    const [row] = body['items'] as { id: number }[];
    expect((await pledge(row?.id ?? 0)).forGift).toMatchObject({ id: gift, supporterId: who });
  });

  it('of a gift that is void are not waited for, and are again once that is undone', async () => {
    const [who, employer] = [await addPerson(test), await addPerson(test)];
    const gift = await addGift(test, who, { match: { supporterId: employer, cents: 1_000 } });
    const overdue = async (): Promise<number> => (await recordOf(test, employer)).pending.overdue.length;
    expect(await overdue()).toBe(1);
    const { version } = (await test.call('GET', `/gifts/${gift}`)).body;
    const body = { kind: 'void', version, reason: 'Typed twice' };
    const voided = await test.call('POST', `/gifts/${gift}/corrections`, body);
    expect(await overdue()).toBe(0);
    await test.call('POST', `/changes/${String(voided.body['revision'])}/undo`, {});
    expect(await overdue()).toBe(1);
  });

  it.each([
    ['write-off', { date: '2046-11-01', reason: 'x', cents: 100 }],
    ['stage', { stage: 'claimed', on: '2046-11-01' }],
  ])('take no %s of a day to come', async (what, body) => {
    const id = await made(await addPerson(test), { kind: 'grant' });
    expect((await act(id, what, body)).status).toBe(400);
  });

  it('do not go on beyond the years that are kept', async () => {
    const plan = { kind: 'count', schedule: { start: '2150-01-31', every: 'year', lastDay: false }, count: 100 };
    expect((await make(await addPerson(test), { plan })).status).toBe(400);
  });
});

it('is a thing of officers to write off and of clerks to record', async () => {
  const id = await made(await addPerson(test));
  const { version } = await pledge(id);
  const body = { version, date: '2026-11-01', reason: 'x' };
  expect((await test.call('POST', `/pledges/${id}/write-off`, body, { as: 'entry' })).status).toBe(403);
  expect((await test.call('POST', '/pledges', {}, { as: 'read' })).status).toBe(403);
});
