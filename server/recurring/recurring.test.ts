import { createHmac } from 'node:crypto';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { openTill } from '@tallystick/standins/till';
import type { Till } from '@tallystick/standins/till';
import { Recurring } from '@tallystick/contract/pledges';
import { addPerson, freshDatabase, openTestApp, readAnew, recordOf, snapshot, until } from '../tests/support.ts';
import type { Answer, TestApp } from '../tests/support.ts';

const SECRET = 'between us';
let test: TestApp;
let till: Till;
let who: number;
beforeAll(async () => {
  till = await openTill({ folder: null, secret: SECRET, hook: null });
  test = await openTestApp({ till: { url: till.url, secret: SECRET }, tillPatience: 300 });
});
afterAll(async () => {
  await readAnew(test);
  await test.close();
  await till.close();
});
beforeEach(async () => {
  till.behave(null);
  // Each test has its own recurring gift; those before it are over.
  await test.sql.run(`UPDATE recurring SET until_on = '2026-11-01', card = ''`);
  await test.sql.run(`UPDATE charge SET state = 'skipped', next_on = NULL WHERE state <> 'paid'`);
  who = await addPerson(test);
});

const make = (over: Record<string, unknown> = {}): Promise<Answer> =>
  test.call('POST', '/recurring', {
    ...{ supporterId: who, cents: 2_501, schedule: { start: '2026-11-23', every: 'month' }, card: 'good-1234' },
    parts: [{ weight: 1, fundId: 1 }],
    ...over,
  });
const made = async (over: Record<string, unknown> = {}): Promise<number> => {
  const answer = await make(over);
  if (answer.status !== 200) throw new Error(answer.text);
  return Number(answer.body['id']);
};
const recurring = async (id: number) => Recurring.parse((await test.call('GET', `/recurring/${id}`)).body);
const change = async (id: number, body: Record<string, unknown>): Promise<Answer> =>
  test.call('POST', `/recurring/${id}`, { version: (await recurring(id)).version, ...body });
const chargeAll = async (): Promise<string> => {
  const { body } = await test.call('POST', '/recurring/charge', {});
  const { state, message } = await test.jobEnd(Number(body['jobId']));
  return `${state}: ${message}`;
};
const gifts = async () =>
  (await test.call('GET', `/gifts?supporterId=${who}&limit=50`)).body['items'] as {
    id: number;
    cents: number;
    date: string;
    fund: string;
    recurringId: number;
    method: string;
  }[];
const approved = (card: string) =>
  till.drawer.charges().filter((one) => one.card === card && one.outcome === 'approved');

describe('what is expected', () => {
  it('is laid out and summed for twelve months, with changes of amount and pauses, and is no gift', async () => {
    const id = await made({ schedule: { start: '2026-11-30', every: 'month', lastDay: true } });
    await change(id, { change: 'amount', from: '2027-03-01', cents: 4_000 });
    await change(id, { change: 'pause', from: '2027-05-01', until: '2027-06-30' });
    const { expected, yearCents, next, schedule } = await recurring(id);
    expect([schedule, next]).toEqual(['every month on the last day', { due: '2026-11-30', cents: 2_501 }]);
    expect(expected.map((one) => one.due)).toEqual([
      ...['2026-11-30', '2026-12-31', '2027-01-31', '2027-02-28', '2027-03-31', '2027-04-30'],
      ...['2027-07-31', '2027-08-31', '2027-09-30', '2027-10-31'],
    ]);
    expect(yearCents).toBe(4 * 2_501 + 6 * 4_000);
    const { body } = await test.call('GET', `/recurring?supporterId=${who}`);
    expect(body['sum']).toEqual({ count: 1, yearCents });
    const months = body['months'] as { month: string; cents: number }[];
    expect(months.reduce((sum, month) => sum + month.cents, 0)).toBe(yearCents);
    expect(months.find((month) => month.month === '2027-05')?.cents).toBe(0);
    expect(await gifts()).toEqual([]);
  });

  it.each<[string, Record<string, unknown>]>([
    ['a first charge before today', { schedule: { start: '2026-11-22', every: 'month' } }],
    ['a card without a token', { card: '' }],
    ['an end before the start', { until: '2026-11-01' }],
    ['a closed fund', { parts: [{ weight: 1, fundId: 3 }] }],
    ['no fund', { parts: [] }],
  ])('refuses %s', async (_name, over) => expect((await make(over)).status).toBe(400));

  it('goes on after a pause, and ends', async () => {
    const id = await made({ schedule: { start: '2026-12-01', every: 'month' } });
    await change(id, { change: 'pause', from: '2026-11-20', until: null });
    expect((await recurring(id)).state).toBe('paused');
    await change(id, { change: 'resume', on: '2026-12-15' });
    expect((await recurring(id)).next).toEqual({ due: '2027-01-01', cents: 2_501 });
    expect((await change(id, { change: 'resume', on: '2027-06-01' })).status).toBe(400);
    await change(id, { change: 'end', on: '2026-11-22' });
    expect(await recurring(id)).toMatchObject({ state: 'ended', next: null, yearCents: 0 });
  });
});

describe('what is refused', () => {
  it.each<[string, Record<string, unknown>, string]>([
    ['a card without its token', { card: '' }, 'card'],
    ['a first charge in the past', { schedule: { start: '2026-11-22', every: 'month' } }, 'schedule.start'],
    ['an end before the beginning', { until: '2026-11-22' }, 'until'],
    [
      'two parts to the same place',
      {
        parts: [
          { weight: 1, fundId: 1 },
          { weight: 2, fundId: 1 },
        ],
      },
      'parts',
    ],
    ['a closed fund', { parts: [{ weight: 1, fundId: 3 }] }, 'fundId'],
    ['an amount of nothing', { cents: 0 }, 'cents'],
  ])('%s, at its field, and nothing is kept', async (_name, over, field) => {
    const answer = await make(over);
    expect(answer.status).toBe(400);
    expect(Object.keys((answer.body['error'] as { fields: object }).fields)).toEqual([field]);
    expect((await test.call('GET', `/recurring?supporterId=${who}`)).body['items']).toEqual([]);
  });
});

describe('charging', () => {
  it('makes a gift when money came, split over its funds to the cent, and nothing the second time', async () => {
    const id = await made({
      card: 'good-split',
      parts: [
        { weight: 1, fundId: 1 },
        { weight: 1, fundId: 2 },
      ],
    });
    expect(await chargeAll()).toBe('done: 1 charged, $25.01');
    expect(await chargeAll()).toBe('done: 0 charged, $0.00');
    expect(await gifts()).toMatchObject([
      { cents: 2_501, date: '2026-11-23', recurringId: id, method: 'card', fund: 'General Operating + Telescope Van' },
    ]);
    expect(approved('good-split')).toHaveLength(1);
    expect((await recurring(id)).charges).toMatchObject([{ state: 'paid', attempts: 1 }]);
    expect((await recurring(id)).next?.due).toBe('2026-12-23');
    expect((await recordOf(test, who)).giving.lifetime).toBe(2_501);
    // What the till keeps is noted with the gift, which is whole for the donor.
    expect(await gifts()).toMatchObject([{ cents: 2_501, feeCents: 103 }]);
  });

  it('cannot be undone as a change: the card was charged', async () => {
    await made({ card: 'good-undo' });
    await chargeAll();
    const { body } = await test.call('GET', '/changes?limit=1');
    const [last] = body['items'] as { revision: number; undoable: boolean }[];
    expect(last?.undoable).toBe(false);
    expect((await test.call('POST', `/changes/${last?.revision ?? 0}/undo`, {})).status).toBe(409);
  });

  it('asks again after the stated days when declined, then lists it for a call', async () => {
    const id = await made({ card: 'declined-9' });
    const seen: unknown[] = [];
    for (let time = 0; time < 5; time++) {
      await chargeAll();
      const [charge] = (await recurring(id)).charges;
      seen.push([charge?.state, charge?.attempts, charge?.nextOn]);
      await test.sql.run(`UPDATE charge SET next_on = '2026-11-23' WHERE state = 'failed'`);
    }
    expect(seen).toEqual([
      ['failed', 1, '2026-11-24'],
      ['failed', 2, '2026-11-26'],
      ['failed', 3, '2026-11-30'],
      ['call', 4, null],
      ['call', 4, null],
    ]);
    expect(await recurring(id)).toMatchObject({ state: 'to call', reason: 'The bank declined the card.' });
    expect(await gifts()).toEqual([]);
    expect((await recordOf(test, who)).pending.failing).toMatchObject([{ recurringId: id }]);
    const { body } = await test.call('GET', '/recurring?show=failing');
    expect((body['items'] as { id: number }[])[0]?.id).toBe(id);
  });

  it('does not ask again for an expired card; another card is charged for what failed', async () => {
    const id = await made({ card: 'expired-1' });
    await chargeAll();
    expect((await recurring(id)).charges).toMatchObject([
      { state: 'call', attempts: 1, reason: 'The card has expired.' },
    ]);
    await change(id, { change: 'card', card: 'good-new', cardLabel: 'Card new' });
    expect(await chargeAll()).toBe('done: 1 charged, $25.01');
    expect((await recurring(id)).charges).toMatchObject([{ state: 'paid', attempts: 2 }]);
    expect(await gifts()).toHaveLength(1);
  });

  it('asks again at once when told to, or gives up', async () => {
    const id = await made({ card: 'moody-7' });
    await chargeAll();
    const [charge] = (await recurring(id)).charges;
    const { body } = await test.call('POST', `/charges/${charge?.id ?? 0}/retry`, {});
    await test.jobEnd(Number(body['jobId']));
    expect((await recurring(id)).charges).toMatchObject([{ state: 'paid', attempts: 2 }]);
    expect((await test.call('POST', `/charges/${charge?.id ?? 0}/skip`, {})).status).toBe(409);
    const other = await made({ card: 'declined-2' });
    await chargeAll();
    const [failed] = (await recurring(other)).charges;
    await test.call('POST', `/charges/${failed?.id ?? 0}/skip`, {});
    expect(await recurring(other)).toMatchObject({ state: 'active', charges: [{ state: 'skipped' }] });
  });

  it('leaves alone who is paused, in the trash, or marked as deceased', async () => {
    const paused = await made({ card: 'good-paused' });
    await change(paused, { change: 'pause', from: '2026-11-01', until: null });
    who = await addPerson(test);
    await made({ card: 'good-trash' });
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [who] }, act: { do: 'trash' } });
    who = await addPerson(test, { wishes: [{ kind: 'deceased' }] });
    const late = await made({ card: 'good-late' });
    await chargeAll();
    for (const card of ['good-paused', 'good-trash', 'good-late']) expect(approved(card)).toEqual([]);
    expect(await recurring(late)).toMatchObject({ state: 'to call', reason: expect.stringContaining('deceased') });
  });

  it('charges a date once, though two runs begin together', async () => {
    await made({ card: 'good-both' });
    await Promise.all([chargeAll(), chargeAll(), chargeAll()]);
    expect(approved('good-both')).toHaveLength(1);
    expect(await gifts()).toHaveLength(1);
  });

  it('catches up on dates that were missed, each once', async () => {
    const id = await made({ card: 'good-missed', schedule: { start: '2026-11-23', every: 'week' } });
    await test.sql.run(`UPDATE recurring SET start_on = '2026-11-02' WHERE id = ?`, [id]);
    await chargeAll();
    expect((await recurring(id)).charges.map((charge) => charge.due)).toEqual([
      '2026-11-23',
      '2026-11-16',
      '2026-11-09',
      '2026-11-02',
    ]);
    expect(approved('good-missed')).toHaveLength(4);
  });
});

it('is not charged into a fund that was closed: a person is to agree on another', async () => {
  const id = await made({ card: 'good-shut', parts: [{ weight: 1, fundId: 2 }] });
  await test.sql.run('UPDATE fund SET closed = 1 WHERE id = 2');
  await chargeAll();
  await test.sql.run('UPDATE fund SET closed = 0 WHERE id = 2');
  expect((await recurring(id)).charges).toMatchObject([{ state: 'call', reason: expect.stringContaining('closed') }]);
  expect(approved('good-shut')).toHaveLength(0);
});

describe('a card that the till will not hear of', () => {
  it('is to be looked at, and those after it are charged all the same', async () => {
    const odd = await made({ card: 'unheard-1' });
    const good = await made({ card: 'good-after' });
    expect(await chargeAll()).toMatch(/^done: 1 charged.*1 not taken/);
    expect((await recurring(odd)).charges).toMatchObject([{ state: 'call', reason: expect.stringContaining('400') }]);
    expect((await recurring(good)).charges).toMatchObject([{ state: 'paid' }]);
    expect(await chargeAll()).toMatch(/^done: 0 charged/);
  });

  it.each(['busy', 'page'])(
    'that is answered with what is no answer (%s) is asked again, and charged once',
    async (how) => {
      const card = `${how}-1`;
      const id = await made({ card });
      const good = await made({ card: `good-${how}` });
      const { body } = await test.call('POST', '/recurring/charge', {});
      await until(async () => (await recurring(good)).charges[0]?.state === 'paid');
      await until(async () => (await test.services.jobs.get(Number(body['jobId']))).state !== 'running');
      await test.sql.run(`UPDATE job SET run_after = '2026-01-01' WHERE id = ?`, [Number(body['jobId'])]);
      test.services.jobs.nudge();
      await test.jobEnd(Number(body['jobId']));
      expect((await recurring(id)).charges).toMatchObject([{ state: 'paid', attempts: 1 }]);
      expect(approved(card)).toHaveLength(1);
    },
  );
});

describe('a connection that is cut', () => {
  it.each([
    ['before the till has charged', 'cut' as const],
    ['after it has charged, without an answer', 'slow' as const],
    ['after it has charged, in the middle of the answer', 'cut-after' as const],
  ])('%s: charged once, one gift', async (_name, how) => {
    const card = `good-${how}`;
    const id = await made({ card });
    till.behave(how);
    const { body } = await test.call('POST', '/recurring/charge', {});
    await until(async () => (await recurring(id)).charges[0]?.state === 'asking');
    await until(async () => (await test.services.jobs.get(Number(body['jobId']))).state === 'waiting');
    till.behave(null);
    await test.sql.run(`UPDATE job SET run_after = '2026-01-01' WHERE id = ?`, [Number(body['jobId'])]);
    test.services.jobs.nudge();
    await test.jobEnd(Number(body['jobId']));
    expect(approved(card)).toHaveLength(1);
    expect(await gifts()).toHaveLength(1);
    expect((await recurring(id)).charges).toMatchObject([{ state: 'paid', attempts: 1 }]);
  });

  it('between the till’s answer and the gift: the process ended; the next one goes on', async () => {
    const id = await made({ card: 'good-ended' });
    await test.call('POST', '/recurring/charge', {});
    await until(async () => (await recurring(id)).charges[0]?.state === 'paid');
    // As the database was when the process died: the charge asked for, the till's charge made, no gift yet.
    const [charge] = await test.sql.rows<{ id: number; gift_id: number }>(
      'SELECT id, gift_id FROM charge WHERE recurring_id = ?',
      [id],
    );
    await test.sql.run(`UPDATE charge SET state = 'asking', gift_id = NULL, till_id = '' WHERE id = ?`, [
      charge?.id ?? 0,
    ]);
    await test.sql.run('DELETE FROM journal WHERE gift_id = ?', [charge?.gift_id ?? 0]);
    await test.sql.run('DELETE FROM gift WHERE id = ?', [charge?.gift_id ?? 0]);
    await chargeAll();
    expect(approved('good-ended')).toHaveLength(1);
    expect(await gifts()).toHaveLength(1);
  });
});

describe('what the till reports', () => {
  const send = async (event: object, over: { secret?: string; time?: number } = {}): Promise<number> => {
    const body = JSON.stringify(event);
    const time = String(over.time ?? Math.floor(Date.now() / 1000));
    const signature = createHmac('sha256', over.secret ?? SECRET)
      .update(`${time}\n`)
      .update(body)
      .digest('hex');
    const response = await fetch(`${test.url}/api/v1/card-processor/events`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'Till-Time': time, 'Till-Signature': signature },
      body,
    });
    return response.status;
  };
  const paid = async (card: string): Promise<{ charge: string; key: string; cents: number; gift: number }> => {
    await made({ card });
    await chargeAll();
    const [charge] = approved(card);
    const [gift] = await gifts();
    return { charge: charge?.id ?? '', key: charge?.key ?? '', cents: 2_501, gift: gift?.id ?? 0 };
  };

  it('of an approval settles a charge whose answer never came; twice does nothing twice', async () => {
    const id = await made({ card: 'good-hook' });
    till.behave('slow');
    const { body } = await test.call('POST', '/recurring/charge', {});
    await until(async () => till.drawer.charges().some((one) => one.card === 'good-hook'));
    const [charge] = approved('good-hook');
    const event = { kind: 'charge', id: 'ev-1', charge: charge?.id, key: charge?.key, cents: 2_501 };
    expect([await send(event), await send(event)]).toEqual([200, 200]);
    expect(await gifts()).toHaveLength(1);
    till.behave(null);
    await test.jobEnd(Number(body['jobId']));
    expect(await gifts()).toHaveLength(1);
    expect((await recurring(id)).charges).toMatchObject([{ state: 'paid' }]);
  });

  it('of a refund corrects the gift, once', async () => {
    const { charge, gift } = await paid('good-refund');
    const event = { kind: 'refund', id: 'ev-2', charge, refund: 're-1', cents: 1_000 };
    expect([await send(event), await send(event)]).toEqual([200, 200]);
    expect((await test.call('GET', `/gifts/${gift}`)).body).toMatchObject({
      cents: 1_501,
      corrections: [{ kind: 'refund', reason: 'Refunded at the till', by: 'The till' }],
    });
  });

  it.each<[string, { secret?: string; time?: number }]>([
    ['forged', { secret: 'a guess' }],
    ['old', { time: Math.floor(Date.now() / 1000) - 400 }],
    ['of the future', { time: Math.floor(Date.now() / 1000) + 400 }],
  ])('is refused when it is %s, and nothing changes', async (_name, over) => {
    const { charge } = await paid(`good-${_name.slice(0, 3)}`);
    const before = await snapshot(test.sql);
    expect(await send({ kind: 'refund', id: 'ev-3', charge, refund: 're-9', cents: 5 }, over)).toBe(401);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('of somebody else’s charge is none of ours', async () => {
    const before = await snapshot(test.sql);
    for (const event of [
      { kind: 'charge', id: 'ev-4', charge: 'ch-x', key: 'theirs-1-1', cents: 5 },
      { kind: 'refund', id: 'ev-5', charge: 'ch-x', refund: 're-x', cents: 5 },
    ])
      expect(await send(event)).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('is not believed without a till', async () => {
    const other = await openTestApp({ databaseUrl: await freshDatabase() });
    const response = await fetch(`${other.url}/api/v1/card-processor/events`, { method: 'POST', body: '{}' });
    expect(response.status).toBe(401);
    expect((await other.call('POST', '/recurring/charge', {})).status).toBe(409);
    await other.close();
  });
});

describe('a refund from here', () => {
  it('goes back through the till, and the till’s own report of it changes nothing more', async () => {
    await made({ card: 'good-back' });
    await chargeAll();
    const [gift] = await gifts();
    const [charge] = approved('good-back');
    const { version } = (await test.call('GET', `/gifts/${gift?.id ?? 0}`)).body;
    const body = { kind: 'refund', version, reason: 'Asked for it', cents: 501 };
    const answer = await test.call('POST', `/gifts/${gift?.id ?? 0}/corrections`, body);
    expect(answer.status).toBe(200);
    expect(till.drawer.refunded(charge?.id ?? '')).toBe(501);
    expect((await test.call('POST', `/gifts/${gift?.id ?? 0}/corrections`, body)).status).toBe(409);
    expect(till.drawer.refunded(charge?.id ?? '')).toBe(501);
    expect((await gifts())[0]?.cents).toBe(2_000);
  });

  it('is noted only where the till gave the money back', async () => {
    await made({ card: 'good-down' });
    await chargeAll();
    const [gift] = await gifts();
    const { version } = (await test.call('GET', `/gifts/${gift?.id ?? 0}`)).body;
    await test.sql.run(`UPDATE charge SET till_id = 'ch-gone' WHERE gift_id = ?`, [gift?.id ?? 0]);
    const answer = await test.call('POST', `/gifts/${gift?.id ?? 0}/corrections`, {
      ...{ kind: 'refund', version, reason: 'Asked for it' },
    });
    expect([answer.status, answer.body['error']]).toEqual([502, expect.objectContaining({ code: 'till' })]);
    expect((await gifts())[0]?.cents).toBe(2_501);
  });

  const paid = async (card: string): Promise<{ id: number; version: number; charge: string }> => {
    await made({ card });
    await chargeAll();
    const [gift] = await gifts();
    const { version } = (await test.call('GET', `/gifts/${gift?.id ?? 0}`)).body;
    return { id: gift?.id ?? 0, version: Number(version), charge: approved(card)[0]?.id ?? '' };
  };
  const refund = ({ id, version }: { id: number; version: number }, cents: number): Promise<Answer> =>
    test.call('POST', `/gifts/${id}/corrections`, { kind: 'refund', version, reason: 'Asked for it', cents });
  const codeOf = ({ body }: Answer): unknown => (body['error'] as { code?: string } | undefined)?.code;
  const centsOf = async (id: number): Promise<number> => Number((await test.call('GET', `/gifts/${id}`)).body['cents']);

  it('cannot be undone, and the next one is another at the till, too', async () => {
    const gift = await paid('good-twice');
    const first = await refund(gift, 1_000);
    expect(first.status).toBe(200);
    expect((await test.call('POST', `/changes/${String(first.body['revision'])}/undo`, {})).status).toBe(409);
    const { version } = (await test.call('GET', `/gifts/${gift.id}`)).body;
    expect((await refund({ ...gift, version: Number(version) }, 1_000)).status).toBe(200);
    expect([await centsOf(gift.id), till.drawer.refunded(gift.charge)]).toEqual([501, 2_000]);
  });

  it.each([
    ['before the till heard it', 'cut' as const],
    ['after the till gave the money back', 'cut-after' as const],
  ])('whose connection is cut %s is asked again until it is known, and given back once', async (_name, how) => {
    const gift = await paid(`good-back-${how}`);
    till.behave(how);
    const answer = await refund(gift, 700);
    // The job that sees it through may have been faster than the answer to us.
    if (answer.status !== 200) expect([answer.status, codeOf(answer)]).toEqual([502, 'till-silent']);
    till.behave(null);
    await test.sql.run(`UPDATE job SET run_after = '2026-01-01' WHERE kind = 'refund'`);
    test.services.jobs.nudge();
    await until(async () => (await centsOf(gift.id)) === 1_801);
    expect(till.drawer.refunded(gift.charge)).toBe(700);
    const rows = await test.sql.rows('SELECT state FROM refund WHERE gift_id = ?', [gift.id]);
    expect(rows).toEqual([{ state: 'done' }]);
  });

  it('holds the gift as it is while the till has not answered', async () => {
    const gift = await paid('good-held');
    const [charge] = await test.sql.rows<{ id: number }>('SELECT id FROM charge WHERE gift_id = ?', [gift.id]);
    await test.sql.run(
      `INSERT INTO refund (supporter_id, gift_id, charge_id, cents, state) VALUES (?, ?, ?, 100, 'asking')`,
      [who, gift.id, charge?.id ?? 0],
    );
    const voided = await test.call('POST', `/gifts/${gift.id}/corrections`, {
      ...{ kind: 'void', version: gift.version, reason: 'Typed twice' },
    });
    expect([voided.status, codeOf(voided)]).toEqual([409, 'refund-asked']);
    expect(codeOf(await refund(gift, 50))).toBe('refund-asked');
    const asked = async () => (await test.call('GET', `/gifts/${gift.id}`)).body['refundingCents'];
    expect(await asked()).toBe(100);
    await test.sql.run(`UPDATE refund SET state = 'refused' WHERE gift_id = ?`, [gift.id]);
    expect(await asked()).toBe(0);
    await test.sql.run(`DELETE FROM refund WHERE gift_id = ?`, [gift.id]);
  });
});

it('a payment that came another way is a gift of it, and the next date follows', async () => {
  const id = await made({ method: 'bank', card: '', schedule: { start: '2026-09-01', every: 'month' } });
  expect((await recurring(id)).next?.due).toBe('2026-09-01');
  await test.call('POST', '/gifts', {
    ...{ supporterId: who, cents: 2_501, date: '2026-09-03', fundId: 1, method: 'bank', recurringId: id },
  });
  expect(await recurring(id)).toMatchObject({ next: { due: '2026-10-01' }, charges: [] });
  const hints = (await test.call('GET', `/gifts/hints?supporterId=${who}`)).body['recurring'];
  expect(hints).toMatchObject([{ id, cents: 2_501 }]);
});
