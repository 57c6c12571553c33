import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addGift, addPerson, openTestApp, recordOf, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
let donor: number;
beforeAll(async () => {
  test = await openTestApp();
  donor = await addPerson(test, { first: 'Ana', last: 'Cruz' });
});
afterAll(() => test.close());

const GOOD = {
  cents: 2_500,
  date: '2026-11-01',
  fundId: 1,
  campaignId: 1,
  appealId: 1,
  method: 'cheque',
  cheque: '1204',
  note: 'With love',
};

describe('recording a gift', () => {
  it('keeps all of it and answers its number', async () => {
    const { body } = await test.call('POST', '/gifts', { supporterId: donor, ...GOOD }, { as: 'entry' });
    const gift = await test.call('GET', `/gifts/${String(body['id'])}`);
    expect(gift.body).toMatchObject({
      ...GOOD,
      number: body['number'],
      supporterName: 'Ana Cruz',
      fund: 'General Operating',
      campaign: 'Annual Fund',
      appeal: 'Fall letter',
      currency: 'USD',
      acknowledgedOn: null,
    });
  });

  it.each<[string, object, string, RegExp]>([
    ['zero', { cents: 0 }, 'cents', /above zero/],
    ['a negative amount', { cents: -100 }, 'cents', /above zero/],
    ['a fraction of a cent', { cents: 12.5 }, 'cents', /whole cents/],
    ['more than is kept', { cents: 10_000_000_000_001 }, 'cents', /larger/],
    ['more than a safe number', { cents: 1e300 }, 'cents', /./],
    ['no amount', { cents: undefined }, 'cents', /missing/],
    ['30 February', { date: '2026-02-30' }, 'date', /calendar/],
    ['a date to come', { date: '2026-11-24' }, 'date', /future/],
    ['a closed fund', { fundId: 3 }, 'fundId', /closed/],
    ['a closed appeal', { appealId: 2 }, 'appealId', /closed/],
    ['a fund that does not exist', { fundId: 99 }, 'fundId', /no such fund/],
    ['nobody', { supporterId: 4_000_000 }, 'supporterId', /no such supporter/],
    ['a method not known', { method: 'seashells' }, 'method', /./],
  ])('refuses %s and names the field', async (_title, over, field, reason) => {
    const before = await test.call('GET', '/gifts?limit=1');
    const { status, body } = await test.call('POST', '/gifts', { supporterId: donor, ...GOOD, ...over });
    expect(status).toBe(400);
    expect((body['error'] as { fields: Record<string, string> }).fields[field]).toMatch(reason);
    expect((await test.call('GET', '/gifts?limit=1')).body['total']).toBe(before.body['total']);
  });

  it('refuses a supporter in the trash', async () => {
    const id = await addPerson(test);
    await test.sql.run(`UPDATE supporter SET state = 'trash' WHERE id = ?`, [id]);
    expect((await test.call('POST', '/gifts', { supporterId: id, ...GOOD })).body['error']).toMatchObject({
      message: expect.stringContaining('trash'),
    });
  });

  it('can be undone, and then counts nowhere', async () => {
    const id = await addPerson(test);
    const made = await test.call('POST', '/gifts', { supporterId: id, ...GOOD });
    expect((await test.call('GET', `/supporters/${id}`)).body['giving']).toMatchObject({ lifetime: 2_500 });
    await test.call('POST', `/changes/${String(made.body['revision'])}/undo`, {});
    expect((await test.call('GET', `/supporters/${id}`)).body['giving']).toMatchObject({ lifetime: 0, count: 0 });
    expect((await test.call('GET', `/gifts/${String(made.body['id'])}`)).status).toBe(404);
  });
});

describe('the list of gifts', () => {
  it('filters, sorts, pages, and sums the whole list on every page', async () => {
    const id = await addPerson(test);
    for (let index = 0; index < 7; index++)
      await addGift(test, id, {
        cents: 100 * (7 - index),
        date: `2026-10-${10 + (index % 3)}`,
        fundId: index % 2 === 0 ? 1 : 2,
        method: 'cash',
      });
    const list = async (query: string) =>
      (await test.call('GET', `/gifts?supporterId=${id}&${query}`)).body as unknown as {
        items: { cents: number; date: string }[];
        next: string | null;
        sum: { count: number; cents: number };
      };
    expect((await list('limit=100')).sum).toEqual({ count: 7, cents: 2_800 });
    expect((await list('fundId=2')).sum).toEqual({ count: 3, cents: 1_200 });
    expect((await list('from=2026-10-11&to=2026-10-11')).sum.count).toBe(2);
    expect((await list('sort=amount')).items.map((gift) => gift.cents)).toEqual([100, 200, 300, 400, 500, 600, 700]);
    const seen: string[] = [];
    let page = await list('sort=-date&limit=2');
    for (;;) {
      expect(page.sum).toEqual({ count: 7, cents: 2_800 });
      seen.push(...page.items.map((gift) => gift.date));
      if (page.next === null) break;
      page = await list(`sort=-date&limit=2&cursor=${page.next}`);
    }
    expect(seen).toEqual(seen.toSorted().reverse());
    expect(seen).toHaveLength(7);
    expect((await list('thanked=yes')).sum).toEqual({ count: 0, cents: 0 });
  });

  it.each(['date,amount', 'date,-amount', '-date,amount', 'amount,-date', '-amount,date', '-date,-amount,date'])(
    'sorts by %s, and pages that begin within a day or an amount leave no gift out',
    async (sort) => {
      const id = await addPerson(test);
      // Three days and three amounts, several gifts of each: pages of two end amid them.
      for (let index = 0; index < 12; index++)
        await addGift(test, id, { cents: 100 * (1 + (index % 3)), date: `2026-10-1${(index >> 1) % 3}` });
      interface One {
        id: number;
        cents: number;
        date: string;
      }
      const list = async (query: string) =>
        (await test.call('GET', `/gifts?supporterId=${id}&sort=${sort}&${query}`)).body as unknown as {
          items: One[];
          next: string | null;
        };
      const keys = sort.split(',').map((part) => ({ down: part.startsWith('-'), by: part.replace('-', '') }));
      const naive = (await list('limit=100')).items.toSorted((a, b) => {
        for (const { by, down } of keys) {
          const [x, y] = by === 'date' ? [a.date, b.date] : [a.cents, b.cents];
          if (x !== y) return x < y !== down ? -1 : 1;
        }
        // A column named twice counts once.
        return sort.startsWith('-date,-') || keys.at(-1)?.down ? b.id - a.id : a.id - b.id;
      });
      const seen: One[] = [];
      let page = await list('limit=2');
      for (;;) {
        seen.push(...page.items);
        if (page.next === null) break;
        page = await list(`limit=2&cursor=${page.next}`);
      }
      expect(seen.map((gift) => gift.id)).toEqual(naive.map((gift) => gift.id));
      expect(seen).toHaveLength(12);
    },
  );

  it('refuses a column that there is not, more than three, and a cursor of another order', async () => {
    const id = await addPerson(test);
    for (const cents of [100, 200]) await addGift(test, id, { cents });
    const ask = (query: string) => test.call('GET', `/gifts?supporterId=${id}&${query}`);
    for (const sort of ['fund', 'date;', 'date,amount,date,amount', ''])
      expect((await ask(`sort=${sort}`)).status).toBe(400);
    const { next } = (await ask('sort=date&limit=1')).body;
    expect((await ask(`sort=date,amount&limit=1&cursor=${String(next)}`)).status).toBe(400);
  });
});

describe('custom fields of a gift', () => {
  it('are read by their kind, shown on the gift, and deleted with their values and back', async () => {
    const made = await test.call(
      'POST',
      '/fields',
      { about: 'gift', name: 'Envelope', kind: 'money' },
      { as: 'admin' },
    );
    const field = Number(made.body['id']);
    const supporterId = await addPerson(test);
    const id = await addGift(test, supporterId, { fields: { [field]: '$1,250' } });
    const shown = async () => (await test.call('GET', `/gifts/${id}`)).body['fields'];
    expect(await shown()).toEqual({ [field]: '125000' });
    const file = (await test.call('GET', `/gifts/export.csv?supporterId=${supporterId}`)).text;
    expect(file).toMatch(/Receipt,Envelope\r\n/);
    expect(file).toMatch(/,"\$1,250\.00"\r\n/);
    const bad = await test.call('POST', '/gifts', {
      supporterId,
      cents: 100,
      date: '2026-11-01',
      fundId: 1,
      fields: { [field]: 'lots' },
    });
    expect(bad.body['error']).toMatchObject({
      fields: { [`fields.${field}`]: expect.stringContaining('not an amount') },
    });
    const gone = await test.call('DELETE', `/fields/${field}?values=1`, undefined, { as: 'admin' });
    expect(await shown()).toEqual({});
    await test.services.changes.undo(TESTER, Number(gone.body['revision']));
    expect(await shown()).toEqual({ [field]: '125000' });
  });

  it('a household’s gifts are listed with everyone’s in it', async () => {
    const home = await test.call('POST', '/supporters', {
      kind: 'household',
      organization: 'Home',
      members: [{ name: 'Lee Park' }],
    });
    const homeId = Number(home.body['id']);
    const { members } = await recordOf(test, homeId);
    await addGift(test, homeId, { cents: 100 });
    await addGift(test, members[0]?.id ?? 0, { cents: 200 });
    expect((await test.call('GET', `/gifts?householdId=${homeId}`)).body['sum']).toEqual({ count: 2, cents: 300 });
    expect((await recordOf(test, homeId)).timeline).toHaveLength(2);
  });
});
