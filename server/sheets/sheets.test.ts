import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Sheet } from '@tallystick/contract/sheets';
import { killServer, startServer } from '../tests/processes.ts';
import { addGift, addPerson, freshDatabase, openTestApp, recordOf, snapshot, until } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const column = (field: string, over: Record<string, unknown> = {}) => ({ field, width: 120, ...over });
const COLUMNS = [
  column('wholeName'),
  column('amount', { required: true }),
  column('method', { byDefault: 'Check' }),
  column('cheque'),
  column('fund', { byDefault: 'General Operating' }),
  column('email'),
  column('city'),
  column('tag', { hidden: true, byDefault: 'Supper' }),
];
const open = async (over: Record<string, unknown> = {}, app = test): Promise<number> =>
  Number((await app.call('POST', '/sheets', { name: 'Supper', columns: COLUMNS, ...over })).body['id']);
interface Typed {
  cells: Record<string, string>;
  supporterId?: number;
  change?: string[];
}
const type = (id: number, rows: readonly Typed[], app = test) =>
  app.call('PUT', `/sheets/${id}/rows`, {
    rows: rows.map((row, place) => ({ supporterId: null, change: [], ...row, key: `row-${place}`, place })),
  });
const sheet = async (id: number) => Sheet.parse((await test.call('GET', `/sheets/${id}`)).body);
interface Checked {
  rows: {
    key: string;
    status: string;
    problems: { field: string; reason: string }[];
    warnings: unknown[];
    alike: { id: number; why: string }[];
  }[];
  summary: Record<string, unknown>;
  difference: Record<string, unknown>;
}
const check = async (id: number): Promise<Checked> =>
  (await test.call('POST', `/sheets/${id}/check`, {})).body as unknown as Checked;
const post = (id: number, body: Record<string, unknown> = {}, key?: string) =>
  test.call('POST', `/sheets/${id}/post`, body, key ? { key } : {});
const gifts = async (query: string) =>
  (await test.call('GET', `/gifts?limit=1000&${query}`)).body as {
    items: Record<string, unknown>[];
    sum: { cents: number; count: number };
  };

describe('layouts', () => {
  it('are kept by name, replaced under the same name, and refused when they make no sense', async () => {
    const save = (name: string, columns: unknown[]) => test.call('PUT', '/sheet-layouts', { name, columns });
    const first = await save('Envelopes', COLUMNS);
    expect((await save('Envelopes', COLUMNS.slice(0, 2))).body['id']).toBe(first.body['id']);
    const { items } = (await test.call('GET', '/sheet-layouts')).body as { items: { columns: unknown[] }[] };
    expect(items.map((layout) => layout.columns.length)).toEqual([2]);
    expect((await save('Bad', [column('wholeName')])).status).toBe(400);
    const sheetId = await open({ columns: COLUMNS });
    await test.call('DELETE', `/sheet-layouts/${String(first.body['id'])}`);
    expect((await sheet(sheetId)).columns).toHaveLength(COLUMNS.length);
  });
});

describe('what is typed', () => {
  it('is kept as it is typed, row by row, and read back in its order', async () => {
    const id = await open();
    await type(id, [{ cells: { wholeName: 'Ada', amount: '1,0' } }, { cells: { note: ' as  typed ' } }]);
    await test.call('PUT', `/sheets/${id}/rows`, {
      rows: [{ key: 'row-0', place: 5, supporterId: null, cells: { wholeName: 'Ada M' }, change: [] }],
      removed: [],
    });
    expect((await sheet(id)).lines).toMatchObject([
      { key: 'row-1', cells: { note: ' as  typed ' } },
      { key: 'row-0', cells: { wholeName: 'Ada M' } },
    ]);
    await test.call('PUT', `/sheets/${id}/rows`, { rows: [], removed: ['row-1'] });
    expect((await sheet(id)).lines).toHaveLength(1);
  });

  it('records nothing before it is posted', async () => {
    const id = await open();
    const before = await snapshot(test.sql);
    await type(id, [{ cells: { wholeName: 'Nobody Yet', amount: '5' } }]);
    await check(id);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('shows who is known, as the record has them', async () => {
    const who = await addPerson(test, { addresses: [{ street: '1 Main', city: 'Fircone', preferred: true }] });
    await addGift(test, who, { cents: 12_300, date: '2026-10-02' });
    const { people } = (await test.call('GET', `/sheet-people?ids=${who}`)).body as {
      people: Record<string, unknown>[];
    };
    expect(people).toMatchObject([{ id: who, cells: { city: 'Fircone' }, lastGift: '$123.00 on Oct 2, 2026' }]);
  });

  it('of several users stays in their own sheets', async () => {
    const [mine, other] = [await open({ name: 'Mine' }), await open({ name: 'Other' })];
    await Promise.all([
      type(mine, [{ cells: { wholeName: 'A B', amount: '1' } }]),
      type(other, [{ cells: { wholeName: 'C D', amount: '2' } }]),
    ]);
    expect([(await sheet(mine)).lines[0]?.cells['amount'], (await sheet(other)).lines[0]?.cells['amount']]).toEqual([
      '1',
      '2',
    ]);
    await test.call('DELETE', `/sheets/${mine}`);
    expect((await test.call('GET', `/sheets/${mine}`)).status).toBe(404);
    expect((await sheet(other)).lines).toHaveLength(1);
  });
});

describe('the check', () => {
  it('finds somebody whose last name was typed otherwise, by how they are reached', async () => {
    const known = await addPerson(test, {
      ...{ first: 'Wilhelmina', last: 'Ashgrove', emails: [{ address: 'mina@example.org' }] },
      phones: [{ number: '775-555-0177', label: 'home', preferred: true }],
    });
    const id = await open({ columns: [...COLUMNS, column('phone')] });
    await type(id, [{ cells: { wholeName: 'Wilhelmina Ashgorve', amount: '5', phone: '(775) 555-0177' } }]);
    // While all records are read for the first time it is not known.
    await until(async () => (await check(id)).rows[0]?.alike.length === 1);
    expect((await check(id)).rows[0]?.alike).toMatchObject([
      { id: known, why: expect.stringContaining('telephone') as string },
    ]);
  });

  it('marks each cell in words, finds look-alikes, and holds the sums against the control totals', async () => {
    const known = await addPerson(test, {
      first: 'Ottilie',
      last: 'Marchbanks',
      emails: [{ address: 'ottilie@example.org' }],
    });
    const id = await open({ expectedCount: 4, expectedCents: 20_000 });
    await type(id, [
      { supporterId: known, cells: { amount: '$50' } },
      { cells: { wholeName: 'Ottilie Marchbanks', amount: '75', method: 'Cash' } },
      { cells: { wholeName: 'Rufus Penny', amount: '12o', email: 'nobody' } },
      { cells: { wholeName: 'Ines Hall', amount: '60', fund: 'VAN', email: 'OTTILIE@example.org' } },
    ]);
    const { rows, summary, difference } = await check(id);
    expect(rows.map((row) => row.status)).toEqual(['known', 'new', 'new', 'new']);
    expect(rows[1]?.alike).toMatchObject([{ id: known, why: 'the same name' }]);
    expect(rows[3]?.alike).toMatchObject([{ id: known, why: 'the same e-mail' }]);
    expect(rows[2]?.problems.map((problem) => problem.field).sort()).toEqual(['amount', 'email']);
    expect(summary).toMatchObject({
      ...{ rows: 4, known: 1, new: 2, gifts: 3, cents: 18_500, wrong: 1 },
      byFund: [
        { fundId: 1, cents: 12_500, count: 2 },
        { fundId: 2, cents: 6_000, count: 1 },
      ],
      byMethod: [
        { method: 'cheque', cents: 11_000 },
        { method: 'cash', cents: 7_500 },
      ],
    });
    expect(difference).toEqual({ count: -1, cents: -1_500, balanced: false });
  });
});

describe('posting', () => {
  it('writes everything in one change set: known and new, what was asked to change, tags, a batch', async () => {
    const known = await addPerson(test, { addresses: [{ street: '1 Main', city: 'Fircone', preferred: true }] });
    const id = await open({ expectedCount: 3, expectedCents: 16_000 });
    await type(id, [
      { supporterId: known, cells: { amount: '100', email: 'new@example.org', city: 'ignored' }, change: ['email'] },
      { cells: { wholeName: 'Dr. Wilhelmina Drake', amount: '40', method: 'Cash', city: 'Tansy Creek' } },
      { cells: { wholeName: 'Wilhelmina Drake', amount: '20', city: 'Elsewhere' } },
    ]);
    const before = await snapshot(test.sql);
    const { status, body } = await post(id);
    expect([status, body]).toMatchObject([200, { gifts: 3, cents: 16_000, newSupporters: 1 }]);
    const record = await recordOf(test, known);
    expect(record.emails.map((way) => [way.address, way.preferred, way.validTo])).toEqual([
      ['new@example.org', true, null],
      [expect.stringContaining('person'), false, '2026-11-22'],
    ]);
    expect(record.addresses.map((way) => way.city)).toEqual(['Fircone']);
    expect(record.tags.map((tag) => [tag.name, tag.source])).toEqual([['Supper', 'hand']]);
    const batch = String(body['batchId']);
    expect((await gifts(`batchId=${batch}`)).sum).toEqual({ count: 3, cents: 16_000 });
    const { items } = (await test.call('GET', '/batches')).body as { items: { id: number }[] };
    expect(items.find((one) => String(one.id) === batch)).toMatchObject({
      source: 'sheet',
      state: 'balanced',
      count: 3,
    });
    expect(await sheet(id)).toMatchObject({ state: 'posted', revision: body['revision'] });

    expect((await type(id, [{ cells: { wholeName: 'Late' } }])).status).toBe(409);
    expect((await post(id)).status).toBe(409);
    await test.call('POST', `/changes/${String(body['revision'])}/undo`, {});
    const { tag: _tag, ...after } = await snapshot(test.sql);
    const { tag: _before, ...was } = before;
    expect(after).toEqual(was);
    expect(await sheet(id)).toMatchObject({ state: 'open', revision: null });
    expect((await sheet(id)).lines).toHaveLength(3);
    expect((await post(id)).status).toBe(200);
  });

  it('cannot be undone once something of it was receipted', async () => {
    const id = await open();
    await type(id, [{ cells: { wholeName: 'Saffron Ellery', amount: '40' } }]);
    const { body } = await post(id);
    await test.call('POST', '/thanks/issue', { letterId: 1, giftIds: body['giftIds'] });
    const undone = await test.call('POST', `/changes/${String(body['revision'])}/undo`, {});
    expect([undone.status, undone.body['error']]).toEqual([409, expect.objectContaining({ code: 'undo-blocked' })]);
  });

  it('is all or nothing: one wrong row stops it, and says which', async () => {
    const id = await open();
    await type(id, [
      { cells: { wholeName: 'Good Row', amount: '5' } },
      { cells: { wholeName: 'Bad Row', amount: 'five' } },
    ]);
    const before = await snapshot(test.sql);
    const { status, body } = await post(id);
    expect([status, body['error']]).toEqual([
      409,
      expect.objectContaining({ code: 'has-problems', message: expect.stringContaining('row 2') }),
    ]);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('needs a reason where it differs from the control totals, and keeps it with the batch', async () => {
    const id = await open({ expectedCount: 2, expectedCents: 1_000 });
    await type(id, [{ cells: { wholeName: 'Cas Thorne', amount: '5' } }]);
    const refused = await post(id);
    expect(refused.body['error']).toMatchObject({
      code: 'not-balanced',
      message: expect.stringContaining('1 gift fewer and $5.00 less'),
      details: { count: -1, cents: -500 },
    });
    const { body } = await post(id, { reason: 'One envelope was empty' });
    const { items } = (await test.call('GET', '/batches')).body as { items: { id: number; reason: string }[] };
    expect(items.find((one) => one.id === body['batchId'])?.reason).toBe('One envelope was empty');
  });

  it('happens once, though it is asked for twice at once', async () => {
    const id = await open();
    await type(id, [{ cells: { wholeName: 'Once Only', amount: '7.77' } }]);
    const answers = await Promise.all([post(id, {}, 'post once'), post(id, {}, 'post once'), post(id)]);
    expect(answers.filter((answer) => answer.status === 200).length).toBeGreaterThanOrEqual(1);
    expect((await gifts('atLeast=777&atMost=777')).items).toHaveLength(1);
  });

  it('and typing never pass each other: a row is posted, or typing it is refused', async () => {
    const id = await open();
    await type(id, [{ cells: { wholeName: 'First Row', amount: '3.33' } }]);
    const late = {
      key: 'late',
      place: 9,
      supporterId: null,
      cells: { wholeName: 'Late Row', amount: '3.33' },
      change: [],
    };
    const [posted, typed] = await Promise.all([
      post(id),
      test.call('PUT', `/sheets/${id}/rows`, { rows: [late], removed: [] }),
    ]);
    expect(posted.status).toBe(200);
    expect((await gifts('atLeast=333&atMost=333')).items).toHaveLength(typed.status === 200 ? 2 : 1);
  });

  it('has nothing to post in an empty sheet', async () =>
    expect((await post(await open())).body['error']).toMatchObject({ code: 'nothing-to-post' }));
});

describe('a great many rows', () => {
  it('of rubbish are each marked and none is written', async () => {
    const id = await open();
    const rubbish = [
      '',
      '=1+1',
      '<b>x</b>',
      '12o',
      '💫',
      '2026-99-99',
      'a\tb',
      "'; DROP TABLE gift",
      '-',
      '1e9',
      'null',
      '%',
    ];
    const rows = Array.from({ length: 5_000 }, (_, place) => ({
      cells: Object.fromEntries(
        [
          'wholeName',
          'amount',
          'method',
          'cheque',
          'fund',
          'email',
          'city',
          'date',
          'note',
          'phone',
          'postal',
          'region',
        ].map((field, index) => [field, rubbish[(place * 7 + index * 5) % rubbish.length] ?? '']),
      ),
    }));
    const before = await snapshot(test.sql);
    for (let at = 0; at < rows.length; at += 2_500)
      await test.call('PUT', `/sheets/${id}/rows`, {
        rows: rows
          .slice(at, at + 2_500)
          .map((row, index) => ({
            ...{ ...row, key: `r${at + index}`, place: at + index, supporterId: null, change: [] },
          })),
      });
    const { summary } = await check(id);
    expect(summary).toMatchObject({ rows: 5_000, wrong: 5_000, gifts: 0 });
    expect((await post(id)).body['error']).toMatchObject({ code: 'has-problems' });
    expect(await snapshot(test.sql)).toEqual(before);
  });
});

describe('on paper', () => {
  it('is a PDF with every row', async () => {
    const id = await open({ name: 'Añadir & 文' });
    await type(
      id,
      Array.from({ length: 80 }, (_, place) => ({ cells: { wholeName: `Guest ${place}`, amount: '5' } })),
    );
    const { bytes, headers } = await test.call('GET', `/sheets/${id}/print.pdf`);
    expect([headers.get('content-type'), bytes.subarray(0, 5).toString()]).toEqual(['application/pdf', '%PDF-']);
    expect(bytes.toString('latin1').match(/\/Type \/Page\b/g)?.length).toBeGreaterThan(1);
  });
});

describe('killed in the middle of posting (SIGKILL)', () => {
  it('leaves nothing of it, every typed row, and a sheet that posts once afterwards', async () => {
    const databaseUrl = await freshDatabase();
    const app = await openTestApp({ databaseUrl });
    const { secret } = await app.services.accounts.addToken({ userId: null, name: 'Tester' }, 'kill', 'officer');
    const id = await open({}, app);
    const rows = Array.from({ length: 2_000 }, (_, place) => ({
      cells: { wholeName: `Guest Number${place}`, amount: '5' },
    }));
    await type(id, rows, app);
    const before = await snapshot(app.sql);
    for (const wait of [150, 400, 700]) {
      const server = await startServer(databaseUrl);
      const asked = fetch(`${server.said[0]}/api/v1/sheets/${id}/post`, {
        method: 'POST',
        headers: { Authorization: `Bearer ${secret}`, 'Content-Type': 'application/json', 'Idempotency-Key': 'kill' },
        body: '{}',
      }).then(
        () => 'answered',
        () => 'cut',
      );
      await new Promise((resolve) => setTimeout(resolve, wait));
      await killServer(server);
      const many = async (): Promise<number> =>
        (await app.sql.rows<{ many: number }>('SELECT COUNT(*) AS many FROM gift'))[0]?.many ?? -1;
      if ((await asked) === 'cut') await until(async () => [0, 2_000].includes(await many()));
      expect([0, 2_000]).toContain(await many());
      if ((await many()) === 0) expect(await snapshot(app.sql)).toEqual(before);
    }
    expect((await app.call('GET', `/sheets/${id}`)).body['rows']).toBe(2_000);
    await app.call('POST', `/sheets/${id}/post`, {}, { key: 'kill' });
    const sum = (await app.call('GET', '/gifts?limit=1')).body['sum'];
    expect(sum).toEqual({ count: 2_000, cents: 1_000_000 });
    await app.close();
  });
});
