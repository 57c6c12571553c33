import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addPerson, openTestApp, recordedOn } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { asTheyWere, revisionOn, rowsAt } from './known.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const TABLES = ['gift', 'gift_split', 'pledge', 'installment', 'pledge_payment', 'correction'];
const rowsOf = async (name: string): Promise<{ id: number }[]> => test.sql.rows(`SELECT * FROM ${name} ORDER BY id`);
/** Without the version, which counts writes and is not in the history. */
const plain = (rows: readonly { id: number }[]) =>
  [...rows].sort((a, b) => a.id - b.id).map((row) => ({ ...row, version: 0 }));

const act = fc.record({
  do: fc.constantFrom('record', 'split', 'edit', 'correct', 'pledge', 'pay', 'undo'),
  cents: fc.integer({ min: 2, max: 90_000 }),
  which: fc.nat(20),
});

describe('rows as they were at a revision', () => {
  it('are those that were there, whatever was written, changed, removed and undone since', async () => {
    const who = await addPerson(test);
    await fc.assert(
      fc.asyncProperty(fc.array(act, { minLength: 2, maxLength: 8 }), async (acts) => {
        const seen: { revision: number; tables: Record<string, unknown> }[] = [];
        for (const one of acts) {
          await doing(who, one);
          const revision = (await test.sql.rows<{ r: number }>('SELECT MAX(revision) AS r FROM change_set'))[0]?.r ?? 0;
          const tables: Record<string, unknown> = {};
          for (const name of TABLES) tables[name] = plain(await rowsOf(name));
          seen.push({ revision, tables });
        }
        for (const { revision, tables } of seen)
          for (const name of TABLES) {
            const touched = await rowsAt(test.sql, { name }, revision);
            expect([name, plain(asTheyWere(await rowsOf(name), touched))]).toEqual([name, tables[name]]);
          }
      }),
      { numRuns: 12 },
    );
  });

  it('are asked for by their ids alone', async () => {
    const { body } = await test.call('POST', '/gifts', {
      ...{ supporterId: await addPerson(test), cents: 500, date: '2026-11-01', fundId: 1 },
    });
    const id = Number(body['id']);
    expect([...(await rowsAt(test.sql, { name: 'gift' }, Number(body['revision']) - 1, { ids: [id] }))]).toEqual([
      [id, null],
    ]);
    expect((await rowsAt(test.sql, { name: 'gift' }, 0, { ids: [] })).size).toBe(0);
  });
});

describe('data that were loaded whole', () => {
  it('were there always', async () => {
    const { body } = await test.call('POST', '/gifts', {
      ...{ supporterId: await addPerson(test), cents: 700, date: '2026-02-01', fundId: 1 },
    });
    await test.sql.run(`UPDATE change_set SET kind = 'load' WHERE revision = ?`, [body['revision'] as number]);
    expect((await rowsAt(test.sql, { name: 'gift' }, 0)).has(Number(body['id']))).toBe(false);
  });
});

describe('the last revision of a day', () => {
  it('is that of its end in the zone, none before anything was recorded, and any from today on', async () => {
    const first = (await test.sql.rows<{ r: number }>('SELECT MIN(revision) AS r FROM change_set'))[0]?.r ?? 0;
    await recordedOn(test, '2026-05-02');
    await test.sql.run(`UPDATE change_set SET at = '2026-05-02 06:59:59.999' WHERE revision = ?`, [first]);
    const days = { today: '2026-11-23', timeZone: 'America/Los_Angeles' };
    expect(await revisionOn(test.sql, '2026-04-30', days)).toBe(0);
    expect(await revisionOn(test.sql, '2026-05-01', days)).toBe(first);
    expect(await revisionOn(test.sql, '2026-05-02', days)).toBeGreaterThan(first);
    expect(await revisionOn(test.sql, '2026-11-23', days)).toBe(Number.MAX_SAFE_INTEGER);
  });
});

async function doing(supporterId: number, one: { do: string; cents: number; which: number }): Promise<void> {
  const any = async (name: string): Promise<{ id: number; version: number } | undefined> => {
    const rows = await test.sql.rows<{ id: number; version: number }>(
      `SELECT id, version FROM ${name} ORDER BY id DESC`,
    );
    return rows[one.which % Math.max(1, Math.min(rows.length, 6))];
  };
  const draft = { supporterId, cents: one.cents, date: '2026-11-01', fundId: 1, method: 'cash' };
  const half = Math.floor(one.cents / 2);
  const parts = [
    { cents: half, fundId: 2 },
    { cents: one.cents - half, fundId: 1 },
  ];
  const [gift, pledge] = [await any('gift'), await any('pledge')];
  switch (one.do) {
    case 'record':
      return void (await test.call('POST', '/gifts', draft));
    case 'split':
      return void (await test.call('POST', '/gifts', { ...draft, parts }));
    case 'edit':
      return void (await test.call('PUT', `/gifts/${gift?.id ?? 0}`, { ...draft, version: gift?.version ?? 0 }));
    case 'correct':
      return void (await test.call('POST', `/gifts/${gift?.id ?? 0}/corrections`, {
        ...{ kind: 'adjust', version: gift?.version ?? 0, reason: 'Any', ...draft, parts },
      }));
    case 'pledge':
      return void (await test.call('POST', '/pledges', {
        ...{ supporterId, cents: one.cents, pledgedOn: '2026-10-01', fundId: 1 },
        plan: { kind: 'count', schedule: { start: '2026-11-01', every: 'month', lastDay: false }, count: 2 },
      }));
    case 'pay':
      return void (await test.call('POST', `/gifts/${gift?.id ?? 0}/pledge`, {
        ...{ pledgeId: pledge?.id ?? 0, over: 'raise' },
      }));
    default: {
      const sets = await test.sql.rows<{ revision: number }>(
        `SELECT revision FROM change_set WHERE kind = 'gift' AND undone_by IS NULL ORDER BY revision DESC LIMIT 5`,
      );
      const set = sets[one.which % Math.max(1, sets.length)];
      return void (await test.call('POST', `/changes/${set?.revision ?? 0}/undo`, {}));
    }
  }
}
