import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { GiftWhole } from '@tallystick/contract/gifts';
import { addGift, addPerson, openTestApp, recordOf, snapshot } from '../tests/support.ts';
import type { Answer, TestApp } from '../tests/support.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const gift = async (id: number) => GiftWhole.parse((await test.call('GET', `/gifts/${id}`)).body);
const fieldsOf = (answer: Answer): Record<string, string> =>
  (answer.body['error'] as { fields?: Record<string, string> }).fields ?? {};
const record = (supporterId: number, over: Record<string, unknown> = {}, key?: string) =>
  test.call(
    'POST',
    '/gifts',
    { supporterId, cents: 10_000, date: '2026-11-01', fundId: 1, ...over },
    key ? { key } : {},
  );
const inKind = (description: string) => ({
  ...{ method: 'in_kind', details: { kind: 'in_kind', description, estimateBy: 'us' } },
});
const half = (fundId: number, cents = 5_000) => ({ fundId, cents });
const totalOf = async (supporterId: number, body: Record<string, unknown> = {}) =>
  (await test.call('POST', '/gifts/totals', { window: { kind: 'ever' }, supporterId, ...body })).body;

const addHome = (organization: string, ids: number[]): Promise<number> =>
  addPerson(test, {
    ...{ kind: 'household', organization, first: '', last: '', emails: [] },
    members: ids.map((id, place) => ({ id, primary: place === 0 })),
  });

describe('kinds of gifts', () => {
  it('splits a gift and counts each part with its fund', async () => {
    const who = await addPerson(test);
    const id = await addGift(test, who, { cents: 10_001, parts: [half(1), { ...half(2, 5_001), campaignId: 1 }] });
    expect(await gift(id)).toMatchObject({
      split: true,
      fund: 'General Operating + Telescope Van',
      parts: [
        { cents: 5_000, fund: 'General Operating', campaign: '' },
        { cents: 5_001, fund: 'Telescope Van', campaign: 'Annual Fund' },
      ],
    });
    const byFund = await totalOf(who, { by: 'fund' });
    expect(byFund['rows']).toMatchObject([
      { name: 'Telescope Van', cents: 5_001, gifts: 1 },
      { name: 'General Operating', cents: 5_000, gifts: 1 },
    ]);
    expect(byFund['total']).toEqual({ cents: 10_001, gifts: 1, donors: 1 });
    expect((await totalOf(who, { campaignId: 1 }))['total']).toMatchObject({ cents: 5_001 });
    for (const fund of [1, 2])
      expect((await test.call('GET', `/gifts?supporterId=${who}&fundId=${fund}`)).body['total']).toBe(1);
    const facets = (await test.call('GET', `/gifts/facets?supporterId=${who}`)).body['facets'];
    expect(facets).toMatchObject([
      {
        by: 'fund',
        items: [
          { key: '2', cents: 5_001 },
          { key: '1', cents: 5_000 },
        ],
      },
      { by: 'campaign', items: [{ key: '1', count: 1, cents: 5_001 }] },
      { by: 'appeal', items: [] },
      { by: 'method', items: [{ key: 'cheque', cents: 10_001 }] },
    ]);
  });

  it('refuses parts that do not add up, and leaves nothing behind', async () => {
    const who = await addPerson(test);
    const before = await snapshot(test.sql);
    const answer = await record(who, { parts: [half(1), half(2, 4_000)] });
    expect([answer.status, fieldsOf(answer)['parts']]).toEqual([400, expect.stringContaining('10.00 less')]);
    const closed = await record(who, { parts: [half(1), half(3)] });
    expect(fieldsOf(closed)).toHaveProperty('fundId');
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('is worth shares times price when it is stock, whatever the fees', async () => {
    const who = await addPerson(test);
    const details = { kind: 'stock', symbol: 'lmps', shares: '150', meanPrice: '41.25', feeCents: 1_295 };
    const wrong = await record(who, { method: 'stock', cents: 600_000, details });
    expect(fieldsOf(wrong)['cents']).toContain('shares times the mean price');
    const id = await addGift(test, who, { method: 'stock', cents: 618_750, details });
    expect(await gift(id)).toMatchObject({
      cents: 618_750,
      details: { symbol: 'LMPS', soldOn: null, proceedsCents: null, feeCents: 1_295 },
    });
    expect(fieldsOf(await record(who, { method: 'cash', cents: 618_750, details }))).toHaveProperty('method');
  });

  it('describes what was given in kind and keeps its estimate off the receipt', async () => {
    const who = await addPerson(test);
    expect(fieldsOf(await record(who, { method: 'in_kind' }))).toHaveProperty('details');
    const details = { kind: 'in_kind', description: 'Thirty warm lamps', estimateBy: 'us' };
    const id = await addGift(test, who, { method: 'in_kind', cents: 777_00, details });
    await test.call('POST', '/thanks/issue', { letterId: 1, giftIds: [id] });
    const [receipt] = await test.sql.rows<{ content: string }>('SELECT content FROM receipt WHERE gift_id = ?', [id]);
    expect(receipt?.content).toContain('Thirty warm lamps');
    expect(receipt?.content).not.toContain('777');
  });

  it('says what is deductible where goods were received', async () => {
    const who = await addPerson(test);
    const id = await addGift(test, who, { cents: 180_00, benefitCents: 65_00, benefit: 'Supper' });
    expect(await gift(id)).toMatchObject({ deductibleCents: 115_00 });
    await test.call('POST', '/thanks/issue', { letterId: 1, giftIds: [id] });
    const [receipt] = await test.sql.rows<{ content: string }>('SELECT content FROM receipt WHERE gift_id = ?', [id]);
    expect(receipt?.content).toContain('fair value of $65.00. The deductible part of your gift is $115.00');
    expect(receipt?.content).not.toContain('No goods or services');
  });

  it('goes through a fund: the sponsor is the legal donor, the adviser is recognised', async () => {
    const adviser = await addPerson(test);
    const sponsor = await addPerson(test, {
      kind: 'organization',
      organization: 'Basin Fund Sponsor',
      first: '',
      last: '',
    });
    await addGift(test, sponsor, {
      cents: 250_000,
      credits: [{ supporterId: adviser, kind: 'adviser', cents: 250_000 }],
    });
    expect((await recordOf(test, sponsor)).giving).toMatchObject({ lifetime: 250_000, recognised: 0 });
    const record_ = await recordOf(test, adviser);
    expect(record_.giving).toMatchObject({ lifetime: 0, recognised: 250_000 });
    expect(record_.timeline).toMatchObject([{ kind: 'credit', cents: 250_000 }]);
    expect(record_.pending.unthanked).toBe(0);
    expect((await totalOf(adviser))['total']).toMatchObject({ cents: 0 });
    expect((await totalOf(adviser, { credit: 'recognition' }))['total']).toEqual({
      cents: 250_000,
      gifts: 1,
      donors: 1,
    });
  });

  it('never counts a cent twice for two who share a home', async () => {
    const [ada, bo] = [await addPerson(test), await addPerson(test)];
    await addHome('The Lantern Household', [ada, bo]);
    await addGift(test, ada, { cents: 50_000, credits: [{ supporterId: bo, kind: 'spouse', cents: 50_000 }] });
    for (const [credit, cents] of [
      ['legal', 50_000],
      ['recognition', 50_000],
      ['both', 50_000],
    ] as const)
      expect((await totalOf(ada, { household: true, credit }))['total']).toMatchObject({ cents });
  });

  it('refuses a credit to the donor, and one of more than the gift', async () => {
    const [who, other] = [await addPerson(test), await addPerson(test)];
    for (const credit of [
      { supporterId: who, kind: 'spouse', cents: 100 },
      { supporterId: other, kind: 'spouse', cents: 10_001 },
    ])
      expect(fieldsOf(await record(who, { credits: [credit] }))).toHaveProperty('credits');
  });

  it('honours someone, on record or not, and says whom to notify', async () => {
    const [who, of, told] = [await addPerson(test), await addPerson(test), await addPerson(test)];
    expect(fieldsOf(await record(who, { tribute: { kind: 'memory' } }))).toHaveProperty('tribute');
    const id = await addGift(test, who, {
      tribute: { kind: 'memory', ofId: of, notifyId: told, notify: 'by card', withAmount: true },
    });
    expect((await gift(id)).tribute).toMatchObject({
      kind: 'memory',
      ofId: of,
      ofName: expect.stringContaining('First'),
      notifyId: told,
      notify: 'by card',
      withAmount: true,
    });
    expect((await test.call('GET', `/gifts?supporterId=${who}&kind=tribute`)).body['total']).toBe(1);
  });

  it('expects a match from the employer, and links both gifts', async () => {
    const who = await addPerson(test);
    const employer = await addPerson(test, { kind: 'organization', organization: 'Basin Works', first: '', last: '' });
    const id = await addGift(test, who, { cents: 40_000, match: { supporterId: employer, cents: 20_000 } });
    const expected = (await gift(id)).matchedBy;
    expect(expected).toMatchObject({ cents: 20_000, paid: 0, supporter: { name: 'Basin Works' } });
    const pledgeId = expected?.pledgeId ?? 0;
    const { version } = (await test.call('GET', `/pledges/${pledgeId}`)).body;
    await test.call('POST', `/pledges/${pledgeId}/stage`, { version, stage: 'claimed', on: '2026-11-10' });
    const match = await addGift(test, employer, { cents: 20_000, date: '2026-11-20', pays: { pledgeId } });
    expect((await gift(match)).matches).toMatchObject({ giftId: id, cents: 40_000 });
    expect((await gift(id)).matchedBy).toMatchObject({ paid: 20_000 });
    expect((await test.call('GET', `/gifts?kind=match&supporterId=${employer}`)).body['total']).toBe(1);
  });
});

describe('bad input', () => {
  it('asks about a check number that the donor used before, and takes it once it was seen', async () => {
    const who = await addPerson(test);
    const first = await addGift(test, who, { cheque: '1234' });
    const again = await record(who, { cheque: '1234' });
    expect([again.status, again.body['error']]).toEqual([
      409,
      expect.objectContaining({ code: 'same-cheque', details: { giftId: first } }),
    ]);
    expect((await record(who, { cheque: '1234', sameChequeSeen: true })).status).toBe(200);
    expect((await record(who, { cheque: '1234', method: 'cash' })).status).toBe(200);
    expect((await record(await addPerson(test), { cheque: '1234' })).status).toBe(200);
  });

  it('takes nothing from someone in the trash, for them or in their honour', async () => {
    const [gone, who] = [await addPerson(test), await addPerson(test)];
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [gone] }, act: { do: 'trash' } });
    expect(fieldsOf(await record(gone))).toHaveProperty('supporterId');
    expect(fieldsOf(await record(who, { credits: [{ supporterId: gone, kind: 'peer', cents: 5 }] }))).toHaveProperty(
      'credits',
    );
    expect(fieldsOf(await record(who, { tribute: { kind: 'honour', ofId: gone } }))).toHaveProperty('tribute');
  });

  it('refuses a date to come, a source code that is not, and another’s recurring gift', async () => {
    const who = await addPerson(test);
    expect(fieldsOf(await record(who, { date: '2026-11-24' }))).toHaveProperty('date');
    expect(fieldsOf(await record(who, { sourceId: 99 }))).toHaveProperty('sourceId');
    expect(fieldsOf(await record(who, { recurringId: 99 }))).toHaveProperty('recurringId');
  });

  it('records once what is sent twice, parts and credits too', async () => {
    const [who, other] = [await addPerson(test), await addPerson(test)];
    const over = { parts: [half(1), half(2)], credits: [{ supporterId: other, kind: 'peer', cents: 100 }] };
    const answers = [await record(who, over, 'twice'), await record(who, over, 'twice')];
    expect(answers[0]?.body).toEqual(answers[1]?.body);
    expect((await test.call('GET', `/gifts?supporterId=${who}`)).body['total']).toBe(1);
    expect(await test.sql.rows('SELECT id FROM soft_credit WHERE supporter_id = ?', [other])).toHaveLength(2);
  });
});

describe('changing a gift', () => {
  it('changes everything about it while nothing hangs on it, and undo brings all of it back', async () => {
    const [who, other] = [await addPerson(test), await addPerson(test)];
    const id = await addGift(test, who, {
      parts: [half(1, 1_000), half(2, 1_500)],
      credits: [{ supporterId: other, kind: 'spouse', cents: 2_500 }],
      tribute: { kind: 'honour', name: 'Ada' },
    });
    const before = await snapshot(test.sql);
    const { version } = await gift(id);
    const draft = { supporterId: other, cents: 4_000, date: '2026-10-30', fundId: 2, method: 'cash' };
    const changed = await test.call('PUT', `/gifts/${id}`, { ...draft, version });
    expect(changed.status).toBe(200);
    expect(await gift(id)).toMatchObject({
      ...{ supporterId: other, cents: 4_000, date: '2026-10-30', split: false, fund: 'Telescope Van' },
      ...{ credits: [], tribute: null },
    });
    expect((await recordOf(test, who)).giving.lifetime).toBe(0);
    expect((await recordOf(test, other)).giving).toMatchObject({ lifetime: 4_000, recognised: 0 });
    await test.call('POST', `/changes/${String(changed.body['revision'])}/undo`, {});
    expect(await snapshot(test.sql)).toEqual(before);
    expect((await recordOf(test, other)).giving).toMatchObject({ lifetime: 0, recognised: 2_500 });
  });

  it.each([
    ['a date before 1900', { date: '1899-12-31' }],
    ['a date in no year that is kept', { date: '1000-01-01' }],
    ['the same credit twice', 'twice'],
    ['a gift to match that is not there', { match: { supporterId: 9_999_999, cents: 5 } }],
    ['true for a fund', { fundId: true }],
  ])('refuses %s in words, and keeps nothing', async (_name, over) => {
    const [who, other] = [await addPerson(test), await addPerson(test)];
    const before = await snapshot(test.sql);
    const credit = { supporterId: other, kind: 'peer', cents: 5 };
    const body = { supporterId: who, cents: 2_500, date: '2026-11-01', fundId: 1 };
    const asked = over === 'twice' ? { credits: [credit, credit] } : (over as object);
    expect((await test.call('POST', '/gifts', { ...body, ...asked })).status).toBe(400);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('keeps the day that it is booked on while its date stays', async () => {
    const id = await addGift(test, await addPerson(test), { method: 'cash' });
    await test.sql.run(`UPDATE gift SET booked_on = '2026-11-10' WHERE id = ?`, [id]);
    const whole = await gift(id);
    const draft = { ...whole, parts: [], tribute: null, note: 'Only the note' };
    expect((await test.call('PUT', `/gifts/${id}`, draft)).status).toBe(200);
    expect((await gift(id)).bookedOn).toBe('2026-11-10');
  });

  it('refuses what was read before another change', async () => {
    const id = await addGift(test, await addPerson(test));
    const { version, supporterId } = await gift(id);
    const draft = { supporterId, cents: 100, date: '2026-11-01', fundId: 1, version };
    expect((await test.call('PUT', `/gifts/${id}`, draft)).status).toBe(200);
    expect((await test.call('PUT', `/gifts/${id}`, draft)).status).toBe(409);
  });

  describe('once it is receipted', () => {
    const stock = (over: Record<string, unknown> = {}) => ({
      ...{ kind: 'stock', symbol: 'LMPS', shares: '150', meanPrice: '41.25', feeCents: 0, soldOn: null },
      ...{ proceedsCents: null, ...over },
    });
    const settledGift = async (over: Record<string, unknown> = {}) => {
      // By post: an e-mail would be on its way, and its row change, while the test looks at all rows.
      const id = await addGift(test, await addPerson(test, { emails: [] }), over);
      await test.call('POST', '/thanks/issue', { letterId: 1, giftIds: [id] });
      const whole = await gift(id);
      expect(whole.settled).toContain('Receipt 2026-');
      return whole;
    };
    const change = ({ id, tribute: _tribute, ...whole }: GiftWhole, over: Record<string, unknown>) =>
      test.call('PUT', `/gifts/${id}`, { ...whole, parts: whole.split ? whole.parts : [], ...over });

    it('takes the sale of stock, credits, a tribute and a note, and leaves the money and its day in the books', async () => {
      const spouse = await addPerson(test);
      const before = await settledGift({ method: 'stock', cents: 618_750, details: stock() });
      const rows = await snapshot(test.sql);
      const sold = stock({ soldOn: '2026-11-20', proceedsCents: 620_000, feeCents: 1_295 });
      const answer = await change(before, {
        ...{ details: sold, note: 'Sold by the broker', tribute: { kind: 'honour', name: 'Ada' } },
        credits: [{ supporterId: spouse, kind: 'spouse', cents: 618_750 }],
      });
      expect(answer.status).toBe(200);
      const after = await gift(before.id);
      expect(after).toMatchObject({ cents: 618_750, details: sold, note: 'Sold by the broker', receiptNeeds: '' });
      expect(after).toMatchObject({ bookedOn: before.bookedOn, receiptNumber: before.receiptNumber, corrections: [] });
      expect((await recordOf(test, spouse)).giving.recognised).toBe(618_750);
      await test.call('POST', `/changes/${String(answer.body['revision'])}/undo`, {});
      expect(await snapshot(test.sql)).toEqual(rows);
    });

    it.each<[string, Record<string, unknown>, Record<string, unknown>]>([
      ['the amount', {}, { cents: 100 }],
      ['the date', {}, { date: '2026-10-02' }],
      ['the payment method', {}, { method: 'cash' }],
      ['the fund', {}, { fundId: 2 }],
      [
        'a part',
        { cents: 5_000, parts: [half(1, 2_000), half(2, 3_000)] },
        { parts: [half(1, 3_000), half(2, 2_000)] },
      ],
      ['what was given in kind', inKind('Two lamps'), inKind('Three lamps')],
      ['the shares', { method: 'stock', cents: 618_750, details: stock() }, { details: stock({ symbol: 'OTHR' }) }],
      ['the goods received', { benefitCents: 500 }, { benefitCents: 0 }],
    ])('refuses to change %s: a correction is asked for instead', async (_name, was, over) => {
      const answer = await change(await settledGift(was), over);
      expect(answer.body['error']).toMatchObject({ code: 'settled' });
    });

    it('cannot be changed at all when it was taken back', async () => {
      const { id, version } = await settledGift();
      await test.call('POST', `/gifts/${id}/corrections`, { kind: 'void', version, reason: 'Twice' });
      const answer = await change(await gift(id), { cents: 2_500, note: 'Later' });
      expect(answer.body['error']).toMatchObject({ code: 'settled' });
    });
  });
});

describe('hints for the form', () => {
  it('offer open pledges, a spouse, the household and the employer', async () => {
    const [who, spouse] = [await addPerson(test), await addPerson(test)];
    const home = await addHome('The Hinted', [who]);
    const employer = await addPerson(test, { kind: 'organization', organization: 'Works', first: '', last: '' });
    const kinds = (await test.call('GET', '/relation-kinds')).body['items'] as { id: number; name: string }[];
    const kind = (name: string): number => kinds.find((one) => one.name === name)?.id ?? 0;
    await test.call('POST', '/relations', { fromId: who, toId: spouse, kindId: kind('spouse') });
    await test.call('POST', '/relations', { fromId: employer, toId: who, kindId: kind('employer') });
    await test.call('POST', '/pledges', {
      ...{ supporterId: who, cents: 1_000, pledgedOn: '2026-11-01', fundId: 1 },
      plan: { kind: 'rows', rows: [{ due: '2026-12-01', cents: 1_000 }] },
    });
    const { body } = await test.call('GET', `/gifts/hints?supporterId=${who}`);
    expect(body).toMatchObject({ pledges: [{ balance: 1_000, installments: [{ due: '2026-12-01', open: 1_000 }] }] });
    expect((body['people'] as { id: number; as: string }[]).map(({ id, as }) => [as, id]).sort()).toEqual([
      ['employer', employer],
      ['household', home],
      ['spouse', spouse],
    ]);
  });
});
