import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { GiftWhole } from '@tallystick/contract/gifts';
import { addGift, addPerson, FakeMailer, openTestApp, recordedOn, recordOf, snapshot } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp({ mailer: new FakeMailer() });
});
afterAll(() => test.close());

const gift = async (id: number) => GiftWhole.parse((await test.call('GET', `/gifts/${id}`)).body);
const correct = async (id: number, body: Record<string, unknown>) =>
  test.call('POST', `/gifts/${id}/corrections`, { version: (await gift(id)).version, reason: 'It was wrong', ...body });
const adjust = async (id: number, over: Record<string, unknown>) => {
  const { supporterId, cents, date, method } = await gift(id);
  const amount = Number(over['cents'] ?? cents);
  return correct(id, {
    kind: 'adjust',
    supporterId,
    cents,
    date,
    method,
    parts: [{ cents: amount, fundId: 1 }],
    ...over,
  });
};
const receipted = async (over: Record<string, unknown> = {}): Promise<number> => {
  const id = await addGift(test, await addPerson(test), over);
  await test.call('POST', '/thanks/issue', { letterId: 1, giftIds: [id] });
  return id;
};
const totals = async (body: Record<string, unknown>) =>
  (await test.call('POST', '/gifts/totals', { window: { kind: 'ever' }, ...body })).body['total'] as {
    cents: number;
    gifts: number;
  };

describe('a correction', () => {
  it('keeps what the gift was and leaves totals right, by donor and by fund', async () => {
    const id = await receipted({ cents: 50_000 });
    const other = await addPerson(test);
    const before = await gift(id);
    const { body } = await adjust(id, { supporterId: other, cents: 30_000, parts: [{ cents: 30_000, fundId: 2 }] });
    expect(body).toMatchObject({ receiptNeeds: 'reissue' });
    const after = await gift(id);
    expect(after).toMatchObject({ supporterId: other, cents: 30_000, fundId: 2, receiptNeeds: 'reissue' });
    expect(after.corrections).toMatchObject([{ kind: 'adjust', reason: 'It was wrong', bookedOn: '2026-11-23' }]);
    const [from, to] = [before.supporterName, after.supporterName];
    expect(after.corrections[0]?.says).toEqual([
      'Adjusted',
      'amount from $500.00 to $300.00',
      `donor from ${from} to ${to}`,
      'it went from General Operating to Telescope Van',
    ]);
    expect((await recordOf(test, before.supporterId)).giving.lifetime).toBe(0);
    expect((await recordOf(test, other)).giving.lifetime).toBe(30_000);
    expect(await totals({ supporterId: other, fundId: 2 })).toMatchObject({ cents: 30_000 });
  });

  it('leaves the note to be changed, and nothing else of what was taken back', async () => {
    const id = await addGift(test, await addPerson(test), { cents: 5_000 });
    await correct(id, { kind: 'refund' });
    const before = await gift(id);
    const noted = await test.call('PUT', `/gifts/${id}/note`, {
      version: before.version,
      note: 'Paid twice by mistake',
    });
    expect([noted.status, await gift(id)]).toMatchObject([
      200,
      { note: 'Paid twice by mistake', state: 'refunded', cents: 0 },
    ]);
    expect((await test.call('PUT', `/gifts/${id}/note`, { version: before.version, note: 'Older' })).status).toBe(409);
    await test.call('POST', `/changes/${String(noted.body['revision'])}/undo`, {});
    expect((await gift(id)).note).toBe(before.note);
  });

  it('leaves every past date as it was known then', async () => {
    const who = await addPerson(test);
    const id = await addGift(test, who, { cents: 50_000, date: '2026-06-01' });
    await recordedOn(test, '2026-06-01');
    const adjusted = await adjust(id, { cents: 20_000 });
    await recordedOn(test, '2026-08-15', Number(adjusted.body['revision']));
    await test.sql.run(`UPDATE correction SET booked_on = '2026-08-15' WHERE gift_id = ?`, [id]);
    const refunded = await correct(id, { kind: 'refund', cents: 5_000 });
    await recordedOn(test, '2026-11-23', Number(refunded.body['revision']));
    for (const [asOf, cents] of [
      ['2026-05-31', 0],
      ['2026-06-01', 50_000],
      ['2026-08-14', 50_000],
      ['2026-08-15', 20_000],
      ['2026-11-22', 20_000],
      ['2026-11-23', 15_000],
    ] as const)
      expect([asOf, (await totals({ supporterId: who, asOf })).cents]).toEqual([asOf, cents]);
    expect((await totals({ supporterId: who })).cents).toBe(15_000);
    const byFund = (
      await test.call('POST', '/gifts/totals', {
        ...{ window: { kind: 'fiscal-year', ago: 1 }, supporterId: who, asOf: '2026-08-14', by: 'fund' },
      })
    ).body['rows'];
    expect(byFund).toMatchObject([{ name: 'General Operating', cents: 50_000, gifts: 1, donors: 1 }]);
  });

  it('refunds in part and in whole, shrinking parts, credits and what it paid', async () => {
    const [who, other] = [await addPerson(test), await addPerson(test)];
    const made = await test.call('POST', '/pledges', {
      ...{ supporterId: who, cents: 10_000, pledgedOn: '2026-10-01', fundId: 1 },
      plan: {
        kind: 'rows',
        rows: [
          { due: '2026-10-15', cents: 4_000 },
          { due: '2026-11-15', cents: 6_000 },
        ],
      },
    });
    const pledgeId = Number(made.body['id']);
    const id = await addGift(test, who, {
      cents: 10_000,
      parts: [
        { cents: 7_500, fundId: 1 },
        { cents: 2_500, fundId: 2 },
      ],
      credits: [{ supporterId: other, kind: 'peer', cents: 10_000 }],
      pays: { pledgeId },
    });
    await correct(id, { kind: 'refund', cents: 8_000 });
    const left = await gift(id);
    expect(left).toMatchObject({ cents: 2_000, state: 'kept', parts: [{ cents: 1_500 }, { cents: 500 }] });
    expect(left.credits).toMatchObject([{ cents: 2_000 }]);
    expect((await test.call('GET', `/pledges/${pledgeId}`)).body).toMatchObject({
      standing: { paid: 2_000, balance: 8_000 },
    });
    await correct(id, { kind: 'refund' });
    expect(await gift(id)).toMatchObject({ cents: 0, state: 'refunded', credits: [] });
    expect((await recordOf(test, who)).giving).toMatchObject({ lifetime: 0, count: 0 });
    expect((await recordOf(test, other)).giving.recognised).toBe(0);
    expect((await correct(id, { kind: 'void' })).body['error']).toMatchObject({ code: 'taken-back' });
  });

  it('notes a check that came back, of checks only', async () => {
    const id = await receipted({ cheque: '88' });
    expect((await correct(id, { kind: 'returned' })).body).toMatchObject({ receiptNeeds: 'void' });
    expect(await gift(id)).toMatchObject({ state: 'returned', cents: 0, receiptNeeds: 'void' });
    const cash = await addGift(test, await addPerson(test), { method: 'cash' });
    expect((await correct(cash, { kind: 'returned' })).status).toBe(400);
  });

  it.each<[string, Record<string, unknown>]>([
    ['more than there is', { kind: 'refund', cents: 2_501 }],
    ['without a reason', { kind: 'void', reason: ' ' }],
    ['nothing that differs', { kind: 'adjust', cents: 2_500 }],
    ['parts that do not add up', { kind: 'adjust', cents: 3_000, parts: [{ cents: 2_999, fundId: 1 }] }],
    ['a date to come', { kind: 'adjust', date: '2027-01-01' }],
  ])('refuses %s, and nothing changes', async (_name, body) => {
    const id = await addGift(test, await addPerson(test));
    const before = await snapshot(test.sql);
    const answer = body['kind'] === 'adjust' ? await adjust(id, body) : await correct(id, body);
    expect(answer.status).toBe(400);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('refuses what was read before another one, and entry clerks', async () => {
    const id = await addGift(test, await addPerson(test));
    const { version } = await gift(id);
    const body = { kind: 'refund', cents: 100, version, reason: 'twice' };
    expect((await test.call('POST', `/gifts/${id}/corrections`, body)).status).toBe(200);
    expect((await test.call('POST', `/gifts/${id}/corrections`, body)).status).toBe(409);
    expect((await test.call('POST', `/gifts/${id}/corrections`, body, { as: 'entry' })).status).toBe(403);
  });

  it('can be undone whole', async () => {
    const [who, other] = [await addPerson(test), await addPerson(test)];
    const id = await addGift(test, who, { credits: [{ supporterId: other, kind: 'peer', cents: 2_500 }] });
    const before = await snapshot(test.sql);
    const { body } = await correct(id, { kind: 'void' });
    expect((await recordOf(test, who)).giving.lifetime).toBe(0);
    await test.call('POST', `/changes/${String(body['revision'])}/undo`, {});
    expect(await snapshot(test.sql)).toEqual(before);
    expect((await recordOf(test, other)).giving.recognised).toBe(2_500);
  });
});

describe('the receipt after a correction', () => {
  it('is voided with its number kept, and the gift is acknowledged anew under the next number', async () => {
    const id = await receipted({ cents: 9_900 });
    const first = await gift(id);
    await adjust(id, { cents: 9_000 });
    const voided = await test.call('POST', `/receipts/${first.receiptId ?? 0}/void`, { reason: 'Amount corrected' });
    expect(voided.body).toMatchObject({ number: first.receiptNumber });
    expect(await gift(id)).toMatchObject({ receiptId: null, acknowledgedOn: null, receiptNeeds: '' });
    expect((await test.call('POST', `/receipts/${first.receiptId ?? 0}/void`, { reason: 'again' })).status).toBe(409);
    await test.call('POST', '/thanks/issue', { letterId: 1, giftIds: [id] });
    const second = await gift(id);
    expect(second.receiptNumber !== null && second.receiptNumber > (first.receiptNumber ?? '')).toBe(true);
    const kept = await test.sql.rows<{ number: string; voided_on: string | null }>(
      'SELECT number, voided_on FROM receipt WHERE gift_id = ? ORDER BY id',
      [id],
    );
    expect(kept).toEqual([
      { number: first.receiptNumber, voided_on: '2026-11-23' },
      { number: second.receiptNumber, voided_on: null },
    ]);
    const pdf = await test.call('GET', `/receipts/${first.receiptId ?? 0}/receipt.pdf`);
    expect(pdf.bytes.subarray(0, 5).toString()).toBe('%PDF-');
  });

  it('is not asked for anew where nothing is left of the gift', async () => {
    const id = await receipted({ cheque: '99' });
    await correct(id, { kind: 'returned' });
    const { receiptId } = await gift(id);
    await test.call('POST', `/receipts/${receiptId ?? 0}/void`, { reason: 'Returned' });
    const waiting = (await test.call('GET', '/thanks?limit=1000')).body['items'] as { id: number }[];
    expect(waiting.some((row) => row.id === id)).toBe(false);
    const issued = await test.call('GET', `/gifts?kind=receipt`);
    expect((issued.body['items'] as { id: number }[]).some((row) => row.id === id)).toBe(false);
  });
});

describe('closed books', () => {
  it('put a gift of a closed month and later corrections into the open period', async () => {
    const who = await addPerson(test);
    const early = await addGift(test, who, { cents: 1_000, date: '2026-09-10' });
    expect((await test.call('PUT', '/ledger/closed', { through: '2026-10-31' }, { as: 'officer' })).status).toBe(403);
    expect((await test.call('PUT', '/ledger/closed', { through: '2026-11-23' }, { as: 'admin' })).status).toBe(400);
    await test.call('PUT', '/ledger/closed', { through: '2026-10-31' }, { as: 'admin' });
    const late = await addGift(test, who, { cents: 2_000, date: '2026-10-05' });
    expect(await gift(late)).toMatchObject({ date: '2026-10-05', bookedOn: '2026-11-23' });
    expect((await gift(early)).settled).toContain('closed through');
    const ledger = async (from: string, to: string) =>
      (await test.call('GET', `/ledger?from=${from}&to=${to}`)).body as { debit: number; credit: number };
    const september = await ledger('2026-09-01', '2026-09-30');
    await adjust(early, { cents: 400 });
    expect(await ledger('2026-09-01', '2026-09-30')).toEqual(september);
    expect((await gift(early)).corrections[0]?.bookedOn).toBe('2026-11-23');
    expect((await totals({ supporterId: who })).cents).toBe(2_400);
    await test.call('PUT', '/ledger/closed', { through: null }, { as: 'admin' });
  });
});
