import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { all, anyOf, during, gave, not, rows, stateIs, tagged, total } from '@tallystick/core/segments';
import type { Group } from '@tallystick/core/segments';
import { addGift, addPerson, membersOf, openTestApp, readAnew, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { AddressTable, SupporterTable } from '../supporters/index.ts';
import { GiftTable } from '../gifts/index.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const count = async (conditions: Group) =>
  (await test.call('POST', '/segments/count', { conditions })).body as unknown as {
    count: number;
    of: number;
    parts: number[];
    sentences: string[];
  };
const members = (conditions: Group): Promise<number[]> => membersOf(test, conditions);

describe('segments on facts', () => {
  it('know of a gift as soon as it is recorded, changed or undone', async () => {
    const id = await addPerson(test);
    const big = all(total([anyOf('fund', 2)], 77_777));
    expect(await members(big)).toEqual([]);
    const made = await test.call('POST', '/gifts', { supporterId: id, cents: 77_777, date: '2026-11-01', fundId: 2 });
    expect(await members(big)).toEqual([id]);
    await test.call('POST', `/changes/${String(made.body['revision'])}/undo`, {});
    expect(await members(big)).toEqual([]);
  });

  it('never answer with what was true before the question, while writers write', async () => {
    const id = await addPerson(test, { addresses: [{ region: 'OR' }] });
    for (let gifts = 1; gifts <= 15; gifts++) {
      await addGift(test, id, { cents: 1_000 });
      const exactly = all(stateIs('OR'), total([], gifts * 1_000, gifts * 1_000));
      expect((await count(exactly)).count).toBe(1);
    }
  });

  it('agree with SQL over the same database after any changes', async () => {
    const people: number[] = [];
    for (let index = 0; index < 12; index++)
      people.push(
        await addPerson(test, {
          addresses: [{ region: ['NV', 'CA', ''][index % 3] }],
          tags: index % 4 === 0 ? ['Board'] : [],
        }),
      );
    const [tag] = await test.sql.rows<{ id: number }>(`SELECT id FROM tag WHERE name = 'Board'`);
    const act = fc.oneof(
      fc.record({
        do: fc.constant('gift' as const),
        who: fc.constantFrom(...people),
        cents: fc.integer({ min: 1, max: 500 }),
        fund: fc.constantFrom(1, 2),
        day: fc.integer({ min: 1, max: 28 }),
      }),
      fc.record({
        do: fc.constant('region' as const),
        who: fc.constantFrom(...people),
        region: fc.constantFrom('NV', 'CA', 'UT'),
      }),
      fc.record({
        do: fc.constant('trash' as const),
        who: fc.constantFrom(...people),
        state: fc.constantFrom('active' as const, 'trash' as const),
      }),
    );
    await fc.assert(
      fc.asyncProperty(
        fc.array(act, { minLength: 1, maxLength: 6 }),
        fc.constantFrom('NV', 'CA', 'UT'),
        fc.integer({ min: 0, max: 900 }),
        async (acts, region, least) => {
          for (const action of acts)
            await test.services.changes.write(TESTER, { kind: 'edit', summary: 'Random' }, async (tx) => {
              if (action.do === 'gift')
                await tx.insert(GiftTable, {
                  supporter_id: action.who,
                  cents: action.cents,
                  currency: 'USD',
                  date: `2026-09-${String(action.day).padStart(2, '0')}`,
                  fund_id: action.fund,
                  booked_on: '2026-11-01',
                  method: 'cash',
                });
              else if (action.do === 'trash') await tx.update(SupporterTable, action.who, { state: action.state });
              else {
                const rows = await tx.sql.rows<{ id: number }>('SELECT id FROM address WHERE supporter_id = ?', [
                  action.who,
                ]);
                await tx.updateAll(
                  AddressTable,
                  rows.map((row) => row.id),
                  { region: action.region },
                );
              }
            });
          const conditions: Group = {
            kind: 'group',
            join: 'any',
            parts: [
              all(
                stateIs(region),
                total([anyOf('fund', 1), during({ kind: 'between', from: '2026-09-01', to: '2026-09-20' })], least),
              ),
              tagged(tag?.id ?? 0),
            ],
          };
          const rows = await test.sql.rows<{ id: number }>(
            `SELECT s.id FROM supporter s WHERE s.state = 'active' AND (
             (EXISTS (SELECT 1 FROM address a WHERE a.supporter_id = s.id AND a.preferred = 1 AND a.region = ?)
              AND COALESCE((SELECT SUM(cents) FROM gift g WHERE g.supporter_id = s.id AND g.fund_id = 1 AND g.date BETWEEN '2026-09-01' AND '2026-09-20'), 0) >= ?)
             OR EXISTS (SELECT 1 FROM supporter_tag x WHERE x.supporter_id = s.id AND x.tag_id = ?)) ORDER BY s.id`,
            [region, least, tag?.id ?? 0],
          );
          expect(await members(conditions)).toEqual(rows.map((row) => row.id));
        },
      ),
      { numRuns: 25 },
    );
  });

  it('start over after a load that went past the history', async () => {
    const before = (await count(all())).of;
    await test.sql.run(`INSERT INTO supporter (kind, last, sort_name) VALUES ('person', 'Loaded', 'loaded')`);
    expect((await count(all())).of).toBe(before);
    await readAnew(test);
    expect((await count(all())).of).toBe(before + 1);
  });
});

describe('a saved segment', () => {
  it('is counted when it is looked at, changed with its version, and exported harmlessly', async () => {
    const id = await addPerson(test, {
      first: '=HYPERLINK("x")',
      last: 'Evil',
      addresses: [{ region: 'ZZ', street: '1 Main' }],
    });
    await addGift(test, id, { cents: 123_456 });
    const conditions = all(stateIs('ZZ'));
    const made = await test.call('POST', '/segments', { name: 'Far away', conditions });
    const path = `/segments/${String(made.body['id'])}`;
    expect((await test.call('GET', path)).body).toMatchObject({ name: 'Far away', count: 1, conditions });
    const exported = await test.call('GET', `${path}/file`);
    expect(exported.headers.get('content-disposition')).toContain('Far away.csv');
    const [heading, line] = exported.text.replace(/^\uFEFF/, '').split('\r\n');
    expect(heading).toContain('Name,Number,Town,State,E-mail,Lifetime');
    expect(line).toContain(`"'=HYPERLINK(""x"") Evil",S-${id},`);
    const book = await test.call('GET', `${path}/file?as=xlsx`);
    expect(book.bytes.subarray(0, 2).toString()).toBe('PK');
    expect(line).toContain('1234.56');
    expect((await test.call('PUT', path, { name: 'Near', conditions, version: 1 })).status).toBe(200);
    expect((await test.call('PUT', path, { name: 'Stale', conditions, version: 1 })).status).toBe(409);
  });

  it('counts each part by itself and says each condition in words', async () => {
    const { parts, sentences, count: whole } = await count(all(stateIs('ZZ'), not(gave(anyOf('fund', 1)))));
    expect(parts).toHaveLength(2);
    expect(whole).toBe(0);
    expect(sentences).toEqual(['state is ZZ', 'did not give to General Operating']);
  });

  it('explains one supporter with the values that it saw', async () => {
    const id = await addPerson(test, { addresses: [{ region: 'NV' }] });
    const conditions = all(stateIs('CA'), { kind: 'group', join: 'any', parts: [not(gave())] });
    const { body } = await test.call('POST', '/segments/explain', { conditions, supporterId: id });
    expect(body).toEqual({
      matches: false,
      needs: 'state is CA (now NV)',
      lines: [
        { depth: 0, sentence: 'all of these', saw: '', matches: false },
        { depth: 1, sentence: 'state is CA', saw: 'NV', matches: false },
        { depth: 1, sentence: 'any of these', saw: '', matches: true },
        { depth: 2, sentence: 'did not give', saw: '0 gifts', matches: true },
      ],
    });
  });

  it.each([
    ['a condition not known', { kind: 'group', join: 'all', parts: [{ kind: 'shoe size' }] }],
    ['a date that is none', all(gave(during({ kind: 'since', from: '2026-02-30' })))],
    ['a broken join', { kind: 'group', join: 'xor', parts: [] }],
    ['no group', tagged(1)],
    ['a list that there is not', all({ ...gave(), of: 'comets' as 'gifts' })],
    ['a measure that there is not', all(rows('gifts', [], 'weight' as 'sum'))],
  ])('refuses %s', async (_title, conditions) =>
    expect((await test.call('POST', '/segments/count', { conditions })).status).toBe(400),
  );
});
