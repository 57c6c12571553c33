import { parse } from 'csv-parse/sync';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { tablePdf } from '../letters/index.ts';
import { addGift, addPerson, openTestApp, recordOf } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* Many at once on the same money, and what lists and files say of every kind of gift. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const pledge = async (supporterId: number, cents: number): Promise<number> =>
  Number(
    (
      await test.call('POST', '/pledges', {
        ...{ supporterId, cents, pledgedOn: '2026-10-01', fundId: 1 },
        plan: { kind: 'rows', rows: [{ due: '2026-11-01', cents }] },
      })
    ).body['id'],
  );
const statuses = async (asked: Promise<{ status: number }>[]): Promise<number[]> =>
  (await Promise.all(asked)).map((answer) => answer.status).sort();

describe('at once', () => {
  it('six payments of all of a pledge settle it once; the others are asked what becomes of theirs', async () => {
    const who = await addPerson(test);
    const pledgeId = await pledge(who, 5_000);
    const pay = () =>
      test.call('POST', '/gifts', {
        ...{ supporterId: who, cents: 5_000, date: '2026-11-02', fundId: 1, method: 'cash', pays: { pledgeId } },
      });
    expect(await statuses(Array.from({ length: 6 }, pay))).toEqual([200, 409, 409, 409, 409, 409]);
    expect((await test.call('GET', `/pledges/${pledgeId}`)).body).toMatchObject({
      standing: { pledged: 5_000, paid: 5_000, balance: 0 },
    });
    expect((await recordOf(test, who)).giving).toMatchObject({ lifetime: 5_000, count: 1 });
  });

  it('payments and write-offs never settle more than was pledged', async () => {
    const who = await addPerson(test);
    const pledgeId = await pledge(who, 10_000);
    const { version } = (await test.call('GET', `/pledges/${pledgeId}`)).body;
    await Promise.all([
      ...Array.from({ length: 4 }, () =>
        test.call('POST', '/gifts', {
          ...{ supporterId: who, cents: 3_000, date: '2026-11-02', fundId: 1, method: 'cash' },
          pays: { pledgeId, over: 'beyond' },
        }),
      ),
      test.call('POST', `/pledges/${pledgeId}/write-off`, { version, cents: 4_000, date: '2026-11-02', reason: 'Any' }),
    ]);
    const { standing } = (await test.call('GET', `/pledges/${pledgeId}`)).body as {
      standing: { pledged: number; paid: number; writtenOff: number; balance: number };
    };
    expect(standing.pledged).toBe(10_000);
    expect(standing.paid + standing.writtenOff + standing.balance).toBe(10_000);
    expect(standing.balance).toBeGreaterThanOrEqual(0);
  });

  it('two refunds of the same gift are noted once', async () => {
    const id = await addGift(test, await addPerson(test), { cents: 900 });
    const body = { kind: 'refund', version: 1, reason: 'Asked for it', cents: 400 };
    const ask = () => test.call('POST', `/gifts/${id}/corrections`, body);
    expect(await statuses([ask(), ask(), ask()])).toEqual([200, 409, 409]);
    expect((await test.call('GET', `/gifts/${id}`)).body['cents']).toBe(500);
  });

  it('a batch goes to the bank once', async () => {
    await addGift(test, await addPerson(test));
    const { items } = (await test.call('GET', '/batches?state=open')).body as {
      items: { id: number; version: number }[];
    };
    const [batch] = items;
    await test.call('POST', `/batches/${batch?.id ?? 0}/balance`, { version: batch?.version ?? 0 });
    const deposit = () =>
      test.call('POST', '/deposits', { name: 'Twice', date: '2026-11-23', batchIds: [batch?.id ?? 0] });
    expect(await statuses([deposit(), deposit(), deposit()])).toEqual([200, 409, 409]);
  });

  it('two sheets with the same new person both post, each with its own', async () => {
    const columns = ['wholeName', 'amount'].map((field) => ({ field, width: 100 }));
    const sheets = await Promise.all(
      ['One', 'Two'].map(async (name) => {
        const id = Number((await test.call('POST', '/sheets', { name, columns })).body['id']);
        const row = {
          key: 'a',
          place: 0,
          supporterId: null,
          cells: { wholeName: 'Una Same', amount: '5' },
          change: [],
        };
        await test.call('PUT', `/sheets/${id}/rows`, { rows: [row], removed: [] });
        return id;
      }),
    );
    expect(await statuses(sheets.map((id) => test.call('POST', `/sheets/${id}/post`, {})))).toEqual([200, 200]);
  });
});

describe('lists and files', () => {
  it('find every kind of gift by its word', async () => {
    const [who, other] = [await addPerson(test), await addPerson(test)];
    const pledgeId = await pledge(who, 700);
    const made: Record<string, number> = {
      split: await addGift(test, who, {
        cents: 20,
        parts: [
          { cents: 10, fundId: 1 },
          { cents: 10, fundId: 2 },
        ],
      }),
      credited: await addGift(test, who, { credits: [{ supporterId: other, kind: 'peer', cents: 5 }] }),
      tribute: await addGift(test, who, { tribute: { kind: 'honour', name: 'Ada' } }),
      benefit: await addGift(test, who, { benefitCents: 100 }),
      pledge: await addGift(test, who, { cents: 700, pays: { pledgeId } }),
      match: await addGift(test, who, { match: { supporterId: other, cents: 5 } }),
      corrected: await addGift(test, who, { cents: 300 }),
    };
    await test.call('POST', `/gifts/${made['corrected'] ?? 0}/corrections`, { kind: 'void', version: 1, reason: 'x' });
    for (const [kind, id] of Object.entries(made)) {
      const { items } = (await test.call('GET', `/gifts?supporterId=${who}&kind=${kind}`)).body as {
        items: { id: number }[];
      };
      expect([kind, items.map((gift) => gift.id)]).toEqual([kind, [id]]);
    }
    expect((await test.call('GET', `/gifts?supporterId=${who}&state=void`)).body['total']).toBe(1);
    const file = await test.call('GET', `/gifts/export.csv?supporterId=${who}`);
    const rows: Record<string, string>[] = parse(file.text, { columns: true, bom: true });
    expect(rows).toHaveLength(7);
    expect(rows.find((row) => row['Goods and services'] === '1.00')).toMatchObject({
      Amount: '25.00',
      Deductible: '24.00',
    });
    expect(rows.filter((row) => row['State'] === 'void')).toMatchObject([{ Amount: '0.00' }]);
    expect(rows.some((row) => row['Fund'] === 'General Operating + Telescope Van')).toBe(true);
  });

  it('fall to the same facets by facts and by the database', async () => {
    type Facets = { facets: { by: string; items: { key: string; count: number; cents: number }[] }[] };
    const ask = async (query: string): Promise<Facets> =>
      (await test.call('GET', `/gifts/facets?${query}`)).body as unknown as Facets;
    const sorted = ({ facets }: Facets) =>
      facets.map(({ by, items }) => [by, items.map(({ key, count, cents }) => `${key} ${count} ${cents}`).sort()]);
    // Amounts are asked of the database; every gift with anything left is at least a cent.
    expect(sorted(await ask('from=2026-01-01'))).toEqual(sorted(await ask('from=2026-01-01&atLeast=1')));
    expect(sorted(await ask('fundId=2'))).toEqual(sorted(await ask('fundId=2&atLeast=1')));
    expect(sorted(await ask('fundId=2'))).not.toEqual(sorted(await ask('')));
  });
});

describe('the sum of a list', () => {
  const sumOf = async (query: string) =>
    (await test.call('GET', `/gifts?limit=1&${query}`)).body['sum'] as { count: number; cents: number };
  const part = (fundId: number, cents: number, campaignId: number | null = null) => ({ fundId, cents, campaignId });

  it('counts of a split gift the part that went where the list looks, and the gift once', async () => {
    const who = await addPerson(test);
    await addGift(test, who, { cents: 1_000, parts: [part(1, 400, 1), part(2, 350), part(2, 250, 1)] });
    await addGift(test, who, { cents: 70, fundId: 2 });
    const sums = (query: string) => sumOf(`supporterId=${who}&${query}`);
    expect(await sums('')).toEqual({ count: 2, cents: 1_070 });
    expect(await sums('fundId=2')).toEqual({ count: 2, cents: 670 });
    expect(await sums('fundId=2&campaignId=1')).toEqual({ count: 1, cents: 250 });
    expect(await sums('campaignId=1')).toEqual({ count: 1, cents: 650 });
    const { items } = (await test.call('GET', `/gifts?supporterId=${who}&fundId=1&campaignId=1`)).body as {
      items: { cents: number }[];
    };
    expect(items.map((gift) => gift.cents)).toEqual([1_000]);
  });

  it('is found by no two parts of a gift where only both together are what is looked for', async () => {
    const who = await addPerson(test);
    await addGift(test, who, { cents: 100, parts: [part(1, 60, 1), part(2, 40)] });
    const { total, items } = (await test.call('GET', `/gifts?supporterId=${who}&fundId=2&campaignId=1`)).body;
    expect([total, items]).toEqual([0, []]);
  });

  it('numbers gifts of which nothing is left, as the list shows them', async () => {
    const who = await addPerson(test);
    const id = await addGift(test, who, { cents: 300, fundId: 2 });
    await addGift(test, who, { cents: 200, fundId: 2 });
    await test.call('POST', `/gifts/${id}/corrections`, { kind: 'void', version: 1, reason: 'Twice' });
    expect(await sumOf(`supporterId=${who}&fundId=2`)).toEqual({ count: 2, cents: 200 });
    expect(await sumOf(`supporterId=${who}`)).toEqual({ count: 2, cents: 200 });
  });

  it.each(['', 'fundId=2', 'campaignId=1&method=cheque', 'from=2026-06-01&to=2026-11-10', 'appealId=1&fundId=1'])(
    'is the same by facts and by the database: %j',
    async (query) => {
      // Amounts are asked of the database.
      expect(await sumOf(query)).toEqual(await sumOf(`${query}&atLeast=0`));
    },
  );
});

describe('a table on paper', () => {
  const pages = (pdf: Buffer): number => pdf.toString('latin1').match(/\/Type \/Page\b/g)?.length ?? 0;
  const table = (many: number) =>
    tablePdf({
      ...{ title: 'Añadir 文 مريم', facts: ['One line', ''], sums: [['All', '$5.00']] },
      columns: [
        { heading: 'Who', share: 3 },
        { heading: 'Amount', share: 1, right: true },
      ],
      rows: Array.from({ length: many }, (_, row) => [`Someone ${row} ${'x'.repeat(row % 90)}`, '$5.00']),
    });
  it('has a page where it is empty, and more where it is long', async () => {
    expect(pages(await table(0))).toBe(1);
    expect(pages(await table(300))).toBeGreaterThan(4);
  });
});
