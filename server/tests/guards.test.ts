import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { brokenGuards, statedGuards } from '../platform/guards.ts';
import { declaredTables } from '../platform/tables.ts';
import { addGift, addPerson, openTestApp } from './support.ts';
import type { Answer, TestApp } from './support.ts';

/* What must hold of the data holds whatever is done at the same time, and whatever is undone. */

let test: TestApp;
let who: number;
beforeAll(async () => {
  test = await openTestApp();
  who = await addPerson(test);
});
afterAll(() => test.close());

const codeOf = ({ body }: Answer): string => String((body['error'] as { code?: string } | undefined)?.code ?? '');
const gift = async (id: number): Promise<Record<string, unknown>> => (await test.call('GET', `/gifts/${id}`)).body;
const undo = (revision: unknown): Promise<Answer> => test.call('POST', `/changes/${String(revision)}/undo`, {});
const edit = async (id: number, over: Record<string, unknown>): Promise<Answer> => {
  const { version } = await gift(id);
  const draft = { supporterId: who, cents: 2_500, date: '2026-11-01', fundId: 1, method: 'cheque', version, ...over };
  return test.call('PUT', `/gifts/${id}`, draft);
};
const adjust = async (id: number, over: Record<string, unknown> = {}): Promise<Answer> => {
  const { version } = await gift(id);
  const { cents = 2_000, fundId = 1, ...rest } = over;
  const body = {
    kind: 'adjust',
    reason: 'It was wrong',
    supporterId: who,
    cents,
    date: '2026-11-01',
    method: 'cheque',
  };
  const parts = [{ cents, fundId, campaignId: null, appealId: null }];
  return test.call('POST', `/gifts/${id}/corrections`, { ...body, parts, version, ...rest });
};
const issue = (giftIds: readonly number[]): Promise<Answer> =>
  test.call('POST', '/thanks/issue', { letterId: 1, giftIds });
const holds = async (): Promise<void> => expect(await brokenGuards(test.sql)).toEqual([]);

describe('the guards', () => {
  it('are about tables that are declared, and about columns of theirs', () => {
    for (const { about } of statedGuards())
      for (const { table, of, columns = [] } of about) {
        const { options } = declaredTables().find(({ name }) => name === table.name) ?? { options: { columns: {} } };
        expect(Object.keys(options.columns)).toEqual(expect.arrayContaining([of, ...columns]));
      }
  });

  it('are each stated once, and say which code a refusal has', () => {
    expect(statedGuards().length).toBeGreaterThan(8);
    for (const { holds: words, code } of statedGuards())
      expect([words, code]).toEqual([expect.stringMatching(/^[A-Z].*[^.]$/), expect.stringMatching(/^[a-z-]+$/)]);
  });

  it('find what was written past them', async () => {
    const id = await addGift(test, who, { method: 'cheque' });
    await adjust(id);
    await test.sql.run('UPDATE gift SET cents = 1 WHERE id = ?', [id]);
    expect((await brokenGuards(test.sql)).map(({ subject, holds: words }) => [subject, words])).toEqual([
      [id, 'A corrected gift is what its last correction made of it'],
    ]);
    await test.sql.run('UPDATE gift SET cents = 2000 WHERE id = ?', [id]);
    await holds();
  });
});

describe('a corrected gift', () => {
  it('is settled: it cannot be edited, nor an edit from before the correction undone', async () => {
    const id = await addGift(test, who, { method: 'cheque' });
    const edited = await edit(id, { fundId: 2 });
    expect(edited.status).toBe(200);
    expect((await adjust(id, { fundId: 2 })).status).toBe(200);
    expect(codeOf(await edit(id, { cents: 9_000 }))).toBe('settled');
    const undone = await undo(edited.body['revision']);
    expect([undone.status, codeOf(undone)]).toEqual([409, 'settled']);
    await holds();
  });

  it('can be corrected again, and the last correction undone and done again', async () => {
    const id = await addGift(test, who, { method: 'cheque' });
    const first = await adjust(id, { cents: 2_000 });
    const second = await adjust(id, { cents: 1_500 });
    expect((await undo(first.body['revision'])).status).toBe(409);
    const undone = await undo(second.body['revision']);
    expect((await gift(id))['cents']).toBe(2_000);
    expect((await undo(undone.body['revision'])).status).toBe(200);
    expect((await gift(id))['cents']).toBe(1_500);
    await holds();
  });
});

describe('a valid receipt', () => {
  it('says what its gift is, though the gift is edited while it is drawn', async () => {
    const id = await addGift(test, who, { method: 'cheque' });
    const { letters } = test.services;
    const get = letters.get.bind(letters);
    let edits = 0;
    letters.get = async (letter) => {
      // Between reading the gift and locking it.
      if (edits++ === 0) expect((await edit(id, { cents: 55_500 })).status).toBe(200);
      return get(letter);
    };
    try {
      expect((await issue([id])).status).toBe(200);
    } finally {
      letters.get = get;
    }
    expect(edits).toBe(2);
    const [receipt] = await test.sql.rows<{ content: string }>('SELECT content FROM receipt WHERE gift_id = ?', [id]);
    expect(receipt?.content).toContain('$555.00');
    await holds();
  });

  it('is never untrue after issues and edits, or issues and voidings, at the same moment', async () => {
    for (let turn = 0; turn < 12; turn++) {
      const id = await addGift(test, who, { method: 'cheque' });
      const { version } = await gift(id);
      const other =
        turn % 2 === 0
          ? edit(id, { cents: 7_000 + turn })
          : test.call('POST', `/gifts/${id}/corrections`, { kind: 'void', version, reason: 'Typed twice' });
      const answers = await Promise.all([issue([id]), other]);
      for (const { status } of answers) expect([200, 409]).toContain(status);
    }
    await holds();
  });

  it('is not made untrue by undoing an edit, nor made twice by undoing its voiding', async () => {
    const id = await addGift(test, who, { method: 'cheque' });
    const edited = await edit(id, { cents: 5_000 });
    await issue([id]);
    expect(codeOf(await undo(edited.body['revision']))).toBe('settled');
    const [receipt] = await test.sql.rows<{ id: number }>('SELECT id FROM receipt WHERE gift_id = ?', [id]);
    const voided = await test.call('POST', `/receipts/${receipt?.id ?? 0}/void`, { reason: 'Wrong letter' });
    expect(voided.status).toBe(200);
    await issue([id]);
    expect((await undo(voided.body['revision'])).status).toBe(409);
    await holds();
  });

  it('is not asked to be made anew where corrections come back to what it says', async () => {
    const id = await addGift(test, who, { method: 'cheque' });
    await issue([id]);
    expect((await adjust(id, { cents: 2_000 })).body['receiptNeeds']).toBe('reissue');
    expect((await adjust(id, { cents: 2_500 })).body['receiptNeeds']).toBe('');
    await holds();
  });

  it('is asked to be made anew where what the donor got for it is corrected', async () => {
    const id = await addGift(test, who, { method: 'cheque', benefitCents: 500, benefit: 'A mug' });
    await issue([id]);
    expect(codeOf(await edit(id, { benefitCents: 900, benefit: 'Two mugs' }))).toBe('settled');
    const corrected = await adjust(id, { cents: 2_500, benefit: { cents: 900, what: 'Two mugs' } });
    expect(corrected.body['receiptNeeds']).toBe('reissue');
    expect(await gift(id)).toMatchObject({ benefitCents: 900, benefit: 'Two mugs', deductibleCents: 1_600 });
    const [correction] = (await gift(id))['corrections'] as { says: string[] }[];
    expect(JSON.stringify(correction)).toContain('goods and services from $5.00 to $9.00');
    expect((await undo(corrected.body['revision'])).status).toBe(200);
    expect(await gift(id)).toMatchObject({ benefitCents: 500, benefit: 'A mug', receiptNeeds: '' });
    await holds();
  });

  it('is not issued for a gift that was taken back', async () => {
    const id = await addGift(test, who, { method: 'cheque' });
    const { version } = await gift(id);
    await test.call('POST', `/gifts/${id}/corrections`, { kind: 'void', version, reason: 'Typed twice' });
    const refused = await issue([id]);
    expect([refused.status, codeOf(refused)]).toEqual([409, 'taken-back']);
  });
});

describe('a deposit and the closed books', () => {
  const batchOf = async (id: number): Promise<{ id: number; version: number }> => {
    const { batchId } = await gift(id);
    const items = (await test.call('GET', '/batches?state=waiting')).body['items'] as { id: number; version: number }[];
    const batch = items.find((one) => one.id === batchId);
    if (!batch) throw new Error('The batch is not there.');
    return batch;
  };

  it('stay what they were beside edits of their gifts', async () => {
    for (let turn = 0; turn < 8; turn++) {
      const id = await addGift(test, who, { method: 'cheque' });
      const batch = await batchOf(id);
      await test.call('POST', `/batches/${batch.id}/balance`, { version: batch.version });
      const deposit = test.call('POST', '/deposits', { name: 'Monday', date: '2026-11-23', batchIds: [batch.id] });
      for (const { status } of await Promise.all([edit(id, { cents: 104_900 }), deposit]))
        expect([200, 409]).toContain(status);
    }
    await holds();
  });

  it('stay what they were when they are closed beside edits of what is booked in them', async () => {
    const close = (through: string | null): Promise<Answer> =>
      test.call('PUT', '/ledger/closed', { through }, { as: 'admin' });
    for (let turn = 0; turn < 8; turn++) {
      const id = await addGift(test, who, { method: 'cheque', date: '2026-09-30' });
      const moved = edit(id, { date: '2026-11-02' });
      for (const { status } of await Promise.all([moved, close('2026-09-30')])) expect([200, 409]).toContain(status);
      await holds();
      expect((await close(null)).status).toBe(200);
    }
  });
});

describe('an installment', () => {
  const pledge = async (): Promise<number> => {
    const plan = { kind: 'rows', rows: [{ due: '2026-11-10', cents: 10_000 }] };
    const { body, text } = await test.call('POST', '/pledges', {
      ...{ supporterId: who, cents: 10_000, fundId: 1, pledgedOn: '2026-11-01', plan, kind: 'pledge' },
    });
    if (!body['id']) throw new Error(text);
    return Number(body['id']);
  };
  const pays = (pledgeId: number, installments: readonly number[] = []) => ({
    ...{ cents: 10_000, date: '2026-11-11', pays: { pledgeId, installments, over: 'beyond' } },
  });

  it('is not settled twice by undoing what made room for another payment', async () => {
    const id = await pledge();
    const first = await addGift(test, who, pays(id));
    const voided = await test.call('POST', `/gifts/${first}/corrections`, {
      ...{ kind: 'void', version: (await gift(first))['version'], reason: 'The check came back' },
    });
    expect(voided.status).toBe(200);
    await addGift(test, who, pays(id));
    const undone = await undo(voided.body['revision']);
    expect([undone.status, codeOf(undone)]).toEqual([409, 'overpaid']);
    await holds();
  });

  it('is paid by somebody else only where that is said', async () => {
    const id = await pledge();
    const other = await addPerson(test);
    const body = { ...pays(id), supporterId: other, fundId: 1 };
    const refused = await test.call('POST', '/gifts', body);
    expect([refused.status, codeOf(refused)]).toEqual([409, 'other-payer']);
    const said = await test.call('POST', '/gifts', { ...body, pays: { ...body.pays, byOther: true } });
    expect(said.status).toBe(200);
    const theirs = await pledge();
    const [row] = await test.sql.rows<{ id: number }>('SELECT id FROM installment WHERE pledge_id = ?', [id]);
    const wrong = await test.call('POST', '/gifts', { ...pays(theirs, [row?.id ?? 0]), supporterId: who, fundId: 1 });
    expect(wrong.status).toBe(400);
    await holds();
  });

  it('named twice in one payment is paid once', async () => {
    const id = await pledge();
    const [row] = await test.sql.rows<{ id: number }>('SELECT id FROM installment WHERE pledge_id = ?', [id]);
    await addGift(test, who, { ...pays(id, [row?.id ?? 0, row?.id ?? 0]), cents: 20_000 });
    const standing = (await test.call('GET', `/pledges/${id}`)).body['standing'] as { paid: number; balance: number };
    expect(standing).toMatchObject({ paid: 10_000, balance: 0 });
  });
});

describe('a tie', () => {
  const tie = (fromId: number, toId: number, kindId: number): Promise<Answer> =>
    test.call('POST', '/relations', { fromId, toId, kindId, title: '', note: '', since: null, until: null });
  const kindNamed = async (name: string): Promise<number> =>
    ((await test.call('GET', '/relation-kinds')).body['items'] as { id: number; name: string }[]).find(
      (kind) => kind.name === name,
    )?.id ?? 0;

  it('that was deleted does not come back beside one made since', async () => {
    const [a, b, spouse] = [await addPerson(test), await addPerson(test), await kindNamed('spouse')];
    const made = await tie(a, b, spouse);
    const deleted = await test.call('DELETE', `/relations/${String(made.body['id'])}`);
    await tie(b, a, spouse);
    const undone = await undo(deleted.body['revision']);
    expect([undone.status, codeOf(undone)]).toEqual([409, 'tied-already']);
    await holds();
  });

  it('of parent and child does not come to run in a circle', async () => {
    const [a, b, parent] = [await addPerson(test), await addPerson(test), await kindNamed('parent')];
    const made = await tie(a, b, parent);
    const deleted = await test.call('DELETE', `/relations/${String(made.body['id'])}`);
    expect((await tie(b, a, parent)).status).toBe(200);
    const undone = await undo(deleted.body['revision']);
    expect([undone.status, codeOf(undone)]).toEqual([409, 'tied-in-a-circle']);
    await holds();
  });
});

describe('stock and what is given in kind', () => {
  const stock = { kind: 'stock', symbol: 'LUNA', shares: '10', meanPrice: '12.5', feeCents: 0 };
  const inKind = { kind: 'in_kind', description: 'Forty folding chairs', estimateBy: 'donor' };
  const contentOf = async (id: number): Promise<string> =>
    (await test.sql.rows<{ content: string }>('SELECT content FROM receipt WHERE gift_id = ?', [id]))[0]?.content ?? '';

  it('names shares no more once the amount is corrected, and values nothing that is not described', async () => {
    const id = await addGift(test, who, { cents: 12_500, method: 'stock', details: stock });
    expect((await adjust(id, { cents: 12_000, method: 'stock' })).status).toBe(200);
    expect((await gift(id))['details']).toBeNull();
    await issue([id]);
    expect(await contentOf(id)).not.toContain('120.00');
    await holds();
  });

  it('does not value goods that something was received for', async () => {
    const over = { cents: 90_000, method: 'in_kind', details: inKind, benefitCents: 5_000, benefit: 'Two seats' };
    const id = await addGift(test, who, over);
    await issue([id]);
    const content = await contentOf(id);
    for (const said of ['Forty folding chairs', 'Two seats', '$50.00']) expect(content).toContain(said);
    for (const kept of ['900.00', '850.00']) expect(content).not.toContain(kept);
  });

  it('is not made of another gift by a correction', async () => {
    const id = await addGift(test, who, { method: 'cheque' });
    expect((await adjust(id, { cents: 2_500, method: 'in_kind' })).status).toBe(400);
  });

  it('comes from a sheet with its note as what was given, and not without', async () => {
    const columns = ['wholeName', 'amount', 'method', 'note'].map((field) => ({ field, width: 100 }));
    const id = Number((await test.call('POST', '/sheets', { name: 'Goods', columns })).body['id']);
    const row = (key: string, place: number, note: string) => ({
      ...{ key, place, supporterId: null, change: [] },
      cells: { wholeName: `Goods Giver${key}`, amount: '40', method: 'In kind', note },
    });
    await test.call('PUT', `/sheets/${id}/rows`, { rows: [row('a', 0, 'A lectern'), row('b', 1, '')], removed: [] });
    const refused = await test.call('POST', `/sheets/${id}/post`, {});
    expect([refused.status, refused.text.includes('what was given in kind')]).toEqual([409, true]);
    await test.call('PUT', `/sheets/${id}/rows`, { rows: [row('b', 1, 'A lamp')], removed: [] });
    expect((await test.call('POST', `/sheets/${id}/post`, {})).status).toBe(200);
    const made = await test.sql.rows<{ said: string }>(
      `SELECT JSON_VALUE(details, '$.description') AS said FROM gift WHERE method = 'in_kind' AND note <> '' ORDER BY id`,
    );
    expect(made.map((one) => one.said)).toEqual(['A lectern', 'A lamp']);
    await holds();
  });
});
