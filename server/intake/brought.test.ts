import ExcelJS from 'exceljs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addPerson, openTestApp, snapshot } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* What files of every kind bring, beyond a gift and a first address: to those who are here, and to new ones. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

interface Preview {
  items: {
    row: number;
    verdict: string;
    says: string;
    read: Record<string, string>;
    problems: { field: string; reason: string }[];
    warnings: { field: string }[];
    changes: { field: string; before: string; after: string; kept: boolean }[];
  }[];
  counts: Record<string, number>;
  remarks: string[];
  questions: { about: string }[];
}
type Body = Record<string, unknown>;
const upload = async (bytes: Buffer | string, query = 'name=file') =>
  test.call('POST', `/intakes?${query}`, undefined, { raw: Buffer.from(bytes) });
const preview = async (id: unknown) =>
  (await test.call('GET', `/intakes/${String(id)}/rows?limit=1000`)).body as unknown as Preview;
const set = async (id: unknown, change: Body) => {
  const { body } = await test.call('GET', `/intakes/${String(id)}`);
  const { status } = await test.call('PUT', `/intakes/${String(id)}`, {
    ...{ version: body['version'], setting: { ...(body['setting'] as Body), ...change } },
  });
  expect(status).toBe(200);
};
const post = async (id: unknown) => {
  const { body } = await test.call('POST', `/intakes/${String(id)}/post`, {});
  if (body['error']) throw new Error(JSON.stringify(body['error']));
  return test.jobEnd(Number(body['jobId']));
};
const undo = async (id: unknown) => {
  const { revision } = (await test.call('GET', `/intakes/${String(id)}`)).body as { revision: number };
  return test.call('POST', `/changes/${revision}/undo`, {});
};
const record = async (id: number) => (await test.call('GET', `/supporters/${id}`)).body;
const columns = (body: Body) => (body['setting'] as { columns: (string | null)[] }).columns;
const newest = async () => {
  const [row] = await test.sql.rows<{ id: number }>(`SELECT MAX(id) AS id FROM supporter WHERE kind = 'person'`);
  return row?.id ?? 0;
};

const HEAD =
  'First name,Last name,Work email,Email 2,Cell phone,Address,Address 2,City,State,Zip,Birthday,Do not mail,Tags,Group,Spouse,Employer,Job title,Supporter note,Amount,Date,Amount 2,Date 2';
const ZELDA =
  'ZELDA,QUORN,zelda@work.example,zelda@home.example,775-555-0111,12 Perseid Pl,Apt 4,Elko,NV,89801,1961-03-14,yes,gala; docent,Dome committee,Otto Quorn,Cobalt Ridge Bakery,Baker,Met at the dome,25,2026-11-02,40,2026-11-03';

describe('a new supporter', () => {
  it('gets all that the row says, and undo takes all of it back', async () => {
    const intake = (await upload(`${HEAD}\n${ZELDA}\n`)).body;
    const before = await snapshot(test.sql);
    expect(columns(intake)).not.toContain(null);
    const { items, counts, questions } = await preview(intake['id']);
    expect(questions).toEqual([]);
    expect(items[0]).toMatchObject({ verdict: 'new', read: { 0: 'Zelda', 1: 'Quorn' }, changes: [] });
    expect(counts).toMatchObject({ newSupporters: 1, gifts: 2, cents: 6500 });
    expect((await post(intake['id'])).state).toBe('done');
    const [found] = await test.sql.rows<{ id: number }>(`SELECT id FROM supporter WHERE first = 'Zelda'`);
    const zelda = found?.id ?? 0;
    const about = await record(zelda);
    expect(about).toMatchObject({ first: 'Zelda', last: 'Quorn', birthday: '1961-03-14' });
    expect(about['emails']).toMatchObject([
      { address: 'zelda@work.example', label: 'work', preferred: true },
      { address: 'zelda@home.example', label: 'home', preferred: false },
    ]);
    expect(about['phones']).toMatchObject([{ number: '775-555-0111', label: 'mobile' }]);
    expect(about['addresses']).toMatchObject([{ street: '12 Perseid Pl\nApt 4', region: 'NV' }]);
    expect(about['wishes']).toMatchObject([{ kind: 'no_mail', source: 'intake of file' }]);
    const ties = await test.sql.rows<{ name: string; role: string; other: string }>(
      `SELECT k.name, r.role, COALESCE(NULLIF(o.organization, ''), o.first) AS other FROM relation r
       JOIN relation_kind k ON k.id = r.kind_id
       JOIN supporter o ON o.id = IF(r.supporter_id = ?, r.other_id, r.supporter_id) WHERE ? IN (r.supporter_id, r.other_id)`,
      [zelda, zelda],
    );
    expect(ties.sort((a, b) => a.name.localeCompare(b.name))).toEqual([
      { name: 'employer', role: 'Baker', other: 'Cobalt Ridge Bakery' },
      { name: 'spouse', role: '', other: 'Otto' },
    ]);
    const [noted] = await test.sql.rows<{ notes: number; groups: number; tags: number }>(
      `SELECT (SELECT COUNT(*) FROM note WHERE supporter_id = ?) AS notes,
        (SELECT COUNT(*) FROM group_member WHERE supporter_id = ?) AS \`groups\`,
        (SELECT COUNT(*) FROM supporter_tag WHERE supporter_id = ?) AS tags`,
      [zelda, zelda, zelda],
    );
    expect(noted).toEqual({ notes: 1, groups: 1, tags: 2 });
    expect((await undo(intake['id'])).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('of whom several rows speak is one record, with what each of them adds', async () => {
    const rows = [
      'Tess,Vale,tess@example.org,,11',
      'Tess,Vale,tess@example.org,775-555-0144,12',
      'Tess,Vale,tess@example.org,775-555-0145,13',
    ];
    const intake = (await upload(`First,Last,Email,Phone,Amount\n${rows.join('\n')}`)).body;
    const { items } = await preview(intake['id']);
    expect(items.map(({ changes }) => changes.map(({ after, kept }) => [after, kept]))).toEqual([
      [],
      [['775-555-0144', false]],
      [['775-555-0145', false]],
    ]);
    await post(intake['id']);
    expect((await record(await newest()))['phones']).toMatchObject([
      { number: '775-555-0144', preferred: true },
      { number: '775-555-0145', preferred: false },
    ]);
  });

  it('whose employer several rows name is tied to one record of it', async () => {
    const intake = (await upload('First,Last,Employer\nUna,Alder,Nova Cartage\nUlf,Birch,NOVA CARTAGE\n')).body;
    await post(intake['id']);
    const firms = await test.sql.rows(`SELECT id FROM supporter WHERE organization LIKE 'Nova Cartage'`);
    expect(firms).toHaveLength(1);
  });
});

describe('somebody who is here', () => {
  const NEWER = 'Number,First,Middle,Email,Address,City,Zip,Birthday,Do not call';
  const here = async () => {
    const id = await addPerson(test, {
      first: 'Ada',
      last: `Marlow${Date.now()}`,
      email: `ada${await newest()}@example.org`,
    });
    return id;
  };
  const row = (id: number) => `S-${id},Adah,Q,ada@newer.example,7 Lyra St,Reno,89501,1961-03-14,yes`;

  it('is filled where something is missing, ours kept, and each is shown with old and new', async () => {
    const id = await here();
    const intake = (await upload(`${NEWER}\n${row(id)}\n`)).body;
    const before = await snapshot(test.sql);
    const { items, counts } = await preview(intake['id']);
    expect(counts).toMatchObject({ known: 1, changes: 1, differs: 1 });
    expect(items[0]?.changes.map(({ field, kept }) => [field, kept])).toEqual([
      ['first', true],
      ['middle', false],
      ['birthday', false],
      ['email', false],
      ['street', false],
      ['noCalls', false],
    ]);
    expect(items[0]?.changes[0]).toMatchObject({ before: 'Ada', after: 'Adah' });
    await post(intake['id']);
    const about = await record(id);
    expect(about).toMatchObject({ first: 'Ada', middle: 'Q', birthday: '1961-03-14' });
    expect(about['emails']).toMatchObject([{ preferred: true }, { address: 'ada@newer.example', preferred: false }]);
    expect((await undo(intake['id'])).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('is made what the file says, the address before kept as a former one', async () => {
    const id = await here();
    const first = (await upload(`Number,Address,City,Zip\nS-${id},1 Old Mill Rd,Elko,89801\n`)).body;
    await post(first['id']);
    const intake = (await upload(`${NEWER}\n${row(id)}\n`)).body;
    await set(intake['id'], { policies: { all: 'file' } });
    expect((await preview(intake['id'])).counts).toMatchObject({ differs: 0 });
    await post(intake['id']);
    const about = await record(id);
    expect(about).toMatchObject({ first: 'Adah' });
    expect(about['emails']).toMatchObject([{ address: 'ada@newer.example', preferred: true }, { preferred: false }]);
    const addresses = about['addresses'] as { street: string; preferred: boolean; validTo: string | null }[];
    expect(addresses.find(({ street }) => street === '1 Old Mill Rd')?.validTo).not.toBeNull();
    expect(addresses.find(({ street }) => street === '7 Lyra St')).toMatchObject({ preferred: true, validTo: null });
  });

  it('stays as it is where ours goes before, or its rows are left out; and strangers may be', async () => {
    const id = await here();
    const intake = (await upload(`${NEWER}\n${row(id)}\n,Newt,,newt@example.org,,,,,\n`)).body;
    await set(intake['id'], { policies: { all: 'ours' }, strangers: 'skip' });
    const { items, counts } = await preview(intake['id']);
    // A wish holds whatever the policy is.
    expect(items[0]?.changes.filter(({ kept }) => !kept).map(({ field }) => field)).toEqual(['noCalls']);
    expect(counts).toMatchObject({ known: 1, skipped: 1, new: 0 });
    await set(intake['id'], { known: 'skip' });
    expect((await preview(intake['id'])).counts).toMatchObject({ known: 0, skipped: 2 });
  });

  it('two rows that say different things of one are held against each other', async () => {
    const id = await here();
    const intake = (await upload(`Number,Middle\nS-${id},Q\nS-${id},R\n`)).body;
    await set(intake['id'], { policies: { all: 'file' } });
    expect((await preview(intake['id'])).items.map(({ changes }) => changes[0])).toMatchObject([
      { before: '', after: 'Q' },
      { before: 'Q', after: 'R' },
    ]);
  });
});

describe('clean-up', () => {
  it('translates what the file calls otherwise, and gives all rows what it lacks', async () => {
    const intake = (await upload('First,Last,Amount,Fund\nIda,Fox,5,Sky watch\nIvo,Fox,6,\n')).body;
    const of = async () =>
      (await test.call('GET', `/intakes/${String(intake['id'])}/columns`)).body as {
        items: { filled: number; distinct: number; values: { value: string; reason: string | null }[] }[];
      };
    expect((await of()).items[3]).toMatchObject({
      ...{ filled: 1, distinct: 1, values: [{ value: 'Sky watch', reason: expect.stringContaining('no fund') }] },
    });
    const [fund] = await test.sql.rows<{ name: string }>('SELECT name FROM fund WHERE closed = 0 ORDER BY id LIMIT 1');
    await set(intake['id'], {
      care: { 3: { translate: { 'SKY WATCH': fund?.name ?? '' } } },
      same: { tag: 'skywatchers' },
    });
    expect((await preview(intake['id'])).counts).toMatchObject({ new: 2, bad: 0 });
    expect((await of()).items[3]?.values).toMatchObject([{ value: 'Sky watch', reason: null }]);
    await post(intake['id']);
    const tagged = await test.sql.rows(
      `SELECT s.id FROM supporter_tag s JOIN tag t ON t.id = s.tag_id WHERE t.name = 'skywatchers'`,
    );
    expect(tagged).toHaveLength(2);
  });
});

describe('files of other kinds', () => {
  const workbook = async (fill: (book: ExcelJS.Workbook) => void): Promise<Buffer> => {
    const book = new ExcelJS.Workbook();
    fill(book);
    return Buffer.from(await book.xlsx.writeBuffer());
  };
  const day = (month: number, on: number) => new Date(Date.UTC(2026, month - 1, on));

  it('a workbook: notes above the headings, real dates, formulas, codes with zeros before them, merged cells', async () => {
    const bytes = await workbook((book) => {
      const sheet = book.addWorksheet('Gala');
      sheet.addRow(['Silent auction']);
      sheet.addRow([]);
      sheet.addRow(['First', 'Last', 'Zip', 'Amount', 'Date', 'Anonymous']);
      sheet.addRow(['Nia', 'Frost', 1234, { formula: '20+5', result: 25 }, day(11, 2), true]);
      sheet.addRow(['Nils', 'Frost', 89801, 0.1 + 0.2, day(11, 3), '']);
      sheet.getCell('C4').numFmt = '00000';
      sheet.mergeCells('A1:C1');
    });
    const intake = (await upload(bytes, 'name=gala.xlsx')).body;
    expect(intake).toMatchObject({
      format: 'workbook',
      rows: 2,
      headings: ['First', 'Last', 'Zip', 'Amount', 'Date', 'Anonymous'],
    });
    const { items, remarks } = await preview(intake['id']);
    expect(items.map(({ row }) => row)).toEqual([4, 5]);
    expect(remarks.join(' ')).toMatch(/above row 3.*1 cell holds a formula.*1 block of cells is merged/);
    expect((await preview(intake['id'])).counts).toMatchObject({ new: 2, gifts: 2, cents: 2530 });
  });

  it('a workbook whose amounts are in another currency is refused there, not read as ours', async () => {
    const bytes = await workbook((book) => {
      const sheet = book.addWorksheet('Gala');
      sheet.addRows([
        ['Last', 'Amount', 'Date'],
        ['Frost', 25, day(11, 2)],
        ['Snow', 30, day(11, 2)],
      ]);
      sheet.getCell('B2').numFmt = '[$£-809]#,##0.00';
      sheet.getCell('B3').numFmt = '"CAD" 0.00';
    });
    const { items } = await preview((await upload(bytes)).body['id']);
    expect(items.map(({ verdict }) => verdict)).toEqual(['bad', 'bad']);
    expect(items[0]?.problems[0]).toMatchObject({ field: 'amount' });
  });

  it('a workbook of several sheets asks which', async () => {
    const bytes = await workbook((book) => {
      book.addWorksheet('Gala').addRows([
        ['Last', 'Amount'],
        ['Frost', 25],
      ]);
      book.addWorksheet('Codes & more').addRows([['Last'], ['Snow'], ['Hail']]);
      book.addWorksheet('Empty');
    });
    const asked = await upload(bytes);
    expect(asked).toMatchObject({
      status: 409,
      body: {
        error: {
          code: 'which-sheet',
          details: [
            { name: 'Gala', rows: 2 },
            { name: 'Codes & more', rows: 3 },
          ],
        },
      },
    });
    const intake = await upload(bytes, `name=a&sheet=${encodeURIComponent('Codes & more')}`);
    expect(intake.body).toMatchObject({ rows: 2, headings: ['Last'] });
    expect((await upload(bytes, 'name=a&sheet=Nowhere')).status).toBe(400);
  });

  it('cards', async () => {
    const card =
      'BEGIN:VCARD\nVERSION:3.0\nN:Reed;Mo;;;\nEMAIL;TYPE=WORK:mo@example.org\nBDAY:1970-05-06\nCATEGORIES:docent\nEND:VCARD\n';
    const intake = (await upload(card, 'name=people.vcf')).body;
    expect(intake).toMatchObject({ format: 'cards', rows: 1 });
    await post(intake['id']);
    expect(await record(await newest())).toMatchObject({
      first: 'Mo',
      birthday: '1970-05-06',
      emails: [{ label: 'work' }],
    });
  });

  it('one JSON object a line, and a line that is none', async () => {
    const intake = (await upload('{"first name":"Kit","last name":"Sands","amount":12.5}\n{"last name":"Dune"}\n'))
      .body;
    expect(intake).toMatchObject({ format: 'objects', rows: 2 });
    expect((await preview(intake['id'])).counts).toMatchObject({ new: 2, gifts: 1, cents: 1250 });
    const broken = await upload('{"a":1}\n{"a":\n');
    expect(broken).toMatchObject({ status: 400, body: { error: { message: expect.stringContaining('Line 2') } } });
  });

  it('pasted cells, without headings, are placed by what they hold', async () => {
    const intake = (
      await upload('Ana Pine\tpine@example.org\t(775) 555-0199\nBo Elm\telm@example.org\t(775) 555-0198\n')
    ).body;
    expect(columns(intake)).toEqual(['wholeName', 'email', 'phone']);
    expect((await preview(intake['id'])).questions.map(({ about }) => about)).toEqual(['headings']);
  });

  it('a table that begins further down is read from there', async () => {
    const intake = (await upload('Last,Amount,Date\nwritten by,the,club\nLast,Amount,Date\nOak,5,2026-11-02\n')).body;
    await set(intake['id'], { startRow: 3 });
    const { items } = await preview(intake['id']);
    expect(items.map(({ row }) => row)).toEqual([4]);
    expect((await test.call('GET', `/intakes/${String(intake['id'])}`)).body).toMatchObject({ rows: 1 });
  });
});
