import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { draftOf } from '@tallystick/contract/supporters';
import { addPerson, openTestApp, recordOf, snapshot } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* An intake that is taken back after others went on with what it brought. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const FILE = [
  'First name,Last name,Email,Telephone,Amount,Date',
  'Ada,Brought,ada@example.org,775-555-0101,10,2026-11-02',
  'Ben,Brought,ben@example.org,775-555-0102,20,2026-11-02',
  'Cleo,Brought,cleo@example.org,775-555-0103,30,2026-11-02',
  'Here,Before,here@example.org,775-555-0104,40,2026-11-02',
].join('\n');
const undo = (revision: unknown, body: object = {}) => test.call('POST', `/changes/${String(revision)}/undo`, body);
const called = async (first: string): Promise<number> => {
  const [row] = await test.sql.rows<{ id: number }>(`SELECT id FROM supporter WHERE first = ? AND last = 'Brought'`, [
    first,
  ]);
  return row?.id ?? 0;
};
const given = async (id: number) => (await recordOf(test, id)).giving.lifetime;
const edit = async (id: number, over: object) => {
  const record = await recordOf(test, id);
  const draft = { version: record.version, draft: { ...draftOf(record), ...over } };
  expect((await test.call('PUT', `/supporters/${id}`, draft)).status).toBe(200);
};

describe('an intake, taken back later', () => {
  it('leaves what was changed since as it is, takes back all the rest, and says what stays and why', async () => {
    const before = await addPerson(test, { first: 'Here', last: 'Before', emails: [{ address: 'here@example.org' }] });
    const { body: intake } = await test.call('POST', '/intakes?name=gala.csv', undefined, { raw: Buffer.from(FILE) });
    const posting = await test.call('POST', `/intakes/${String(intake['id'])}/post`, {});
    expect(await test.jobEnd(Number(posting.body['jobId']))).toMatchObject({ state: 'done' });
    const { revision } = (await test.call('GET', `/intakes/${String(intake['id'])}`)).body;
    const [ada, ben, cleo] = [await called('Ada'), await called('Ben'), await called('Cleo')];
    // Somebody mends a name, another receipts a gift, and somebody adds to the record that was here before.
    await edit(ada, { nickname: 'Addie' });
    const [gift] = await test.sql.rows<{ id: number }>('SELECT id FROM gift WHERE supporter_id = ?', [ben]);
    expect((await test.call('POST', '/thanks/issue', { letterId: 1, giftIds: [gift?.id] })).status).toBe(200);
    await edit(before, { nickname: 'Still' });

    const whole = await undo(revision);
    expect([whole.status, (whole.body['error'] as { code: string }).code]).toEqual([409, 'undo-blocked']);
    const standing = await snapshot(test.sql);
    const partly = await undo(revision, { keepLater: true });
    expect(partly.status).toBe(200);
    expect(String(partly.body['left'])).toContain('Issued 1 receipt');

    // Who was new and was gone on with stays, with how to reach them; the gift goes unless it is receipted.
    expect(await recordOf(test, ada)).toMatchObject({ nickname: 'Addie', emails: [{ address: 'ada@example.org' }] });
    expect([await given(ada), await given(ben), await given(before)]).toEqual([0, 2_000, 0]);
    expect(await test.sql.rows('SELECT 1 FROM supporter WHERE id = ?', [cleo])).toEqual([]);
    expect(await recordOf(test, before)).toMatchObject({ nickname: 'Still', phones: [] });
    expect((await test.call('GET', `/intakes/${String(intake['id'])}`)).body).toMatchObject({ state: 'open' });
    // Brought in again, what stayed is known, and nobody is there twice.
    const { items } = (await test.call('GET', `/intakes/${String(intake['id'])}/rows?limit=10`)).body as {
      items: { verdict: string }[];
    };
    expect(items.map(({ verdict }) => verdict)).toEqual(['known', 'known', 'new', 'known']);
    // And that can be taken back too.
    expect((await undo(partly.body['revision'])).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(standing);
  });

  it('leaves all gifts of a batch that went to the bank, and whoever gave them', async () => {
    const { body: intake } = await test.call('POST', '/intakes?name=bank.csv', undefined, {
      raw: Buffer.from(
        'First name,Last name,Amount,Date,Tags\nEli,Banked,10,2026-11-02,banked\nFay,Banked,20,2026-11-02,banked\nGus,Banked,,,banked\n',
      ),
    });
    const posting = await test.call('POST', `/intakes/${String(intake['id'])}/post`, {});
    expect(await test.jobEnd(Number(posting.body['jobId']))).toMatchObject({ state: 'done' });
    const { revision } = (await test.call('GET', `/intakes/${String(intake['id'])}`)).body;
    const [batch] = await test.sql.rows<{ id: number; version: number }>(
      `SELECT b.id, b.version FROM batch b JOIN gift g ON g.batch_id = b.id JOIN supporter s ON s.id = g.supporter_id
       WHERE s.first = 'Eli' AND s.last = 'Banked'`,
    );
    const balanced = await test.call('POST', `/batches/${batch?.id ?? 0}/balance`, { version: batch?.version });
    expect(balanced.status).toBe(200);
    const made = { name: 'Monday', date: '2026-11-23', batchIds: [batch?.id] };
    expect((await test.call('POST', '/deposits', made)).status).toBe(200);
    const partly = await undo(revision, { keepLater: true });
    expect([partly.status, String(partly.body['left'])]).toEqual([200, expect.stringContaining('stay')]);
    const left = await test.sql.rows<{ first: string; cents: number | null }>(
      `SELECT s.first, SUM(g.cents) AS cents FROM supporter s LEFT JOIN gift g ON g.supporter_id = s.id
       WHERE s.last = 'Banked' GROUP BY s.id, s.first ORDER BY s.first`,
    );
    // Who gave nothing is gone; what is in the bank is whole.
    expect(left.map(({ first, cents }) => [first, Number(cents)])).toEqual([
      ['Eli', 1_000],
      ['Fay', 2_000],
    ]);
  });

  it('leaves an employer that was gone on with, and not those who were tied to it', async () => {
    const { body: intake } = await test.call('POST', '/intakes?name=firm.csv', undefined, {
      raw: Buffer.from('First name,Last name,Employer,Group\nHal,Tied,Lamp Works,Crew\nIna,Tied,Lamp Works,Crew\n'),
    });
    const posting = await test.call('POST', `/intakes/${String(intake['id'])}/post`, {});
    expect(await test.jobEnd(Number(posting.body['jobId']))).toMatchObject({ state: 'done' });
    const { revision } = (await test.call('GET', `/intakes/${String(intake['id'])}`)).body;
    const [firm] = await test.sql.rows<{ id: number }>(`SELECT id FROM supporter WHERE organization = 'Lamp Works'`);
    await edit(firm?.id ?? 0, { tags: ['Sponsor'] });
    expect((await undo(revision, { keepLater: true })).status).toBe(200);
    const left = `SELECT 1 FROM supporter WHERE last = 'Tied' OR organization = 'Lamp Works'`;
    expect(await test.sql.rows(left)).toHaveLength(1);
    expect(await recordOf(test, firm?.id ?? 0)).toMatchObject({
      organization: 'Lamp Works',
      tags: [{ name: 'Sponsor' }],
    });
    expect(await test.sql.rows(`SELECT 1 FROM people_group WHERE name = 'Crew'`)).toEqual([]);
  });

  it('goes back whole where nothing stands in the way, whatever was asked', async () => {
    const before = await snapshot(test.sql);
    const { body: intake } = await test.call('POST', '/intakes?name=fair.csv', undefined, {
      raw: Buffer.from('Name,Amount,Date\nDot Brought,10,2026-11-02\nKit and Lou Homely,20,2026-11-02\n'),
    });
    const posting = await test.call('POST', `/intakes/${String(intake['id'])}/post`, {});
    await test.jobEnd(Number(posting.body['jobId']));
    const { revision } = (await test.call('GET', `/intakes/${String(intake['id'])}`)).body;
    // People who are one home refer to each other. Out, in again, and out.
    const standing = await snapshot(test.sql);
    const out = (await undo(revision, { keepLater: true })).body;
    expect(out).toMatchObject({ left: [] });
    const back = await undo(out['revision']);
    expect([back.status, back.body['error']]).toEqual([200, undefined]);
    expect(await snapshot(test.sql)).toEqual(standing);
    expect((await undo(back.body['revision'], { keepLater: true })).body).toMatchObject({ left: [] });
    expect((await test.call('DELETE', `/intakes/${String(intake['id'])}`)).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('is refused where all of it was changed since', async () => {
    const id = await addPerson(test, { first: 'Solo', last: 'Edit' });
    const [made] = (await test.call('GET', '/changes?limit=1')).body['items'] as { revision: number }[];
    await edit(id, { nickname: 'So' });
    expect((await undo(made?.revision, { keepLater: true })).status).toBe(409);
  });
});
