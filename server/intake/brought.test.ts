import ExcelJS from 'exceljs';
import { zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { IntakeRecipe } from '@tallystick/contract/intake';
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

describe('a second person of a row', () => {
  it('gets a record and a tie in the direction that is said, once, and undo takes both back', async () => {
    const before = await snapshot(test.sql);
    const text =
      'First name,Last name,Email,Second person,Second person is\nNell,Arden,nell@example.org,Mo Arden,parent\n';
    const intake = (await upload(text)).body;
    expect(columns(intake).slice(3)).toEqual(['second', 'secondIs']);
    await post(intake['id']);
    const ties = () =>
      test.sql.rows<{ one: string; kind: string; other: string }>(
        `SELECT s.first AS one, k.name AS kind, o.first AS other FROM relation r JOIN relation_kind k ON k.id = r.kind_id
         JOIN supporter s ON s.id = r.supporter_id JOIN supporter o ON o.id = r.other_id WHERE s.last = 'Arden'`,
      );
    expect(await ties()).toEqual([{ one: 'Mo', kind: 'parent', other: 'Nell' }]);
    const again = (await upload(text)).body;
    expect((await preview(again['id'])).items[0]).toMatchObject({ verdict: 'known', changes: [] });
    const sibling = (await upload(text.replace('Mo Arden,parent', 'Kit Arden,sibling'))).body;
    await post(sibling['id']);
    expect(await ties()).toHaveLength(2);
    for (const one of [sibling, intake]) expect((await undo(one['id'])).status).toBe(200);
    for (const one of [again, sibling, intake]) await test.call('DELETE', `/intakes/${Number(one['id'])}`);
    expect(await snapshot(test.sql)).toEqual(before);
  });
});

describe('two rows that name each other', () => {
  it.each([
    ['spouses at one address', 'Spouse', 'Mo Quade', 'Nell Quade', 1],
    ['a parent and a child', 'Second person,Second person is', 'Mo Quade,parent', 'Nell Quade,child', 1],
    ['spouses whose names others have, too', 'Spouse', 'Bo Twin', 'Nell Quade', 2],
  ])('%s', async (_says, headings, ofNell, ofMo, ties) => {
    const before = await snapshot(test.sql);
    const twins = ofNell.startsWith('Bo') ? ['Bo,Twin,b1@example.org,,', 'Bo,Twin,b2@example.org,,'] : [];
    const lines = [
      `First name,Last name,Email,Street,Zip,${headings}`,
      `Nell,Quade,nell@example.org,1 Lyra St,89801,${ofNell}`,
      `Mo,Quade,mo@example.org,1 Lyra Street,89801,${ofMo}`,
    ];
    const intake = (await upload([...lines, ...twins].join('\n'))).body;
    const said = (await preview(intake['id'])).items.map(({ says }) => /is the supporter of row \d/.exec(says)?.[0]);
    expect(said.slice(0, 2)).toEqual([
      twins.length > 0 ? undefined : 'is the supporter of row 3',
      'is the supporter of row 2',
    ]);
    expect((await post(intake['id'])).state).toBe('done');
    const made = await test.sql.rows<{ last: string }>(`SELECT last FROM supporter WHERE last IN ('Quade', 'Twin')`);
    // Nobody is there twice; of two of a name neither is taken for the one who is meant.
    expect(made.filter(({ last }) => last === 'Quade')).toHaveLength(2);
    expect(made.filter(({ last }) => last === 'Twin')).toHaveLength(twins.length === 0 ? 0 : 3);
    expect(await test.sql.rows('SELECT id FROM relation')).toHaveLength((before['relation']?.length ?? 0) + ties);
    expect((await undo(intake['id'])).status).toBe(200);
    await test.call('DELETE', `/intakes/${Number(intake['id'])}`);
    expect(await snapshot(test.sql)).toEqual(before);
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

  it('a formula that failed, or was never worked out, is no empty cell', async () => {
    const bytes = await workbook((book) => {
      book.addWorksheet('Gala').addRows([
        ['Last', 'Amount'],
        ['Frost', { formula: 'A9' }],
        ['Snow', { error: '#REF!' }],
      ]);
    });
    const { items, remarks } = await preview((await upload(bytes)).body['id']);
    expect(items.map(({ verdict }) => verdict)).toEqual(['bad', 'bad']);
    expect(remarks.join(' ')).toContain('1 formula was never worked out');
  });

  it('a workbook that unfolds to more than there is room for, and a zip that is none, are refused', async () => {
    const zip = (...names: string[]) =>
      Buffer.from(zipSync(Object.fromEntries(names.map((name) => [name, new Uint8Array(1)]))));
    const huge = zip('xl/workbook.xml', 'xl/worksheets/sheet1.xml');
    // Where the list of what is in it says how large that unfolds.
    huge.writeUInt32LE(401 * 1024 * 1024, huge.lastIndexOf('PK\u0001\u0002') + 24);
    for (const [bytes, says] of [
      [huge, 'more than 400 MB'],
      [zip('a.txt'), 'nor a workbook'],
    ] as const)
      expect(await upload(bytes)).toMatchObject({
        status: 400,
        body: { error: { message: expect.stringContaining(says) } },
      });
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

  it('cards that are no Unicode, in the encoding whose words look right; mixed ones are refused', async () => {
    const card = Buffer.from('BEGIN:VCARD\nN:M\xfcller;Ren\xe9;;;\nEND:VCARD\n', 'latin1');
    const intake = (await upload(card, 'name=people.vcf')).body;
    expect(intake).toMatchObject({ format: 'cards', encoding: 'windows-1252', rows: 1 });
    await post(intake['id']);
    expect(await record(await newest())).toMatchObject({ first: 'René', last: 'Müller' });
    const mixed = 'BEGIN:VCARD\nN;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:M=C3=BCller;Ren\xe9;;;\nEND:VCARD\n';
    expect(await upload(Buffer.from(mixed, 'latin1'), 'name=mixed.vcf')).toMatchObject({ status: 400 });
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

describe('moves, returned mail and ties', () => {
  const withAddress = async (street: string) => {
    const id = await addPerson(test, { first: 'Ora', last: `Mover${await newest()}` });
    const intake = (await upload(`Number,Address,City,Zip\nS-${id},${street},Elko,89801\n`)).body;
    await post(intake['id']);
    return id;
  };
  const addresses = async (id: number) =>
    (await record(id))['addresses'] as {
      street: string;
      preferred: boolean;
      validFrom: string;
      validTo: string;
      badOn: string;
      badReason: string;
    }[];

  it('a new address ends the one before on the day before it holds', async () => {
    const id = await withAddress('1 Old Rd');
    const intake = (await upload(`Number,Address,City,Zip,Move date\nS-${id},2 New Rd,Reno,89501,2026-03\n`)).body;
    await set(intake['id'], { policies: { all: 'ours' } });
    expect((await preview(intake['id'])).items[0]?.changes).toMatchObject([
      { field: 'street', after: '2 New Rd, Reno, 89501' },
    ]);
    await post(intake['id']);
    const all = await addresses(id);
    expect(all.find(({ street }) => street === '1 Old Rd')).toMatchObject({ validTo: '2026-02-28', preferred: false });
    expect(all.find(({ street }) => street === '2 New Rd')).toMatchObject({ validFrom: '2026-03-01', preferred: true });
  });

  it('returned mail marks the address, and undo takes that back', async () => {
    const id = await withAddress('3 Back Rd');
    const before = await addresses(id);
    const intake = (await upload(`Number,Mail came back\nS-${id},moved\nS-99999999,yes\n`)).body;
    expect((await preview(intake['id'])).counts).toMatchObject({ known: 1, changes: 1, bad: 1 });
    await post(intake['id']);
    expect(await addresses(id)).toMatchObject([{ badReason: 'moved', badOn: expect.any(String) }]);
    await undo(intake['id']);
    expect(await addresses(id)).toEqual(before);
  });

  it('a file of two numbers ties them, in the direction that is said, once', async () => {
    const [parent, child] = [
      await addPerson(test, { first: 'Pa', last: 'Elder' }),
      await addPerson(test, { first: 'Kid', last: 'Elder' }),
    ];
    const [firm] = await test.sql.rows<{ id: number }>(`SELECT id FROM supporter WHERE kind = 'organization' LIMIT 1`);
    const file = [
      ...['Number,Relationship,Other number', `S-${parent},parent,S-${child}`, `S-${child},child,S-${parent}`],
      ...[
        `S-${parent},moon,S-${child}`,
        `S-${parent},parent,S-${parent}`,
        `S-${parent},parent,S-${firm?.id ?? 0}`,
        `S-${parent},parent,`,
      ],
    ];
    const intake = (await upload(file.join('\n'))).body;
    expect(columns(intake)).toEqual(['number', 'tie', 'tieOther']);
    const { items } = await preview(intake['id']);
    expect(items.map(({ verdict }) => verdict)).toEqual(['known', 'known', 'bad', 'bad', 'bad', 'bad']);
    expect(items[0]?.changes).toMatchObject([{ field: 'tie', after: expect.stringContaining('parent of Kid Elder') }]);
    expect(items[2]?.problems[0]?.reason).toContain('There is no tie in which somebody is the moon of another');
    await set(intake['id'], { picks: { 3: 'skip' } });
    await post(intake['id']);
    const ties = () =>
      test.sql.rows('SELECT supporter_id, other_id FROM relation WHERE ? IN (supporter_id, other_id)', [parent]);
    expect(await ties()).toEqual([{ supporter_id: parent, other_id: child }]);
    const again = (await upload(`Number,Relationship,Other number\nS-${child},child,S-${parent}\n`)).body;
    expect((await preview(again['id'])).items[0]?.changes).toEqual([]);
  });
});

describe('a rehearsal', () => {
  it('does all of it, guards and all, reports, and keeps nothing', async () => {
    const intake = (await upload(`${HEAD}\n${ZELDA.replaceAll('zelda', 'rehearsed')}\n`)).body;
    const before = await snapshot(test.sql);
    const { body } = await test.call('POST', `/intakes/${String(intake['id'])}/rehearse`, {});
    const done = await test.jobEnd(Number(body['jobId']));
    expect(done).toMatchObject({
      state: 'done',
      message: expect.stringContaining('Rehearsed, nothing was kept: 1 row'),
    });
    expect(await snapshot(test.sql)).toEqual(before);
    const report = String(done['message']).replace(/^.*left out\. /, '');
    await post(intake['id']);
    const posted = (await test.call('GET', `/intakes/${String(intake['id'])}`)).body;
    expect(posted).toMatchObject({ state: 'posted', report });
    expect(report).toMatch(/2 gifts, 2 e-mails, 1 telephone, 1 address, 1 wish/);
    await undo(intake['id']);
  });
});

describe('recipes', () => {
  it('read the next file of the source the same way, and say what is otherwise', async () => {
    const first = (await upload('Surname,Paid,Seat\nOak,5,A1\n')).body;
    expect(columns(first)).toEqual(['last', null, null]);
    const setting = first['setting'] as Body;
    const recipe = IntakeRecipe.parse({
      ...{ ...setting, leaveRest: true, policies: { all: 'file' } },
      columns: [
        { heading: 'Surname', to: 'last', care: { names: true } },
        { heading: 'Paid', to: 'amount' },
        { heading: 'Seat', to: null },
      ],
    });
    const kept = await test.call('POST', '/intake-recipes', { name: 'Club list', recipe });
    expect(kept.status).toBe(200);
    const next = (await upload('SEAT,surname,Paid\nA1,ELM,7\n')).body;
    expect(columns(next)).toEqual([null, 'last', 'amount']);
    expect(next).toMatchObject({ recipe: { name: 'Club list', used: true, fresh: [], missing: [] } });
    const { items, questions, counts } = await preview(next['id']);
    expect(questions).toEqual([]);
    expect(counts).toMatchObject({ new: 1, cents: 700 });
    expect(items[0]?.read).toEqual({ 1: 'Elm' });
    const other = (await upload('Surname,Paid,Table\nAsh,8,4\n')).body;
    expect(other).toMatchObject({ recipe: { name: 'Club list', used: false, fresh: ['Table'], missing: [] } });
    // One of the same name is replaced, and a file that was read by one that is gone stays as it is.
    await test.call('POST', '/intake-recipes', { name: 'Club list', recipe });
    const list = (await test.call('GET', '/intake-recipes')).body['items'] as { id: number; recipe: Body }[];
    expect(list).toHaveLength(1);
    expect((await test.call('DELETE', `/intake-recipes/${list[0]?.id ?? 0}`)).status).toBe(200);
    expect((await test.call('GET', `/intakes/${String(next['id'])}`)).body).toMatchObject({ recipe: null });
    expect((await preview(next['id'])).counts).toMatchObject({ new: 1 });
  });
  it('that are none are refused', async () => {
    for (const recipe of [{}, { columns: [] }, { columns: [{ heading: 'x', to: 'nowhere' }] }])
      expect((await test.call('POST', '/intake-recipes', { name: 'x', recipe })).status).toBe(400);
  });
  it('of a newer version are refused rather than read without what is new in them', async () => {
    const column = { heading: 'Paid', to: 'amount' };
    const plain = { decimal: '.', dateOrder: null, fundId: 1, columns: [column] };
    for (const recipe of [
      { ...plain, rounding: 'up' },
      { ...plain, columns: [{ ...column, unless: 'refunded' }] },
      { ...plain, columns: [{ ...column, care: { scale: 100 } }] },
    ])
      expect(await test.call('POST', '/intake-recipes', { name: 'Newer', recipe })).toMatchObject({
        status: 400,
        body: { error: { message: expect.stringMatching(/rounding|unless|scale/) } },
      });
    expect((await test.call('POST', '/intake-recipes', { name: 'Plain', recipe: plain })).status).toBe(200);
  });
});

describe('choices for single rows', () => {
  it('come to what a judgement from the start comes to, whatever is chosen in what order', async () => {
    const known = await addPerson(test, { first: 'Ray', last: 'Chosen', email: 'ray@example.org' });
    const rows = [
      ...['Ray,Chosen,ray@example.org,5,R1,', 'Ray,Chosen,ray@example.org,6,R2,Q', 'Fay,Chosen,fay@example.org,7,R1,'],
      ...['Fay,Chosen,fay@example.org,8,R4,', 'Someone,Else,ray@example.org,9,R5,Z', 'Fay,Chosen,,10,R4,'],
    ];
    const text = `First,Last,Email,Amount,Transaction ID,Middle\n${rows.join('\n')}`;
    const id = (await upload(text)).body['id'];
    for (const picks of [
      { 2: 'skip' },
      { 2: 'skip', 6: known },
      { 6: known },
      { 4: 'new', 6: 'new' },
      { 3: 'skip', 6: known },
      {},
    ]) {
      await set(id, { picks });
      const fresh = (await upload(text)).body['id'];
      // Another file was judged in between, so that this one is judged from the start.
      await set(fresh, { picks });
      const { items, counts } = await preview(id);
      expect(await preview(fresh)).toMatchObject({ items, counts });
      await set(id, { picks: { ...picks, 5: 'skip' } });
      await preview(id);
      await set(id, { picks });
      expect(await preview(id)).toMatchObject({ items, counts });
    }
  });

  it('and cells that are changed, one after the other, too', async () => {
    const known = await addPerson(test, { first: 'May', last: 'Mended', email: 'may@example.org' });
    await addPerson(test, { first: 'Zoe', last: 'Found', email: 'zoe@example.org' });
    const rows = [
      ...['May,Mended,may@example.org,5,R11,1/2/2026', 'Ivo,Mended,ivo@example.org,6,R12,1/13/2026'],
      ...['Ivo,Mended,ivo@example.org,lots,R13,1/14/2026', 'Eve,Alone,,8,R14,1/15/2026', 'Total,,,19,,1/15/2026'],
    ];
    const text = `First,Last,Email,Amount,Transaction ID,Date\n${rows.join('\n')}`;
    const id = (await upload(text)).body['id'];
    let before: Record<string, string> = {};
    for (const { edits, picks = {} } of [
      { edits: { '4:3': '7' } },
      // Somebody else's row, one that is here now, and what was one with another no more.
      { edits: { '4:3': '7', '5:0': 'Zoe', '5:1': 'Found', '5:2': 'zoe@example.org' } },
      { edits: { '3:2': 'may@example.org', '4:4': 'R12' } },
      { edits: { '3:2': 'may@example.org', '4:4': 'R12' }, picks: { 3: known, 6: 'skip' } },
      { edits: { '4:4': 'R12', '2:3': '' }, picks: { 3: 'new' } },
      // The days say another order than before, for all of them.
      { edits: { '3:5': '13/1/2026', '4:5': '14/1/2026', '5:5': '15/1/2026', '6:5': '15/1/2026' } },
      { edits: { '3:5': '13/1/2026' } },
      { edits: {} },
    ] as { edits: Record<string, string>; picks?: Record<string, unknown> }[]) {
      await set(id, { edits: before, picks: {} });
      await preview(id);
      await set(id, { edits, picks });
      const again = await preview(id);
      const fresh = (await upload(text)).body['id'];
      await set(fresh, { edits, picks });
      const { items, counts, questions, remarks } = await preview(fresh);
      expect({ ...again, next: null }).toMatchObject({ items, counts, questions, remarks });
      before = edits;
    }
  });
});
