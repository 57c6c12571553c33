import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { Receipt } from '@tallystick/contract/thanks';
import { lettersPdf } from '../letters/index.ts';
import { addGift, addPerson, FakeMailer, LETTER, openTestApp, snapshot } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
const mailer = new FakeMailer();
beforeAll(async () => {
  test = await openTestApp({ mailer });
});
afterAll(() => test.close());
beforeEach(() => {
  mailer.messages.length = 0;
  mailer.answer = () => ({ kind: 'sent' });
});

/** Has all mail wait until it is let go. */
function holdMail(): () => void {
  let release: () => void = () => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  mailer.answer = async () => {
    await held;
    return { kind: 'sent' };
  };
  return release;
}
const issue = (giftIds: number[], key?: string) =>
  test.call('POST', '/thanks/issue', { letterId: 1, giftIds }, key ? { key } : {});
const numbers = async (): Promise<string[]> =>
  (await test.sql.rows<{ number: string }>('SELECT number FROM receipt ORDER BY sequence')).map((row) => row.number);
const pages = (pdf: Buffer): number => pdf.toString('latin1').match(/\/Type \/Page\b/g)?.length ?? 0;
const sequence = (from: number, many: number): string[] =>
  Array.from({ length: many }, (_, index) => `2026-${String(from + index).padStart(6, '0')}`);

describe('the list of gifts to thank', () => {
  it('says how each receipt would travel, and why', async () => {
    const gifts = [
      await addGift(test, await addPerson(test)),
      await addGift(test, await addPerson(test, { emails: [] })),
      await addGift(test, await addPerson(test, { wishes: [{ kind: 'no_email' }] })),
      await addGift(test, await addPerson(test, { wishes: [{ kind: 'deceased' }] })),
    ];
    const { body } = await test.call('GET', '/thanks?limit=100');
    const rows = (body['items'] as { id: number; channel: string; because: string }[]).filter((row) =>
      gifts.includes(row.id),
    );
    expect(rows.map((row) => [row.channel, row.because])).toEqual([
      ['email', ''],
      ['print', 'no e-mail address; no address'],
      ['print', 'wants no e-mail; no address'],
      ['print', 'deceased'],
    ]);
  });
});

describe('a proof', () => {
  it('of a name that no font can draw stops with who and what, and so does issuing', async () => {
    const id = await addPerson(test, { first: 'Ana 🌟', last: 'Starr' });
    const gift = await addGift(test, id);
    const before = await snapshot(test.sql);
    for (const answer of [
      await test.call('POST', '/thanks/proof', { letterId: 1, giftIds: [gift] }, { as: 'read' }),
      await issue([gift]),
    ]) {
      expect([answer.status, answer.body['error']]).toMatchObject([409, { code: 'cannot-be-drawn' }]);
      const { message } = answer.body['error'] as { message: string };
      for (const part of [`Ana 🌟 Starr, S-${id}, gift G-${gift}`, '🌟 (U+1F31F) in the address', '“Received from”'])
        expect(message).toContain(part);
    }
    expect(await snapshot(test.sql)).toEqual(before);
  });
  it('is a PDF with a page for each gift, and changes nothing', async () => {
    const gifts = [
      await addGift(test, await addPerson(test)),
      await addGift(test, await addPerson(test, { first: 'مريم', last: '李 Ångström' })),
    ];
    const before = await snapshot(test.sql);
    const { status, bytes, headers } = await test.call(
      'POST',
      '/thanks/proof',
      { letterId: 1, giftIds: gifts },
      { as: 'read' },
    );
    expect([status, headers.get('content-type'), bytes.subarray(0, 5).toString(), pages(bytes)]).toEqual([
      200,
      'application/pdf',
      '%PDF-',
      2,
    ]);
    expect(await snapshot(test.sql)).toEqual(before);
    expect(await test.sql.rows('SELECT * FROM receipt_series')).toEqual([]);
  });
});

describe('issuing', () => {
  it('numbers, marks, e-mails with the PDF attached, and leaves the rest for the print file', async () => {
    const emailed = await addPerson(test, { first: 'Ana', last: 'Cruz', emails: [{ address: 'ana@example.org' }] });
    const printed = await addPerson(test, { first: 'Bo', emails: [] });
    const gifts = [
      await addGift(test, emailed, { cents: 12_345, date: '2026-10-01' }),
      await addGift(test, printed, { date: '2026-10-02' }),
    ];
    const { body, status } = await issue(gifts);
    expect(status).toBe(200);
    expect(body).toMatchObject({ first: '2026-000001', last: '2026-000002', emailed: 1, printed: 1 });
    expect(await test.jobEnd(Number(body['jobId']))).toMatchObject({ state: 'done', message: '1 reached' });

    expect(mailer.messages).toMatchObject([{ to: 'ana@example.org', subject: 'Thank you, Ana' }]);
    expect(mailer.messages[0]?.html).toContain('Thank you for $123.45.');
    const [attached] = mailer.messages[0]?.attachments ?? [];
    expect([attached?.filename, attached?.contentType, attached?.content.subarray(0, 5).toString()]).toEqual([
      'receipt-2026-000001.pdf',
      'application/pdf',
      '%PDF-',
    ]);

    const record = (await test.call('GET', `/supporters/${emailed}`)).body;
    expect(record['timeline']).toMatchObject([{ acknowledgedOn: '2026-11-23' }]);
    const gift = (await test.call('GET', `/gifts/${gifts[1]}`)).body;
    expect(gift).toMatchObject({ acknowledgedOn: '2026-11-23', receiptNumber: '2026-000002' });
    expect(pages((await test.call('GET', `/thanks/runs/${String(body['runId'])}/print.pdf`)).bytes)).toBe(1);
    expect(pages((await test.call('GET', `/receipts/${String(gift['receiptId'])}/receipt.pdf`)).bytes)).toBe(1);
    const runs = (await test.call('GET', '/thanks/runs')).body['items'];
    expect(runs).toMatchObject([
      { first: '2026-000001', last: '2026-000002', count: 2, reached: 1, printed: 1, waiting: 0, notReached: 0 },
    ]);
  });

  it('cannot be undone, nor can the gift that was receipted', async () => {
    const id = await addPerson(test);
    const made = await test.call('POST', '/gifts', { supporterId: id, cents: 100, date: '2026-11-01', fundId: 1 });
    const issued = await issue([Number(made.body['id'])]);
    expect(
      (await test.call('POST', `/changes/${String(issued.body['revision'])}/undo`, {})).body['error'],
    ).toMatchObject({ code: 'not-undoable', message: expect.stringContaining('void') });
    expect((await test.call('POST', `/changes/${String(made.body['revision'])}/undo`, {})).body['error']).toMatchObject(
      { code: 'undo-blocked', message: expect.stringContaining('Issued 1 receipt') },
    );
    expect((await test.call('GET', `/gifts/${String(made.body['id'])}`)).status).toBe(200);
  });

  it('keeps the series gapless and every number single, from many at once with failures among them', async () => {
    const before = await numbers();
    const donor = await addPerson(test, { emails: [] });
    const gifts: number[] = [];
    for (let index = 0; index < 24; index++) gifts.push(await addGift(test, donor));
    const requests = gifts.map((gift, index) => issue(index % 4 === 3 ? [gift, gifts[index - 1] ?? gift] : [gift]));
    const answers = await Promise.all(requests);
    expect(answers.every((answer) => [200, 409].includes(answer.status))).toBe(true);
    expect(answers.some((answer) => answer.status === 409)).toBe(true);
    const after = await numbers();
    expect(after).toEqual(sequence(1, after.length));
    const [receipted] = await test.sql.rows<{ many: number }>('SELECT COUNT(DISTINCT gift_id) AS many FROM receipt');
    expect(receipted?.many).toBe(after.length);
    expect(after.length).toBeGreaterThan(before.length + 15);
  });

  it('runs once for a repeated request', async () => {
    const gift = await addGift(test, await addPerson(test, { emails: [] }));
    const before = (await numbers()).length;
    const answers = await Promise.all([1, 2, 3].map(() => issue([gift], 'one issue')));
    expect(new Set(answers.map((answer) => answer.text)).size).toBe(1);
    expect((await numbers()).length).toBe(before + 1);
  });

  it('tells which gift was thanked meanwhile, and numbers none', async () => {
    const donor = await addPerson(test, { emails: [] });
    const [thanked, open] = [await addGift(test, donor), await addGift(test, donor)];
    await issue([thanked]);
    const before = await numbers();
    const { status, body } = await issue([thanked, open]);
    expect(status).toBe(409);
    expect(body['error']).toMatchObject({ message: expect.stringContaining(`G-${thanked}`) });
    expect(await numbers()).toEqual(before);
  });

  it('prints a receipt as it was issued, whatever changes later', async () => {
    const id = await addPerson(test, { first: 'Before', last: 'Change', emails: [] });
    const { body } = await issue([await addGift(test, id)]);
    const path = `/thanks/runs/${String(body['runId'])}/print.pdf`;
    const first = (await test.call('GET', path)).bytes.length;
    await test.sql.run(`UPDATE supporter SET first = 'A much longer name than it was before' WHERE id = ?`, [id]);
    const letter = (await test.call('GET', '/letters')).body['items'] as { id: number; version: number }[];
    await test.call('PUT', '/letters/1', {
      name: 'Thanks',
      subject: 'Changed',
      body: { type: 'doc', content: [] },
      version: letter[0]?.version,
    });
    expect(Math.abs((await test.call('GET', path)).bytes.length - first)).toBeLessThan(40);
    await test.call('PUT', '/letters/1', {
      name: 'Thanks',
      subject: 'Thank you, {first|friend}',
      body: LETTER,
      version: (letter[0]?.version ?? 0) + 1,
    });
  });

  it.each([
    ['no gifts', { letterId: 1, giftIds: [] }, 400],
    ['a gift that does not exist', { letterId: 1, giftIds: [4_000_000] }, 404],
    ['a letter that does not exist', { letterId: 99, giftIds: [20_001] }, 404],
  ])('refuses %s', async (_title, body, status) =>
    expect((await test.call('POST', '/thanks/issue', body)).status).toBe(status),
  );
});

describe('the PDF', () => {
  it('draws every script it is given and breaks long letters over pages', async () => {
    const runs = [{ text: 'Ång مريم Ελλάδα Привет 🌟 '.repeat(400), bold: false, italic: false, link: null }];
    const pdf = await lettersPdf([
      {
        letterhead: { name: 'Test', lines: ['Town'] },
        addressee: ['A'],
        date: 'today',
        blocks: [
          { kind: 'paragraph', number: 0, runs },
          { kind: 'bullet', number: 0, runs },
        ],
      },
    ]);
    expect(pages(pdf)).toBeGreaterThan(2);
  });
});

describe('a letter about a gift', () => {
  it('is addressed by the rules, and merges the custom fields of the supporter and of the gift', async () => {
    const field = async (about: string, name: string) =>
      Number((await test.call('POST', '/fields', { about, name, kind: 'number' }, { as: 'admin' })).body['id']);
    const [nights, envelope] = [await field('supporter', 'Nights'), await field('gift', 'Envelope')];
    const person = await addPerson(test, { prefix: 'Dr.', first: 'Ana', last: 'Cruz', fields: { [nights]: '1200' } });
    const gift = await addGift(test, person, { fields: { [envelope]: '7' } });
    const line = (name: string) => ({ type: 'mergeField', attrs: { field: name, fallback: 'none' } });
    const words = ['formalSalutation', `field${nights}`, `field${envelope}`].map(line);
    const body = { type: 'doc', content: [{ type: 'paragraph', content: words }] };
    const letter = await test.call('POST', '/letters', {
      name: 'Fields',
      subject: 'No. {field' + String(envelope) + '}',
      body,
    });
    await test.call('POST', '/thanks/issue', { letterId: letter.body['id'], giftIds: [gift] });
    const [receipt] = await test.sql.rows<{ content: string }>('SELECT content FROM receipt WHERE gift_id = ?', [gift]);
    const content = JSON.parse(receipt?.content ?? '{}') as {
      subject: string;
      addressee: string[];
      blocks: { runs: { text: string }[] }[];
    };
    expect([content.subject, content.addressee[0]]).toEqual(['No. 7', 'Dr. Ana Cruz']);
    expect(content.blocks[0]?.runs.map((run) => run.text).join('')).toBe('Dr. Cruz1,2007');
  });
});

describe('a record in the trash', () => {
  it('gets no receipt: its gift is held back, named, and nothing is numbered', async () => {
    const [kept, gone] = [await addPerson(test), await addPerson(test)];
    const [ours, theirs] = [await addGift(test, kept), await addGift(test, gone)];
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [gone] }, act: { do: 'trash' } });
    const listed = (await test.call('GET', '/thanks?limit=500')).body['items'] as { id: number; channel: string }[];
    expect(listed.find((row) => row.id === theirs)).toMatchObject({ channel: 'held', because: 'in the trash' });
    const before = await snapshot(test.sql);
    const refused = await issue([ours, theirs]);
    expect([refused.status, refused.text]).toEqual([409, expect.stringContaining(`G-${theirs} (in the trash)`)]);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('gets none that was issued before and not sent yet either', async () => {
    const who = await addPerson(test);
    const gift = await addGift(test, who);
    const first = await addGift(test, await addPerson(test));
    const release = holdMail();
    const busy = await issue([first]);
    const issued = await issue([gift]);
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [who] }, act: { do: 'trash' } });
    release();
    await test.jobEnd(Number(busy.body['jobId']));
    await test.jobEnd(Number(issued.body['jobId']));
    const sent = await test.sql.rows<{ state: string; detail: string }>(
      'SELECT state, detail FROM delivery WHERE supporter_id = ?',
      [who],
    );
    expect(sent).toEqual([{ state: 'held', detail: 'in the trash' }]);
  });
});

describe('the receipts that were issued', () => {
  const listed = async (query = '') =>
    (await test.call('GET', `/receipts?${query}`)).body as unknown as { items: Receipt[]; total: number; next: string };

  it('are listed by number, newest first, saying what each says, and void ones apart', async () => {
    const ana = await addPerson(test, { first: 'Ana', last: 'Listed', emails: [] });
    const gifts = [await addGift(test, ana, { cents: 12_300 }), await addGift(test, ana, { cents: 45_600 })];
    const { body } = await issue(gifts);
    const run = `runId=${String(body['runId'])}`;
    const { items } = await listed(run);
    expect(items).toMatchObject([
      {
        number: body['last'],
        giftId: gifts[1],
        from: 'Ana Listed',
        given: '$456.00',
        channel: 'print',
        voidedOn: null,
      },
      { number: body['first'], giftId: gifts[0], from: 'Ana Listed', given: '$123.00', delivery: 'print' },
    ]);
    await test.call('POST', `/receipts/${String(items[0]?.id)}/void`, { reason: 'Wrong person' });
    // What it says stays, whatever the gift becomes.
    expect((await listed(`${run}&state=void`)).items).toMatchObject([
      { number: body['last'], given: '$456.00', voidedOn: '2026-11-23', voidReason: 'Wrong person' },
    ]);
    expect((await listed(`${run}&state=valid`)).total).toBe(1);
    expect((await listed(`number=${String(body['first'])}`)).items.map((one) => one.number)).toEqual([body['first']]);
    expect((await test.call('GET', '/receipts?number=%25')).status).toBe(400);
    const first = await listed('limit=1');
    const all = [...first.items, ...(await listed(`limit=1000&cursor=${first.next}`)).items];
    expect(all.map((one) => one.number)).toEqual((await numbers()).reverse());
  });

  it('go nowhere once they are void: not by e-mail that waited, not in the print file', async () => {
    const release = holdMail();
    const busy = await issue([await addGift(test, await addPerson(test))]);
    const who = await addPerson(test);
    const byPost = await addPerson(test, { emails: [] });
    const issued = await issue([await addGift(test, who), await addGift(test, byPost)]);
    const { items } = await listed(`runId=${String(issued.body['runId'])}`);
    for (const one of items) await test.call('POST', `/receipts/${one.id}/void`, { reason: 'Too early' });
    release();
    await test.jobEnd(Number(busy.body['jobId']));
    await test.jobEnd(Number(issued.body['jobId']));
    const sent = await test.sql.rows<{ state: string; detail: string }>(
      'SELECT state, detail FROM delivery WHERE supporter_id = ?',
      [who],
    );
    expect(sent).toEqual([{ state: 'held', detail: 'the receipt was voided before it went' }]);
    expect((await test.call('GET', `/thanks/runs/${String(issued.body['runId'])}/print.pdf`)).status).toBe(404);
  });
});

describe('the receipt of a split gift', () => {
  const receiptOf = async (gift: number) => {
    const [row] = await test.sql.rows<{ content: string }>('SELECT content FROM receipt WHERE gift_id = ?', [gift]);
    return (JSON.parse(row?.content ?? '{}') as { receipt: { lines: [string, string][] } }).receipt.lines;
  };
  const parts = [
    { cents: 6_000, fundId: 1 },
    { cents: 3_000, fundId: 2 },
    { cents: 1_000, fundId: 1, campaignId: 1 },
  ];

  it('says how much went to which fund, parts to one fund together', async () => {
    const gift = await addGift(test, await addPerson(test), { cents: 10_000, parts });
    await issue([gift]);
    expect(await receiptOf(gift)).toEqual(
      expect.arrayContaining([
        ['Amount', '$100.00'],
        ['Funds', '$70.00 to General Operating'],
        ['', '$30.00 to Telescope Van'],
      ]),
    );
    expect((await receiptOf(gift)).map(([word]) => word)).not.toContain('Fund');
  });

  it('has room for as many funds as there are', async () => {
    const funds = await Promise.all(
      Array.from({ length: 30 }, async (_, at) =>
        Number(
          (await test.call('POST', '/gift-codes/funds', { name: `Fund ${at}`, code: `F${at}` }, { as: 'admin' })).body[
            'id'
          ],
        ),
      ),
    );
    const gift = await addGift(test, await addPerson(test), {
      ...{ cents: 30_000, parts: funds.map((fundId) => ({ cents: 1_000, fundId })) },
    });
    await issue([gift]);
    const lines = await receiptOf(gift);
    expect(lines).toContainEqual(['', '$70.00 to 7 other funds']);
    const drawn = await test.call('POST', '/thanks/proof', { letterId: 1, giftIds: [gift] });
    expect(pages(drawn.bytes)).toBe(2);
  });

  it('names the funds alone where it was given in kind', async () => {
    const details = { kind: 'in_kind', description: 'Two lamps', estimateBy: 'us' };
    const gift = await addGift(test, await addPerson(test), { cents: 10_000, parts, method: 'in_kind', details });
    await issue([gift]);
    const lines = await receiptOf(gift);
    expect(lines).toContainEqual(['Fund', 'General Operating + Telescope Van']);
    expect(JSON.stringify(lines)).not.toContain('$');
  });
});
