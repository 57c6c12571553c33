import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addGift, addPerson, FakeMailer, openTestApp, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { FundTable } from '../settings/index.ts';
import { SupporterTable } from '../supporters/index.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp({ mailer: new FakeMailer() });
});
afterAll(() => test.close());

interface Item {
  revision: number;
  by: string;
  kind: string;
  summary: string;
  lines: string[];
  undoable: boolean;
  undoneBy: number | null;
}
const history = async (id: number): Promise<Item[]> =>
  (await test.call('GET', `/supporters/${id}/history?limit=50`)).body['items'] as Item[];

describe('the history of a record', () => {
  it('tells of a gift, its thanks and its receipt, and what of it can still be undone', async () => {
    const id = await addPerson(test, { first: 'Ana', last: 'Cruz', emails: [{ address: 'ana@example.org' }] });
    const gift = await addGift(test, id, { cents: 2_500 });
    const issued = await test.call('POST', '/thanks/issue', { letterId: 1, giftIds: [gift] });
    await test.jobEnd(Number(issued.body['jobId']));
    const [thanks, recorded, added] = await history(id);
    expect(thanks).toMatchObject({ kind: 'issue', summary: 'Issued 1 receipt', undoable: false });
    expect(thanks?.lines).toEqual([
      'Receipt 2026-000001 added',
      `Gift G-${gift}: Acknowledged changed from nothing to Nov 23, 2026`,
      'E-mail “Thank you, Ana” added',
    ]);
    expect(recorded).toMatchObject({ kind: 'gift', summary: `Recorded $25.00 from S-${id}`, undoable: true });
    expect(added).toMatchObject({
      summary: 'Added Ana Cruz',
      lines: ['Record of Ana Cruz added', 'E-mail ana@example.org added'],
    });
  });

  it('shows an undo as what it is, and lets it be undone', async () => {
    const id = await addPerson(test, { first: 'Bo', last: 'Dunmore' });
    const { revision } = await test.services.changes.write(TESTER, { kind: 'edit', summary: 'Renamed' }, (tx) =>
      tx.update(SupporterTable, id, { first: 'Boris' }),
    );
    const undone = await test.services.changes.undo(TESTER, revision ?? 0);
    const [undo, rename] = await history(id);
    expect(undo).toMatchObject({
      kind: 'undo',
      summary: 'Undid: Renamed',
      lines: ['First name changed from Boris to Bo'],
      undoable: true,
    });
    expect(rename).toMatchObject({ undoneBy: undone.revision, undoable: false });
    await test.services.changes.undo(TESTER, undone.revision);
    const [again, , first] = await history(id);
    expect(again).toMatchObject({ summary: 'Did again: Renamed', lines: ['First name changed from Bo to Boris'] });
    expect(first).toMatchObject({ undoneBy: null, undoable: true });
    // What was done again is undone again, and all three know it.
    await test.services.changes.undo(TESTER, Number(again?.revision));
    const [, redone, unmade, renamed] = await history(id);
    expect([redone?.undoable, unmade?.undoneBy, renamed?.undoneBy]).toEqual([false, null, undone.revision]);
  });

  it('of an intake names the file, on each record that it touched', async () => {
    const id = await addPerson(test, { emails: [{ address: 'known.intake@example.org' }] });
    const file = 'First name,Last name,Email,Amount\n,,known.intake@example.org,12\nNew,One,new.intake@example.org,13';
    const { body } = await test.call('POST', '/intakes?name=winners.csv', undefined, { raw: Buffer.from(file) });
    const posted = await test.call('POST', `/intakes/${String(body['id'])}/post`, {});
    await test.jobEnd(Number(posted.body['jobId']));
    const [brought] = await history(id);
    expect(brought).toMatchObject({ kind: 'intake', summary: 'Brought in 2 rows of winners.csv' });
    expect(brought?.lines).toHaveLength(1);
  });

  it('keeps speaking of a fund by its name after it was renamed', async () => {
    const id = await addPerson(test);
    await addGift(test, id, { fundId: 2 });
    await test.services.changes.write(TESTER, { kind: 'edit', summary: 'Fund renamed' }, (tx) =>
      tx.update(FundTable, 2, { name: 'The Van' }),
    );
    expect((await history(id))[0]?.lines[0]).toContain('to The Van');
  });
});

describe('the list of changes', () => {
  it('comes newest first, in pages without gaps, all or one’s own', async () => {
    const pages: { items: Item[]; next: string | null }[] = [];
    let cursor = '';
    do {
      const { body } = await test.call('GET', `/changes?limit=4${cursor ? `&cursor=${cursor}` : ''}`);
      pages.push(body as unknown as { items: Item[]; next: string | null });
      cursor = String(body['next'] ?? '');
    } while (cursor !== '');
    const revisions = pages.flatMap((page) => page.items.map((item) => item.revision));
    expect(revisions).toEqual(revisions.toSorted((a, b) => b - a));
    expect(revisions.length).toBe(revisions[0]);
    expect((await test.call('GET', '/changes?mine=yes')).status).toBe(200);
  });

  it('lets gift entry undo its own changes only', async () => {
    const id = await addPerson(test);
    const made = await test.call(
      'POST',
      '/gifts',
      { supporterId: id, cents: 100, date: '2026-11-01', fundId: 1 },
      { as: 'officer' },
    );
    await test.sql
      .run('UPDATE change_set SET user_id = 77 WHERE revision = ?', [Number(made.body['revision'])])
      .catch(() => undefined);
    const refused = await test.call('POST', `/changes/${String(made.body['revision'])}/undo`, {}, { as: 'entry' });
    expect(refused.body['error']).toMatchObject({ code: 'not-allowed' });
    expect(
      (await test.call('POST', `/changes/${String(made.body['revision'])}/undo`, {}, { as: 'officer' })).status,
    ).toBe(200);
  });
});
