import readSheets from 'read-excel-file/node';
import { parse } from 'csv-parse/sync';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { supporterNumber } from '@tallystick/core/supporters';
import { draftOf } from '@tallystick/contract/supporters';
import { addPerson, openTestApp, recordOf, snapshot } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* A list goes out, is changed in a spreadsheet, and comes back, while the records go on. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const HOME = { street: '12 Lyra St\nApt 4', city: 'Elko', region: 'NV', postal: '89801' };
const person = (first: string, last = 'Listed') =>
  addPerson(test, {
    ...{ first, last, birthday: '1961-03-14', addresses: [HOME], tags: ['Docent'] },
    ...{ emails: [{ address: `${first.toLowerCase()}@example.org` }], phones: [{ number: '775-555-0142' }] },
  });
const edit = async (id: number, over: object) => {
  const record = await recordOf(test, id);
  const draft = { version: record.version, draft: { ...draftOf(record), ...over } };
  expect((await test.call('PUT', `/supporters/${id}`, draft)).status).toBe(200);
};
const listOf = async (ids: number[], as = 'csv') => {
  const selection = { kind: 'ids', ids };
  const { text, bytes } = await test.call('POST', '/supporters/export', { selection, as, back: true });
  const [headings = [], ...rows] = as === 'csv' ? (parse(text, { bom: true }) as string[][]) : [];
  const rowOf = (id: number) => rows.find(([number]) => number === supporterNumber(id)) ?? [];
  const quoted = (cell: string): string => `"${cell.replaceAll('"', '""')}"`;
  return {
    bytes,
    put: (id: number, heading: string, cell: string) => (rowOf(id)[headings.indexOf(heading)] = cell),
    csv: () => [headings, ...rows].map((cells) => cells.map(quoted).join(',')).join('\n'),
  };
};
const upload = async (name: string, bytes: Buffer | string) =>
  Number((await test.call('POST', `/intakes?name=${name}`, undefined, { raw: Buffer.from(bytes) })).body['id']);
const judged = async (id: number) =>
  (await test.call('GET', `/intakes/${id}/rows?limit=20`)).body as unknown as {
    items: {
      verdict: string;
      says: string;
      warnings: { field: string }[];
      supporterId: number | null;
      changes: { field: string; before: string; after: string; kept: boolean; conflict: boolean }[];
    }[];
    questions: { says: string }[];
  };
const changed = ({ items }: Awaited<ReturnType<typeof judged>>, id: number) =>
  (items.find(({ supporterId }) => supporterId === id)?.changes ?? []).map(({ field, after, kept, conflict }) => [
    field,
    after,
    kept,
    conflict,
  ]);

describe('a list that comes back', () => {
  it.each(['csv', 'xlsx'])('as it went out changes nothing and asks nothing (%s)', async (as) => {
    const id = await person('Same');
    const list = await listOf([id], as);
    // Whatever is changed here meanwhile.
    await edit(id, {
      nickname: 'Sam',
      last: 'Later',
      addresses: [],
      emails: [{ address: 'later@example.org', label: 'home' }],
    });
    const { items, questions } = await judged(await upload(`same.${as}`, list.bytes));
    expect([questions, items.map(({ verdict, changes }) => [verdict, changes])]).toEqual([[], [['known', []]]]);
  });

  it('puts tags on and takes them off as it says, brings none back that was taken off here, and is taken back', async () => {
    const [eva, fay] = [await person('Eva'), await person('Fay')];
    const list = await listOf([eva, fay]);
    list.put(eva, 'Tags', 'Usher');
    await edit(fay, { tags: [] });
    const before = await snapshot(test.sql);
    const id = await upload('tags.csv', list.csv());
    const found = await judged(id);
    expect(changed(found, eva)).toEqual([['tag', 'Usher', false, false]]);
    expect(changed(found, fay)).toEqual([]);
    const posted = await test.call('POST', `/intakes/${id}/post`, {});
    expect(await test.jobEnd(Number(posted.body['jobId']))).toMatchObject({ state: 'done' });
    const tagsOf = async (one: number) => (await recordOf(test, one)).tags.map(({ name }) => name);
    expect([await tagsOf(eva), await tagsOf(fay)]).toEqual([['Usher'], []]);
    const { revision } = (await test.call('GET', `/intakes/${id}`)).body;
    expect((await test.call('POST', `/changes/${String(revision)}/undo`, {})).status).toBe(200);
    expect((await test.call('DELETE', `/intakes/${id}`)).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('brings what was changed in it, says what was changed here too, and is taken back whole', async () => {
    const [ada, ben, cleo] = [await person('Ada'), await person('Ben'), await person('Cleo')];
    const list = await listOf([ada, ben, cleo]);
    list.put(ada, 'Last name', 'Married');
    list.put(ada, 'City', 'Carlin');
    list.put(ada, 'Birthday', '');
    list.put(ben, 'Last name', 'Married');
    list.put(ben, 'E-mail', 'other@example.org');
    await edit(ben, { last: 'Divorced', emails: [{ address: 'now@example.org', label: 'home' }] });
    await edit(cleo, { last: 'Elsewhere' });
    const before = await snapshot(test.sql);
    const id = await upload('back.csv', list.csv());
    const found = await judged(id);
    expect(found.questions).toEqual([]);
    expect([ada, ben, cleo].map((one) => changed(found, one))).toEqual([
      [
        ['last', 'Married', false, false],
        ['birthday', '', false, false],
        ['street', '12 Lyra St, Apt 4, Carlin, NV 89801', false, false],
      ],
      [
        ['last', 'Married', true, true],
        ['email', 'other@example.org', false, true],
      ],
      [],
    ]);
    const posted = await test.call('POST', `/intakes/${id}/post`, {});
    expect(await test.jobEnd(Number(posted.body['jobId']))).toMatchObject({ state: 'done' });
    expect(await recordOf(test, ada)).toMatchObject({
      ...{ last: 'Married', birthday: '' },
      addresses: [{ street: HOME.street, city: 'Carlin' }],
    });
    const { last, emails } = await recordOf(test, ben);
    expect([last, emails.map(({ address, preferred }) => [address, preferred])]).toEqual([
      'Divorced',
      expect.arrayContaining([
        ['now@example.org', true],
        ['other@example.org', false],
      ]),
    ]);
    expect((await recordOf(test, cleo)).last).toBe('Elsewhere');
    const { revision } = (await test.call('GET', `/intakes/${id}`)).body;
    expect((await test.call('POST', `/changes/${String(revision)}/undo`, {})).status).toBe(200);
    expect((await test.call('DELETE', `/intakes/${id}`)).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('of which one column was sorted alone is asked about: a number is of whom it was then', async () => {
    const [una, max] = [await person('Una'), await person('Max', 'Otherwise')];
    await edit(una, { first: 'Unity', last: 'Wed' });
    const list = await listOf([una, max]);
    list.put(una, 'Number', 'S-0');
    list.put(max, 'Number', supporterNumber(una));
    list.put(0, 'Number', supporterNumber(max));
    const { items } = await judged(await upload('sorted.csv', list.csv()));
    expect(items.map(({ verdict, says }) => [verdict, says.split(':')[0]])).toEqual([
      ['undecided', 'Its number was of somebody with quite another name when the list was made'],
      ['undecided', 'Its number was of somebody with quite another name when the list was made'],
    ]);
  });

  it('of a row that lost its number, or of too many lists, is refused with the reason', async () => {
    const id = await person('Lost');
    const list = await listOf([id]);
    list.put(id, 'Number', '');
    expect((await judged(await upload('lost.csv', list.csv()))).items[0]).toMatchObject({
      ...{ verdict: 'bad', says: expect.stringContaining('needs its number') },
    });
    const rows = Array.from({ length: 25 }, (_, at) => `S-${id},${at + 1},Lost`);
    const many = await upload('many.csv', ['Number,As of change,First name', ...rows].join('\n'));
    const refused = await test.call('GET', `/intakes/${many}/rows?limit=20`);
    expect([refused.status, JSON.stringify(refused.body)]).toEqual([409, expect.stringContaining('25 lists')]);
  });
});

describe('a call sheet that comes back', () => {
  it('keeps what came of the calls with their days, makes pledges, and asks about a wish that is no wish yet', async () => {
    const [ada, ben, cleo] = [await person('Adele'), await person('Benno'), await person('Cleopatra')];
    const asked = { selection: { kind: 'ids', ids: [ada, ben, cleo] }, for: 'call', purpose: 'news', as: 'callbook' };
    const [sheet] = await readSheets((await test.call('POST', '/supporters/export', asked)).bytes);
    const [headings = [], ...rows] = (sheet?.data ?? []).map((row) => row.map((cell) => String(cell ?? '')));
    const put = (id: number, cells: Record<string, string>): void => {
      const row = rows.find(([number]) => number === supporterNumber(id)) ?? [];
      for (const [heading, cell] of Object.entries(cells)) row[headings.indexOf(heading)] = cell;
    };
    put(ada, { 'What came of it': 'Will give in spring', 'Day of the call': '2026-11-02' });
    put(ada, { 'Pledge amount': '120', 'Pledge date': '2026-11-02', Telephone: '775-555-0177' });
    put(ben, { 'What came of it': 'Please do not call again', 'Note on the call': 'Moved to his daughter' });
    const quoted = headings.map((_, at) => at);
    const csv = [headings, ...rows].map((row) => quoted.map((at) => `"${row[at] ?? ''}"`).join(',')).join('\n');
    const id = await upload('calls.csv', csv);
    const { items, questions } = await judged(id);
    expect(questions).toEqual([]);
    expect(items.map(({ verdict, warnings }) => [verdict, warnings.map(({ field }) => field)])).toEqual([
      ['known', []],
      ['known', ['callResult']],
      ['known', []],
    ]);
    const posted = await test.call('POST', `/intakes/${id}/post`, {});
    expect(await test.jobEnd(Number(posted.body['jobId']))).toMatchObject({ state: 'done' });
    const calls = await test.sql.rows<{ supporter_id: number; kind: string; date: string; body: string }>(
      'SELECT supporter_id, kind, date, body FROM note WHERE supporter_id IN (?) ORDER BY id',
      [[ada, ben, cleo]],
    );
    expect(calls.map(({ supporter_id: of, kind, body }) => [of, kind, /"text":"([^"]*)"/.exec(body)?.[1]])).toEqual([
      [ada, 'call', 'Will give in spring'],
      [ben, 'call', 'Please do not call again. Moved to his daughter'],
    ]);
    expect(calls[0]?.date).toBe('2026-11-02');
    const { items: pledges } = (await test.call('GET', `/pledges?supporterId=${ada}`)).body as {
      items: { pledgedOn: string }[];
    };
    expect(pledges).toMatchObject([{ pledgedOn: '2026-11-02', standing: { pledged: 12_000 } }]);
    expect((await recordOf(test, ada)).phones.map(({ number, preferred }) => [number, preferred])).toContainEqual([
      '775-555-0177',
      true,
    ]);
    expect((await recordOf(test, cleo)).phones).toHaveLength(1);
  });
});
