import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addPerson, openTestApp, snapshot } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* Whose a row is: by numbers elsewhere, and by what a person chose the last time; and what a file should come to. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

type Setting = Record<string, unknown>;
interface Row {
  row: number;
  verdict: string;
  says: string;
  supporterId: number | null;
  candidates: { id: number }[];
  changes: { field: string; after: string }[];
}
const upload = async (text: string, setting: Setting = {}): Promise<number> => {
  const { body } = await test.call('POST', '/intakes?name=portal.csv', undefined, { raw: Buffer.from(text) });
  const id = Number(body['id']);
  await set(id, setting);
  return id;
};
const set = async (id: number, setting: Setting): Promise<void> => {
  const { body } = await test.call('GET', `/intakes/${id}`);
  const change = { version: body['version'], setting: { ...(body['setting'] as Setting), ...setting } };
  expect((await test.call('PUT', `/intakes/${id}`, change)).status).toBe(200);
};
const rowsOf = async (id: number) =>
  (await test.call('GET', `/intakes/${id}/rows?limit=100`)).body as unknown as {
    items: Row[];
    questions: { about: string; says: string }[];
  };
const post = async (id: number): Promise<string> =>
  String((await test.jobEnd(Number((await test.call('POST', `/intakes/${id}/post`, {})).body['jobId']))).state);
const undo = async (id: number): Promise<void> => {
  const { revision } = (await test.call('GET', `/intakes/${id}`)).body as { revision: number };
  expect((await test.call('POST', `/changes/${revision}/undo`, {})).status).toBe(200);
};
const HEAD = 'First name,Last name,Portal ID,Email,Amount,Date';

describe('numbers elsewhere', () => {
  it('are asked about where the file does not say where it comes from', async () => {
    const id = await upload(`${HEAD}\nUna,Vance,P-1,una@example.org,25,2026-11-02\n`);
    const { questions } = await rowsOf(id);
    expect(questions.map(({ about }) => about)).toEqual(['source']);
    expect((await test.call('POST', `/intakes/${id}/post`, {})).status).toBe(409);
    await set(id, { source: 'Giving portal' });
    expect((await rowsOf(id)).questions).toEqual([]);
  });

  it('are kept with whom they are of, and know them in the next file from there, whatever else has changed', async () => {
    const source = 'Star fair';
    const first = await upload(`${HEAD}\nIra,Wend,A-7,ira@example.org,25,2026-11-02\n`, { source });
    const before = await snapshot(test.sql);
    expect(await post(first)).toBe('done');
    const [ira] = await test.sql.rows<{ id: number }>(`SELECT id FROM supporter WHERE last = 'Wend'`);
    expect((await test.call('GET', `/supporters/${ira?.id ?? 0}`)).body['elsewhere']).toEqual([
      { number: 'A-7', source },
    ]);
    const again = `${HEAD}\nIra,Wend,A-7,new@example.org,30,2026-11-09\nQuin,Other,A-7,,5,2026-11-09\n,,A-7,,5,2026-11-09\n,,A-99,,5,2026-11-09\n`;
    const next = await upload(again, { source });
    const { items } = await rowsOf(next);
    expect(items.map(({ verdict }) => verdict)).toEqual(['known', 'undecided', 'known', 'bad']);
    expect(items[0]).toMatchObject({ supporterId: ira?.id, says: expect.stringContaining('by number elsewhere A-7') });
    expect(items[1]?.candidates.map(({ id }) => id)).toEqual([ira?.id]);
    expect(items[3]?.says).toContain('Nobody here has the number A-99');
    // Another source has numbers of its own.
    await set(next, { source: 'Another fair' });
    expect((await rowsOf(next)).items.map(({ verdict }) => verdict)).toEqual(['new', 'new', 'bad', 'bad']);
    expect((await test.call('DELETE', `/intakes/${next}`)).status).toBe(200);
    await undo(first);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('of who was erased are gone with them', async () => {
    const source = 'Erased fair';
    const id = await upload(`${HEAD}\nNo,Gift,E-1,nogift@example.org,,\n`, { source });
    expect(await post(id)).toBe('done');
    const [who] = await test.sql.rows<{ id: number }>('SELECT supporter_id AS id FROM known_as WHERE source = ?', [
      source,
    ]);
    const selection = { kind: 'ids', ids: [who?.id] };
    await test.call('POST', '/supporters/acts', { selection, act: { do: 'trash' } });
    const { body } = await test.call('GET', '/trash');
    expect((await test.call('POST', '/trash/empty', { records: body['records'] }, { as: 'admin' })).status).toBe(200);
    expect(await test.sql.rows('SELECT 1 FROM known_as WHERE source = ?', [source])).toEqual([]);
  });
});

describe('what a person chose', () => {
  it('holds for the next file from there, and for no other', async () => {
    const source = 'Call team';
    const [a, b] = [
      await addPerson(test, { first: 'Pat', last: 'Twice', emails: [{ address: 'pats@example.org' }] }),
      await addPerson(test, { first: 'Pat', last: 'Twice', emails: [{ address: 'pats@example.org' }] }),
    ];
    const head = 'First name,Last name,Email,Amount,Date';
    const row = 'Pat,Twice,pats@example.org,25,2026-11-02';
    const first = await upload(`${head}\n${row}\n`, { source });
    const [open] = (await rowsOf(first)).items;
    expect([open?.verdict, open?.candidates.length]).toEqual(['undecided', 2]);
    await set(first, { picks: { [String(open?.row)]: b } });
    expect(await post(first)).toBe('done');
    const next = await upload(`${head}\n${row.replace('25', '30')}\n`, { source });
    expect((await rowsOf(next)).items[0]).toMatchObject({
      ...{ verdict: 'known', supporterId: b, says: expect.stringContaining('what was chosen before') },
    });
    await set(next, { source: '' });
    expect((await rowsOf(next)).items[0]).toMatchObject({ verdict: 'undecided' });
    // It may be chosen otherwise all the same.
    await set(next, { source, picks: { [String(open?.row)]: a } });
    expect((await rowsOf(next)).items[0]).toMatchObject({ verdict: 'known', supporterId: a });
    await undo(first);
    await set(next, { source, picks: {} });
    expect((await rowsOf(next)).items[0]).toMatchObject({ verdict: 'undecided' });
  });

  it('may be anybody who is here, looked at beside the row first', async () => {
    const who = await addPerson(test, {
      ...{ first: 'Bea', last: 'Side', emails: [{ address: 'bea@example.org' }], phones: [{ number: '775-555-0100' }] },
      addresses: [{ street: '12 Perseid Place', city: 'Elko', postal: '89801' }],
    });
    const head = 'First name,Last name,Email,Telephone,Street,City,Zip,Amount,Date';
    const id = await upload(
      `${head}\nBeatrix,Sidle,b@example.org,(775) 555 0100,12 Perseid Pl.,Elko,89801,5,2026-11-02\n`,
    );
    const [row] = (await rowsOf(id)).items;
    const beside = await test.call('GET', `/intakes/${id}/rows/${String(row?.row)}/beside/${who}`);
    expect(beside.body).toMatchObject({
      name: 'Bea Side',
      parts: [
        { part: 'Name', file: 'Beatrix Sidle', ours: 'Bea Side' },
        { part: 'E-mail', file: 'b@example.org', ours: 'bea@example.org', agrees: false },
        { part: 'Telephone', agrees: true },
        { part: 'Address', ours: '12 Perseid Place, Elko, 89801', agrees: true },
      ],
    });
    await set(id, { picks: { [String(row?.row)]: who } });
    expect((await rowsOf(id)).items[0]).toMatchObject({ verdict: 'known', supporterId: who });
    for (const [at, of] of [
      [row?.row, 999_999],
      [77, who],
    ])
      expect((await test.call('GET', `/intakes/${id}/rows/${String(at)}/beside/${of}`)).status).toBe(404);
  });
});

describe('what a file should come to', () => {
  it('is held against what would be brought in, before anything is', async () => {
    const head = 'First name,Last name,Amount,Date';
    const id = await upload(`${head}\nSum,One,10,2026-11-02\nSum,Two,20.50,2026-11-02\nSum,Three,oops,2026-11-02\n`);
    const asked = async (expects: { gifts: number | null; cents: number | null }) => {
      await set(id, { expects });
      return (await rowsOf(id)).questions.map(({ about, says }) => `${about}: ${says}`);
    };
    expect(await asked({ gifts: 2, cents: 3_050 })).toEqual([]);
    expect(await asked({ gifts: 3, cents: null })).toEqual([
      'totals: It should come to 3 gifts, and what would be brought in is 2 gifts of $30.50.',
    ]);
    expect(await asked({ gifts: 3, cents: 4_050 })).toEqual([
      'totals: It should come to 3 gifts of $40.50, and what would be brought in is 2 gifts of $30.50.',
    ]);
    const before = await snapshot(test.sql);
    const job = await test.jobEnd(Number((await test.call('POST', `/intakes/${id}/post`, {})).body['jobId']));
    expect(job).toMatchObject({ state: 'failed', message: expect.stringContaining('It should come to 3 gifts') });
    expect(await snapshot(test.sql)).toEqual(before);
    expect(await asked({ gifts: null, cents: null })).toEqual([]);
    expect(await post(id)).toBe('done');
  });
});

describe('what must agree', () => {
  it('is chosen for the file: the last name with the ZIP, though the e-mail is of another', async () => {
    const address = { street: '7 Vega Way', city: 'Elko', region: 'NV', postal: '89801' };
    const her = await addPerson(test, { first: 'Petra', last: 'Quill', addresses: [address] });
    await addPerson(test, { first: 'Max', last: 'Other', emails: [{ address: 'shared@example.org' }] });
    const id = await upload('First name,Last name,Email,ZIP\nP.,Quill,shared@example.org,89801-0001\n');
    expect((await rowsOf(id)).items[0]).toMatchObject({ verdict: 'undecided' });
    await set(id, { matching: { fields: ['last', 'postal'], sure: 80, perhaps: 60 } });
    expect((await rowsOf(id)).items[0]).toMatchObject({ verdict: 'known', supporterId: her });
  });
  it('is refused where nobody could be found by it, and where what is sure is less than what is asked about', async () => {
    const id = await upload('First name,Last name\nPat,Plain\n');
    const { body } = await test.call('GET', `/intakes/${id}`);
    for (const matching of [
      { fields: ['first'], sure: 80, perhaps: 60 },
      { fields: [], sure: 40, perhaps: 60 },
      { fields: [], sure: 101, perhaps: 60 },
      { fields: ['shoe'], sure: 80, perhaps: 60 },
    ]) {
      const change = { version: body['version'], setting: { ...(body['setting'] as Setting), matching } };
      expect((await test.call('PUT', `/intakes/${id}`, change)).status).toBe(400);
    }
  });
});
