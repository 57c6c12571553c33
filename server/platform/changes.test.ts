import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addGift, addPerson, openTestApp, snapshot, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import type { Transaction } from './transaction.ts';
import { GiftTable } from '../gifts/index.ts';
import { PhoneTable, SupporterTable, TagTable } from '../supporters/index.ts';
import { tableNamed } from './tables.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const tag = (name: string) => ({ name });

describe('writing', () => {
  it('notes every row before and after, and raises the record version once a change set', async () => {
    const id = await addPerson(test, { first: 'Ana', last: 'Cruz' });
    const { revision } = await test.services.changes.write(
      TESTER,
      { kind: 'edit', summary: 'Two edits' },
      async (tx) => {
        await tx.update(SupporterTable, id, { first: 'Anna' });
        await tx.insert(PhoneTable, { supporter_id: id, number: '555-0100', label: 'home', preferred: 1 });
      },
    );
    const rows = await test.sql.rows<{ table_name: string; before_json: string | null; after_json: string }>(
      'SELECT * FROM change_row WHERE revision = ? ORDER BY seq',
      [revision],
    );
    expect(rows.map((row) => row.table_name)).toEqual(['supporter', 'phone']);
    expect(rows.map((row) => (row.before_json === null ? null : JSON.parse(row.before_json)))).toEqual([
      { first: 'Ana' },
      null,
    ]);
    expect(JSON.parse(rows[0]?.after_json ?? '')).toEqual({ first: 'Anna' });
    const [version] = await test.sql.rows<{ version: number }>('SELECT version FROM supporter WHERE id = ?', [id]);
    expect(version?.version).toBe(2);
  });

  it('writes nothing where nothing differs', async () => {
    const id = await addPerson(test, { first: 'Same' });
    const { revision } = await test.services.changes.write(TESTER, { kind: 'edit', summary: 'No edit' }, (tx) =>
      tx.update(SupporterTable, id, { first: 'Same' }),
    );
    expect(revision).toBeNull();
  });

  it('keeps nothing of a change set that fails', async () => {
    const before = await snapshot(test.sql);
    const failing = test.services.changes.write(TESTER, { kind: 'edit', summary: 'Fails' }, async (tx) => {
      await tx.insert(TagTable, tag('never kept'));
      throw new Error('on purpose');
    });
    await expect(failing).rejects.toThrow('on purpose');
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('refuses tables that take no part', async () => {
    await expect(
      test.services.changes.write(TESTER, { kind: 'edit', summary: '' }, async (tx) =>
        tx.insertRows(tableNamed('user'), [{}]),
      ),
    ).rejects.toThrow('no part in change sets');
  });
});

describe('revisions', () => {
  it('come in commit order with none missing, from 50 writers at once', async () => {
    const [begun] = await test.sql.rows<{ value: number }>(`SELECT value FROM counter WHERE name = 'revision'`);
    const committed: number[] = [];
    const stop = test.services.changes.onCommit((revision) => committed.push(revision));
    // A reader that asks all the while: a revision that it has seen means that all before it can be seen too.
    let reading = true;
    const reader = (async () => {
      while (reading) {
        const rows = await test.sql.rows<{ revision: number }>(
          'SELECT revision FROM change_set WHERE revision > ? ORDER BY revision',
          [begun?.value ?? 0],
        );
        rows.forEach((row, index) => expect(row.revision).toBe((begun?.value ?? 0) + index + 1));
      }
    })();
    await Promise.all(
      Array.from({ length: 50 }, (_, writer) =>
        test.services.changes.write(TESTER, { kind: 'edit', summary: `Writer ${writer}` }, async (tx) => {
          await tx.insert(TagTable, tag(`tag of writer ${writer}`));
          await new Promise((resolve) => setTimeout(resolve, (writer * 7) % 30));
          await tx.insert(TagTable, tag(`another of writer ${writer}`));
        }),
      ),
    );
    reading = false;
    await reader;
    stop();
    const revisions = committed.toSorted((a, b) => a - b);
    expect(revisions).toEqual(Array.from({ length: 50 }, (_, index) => (begun?.value ?? 0) + index + 1));
  });

  it('stay exact when writers fight over the same rows', async () => {
    const id = await addPerson(test);
    await Promise.all(
      Array.from({ length: 20 }, (_, writer) =>
        test.services.changes.write(TESTER, { kind: 'edit', summary: `Fight ${writer}` }, (tx) =>
          tx.update(SupporterTable, id, { middle: `M${writer}` }),
        ),
      ),
    );
    const [row] = await test.sql.rows<{ version: number; middle: string }>(
      'SELECT version, middle FROM supporter WHERE id = ?',
      [id],
    );
    expect(row?.version).toBe(21);
    const [last] = await test.sql.rows<{ after_json: string }>(
      `SELECT after_json FROM change_row WHERE table_name = 'supporter' AND row_id = ? ORDER BY revision DESC LIMIT 1`,
      [id],
    );
    expect(JSON.parse(last?.after_json ?? '{}')).toEqual({ middle: row?.middle });
  });
});

describe('idempotency keys', () => {
  it('let one of many equal requests through and answer all alike', async () => {
    const id = await addPerson(test);
    const gift = { supporterId: id, cents: 4_200, date: '2026-11-01', fundId: 1 };
    const answers = await Promise.all(
      Array.from({ length: 8 }, () => test.call('POST', '/gifts', gift, { key: 'the same gift' })),
    );
    expect(new Set(answers.map((answer) => answer.text)).size).toBe(1);
    expect(answers[0]?.status).toBe(200);
    const [count] = await test.sql.rows<{ many: number }>('SELECT COUNT(*) AS many FROM gift WHERE supporter_id = ?', [
      id,
    ]);
    expect(count?.many).toBe(1);
  });

  it('refuse another request under a used key', async () => {
    const id = await addPerson(test);
    const gift = { supporterId: id, cents: 100, date: '2026-11-01', fundId: 1 };
    await test.call('POST', '/gifts', gift, { key: 'reused' });
    const { status, body } = await test.call('POST', '/gifts', { ...gift, cents: 200 }, { key: 'reused' });
    expect(status).toBe(422);
    expect(body['error']).toMatchObject({ code: 'key-reused' });
  });
});

describe('undo', () => {
  const undo = (revision: unknown) => test.call('POST', `/changes/${String(revision)}/undo`, {});

  it('restores rows exactly, for generated change sets, and does them again exactly', async () => {
    const people = [await addPerson(test), await addPerson(test), await addPerson(test)] as const;
    const who = fc.constantFrom(...people);
    const step = fc.oneof(
      fc.record({ do: fc.constant('rename' as const), who, first: fc.constantFrom('Ana', 'Bo', 'Cy', '') }),
      fc.record({ do: fc.constant('phone' as const), who, number: fc.constantFrom('555-0100', '555-0101') }),
      fc.record({ do: fc.constant('drop' as const), who }),
      fc.record({ do: fc.constant('gift' as const), who, cents: fc.integer({ min: 1, max: 9_999 }) }),
      fc.record({ do: fc.constant('move' as const), who, to: who }),
    );
    const act = async (
      tx: Transaction,
      action: typeof step extends fc.Arbitrary<infer S> ? S : never,
    ): Promise<void> => {
      const owned = (table: string) =>
        tx.sql.rows<{ id: number }>(`SELECT id FROM ${table} WHERE supporter_id = ? ORDER BY id`, [action.who]);
      switch (action.do) {
        case 'rename':
          return void (await tx.update(SupporterTable, action.who, { first: action.first }));
        case 'phone':
          return void (await tx.insert(PhoneTable, {
            supporter_id: action.who,
            number: action.number,
            label: 'home',
            preferred: 0,
          }));
        case 'drop':
          return tx.removeAll(
            PhoneTable,
            (await owned('phone')).map((row) => row.id),
          );
        case 'gift':
          return void (await tx.insert(GiftTable, {
            supporter_id: action.who,
            cents: action.cents,
            currency: 'USD',
            date: '2026-11-01',
            booked_on: '2026-11-01',
            fund_id: 1,
            method: 'cash',
          }));
        case 'move':
          return void (await tx.updateAll(
            GiftTable,
            (await owned('gift')).map((row) => row.id),
            { supporter_id: action.to, note: 'moved' },
          ));
      }
    };
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 8 }), async (steps) => {
        const before = await snapshot(test.sql);
        const { revision } = await test.services.changes.write(
          TESTER,
          { kind: 'edit', summary: 'Generated' },
          async (tx) => {
            for (const action of steps) await act(tx, action);
          },
        );
        if (revision === null) return;
        const after = await snapshot(test.sql);
        const undone = await test.services.changes.undo(TESTER, revision);
        expect(await snapshot(test.sql)).toEqual(before);
        await test.services.changes.undo(TESTER, undone.revision);
        expect(await snapshot(test.sql)).toEqual(after);
      }),
      { numRuns: 40 },
    );
  });

  it('names the later change that stands in the way, and writes nothing', async () => {
    const id = await addPerson(test, { first: 'Ana' });
    const rename = (first: string, summary: string) =>
      test.services.changes.write(TESTER, { kind: 'edit', summary }, (tx) => tx.update(SupporterTable, id, { first }));
    const { revision } = await rename('Bo', 'First rename');
    await rename('Cy', 'Second rename');
    const { status, body } = await undo(revision);
    expect(status).toBe(409);
    expect(body['error']).toMatchObject({ code: 'undo-blocked', message: expect.stringContaining('Second rename') });
    const [row] = await test.sql.rows<{ first: string }>('SELECT first FROM supporter WHERE id = ?', [id]);
    expect(row?.first).toBe('Cy');
  });

  it('leaves later changes of other fields alone', async () => {
    const id = await addPerson(test, { first: 'Ana', last: 'Cruz' });
    const { revision } = await test.services.changes.write(TESTER, { kind: 'edit', summary: 'First' }, (tx) =>
      tx.update(SupporterTable, id, { first: 'Bo' }),
    );
    await test.services.changes.write(TESTER, { kind: 'edit', summary: 'Last' }, (tx) =>
      tx.update(SupporterTable, id, { last: 'Dunmore' }),
    );
    expect((await undo(revision)).status).toBe(200);
    const [row] = await test.sql.rows('SELECT first, last FROM supporter WHERE id = ?', [id]);
    expect(row).toEqual({ first: 'Ana', last: 'Dunmore' });
  });

  it('does not take away a record that a later gift hangs on', async () => {
    const added = await test.call('POST', '/supporters', { kind: 'person', first: 'New', last: 'Donor' });
    await addGift(test, Number(added.body['id']));
    const { status, body } = await undo(added.body['revision']);
    expect(status).toBe(409);
    expect(body['error']).toMatchObject({ message: expect.stringMatching(/“.+” \(change \d+, by .+\) depends on it/) });
  });

  it('happens once, also when asked twice at once', async () => {
    const id = await addPerson(test);
    const { revision } = await test.services.changes.write(TESTER, { kind: 'edit', summary: 'Once' }, (tx) =>
      tx.update(SupporterTable, id, { middle: 'X.' }),
    );
    const answers = await Promise.all([undo(revision), undo(revision), undo(revision)]);
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 409, 409]);
    const [set] = await test.sql.rows<{ undone_by: number }>('SELECT undone_by FROM change_set WHERE revision = ?', [
      revision,
    ]);
    expect(set?.undone_by).toBe(Number(answers.find((answer) => answer.status === 200)?.body['revision']));
  });

  it('says why some things cannot be undone', async () => {
    const [load] = await test.sql.rows<{ revision: number }>(
      `SELECT revision FROM change_set WHERE kind = 'load' LIMIT 1`,
    );
    expect((await undo(load?.revision)).body['error']).toMatchObject({
      code: 'not-undoable',
      message: expect.stringContaining('whole data'),
    });
    expect((await undo(999_999)).status).toBe(404);
  });
});
