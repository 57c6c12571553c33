import { parse } from 'csv-parse/sync';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Batch, Deposit as MadeDeposit } from '@tallystick/contract/deposits';
import { addGift, addPerson, openTestApp, snapshot } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const batches = async (state = 'waiting'): Promise<Batch[]> =>
  (await test.call('GET', `/batches?state=${state}`)).body['items'] as Batch[];
const balanceAll = async (): Promise<void> => {
  for (const { id, version } of await batches('open')) await test.call('POST', `/batches/${id}/balance`, { version });
};
/** A gift alone in a balanced batch. */
const balancedGift = async (over: Record<string, unknown> = {}) => {
  await balanceAll();
  const { body } = await test.call('POST', '/gifts', {
    ...{ supporterId: await addPerson(test), cents: 4_000, date: '2026-11-01', fundId: 1, method: 'cheque', ...over },
  });
  await balance();
  const id = Number(body['id']);
  return { id, recorded: String(body['revision']), batchId: await batchOf(id) };
};
const batchOf = async (giftId: number): Promise<number> =>
  Number((await test.call('GET', `/gifts/${giftId}`)).body['batchId']);
const deposit = (batchIds: readonly number[], name = 'Monday') =>
  test.call('POST', '/deposits', { name, date: '2026-11-23', batchIds });
const deposits = async (): Promise<MadeDeposit[]> =>
  (await test.call('GET', '/deposits')).body['items'] as MadeDeposit[];
const correct = async (id: number, kind: string, over: Record<string, unknown> = {}) => {
  const { version } = (await test.call('GET', `/gifts/${id}`)).body;
  return test.call('POST', `/gifts/${id}/corrections`, { kind, version, reason: 'It was wrong', ...over });
};
const undo = (answer: { body: Record<string, unknown> } | string) =>
  test.call('POST', `/changes/${typeof answer === 'string' ? answer : String(answer.body['revision'])}/undo`, {});
const openBatch = async (): Promise<Batch> => {
  const found = (await batches()).find((batch) => batch.state === 'open');
  if (!found) throw new Error('There is no open batch.');
  return found;
};
const balance = async (body: Record<string, unknown> = {}) => {
  const batch = await openBatch();
  return test.call('POST', `/batches/${batch.id}/balance`, { version: batch.version, ...body });
};

describe('batches', () => {
  it('take in the gifts of a day by hand, and a new one begins once one is balanced', async () => {
    const who = await addPerson(test);
    await addGift(test, who, { cents: 1_000, method: 'cash' });
    await addGift(test, who, { cents: 2_000, cheque: '7' });
    const first = await openBatch();
    expect(first).toMatchObject({
      ...{ source: 'hand', openedOn: '2026-11-23', count: 2, cents: 3_000 },
      byMethod: [
        { method: 'cash', count: 1, cents: 1_000 },
        { method: 'cheque', count: 1, cents: 2_000 },
      ],
    });
    expect((await balance({ expectedCount: 2, expectedCents: 3_000 })).status).toBe(200);
    await addGift(test, who, { cents: 500 });
    expect((await openBatch()).id).not.toBe(first.id);
  });

  it('need a reason where they differ, and can be opened again', async () => {
    const refused = await balance({ expectedCount: 9, expectedCents: 1 });
    expect(refused.body['error']).toMatchObject({ code: 'not-balanced', details: { count: -8, cents: 499 } });
    await balance({ expectedCount: 9, reason: 'Counted wrong' });
    const [batch] = (await batches()).filter((one) => one.reason === 'Counted wrong');
    await test.call('POST', `/batches/${batch?.id ?? 0}/balance`, { version: batch?.version ?? 0, open: true });
    expect((await openBatch()).id).toBe(batch?.id);
    await balance({});
  });

  it('give a gift to another batch, or a new one, until it is deposited; undo puts it back', async () => {
    const { id, batchId } = await balancedGift();
    const other = await balancedGift();
    const move = async (to: number | null, name = '') => {
      const { version } = (await test.call('GET', `/gifts/${id}`)).body;
      return test.call('POST', `/gifts/${id}/batch`, { version, batchId: to, name });
    };
    const moved = await move(other.batchId);
    expect([moved.status, await batchOf(id)]).toEqual([200, other.batchId]);
    expect((await batches()).find((batch) => batch.id === other.batchId)).toMatchObject({ count: 2, changed: true });
    // Nothing is in the one that it was in.
    expect((await batches()).map((batch) => batch.id)).not.toContain(batchId);
    expect((await deposit([other.batchId])).status).toBe(409);
    await undo(moved);
    expect(await batchOf(id)).toBe(batchId);
    expect((await move(null)).status).toBe(400);
    const fresh = Number((await move(null, 'Foreign checks')).body['batchId']);
    expect((await batches()).find((batch) => batch.id === fresh)).toMatchObject({ name: 'Foreign checks', count: 1 });
    expect((await deposit([other.batchId])).status).toBe(200);
    expect((await move(other.batchId)).status).toBe(409);
    expect((await move(999_999)).status).toBe(404);
    await balance();
    expect((await deposit([fresh])).status).toBe(200);
    expect((await move(batchId)).status).toBe(409);
  });

  it('are not taken from one another by a move and a deposit at the same moment', async () => {
    const one = await balancedGift();
    const other = await balancedGift();
    const { version } = (await test.call('GET', `/gifts/${one.id}`)).body;
    const [moved, made] = await Promise.all([
      test.call('POST', `/gifts/${one.id}/batch`, { version, batchId: other.batchId }),
      deposit([other.batchId]),
    ]);
    expect([moved.status, made.status].sort()).toEqual([200, 409]);
    // Either may be first; the other batches stay as they were.
    await undo(moved.status === 200 ? moved : made);
  });

  it('take in what an intake brings, in a batch of its own', async () => {
    const csv =
      'First name,Last name,Email,Amount,Date,Transaction ID\nAna,Intake,ana@example.org,25.00,2026-11-01,t-1\n';
    const { body } = await test.call('POST', '/intakes?name=a.csv', undefined, { raw: Buffer.from(csv) });
    const posted = await test.call('POST', `/intakes/${String(body['id'])}/post`, {});
    expect(await test.jobEnd(Number(posted.body['jobId']))).toMatchObject({ state: 'done' });
    expect((await batches()).find((batch) => batch.source === 'intake')).toMatchObject({ count: 1, cents: 2_500 });
  });

  it('stay with the gifts that came later when the gift that began one is undone', async () => {
    const who = await addPerson(test);
    const record = () =>
      test.call('POST', '/gifts', { supporterId: who, cents: 900, date: '2026-11-02', fundId: 1, method: 'other' });
    await balanceAll();
    const before = await snapshot(test.sql);
    const [first, second] = [await record(), await record()];
    const { id } = await openBatch();
    expect((await undo(first)).status).toBe(200);
    expect(await openBatch()).toMatchObject({ id, count: 1, cents: 900 });
    const undone = await undo(second);
    expect(undone.status).toBe(200);
    expect(await batches('open')).toEqual([]);
    expect((await snapshot(test.sql))['gift']).toEqual(before['gift']);
    await undo(undone);
    expect(await openBatch()).toMatchObject({ id, count: 1, cents: 900 });
  });
});

describe('a deposit', () => {
  it('gathers balanced batches once, has a slip, and is taken back by undo', async () => {
    const ready = (await batches()).filter((batch) => batch.state === 'balanced');
    expect(ready.length).toBeGreaterThan(1);
    const before = await snapshot(test.sql);
    const body = { name: 'Monday', date: '2026-11-23', batchIds: ready.map((batch) => batch.id) };
    const made = await test.call('POST', '/deposits', body);
    expect(made.status).toBe(200);
    expect((await test.call('POST', '/deposits', body)).body['error']).toMatchObject({ code: 'not-balanced' });
    const [deposit] = (await test.call('GET', '/deposits')).body['items'] as Record<string, unknown>[];
    const cents = ready.reduce((sum, batch) => sum + batch.cents, 0);
    expect(deposit).toMatchObject({ name: 'Monday', cents, count: ready.reduce((sum, batch) => sum + batch.count, 0) });
    const slip = await test.call('GET', `/deposits/${String(deposit?.['id'])}/slip.pdf`);
    expect([slip.headers.get('content-type'), slip.bytes.subarray(0, 5).toString()]).toEqual([
      'application/pdf',
      '%PDF-',
    ]);
    const [posted] = await batches('posted');
    const answer = await test.call('POST', `/batches/${posted?.id ?? 0}/balance`, { version: posted?.version ?? 0 });
    expect(answer.body['error']).toMatchObject({ code: 'posted' });
    await test.call('POST', `/changes/${String(made.body['revision'])}/undo`, {});
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('keeps what came in that day, though a gift is corrected later, and that can be undone', async () => {
    const { id, batchId } = await balancedGift({ cheque: '91' });
    await deposit([batchId], 'Kept');
    const returned = await correct(id, 'returned');
    expect((await deposits())[0]).toMatchObject({ name: 'Kept', count: 1, cents: 4_000 });
    expect((await undo(returned)).status).toBe(200);
    expect((await deposits())[0]).toMatchObject({ count: 1, cents: 4_000 });
  });

  it('does not take in what was taken back before it, and asks to balance such a batch again', async () => {
    const id = await addGift(test, await addPerson(test), { cents: 4_000, cheque: '92' });
    await addGift(test, await addPerson(test), { cents: 700, method: 'cash' });
    const batchId = await batchOf(id);
    await balance();
    await correct(id, 'void');
    const changed = (await batches()).find((batch) => batch.id === batchId);
    expect(changed).toMatchObject({ state: 'balanced', changed: true, count: 1, cents: 700 });
    expect((await deposit([batchId])).body['error']).toMatchObject({ code: 'changed-since' });
    await test.call('POST', `/batches/${batchId}/balance`, { version: changed?.version });
    expect((await deposit([batchId], 'Without')).status).toBe(200);
    expect((await deposits())[0]).toMatchObject({ name: 'Without', count: 1, cents: 700 });
  });

  it('is not for stock and goods: they are listed, and do not go to the bank', async () => {
    const { batchId } = await balancedGift({
      ...{ cents: 618_750, method: 'stock' },
      details: { kind: 'stock', symbol: 'LMPS', shares: '150', meanPrice: '41.25' },
    });
    const money = await balancedGift({ method: 'cash', cents: 1_234 });
    await deposit([batchId, money.batchId], 'Mixed');
    expect((await deposits())[0]).toMatchObject({ name: 'Mixed', cents: 619_984, bankCents: 1_234 });
  });

  it('holds its gifts: neither recording nor changing one of them can be undone any more', async () => {
    const { id, recorded, batchId } = await balancedGift();
    const whole = (await test.call('GET', `/gifts/${id}`)).body;
    const changed = await test.call('PUT', `/gifts/${id}`, { ...whole, parts: [], tribute: null, fundId: 2 });
    expect(changed.status).toBe(200);
    const plain = await balancedGift();
    const made = await deposit([batchId, plain.batchId]);
    for (const [revision, code] of [
      [changed, 'deposited'],
      [plain.recorded, 'deposited'],
      // What was done to it later is undone first, if anything is.
      [recorded, 'undo-blocked'],
    ] as const) {
      const refused = await undo(revision);
      expect([refused.status, (refused.body['error'] as { code: string }).code]).toEqual([409, code]);
    }
    for (const revision of [made, changed, recorded]) expect((await undo(revision)).status).toBe(200);
    expect((await test.call('GET', `/gifts/${id}`)).status).toBe(404);
    expect((await batches()).map((batch) => batch.id)).not.toContain(batchId);
  });

  it('takes no gift in again that was undone before it was made', async () => {
    await balanceAll();
    const who = await addPerson(test);
    const record = (cents: number) =>
      test.call('POST', '/gifts', { supporterId: who, cents, date: '2026-11-02', fundId: 1, method: 'cash' });
    const [kept, gone] = [await record(300), await record(400)];
    const undone = await undo(gone);
    await balance();
    await deposit([await batchOf(Number(kept.body['id']))], 'Once');
    const again = await undo(undone);
    expect([again.status, (again.body['error'] as { code: string }).code]).toEqual([409, 'deposited']);
    expect((await deposits())[0]).toMatchObject({ name: 'Once', count: 1, cents: 300 });
  });

  it('holds what an intake brought, too', async () => {
    const csv =
      'First name,Last name,Email,Amount,Date,Transaction ID\nBo,Intake,bo@example.org,26.00,2026-11-01,t-2\n';
    const { body } = await test.call('POST', '/intakes?name=b.csv', undefined, { raw: Buffer.from(csv) });
    const posted = await test.call('POST', `/intakes/${String(body['id'])}/post`, {});
    await test.jobEnd(Number(posted.body['jobId']));
    const sets = (await test.call('GET', '/changes?limit=5')).body['items'] as { revision: number; kind: string }[];
    const revision = String(sets.find((set) => set.kind === 'intake')?.revision);
    await balanceAll();
    const batch = (await batches()).find((one) => one.name === 'b.csv');
    const made = await deposit([batch?.id ?? 0], 'Intake');
    expect((await undo(revision)).status).toBe(409);
    expect((await undo(made)).status).toBe(200);
    expect((await batches()).find((one) => one.name === 'b.csv')).toMatchObject({ state: 'balanced', count: 1 });
  });

  it('is listed in pages', async () => {
    const { batchId } = await balancedGift();
    await deposit([batchId], 'Last');
    const first = (await test.call('GET', '/deposits?limit=1')).body;
    expect((first['items'] as MadeDeposit[]).map((one) => one.name)).toEqual(['Last']);
    const rest = (await test.call('GET', `/deposits?cursor=${String(first['next'])}`)).body;
    expect((rest['items'] as MadeDeposit[]).map((one) => one.name)).not.toContain('Last');
    expect(first['total']).toBe((rest['items'] as MadeDeposit[]).length + 1);
  });

  it('is not made of a batch in which a check became cash since it was balanced, nor far ahead', async () => {
    const { id, batchId } = await balancedGift();
    const whole = (await test.call('GET', `/gifts/${id}`)).body;
    await test.call('PUT', `/gifts/${id}`, { ...whole, parts: [], tribute: null, method: 'cash', cheque: '' });
    const refused = await deposit([batchId]);
    expect([refused.status, (refused.body['error'] as { code: string }).code]).toEqual([409, 'changed-since']);
    const ahead = { name: 'Next year', date: '2027-11-23', batchIds: [batchId] };
    expect((await test.call('POST', '/deposits', ahead)).status).toBe(400);
    await balanceAll();
  });

  it('takes no batch that is still open, and none from a clerk', async () => {
    await addGift(test, await addPerson(test));
    const { id } = await openBatch();
    const body = { name: 'x', date: '2026-11-23', batchIds: [id] };
    expect((await test.call('POST', '/deposits', body)).status).toBe(409);
    expect((await test.call('POST', '/deposits', body, { as: 'entry' })).status).toBe(403);
  });
});

describe('closed books', () => {
  const close = (through: string | null) => test.call('PUT', '/ledger/closed', { through }, { as: 'admin' });

  it('are not changed by undoing what was booked in them; what is booked today can be undone', async () => {
    const { id, recorded } = await balancedGift({ date: '2026-02-03' });
    const before = await correct(id, 'void');
    expect((await undo(before)).status).toBe(200);
    expect((await close('2026-02-28')).status).toBe(200);
    const refused = await undo(recorded);
    expect([refused.status, (refused.body['error'] as { code: string }).code]).toEqual([409, 'books-closed']);
    const after = await correct(id, 'void');
    expect((await undo(after)).status).toBe(200);
    expect((await close(null)).status).toBe(200);
  });

  it('keep the parts of a split gift: an earlier change of them cannot be undone', async () => {
    const half = (fundId: number, cents: number) => ({ fundId, cents });
    const { id } = await balancedGift({ date: '2026-02-05', parts: [half(1, 1_000), half(2, 3_000)] });
    const whole = (await test.call('GET', `/gifts/${id}`)).body;
    const parts = [half(1, 1_500), half(2, 2_500)];
    const changed = await test.call('PUT', `/gifts/${id}`, { ...whole, parts, tribute: null });
    expect(changed.status).toBe(200);
    await close('2026-02-28');
    expect((await undo(changed)).body['error']).toMatchObject({ code: 'books-closed' });
    expect((await test.call('GET', `/gifts/${id}`)).body['parts']).toMatchObject([{ cents: 1_500 }, { cents: 2_500 }]);
    await close(null);
  });

  it('hold a correction that was booked in them', async () => {
    const { id } = await balancedGift({ date: '2026-02-06' });
    const corrected = await correct(id, 'void');
    // As if it had been made in February.
    await test.sql.run(`UPDATE correction SET booked_on = '2026-02-20' WHERE gift_id = ?`, [id]);
    await test.sql.run(
      `UPDATE change_row SET after_json = REPLACE(after_json, '"booked_on":"2026-11-23"', '"booked_on":"2026-02-20"')
       WHERE revision = ? AND table_name = 'correction'`,
      [Number(corrected.body['revision'])],
    );
    await close('2026-02-28');
    expect((await undo(corrected)).body['error']).toMatchObject({ code: 'books-closed' });
    await close(null);
  });

  it('let what is no money be said about a gift, on the day that it is booked', async () => {
    const { id } = await balancedGift({ date: '2026-02-04' });
    await close('2026-02-28');
    const whole = (await test.call('GET', `/gifts/${id}`)).body;
    const noted = await test.call('PUT', `/gifts/${id}`, { ...whole, parts: [], tribute: null, note: 'By hand' });
    expect(noted.status).toBe(200);
    expect((await test.call('GET', `/gifts/${id}`)).body).toMatchObject({ note: 'By hand', bookedOn: '2026-02-04' });
    expect((await undo(noted)).status).toBe(200);
    await close(null);
  });
});

describe('the ledger', () => {
  const RULES = [
    { fundId: null, method: null, debit: '1010 Bank', credit: '4010 Gifts' },
    { fundId: null, method: 'card', debit: '1030 Cards', credit: '' },
    { fundId: 2, method: null, debit: '', credit: '4120 Van' },
  ];
  const csv = async (from: string, to: string): Promise<Record<string, string>[]> =>
    parse((await test.call('GET', `/ledger.csv?from=${from}&to=${to}`)).text, { columns: true, bom: true });
  const sum = (rows: readonly Record<string, string>[], side: string): number =>
    rows.reduce((total, row) => total + Math.round(Number(row[side] || 0) * 100), 0);

  it('shows that accounts are missing until an administrator sets them', async () => {
    await addGift(test, await addPerson(test), { cents: 700, date: '2026-08-03', method: 'card' });
    expect(await csv('2026-08-01', '2026-08-31')).toMatchObject([
      { Account: 'UNSET-INCOME', Debit: '', Credit: '7.00' },
      { Account: 'UNSET-MONEY', Debit: '7.00', Credit: '' },
    ]);
    expect((await test.call('PUT', '/accounts', { items: RULES })).status).toBe(403);
    expect((await test.call('PUT', '/accounts', { items: [...RULES, ...RULES] }, { as: 'admin' })).status).toBe(400);
    await test.call('PUT', '/accounts', { items: RULES }, { as: 'admin' });
    expect((await test.call('GET', '/accounts')).body['items']).toHaveLength(3);
    expect(await csv('2026-08-01', '2026-08-31')).toEqual([
      { Date: '2026-08-03', Account: '1030 Cards', Debit: '7.00', Credit: '', Fund: 'General Operating' },
      { Date: '2026-08-03', Account: '4010 Gifts', Debit: '', Credit: '7.00', Fund: 'General Operating' },
    ]);
  });

  it('balances with splits, corrections and refunds, and books each on its own day', async () => {
    const who = await addPerson(test);
    const split = await addGift(test, who, {
      ...{ cents: 1_001, date: '2026-07-10', method: 'card' },
      parts: [
        { cents: 501, fundId: 1 },
        { cents: 500, fundId: 2 },
      ],
    });
    const { version } = (await test.call('GET', `/gifts/${split}`)).body;
    await test.call('POST', `/gifts/${split}/corrections`, {
      kind: 'refund',
      version,
      cents: 401,
      reason: 'Part back',
    });
    const july = await csv('2026-07-01', '2026-07-31');
    expect([sum(july, 'Debit'), sum(july, 'Credit')]).toEqual([1_001, 1_001]);
    expect(july.find((row) => row['Account'] === '4120 Van')).toMatchObject({ Credit: '5.00', Fund: 'Telescope Van' });
    const today = await csv('2026-11-23', '2026-11-23');
    expect(sum(today, 'Debit')).toBe(sum(today, 'Credit'));
    const back = today.filter((row) => row['Account'] === '1030 Cards');
    expect(sum(back, 'Credit') - sum(back, 'Debit')).toBe(401);
    const whole = await csv('2020-01-01', '2026-11-23');
    expect(sum(whole, 'Debit')).toBe(sum(whole, 'Credit'));
    const income = whole.filter((row) => /^4/.test(row['Account'] ?? ''));
    const given = (await test.call('POST', '/gifts/totals', { window: { kind: 'ever' } })).body['total'] as {
      cents: number;
    };
    expect(sum(income, 'Credit') - sum(income, 'Debit')).toBe(given.cents);
  });
});
