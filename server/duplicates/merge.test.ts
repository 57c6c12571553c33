import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Comparison } from '@tallystick/contract/duplicates';
import { all } from '@tallystick/core/segments';
import { draftOf } from '@tallystick/contract/supporters';
import { Chance } from '../../demo/random.ts';
import { brokenGuards } from '../platform/guards.ts';
import { declaredTables } from '../platform/tables.ts';
import { actsByChance, ORDER } from '../tests/by-chance.ts';
import { addGift, addPerson, membersOf, openTestApp, recordOf, snapshot } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { MOVED_WORDS } from './words.ts';

/* Records that are one become one: nothing is lost, the old numbers lead on, and it can be taken back at any time. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const compare = async (ids: readonly number[], over: Record<string, unknown> = {}): Promise<Comparison> => {
  const { status, body, text } = await test.call('POST', '/duplicates/compare', { ids, ...over });
  if (status !== 200) throw new Error(text);
  return Comparison.parse(body);
};
const versionOf = async (id: number): Promise<number> => (await recordOf(test, id)).version;
const merge = async (into: number, others: readonly number[], choices: Record<string, number> = {}) =>
  test.call('POST', '/duplicates/merge', {
    into,
    records: await Promise.all([into, ...others].map(async (id) => ({ id, version: await versionOf(id) }))),
    choices,
  });
const merged = async (...asked: Parameters<typeof merge>): Promise<number> => {
  const { status, body, text } = await merge(...asked);
  if (status !== 200) throw new Error(text);
  return Number(body['revision']);
};
const undo = (revision: number, over: Record<string, unknown> = {}) =>
  test.call('POST', `/changes/${revision}/undo`, over, { as: 'admin' });
const code = (answer: { body: Record<string, unknown> }): unknown =>
  (answer.body['error'] as { code?: string } | undefined)?.code;
const field = (comparison: Comparison, key: string) => comparison.fields.find((one) => one.key === key);

describe('every table', () => {
  it('says what becomes of its rows in a merge, and whatever names a supporter is led to who stays', async () => {
    for (const { name, rule } of declaredTables()) {
      expect([name, rule.merging === 'nobody']).toEqual([name, rule.owner === null]);
      expect([name, rule.merging === 'record']).toEqual([name, rule.owner === 'id']);
      // What a comparison tells of has a word.
      const counts = rule.merging === 'move' || (typeof rule.merging === 'object' && 'once' in rule.merging);
      expect([name, name in MOVED_WORDS]).toEqual([name, counts]);
    }
  });
});

describe('a comparison', () => {
  it('proposes the best of each field, says why, and what the merged record will have given', async () => {
    const bob = await addPerson(test, {
      ...{ first: 'BOB', last: 'MARSH', birthday: '--03-14' },
      emails: [
        { address: 'bob@example.org', label: 'home', preferred: true, badOn: '2026-10-01', badReason: 'bounced' },
      ],
      addresses: [],
    });
    const robert = await addPerson(test, {
      ...{ first: 'Robert', last: 'Marsh', birthday: '1961-03-14' },
      emails: [{ address: 'robert@example.org', label: 'home', preferred: true }],
    });
    await addGift(test, bob, { cents: 1_001 });
    await addGift(test, bob, { cents: 2_002, date: '2026-09-01' });
    await addGift(test, robert, { cents: 500, date: '2026-11-20' });
    const before = await snapshot(test.sql);
    const comparison = await compare([robert, bob]);
    expect(comparison).toMatchObject({ into: bob, why: 'it has the most gifts', kind: 'person' });
    expect(field(comparison, 'first')).toMatchObject({ from: robert, why: 'it is not all in capitals', differs: true });
    expect(field(comparison, 'birthday')).toMatchObject({ from: robert, why: 'it has the year' });
    expect(field(comparison, 'nickname')).toMatchObject({ from: bob, differs: false });
    expect(field(comparison, 'email')).toMatchObject({ from: robert, why: 'it still reaches them' });
    // What differs stands first.
    const differing = comparison.fields.map(({ differs }) => differs);
    expect(differing).toEqual(differing.toSorted((a, b) => Number(b) - Number(a)));
    expect(comparison.result).toEqual({
      name: 'Robert Marsh',
      wishes: [],
      given: { gifts: 3, cents: 3_503, firstOn: '2026-09-01', lastOn: '2026-11-20' },
    });
    expect(comparison.carried.map(({ says }) => says)).toEqual(expect.arrayContaining(['1 gift', '1 e-mail address']));
    // Nothing was written by asking.
    expect(await snapshot(test.sql)).toEqual(before);

    const otherwise = await compare([robert, bob], { into: robert, choices: { last: bob } });
    expect(otherwise).toMatchObject({ into: robert, why: '', result: { name: 'Robert MARSH' } });
  });

  it('says what speaks against it', async () => {
    const one = await addPerson(test, { first: 'Ada', last: 'Lowe', suffix: 'Sr.', birthday: '1930-01-01' });
    const other = await addPerson(test, { first: 'Kim', last: 'Stone', suffix: 'Jr.', birthday: '1960-01-01' });
    const kinds = (await test.call('GET', '/relation-kinds')).body['items'] as { id: number; name: string }[];
    const kindId = kinds.find(({ name }) => name === 'parent')?.id;
    await test.call('POST', '/relations', { fromId: one, toId: other, kindId });
    const record = await recordOf(test, one);
    const wishes = [{ kind: 'deceased', source: 'the family', since: null, happenedOn: null }];
    await test.call('PUT', `/supporters/${one}`, { version: record.version, draft: { ...draftOf(record), wishes } });
    const { doubts } = await compare([one, other]);
    for (const part of ['nothing in common', 'different birthdays', 'suffixes', 'deceased', 'is the parent of'])
      expect(doubts.join(' ')).toContain(part);
  });
});

describe('a merge', () => {
  it('keeps both where there may be many, one where both have the same, and the stricter wishes', async () => {
    const address = { street: '4 Lyra Road', city: 'Elko', region: 'NV', postal: '89801', country: '' };
    const one = await addPerson(test, {
      ...{ first: 'Lena', last: 'Orr', tags: ['Board', 'Van'] },
      emails: [{ address: 'lena@example.org', label: 'home', preferred: true }],
      addresses: [{ ...address, label: 'home', preferred: true }],
      wishes: [{ kind: 'no_mail', source: 'a call', since: '2026-05-01', happenedOn: null }],
    });
    const two = await addPerson(test, {
      ...{ first: 'Lena', last: 'Orr', tags: ['Van', 'Docent'] },
      emails: [
        { address: 'Lena@Example.org', label: 'work', preferred: true },
        { address: 'l.orr@example.org', label: 'work', preferred: false },
      ],
      addresses: [{ ...address, street: '4 Lyra Rd', postal: '89801-1234', label: 'home', preferred: true }],
      wishes: [
        { kind: 'no_mail', source: 'a letter', since: '2025-01-01', happenedOn: null },
        { kind: 'no_calls', source: 'a letter', since: '2025-01-01', happenedOn: null },
      ],
    });
    const before = await snapshot(test.sql);
    const revision = await merged(one, [two]);
    const record = await recordOf(test, one);
    expect(record.emails.map((way) => [way.address, way.preferred])).toEqual([
      ['lena@example.org', true],
      ['l.orr@example.org', false],
    ]);
    expect(record.addresses).toHaveLength(1);
    expect(record.tags.map(({ name }) => name).sort()).toEqual(['Board', 'Docent', 'Van']);
    expect(record.wishes.map(({ kind, since }) => [kind, since]).sort()).toEqual([
      ['no_calls', '2025-01-01'],
      ['no_mail', '2025-01-01'],
    ]);
    expect((await undo(revision)).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('leads from the old number to the record, in the API, in search, in what is found, and refuses to write there', async () => {
    const [stays, goes] = [
      await addPerson(test, { first: 'Mira', last: 'Quell' }),
      await addPerson(test, { first: 'Mira', last: 'Quellington' }),
    ];
    await merged(stays, [goes], { last: stays });
    expect((await recordOf(test, goes)).id).toBe(stays);
    const find = async (text: string) =>
      ((await test.call('GET', `/find?q=${encodeURIComponent(text)}`)).body['supporters'] as { id: number }[]).map(
        ({ id }) => id,
      );
    expect(await find(`S-${goes}`)).toEqual([stays]);
    expect(await find('Mira Quellington')).toEqual([stays]);
    const gift = await test.call('POST', '/gifts', {
      ...{ supporterId: goes, cents: 100, date: '2026-11-01', fundId: 1 },
    });
    expect([gift.status, code(gift)]).toEqual([409, 'merged']);
    expect(gift.body['error']).toMatchObject({ details: { mergedInto: stays } });
    const kept = await addGift(test, stays, { cents: 1_234 });
    for (const path of [`/gifts?supporterId=${goes}`, `/gifts?supporterId=${stays}`])
      expect(((await test.call('GET', path)).body['items'] as { id: number }[]).map(({ id }) => id)).toEqual([kept]);
    const card = async (id: number) => (await test.call('GET', `/supporters/${id}/card.vcf`)).text;
    expect(await card(goes)).toBe(await card(stays));
    // Neither can it be put in the trash, restored, or merged again.
    const acted = await test.call('POST', '/supporters/acts', {
      ...{ selection: { kind: 'ids', ids: [goes] }, act: { do: 'restore' } },
    });
    expect(acted.status).toBe(404);
    const again = await test.call('POST', '/duplicates/compare', { ids: [stays, goes] });
    expect([again.status, code(again)]).toEqual([409, 'merged']);
    // Its history is told with that of the record.
    const { body } = await test.call('GET', `/supporters/${stays}/history?limit=10`);
    const summaries = (body['items'] as { summary: string }[]).map(({ summary }) => summary);
    expect(summaries.filter((text) => !text.startsWith('Recorded'))).toEqual([
      `Merged S-${goes} Mira Quellington into S-${stays} Mira Quell`,
      'Added Mira Quellington',
      'Added Mira Quell',
    ]);
  });

  it('takes what is written anew in place of what any of them has, and nothing that the field does not take', async () => {
    const one = await addPerson(test, { first: 'Jo', last: 'Smyth', birthday: '1961-03-14' });
    const two = await addPerson(test, { first: 'Joe', last: 'Smithe', birthday: '1961-03-15' });
    const typed = { first: ' Josephine ', last: 'Smith', birthday: '3/16/1961' };
    const comparison = await compare([one, two], { typed });
    expect(comparison.result.name).toBe('Josephine Smith');
    expect(field(comparison, 'last')?.typed).toBe('Smith');
    expect(field(comparison, 'email')).not.toHaveProperty('typed');
    const records = [
      { id: one, version: 1 },
      { id: two, version: 1 },
    ];
    for (const [wrong, says] of [
      [{ birthday: 'yesterday' }, 'Birthday'],
      [{ email: 'x@example.org' }, 'chosen from what is there'],
      [{ first: '', last: '' }, 'no name'],
      [{ prefix: 'Dr.' }, 'None of the records has anything'],
      [{ first: 'x'.repeat(121) }, '120'],
    ] as const) {
      const refused = await test.call('POST', '/duplicates/merge', { into: one, records, typed: wrong });
      expect([wrong, refused.status]).toEqual([wrong, 400]);
      expect(refused.text).toContain(says);
    }
    const { body } = await test.call('POST', '/duplicates/merge', { into: one, records, typed });
    expect(await recordOf(test, one)).toMatchObject({ name: 'Josephine Smith', birthday: '1961-03-16' });
    await undo(Number(body['revision']));
    expect(await recordOf(test, one)).toMatchObject({ name: 'Jo Smyth', birthday: '1961-03-14' });
  });

  it('is refused of a record that was changed since, of unlike kinds, of one twice, of who is in the trash, and of one alone', async () => {
    const [one, two] = [await addPerson(test), await addPerson(test)];
    const firm = Number(
      (await test.call('POST', '/supporters', { kind: 'organization', organization: 'Quell and Sons' })).body['id'],
    );
    const before = await snapshot(test.sql);
    const stale = await test.call('POST', '/duplicates/merge', {
      ...{
        into: one,
        records: [
          { id: one, version: 1 },
          { id: two, version: 7 },
        ],
      },
    });
    expect([stale.status, code(stale)]).toEqual([409, 'stale']);
    const unlike = await merge(one, [firm]);
    expect([unlike.status, code(unlike)]).toEqual([409, 'unlike-kinds']);
    expect(unlike.text).toContain('Person and organization');
    const ask = (ids: readonly number[], over = {}) => test.call('POST', '/duplicates/compare', { ids, ...over });
    expect((await ask([one, one])).status).toBe(400);
    expect((await ask([one])).status).toBe(400);
    expect((await ask([one, two], { into: firm })).status).toBe(400);
    expect((await ask([one, two], { choices: { first: firm } })).status).toBe(400);
    expect((await ask([one, 999_999])).status).toBe(404);
    expect((await test.call('POST', '/duplicates/compare', { ids: [one, two] }, { as: 'entry' })).status).toBe(403);
    expect(await snapshot(test.sql)).toEqual(before);
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [two] }, act: { do: 'trash' } });
    expect(code(await ask([one, two]))).toBe('in-trash');
  });

  it('makes an edit stale that was begun before it, and says what came', async () => {
    const [stays, goes] = [await addPerson(test), await addPerson(test, { first: 'Ida', last: 'Crane' })];
    const begun = await recordOf(test, stays);
    await merged(stays, [goes], { first: stays, last: stays });
    const draft = { ...draftOf(begun), nickname: 'Nan' };
    const saved = await test.call('PUT', `/supporters/${stays}`, { version: begun.version, draft });
    expect([saved.status, code(saved)]).toEqual([409, 'stale']);
    expect(saved.text).toContain('Ida Crane');
    expect((await recordOf(test, stays)).emails).toHaveLength(2);
  });

  it('by two at once is done once', async () => {
    const ids = [await addPerson(test), await addPerson(test)];
    const records = await Promise.all(ids.map(async (id) => ({ id, version: await versionOf(id) })));
    const [one, other] = ids;
    const answers = await Promise.all(
      [one, other, one].map((into) => test.call('POST', '/duplicates/merge', { into, records })),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409]);
  });

  it('of who was emptied out of the trash leaves no name of the merged ones', async () => {
    const [stays, goes] = [await addPerson(test), await addPerson(test, { first: 'Xanthippe', last: 'Vorobyov' })];
    await addGift(test, goes, { cents: 900 });
    await merged(stays, [goes], { first: stays, last: stays });
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [stays] }, act: { do: 'trash' } });
    const { records } = (await test.call('GET', '/trash')).body;
    expect((await test.call('POST', '/trash/empty', { records }, { as: 'admin' })).status).toBe(200);
    for (const { name } of declaredTables())
      expect([name, JSON.stringify(await test.sql.rows(`SELECT * FROM ${name}`)).includes('Vorobyov')]).toEqual([
        name,
        false,
      ]);
    const rows = await test.sql.rows(
      `SELECT * FROM change_row WHERE CONCAT_WS('', before_json, after_json) LIKE '%Vorobyov%'`,
    );
    expect(rows).toEqual([]);
  });

  it('of a household brings who lives there along; of a person takes their place at home', async () => {
    const home = async (name: string, members: readonly { id: number; primary: boolean }[]) =>
      Number(
        (
          await test.call('POST', '/supporters', {
            ...{ kind: 'household', organization: name },
            members: members.map((member) => ({ ...member, name: '' })),
          })
        ).body['id'],
      );
    const [ana, bo, cy] = [await addPerson(test), await addPerson(test), await addPerson(test)];
    const first = await home('The Anas', [{ id: ana, primary: true }]);
    const second = await home('The Bos', [
      { id: bo, primary: true },
      { id: cy, primary: false },
    ]);
    const before = await snapshot(test.sql);
    const homes = await merged(first, [second]);
    expect((await recordOf(test, first)).members.map(({ id }) => id).sort()).toEqual([ana, bo, cy]);
    const people = await merged(cy, [bo]);
    const household = await recordOf(test, first);
    expect(household.members.map(({ id, primary }) => [id, primary])).toEqual([
      [ana, true],
      [cy, false],
    ]);
    expect((await undo(people)).status).toBe(200);
    expect((await undo(homes)).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('of fifty is one record, with the gifts of all', async () => {
    const ids: number[] = [];
    for (let at = 0; at < 50; at++) {
      ids.push(await addPerson(test, { first: 'Many', last: 'Times' }));
      await addGift(test, ids[at] ?? 0, { cents: 100 + at });
    }
    const before = await snapshot(test.sql);
    const [into = 0, ...others] = ids;
    const revision = await merged(into, others);
    expect((await recordOf(test, into)).giving).toMatchObject({ count: 50, lifetime: 50 * 100 + (49 * 50) / 2 });
    expect((await undo(revision)).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
    const many = await test.call('POST', '/duplicates/compare', { ids: [...ids, into + 1_000] });
    expect(many.status).toBe(400);
  });
});

describe('a merge that is taken back later', () => {
  it('leaves new gifts with who stayed, and what was added to a pledge that goes back goes with it', async () => {
    const [stays, goes] = [await addPerson(test), await addPerson(test)];
    const pledge = await test.call('POST', '/pledges', {
      ...{ supporterId: goes, cents: 9_000, pledgedOn: '2026-10-01', fundId: 1 },
      plan: { kind: 'rows', rows: [{ due: '2026-11-01', cents: 9_000 }] },
    });
    const pledgeId = Number(pledge.body['id']);
    const revision = await merged(stays, [goes]);
    const fresh = await addGift(test, stays, { cents: 4_000, method: 'cash', pays: { pledgeId } });
    expect((await undo(revision)).status).toBe(200);
    const owner = async (table: string, where: string) =>
      (await test.sql.rows<{ of: number }>(`SELECT supporter_id AS of FROM ${table} WHERE ${where}`)).map(
        ({ of }) => of,
      );
    expect(await owner('gift', `id = ${fresh}`)).toEqual([stays]);
    expect(await owner('pledge', `id = ${pledgeId}`)).toEqual([goes]);
    expect(await owner('pledge_payment', `pledge_id = ${pledgeId}`)).toEqual([goes]);
    expect((await recordOf(test, stays)).giving).toMatchObject({ count: 1, lifetime: 4_000 });
    // Done again, it is refused while the old number has nothing new; with something new it says so.
    await addGift(test, goes, { cents: 70 });
    const undone = (await test.call('GET', '/changes?limit=5')).body['items'] as { revision: number; undoes: number }[];
    const again = await undo(undone.find(({ undoes }) => undoes === revision)?.revision ?? 0);
    expect([again.status, code(again)]).toEqual([409, 'merged']);
    expect(again.text).toContain('got more since');
  });

  it('of a chain: the first goes back though the second stands, and then the second', async () => {
    const [a, b, c] = [await addPerson(test), await addPerson(test), await addPerson(test)];
    const gifts: number[] = [];
    for (const id of [a, b, c]) gifts.push(await addGift(test, id, { cents: id }));
    const before = await snapshot(test.sql);
    const first = await merged(b, [a]);
    const second = await merged(c, [b]);
    expect((await recordOf(test, a)).id).toBe(c);
    const donors = async () =>
      (
        await test.sql.rows<{ of: number }>('SELECT supporter_id AS of FROM gift WHERE id IN (?) ORDER BY id', [gifts])
      ).map(({ of }) => of);
    expect(await donors()).toEqual([c, c, c]);
    expect((await undo(first)).status).toBe(200);
    expect(await donors()).toEqual([a, c, c]);
    expect((await recordOf(test, a)).id).toBe(a);
    expect((await recordOf(test, b)).id).toBe(c);
    const blocked = await undo(second);
    const rest = blocked.status === 200 ? blocked : await undo(second, { keepLater: true });
    expect(rest.status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('has a receipt and a deposit stand through both', async () => {
    // Without an e-mail its letter is printed, and nothing is on its way.
    const [stays, goes] = [await addPerson(test, { emails: [] }), await addPerson(test, { emails: [] })];
    const gift = await addGift(test, goes, {
      cents: 30_000,
      parts: [
        { cents: 10_000, fundId: 1 },
        { cents: 20_000, fundId: 2 },
      ],
    });
    const issued = await test.call('POST', '/thanks/issue', { letterId: 1, giftIds: [gift] });
    expect(issued.status).toBe(200);
    const { batchId } = (await test.call('GET', `/gifts/${gift}`)).body;
    const { items } = (await test.call('GET', '/batches?state=open')).body as {
      items: { id: number; version: number }[];
    };
    const batch = items.find(({ id }) => id === batchId);
    await test.call('POST', `/batches/${batch?.id ?? 0}/balance`, { version: batch?.version ?? 0 });
    const deposited = await test.call('POST', '/deposits', {
      ...{ name: 'Monday', date: '2026-11-23', batchIds: [batch?.id ?? 0] },
    });
    expect(deposited.status).toBe(200);
    const before = await snapshot(test.sql);
    const revision = await merged(stays, [goes]);
    expect(await brokenGuards(test.sql)).toEqual([]);
    expect((await recordOf(test, stays)).giving).toMatchObject({ count: 1, lifetime: 30_000 });
    // It is still settled: its money does not change but by a correction.
    const { version } = (await test.call('GET', `/gifts/${gift}`)).body;
    const adjusted = await test.call('POST', `/gifts/${gift}/corrections`, {
      ...{ kind: 'refund', version, reason: 'Asked for it', cents: 1_000 },
    });
    expect(adjusted.status).toBe(200);
    await test.call('POST', `/changes/${String(adjusted.body['revision'])}/undo`, {}, { as: 'admin' });
    expect((await undo(revision)).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  });
});

describe('what named the old number', () => {
  it('is about the record: lists of people, sheets that are being typed, and files', async () => {
    const [stays, goes, other] = [
      await addPerson(test, { first: 'Dora', last: 'Flint' }),
      await addPerson(test, { first: 'Dora', last: 'Flynt' }),
      await addPerson(test),
    ];
    const paste = (text: string) =>
      test.call('POST', '/people-lists?name=Pasted', undefined, { raw: Buffer.from(text) });
    const list = Number((await paste(`S-${goes}\nS-${other}`)).body['id']);
    const columns = ['wholeName', 'amount', 'method'].map((name) => ({ field: name, width: 120 }));
    const sheet = Number((await test.call('POST', '/sheets', { name: 'Typed', columns })).body['id']);
    const row = { key: 'row-1', place: 0, supporterId: goes, change: [] };
    await test.call('PUT', `/sheets/${sheet}/rows`, {
      rows: [{ ...row, cells: { wholeName: 'Dora Flynt', amount: '12', method: 'cash' } }],
    });
    await merged(stays, [goes]);
    expect(await membersOf(test, all({ kind: 'people', list }))).toEqual([stays, other]);
    expect((await paste(`S-${goes}\nS-${stays}`)).body['report']).toMatchObject({ doubled: 1, unknownTotal: 0 });
    expect((await test.call('POST', `/sheets/${sheet}/post`, {})).status).toBe(200);
    const file = `Number,First name,Last name,Amount\nS-${goes},Dora,Flynt,30`;
    const { body } = await test.call('POST', '/intakes?name=old.csv', undefined, { raw: Buffer.from(file) });
    const posted = await test.call('POST', `/intakes/${String(body['id'])}/post`, {});
    await test.jobEnd(Number(posted.body['jobId']));
    expect((await recordOf(test, stays)).giving).toMatchObject({ count: 2, lifetime: 4_200 });
  });

  it('is the list that comes back: only what was changed there is taken, beside what the record says', async () => {
    const [stays, goes] = [
      await addPerson(test, { first: 'Ilse', last: 'Bram', nickname: 'Il' }),
      await addPerson(test, { first: 'Ilsa', last: 'Bram' }),
    ];
    const selection = { kind: 'ids', ids: [goes] };
    const exported = await test.call('POST', '/supporters/export', { selection, as: 'csv', back: true });
    const lines = exported.text
      .replace(/^\uFEFF/, '')
      .split(/\r?\n/)
      .filter(Boolean);
    const [heading = '', line = ''] = lines;
    const at = heading.split(',').indexOf('Nickname');
    expect(at).toBeGreaterThan(0);
    await merged(stays, [goes]);
    const cells = line.split(',');
    cells[at] = 'Issy';
    const file = [heading, cells.join(',')].join('\n');
    const intake = await test.call('POST', '/intakes?name=back.csv', undefined, { raw: Buffer.from(file) });
    const { body } = await test.call('GET', `/intakes/${String(intake.body['id'])}/rows?limit=10`);
    const [rowOf] = body['items'] as { verdict: string; changes: { field: string; was: string; is: string }[] }[];
    // The first name, in which the two differed, was not touched in the list.
    expect(rowOf).toMatchObject({ verdict: 'known' });
    expect(rowOf?.changes.map(({ field: name }) => name)).toEqual(['nickname']);
  });
});

it('by chance: whatever hangs together, a merge loses nothing and an undo restores it all', async () => {
  const chance = new Chance(17);
  const { known, act } = actsByChance(test);
  for (let person = 0; person < 8; person++) known.people.push(await addPerson(test, { emails: [] }));
  for (const organization of ['A Home', 'A Second Home'])
    known.homes.push(Number((await test.call('POST', '/supporters', { kind: 'household', organization })).body['id']));
  const done = new Map<string, number>();
  let went = 0;
  const acts = ORDER.filter((name) => !['merge', 'trash', 'undo', 'close'].includes(name));
  for (let turn = 0; turn < 260; turn++) await act(chance.pick(acts as [string, ...string[]]), chance, done);
  const sums = async () =>
    (
      await test.sql.rows<{ sum: string }>(
        `SELECT CONCAT_WS(' ', (SELECT CONCAT(COUNT(*), ':', SUM(cents)) FROM gift), (SELECT CONCAT(COUNT(*), ':', SUM(cents)) FROM pledge),
           (SELECT CONCAT(COUNT(*), ':', SUM(cents)) FROM pledge_payment), (SELECT COUNT(*) FROM receipt), (SELECT COUNT(*) FROM correction),
           (SELECT COUNT(*) FROM gift_split), (SELECT COUNT(*) FROM note), (SELECT COUNT(*) FROM installment)) AS sum`,
      )
    )[0]?.sum;
  const given = async (ids: readonly number[]): Promise<number> => {
    let cents = 0;
    for (const id of ids) cents += (await recordOf(test, id)).giving.lifetime;
    return cents;
  };
  for (let turn = 0; turn < 12; turn++) {
    const people = [
      ...new Set(Array.from({ length: chance.whole(2, 4) }, () => chance.pick(known.people as [number, ...number[]]))),
    ];
    const [into = 0, ...others] = people;
    if (others.length === 0) continue;
    const [before, was, whole] = [await snapshot(test.sql), await sums(), await given(people)];
    const answer = await merge(into, others);
    // What would make somebody their own ancestor is refused; all else goes.
    if (answer.status !== 200) {
      expect(code(answer)).toBe('tied-in-a-circle');
      continue;
    }
    went++;
    expect(await brokenGuards(test.sql)).toEqual([]);
    expect(await sums()).toBe(was);
    expect(await given([into])).toBe(whole);
    // Merged the other way about, it comes to the same.
    expect((await undo(Number(answer.body['revision']))).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
    const [last = 0] = others;
    const turned = await merge(
      last,
      people.filter((id) => id !== last),
    );
    expect([turned.status, await given([last]), await sums()]).toEqual([200, whole, was]);
    expect((await undo(Number(turned.body['revision']))).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  }
  expect(went).toBeGreaterThan(5);
  // There was something of everything to be lost.
  for (const name of ['record', 'correct', 'pledge', 'put', 'issue', 'tie', 'deposit', 'stock'])
    expect([name, (done.get(name) ?? 0) > 0]).toEqual([name, true]);
}, 240_000);
