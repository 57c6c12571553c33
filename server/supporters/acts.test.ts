import readSheets from 'read-excel-file/node';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { all, inGroup } from '@tallystick/core/segments';
import { readCards } from '@tallystick/core/vcard';
import { addGift, addPerson, openTestApp, recordOf, snapshot, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { SupporterTable } from './supporter.entity.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const people = async (many: number, over: object = {}): Promise<number[]> => {
  const ids: number[] = [];
  for (let index = 0; index < many; index++) ids.push(await addPerson(test, { ...over }));
  return ids;
};
const act = (ids: readonly number[], what: object) =>
  test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids }, act: what });
const choices = async (list: 'tags' | 'groups') =>
  (await test.call('GET', '/choices')).body[list] as { id: number; name: string; count: number }[];

describe('an act on many', () => {
  it.each([
    ['a tag', { do: 'tag', name: 'Van friend', put: true }, { tags: [{ name: 'Van friend', source: 'hand' }] }],
    [
      'a wish',
      { do: 'wish', wish: 'no_calls', put: true, source: 'reply card' },
      { wishes: [{ kind: 'no_calls', source: 'reply card' }] },
    ],
    [
      'a task',
      { do: 'task', title: 'Call', due: '2026-12-01', ownerId: null },
      { pending: { tasks: [{ title: 'Call' }] } },
    ],
    ['the trash', { do: 'trash' }, { trashed: true }],
  ])('%s is one change set, and undone as one', async (_case, what, expected) => {
    const ids = await people(3);
    const before = await snapshot(test.sql);
    const { body } = await act(ids, what);
    expect(body).toMatchObject({ asked: 3, changed: 3, jobId: null });
    for (const id of ids) expect(await recordOf(test, id)).toMatchObject(expected);
    await test.services.changes.undo(TESTER, Number(body['revision']));
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('says for how many something differed, and takes back', async () => {
    const ids = await people(3);
    await act(ids.slice(0, 1), { do: 'tag', name: 'Half', put: true });
    expect((await act(ids, { do: 'tag', name: 'half', put: true })).body).toMatchObject({ asked: 3, changed: 2 });
    expect((await act(ids, { do: 'tag', name: 'Half', put: false })).body).toMatchObject({ changed: 3 });
    expect((await act(ids, { do: 'tag', name: 'never seen', put: false })).body).toMatchObject({
      changed: 0,
      revision: null,
    });
  });

  it('fills in a custom field, refusing what is no value before anything is written', async () => {
    const made = await test.call(
      'POST',
      '/fields',
      { about: 'supporter', name: 'Size', kind: 'one', choices: ['S', 'L'] },
      { as: 'admin' },
    );
    const fieldId = Number(made.body['id']);
    const ids = await people(2);
    expect((await act(ids, { do: 'field', field: `own:${fieldId}`, value: 's' })).body).toMatchObject({ changed: 2 });
    expect((await act(ids.slice(0, 1), { do: 'field', field: `own:${fieldId}`, value: 'L' })).body).toMatchObject({
      changed: 1,
    });
    expect((await recordOf(test, ids[0] ?? 0)).fields).toEqual([{ fieldId, typed: 'L', shown: 'L' }]);
    expect((await act(ids, { do: 'field', field: `own:${fieldId}`, value: 'XL' })).text).toContain(
      'is not one of S, L',
    );
    expect((await act(ids, { do: 'field', field: `own:${fieldId}`, value: '' })).body).toMatchObject({ changed: 2 });
  });

  it('goes for a whole list but for some, and by a job when there are thousands', async () => {
    await test.services.changes.write(TESTER, { kind: 'edit', summary: 'many' }, (tx) =>
      tx.insertAll(
        SupporterTable,
        Array.from({ length: 1200 }, (_, index) => ({
          kind: 'organization',
          organization: `Shop ${index}`,
          sort_name: `shop ${String(index).padStart(4, '0')}`,
        })),
      ),
    );
    const first = (await test.call('GET', '/supporters?kind=organization&limit=2')).body['items'] as { id: number }[];
    const selection = { kind: 'list', filter: { kind: 'organization' }, except: [first[0]?.id] };
    const { body } = await test.call('POST', '/supporters/acts', {
      selection,
      act: { do: 'tag', name: 'Shops', put: true },
    });
    expect(body).toMatchObject({ asked: 1199, changed: null });
    expect(await test.jobEnd(Number(body['jobId']))).toMatchObject({ state: 'done', message: '1199 of 1199 changed' });
    expect((await choices('tags')).find((tag) => tag.name === 'Shops')?.count).toBe(1199);
    const [newest] = (await test.call('GET', '/changes?limit=1')).body['items'] as {
      summary: string;
      revision: number;
    }[];
    expect(newest?.summary).toBe('Tagged Shops: 1,199 supporters');
    await test.services.changes.undo(TESTER, newest?.revision ?? 0);
    expect((await choices('tags')).find((tag) => tag.name === 'Shops')).toBeUndefined();
  });

  it('ties many to one other and ends such ties; who is tied so already, and the other, are passed over', async () => {
    const company = await addPerson(test, {
      kind: 'organization',
      organization: 'Sagebrush Tools',
      first: '',
      last: '',
    });
    const ids = await people(3);
    const { items: kinds } = (await test.call('GET', '/relation-kinds')).body as {
      items: { id: number; name: string; back: string }[];
    };
    const employer = kinds.find(({ name }) => name === 'employer')?.id ?? 0;
    const tie = (over: object) => ({
      do: 'tie',
      role: employer * 2,
      otherId: company,
      put: true,
      on: '2026-03-01',
      ...over,
    });
    const tiesOf = async (id: number) =>
      ((await test.call('GET', `/supporters/${id}/relations`)).body['items'] as Record<string, unknown>[]).map(
        ({ role, since, until }) => [role, since, until],
      );
    const before = await snapshot(test.sql);
    expect((await act(ids.slice(0, 1), tie({}))).body).toMatchObject({ changed: 1 });
    const all = await act([...ids, company], tie({ on: '2026-04-01' }));
    expect(all.body).toMatchObject({ asked: 4, changed: 2 });
    expect(await tiesOf(ids[0] ?? 0)).toEqual([['employer', '2026-03-01', null]]);
    expect(await tiesOf(ids[2] ?? 0)).toEqual([['employer', '2026-04-01', null]]);
    // Seen from the other end it is the same tie.
    expect((await act([company], tie({ role: employer * 2 + 1, otherId: ids[0] }))).body).toMatchObject({ changed: 0 });

    const ended = await act(ids, tie({ put: false, on: '2026-03-15' }));
    expect(ended.body).toMatchObject({ changed: 3 });
    expect(await tiesOf(ids[0] ?? 0)).toEqual([['employer', '2026-03-01', '2026-03-15']]);
    expect(await tiesOf(ids[2] ?? 0)).toEqual([['employer', '2026-04-01', '2026-04-01']]);
    expect((await act(ids, tie({ put: false }))).body).toMatchObject({ changed: 0 });
    await test.services.changes.undo(TESTER, Number(ended.body['revision']));
    await test.services.changes.undo(TESTER, Number(all.body['revision']));
    expect(await tiesOf(ids[2] ?? 0)).toEqual([]);
    expect((await snapshot(test.sql))['tag']).toEqual(before['tag']);
  });

  it('ties nobody where one of them cannot be tied so, or there is no such tie', async () => {
    const [one = 0, two = 0, child = 0] = await people(3);
    const { body } = await test.call('GET', '/relation-kinds');
    const parent = (body['items'] as { id: number; name: string }[]).find(({ name }) => name === 'parent')?.id ?? 0;
    const tie = { do: 'tie', put: true, on: null };
    expect((await act([child], { ...tie, role: parent * 2, otherId: one })).status).toBe(200);
    // Nobody is their own grandparent: the whole act is refused, who would do included.
    expect((await act([two, one], { ...tie, role: parent * 2, otherId: child })).status).toBe(400);
    const { items } = (await test.call('GET', `/supporters/${two}/relations`)).body as { items: unknown[] };
    expect(items).toEqual([]);
    expect((await act([two], { ...tie, role: 99_998, otherId: one })).status).toBe(400);
    expect((await act([two], { ...tie, role: parent * 2, otherId: 999_999 })).status).toBe(404);
  });

  it('is not for who may only enter gifts', async () =>
    expect(
      (
        await test.call(
          'POST',
          '/supporters/acts',
          { selection: { kind: 'ids', ids: [1] }, act: { do: 'trash' } },
          { as: 'entry' },
        )
      ).status,
    ).toBe(403));
});

describe('tags and groups', () => {
  it('are merged: who has both keeps one, and all comes back by undo', async () => {
    const [a = 0, b = 0, c = 0] = await people(3);
    await act([a, b], { do: 'tag', name: 'Stars', put: true });
    await act([b, c], { do: 'tag', name: 'Star', put: true });
    const tags = await choices('tags');
    const id = (name: string) => tags.find((tag) => tag.name === name)?.id;
    const before = await snapshot(test.sql);
    const { body } = await test.call('POST', `/tags/${id('Star')}/merge`, { intoId: id('Stars') });
    expect(body).toMatchObject({ moved: 1, had: 1 });
    for (const one of [a, b, c]) expect((await recordOf(test, one)).tags.map((tag) => tag.name)).toEqual(['Stars']);
    await test.services.changes.undo(TESTER, Number(body['revision']));
    expect(await snapshot(test.sql)).toEqual(before);
    expect((await test.call('POST', `/tags/${id('Star')}/merge`, { intoId: id('Star') })).status).toBe(400);
    expect((await test.call('PUT', `/tags/${id('Star')}`, { name: 'Stars' })).text).toContain('merge the two');
  });

  it('are deleted only with the number of records that lose them, and come back', async () => {
    const ids = await people(2);
    await act(ids, { do: 'tag', name: 'Doomed', put: true });
    const id = (await choices('tags')).find((tag) => tag.name === 'Doomed')?.id;
    const refused = await test.call('DELETE', `/tags/${id}?records=0`);
    expect([refused.status, refused.text.includes('2 records have the tag Doomed')]).toEqual([409, true]);
    const before = await snapshot(test.sql);
    const gone = await test.call('DELETE', `/tags/${id}?records=2`);
    expect((await recordOf(test, ids[0] ?? 0)).tags).toEqual([]);
    await test.services.changes.undo(TESTER, Number(gone.body['revision']));
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('groups are kept by hand and asked for by segments', async () => {
    const made = await test.call('POST', '/groups', { name: 'Board' });
    const groupId = Number(made.body['id']);
    const ids = await people(2);
    await act(ids, { do: 'group', groupId, put: true });
    expect(await choices('groups')).toEqual([{ id: groupId, name: 'Board', count: 2 }]);
    const conditions = all(inGroup(groupId));
    const counted = await test.call('POST', '/segments/count', { conditions });
    expect(counted.body).toMatchObject({ count: 2, sentences: ['is in a group: Board'] });
    expect((await test.call('PUT', `/groups/${groupId}`, { name: 'Trustees' })).status).toBe(200);
    expect((await act(ids, { do: 'group', groupId: 999, put: true })).status).toBe(400);
    expect((await test.call('DELETE', `/groups/${groupId}?records=2`)).status).toBe(200);
  });

  it('a custom field is deleted only with the number of values that go with it', async () => {
    const made = await test.call(
      'POST',
      '/fields',
      { about: 'supporter', name: 'Doomed', kind: 'text' },
      { as: 'admin' },
    );
    const id = Number(made.body['id']);
    await people(2, { fields: { [id]: 'x' } });
    const path = `/fields/${id}`;
    expect((await test.call('DELETE', path, undefined, { as: 'admin' })).text).toContain(
      '2 records have a value in Doomed',
    );
    expect((await test.call('DELETE', `${path}?values=2`, undefined, { as: 'admin' })).status).toBe(200);
    const list = await test.call(
      'POST',
      '/fields',
      { about: 'supporter', name: 'List', kind: 'one', choices: ['a', 'b'] },
      { as: 'admin' },
    );
    await people(1, { fields: { [String(list.body['id'])]: 'b' } });
    const change = { version: 1, name: 'List', choices: ['a'] };
    expect((await test.call('PUT', `/fields/${String(list.body['id'])}`, change, { as: 'admin' })).text).toContain(
      'Records have the choice “b”',
    );
    expect(
      (await test.call('POST', '/supporters', { first: 'x', fields: { [String(list.body['id'])]: 'z' } })).body[
        'error'
      ],
    ).toMatchObject({ fields: { [`fields.${String(list.body['id'])}`]: '“z” is not one of a, b.' } });
  });
});

describe('the trash', () => {
  it('is restored in one act, and emptied by an administrator with the figures; gifts stay in every total', async () => {
    const [giver = 0, other = 0] = [await addPerson(test, { first: 'Private', last: 'Person' }), await addPerson(test)];
    await addGift(test, giver, { cents: 4_200 });
    const all = async () => (await test.call('GET', '/gifts?limit=1')).body['sum'];
    const sum = await all();
    await act([giver, other], { do: 'trash' });
    expect((await test.call('GET', '/supporters?q=private')).body['total']).toBe(0);
    expect((await test.call('GET', '/supporters?trashed=yes')).body['total']).toBe(2);
    await act([giver], { do: 'restore' });
    expect((await test.call('GET', '/supporters?q=private')).body['total']).toBe(1);
    await act([giver], { do: 'trash' });
    expect((await test.call('GET', '/trash')).body).toEqual({ records: 2, withGifts: 1, gifts: 1, cents: 4_200 });
    expect((await test.call('POST', '/trash/empty', { records: 2 })).status).toBe(403);
    expect((await test.call('POST', '/trash/empty', { records: 1 }, { as: 'admin' })).text).toContain(
      'The trash holds 2 records now',
    );
    const emptied = await test.call('POST', '/trash/empty', { records: 2 }, { as: 'admin' });
    expect(emptied.status).toBe(200);
    expect(await all()).toEqual(sum);
    expect((await test.call('GET', `/supporters/${giver}`)).status).toBe(404);
    const gifts = (await test.call('GET', `/gifts?supporterId=${giver}`)).body['items'] as { supporterName: string }[];
    expect(gifts[0]?.supporterName).toBe('Removed supporter');
    expect(await test.sql.rows('SELECT id FROM supporter WHERE id = ?', [other])).toEqual([]);
    const traces = await test.sql.rows<{ n: number }>(
      `SELECT COUNT(*) AS n FROM change_row WHERE CONCAT(COALESCE(before_json, ''), COALESCE(after_json, '')) LIKE '%Private%'`,
    );
    expect(traces[0]?.n).toBe(0);
    expect((await test.call('GET', '/supporters?trashed=yes')).body['total']).toBe(0);
  });
});

describe('files of supporters', () => {
  it('are CSV, a workbook with numbers, and cards', async () => {
    const id = await addPerson(test, {
      first: 'Ana',
      last: '=1+1',
      tags: ['A', 'B'],
      birthday: '1961-03-14',
      phones: [{ number: '(775) 555-0142', label: 'mobile' }],
    });
    await addGift(test, id, { cents: 123_456 });
    const file = (as: string) => test.call('POST', '/supporters/export', { selection: { kind: 'ids', ids: [id] }, as });
    expect((await file('csv')).text).toContain('1234.56');
    // A formula is made text in CSV; in a workbook text is text.
    expect((await file('csv')).text).toContain(`'=1+1`);
    const sheets = await readSheets((await file('xlsx')).bytes);
    expect(sheets.map(({ sheet }) => sheet)).toEqual(['Supporters']);
    const [headings = [], row = []] = sheets[0]?.data ?? [];
    const cell = (heading: string): unknown => row[headings.indexOf(heading)];
    expect(
      ['Number', 'Last name', 'Telephone', 'Total given', 'Gifts', 'Nickname', 'Salutation', 'Household'].map(cell),
    ).toEqual([`S-${id}`, '=1+1', '(775) 555-0142', 1234.56, 1, null, 'Ana', null]);
    expect(cell('First gift')).toEqual(new Date('2026-11-01T00:00:00Z'));
    const [card] = readCards((await file('vcf')).text);
    expect(card).toMatchObject({
      first: 'Ana',
      birthday: '1961-03-14',
      tags: ['A', 'B'],
      phones: [{ label: 'mobile' }],
    });
    const three = await test.call('GET', `/supporters/${id}/card.vcf?version=3.0`);
    expect(three.text).toContain('VERSION:3.0');
    const drafts = (await test.call('POST', '/supporters/read-card', { text: three.text })).body['items'];
    expect(drafts).toMatchObject([{ draft: { kind: 'person', first: 'Ana', birthday: '1961-03-14' }, remarks: [] }]);
  });

  it('for a mailing hold back whom the wishes hold back, by the way of the mailing, and say whom', async () => {
    const add = (last: string, more: object) => addPerson(test, { last, ...more });
    const address = { street: '4 Lyra Rd', city: 'Ely', region: 'NV', postal: '89937' };
    const fine = await add('Fine', { addresses: [address] });
    const held = {
      'wants no mail': await add('NoMail', { addresses: [address], wishes: [{ kind: 'no_mail' }] }),
      'no address': await add('Nowhere', {}),
      'address is undeliverable': await add('Moved', { addresses: [{ ...address, badOn: '2026-01-02' }] }),
      deceased: await add('Late', { addresses: [address], wishes: [{ kind: 'deceased' }] }),
      'in the trash': await add('Trashed', { addresses: [address] }),
    };
    const selection = { kind: 'ids', ids: [fine, ...Object.values(held)] };
    await test.call('POST', '/supporters/acts', {
      selection: { kind: 'ids', ids: [held['in the trash']] },
      act: { do: 'trash' },
    });
    const asked = { selection, for: 'mail', purpose: 'news' };
    const { body } = await test.call('POST', '/supporters/export/check', asked);
    expect([body['asked'], body['held']]).toEqual([6, 5]);
    const some = body['some'] as { supporterId: number; reason: string }[];
    expect(Object.fromEntries(some.map((one) => [one.reason, one.supporterId]))).toEqual(held);
    const { bytes } = await test.call('POST', '/supporters/export', { ...asked, as: 'xlsx' });
    const [kept, left] = await readSheets(bytes);
    expect([kept?.data.length, left?.sheet, left?.data.length]).toEqual([2, 'Held back', 6]);
    const calling = { selection, for: 'call', purpose: 'news', as: 'callbook' };
    const [toCall, silent] = await readSheets((await test.call('POST', '/supporters/export', calling)).bytes);
    expect([toCall?.sheet, toCall?.data[0]?.slice(0, 3), silent?.sheet]).toEqual([
      ...['Calls', ['Number', 'Name', 'Telephone'], 'Held back'],
    ]);
    expect((toCall?.data.length ?? 0) + (silent?.data.length ?? 0) - 2).toBe(6);
    expect((await test.call('POST', '/supporters/export', { ...calling, for: 'mail' })).status).toBe(400);
    // Labels and call sheets are of the same people, and of no other use.
    const made = async (as: string, over: object = {}) =>
      test.call('POST', '/supporters/export', { ...asked, ...over, as });
    const labels = [await made('labels30'), await made('labels10')];
    expect(labels.map(({ status, text }) => [status, text.startsWith('%PDF')])).toEqual([
      [200, true],
      [200, true],
    ]);
    expect((await made('calls')).status).toBe(400);
    expect((await made('labels30', { for: 'call' })).status).toBe(400);
    expect((await made('calls', { for: 'call' })).text.startsWith('%PDF')).toBe(true);
    // To look at, only what is in the trash is left out; who looks through the trash gets it.
    const office = await test.call('POST', '/supporters/export/check', { selection });
    expect(office.body).toMatchObject({ asked: 6, held: 1, some: [{ reason: 'in the trash' }] });
    const only = { selection: { kind: 'ids', ids: [held['in the trash']] } };
    expect((await test.call('POST', '/supporters/export/check', only)).body).toMatchObject({ asked: 1, held: 0 });
  });

  it('says of a card what it was taken as, and what was left out', async () => {
    const card = [
      'VERSION:4.0',
      'N:Sorrel;Ana;;;',
      'FN:Ana Sorrel',
      'EMAIL:ana@example.org>',
      'EMAIL:ana@@here',
      'TEL:7',
    ];
    const text = ['BEGIN:VCARD', ...card, 'END:VCARD', ''].join('\r\n');
    expect((await test.call('POST', '/supporters/read-card', { text })).body['items']).toMatchObject([
      {
        draft: { last: 'Sorrel', emails: [{ address: 'ana@example.org' }], phones: [] },
        remarks: [
          '“ana@example.org>” was taken as ana@example.org.',
          '“ana@@here” is not an e-mail address and was left out.',
          '“7” is not a telephone number and was left out.',
        ],
      },
    ]);
  });
});

describe('who looks alike while one types', () => {
  it.each<[string, object, object]>([
    ['swapped', { first: 'Zorah', last: 'Quennell' }, { first: 'Quennell', last: 'Zorah' }],
    ['a double last name', { first: 'Ulric', last: 'Ainsley' }, { first: 'Ulric', last: 'Ainsley-Boone' }],
    [
      'a last name with an address',
      { first: 'Perdita', last: 'Vosburgh', addresses: [{ street: '71 Umber Lane', city: 'Ely' }] },
      { last: 'Vosburgh', addresses: [{ street: '71 Umber Ln', city: 'Ely', region: '', postal: '', country: '' }] },
    ],
    [
      'The before a firm',
      { kind: 'organization', organization: 'Umbrel Foundation' },
      { kind: 'organization', organization: 'The Umbrel Foundation' },
    ],
    [
      'Inc. after a firm',
      { kind: 'organization', organization: 'Ochre Foundation' },
      { kind: 'organization', organization: 'Ochre Foundation, Inc.' },
    ],
  ])('%s', async (_what, known, typed) => {
    const id = await addPerson(test, { first: '', last: '', emails: [], ...known });
    const { body } = await test.call('POST', '/supporters/notice', typed);
    expect((body['alike'] as { id: number }[]).map((one) => one.id)).toContain(id);
  });
});

describe('what is noticed while one types', () => {
  it('says who looks the same and why, and how telephones and addresses are better written', async () => {
    const id = await addPerson(test, {
      first: 'William',
      last: 'Yarrow',
      addresses: [{ street: '434 Perseid Pl', city: 'Ely' }],
    });
    const { body } = await test.call('POST', '/supporters/notice', {
      first: 'Bill',
      last: 'Yarow',
      phones: ['7755550142', 'ask Ruth'],
      addresses: [{ street: '434 PERSEID PLACE', city: 'Ely', region: 'nevada', postal: '899371234', country: '' }],
    });
    expect((body['alike'] as object[]).slice(0, 1)).toMatchObject([
      { id, reasons: ['a short form of the first name, a slip in the last name', 'same address 434 PERSEID PLACE'] },
    ]);
    expect(body['phones']).toEqual([
      { index: 0, text: '(775) 555-0142', remark: '' },
      { index: 1, text: 'ask Ruth', remark: 'no digits in it' },
    ]);
    expect(body['addresses']).toMatchObject([
      { address: { street: '434 Perseid Pl', region: 'NV', postal: '89937-1234' } },
    ]);
    expect(
      (await test.call('POST', '/supporters/notice', { id, first: 'William', last: 'Yarrow' })).body['alike'],
    ).toEqual([]);
  });
});

describe('find-anything', () => {
  it('finds gifts by number, receipt, check and amount, beside supporters', async () => {
    const id = await addPerson(test, {
      first: 'Zenobia',
      last: 'Quist',
      nickname: 'Zen',
      formerLast: 'Marlow',
      addresses: [{ street: '77 Zodiac Way' }],
    });
    const gift = await addGift(test, id, { cents: 77_123, method: 'cheque', cheque: '90210' });
    await test.call('POST', '/thanks/issue', { letterId: 1, giftIds: [gift] });
    const find = async (q: string) =>
      (await test.call('GET', `/find?q=${encodeURIComponent(q)}`)).body as unknown as {
        supporters: { id: number }[];
        gifts: { id: number; by: string }[];
        alike: number;
      };
    for (const q of ['zenob', 'quist zen', 'marlow', 'zodiac', 'zenobya', 'kwist zenobia'])
      expect([q, (await find(q)).supporters[0]?.id]).toEqual([q, id]);
    expect((await find('zenobya')).alike).toBe(1);
    for (const [q, by] of [
      [`G-${gift}`, 'number'],
      ['90210', 'check 90210'],
      ['$771.23', 'amount'],
      ['771.23', 'amount'],
      ['2026-1', 'receipt 2026-000001'],
    ] as const)
      expect([q, (await find(q)).gifts]).toMatchObject([q, [{ id: gift, by }]]);
    for (const q of ['%', "'", '2026-', '9'.repeat(60), 'g-999999999'])
      expect((await test.call('GET', `/find?q=${encodeURIComponent(q)}`)).status).toBe(200);
  });
});

describe('a field of the catalogue', () => {
  it('is given to many: on their records, or the addresses they are reached at', async () => {
    const former = { street: '1 Old Rd', city: 'Old', validTo: '2020-01-01', preferred: false };
    const [a, b] = await people(2, { addresses: [{ street: '2 New Rd', city: 'Elko NV' }, former] });
    const ids = [a ?? 0, b ?? 0, ...(await people(1))];
    const shop = await addPerson(test, { kind: 'organization', organization: 'Shop', first: '', last: '' });
    const before = await snapshot(test.sql);
    const town = await act(ids, { do: 'field', field: 'town', value: ' Elko ' });
    expect(town.body).toMatchObject({ asked: 3, changed: 2 });
    expect((await recordOf(test, ids[0] ?? 0)).addresses.map(({ city }) => city)).toEqual(['Elko', 'Old']);
    await test.services.changes.undo(TESTER, Number(town.body['revision']));
    expect(await snapshot(test.sql)).toEqual(before);
    // A state is kept by its code, of the country that the address is in.
    const abroad = await addPerson(test, { addresses: [{ city: 'Perth', country: 'Australia' }] });
    await act([...ids, abroad], { do: 'field', field: 'state', value: 'nevada' });
    const stateOf = async (id: number) => (await recordOf(test, id)).addresses[0]?.region;
    expect([await stateOf(ids[0] ?? 0), await stateOf(abroad)]).toEqual(['NV', 'nevada']);
    // Who is of another kind has no such field.
    expect((await act([...ids, shop], { do: 'field', field: 'title', value: 'Dr.' })).body).toMatchObject({
      changed: 3,
    });
    expect((await act([...ids, shop], { do: 'field', field: 'organization-kind', value: 'club' })).body).toMatchObject({
      changed: 1,
    });
    expect(await recordOf(test, shop)).toMatchObject({ prefix: '', orgKind: 'club' });
    expect((await act([shop], { do: 'field', field: 'organization-kind', value: '' })).body).toMatchObject({
      changed: 1,
    });
    for (const [field, value, says] of [
      ['organization-kind', 'guild', 'is not one of company'],
      ['title', 'x'.repeat(31), 'at most 30'],
      ['last', 'Doe', 'no such field'],
      ['__proto__', 'x', 'no such field'],
      ['own:999999', 'x', ''],
    ] as const) {
      const refused = await act(ids, { do: 'field', field, value });
      expect([field, refused.status]).toEqual([field, 400]);
      expect(refused.text).toContain(says);
    }
  });
});
